//! A lit shape cut into its parts, none of them smaller than the mark.

use super::{Cutting, FormPart, Shape};
use crate::places::least_cells;
use std::collections::BTreeMap;

/// Shares of a shape that its light and its highlight have. Choices.
const LIGHT: f64 = 0.28;
const HIGHLIGHT: f64 = 0.03;
/// Share of a shape's depth in which a rim lies, and share of its darkest cells among which. Choices.
const EDGE: f32 = 0.16;
const DARKEST: f64 = 0.26;
/// Marks across a shape from which it has a rim and a highlight: in less the brush sets none. A choice.
const FINE: f64 = 7.0;

/// The part of every cell. Where `base` says which cells lie in shadow, those are the base.
pub(super) fn cut(shape: &Shape, light: &[f32], cutting: &Cutting, base: Option<&[bool]>) -> Vec<FormPart> {
    let mut sorted = light.to_vec();
    sorted.sort_by(f32::total_cmp);
    let at = |share: f64| sorted[((share * sorted.len() as f64) as usize).min(sorted.len() - 1)];
    let dark = cutting.dark.clamp(0.1, 0.7);
    let light_share = LIGHT.min(0.9 - dark);
    let (to_middle, to_light, to_highlight) = (at(dark), at(1.0 - light_share), at(1.0 - HIGHLIGHT));
    let across = (light.len() as f64).sqrt() / cutting.brush;
    let fine = cutting.edges && across >= FINE;
    let mut parts: Vec<FormPart> = light
        .iter()
        .enumerate()
        .map(|(n, l)| match base {
            Some(base) if base[n] => FormPart::Base,
            None if *l < to_middle => FormPart::Base,
            _ if fine && *l >= to_highlight => FormPart::Highlight,
            _ if *l >= to_light => FormPart::Light,
            _ => FormPart::Middle,
        })
        .collect();
    if fine {
        let depth = depth(shape);
        let deepest = depth.iter().copied().max().unwrap_or(1) as f32;
        let darkest = at(DARKEST);
        // As wide as a mark at least, or the brush cannot set it.
        let edge = (EDGE * deepest).max(cutting.brush as f32);
        for n in 0..parts.len() {
            if parts[n] == FormPart::Base && light[n] < darkest && (depth[n] as f32) < edge && edge < 0.5 * deepest {
                parts[n] = FormPart::Rim;
            }
        }
    }
    without_specks(shape, parts, least_cells(cutting.brush) as usize)
}

/// Cells between each and the edge of the shape.
fn depth(shape: &Shape) -> Vec<u32> {
    let mut depth = vec![u32::MAX; shape.at.len()];
    let mut front: Vec<usize> = (0..depth.len()).filter(|n| shape.beside(*n).count() < 4).collect();
    front.iter().for_each(|n| depth[*n] = 0);
    let mut d = 0;
    while !front.is_empty() {
        d += 1;
        let mut next = Vec::new();
        for n in front {
            for m in shape.beside(n).filter(|m| depth[*m] == u32::MAX).collect::<Vec<_>>() {
                if depth[m] == u32::MAX {
                    depth[m] = d;
                    next.push(m);
                }
            }
        }
        front = next;
    }
    depth
}

/// Rounds in which all specks are given away together, before the last ones go one by one.
const ROUNDS: usize = 6;

/// Stretches of a part of fewer cells than a mark go to what they border most, the smallest first.
fn without_specks(shape: &Shape, mut parts: Vec<FormPart>, least: usize) -> Vec<FormPart> {
    for round in 0.. {
        let mut specks: Vec<Vec<usize>> =
            stretches(shape, &parts).into_iter().filter(|s| s.len() < least && s.len() < parts.len()).collect();
        if specks.is_empty() {
            break;
        }
        specks.sort_by_key(Vec::len);
        // Two that touch may change places; one by one they end.
        specks.truncate(if round < ROUNDS { usize::MAX } else { 1 });
        for speck in &specks {
            let own = parts[speck[0]];
            let mut borders: BTreeMap<FormPart, usize> = BTreeMap::new();
            for n in speck {
                shape.beside(*n).map(|m| parts[m]).filter(|p| *p != own).for_each(|p| *borders.entry(p).or_default() += 1);
            }
            if let Some((into, _)) = borders.into_iter().max_by_key(|(_, n)| *n) {
                speck.iter().for_each(|n| parts[*n] = into);
            }
        }
    }
    parts
}

/// Connected stretches of one part each.
fn stretches(shape: &Shape, parts: &[FormPart]) -> Vec<Vec<usize>> {
    let mut seen = vec![false; parts.len()];
    let mut all = Vec::new();
    for start in 0..parts.len() {
        if std::mem::replace(&mut seen[start], true) {
            continue;
        }
        let (mut ahead, mut stretch) = (vec![start], Vec::new());
        while let Some(n) = ahead.pop() {
            stretch.push(n);
            for m in shape.beside(n) {
                if parts[m] == parts[start] && !seen[m] {
                    seen[m] = true;
                    ahead.push(m);
                }
            }
        }
        all.push(stretch);
    }
    all
}
