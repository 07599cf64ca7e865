//! What each candidate would add to a set that is already chosen.

use crate::prepared::{Key, Prepared};
use crate::progress::Unwatched;
use crate::question::no_answer::NoAnswer;
use crate::question::{Ask, check};
use rayon::prelude::*;

/// What one more pigment does.
#[derive(Clone, Debug, PartialEq)]
pub struct Next {
    /// By how much the cost falls, ≥ 0.
    pub gain: f64,
    /// Targets of the first piece whose best recipe it would be in, by place.
    pub serves: Vec<usize>,
}

/// Judges, in double precision, the first `taken` pigments of `ask` with each of the others that is not white; in their order.
///
/// # Errors
/// See [`NoAnswer`]: nothing to match, a pigment twice, a mother colour that is not there.
pub fn next(ask: &Ask, taken: usize) -> Result<Vec<Next>, NoAnswer> {
    check(ask)?;
    let prepared = Prepared::without_table(Key::of(ask)?);
    let served = prepared.served();
    let whites: Vec<u16> = (0..prepared.key.pigments.len()).filter(|i| prepared.key.pigments[*i].white).map(|i| i as u16).collect();
    let candidates: Vec<u16> = (taken..prepared.key.pigments.len()).map(|i| i as u16).filter(|i| !whites.contains(i)).collect();
    let with = |more: Option<u16>| -> Vec<u16> { (0..taken as u16).chain(more).chain(whites.iter().copied()).collect() };
    let sets: Vec<Vec<u16>> = candidates.iter().map(|c| with(Some(*c))).collect();
    prepared.judge.prepare(&served, &sets, &Unwatched)?;
    let before = prepared.judge.judge(&served, &with(None)).cost;
    let first = served[0].targets.len();
    let all = candidates.par_iter().zip(&sets).map(|(c, set)| {
        let id = &prepared.key.pigments[usize::from(*c)].id;
        let mixes = prepared.judge.mixes(&served, set);
        let holds = |t: &usize| mixes[*t].as_ref().is_some_and(|m| m.parts.iter().any(|p| p.pigment == *id));
        let gain = before - prepared.judge.judge(&served, set).cost;
        Next { gain: if gain.is_finite() { gain.max(0.0) } else { 0.0 }, serves: (0..first).filter(holds).collect() }
    });
    Ok(all.collect())
}
