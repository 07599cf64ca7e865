//! The least cost of every one, two and three pigments for every target.

use super::cost::{Cost, Target};
use super::kernel::{self, CostF, Wanted};
use super::patterns;
use crate::progress::{Cancelled, Progress};
use lean_media::Pigment;
use lean_media::lanes::{Colours, LANES, Lane, Spectrum, colours_of_all};
use rayon::prelude::*;
use std::sync::atomic::{AtomicUsize, Ordering};

/// Most targets the search takes.
pub const MOST_TARGETS: usize = 32;

/// Weighted least costs, nested: a triple's is never above that of its pairs, singles and bare white.
///
/// Independent of set size, locks and exclusions, so that one table serves them all.
pub struct Table {
    /// Number of pigments, white not counted.
    pub pigments: usize,
    /// Targets padded to a whole number of lanes with zero weight.
    pub width: usize,
    /// Cost of white alone per target; very high without white.
    pub bare: Vec<f32>,
    /// `pairs[(i·n + j)·width ..]`; `i == j` is the single pigment.
    pub pairs: Vec<f32>,
    /// `triples[((i·n + j)·n + k)·width ..]`, in every order of the three.
    pub triples: Vec<f32>,
}

/// Rows are padded to a multiple of this many targets: nine zones take twelve.
pub const PADDED: usize = 4;

/// A cost no recipe reaches. Finite, so that sums stay ordered.
const NEVER: f32 = 1e6;

struct Work<'a> {
    spectra: Vec<Spectrum>,
    white: Option<Spectrum>,
    wanted: Vec<Wanted>,
    weights: Vec<f32>,
    cost: CostF,
    width: usize,
    lanes: [Vec<[Lane; 4]>; 4],
    progress: &'a dyn Progress,
}

/// A table whose triples are still missing: enough for sets of one and two.
pub struct Begun<'a> {
    /// Singles and pairs.
    pub table: Table,
    work: Work<'a>,
}

impl Begun<'_> {
    /// Evaluates the recipes of three.
    ///
    /// # Errors
    /// [`Cancelled`] when the watcher asks for it; answers within a few milliseconds.
    pub fn completed(mut self) -> Result<Table, Cancelled> {
        self.table.fill_triples(&self.work)?;
        Ok(self.table)
    }
}

impl Table {
    /// Evaluates every recipe of up to three of `pigments` with `white` for every target.
    ///
    /// # Errors
    /// [`Cancelled`] when the watcher asks for it; answers within a few milliseconds.
    ///
    /// # Panics
    /// When there are more than [`MOST_TARGETS`] targets.
    pub fn of(
        pigments: &[&Pigment],
        white: Option<&Pigment>,
        targets: &[Target],
        cost: Cost,
        progress: &dyn Progress,
    ) -> Result<Self, Cancelled> {
        Self::begin(pigments, white, targets, cost, progress).completed()
    }

    /// Evaluates the recipes of one and two, a thirtieth of the work.
    ///
    /// # Panics
    /// When there are more than [`MOST_TARGETS`] targets.
    pub fn begin<'a>(
        pigments: &[&Pigment],
        white: Option<&Pigment>,
        targets: &[Target],
        cost: Cost,
        progress: &'a dyn Progress,
    ) -> Begun<'a> {
        assert!(targets.len() <= MOST_TARGETS, "at most {MOST_TARGETS} targets");
        let work = Work::of(pigments, white, targets, cost, progress);
        let (n, m) = (pigments.len(), work.width);
        let bare = work.run::<0>([], &vec![NEVER; m]);
        let singles: Vec<Vec<f32>> = (0..n).map(|i| work.run::<1>([i], &bare)).collect();
        let mut table = Self { pigments: n, width: m, bare, pairs: vec![0.0; n * n * m], triples: Vec::new() };
        let pairs: Vec<(usize, usize)> = (0..n).flat_map(|i| (i..n).map(move |j| (i, j))).collect();
        let done: Vec<Vec<f32>> = pairs
            .par_iter()
            .map(|(i, j)| if i == j { singles[*i].clone() } else { work.run::<2>([*i, *j], &least(&singles[*i], &singles[*j])) })
            .collect();
        for ((i, j), row) in pairs.iter().zip(done) {
            table.pair_mut(*i, *j).copy_from_slice(&row);
            table.pair_mut(*j, *i).copy_from_slice(&row);
        }
        Begun { table, work }
    }

    fn fill_triples(&mut self, work: &Work) -> Result<(), Cancelled> {
        let n = self.pigments;
        let heads: Vec<(usize, usize)> = (0..n).flat_map(|i| (i + 1..n).map(move |j| (i, j))).collect();
        let total = heads.len().max(1);
        let finished = AtomicUsize::new(0);
        let rows: Vec<Option<Vec<f32>>> = heads
            .par_iter()
            .map(|(i, j)| {
                if work.progress.is_cancelled() {
                    return None;
                }
                let mut rows = Vec::with_capacity((n - j - 1) * self.width);
                for k in j + 1..n {
                    let start = least(&least(self.pair(*i, *j), self.pair(*i, k)), self.pair(*j, k));
                    rows.extend(work.run::<3>([*i, *j, k], &start));
                }
                let share = (finished.fetch_add(1, Ordering::Relaxed) + 1) as f64 / total as f64;
                work.progress.report(share);
                Some(rows)
            })
            .collect();
        self.triples = vec![0.0; n * n * n * self.width];
        for ((i, j), rows) in heads.into_iter().zip(rows) {
            let rows = rows.ok_or(Cancelled)?;
            for (k, row) in (j + 1..n).zip(rows.chunks_exact(self.width)) {
                for [a, b, c] in [[i, j, k], [i, k, j], [j, i, k], [j, k, i], [k, i, j], [k, j, i]] {
                    let at = ((a * n + b) * n + c) * self.width;
                    self.triples[at..at + self.width].copy_from_slice(row);
                }
            }
        }
        Ok(())
    }

    fn pair_mut(&mut self, i: usize, j: usize) -> &mut [f32] {
        let at = (i * self.pigments + j) * self.width;
        &mut self.pairs[at..at + self.width]
    }

    /// Least costs with pigments `i` and `j` (one pigment when they are equal).
    pub fn pair(&self, i: usize, j: usize) -> &[f32] {
        let at = (i * self.pigments + j) * self.width;
        &self.pairs[at..at + self.width]
    }

    /// Least costs with three different pigments.
    pub fn triple(&self, i: usize, j: usize, k: usize) -> &[f32] {
        let at = ((i * self.pigments + j) * self.pigments + k) * self.width;
        &self.triples[at..at + self.width]
    }
}

fn least(a: &[f32], b: &[f32]) -> Vec<f32> {
    a.iter().zip(b).map(|(x, y)| x.min(*y)).collect()
}

impl<'a> Work<'a> {
    fn of(pigments: &[&Pigment], white: Option<&Pigment>, targets: &[Target], cost: Cost, progress: &'a dyn Progress) -> Self {
        let total: f64 = targets.iter().map(|t| t.weight).sum();
        let width = targets.len().next_multiple_of(PADDED).max(LANES);
        let mut weights: Vec<f32> = targets.iter().map(|t| (t.weight / total) as f32).collect();
        weights.resize(width, 0.0);
        Self {
            spectra: pigments.iter().map(|p| Spectrum::of(p)).collect(),
            white: white.map(Spectrum::of),
            wanted: targets.iter().map(|t| Wanted::of(t.lab)).collect(),
            weights,
            cost: CostF::of(cost),
            width,
            lanes: std::array::from_fn(|n| lanes(n, white.is_some())),
            progress,
        }
    }

    /// Weighted least cost per target over the recipes with exactly these pigments, started from `start` (already weighted).
    fn run<const P: usize>(&self, of: [usize; P], start: &[f32]) -> Vec<f32> {
        let lanes = &self.lanes[P];
        // Places without a pigment hold any other with no parts of it.
        let Some(any) = self.white.as_ref().or(of.first().map(|i| &self.spectra[*i])) else { return start.to_vec() };
        let at = |n: usize| of.get(n).map_or(any, |i| &self.spectra[*i]);
        let mut mixed = [NOTHING; MOST_BATCHES];
        colours_of_all([at(0), at(1), at(2), self.white.as_ref().unwrap_or(any)], lanes, &mut mixed);
        let mut best: Vec<f32> = start.iter().zip(&self.weights).map(|(c, w)| if *w > 0.0 { c / w } else { 0.0 }).collect();
        self.lower(&mut best, &mixed[..lanes.len()]);
        best.iter().zip(&self.weights).map(|(c, w)| c * w).collect()
    }

    fn lower(&self, best: &mut [f32], mixed: &[Colours]) {
        #[cfg(target_arch = "x86_64")]
        if is_x86_feature_detected!("avx2") && is_x86_feature_detected!("fma") {
            // SAFETY: the two features were just found on this processor.
            return unsafe { self.lower_wide(best, mixed) };
        }
        self.lower_plain(best, mixed);
    }

    #[cfg(target_arch = "x86_64")]
    #[target_feature(enable = "avx2,fma")]
    fn lower_wide(&self, best: &mut [f32], mixed: &[Colours]) {
        self.lower_plain(best, mixed);
    }

    #[inline(always)]
    fn lower_plain(&self, best: &mut [f32], mixed: &[Colours]) {
        for colours in mixed {
            for (cost, wanted) in best.iter_mut().zip(&self.wanted) {
                kernel::lower(cost, colours, wanted, self.cost);
            }
        }
    }
}

/// Batches of eight that the 121 part patterns of three pigments fill.
const MOST_BATCHES: usize = 16;
const NOTHING: Colours = Colours { l: [0.0; LANES], a: [0.0; LANES], b: [0.0; LANES], v: [0.0; LANES] };

/// Part patterns of `pigments` pigments eight to a lane; the last lane is filled up with its own first pattern.
fn lanes(pigments: usize, white: bool) -> Vec<[Lane; 4]> {
    let list: Vec<_> = patterns::of(pigments).iter().filter(|p| white || p[3] == 0).collect();
    list.chunks(LANES).map(|c| std::array::from_fn(|p| std::array::from_fn(|lane| f32::from(c.get(lane).unwrap_or(&c[0])[p])))).collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::lean::exact::Recipes;
    use crate::progress::Unwatched;
    use lean_colour::Lab;
    use lean_media::library;

    #[test]
    fn every_entry_is_the_least_over_its_recipes() {
        let pigments: Vec<&Pigment> = library::modelled().iter().filter(|p| !p.white).step_by(9).collect();
        let white = library::find("PW6");
        let targets: Vec<Target> = (0..5)
            .map(|i| Target {
                lab: Lab::from_lch(20.0 + 15.0 * f64::from(i), 10.0 * f64::from(i), 77.0 * f64::from(i)),
                weight: 1.0 + f64::from(i),
            })
            .collect();
        for cost in [Cost::default(), Cost { hold: Some(0.25), ..Cost::default() }] {
            let table = Table::of(&pigments, white, &targets, cost, &Unwatched).unwrap();
            for (i, j, k) in [(0, 1, 2), (1, 3, 5), (2, 4, 6)] {
                let recipes = Recipes::of(&[pigments[i], pigments[j], pigments[k]], white);
                for (t, target) in targets.iter().enumerate() {
                    let want = recipes.best(target.lab, cost).unwrap().0 * target.weight / 15.0;
                    assert!((f64::from(table.triple(k, i, j)[t]) - want).abs() < 2e-3, "{} {want}", table.triple(k, i, j)[t]);
                }
            }
        }
    }
}
