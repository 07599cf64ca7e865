//! Recipes chosen together so that warm zones stay warmer than their neighbours.

use lean_colour::Lab;
use lean_colour::temperature::SAME;
use lean_piece::{Piece, Study, ZoneId};
use lean_recipes::{Cost, Mix};
use lean_search::Recipes;
use rayon::prelude::*;

/// How many recipes are weighed for each zone. Their slips of the hand are asked, so that no more are looked at than can matter.
const LOOKED_AT: usize = 60;
/// The most a zone may lose to the order of warm and cool, in units of cost: a difference of three. A study is what it is called first.
const MOST_LOST: f64 = 3.0;
/// Charge for each pair of neighbours whose order is lost: more than any zone may lose to it.
const LOST: f64 = 60.0;
/// Charge for a value that leaves what it must hold. More than any order: value first, temperature second.
const LET_GO: f64 = 400.0;

/// Charge for each unit of chroma above what a zone may have: more than the same miss in hue.
const TOO_LOUD: f64 = 3.0;

/// A pair of neighbouring zones (positions in `piece.zones`) of which the first is planned warmer.
pub(crate) type WarmerThan = (usize, usize);

/// Neighbours whose planned temperatures differ enough to be told apart.
pub fn ordered_pairs(piece: &Piece) -> Vec<WarmerThan> {
    pairs_of(piece, &piece.zones.iter().map(|z| z.target).collect::<Vec<_>>())
}

/// Neighbours whose colours, in the order of `piece.zones`, differ enough in temperature to be told apart.
pub fn pairs_of(piece: &Piece, colours: &[Lab]) -> Vec<WarmerThan> {
    let borders = piece.geometry().borders.clone();
    let at = |id: u16| piece.zones.iter().position(|z| z.id.0 == id);
    borders
        .into_iter()
        .filter_map(|(a, b, _)| {
            let (i, j) = (at(a)?, at(b)?);
            let t = colours[i].temperature().warmer_than(colours[j].temperature());
            (t.abs() >= SAME).then_some(if t > 0.0 { (i, j) } else { (j, i) })
        })
        .collect()
}

/// Whether the order holds for a pair, given the colours of all zones.
pub fn holds(colours: &[Lab], (warm, cool): WarmerThan) -> bool {
    colours[warm].temperature().0 > colours[cool].temperature().0
}

/// Neighbours of which a study wanted the first warmer than the second, and does not have it so. Every one of them.
pub fn lost(piece: &Piece, study: &Study) -> Vec<(ZoneId, ZoneId)> {
    if study.mixes.len() != piece.zones.len() {
        return Vec::new();
    }
    let mixed: Vec<Lab> = study.mixes.iter().map(|m| m.mix.lab).collect();
    let wanted: Vec<Lab> = study.mixes.iter().map(|m| m.wanted).collect();
    let zone = |at: usize| piece.zones[at].id;
    pairs_of(piece, &wanted).into_iter().filter(|p| !holds(&mixed, *p)).map(|(w, c)| (zone(w), zone(c))).collect()
}

/// What holds recipes back in a study: pairs whose order must stay, and the most chroma each zone may have.
pub struct Held<'a> {
    /// Neighbours whose order must stay.
    pub pairs: &'a [WarmerThan],
    /// One for each wanted colour.
    pub ceilings: &'a [f64],
}

/// The cheapest recipe for each wanted colour, then changed zone by zone, and where that is not enough two neighbours at once, while that
/// mends lost order; no zone gives up more for it than [`MOST_LOST`].
pub(crate) fn choose_together(recipes: &Recipes, wanted: &[Lab], cost: Cost, held: &Held) -> Vec<Mix> {
    let pairs = held.pairs;
    let cost = recipes.fitted(cost);
    let ranked: Vec<Vec<Ranked>> = wanted.par_iter().map(|w| recipes.nearest(*w, cost, LOOKED_AT)).collect();
    if ranked.iter().any(Vec::is_empty) {
        return Vec::new();
    }
    let choosing = Choosing::of(&ranked, wanted, cost, held);
    let mut picked = vec![0usize; wanted.len()];
    const ROUNDS: usize = 12;
    for _ in 0..ROUNDS {
        // Every zone has its turn before it is asked whether any changed.
        let changed = (0..wanted.len()).filter(|zone| choosing.better_one(*zone, &mut picked)).count();
        if changed == 0 && !pairs.iter().any(|pair| choosing.lost(*pair, &picked) && choosing.better_two(*pair, &mut picked)) {
            break;
        }
    }
    ranked.iter().zip(picked).map(|(r, i)| recipes.recipe(r[i].1)).collect()
}

/// A recipe by its cost, its number and its colour.
type Ranked = (f64, usize, Lab);

/// What is known of every recipe of every zone: its own charge, and its temperature.
struct Choosing<'a> {
    charges: Vec<Vec<f64>>,
    temperatures: Vec<Vec<f64>>,
    pairs: &'a [WarmerThan],
}

/// How many recipes of each of two neighbours are weighed against each other.
const WEIGHED_TOGETHER: usize = 400;

impl<'a> Choosing<'a> {
    fn of(ranked: &[Vec<Ranked>], wanted: &[Lab], cost: Cost, held: &Held<'a>) -> Self {
        let charge = |(own, _, lab): &Ranked, (wanted, most): (&Lab, &f64)| {
            let off = (lab.value().0 - cost.toward(*wanted).0.value().0).abs();
            let loud = (lab.chroma() - most).max(0.0);
            own + TOO_LOUD * loud + if cost.hold.is_some_and(|h| off > h) { LET_GO } else { 0.0 }
        };
        // What would cost a zone more than it may lose is no choice.
        let bounded = |charges: Vec<f64>| {
            let least = charges.iter().copied().fold(f64::INFINITY, f64::min);
            charges.into_iter().map(|c| if c > least + MOST_LOST { f64::INFINITY } else { c }).collect::<Vec<f64>>()
        };
        let charges = |(r, at): (&Vec<Ranked>, (&Lab, &f64))| bounded(r.iter().map(|x| charge(x, at)).collect());
        Self {
            charges: ranked.iter().zip(wanted.iter().zip(held.ceilings)).map(charges).collect(),
            temperatures: ranked.iter().map(|r| r.iter().map(|(_, _, lab)| lab.temperature().0).collect()).collect(),
            pairs: held.pairs,
        }
    }

    fn lost(&self, (warm, cool): WarmerThan, picked: &[usize]) -> bool {
        self.temperatures[warm][picked[warm]] <= self.temperatures[cool][picked[cool]]
    }

    /// Charge of what hangs on some zones, for the recipes picked.
    fn judged(&self, zones: &[usize], picked: &[usize]) -> f64 {
        let own: f64 = zones.iter().map(|z| self.charges[*z][picked[*z]]).sum();
        let touched = |p: &&WarmerThan| zones.contains(&p.0) || zones.contains(&p.1);
        own + LOST * self.pairs.iter().filter(touched).filter(|p| self.lost(**p, picked)).count() as f64
    }

    /// Takes a better recipe for one zone, if there is one.
    fn better_one(&self, zone: usize, picked: &mut [usize]) -> bool {
        let before = picked[zone];
        let (mut best, mut least) = (before, self.judged(&[zone], picked));
        for choice in 0..self.charges[zone].len() {
            picked[zone] = choice;
            let judged = self.judged(&[zone], picked);
            if judged < least {
                (best, least) = (choice, judged);
            }
        }
        picked[zone] = best;
        best != before
    }

    /// Takes better recipes for two neighbours at once, if there are any.
    fn better_two(&self, (a, b): WarmerThan, picked: &mut [usize]) -> bool {
        let before = (picked[a], picked[b]);
        let (mut best, mut least) = (before, self.judged(&[a, b], picked));
        for i in 0..self.charges[a].len().min(WEIGHED_TOGETHER) {
            for j in 0..self.charges[b].len().min(WEIGHED_TOGETHER) {
                // Order can save no more than what is lost now.
                if self.charges[a][i] + self.charges[b][j] >= least {
                    continue;
                }
                (picked[a], picked[b]) = (i, j);
                let judged = self.judged(&[a, b], picked);
                if judged < least {
                    (best, least) = ((i, j), judged);
                }
            }
        }
        (picked[a], picked[b]) = best;
        best != before
    }
}
