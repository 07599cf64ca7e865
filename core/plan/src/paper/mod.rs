//! Pages to be printed: marks in millimetres, y down from the top left. Printers of any kind draw the same list.

use lean_colour::Lab;
use lean_picture::Picture;
use lean_picture::line_drawing::LineArt;
use lean_piece::PageFormat;
use std::sync::Arc;

/// A place or length on the page in millimetres.
pub(crate) type Mm = f64;

/// One thing drawn on the page.
#[derive(Clone, Debug, PartialEq)]
pub enum Item {
    /// A filled rectangle.
    Fill {
        /// Left, top, width, height.
        rect: [Mm; 4],
        /// Its colour.
        colour: Lab,
    },
    /// A painted picture.
    Picture {
        /// Left, top, width, height.
        rect: [Mm; 4],
        /// Its pixels.
        picture: Arc<Picture>,
    },
    /// Closed rings, filled by the even–odd rule, outlined, or both.
    Shape {
        /// Points in millimetres.
        rings: Vec<Vec<(Mm, Mm)>>,
        /// Colour inside.
        fill: Option<Lab>,
        /// Width of the outline; none when 0.
        line: Mm,
    },
    /// A straight line in black.
    Line {
        /// From x, y to x, y.
        ends: [Mm; 4],
        /// Width.
        width: Mm,
    },
    /// One line of text, its baseline at `y`.
    Text {
        /// Left end.
        x: Mm,
        /// Baseline.
        y: Mm,
        /// Height of the letters' body.
        size: Mm,
        /// Heavy or usual.
        bold: bool,
        /// What it says.
        text: String,
    },
}

/// A page ready to print at 100 %.
#[derive(Clone, Debug, PartialEq)]
pub struct Sheet {
    /// Width of the paper.
    pub width: Mm,
    /// Height of the paper.
    pub height: Mm,
    /// Title for the document.
    pub title: String,
    /// What is drawn, first to last.
    pub marks: Vec<Item>,
}

impl Sheet {
    /// Draws the lines of a drawing over every picture of its plan.
    pub fn draw_over(&mut self, lines: &LineArt) {
        for mark in &mut self.marks {
            if let Item::Picture { picture, .. } = mark {
                *picture = Arc::new(lines.over((**picture).clone()));
            }
        }
    }
}

/// Width and height of an upright page.
pub fn paper(format: PageFormat) -> (Mm, Mm) {
    match format {
        PageFormat::A5 => (148.0, 210.0),
        PageFormat::A4 => (210.0, 297.0),
        PageFormat::A3 => (297.0, 420.0),
        PageFormat::Letter => (215.9, 279.4),
    }
}

/// What a format is called.
pub fn name(format: PageFormat) -> &'static str {
    match format {
        PageFormat::A5 => "A5",
        PageFormat::A4 => "A4",
        PageFormat::A3 => "A3",
        PageFormat::Letter => "Letter",
    }
}

/// Width of a letter of the sheet's face on average, a little generous, as a share of its size.
const LETTER: f64 = 0.47;
/// From line to line, as a share of the letters.
pub(crate) const LEADING: f64 = 1.22;

/// From line to line of text of some size.
pub(crate) fn leading(letters: Mm) -> Mm {
    letters * LEADING
}

/// About how wide a text is set.
fn width_of(text: &str, size: Mm) -> Mm {
    text.chars().count() as f64 * size * LETTER
}

/// A text in lines no wider than `width`, parted between words.
pub fn wrapped(text: &str, width: Mm, size: Mm) -> Vec<String> {
    let mut lines = vec![String::new()];
    for word in text.split(' ') {
        let line = lines.last().cloned().unwrap_or_default();
        let longer = if line.is_empty() { word.to_owned() } else { format!("{line} {word}") };
        if width_of(&longer, size) <= width || line.is_empty() {
            *lines.last_mut().unwrap_or(&mut String::new()) = longer;
        } else {
            lines.push(word.to_owned());
        }
    }
    lines
}
