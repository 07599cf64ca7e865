//! Recipes chosen together so that warm zones stay warmer than their neighbours.

use lean_colour::Lab;
use lean_colour::temperature::SAME;
use lean_piece::{Piece, Study, ZoneId};
use lean_recipes::cost::Ranking;
use lean_recipes::{Cost, Mix};
use lean_search::Recipes;
use rayon::prelude::*;

/// How many recipes are weighed for each zone.
const LOOKED_AT: usize = 4000;
/// Charge for each pair of neighbours whose order is lost. More than any hue is worth.
const LOST: f64 = 60.0;
/// Charge for a value that leaves what it must hold. More than any order: value first, temperature second.
const LET_GO: f64 = 400.0;

/// Charge for each unit of chroma above what a zone may have: more than the same miss in hue.
const TOO_LOUD: f64 = 3.0;

/// A pair of neighbouring zones (positions in `piece.zones`) of which the first is planned warmer.
pub type WarmerThan = (usize, usize);

/// Neighbours whose planned temperatures differ enough to be told apart.
pub fn ordered_pairs(piece: &Piece) -> Vec<WarmerThan> {
    let borders = piece.geometry().borders.clone();
    let at = |id: u16| piece.zones.iter().position(|z| z.id.0 == id);
    borders
        .into_iter()
        .filter_map(|(a, b, _)| {
            let (i, j) = (at(a)?, at(b)?);
            let t = piece.zones[i].target.temperature().warmer_than(piece.zones[j].target.temperature());
            (t.abs() >= SAME).then_some(if t > 0.0 { (i, j) } else { (j, i) })
        })
        .collect()
}

/// Whether the order holds for a pair, given the colours of all zones.
pub fn holds(colours: &[Lab], (warm, cool): WarmerThan) -> bool {
    colours[warm].temperature().0 > colours[cool].temperature().0
}

/// Neighbours whose planned order a study does not keep: the first should be warmer than the second. Every one of them, in every study.
pub fn lost(piece: &Piece, study: &Study) -> Vec<(ZoneId, ZoneId)> {
    if study.mixes.len() != piece.zones.len() {
        return Vec::new();
    }
    let mixed: Vec<Lab> = study.mixes.iter().map(|m| m.mix.lab).collect();
    let zone = |at: usize| piece.zones[at].id;
    ordered_pairs(piece).into_iter().filter(|p| !holds(&mixed, *p)).map(|(w, c)| (zone(w), zone(c))).collect()
}

/// What holds recipes back in a study: pairs whose order must stay, and the most chroma each zone may have.
pub struct Held<'a> {
    /// Neighbours whose order must stay.
    pub pairs: &'a [WarmerThan],
    /// One for each wanted colour.
    pub ceilings: &'a [f64],
}

/// The cheapest recipe for each wanted colour, then changed zone by zone, and where that is not enough two neighbours at once, while that
/// mends more lost order than it costs.
pub fn choose_together(recipes: &Recipes, wanted: &[Lab], cost: Cost, held: &Held) -> Vec<Mix> {
    let pairs = held.pairs;
    // Of thousands of recipes the slip of a hand is not asked: what it is of those that are chosen is told with them.
    let cost = Cost { ranking: Ranking { slip: 0.0, ..cost.ranking }, ..cost };
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
            let off = (lab.value().0 - wanted.value().0).abs();
            let loud = (lab.chroma() - most).max(0.0);
            own + TOO_LOUD * loud + if cost.hold.is_some_and(|h| off > h) { LET_GO } else { 0.0 }
        };
        Self {
            charges: ranked.iter().zip(wanted.iter().zip(held.ceilings)).map(|(r, at)| r.iter().map(|x| charge(x, at)).collect()).collect(),
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
