//! A study as the page shows it: its marks, and what is said of it.

use super::clock::{Phase, phases};
use super::make::most_off;
use super::{measures, order, scheme};
use crate::mark::Mark;
use crate::mixes::{compare, named};
use crate::paints::moved::study_moved;
use crate::wording::hue::hue_word;
use lean_colour::HueAngle;
use lean_piece::paint_box::PaintBox;
use lean_piece::{Piece, Study, StudyMix, StudyNumber};
use lean_recipes::{Cost, telling};
use serde::Serialize;

/// A study in words.
#[derive(Clone, Debug, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StudyNote {
    /// Which.
    pub number: StudyNumber,
    /// Its scheme.
    pub scheme: String,
    /// Whether every mix holds the planned value within a quarter step.
    pub values_held: bool,
    /// How far the worst is off, in steps.
    pub most_off: f64,
    /// Neighbours whose warm–cool order this Box could not keep, in words; none when all is kept.
    pub order_lost: Vec<String>,
    /// Whether zones, locks or Box changed since it was made.
    pub out_of_date: bool,
    /// How its recipes look by now that pigments are known better than when it was made; empty where nothing is seen to move.
    pub moved: String,
    /// What makes it differ: values, balance, strength, unity, the wall; a sentence each.
    pub measures: Vec<String>,
    /// Hues whose shares of the picture can be moved, the ruling one first; none where its scheme has no shares.
    pub shares: Vec<ShareLine>,
    /// The phases of painting it against the clock.
    pub phases: Vec<Phase>,
    /// Each mix for the screen, in the order of its zones.
    pub marks: Vec<Mark>,
    /// The last mix of each zone that runs from colour to colour; `None` of one that does not.
    pub runs_to: Vec<Option<Mark>>,
    /// What each wished for, in the same order.
    pub wanted: Vec<Mark>,
    /// Each mix against its request, in words.
    pub sentences: Vec<String>,
    /// Each recipe on one line; of a zone that runs all of them.
    pub recipes: Vec<String>,
}

/// One hue of a scheme and how much of the picture it covers.
#[derive(Clone, Debug, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ShareLine {
    /// What it is called: its part in the scheme and its hue.
    pub name: String,
    /// Hue angle in CIELAB, degrees.
    pub hue: f64,
    /// Share asked for, 0..=1.
    pub share: f64,
}

/// What is said of a study; `basis` is the fingerprint of the piece as it is now.
pub fn note(piece: &Piece, paint_box: Option<&PaintBox>, study: &Study, basis: &str) -> StudyNote {
    let neutral = piece.neutral();
    let name = named(paint_box);
    let line = |m: &StudyMix| {
        let all = std::iter::once(&m.mix).chain(&m.then).map(|mix| telling::short(mix, &name));
        all.collect::<Vec<_>>().join(" – running into ")
    };
    let lost = order::lost(piece, study).into_iter();
    StudyNote {
        number: study.number,
        scheme: scheme::describe(&study.scheme),
        values_held: most_off(study) <= Cost::QUARTER_STEP,
        most_off: most_off(study),
        order_lost: lost
            .map(|(warm, cool)| format!("{} came out no warmer than {}.", piece.zone_label(warm), piece.zone_label(cool)))
            .collect(),
        out_of_date: study.basis != basis,
        moved: paint_box.and_then(|b| study_moved(piece, study, b)).map(|m| m.words).unwrap_or_default(),
        measures: measures::measures(piece, study, &name),
        shares: shares(study),
        phases: phases(piece.brief.medium).to_vec(),
        marks: study.mixes.iter().map(|m| Mark::of(m.mix.lab, neutral)).collect(),
        runs_to: study.mixes.iter().map(|m| m.then.last().map(|l| Mark::of(l.lab, neutral))).collect(),
        wanted: study.mixes.iter().map(|m| Mark::of(m.wanted, neutral)).collect(),
        recipes: study.mixes.iter().map(line).collect(),
        sentences: study.mixes.iter().map(|m| compare(m.zone, m.wanted, m.mix.clone(), neutral).sentence).collect(),
    }
}

fn shares(study: &Study) -> Vec<ShareLine> {
    const PARTS: [&str; 4] = ["ruling", "beside it", "accent", "second accent"];
    let hues = scheme::in_shares(&study.scheme).map(|(_, hues)| hues).unwrap_or_default();
    let part = |i: usize| match (hues.len(), i) {
        (2, 1) => "the other",
        _ => PARTS[i.min(3)],
    };
    hues.iter()
        .enumerate()
        .map(|(i, h)| ShareLine { name: format!("{}, {}", part(i), hue_word(HueAngle(h.hue))), hue: h.hue, share: h.share })
        .collect()
}
