//! How the mixes of a piece move when the pigments they are made of are known better.

use crate::mixes::mixes_of;
use crate::wording::{self, Difference, capital};
use lean_colour::difference::ciede2000;
use lean_colour::{Lab, Steps};
use lean_media::layering::{Layering, State};
use lean_piece::paint_box::PaintBox;
use lean_piece::{Piece, ZoneId};
use lean_recipes::Mix;
use serde::Serialize;

/// CIEDE2000 from which a mix has moved to be seen. A choice.
const SEEN: f64 = 1.0;

/// How the mixes of a piece moved.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Moved {
    /// Zones whose mix moved to be seen, the farthest first.
    pub zones: Vec<ZoneId>,
    /// How far the farthest moved, CIEDE2000.
    pub most: f64,
    /// The same in a sentence.
    pub words: String,
}

/// How the recipes a piece had by one Box look by another in which the same pigments are known better; `None` where nothing is seen to move.
pub fn moved(piece: &Piece, before: &PaintBox, after: &PaintBox) -> Option<Moved> {
    let mixes = mixes_of(piece, Some(before));
    let of = |m: &crate::mixes::ZoneMix| Some((m.zone, m.mix.lab, now(piece, &m.mix, after)?));
    told(piece, mixes.len(), mixes.iter().filter_map(of).collect())
}

/// How the recipes of a study look by the Box as it is known now, against how they looked when it was made.
pub(crate) fn study_moved(piece: &Piece, study: &lean_piece::Study, paint_box: &PaintBox) -> Option<Moved> {
    let of = |m: &lean_piece::StudyMix| Some((m.zone, m.mix.lab, now(piece, &m.mix, paint_box)?));
    told(piece, study.mixes.len(), study.mixes.iter().filter_map(of).collect())
}

/// What a recipe looks like by a Box; `None` where a pigment is gone, or a record of earlier versions holds no amounts.
fn now(piece: &Piece, mix: &Mix, paint_box: &PaintBox) -> Option<Lab> {
    if mix.is_bare_ground() {
        return None;
    }
    let layers = mix.general(piece.brief.medium, &|id| paint_box.find(id))?;
    let ground = piece.ground();
    Some(Layering { ground: &ground, layers }.lay(State::Dry).ok()?.reflectance.xyz().lab())
}

fn told(piece: &Piece, all: usize, mut compared: Vec<(ZoneId, Lab, Lab)>) -> Option<Moved> {
    compared.retain(|(_, was, is)| ciede2000(*was, *is) >= SEEN);
    compared.sort_by(|a, b| ciede2000(b.1, b.2).total_cmp(&ciede2000(a.1, a.2)));
    let (zone, was, is) = *compared.first()?;
    let steps = is.value().0 - was.value().0;
    let value =
        (steps.abs() >= 0.12).then(|| format!("{} {}", wording::steps(Steps(steps.abs())), if steps > 0.0 { "lighter" } else { "darker" }));
    let colour = Difference::of(was, is).comparison();
    let how = [value, Some(colour).filter(|c| !c.is_empty())].into_iter().flatten().collect::<Vec<_>>().join(", ");
    let many = if compared.len() == 1 { "One".into() } else { compared.len().to_string() };
    Some(Moved {
        words: format!("{many} of {all} mixes moved, {} the most{}{how}.", piece.zone_label(zone), if how.is_empty() { "" } else { ": " }),
        most: ciede2000(was, is),
        zones: compared.into_iter().map(|c| c.0).collect(),
    })
    .map(|m| Moved { words: capital(&m.words), ..m })
}
