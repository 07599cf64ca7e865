//! What to do next with a piece, and why: one thing at a time, in the order of work.

use crate::drawing::is_drawing;
use crate::light::key::Reach;
use lean_piece::Piece;
use lean_piece::paint_box::PaintBox;
use serde::Serialize;

/// What is done with one press.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum NextAct {
    /// Give it a picture.
    GivePicture,
    /// Begin a Box, or choose one.
    BeginBox,
    /// Map the values into what the Box reaches.
    FitValues,
    /// Search for the lean set.
    FindSet,
    /// Choose a plan of the values of a drawing.
    PlanValues,
    /// Make studies.
    MakeStudies,
    /// Print the sheet of studies.
    PrintSheet,
    /// Work at the easel.
    WorkOn,
}

/// The next thing to do.
#[derive(Clone, Debug, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct NextStep {
    /// What is done with one press.
    pub act: NextAct,
    /// What it is, in a few words.
    pub what: String,
    /// Why it is next, in a sentence.
    pub why: String,
}

/// Steps beyond what the Box reaches from which a zone counts as out of reach. A choice: the nearest that can be laid is plainly another value.
const BEYOND: f64 = 0.5;
/// Share of the picture out of reach from which its values are fitted before a set is looked for. A choice.
const MUCH: f64 = 0.1;

/// What to do next, with what can be reached (`reach`, without a set that of the Box); `None` once a piece is finished.
pub(crate) fn next(piece: &Piece, paint_box: Option<&PaintBox>, reach: Option<Reach>) -> Option<NextStep> {
    if piece.easel.ending.is_some() {
        return None;
    }
    let step = |act, what: &str, why: String| Some(NextStep { act, what: what.to_owned(), why });
    let zones = piece.zones.len();
    let Some(paint_box) = paint_box.filter(|b| !b.pigments.is_empty()) else {
        return match zones {
            0 => give_picture(),
            _ => step(
                NextAct::BeginBox,
                "Choose your paints",
                "The set is chosen from the paints you own. A starter Box is enough to begin.".into(),
            ),
        };
    };
    if zones == 0 {
        return give_picture();
    }
    if is_drawing(piece) && piece.zones.iter().all(|z| z.open) {
        let why = format!("None of the {zones} shapes has a colour yet. Three plans of their values are ready to choose from.");
        return step(NextAct::PlanValues, "Plan the values", why);
    }
    if piece.chosen.pigments.is_empty() {
        if let Some(why) = reach.and_then(|r| out_of_reach(piece, r)) {
            return step(NextAct::FitValues, "Fit the values to your paints", why);
        }
        let owned = paint_box.searched().iter().filter(|p| !p.white).count();
        let unit = if owned == 1 { piece.brief.medium.unit().to_owned() } else { format!("{}s", piece.brief.medium.unit()) };
        return step(
            NextAct::FindSet,
            "Find the lean set",
            format!("{zones} zones are measured; which few of your {owned} {unit} will do?"),
        );
    }
    if piece.studies.is_empty() {
        let (title, why) = if is_drawing(piece) {
            ("Make nine studies", "Nine schemes over one plan of the values tell in minutes what the large one would tell in days.")
        } else {
            ("Make three studies", "Small versions tell in minutes what the large one would tell in days.")
        };
        return step(NextAct::MakeStudies, title, why.into());
    }
    if piece.chosen_study.is_none() && piece.sessions.is_empty() {
        return step(NextAct::PrintSheet, "Print the sheet", "Paint the studies at true size, then choose one.".into());
    }
    step(NextAct::WorkOn, "Go to the easel", "What to lay now, and what must dry first.".into())
}

/// How much of the picture is darker or lighter than can be laid, where that is much: zones that differ there would be given one and the same
/// mix.
fn out_of_reach(piece: &Piece, reach: Reach) -> Option<String> {
    let share =
        |out: &dyn Fn(f64) -> bool| -> f64 { piece.zones.iter().filter(|z| out(piece.wanted(z).value().0)).map(|z| z.reading.area).sum() };
    let dark = share(&|v| v < reach.darkest - BEYOND);
    let light = share(&|v| v > reach.lightest + BEYOND);
    let (much, how, end) = if dark >= light { (dark, "darker", reach.darkest) } else { (light, "lighter", reach.lightest) };
    (much >= MUCH).then(|| {
        let percent = 100.0 * much;
        format!("{percent:.0} % of the picture is {how} than this Box goes ({end:.1}): pressed into its reach, what differs still differs.")
    })
}

fn give_picture() -> Option<NextStep> {
    Some(NextStep {
        act: NextAct::GivePicture,
        what: "Give it a picture".into(),
        why: "Everything is measured from it: a photo, a drawing, a sheet of compositions.".into(),
    })
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::staged::{Staged, staged};
    use lean_media::library;
    use lean_piece::ChosenSet;
    use lean_piece::easel::{Ending, Outcome};

    #[test]
    fn one_thing_follows_the_other_until_it_is_finished() {
        let pigments = library::modelled().iter().take(6).cloned().collect();
        let mut piece = staged(&[Staged::vt(6.0, 0.0), Staged::vt(3.0, 8.0)]);
        let paint_box = PaintBox { name: "six".into(), medium: piece.brief.medium, pigments };
        let bare = Piece::new(piece.brief.clone());
        let wide = Reach { darkest: 1.0, lightest: 9.5, lightest_layer: 9.5 };
        let act = |p: &Piece, b: Option<&PaintBox>| next(p, b, Some(wide)).map(|n| n.act);
        assert_eq!(act(&bare, None), Some(NextAct::GivePicture));
        assert_eq!(act(&bare, Some(&paint_box)), Some(NextAct::GivePicture));
        assert_eq!(act(&piece, None), Some(NextAct::BeginBox));
        assert_eq!(act(&piece, Some(&PaintBox { pigments: Vec::new(), ..paint_box.clone() })), Some(NextAct::BeginBox));
        assert_eq!(act(&piece, Some(&paint_box)), Some(NextAct::FindSet));
        let narrow = next(&piece, Some(&paint_box), Some(Reach { darkest: 4.0, ..wide })).unwrap();
        assert_eq!(narrow.act, NextAct::FitValues);
        assert!(narrow.why.contains("darker than this Box goes (4.0)"), "{}", narrow.why);
        piece.chosen = ChosenSet { pigments: vec!["ochre".into()] };
        assert_eq!(act(&piece, Some(&paint_box)), Some(NextAct::MakeStudies));
        piece.easel.ending = Some(Ending { on: "2025-01-14".into(), outcome: Outcome::AsHoped, words: String::new() });
        assert_eq!(act(&piece, Some(&paint_box)), None);
    }
}
