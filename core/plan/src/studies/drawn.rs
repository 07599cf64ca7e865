//! Colours for the shapes of a drawing by a scheme: its values held, shapes that mirror each other alike, the first hue ruling.

use super::chord::in_shares;
use crate::drawing::Shapes;
use lean_colour::real::toward_real;
use lean_colour::{HueAngle, Lab};
use lean_piece::{OtherLight, Piece, Scheme};

/// Strongest chroma, at the value where hues are strongest. A choice.
const STRONGEST: f64 = 58.0;
/// Chroma that shows a hue at every value.
const FAINT: f64 = 8.0;
/// Value at which hues are strongest, and how far from it they have faded.
const STRONG_AT: f64 = 5.4;
const FADES: f64 = 5.4;
/// Values that a drawing turned to pale on dark has, from what was lightest to what was darkest.
const PALE: (f64, f64) = (4.6, 9.0);
/// Value of the ground of pale on dark.
const NIGHT: f64 = 2.6;

/// Colours wanted in each shape under a scheme, in the order of `piece.zones`; `None` where the scheme does not say by itself.
pub(super) fn coloured(piece: &Piece, scheme: &Scheme) -> Option<Vec<Lab>> {
    let shapes = Shapes::of(piece)?;
    let mut all: Vec<Lab> = piece.zones.iter().map(|z| piece.wanted(z)).collect();
    let values: Vec<f64> = shapes.groups.iter().map(|g| all[g.members[0]].l).collect();
    let areas: Vec<f64> = shapes.groups.iter().map(|g| g.area).collect();
    let night = matches!(scheme, Scheme::Light { light: OtherLight::PaleOnDark });
    let hues: Vec<f64> = match scheme {
        Scheme::AsRead => return Some(all),
        Scheme::OneHue { hue } => vec![*hue; values.len()],
        Scheme::Slide { dark, light } => slid(&values, *dark, *light),
        // Cool lights in the night with a warm one among them.
        Scheme::Light { light: OtherLight::PaleOnDark } => shared(&shapes, &areas, &[(285.0, 0.66), (85.0, 0.34)]),
        other => {
            let (_, shares) = in_shares(other)?;
            shared(&shapes, &areas, &shares.iter().map(|h| (h.hue, h.share)).collect::<Vec<_>>())
        }
    };
    let (least, most) = values.iter().fold((f64::INFINITY, f64::NEG_INFINITY), |(l, m), v| (l.min(*v), m.max(*v)));
    for ((group, l), hue) in shapes.groups.iter().zip(&values).zip(hues) {
        let l = if night { pale(*l, least, most) } else { *l };
        let lab = toward_real(Lab::from_lch(l, chroma_at(l), hue));
        group.members.iter().filter(|i| !piece.zones[**i].open).for_each(|i| all[*i] = lab);
    }
    if let Some(i) = shapes.background {
        let ground = all[i];
        if night {
            all[i] = toward_real(Lab::from_lch(10.0 * NIGHT, 14.0, 280.0));
        } else if !piece.zones[i].open {
            all[i] = toward_real(Lab::from_lch(ground.l, 0.3 * chroma_at(ground.l), first_hue(scheme)));
        }
    }
    Some(all)
}

fn first_hue(scheme: &Scheme) -> f64 {
    match scheme {
        Scheme::OneHue { hue } => *hue,
        Scheme::Slide { dark, .. } => *dark,
        other => in_shares(other).and_then(|(_, hues)| hues.first().map(|h| h.hue)).unwrap_or_default(),
    }
}

fn chroma_at(l: f64) -> f64 {
    let value = l / 10.0;
    FAINT + (STRONGEST - FAINT) * (1.0 - ((value - STRONG_AT) / FADES).powi(2)).max(0.0)
}

/// A lightness turned about among those of the plan, so that what was darkest is palest.
fn pale(l: f64, least: f64, most: f64) -> f64 {
    let share = (most - l) / (most - least).max(1.0);
    10.0 * (PALE.0 + (PALE.1 - PALE.0) * share)
}

/// A hue for every group, so that each hue covers its share: groups from the largest down take the hue that lacks most of its share, and of two that
/// lack about as much the one that its neighbours have less of.
fn shared(shapes: &Shapes, areas: &[f64], hues: &[(f64, f64)]) -> Vec<f64> {
    let total: f64 = areas.iter().sum::<f64>().max(f64::MIN_POSITIVE);
    let asked: f64 = hues.iter().map(|h| h.1).sum::<f64>().max(f64::MIN_POSITIVE);
    let mut order: Vec<usize> = (0..areas.len()).collect();
    order.sort_by(|a, b| areas[*b].total_cmp(&areas[*a]).then(a.cmp(b)));
    let mut got = vec![0.0; hues.len()];
    let mut of: Vec<Option<usize>> = vec![None; areas.len()];
    for group in order {
        let beside = |h: usize| {
            let row = &shapes.borders[group];
            let length: f64 = row.iter().sum::<f64>().max(1.0);
            row.iter().zip(&of).filter(|(_, o)| **o == Some(h)).map(|(b, _)| b).sum::<f64>() / length
        };
        let lacks = |h: usize| hues[h].1 / asked - got[h] / total - 0.15 * beside(h);
        let best = (0..hues.len()).max_by(|a, b| lacks(*a).total_cmp(&lacks(*b)).then(b.cmp(a))).unwrap_or(0);
        got[best] += areas[group];
        of[group] = Some(best);
    }
    of.into_iter().map(|h| hues[h.unwrap_or(0)].0).collect()
}

/// Hues that slide from the darkest group to the lightest.
fn slid(values: &[f64], dark: f64, light: f64) -> Vec<f64> {
    let (least, most) = values.iter().fold((f64::INFINITY, f64::NEG_INFINITY), |(l, m), v| (l.min(*v), m.max(*v)));
    let by = (light - dark + 180.0).rem_euclid(360.0) - 180.0;
    values.iter().map(|v| HueAngle(dark).turned(HueAngle(by * (v - least) / (most - least).max(1.0))).0).collect()
}
