//! A recipe for every zone, and what it misses by.

use crate::light::key::Reach;
use crate::mark::Mark;
use crate::wording::{self, Difference};
use lean_colour::difference::ciede2000;
use lean_colour::{Lab, Share, Steps, Temperature};
use lean_media::{Pigment, PigmentId, Second};
use lean_piece::paint_box::PaintBox;
use lean_piece::wanted::{Wanted, targets, wanted};
use lean_piece::{Piece, ZoneId};
use lean_recipes::Limits;
use lean_recipes::{Cost, Mix, Technique};
use lean_search::demands::{Alone, forbidden};
use lean_search::{Palette, Recipes, white_of};
use serde::Serialize;

mod among;
mod kinship;
mod one_family;
mod paint;
mod pans;
mod riskiest;
mod simpler;
mod string;
mod told;

pub use among::{Among, Remedy, among};
pub use lean_media::swatch::swatch;
pub use paint::{Amount, LetDown, amount_of, let_downs};
pub use pans::{Pan, pans};
pub use riskiest::{Riskiest, riskiest};
pub use simpler::Simpler;
pub use string::Further;
pub use told::{MixInWords, named, told};

/// Cost above which a zone counts as out of reach of the set: half a step, or plainly another colour. A choice.
const OUT_OF_REACH: f64 = 10.0;

/// The recipe of one zone with what it misses by: value, temperature, colour.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ZoneMix {
    /// Which zone.
    pub zone: ZoneId,
    /// What is wanted.
    pub wanted: Mark,
    /// What the mix gives.
    pub given: Mark,
    /// What goes in.
    pub mix: Mix,
    /// Steps too light (+) or dark (−).
    pub delta_value: f64,
    /// Too warm (+) or cool (−).
    pub delta_temperature: f64,
    /// CIEDE2000.
    pub difference: f64,
    /// The same in one sentence.
    pub sentence: String,
    /// The difference in one word.
    pub closeness: &'static str,
    /// False when the set cannot come near.
    pub reached: bool,
    /// How far a slip of the hand moves it, in words.
    pub slip: String,
    /// The nearest recipe that is simpler to make; where that is taken, the fuller one it stands for.
    pub simpler: Option<Simpler>,
    /// Whether the simpler recipe is taken.
    pub simple: bool,
    /// How much paint the zone needs, where paint is mixed.
    pub amount: Option<Amount>,
    /// Where the target runs: the mixes that take over one after the other along its way.
    pub then: Vec<Further>,
}

/// Compares a mix with what was wanted.
pub fn compare(zone: ZoneId, wanted: Lab, mix: Mix, neutral: Temperature) -> ZoneMix {
    let (w, g) = (Mark::of(wanted, neutral), Mark::of(mix.lab, neutral));
    let delta_value = g.value.steps_above(w.value);
    let delta_temperature = g.temperature.warmer_than(w.temperature);
    let difference = ciede2000(mix.lab, wanted);
    let sentence = Difference::of(wanted, mix.lab).words;
    ZoneMix {
        zone,
        wanted: w,
        given: g,
        slip: wording::slip(mix.slip),
        simpler: None,
        simple: false,
        amount: None,
        mix,
        delta_value,
        delta_temperature,
        difference,
        sentence,
        closeness: wording::closeness(difference),
        reached: Cost::default().of_value(Steps(delta_value)) + difference <= OUT_OF_REACH,
        then: Vec::new(),
    }
}

/// The set's pigments that are in the Box.
pub fn pigments_of<'a>(paint_box: &'a PaintBox, set: &[PigmentId]) -> Vec<&'a Pigment> {
    set.iter().filter_map(|id| paint_box.find(id)).filter(|p| !p.white).collect()
}

/// What the recipes of a set for a piece are listed of: its medium on its ground within what the painter asks of mixes. White is at hand where the
/// medium has it. Numbers follow `set`.
pub(crate) fn palette_of(piece: &Piece, paint_box: &PaintBox, set: &[&Pigment]) -> Palette {
    let (medium, asked) = (piece.brief.medium, piece.asked());
    // What is studied in acrylic is let down with the white of the acrylics.
    let acrylic = set.first().is_some_and(|p| p.second == Some(Second::Acrylic));
    let of_one_kind: Vec<Pigment> = paint_box.pigments.iter().filter(|p| p.second.is_some() == acrylic).cloned().collect();
    let white = white_of(&of_one_kind, medium).cloned();
    let mut pigments: Vec<Pigment> = set.iter().map(|p| (*p).clone()).collect();
    if !medium.is_wet_opaque() {
        pigments.extend(white.clone());
    }
    let usual = Limits::default();
    let mother = asked.mother.as_ref().and_then(|m| set.iter().position(|p| p.id == m.pigment).map(|i| (i, m.share)));
    let limits = Limits {
        most_pigments: asked.most_in_mix.map_or(usual.most_pigments, usize::from),
        most_layers: asked.most_layers.map_or(usual.most_layers, usize::from),
        mother,
        unusual: asked.unusual_layers,
    };
    Palette { medium, ground: piece.ground(), pigments, white, limits, grain: piece.mixing.grain() }
}

/// The recipes a hand can make of a set for a piece, see [`palette_of`].
pub fn technique_of(piece: &Piece, paint_box: &PaintBox, set: &[&Pigment]) -> Box<dyn Technique + Send> {
    palette_of(piece, paint_box, set).technique()
}

/// The recipes of the set in use from the Box the piece draws on; none without a Box or a set.
pub fn mixes_of(piece: &Piece, paint_box: Option<&PaintBox>) -> Vec<ZoneMix> {
    let Some(paint_box) = paint_box.filter(|_| !piece.chosen.pigments.is_empty()) else { return Vec::new() };
    let technique = technique_of(piece, paint_box, &pigments_of(paint_box, &piece.chosen.pigments));
    mixes(piece, &Recipes::of(technique.as_ref()))
}

/// The best recipe for every zone from the set in use, and for every further stop of a graded one; where the painter wants kin, recipes that share
/// pigments as far as that cannot be seen.
pub fn mixes(piece: &Piece, recipes: &Recipes) -> Vec<ZoneMix> {
    let neutral = piece.neutral();
    let aimed = wanted(piece);
    let colours: Vec<Lab> = aimed.iter().map(|a| a.target.lab).collect();
    let chosen = if piece.mixing.kin {
        let areas: Vec<Share> = aimed.iter().map(|a| Share(piece.zone(a.zone).map_or(0.0, |z| z.reading.area))).collect();
        kinship::related(recipes, &colours, &areas, piece.cost())
    } else {
        colours.iter().map(|w| recipes.best(*w, piece.cost()).map(|b| b.1)).collect()
    };
    let cost = piece.cost();
    let chosen = one_family::shared(piece, recipes, &aimed, chosen, cost);
    let compared = aimed.into_iter().zip(chosen).filter_map(|(a, mix)| {
        let mix = mix?;
        let simpler = if a.share == 0.0 { simpler::than(&mix, recipes, a.target.lab, cost) } else { None };
        let simple = piece.mixing.simple.contains(&a.zone) && simpler.is_some();
        let (mix, simpler) = match simpler {
            Some(s) if simple => (s.mix.clone(), Some(s.undone(mix))),
            other => (mix, other),
        };
        let amount = piece.brief.medium.is_wet_opaque().then(|| amount_of(piece, a.zone));
        Some((a, ZoneMix { simpler, simple, amount, ..compare(a.zone, a.target.lab, mix, neutral) }))
    });
    string::threaded(compared)
}

/// What mixes of all zones cost together at a cost, as the search weighs them. Not a number when no zone has weight.
pub fn cost_of(piece: &Piece, mixes: &[ZoneMix], cost: Cost) -> f64 {
    let aimed = wanted(piece);
    let total: f64 = aimed.iter().map(|a| a.target.weight).sum();
    let given = |a: &Wanted| mixes.iter().find(|m| m.zone == a.zone).and_then(|m| m.mix_at(Share(a.share)));
    let miss = |a: &Wanted| given(a).map_or(0.0, |mix| a.target.weight * cost.ranking.of_zone(cost.of_mix(mix, a.target.lab)));
    aimed.iter().filter(|a| a.target.weight > 0.0).map(miss).sum::<f64>() / total
}

/// How far a set reaches in one band of value.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ReachRow {
    /// Middle of the band.
    pub value: f64,
    /// Coolest mix, relative to the picture's neutral.
    pub cool: f64,
    /// Warmest mix.
    pub warm: f64,
}

/// The region of the field that mixes of a set fill, darkest band first.
pub fn reach(recipes: &Recipes, neutral: Temperature) -> Vec<ReachRow> {
    const BAND: f64 = 0.4;
    let mut rows: Vec<Option<ReachRow>> = vec![None; (10.0 / BAND) as usize + 1];
    for lab in recipes.colours() {
        let m = Mark::of(lab, neutral);
        let at = ((m.value.0 / BAND) as usize).min(rows.len() - 1);
        let row = rows[at].get_or_insert(ReachRow { value: (at as f64 + 0.5) * BAND, cool: m.temperature.0, warm: m.temperature.0 });
        row.cool = row.cool.min(m.temperature.0);
        row.warm = row.warm.max(m.temperature.0);
    }
    rows.into_iter().flatten().collect()
}

/// The values this piece can reach: with the set in use, or, before there is one, with what the Box may give. `None` without pigments.
pub fn reach_of(piece: &Piece, paint_box: &PaintBox) -> Option<Reach> {
    let with = |set: &[&Pigment]| reach_within(&Recipes::of(technique_of(piece, paint_box, set).as_ref()));
    let set = pigments_of(paint_box, &piece.chosen.pigments);
    if !set.is_empty() {
        return with(&set);
    }
    let asked = piece.asked();
    let searched = paint_box.searched();
    let mut each: Vec<(&Pigment, Reach)> = searched
        .iter()
        .filter(|p| !p.white && !piece.excluded.contains(&p.id))
        .filter_map(|p| {
            let alone = Alone::of(technique_of(piece, paint_box, &[p]).as_ref(), 0);
            let allowed = forbidden(&asked, p, alone.as_ref()).is_none();
            allowed.then(|| with(&[p])).flatten().map(|reach| (p, reach))
        })
        .collect();
    each.sort_by(|a, b| a.1.darkest.total_cmp(&b.1.darkest));
    // What lets light through is darkest over another dark.
    let darks: Vec<&Pigment> = each.iter().take(DARKS).map(|(p, _)| *p).collect();
    let together = (darks.len() > 1).then(|| with(&darks)).flatten();
    each.into_iter().map(|(_, reach)| reach).chain(together).reduce(|a, b| Reach {
        darkest: a.darkest.min(b.darkest),
        lightest: a.lightest.max(b.lightest),
        lightest_layer: a.lightest_layer.max(b.lightest_layer),
    })
}

/// How many of the darkest pigments of a Box are tried over each other. A choice: no recipe holds more.
const DARKS: usize = 3;

/// The values some recipes reach.
pub(crate) fn reach_within(recipes: &Recipes) -> Option<Reach> {
    Reach::of(recipes.laid(), recipes.free())
}

/// One pigment of the set in the tray.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Well {
    /// Which pigment.
    pub pigment: PigmentId,
    /// Its plain name.
    pub name: String,
    /// Its masstone.
    pub mark: Mark,
    /// In how many zones it is.
    pub zones: usize,
    /// Share of all paint laid, 0..=1.
    pub share: f64,
    /// By how much the cost rises without it.
    pub price: f64,
}

/// The wells of the tray with their use and price.
pub fn wells(piece: &Piece, paint_box: &PaintBox, recipes: &Recipes, mixes: &[ZoneMix]) -> Vec<Well> {
    let set = pigments_of(paint_box, &piece.chosen.pigments);
    let ground = piece.ground();
    let wanted = targets(piece);
    let any = wanted.iter().map(|t| t.weight).sum::<f64>() > 0.0;
    let whole = if any { recipes.cost_of(&wanted, piece.cost()) } else { 0.0 };
    set.iter()
        .enumerate()
        .map(|(i, p)| {
            let used = mixes.iter().filter(|m| m.share_of(&p.id) > 0.0);
            let share = |m: &ZoneMix| m.share_of(&p.id) * piece.zone(m.zone).map_or(0.0, |z| z.reading.area);
            let price = if any { recipes.cost_without(i, &wanted, piece.cost()) - whole } else { 0.0 };
            Well {
                pigment: p.id.clone(),
                name: p.name.clone(),
                mark: Mark::of(swatch(piece.brief.medium, &ground, p), piece.neutral()),
                zones: used.clone().count(),
                share: used.map(share).sum(),
                price: if price.is_finite() { price } else { whole },
            }
        })
        .collect()
}
