//! Recipes of zones as they are read out.

use super::ZoneMix;
use lean_media::PigmentId;
use lean_piece::ZoneId;
use lean_piece::paint_box::PaintBox;
use lean_recipes::telling::{self, Told};
use serde::Serialize;

/// The recipes of one zone in words.
#[derive(Clone, Debug, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct MixInWords {
    /// Which zone.
    pub zone: ZoneId,
    /// Its recipe.
    pub mix: Told,
    /// The simpler one, or the fuller one it stands for.
    pub simpler: Option<Told>,
    /// Where the target runs: those that take over, in the same order.
    pub then: Vec<Told>,
}

/// What a pigment is called in a Box; its id where it is not there any more.
pub fn named(paint_box: Option<&PaintBox>) -> impl Fn(&PigmentId) -> String {
    move |id| paint_box.map_or_else(|| id.0.clone(), |b| b.name_of(id))
}

/// The recipes of all zones in words.
pub fn told(mixes: &[ZoneMix], paint_box: &PaintBox) -> Vec<MixInWords> {
    let name = named(Some(paint_box));
    let of = |m: &ZoneMix| MixInWords {
        zone: m.zone,
        mix: telling::told(&m.mix, &name),
        simpler: m.simpler.as_ref().map(|s| telling::told(&s.mix, &name)),
        then: m.then.iter().map(|f| telling::told(&f.mix, &name)).collect(),
    };
    mixes.iter().map(of).collect()
}
