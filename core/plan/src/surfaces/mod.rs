//! Surfaces worth planning: things that repeat and are not alike, variation inside one zone, broken colour, and what stays bare.
//!
//! [`siblings`] are several mixes for things that repeat. [`variation`] lets every pigment of the set appear in one zone with one ruling. [`broken`] lays dabs side by
//! side that fuse from afar. [`reserved`] says what must stay ground.

pub mod broken;
pub mod reserved;
pub mod siblings;
pub mod variation;

use crate::mixes::{pigments_of, technique_of};
use lean_colour::Share;
use lean_media::PigmentId;
use lean_piece::paint_box::PaintBox;
use lean_piece::{Millimetres, Piece, Surface, SurfaceMix, Worked, ZoneId};
use lean_recipes::{Mix, telling};
use lean_search::Recipes;
use serde::Serialize;

use crate::mark::Mark;

/// A mix with its recipe in words.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ToldMix {
    /// What goes in, on one line.
    pub recipe: String,
    /// Its colour.
    pub mark: Mark,
    /// Share of the surface it covers, 0..=1.
    pub share: f64,
}

/// What can be planned for the surface of one zone.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Surfaces {
    /// Which zone.
    pub zone: ZoneId,
    /// Mixes for things that repeat, no two alike; fewer than asked where the set holds no more.
    pub siblings: Vec<ToldMix>,
    /// The ruling mix and its relatives: all pigments of the set together.
    pub variation: Vec<ToldMix>,
    /// Pigments of the set that no relative near enough holds.
    pub left_out: Vec<PigmentId>,
    /// Dabs side by side; none where no pair of mixes fuses to the target.
    pub broken: Option<broken::Broken>,
}

/// What can be planned for a zone with the set in use: `count` siblings, dabs to be seen from `distance` millimetres.
///
/// # Errors
/// When there is no such zone, or no set.
pub fn surfaces(piece: &Piece, paint_box: &PaintBox, zone: ZoneId, count: usize, distance: Millimetres) -> Result<Surfaces, String> {
    let of = piece.zone(zone).ok_or("That zone is not there any more.")?;
    let set = pigments_of(paint_box, &piece.chosen.pigments);
    if set.is_empty() {
        return Err("There is no set yet. Choose one at the Lean set first.".into());
    }
    let technique = technique_of(piece, paint_box, &set);
    let recipes = Recipes::of(technique.as_ref());
    let wanted = piece.wanted(of);
    let tell = |mix: &Mix, Share(share): Share| ToldMix {
        recipe: telling::short(mix, &|id| paint_box.name_of(id)),
        mark: Mark::of(mix.lab, piece.neutral()),
        share,
    };
    let siblings = siblings::siblings(&recipes, wanted, piece.cost(), count);
    let (variation, left_out) = variation::variation(&recipes, wanted, piece.cost(), &piece.chosen.pigments);
    let n = siblings.len().max(1) as f64;
    Ok(Surfaces {
        zone,
        siblings: siblings.iter().map(|m| tell(m, Share(1.0 / n))).collect(),
        variation: variation.iter().map(|(m, share)| tell(m, Share(*share))).collect(),
        left_out,
        broken: broken::broken(&recipes, wanted, distance, &|m, share| tell(m, share)),
    })
}

/// Widths of the brush that one relative covers before the next, and the brush where none was chosen, as a share of the longer side. Choices.
const DRIFT: f64 = 2.5;
const USUAL_BRUSH: f64 = 0.03;

/// Mixes a zone is laid in when a surface is used for it: `count` siblings, relatives, or dabs to be seen from `distance`.
///
/// # Errors
/// When there is no such zone, no set, or the set holds nothing for it.
pub fn used(
    piece: &Piece,
    paint_box: &PaintBox,
    zone: ZoneId,
    worked: Worked,
    count: usize,
    distance: Millimetres,
) -> Result<Surface, String> {
    let of = piece.zone(zone).ok_or("That zone is not there any more.")?;
    let set = pigments_of(paint_box, &piece.chosen.pigments);
    if set.is_empty() {
        return Err("There is no set yet. Choose one at the Lean set first.".into());
    }
    let technique = technique_of(piece, paint_box, &set);
    let recipes = Recipes::of(technique.as_ref());
    let wanted = piece.wanted(of);
    let mixes: Vec<(Mix, Share)> = match worked {
        Worked::Siblings => {
            let all = siblings::siblings(&recipes, wanted, piece.cost(), count);
            let share = Share(1.0 / all.len().max(1) as f64);
            all.into_iter().map(|mix| (mix, share)).collect()
        }
        Worked::Variation => {
            let (all, _) = variation::variation(&recipes, wanted, piece.cost(), &piece.chosen.pigments);
            all.into_iter().map(|(mix, share)| (mix, Share(share))).collect()
        }
        Worked::Broken => broken::fusing(&recipes, wanted).map(|f| f.mixes).unwrap_or_default(),
    };
    if mixes.len() < 2 {
        return Err(match worked {
            Worked::Broken => "No plainly different mixes of this set fuse to this colour.".into(),
            _ => "This set holds only one mix for this colour: nothing to vary it with.".into(),
        });
    }
    let size = piece.brief.size;
    let brush = piece.cut.as_ref().map_or(USUAL_BRUSH, |c| c.brush) * size.width.0.max(size.height.0);
    let dab = if worked == Worked::Broken { broken::largest_dab(distance) } else { Millimetres(DRIFT * brush) };
    let mixes = mixes.into_iter().map(|(mix, Share(share))| SurfaceMix { mix, share }).collect();
    Ok(Surface { worked, mixes, dab, set: piece.chosen.pigments.clone() })
}

/// The surface a zone is laid in; none where it is laid in one mix, or the set is another than it was made of.
pub fn in_use(piece: &Piece, zone: ZoneId) -> Option<&Surface> {
    piece.zone(zone)?.surface.as_ref().filter(|s| s.is_of(&piece.chosen.pigments))
}
