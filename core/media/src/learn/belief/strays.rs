//! Readings that nothing else explains: smeared, of another pigment, on another ground.

use super::slopes::{apart, colour_errors, doubt_of, rows, shifted, slopes};
use super::{Belief, FARTHEST, OF_ONE, Observation};
use crate::learn::{Evidence, Judged};
use lean_colour::Lab;
use lean_linear::Matrix;

/// A reading is unexplained from this many times its expected spread, and this far in CIELAB units. Choices.
const STRAY: (f64, f64) = (4.0, 3.5);
/// One in this many of very many readings is taken out before the rest is learned anew. Of few it is one by one, as a wrong reading makes others look
/// strange. A choice.
const AT_ONCE: usize = 40;
/// What is taken out together with the strangest is at least this share as strange. A choice.
const NEARLY: f64 = 0.5;

/// A reading the belief cannot explain.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Stray {
    /// Which, by its position.
    pub nth: usize,
    /// How far it lies from what all others expect of it, in CIELAB units.
    pub off: f64,
    /// How far that was expected to be uncertain.
    pub expected: f64,
}

impl Stray {
    /// How many times farther off than expected.
    fn times(&self) -> f64 {
        self.off / self.expected
    }

    fn unexplained(&self) -> bool {
        self.times() > STRAY.0 && self.off > STRAY.1
    }
}

/// Learns from all readings but those nothing else explains. At most a third is left out: where more disagrees, nobody can tell which is right.
pub(super) fn left_out(models: &Belief, seen: &[Observation]) -> (Belief, Vec<Stray>) {
    let mut kept: Vec<usize> = (0..seen.len()).collect();
    let mut strays: Vec<Stray> = Vec::new();
    let mut belief = models.fitted(seen, &kept);
    loop {
        let most = (seen.len() / 3 + 1 - strays.len()).min(kept.len() - 1).min((kept.len() / AT_ONCE).max(1));
        let strangest = strangest(&belief, seen, &kept, most);
        if strangest.is_empty() {
            break;
        }
        kept.retain(|n| strangest.iter().all(|s| s.nth != *n));
        strays.extend(strangest);
        belief = belief.fitted(seen, &kept);
    }
    if taken_back(&belief, seen, &mut kept, &mut strays) {
        belief = belief.fitted(seen, &kept);
    }
    strays.sort_by_key(|s| s.nth);
    (belief, strays)
}

/// The readings that lie farthest from what all others expect of them, if any are unexplained: the strangest, and what is nearly as strange.
fn strangest(belief: &Belief, seen: &[Observation], kept: &[usize], most: usize) -> Vec<Stray> {
    let mut found: Vec<Stray> = kept.iter().filter_map(|nth| judged(belief, &seen[*nth], *nth)).filter(Stray::unexplained).collect();
    found.sort_by(|a, b| b.times().total_cmp(&a.times()));
    let least = found.first().map_or(0.0, |s| NEARLY * s.times());
    found.into_iter().take(most).take_while(|s| s.times() >= least).collect()
}

/// Keeps again what the rest explains now that other strays are gone; true if there was any.
fn taken_back(belief: &Belief, seen: &[Observation], kept: &mut Vec<usize>, strays: &mut Vec<Stray>) -> bool {
    let explained = |s: &Stray| predicted(belief, &seen[s.nth], s.nth).is_some_and(|again| !again.unexplained());
    let back: Vec<usize> = strays.iter().filter(|s| explained(s)).map(|s| s.nth).collect();
    strays.retain(|s| !back.contains(&s.nth));
    kept.extend(&back);
    kept.sort_unstable();
    !back.is_empty()
}

/// How far a reading that was left out lies from what is believed.
fn predicted(belief: &Belief, o: &Observation, nth: usize) -> Option<Stray> {
    let expected = slopes(&belief.now, &o.laid, o.reading.state)?;
    let spread = doubt_of(&belief.spread_of(&expected.touched), &expected);
    Some(Stray { nth, off: apart(read(o), expected.seen.xyz().lab()), expected: uncertain(spread, o) })
}

/// How far a reading that was learned from lies from what the others expect of it: to first order, what it taught is taken out again.
fn judged(belief: &Belief, o: &Observation, nth: usize) -> Option<Stray> {
    let (rows, misses) = rows(&belief.now, o)?;
    let spread = belief.spread_of(&rows.touched);
    let by = spread.times(&rows.by.transposed());
    let left = Matrix::identity(rows.by.rows()) - &rows.by.times(&by);
    let solved = left.cholesky()?;
    let without = spread + &by.times(&solved.solve(&by.transposed()));
    let back = without.times_column(&rows.by.transposed().times_column(&misses));
    let mut now = belief.now.clone();
    let mut at = belief.at.clone();
    rows.touched.iter().zip(&back).for_each(|(i, x)| at[*i] = (at[*i] - x).clamp(-FARTHEST, FARTHEST));
    for p in rows.touched.iter().step_by(OF_ONE).map(|i| i / OF_ONE) {
        now[p] = shifted(&belief.models[p], &at[p * OF_ONE..(p + 1) * OF_ONE]);
    }
    let expected = slopes(&now, &o.laid, o.reading.state)?;
    let off = apart(read(o), expected.seen.xyz().lab());
    Some(Stray { nth, off, expected: uncertain(doubt_of(&without, &expected), o) })
}

fn read(o: &Observation) -> Lab {
    match o.reading.of {
        Evidence::Spectral(r) => r.xyz().lab(),
        Evidence::ColourOnly(lab) | Evidence::Judged(Judged { lab, .. }) => lab,
    }
}

/// Doubt of what is believed and of the reading itself, in CIELAB units.
fn uncertain(doubt: f64, o: &Observation) -> f64 {
    doubt.hypot(colour_errors(&o.reading).iter().map(|e| e * e).sum::<f64>().sqrt())
}
