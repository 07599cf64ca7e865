//! What a search has made prepared, remembered for the next one.

pub(crate) mod field;

use crate::judge::Judge;
use crate::progress::Progress;
use crate::question::no_answer::NoAnswer;
use crate::question::{Ask, Need, limits, white_of};
use crate::table::{Served, Table};
use lean_colour::Value;
use lean_media::{Medium, Pigment};
use lean_recipes::cost::{Cost, Within};
use lean_recipes::technique::Technique;
use lean_recipes::{Grain, Limits, technique};
use std::sync::{Arc, Mutex, OnceLock};

/// Everything a table hangs on.
#[derive(Clone, PartialEq)]
pub struct Key {
    /// Pigments by number. A white is among them where it is laid as a stick of its own.
    pub pigments: Vec<Pigment>,
    /// White that is free in wet mixes.
    white: Option<Pigment>,
    medium: Medium,
    /// The pieces to serve.
    pub needs: Vec<Need>,
    limits: Limits,
    grain: Grain,
    /// Blacks are asked for by nobody: they do not say how dark the Box goes.
    no_black: bool,
}

impl Key {
    /// The key of what is asked. Locks, exclusions, sizes and demands on whole sets are no part of it.
    pub fn of(ask: &Ask) -> Result<Self, NoAnswer> {
        let white = white_of(ask.pigments, ask.medium).cloned();
        let (mixed, laid) = if ask.medium.is_wet_opaque() { (white, None) } else { (None, white) };
        let pigments: Vec<Pigment> = ask.pigments.iter().filter(|p| !p.white).cloned().chain(laid).collect();
        let limits = limits(&ask.choice.demands, |id| pigments.iter().position(|p| p.id == *id && !p.white))?;
        let no_black = ask.choice.demands.no_black && ask.needs.iter().any(|n| n.cost.within.is_some());
        Ok(Self { pigments, white: mixed, medium: ask.medium, needs: ask.needs.to_vec(), limits, grain: ask.choice.grain, no_black })
    }

    /// Whether the recipes of another question are the same.
    fn lists_the_same(&self, other: &Self) -> bool {
        let recipes = |k: &Self| (k.medium, k.limits, k.grain);
        let ground = |k: &Self| k.needs[0].ground.clone();
        recipes(self) == recipes(other) && self.pigments == other.pigments && self.white == other.white && ground(self) == ground(other)
    }

    fn technique(&self, need: &Need, limits: Limits) -> Box<dyn Technique + Send> {
        let pigments: Vec<&Pigment> = self.pigments.iter().collect();
        technique(self.medium, &need.ground, &pigments, self.white.as_ref(), limits, self.grain)
    }
}

/// Techniques, table and judge of one question.
pub struct Prepared {
    /// What it was made for.
    pub key: Key,
    /// The technique of each piece.
    pub techniques: Vec<Box<dyn Technique + Send>>,
    /// Least costs, once evaluated.
    pub table: OnceLock<Table>,
    /// What was judged in double precision so far.
    pub judge: Judge,
    /// The values each piece can have of the whole Box, once asked.
    within: OnceLock<Vec<Within>>,
}

impl Prepared {
    /// Everything but the table.
    pub(crate) fn without_table(key: Key) -> Self {
        let techniques = key.needs.iter().map(|n| key.technique(n, key.limits)).collect();
        Self { key, techniques, table: OnceLock::new(), judge: Judge::default(), within: OnceLock::new() }
    }

    /// Least costs.
    ///
    /// # Panics
    /// When they were not evaluated yet.
    pub fn table(&self) -> &Table {
        self.table.get().unwrap_or_else(|| unreachable!("the table is evaluated before it is asked for"))
    }

    /// The pieces to serve with their techniques. Where values are compared after they were fitted, what can be had is what the Box can give.
    pub fn served(&self) -> Vec<Served<'_>> {
        let cost = |nth: usize, of: Cost| Cost { within: of.within.map(|_| self.within()[nth]), ..of };
        let pieces = self.key.needs.iter().zip(&self.techniques).enumerate();
        pieces
            .map(|(nth, (n, c))| Served { technique: c.as_ref(), targets: n.targets.clone(), cost: cost(nth, n.cost), weight: n.weight })
            .collect()
    }

    fn within(&self) -> &[Within] {
        self.within.get_or_init(|| self.techniques.iter().map(|t| reach(t.as_ref(), &self.searched())).collect())
    }

    /// Numbers of the pigments that say how far the Box goes.
    fn searched(&self) -> Vec<usize> {
        let counts = |p: &Pigment| !(self.key.no_black && p.is_black());
        self.key.pigments.iter().enumerate().filter(|(_, p)| counts(p)).map(|(i, _)| i).collect()
    }

    /// The first piece's technique without limits on mixes: what a pigment is does not hang on them. `None` when there are none anyway.
    pub(crate) fn without_limits(&self) -> Option<Box<dyn Technique + Send>> {
        (self.key.limits != Limits::default()).then(|| self.key.technique(&self.key.needs[0], Limits::default()))
    }
}

/// How many of the darkest pigments of a Box are tried over each other: no recipe holds more.
const DARKS: usize = 3;

/// The values that recipes of some pigments give: of each alone, of the darkest together, and of what is free.
fn reach(technique: &dyn Technique, of: &[usize]) -> Within {
    let values = |group: &[usize]| technique.exact(group).into_iter().map(|c| c.value()).collect::<Vec<Value>>();
    let mut each: Vec<(f64, usize, Vec<Value>)> = of
        .iter()
        .map(|i| (values(&[*i]), *i))
        .map(|(own, i)| (own.iter().fold(f64::INFINITY, |least, v| least.min(v.0)), i, own))
        .collect();
    each.sort_by(|a, b| a.0.total_cmp(&b.0).then(a.1.cmp(&b.1)));
    let mut darks: Vec<usize> = each.iter().take(DARKS).map(|e| e.1).collect();
    darks.sort_unstable();
    let pairs = darks.iter().flat_map(|i| darks.iter().filter(move |j| i < j).map(move |j| vec![*i, *j]));
    let together = pairs.chain((darks.len() == DARKS).then(|| darks.clone())).flat_map(|group| values(&group));
    Within::of(each.iter().flat_map(|e| e.2.iter().copied()).chain(together).chain(values(&[])))
}

/// Tables of the last few questions.
#[derive(Default)]
pub struct Tables(Mutex<Vec<Arc<Prepared>>>);

/// How many tables are remembered, and how many bytes they may take together.
const REMEMBERED: usize = 14;
const MOST_BYTES: usize = 160 << 20;

impl Tables {
    /// Evaluates several questions at once, those that are not remembered: each about one piece, all by the same recipes of the same pigments. What it
    /// finds is remembered, so that each of them is then answered at once. Questions that do not fit together are left to be evaluated alone.
    ///
    /// # Errors
    /// See [`NoAnswer`]; cancelled.
    pub fn prepare(&self, asks: &[Ask], progress: &dyn Progress) -> Result<(), NoAnswer> {
        let mut new: Vec<Prepared> = Vec::new();
        for ask in asks {
            super::question::check(ask)?;
            let key = Key::of(ask)?;
            let known = self.find(&key).is_some_and(|p| p.table.get().is_some()) || new.iter().any(|p| p.key == key);
            let fits = key.needs.len() == 1 && new.first().is_none_or(|first| first.key.lists_the_same(&key));
            if !known && fits && new.len() < REMEMBERED {
                new.push(Prepared::without_table(key));
            }
        }
        if new.len() < 2 {
            return Ok(());
        }
        let served: Vec<Served> = new.iter().flat_map(Prepared::served).collect();
        let tables = Table::together(new[0].techniques[0].as_ref(), &served, progress)?;
        drop(served);
        for (prepared, table) in new.into_iter().zip(tables) {
            prepared.table.get_or_init(|| table);
            self.keep(Arc::new(prepared));
        }
        Ok(())
    }

    /// What was made prepared for the same question.
    pub fn find(&self, key: &Key) -> Option<Arc<Prepared>> {
        let mut all = self.0.lock().unwrap_or_else(|p| p.into_inner());
        let at = all.iter().position(|r| r.key == *key)?;
        let hit = all.remove(at);
        all.push(hit.clone());
        Some(hit)
    }

    /// Remembers what was made prepared; the longest unused are let go.
    pub fn keep(&self, prepared: Arc<Prepared>) {
        let mut all = self.0.lock().unwrap_or_else(|p| p.into_inner());
        all.push(prepared);
        let bytes = |all: &[Arc<Prepared>]| all.iter().map(|r| r.table.get().map_or(0, Table::bytes)).sum::<usize>();
        while all.len() > REMEMBERED || (all.len() > 1 && bytes(&all) > MOST_BYTES) {
            all.remove(0);
        }
    }
}
