//! What one more pigment would be worth: from the Box, brought back, or bought.

use crate::mark::Mark;
use crate::mixes::{pigments_of, swatch};
use lean_media::{Medium, Pigment, PigmentId, library};
use lean_piece::paint_box::PaintBox;
use lean_piece::wanted::aimed_at;
use lean_piece::{Piece, ZoneId};
use lean_recipes::{Grain, Limits, technique};
use lean_search::NoAnswer;
use lean_search::demands::{Alone, forbidden};
use lean_search::next;
use lean_search::{Ask, Choice, Need};
use serde::Serialize;
use std::collections::BTreeSet;

/// Where one more pigment would come from.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Source {
    /// It lies in the Box.
    Owned,
    /// It is excluded and would have to be brought back.
    BroughtBack,
    /// It is not owned: one of the shipped modelled pigments.
    Bought,
}

/// One more pigment for the set in use.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Addition {
    /// Which.
    pub pigment: PigmentId,
    /// Its plain name.
    pub name: String,
    /// Where it comes from.
    pub source: Source,
    /// By how much the cost falls with it.
    pub gain: f64,
    /// Zones whose best recipe it would be in.
    pub zones: Vec<ZoneId>,
    /// How it looks.
    pub mark: Mark,
}

/// How many of each source are told.
const TOLD: usize = 3;
/// Gains below this are nothing. A choice.
const LEAST_GAIN: f64 = 0.02;

/// The best additions to the set in use for all that it has to serve, most useful first: at most three from each source.
///
/// # Errors
/// See [`NoAnswer`]: nothing to match, a pigment twice.
pub fn additions(piece: &Piece, paint_box: &PaintBox, needs: Vec<Need>) -> Result<Vec<Addition>, NoAnswer> {
    let set = pigments_of(paint_box, &piece.chosen.pigments);
    let candidates = candidates(piece, paint_box, &set);
    let named: Vec<&Pigment> = candidates.iter().map(|c| c.0).collect();
    let whites = paint_box.own().iter().filter(|p| p.white);
    let pigments: Vec<Pigment> = set.iter().chain(&named).copied().chain(whites).cloned().collect();
    let choice = Choice { demands: piece.asked(), ..Choice::default() };
    let sizes = 1..=lean_search::most_in_set(piece.brief.medium);
    let ask = Ask { pigments: &pigments, medium: piece.brief.medium, needs: &needs, choice: &choice, sizes };
    let ground = piece.ground();
    let aimed = aimed_at(piece);
    let mut all: Vec<Addition> = next(&ask, set.len())?
        .into_iter()
        .zip(&candidates)
        .filter(|(n, _)| n.gain >= LEAST_GAIN)
        .map(|(n, (pigment, source))| Addition {
            pigment: pigment.id.clone(),
            name: pigment.name.clone(),
            source: *source,
            gain: n.gain,
            zones: n.serves.into_iter().filter_map(|i| aimed.get(i).copied()).collect::<BTreeSet<_>>().into_iter().collect(),
            mark: Mark::of(swatch(piece.brief.medium, &ground, pigment), piece.neutral()),
        })
        .collect();
    all.sort_by(|a, b| b.gain.total_cmp(&a.gain).then_with(|| a.pigment.0.cmp(&b.pigment.0)));
    let mut told = [0usize; 3];
    all.retain(|a| {
        told[a.source as usize] += 1;
        told[a.source as usize] <= TOLD
    });
    Ok(all)
}

/// Every pigment that could be added, with where it comes from. What a demand forbids is left out.
fn candidates<'a>(piece: &Piece, paint_box: &'a PaintBox, set: &[&Pigment]) -> Vec<(&'a Pigment, Source)> {
    let not_in_set = |p: &&Pigment| !p.white && set.iter().all(|s| s.id != p.id);
    let source = |p: &Pigment| if piece.excluded.contains(&p.id) { Source::BroughtBack } else { Source::Owned };
    let owned = paint_box.searched().iter().filter(not_in_set).map(|p| (p, source(p)));
    let is_owned =
        |p: &Pigment| paint_box.pigments.iter().any(|o| o.id == p.id || (!o.colour_index.is_empty() && o.colour_index == p.colour_index));
    // The shipped pigments are paint; of inks there is no library.
    let shipped = if piece.brief.medium == Medium::Marker { &[] } else { library::modelled() };
    let shop = shipped.iter().filter(|p| !p.white && !is_owned(p)).map(|p| (p, Source::Bought));
    let all: Vec<(&Pigment, Source)> = owned.chain(shop).collect();
    let pigments: Vec<&Pigment> = all.iter().map(|c| c.0).collect();
    let technique = technique(piece.brief.medium, &piece.ground(), &pigments, None, Limits::default(), Grain::Parts);
    let asked = piece.asked();
    let allowed = |i: usize, p: &Pigment| forbidden(&asked, p, Alone::of(technique.as_ref(), i).as_ref()).is_none();
    all.iter().enumerate().filter(|(i, (p, _))| allowed(*i, p)).map(|(_, c)| *c).collect()
}
