//! One thin layer over everything, a glaze, a pencil or a breath of pastel, predicted before it is dared: what it draws together and what values it takes.

use super::laid::{Far, Surface};
use crate::mark::{Mark, ZoneMark};
use crate::mixes::{ZoneMix, mixes_of};
use crate::wording::value_off;
use lean_colour::{Lab, Share, Steps};
use lean_media::{Medium, PigmentId};
use lean_piece::easel::Glaze;
use lean_piece::paint_box::PaintBox;
use lean_piece::{Piece, ZoneId};
use serde::Serialize;

/// Strengths that are tried, a breath to a thin film.
const STRENGTHS: [f64; 4] = [0.03, 0.08, 0.18, 0.4];
/// Steps of value a zone may lose before a glaze is too dear to be proposed. A choice.
const DEAR: f64 = 0.6;

/// Covering above which a pigment makes no glaze. A choice.
const COVERS: f64 = 0.65;

/// A glaze with what it gains and takes.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct GlazeOffer {
    /// The glaze.
    pub glaze: Glaze,
    /// Every zone under it.
    pub zones: Vec<ZoneMark>,
    /// By how much colours draw together: the share by which their mean distance in hue and chroma shrinks, 0..=1.
    pub unity: f64,
    /// Steps of value the zone that loses most loses.
    pub value_lost: f64,
    /// Zones whose value it moves, in words, the worst first.
    pub moves: Vec<String>,
    /// What it does, in a sentence.
    pub words: String,
}

/// Share by which an offer has to draw colours together. A choice: less is not seen.
const WORTH_AN_OFFER: f64 = 0.03;

/// The name of a strength in a medium.
fn amount(medium: Medium, strength: f64) -> &'static str {
    let words = match medium {
        Medium::Oil | Medium::Watercolour => ["A breath", "A thin film", "A film", "A full film"],
        Medium::Marker => ["A breath", "A very pale coat", "A pale coat", "A coat"],
        Medium::Pencil => ["A breath", "A hardly pressed layer", "A light layer", "A layer"],
        Medium::SoftPastel => ["A breath", "A light dust", "A dust", "A thin stroke"],
    };
    words[STRENGTHS[1..].iter().filter(|s| strength >= **s - 0.03).count()]
}

/// Each pigment of the set in the strength that draws most together for the values it takes, most worth it first.
pub fn offers(piece: &Piece, paint_box: &PaintBox) -> Vec<GlazeOffer> {
    let mixes = mixes_of(piece, Some(paint_box));
    let worth = |o: &GlazeOffer| o.unity - o.value_lost / 4.0;
    let of = |id: &PigmentId| {
        let each = STRENGTHS.iter().filter_map(|s| offer(piece, paint_box, &mixes, Glaze { pigment: id.clone(), strength: *s }));
        each.filter(|o| o.value_lost <= DEAR).max_by(|a, b| worth(a).total_cmp(&worth(b)))
    };
    let lets_through = |id: &&PigmentId| paint_box.find(id).and_then(|p| p.owned.covering).is_none_or(|c| c <= COVERS);
    let mut offers: Vec<GlazeOffer> =
        piece.chosen.pigments.iter().filter(lets_through).filter_map(of).filter(|o| o.unity >= WORTH_AN_OFFER).collect();
    offers.sort_by(|a, b| worth(b).total_cmp(&worth(a)));
    offers
}

/// What one glaze does; none where its pigment is gone or the ground does not take it.
pub fn offer(piece: &Piece, paint_box: &PaintBox, mixes: &[ZoneMix], glaze: Glaze) -> Option<GlazeOffer> {
    let surface = Surface::of(piece, paint_box).glazed_with(paint_box.find(&glaze.pigment)?, Share(glaze.strength));
    let mut then: Vec<(ZoneId, Lab, Lab)> = Vec::new();
    for m in mixes {
        let layers = if m.mix.is_bare_ground() { 0 } else { m.mix.layers.len().max(1) };
        let far = Far { layers, ..Far::default() };
        then.push((m.zone, m.mix.lab, surface.colour(Some(m), Far { glazed: true, ..far })?));
    }
    let unity = 1.0 - apart(piece, &then, |t| t.2) / apart(piece, &then, |t| t.1).max(1e-9);
    let mut lost: Vec<(f64, ZoneId)> = then.iter().map(|(z, now, then)| (then.value().0 - now.value().0, *z)).collect();
    lost.sort_by(|a, b| b.0.abs().total_cmp(&a.0.abs()));
    let moves = lost.iter().filter(|(dv, _)| dv.abs() >= 0.1).take(5).filter_map(|(dv, z)| {
        Some(format!(
            "{}: {}",
            crate::wording::capital(&piece.zone_label(*z)),
            value_off(Steps(*dv))?.replace("too dark", "darker").replace("too light", "lighter")
        ))
    });
    let value_lost = lost.first().map_or(0.0, |l| l.0.abs());
    let name = paint_box.find(&glaze.pigment)?.name.clone();
    let words = format!(
        "{} of {name} draws colours together by {:.0} % and takes up to {} of value.",
        amount(piece.brief.medium, glaze.strength),
        unity * 100.0,
        crate::wording::steps(Steps(value_lost))
    );
    let neutral = piece.neutral();
    Some(GlazeOffer {
        glaze,
        zones: then.iter().map(|(zone, _, lab)| ZoneMark { zone: *zone, mark: Mark::of(*lab, neutral) }).collect(),
        unity: unity.max(0.0),
        value_lost,
        moves: moves.collect(),
        words,
    })
}

/// The mean distance of colours from each other in a* and b*, by area.
fn apart(piece: &Piece, of: &[(ZoneId, Lab, Lab)], lab: impl Fn(&(ZoneId, Lab, Lab)) -> Lab) -> f64 {
    let area = |z: ZoneId| piece.zone(z).map_or(0.0, |z| z.reading.area);
    let (mut sum, mut weight) = (0.0, 0.0);
    for (i, a) in of.iter().enumerate() {
        for b in &of[i + 1..] {
            let (x, y, w) = (lab(a), lab(b), area(a.0) * area(b.0));
            sum += w * (x.a - y.a).hypot(x.b - y.b);
            weight += w;
        }
    }
    sum / f64::max(weight, 1e-12)
}
