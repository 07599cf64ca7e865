//! What must stay bare ground from the start.

use crate::mixes::ZoneMix;
use crate::wording::capital;
use crate::wording::grammar::verb;
use lean_media::Medium;
use lean_piece::intent::schools::{Question, School};
use lean_piece::light::Role;
use lean_piece::{Piece, ZoneId};
use serde::Serialize;

/// A zone that is kept free.
#[derive(Clone, Debug, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Reserved {
    /// Which.
    pub zone: ZoneId,
    /// Why and how, in a sentence.
    pub words: String,
}

/// Zones whose recipe is bare ground, and highlights where they are reserved from the start.
pub fn reserved(piece: &Piece, mixes: &[ZoneMix]) -> Vec<Reserved> {
    let school = piece.intent.school(Question::Highlights, piece.brief.medium);
    let how = match piece.brief.medium {
        Medium::Watercolour => "mask it, or paint round it with a full brush",
        Medium::Marker => "leave it out; nothing takes ink away again",
        Medium::Pencil | Medium::SoftPastel => "keep the hand off it, and lay a sheet over it",
        Medium::Oil => "leave the ground bare there",
    };
    let keep = |m: &&ZoneMix| {
        let lit = piece.zone(m.zone).is_some_and(|z| z.facts.role == Some(Role::Highlight));
        m.mix.is_bare_ground() || lit && school == School::HighlightsReserved
    };
    mixes
        .iter()
        .filter(keep)
        .map(|m| {
            let label = piece.zone_label(m.zone);
            Reserved { zone: m.zone, words: format!("{} {} bare ground: {how}.", capital(&label), verb(&label, 1)) }
        })
        .collect()
}
