//! What is said of a study on its sheet, and how high it stands.

use crate::mixes::compare;
use crate::order_of_work::order_of_work;
use crate::paper::{LEADING, Mm, wrapped};
use crate::studies::scheme::describe;
use lean_colour::Lab;
use lean_piece::paint_box::PaintBox;
use lean_piece::{Piece, Study, StudyMix};
use lean_recipes::{Mix, telling};

/// One zone's line: its name, its recipe and the colour of it.
pub(super) struct Line {
    /// Number, name and value.
    pub title: String,
    /// How it is mixed, and what it hands over to.
    pub recipe: String,
    /// The mixes in their order; one where it does not run.
    pub colours: Vec<Lab>,
}

/// What is said of one study.
pub(crate) struct Noted {
    /// Number and scheme.
    pub title: String,
    /// Its pigments.
    pub set: String,
    /// Its zones in the order they are laid.
    pub lines: Vec<Line>,
}

/// What is said of a study.
pub(super) fn noted(piece: &Piece, paint_box: &PaintBox, study: &Study) -> Noted {
    let names: Vec<String> = study.pigments.iter().map(|p| paint_box.find(p).map_or(p.0.clone(), |p| p.name.clone())).collect();
    let order = order_of_work(piece).zones;
    let laid = order.iter().filter_map(|z| study.mixes.iter().find(|m| m.zone == *z));
    Noted {
        title: format!("{} · {}", study.number, describe(&study.scheme)),
        set: names.join(", "),
        lines: laid.map(|m| line(piece, paint_box, m)).collect(),
    }
}

fn line(piece: &Piece, paint_box: &PaintBox, m: &StudyMix) -> Line {
    let given = compare(m.zone, m.wanted, m.mix.clone(), piece.neutral()).given;
    let recipes: Vec<String> = std::iter::once(&m.mix).chain(&m.then).map(|mix| recipe_text(paint_box, mix)).collect();
    Line {
        title: format!("{} {} · value {:.1}", m.zone.0, piece.zone_label(m.zone), given.value.0),
        recipe: recipes.join(" – running into "),
        colours: std::iter::once(&m.mix).chain(&m.then).map(|mix| mix.lab).collect(),
    }
}

/// A recipe on one line, in the painter's names.
pub fn recipe_text(paint_box: &PaintBox, mix: &Mix) -> String {
    telling::short(mix, &|id| paint_box.name_of(id))
}

/// Letters of recipes, the largest that fit are taken; none is smaller than two millimetres.
pub(super) const LETTERS: [Mm; 4] = [2.6, 2.4, 2.2, 2.0];
/// Width of a swatch, and where the text beside it begins.
pub(crate) const SWATCH: Mm = 17.0;
pub(crate) const BESIDE_SWATCH: Mm = 19.0;
/// Size of the title of a study.
pub(crate) const TITLE: Mm = 3.7;
/// Height of the row with boxes for trials and room for minutes.
pub(super) const TRIALS: Mm = 11.0;
impl Line {
    /// Its recipe in as many lines as a width asks for.
    pub(super) fn rows(&self, width: Mm, letters: Mm) -> Vec<String> {
        wrapped(&self.recipe, width - BESIDE_SWATCH, letters)
    }

    /// How high it stands with the air under it.
    pub(super) fn height(&self, width: Mm, letters: Mm) -> Mm {
        let title = wrapped(&self.title, width - BESIDE_SWATCH, letters).len();
        (title + self.rows(width, letters).len()) as f64 * letters * LEADING + 1.1
    }
}

impl Noted {
    /// How high its title and its set stand.
    pub(super) fn head(&self, width: Mm, letters: Mm) -> Mm {
        TITLE * LEADING * wrapped(&self.title, width, TITLE).len() as f64
            + letters * LEADING * wrapped(&self.set, width, letters).len() as f64
            + 1.4
    }

    /// How high all of it stands.
    pub(super) fn height(&self, width: Mm, letters: Mm) -> Mm {
        self.head(width, letters) + self.lines.iter().map(|l| l.height(width, letters)).sum::<f64>() + TRIALS
    }
}
