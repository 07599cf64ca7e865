//! What to do next with a piece, and why: one thing at a time, in the order of work.

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
    /// Search for the lean set.
    FindSet,
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

/// What to do next; `None` once a piece is finished.
pub fn next(piece: &Piece, paint_box: Option<&PaintBox>) -> Option<NextStep> {
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
                "Say what you own",
                "The few pigments are found among those you have; a starter Box does for a beginning.".into(),
            ),
        };
    };
    if zones == 0 {
        return give_picture();
    }
    if piece.chosen.pigments.is_empty() {
        let owned = paint_box.searched().iter().filter(|p| !p.white).count();
        let unit = if owned == 1 { piece.brief.medium.unit().to_owned() } else { format!("{}s", piece.brief.medium.unit()) };
        return step(
            NextAct::FindSet,
            "Find the lean set",
            format!("{zones} zones are measured; which few of your {owned} {unit} will do?"),
        );
    }
    if piece.studies.is_empty() {
        return step(
            NextAct::MakeStudies,
            "Make three studies",
            "Small versions tell in minutes what the large one would tell in days.".into(),
        );
    }
    if piece.chosen_study.is_none() && piece.sessions.is_empty() {
        return step(NextAct::PrintSheet, "Print the sheet", "The studies are painted at true size; then one of them goes on.".into());
    }
    step(NextAct::WorkOn, "Go to the easel", "What to lay now, and what must dry first.".into())
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
        let act = |p: &Piece, b: Option<&PaintBox>| next(p, b).map(|n| n.act);
        assert_eq!(act(&bare, None), Some(NextAct::GivePicture));
        assert_eq!(act(&bare, Some(&paint_box)), Some(NextAct::GivePicture));
        assert_eq!(act(&piece, None), Some(NextAct::BeginBox));
        assert_eq!(act(&piece, Some(&PaintBox { pigments: Vec::new(), ..paint_box.clone() })), Some(NextAct::BeginBox));
        assert_eq!(act(&piece, Some(&paint_box)), Some(NextAct::FindSet));
        piece.chosen = ChosenSet { pigments: vec!["ochre".into()] };
        assert_eq!(act(&piece, Some(&paint_box)), Some(NextAct::MakeStudies));
        piece.easel.ending = Some(Ending { on: "2025-01-14".into(), outcome: Outcome::AsHoped, words: String::new() });
        assert_eq!(act(&piece, Some(&paint_box)), None);
    }
}
