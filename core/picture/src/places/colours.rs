//! The colours of a picture, found over the whole of it and nested: one colour more parts one of them and leaves the others.
//!
//! A colour counts for less than its area, so that a rare one is not averaged away. An accent keeps its colour until the large shapes are down
//! to few. A colour that lies in two masses, one before the other, is two. Colours are joined bottom up by what joining adds to the sum of
//! squares (Ward 1963), more where they lie one before the other.

use super::accents;
use super::cells::{EvenColour, apart2};
use super::depth::Depth;
use super::parting::{self, Spread};
use super::patches::Patches;
use super::runs::Run;
use super::shade::{RARE, Shade};
use super::shapes::{Shape, Shapes};
use std::collections::BTreeMap;

/// Most colours told apart; every zone holds one or more of them.
pub(crate) const SHADES: usize = 32;
/// Width of the boxes of like looks that are counted together.
const BOX: f32 = 3.0;
/// Least distance of an accent from all round it, in look units.
const ACCENT: f32 = 17.0;
/// Most share of the picture that is an accent.
const SMALL: f32 = 0.02;
/// What an accent weighs at least, in shares raised to [`RARE`]. A choice.
const ACCENT_WEIGHT: f32 = 0.05;
/// Rounds in which shades are moved to what is nearest them.
const ROUNDS: usize = 6;

/// The shades of a picture and the order in which they join.
#[derive(Clone, Debug, Default)]
pub(super) struct Colours {
    /// All shades.
    pub shades: Vec<Shade>,
    /// `(kept, gone)` shades, first joined first: the last `n - 1` joins undone leave `n` colours.
    pub joins: Vec<(usize, usize)>,
    /// How far apart what each join joins is, in look units.
    apart: Vec<f32>,
}

/// Units of an even colour below which two colours are not told apart unasked. A choice: film grain makes no colours.
const APART: f32 = 1.6;

#[derive(Clone, Copy)]
struct Heap {
    weight: f32,
    look: EvenColour,
    /// What it loses at once when it joins another: the run that is then painted flat.
    lost: f32,
    /// Where it lies.
    spread: Spread,
    /// Number of colours that are no accents down to which it joins no other; 0 when it is no accent itself.
    until: usize,
}

impl Heap {
    fn new(look: EvenColour, weight: f32) -> Self {
        Self { weight, look, lost: 0.0, spread: Default::default(), until: 0 }
    }
}

fn cost(a: &Heap, b: &Heap) -> f32 {
    a.weight * b.weight / (a.weight + b.weight) * apart2(a.look, b.look) + a.lost + b.lost
}

fn joined(a: &Heap, b: &Heap) -> Heap {
    let weight = a.weight + b.weight;
    let look = std::array::from_fn(|c| a.look[c] + (b.look[c] - a.look[c]) * b.weight / weight);
    Heap { spread: std::array::from_fn(|m| a.spread[m] + b.spread[m]), ..Heap::new(look, weight) }
}

/// Joins the cheapest pair until `left` heaps are left; `(kept, gone, how far apart)` in order. Ties go to the lower numbers. `dearer` is what
/// a join costs more for where the two lie.
fn agglomerate(heaps: &mut [Heap], left: usize, dearer: impl Fn(&Spread, &Spread) -> f32) -> Vec<(usize, usize, f32)> {
    let n = heaps.len();
    let mut alive = vec![true; n];
    // An accent that has to stay is out of reach for all others until its turn.
    let out = |heaps: &[Heap], i: usize, plain: usize| plain > heaps[i].until && heaps[i].until > 0;
    let price = |heaps: &[Heap], i: usize, j: usize| cost(&heaps[i], &heaps[j]) * dearer(&heaps[i].spread, &heaps[j].spread);
    let nearest = |heaps: &[Heap], alive: &[bool], i: usize, plain: usize| {
        (0..n)
            .filter(|j| *j != i && alive[*j] && !out(heaps, *j, plain))
            .map(|j| (price(heaps, i, j), j))
            .min_by(|a, b| a.0.total_cmp(&b.0).then(a.1.cmp(&b.1)))
    };
    let mut plain = heaps.iter().filter(|h| h.until == 0).count();
    let mut near: Vec<Option<(f32, usize)>> = (0..n).map(|i| nearest(heaps, &alive, i, plain)).collect();
    let mut order = Vec::new();
    for _ in left..n {
        let Some((i, (_, j))) = (0..n)
            .filter(|i| alive[*i] && !out(heaps, *i, plain))
            .filter_map(|i| near[i].map(|p| (i, p)))
            .min_by(|a, b| a.1.0.total_cmp(&b.1.0).then(a.0.cmp(&b.0)))
        else {
            break;
        };
        let (kept, gone) = (i.min(j), i.max(j));
        order.push((kept, gone, apart2(heaps[kept].look, heaps[gone].look).sqrt() + (heaps[kept].lost + heaps[gone].lost).sqrt()));
        let accents = [kept, gone].into_iter().filter(|k| heaps[*k].until > 0).count();
        heaps[kept] = joined(&heaps[kept], &heaps[gone]);
        alive[gone] = false;
        // A colour and the accent that joins it are a plain colour from then on.
        let before = plain;
        plain = if accents == 0 {
            plain - 1
        } else if accents == 2 {
            plain + 1
        } else {
            plain
        };
        let freed = (0..n).any(|k| alive[k] && out(heaps, k, before) != out(heaps, k, plain));
        for k in (0..n).filter(|k| alive[*k]) {
            let touched = freed || k == kept || near[k].is_none_or(|(_, m)| m == kept || m == gone);
            if touched {
                near[k] = nearest(heaps, &alive, k, plain);
            } else {
                let c = price(heaps, k, kept);
                if near[k].is_none_or(|(best, _)| c < best) {
                    near[k] = Some((c, kept));
                }
            }
        }
    }
    order
}

/// A picture taken apart, in which colours are found.
pub(super) struct Source<'a> {
    /// Patches of the picture.
    pub patches: &'a Patches,
    /// Smooth runs.
    pub runs: &'a [Run],
    /// Masses.
    pub depth: &'a Depth,
    /// Shapes of about a middle brush.
    pub shapes: &'a Shapes,
    /// Shapes at the brush of accents.
    pub fine: &'a Shapes,
    /// Cells of the picture.
    pub picture: f32,
    /// By how much smaller contrasts count, as in [`Cells`](super::cells::Cells).
    pub scale: f32,
}

/// Finds the colours of a picture.
pub(super) fn find(source: &Source) -> Colours {
    let (picture, scale, runs, shapes) = (source.picture, source.scale, source.runs, source.shapes);
    let mut weighed = weighed(shapes, picture, scale, false);
    if weighed.is_empty() && runs.is_empty() {
        // Nothing but grain, or a strip narrower than a mark: what there is makes the colours.
        weighed = self::weighed(shapes, picture, scale, true);
    }
    let mut shades: Vec<Shade> = runs
        .iter()
        .enumerate()
        .map(|(i, r)| Shade { look: r.mean, run: Some(i), weight: (r.cells as f32 / picture).powf(RARE), within: None })
        .collect();
    let mut heaps = weighed.clone();
    let n = heaps.len();
    let order = agglomerate(&mut heaps, SHADES.saturating_sub(shades.len()).max(1), |_, _| 1.0);
    let mut gone = vec![false; n];
    order.iter().for_each(|(_, g, _)| gone[*g] = true);
    let mut found: Vec<Heap> = heaps.into_iter().zip(gone).filter(|(_, g)| !g).map(|(h, _)| h).collect();
    settle(&weighed, &mut found);
    shades.extend(found.into_iter().map(|h| Shade { look: h.look, run: None, weight: h.weight, within: None }));
    let in_mass = source.depth.in_shapes(source.patches, shapes);
    let (mut shades, mut spreads) = parting::parted(shades, shapes, &in_mass, source.depth, scale);
    let until = stay(&mut shades, &mut spreads, source);
    let (joins, apart) = in_order(&shades, &spreads, &until, source).into_iter().map(|(kept, gone, apart)| ((kept, gone), apart)).unzip();
    Colours { shades, joins, apart }
}

/// The joins of shades, first joined first.
fn in_order(shades: &[Shade], spreads: &[Spread], until: &[usize], source: &Source) -> Vec<(usize, usize, f32)> {
    let mut tops: Vec<Heap> = shades
        .iter()
        .zip(spreads)
        .zip(until)
        .map(|((s, spread), until)| Heap {
            lost: s.run.map_or(0.0, |r| s.weight * source.runs[r].spread),
            spread: *spread,
            until: *until,
            ..Heap::new(s.look, s.weight)
        })
        .collect();
    agglomerate(&mut tops, 1, |a, b| parting::dearer(a, b, source.depth))
}

/// Number of large colours that accents are compared with.
const LARGE: usize = 8;
/// Most accents that have a colour of their own.
const STAYING: usize = 4;
/// Down to how many other colours the first accent stays, and by how much sooner each weaker one goes. Choices.
const FIRST: usize = 6;
const EACH: usize = 5;
/// A colour that covers more of the picture than this is no accent's own.
const COMMON: f32 = 0.01;
/// Distance up to which an accent has the colour of a shade, in look units.
const SAME: f32 = 4.0;

/// Gives accents shades of their own where there is none yet. For every shade: down to how many other colours it stays, 0 for no accent. The
/// first accent stays to the last large colours, each weaker one goes sooner.
fn stay(shades: &mut Vec<Shade>, spreads: &mut Vec<Spread>, source: &Source) -> Vec<usize> {
    let (picture, scale) = (source.picture, source.scale);
    let mut until = vec![0; shades.len()];
    let joins: Vec<(usize, usize)> = in_order(shades, spreads, &until, source).into_iter().map(|j| (j.0, j.1)).collect();
    let large = large_colours(shades, spreads, &joins, source.fine, picture);
    let mut staying = 0;
    for accent in accents::find(source.fine, &large, picture, scale) {
        let off = |s: &Shade| apart2(s.look, accent.look);
        let nearest = (0..shades.len()).min_by(|a, b| off(&shades[*a]).total_cmp(&off(&shades[*b])));
        let own = match nearest.filter(|n| off(&shades[*n]).sqrt() <= SAME * scale.max(0.7)) {
            Some(n) if spreads[n].iter().sum::<f32>() > COMMON * picture || shades[n].run.is_some() => continue,
            Some(n) => n,
            None => {
                shades.push(Shade { look: accent.look, run: None, weight: (accent.cells / picture).powf(RARE), within: None });
                spreads.push(Spread::default());
                until.push(0);
                shades.len() - 1
            }
        };
        if until[own] == 0 {
            until[own] = if accent.loud { 1 } else { FIRST + EACH * staying };
            staying += 1;
        }
        if staying == STAYING {
            break;
        }
    }
    until
}

/// The colour each shape has in a plan of few large colours, of those alone that cover much.
fn large_colours(shades: &[Shade], spreads: &[Spread], joins: &[(usize, usize)], shapes: &Shapes, picture: f32) -> Vec<EvenColour> {
    let cut = cut(shades.len(), joins, LARGE);
    let covers_much = |n: &usize| spreads[*n].iter().sum::<f32>() > COMMON * picture || shades[*n].run.is_some();
    let common: Vec<usize> = (0..shades.len()).filter(covers_much).collect();
    let mut means: BTreeMap<usize, (f32, EvenColour)> = BTreeMap::new();
    for n in &common {
        let (weight, look) = means.entry(cut[*n]).or_default();
        *weight += shades[*n].weight;
        (0..3).for_each(|c| look[c] += (shades[*n].look[c] - look[c]) * shades[*n].weight / *weight);
    }
    let miss = |look: EvenColour, n: usize| apart2(look, shades[n].look);
    let nearest = |look: EvenColour| common.iter().min_by(|a, b| miss(look, **a).total_cmp(&miss(look, **b)));
    shapes.all.iter().map(|s| nearest(s.look).and_then(|n| means.get(&cut[*n])).map_or(s.look, |m| m.1)).collect()
}

/// Boxes of like looks with what they weigh: of shapes that have room for a mark, or of `all`.
fn weighed(shapes: &Shapes, picture: f32, scale: f32, all: bool) -> Vec<Heap> {
    let mut boxes: BTreeMap<[i32; 3], (f32, [f32; 3], f32)> = BTreeMap::new();
    for (i, s) in shapes.all.iter().enumerate().filter(|(_, s)| s.cells > 0.0 && s.run.is_none()) {
        if !all && is_rim(shapes, i, s) {
            continue;
        }
        let accent = accent(shapes, i, s, picture, scale);
        let entry = boxes.entry(s.look.map(|v| (v / (BOX * scale)).round() as i32)).or_default();
        entry.0 += s.cells;
        (0..3).for_each(|c| entry.1[c] += s.cells * s.look[c]);
        entry.2 = entry.2.max(accent);
    }
    boxes
        .into_values()
        // What is smaller in all than one mark has no colour of its own.
        .filter(|(n, _, accent)| all || *accent > 0.0 || *n >= shapes.least)
        .map(|(n, sum, accent)| {
            let weight = (n / picture).powf(RARE).max(accent);
            Heap::new(sum.map(|v| v / n), weight)
        })
        .collect()
}

/// Share of the brush that a shape must be wide on the whole for its colour to count: less is the soft rim of an edge.
const RIM: f32 = 0.22;

fn is_rim(shapes: &Shapes, i: usize, s: &Shape) -> bool {
    let border: u32 = shapes.next_to[i].iter().map(|n| n.1).sum();
    border > 0 && 2.0 * s.cells / (border as f32) < (RIM * shapes.least.sqrt()).max(shapes.blur)
}

/// What a shape weighs as an accent; 0 when it is none.
fn accent(shapes: &Shapes, i: usize, s: &Shape, picture: f32, scale: f32) -> f32 {
    if s.cells > SMALL * picture || s.cells < shapes.least {
        return 0.0;
    }
    // What a quarter of its border is closer to: a soft rim is no reason to be overlooked.
    let mut round: Vec<(f32, u32)> =
        shapes.next_to[i].iter().map(|(n, border)| (apart2(s.look, shapes.all[*n as usize].look).sqrt(), *border)).collect();
    round.sort_by(|a, b| a.0.total_cmp(&b.0));
    let quarter = round.iter().map(|r| r.1).sum::<u32>() / 4;
    let mut passed = 0;
    let stands_off = round.iter().find(|(_, border)| {
        passed += border;
        passed > quarter
    });
    match stands_off {
        Some((d, _)) if *d > ACCENT * scale => ACCENT_WEIGHT * (d / (30.0 * scale)).min(1.5),
        _ => 0.0,
    }
}

/// Moves shades to the weighted mean of what is nearest them (Lloyd 1982).
fn settle(boxes: &[Heap], shades: &mut [Heap]) {
    for _ in 0..ROUNDS {
        let mut sums = vec![(0.0f32, [0.0f32; 3]); shades.len()];
        for b in boxes {
            let near = (0..shades.len()).min_by(|p, q| apart2(b.look, shades[*p].look).total_cmp(&apart2(b.look, shades[*q].look)));
            if let Some(s) = near {
                sums[s].0 += b.weight;
                (0..3).for_each(|c| sums[s].1[c] += b.weight * b.look[c]);
            }
        }
        for (s, (weight, sum)) in shades.iter_mut().zip(sums).filter(|(_, s)| s.0 > 0.0) {
            *s = Heap::new(sum.map(|v| v / weight), weight);
        }
    }
}

impl Colours {
    /// At most `count` colours, as many as are told apart.
    pub(super) fn distinct(&self, count: usize) -> usize {
        let joins_for = |n: usize| self.joins.len().checked_sub(n - 1);
        (2..=count.max(1)).rev().find(|n| joins_for(*n).is_some_and(|k| self.apart[k] >= APART)).unwrap_or(1)
    }

    /// Which of `count` colours each shade belongs to: the number of the lowest shade in it.
    pub(super) fn cut(&self, count: usize) -> Vec<usize> {
        cut(self.shades.len(), &self.joins, count)
    }
}

fn cut(shades: usize, joins: &[(usize, usize)], count: usize) -> Vec<usize> {
    let mut into: Vec<usize> = (0..shades).collect();
    let kept = joins.len().saturating_sub(count.max(1) - 1);
    joins[..kept].iter().for_each(|(kept, gone)| into[*gone] = *kept);
    (0..into.len())
        .map(|mut i| {
            while into[i] != i {
                i = into[i];
            }
            i
        })
        .collect()
}
