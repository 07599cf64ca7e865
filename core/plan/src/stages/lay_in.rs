//! The value lay-in, a plan of its own: which pigment of the set, how much in each zone, and what of it will show.

use super::laid::{Far, Surface};
use crate::mark::{Mark, ZoneMark};
use crate::mixes::{ZoneMix, mixes_of};
use lean_colour::{Lab, Steps};
use lean_media::PigmentId;
use lean_piece::easel::{LayIn, Level};
use lean_piece::paint_box::PaintBox;
use lean_piece::{Piece, ZoneId};
use lean_recipes::cost::STEP;
use rayon::prelude::*;
use serde::Serialize;

/// A lay-in with what it does.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct LayInOffer {
    /// The lay-in.
    pub lay_in: LayIn,
    /// Every zone when only it lies there.
    pub zones: Vec<ZoneMark>,
    /// By how much the whole miss rises, in steps of value or as much; below 0 where it helps.
    pub raises: f64,
    /// What of it will show in the end, in a sentence.
    pub shows: String,
}

/// Steps of value apart that light and dark of a lay-in must be to be a plan. A choice.
const TELLS: f64 = 1.2;
/// Least share of the picture that a lay-in covers, that its two deeper levels cover, and that each of at least three levels (bare ground is one)
/// has: less is no plan of values. Choices.
const COVERS: f64 = 0.45;
const DEEPER: f64 = 0.12;
const EACH: f64 = 0.06;
/// Most offers.
const OFFERS: usize = 4;

/// Every pigment of the set that can carry a lay-in, each with the levels that least raise the whole miss, best first. Levels follow the plan: a darker zone
/// never gets less than a lighter one. All ways to part the zones into four levels are tried.
pub fn offers(piece: &Piece, paint_box: &PaintBox) -> Vec<LayInOffer> {
    let mixes = mixes_of(piece, Some(paint_box));
    let mut offers: Vec<LayInOffer> = piece.chosen.pigments.par_iter().filter_map(|p| offer(piece, paint_box, &mixes, p)).collect();
    offers.sort_by(|a, b| shouts(a).cmp(&shouts(b)).then(a.raises.total_cmp(&b.raises)));
    offers.truncate(OFFERS);
    offers
}

/// Chroma from which a lay-in shouts: it is offered after every quieter one, however little of it shows in the end. A choice.
const SHOUTS: f64 = 40.0;

fn shouts(offer: &LayInOffer) -> bool {
    offer.zones.iter().any(|z| z.mark.lab.chroma() >= SHOUTS)
}

/// Whether levels on these shares of the picture, bare first, are a plan of its values.
fn tells(shares: &[f64; 4]) -> bool {
    shares[1..].iter().sum::<f64>() >= COVERS && shares[2] + shares[3] >= DEEPER && shares.iter().filter(|s| **s >= EACH).count() >= 3
}

fn offer(piece: &Piece, paint_box: &PaintBox, mixes: &[ZoneMix], id: &PigmentId) -> Option<LayInOffer> {
    let surface = Surface::of(piece, paint_box).laid_in_with(paint_box.find(id)?);
    let toned = piece.easel.tone.is_some();
    // Zones from light to dark.
    let mut zones: Vec<&lean_piece::Zone> = piece.zones.iter().collect();
    zones.sort_by(|a, b| piece.wanted(b).value().0.total_cmp(&piece.wanted(a).value().0));
    let cost = piece.cost();
    let miss_of = |z: &lean_piece::Zone, level: u8| -> Option<f64> {
        let mix = mixes.iter().find(|m| m.zone == z.id)?;
        let layers = if mix.mix.is_bare_ground() { 0 } else { mix.mix.layers.len().max(1) };
        let lab = surface.colour(Some(mix), Far { toned, level, layers, glazed: false })?;
        Some(cost.of(lab, piece.wanted(z)))
    };
    let weight = |z: &lean_piece::Zone| z.reading.area.sqrt() * z.importance.factor();
    // What a level adds to the miss of each zone; none where the ground does not take it.
    let added: Vec<[Option<f64>; 4]> = zones
        .iter()
        .map(|z| {
            let bare = miss_of(z, 0);
            std::array::from_fn(|level| Some(weight(z) * (miss_of(z, level as u8)? - bare?)))
        })
        .collect();
    let n = zones.len();
    let total: f64 = zones.iter().map(|z| weight(z)).sum();
    // sums[level][i]: what it adds when the first i zones of the order have that level.
    let sums: Vec<Vec<f64>> = (0..4)
        .map(|level| {
            let mut sum = vec![0.0];
            for a in &added {
                sum.push(sum[sum.len() - 1] + a[level].unwrap_or(f64::INFINITY));
            }
            sum
        })
        .collect();
    let mut areas = vec![0.0];
    zones.iter().for_each(|z| areas.push(areas[areas.len() - 1] + z.reading.area));
    let area = |from: usize, to: usize| (areas[to] - areas[from]) / areas[n].max(1e-9);
    let between = |level: usize, from: usize, to: usize| if to > from { sums[level][to] - sums[level][from] } else { 0.0 };
    let mut best: Option<(f64, [usize; 3])> = None;
    for a in 0..=n {
        for b in a..=n {
            for c in b..=n {
                let adds = between(0, 0, a) + between(1, a, b) + between(2, b, c) + between(3, c, n);
                let told = tells(&[area(0, a), area(a, b), area(b, c), area(c, n)]);
                if told && adds.is_finite() && best.is_none_or(|x| adds < x.0) {
                    best = Some((adds, [a, b, c]));
                }
            }
        }
    }
    let (adds, [a, b, c]) = best?;
    let level = |i: usize| u8::from(i >= a) + u8::from(i >= b) + u8::from(i >= c);
    let levels = zones.iter().enumerate().filter(|(i, _)| level(*i) > 0).map(|(i, z)| Level { zone: z.id, level: level(i) }).collect();
    let look = |i: usize| surface.colour(None, Far { toned, level: level(i), layers: 0, glazed: false });
    let looks: Vec<(ZoneId, Lab)> = zones.iter().enumerate().filter_map(|(i, z)| Some((z.id, look(i)?))).collect();
    let values: Vec<f64> = looks.iter().map(|l| l.1.value().0).collect();
    let spread = values.iter().copied().fold(0.0, f64::max) - values.iter().copied().fold(10.0, f64::min);
    if spread < TELLS {
        return None;
    }
    let worst =
        (0..n).filter_map(|i| Some((added[i][usize::from(level(i))]? / weight(zones[i]), zones[i].id))).max_by(|a, b| a.0.total_cmp(&b.0));
    let shows = match worst {
        Some((miss, z)) if miss > 0.1 * STEP => {
            format!("It shows most in {}, by {}.", piece.zone_label(z), crate::wording::steps(Steps(miss / STEP)))
        }
        _ => "Hardly anything of it shows in the end.".into(),
    };
    let neutral = piece.neutral();
    Some(LayInOffer {
        lay_in: LayIn { pigment: id.clone(), levels },
        zones: looks.into_iter().map(|(zone, lab)| ZoneMark { zone, mark: Mark::of(lab, neutral) }).collect(),
        raises: adds / total.max(1e-9) / STEP,
        shows,
    })
}
