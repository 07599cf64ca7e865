//! What a search has made prepared, remembered for the next one.

pub(crate) mod field;

use crate::judge::Judge;
use crate::question::no_answer::NoAnswer;
use crate::question::{Ask, Need, limits, white_of};
use crate::table::{Served, Table};
use lean_media::{Medium, Pigment};
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
}

impl Key {
    /// The key of what is asked. Locks, exclusions, sizes and demands on whole sets are no part of it.
    pub fn of(ask: &Ask) -> Result<Self, NoAnswer> {
        let white = white_of(ask.pigments, ask.medium).cloned();
        let (mixed, laid) = if ask.medium.is_wet_opaque() { (white, None) } else { (None, white) };
        let pigments: Vec<Pigment> = ask.pigments.iter().filter(|p| !p.white).cloned().chain(laid).collect();
        let limits = limits(&ask.choice.demands, |id| pigments.iter().position(|p| p.id == *id && !p.white))?;
        Ok(Self { pigments, white: mixed, medium: ask.medium, needs: ask.needs.to_vec(), limits, grain: ask.choice.grain })
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
}

impl Prepared {
    /// Everything but the table.
    pub fn without_table(key: Key) -> Self {
        let techniques = key.needs.iter().map(|n| key.technique(n, key.limits)).collect();
        Self { key, techniques, table: OnceLock::new(), judge: Judge::default() }
    }

    /// Least costs.
    ///
    /// # Panics
    /// When they were not evaluated yet.
    pub fn table(&self) -> &Table {
        self.table.get().unwrap_or_else(|| unreachable!("the table is evaluated before it is asked for"))
    }

    /// The pieces to serve with their techniques.
    pub fn served(&self) -> Vec<Served<'_>> {
        let pieces = self.key.needs.iter().zip(&self.techniques);
        pieces.map(|(n, c)| Served { technique: c.as_ref(), targets: n.targets.clone(), cost: n.cost, weight: n.weight }).collect()
    }

    /// The first piece's technique without limits on mixes: what a pigment is does not hang on them. `None` when there are none anyway.
    pub fn without_limits(&self) -> Option<Box<dyn Technique + Send>> {
        (self.key.limits != Limits::default()).then(|| self.key.technique(&self.key.needs[0], Limits::default()))
    }
}

/// Tables of the last few questions.
#[derive(Default)]
pub struct Tables(Mutex<Vec<Arc<Prepared>>>);

/// How many tables are remembered, and how many bytes they may take together.
const REMEMBERED: usize = 4;
const MOST_BYTES: usize = 160 << 20;

impl Tables {
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
