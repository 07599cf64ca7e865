//! Studies of several pieces as one booklet at true size.

use super::sheet::{Copy, lay_out};
use crate::paper::{Item, Mm, Sheet, leading, paper, wrapped};
use lean_piece::paint_box::PaintBox;
use lean_piece::{PageFormat, Piece, StudyNumber};

/// Most studies in a booklet. A choice: what a printer and a binding take.
pub const MOST_STUDIES: usize = 60;
/// Margin of the title page, and its letters.
const MARGIN: Mm = 18.0;
const TITLE: Mm = 8.0;
const LINE: Mm = 3.6;

/// Some studies of a piece.
pub struct Chapter<'a> {
    /// The piece.
    pub piece: &'a Piece,
    /// Its Box.
    pub paint_box: &'a PaintBox,
    /// Which studies.
    pub studies: Vec<StudyNumber>,
}

/// Lays a booklet out: what is in it on which page first, then the studies of every piece at their true size, all on one format.
///
/// # Errors
/// When there are none, too many, or one is larger than the page.
pub fn booklet(title: &str, chapters: &[Chapter], format: PageFormat, copy: Copy) -> Result<Vec<Sheet>, String> {
    let studies: usize = chapters.iter().map(|c| c.studies.len()).sum();
    match studies {
        0 => return Err("There are no studies to print. Choose some in the journal.".into()),
        n if n > MOST_STUDIES => return Err(format!("{n} studies are more than the {MOST_STUDIES} that fit a booklet. Choose fewer.")),
        _ => {}
    }
    let laid: Vec<Vec<Sheet>> = chapters
        .iter()
        .map(|c| {
            let mut piece = c.piece.clone();
            piece.sheet.page = format;
            lay_out(&piece, c.paint_box, copy, &c.studies).map_err(|e| format!("{}: {e}", c.piece.brief.title))
        })
        .collect::<Result<_, _>>()?;
    let mut at = 2;
    let mut contents = Vec::new();
    for (c, sheets) in chapters.iter().zip(&laid) {
        contents.push((at, line(c)));
        at += sheets.len();
    }
    let mut all = vec![title_page(title, &contents, format)];
    all.extend(laid.into_iter().flatten());
    Ok(all)
}

/// What stands in the list of contents for a piece.
fn line(c: &Chapter) -> String {
    let b = &c.piece.brief;
    let numbers: Vec<String> = c.studies.iter().map(|n| n.to_string()).collect();
    let study = if numbers.len() == 1 { "study" } else { "studies" };
    format!("{}: {}, {study} {}", b.title, b.medium.name(), numbers.join(", "))
}

fn title_page(title: &str, contents: &[(usize, String)], format: PageFormat) -> Sheet {
    let (width, height) = paper(format);
    let text = |x: Mm, y: Mm, size: Mm, bold: bool, text: &str| Item::Text { x, y, size, bold, text: text.to_owned() };
    let mut marks = Vec::new();
    let mut y = MARGIN + TITLE;
    for part in wrapped(title, width - 2.0 * MARGIN, TITLE) {
        marks.push(text(MARGIN, y, TITLE, true, &part));
        y += leading(TITLE);
    }
    y += TITLE;
    for (page, line) in contents {
        marks.push(text(MARGIN, y, LINE, false, &page.to_string()));
        for part in wrapped(line, width - 2.0 * MARGIN - 12.0, LINE) {
            marks.push(text(MARGIN + 12.0, y, LINE, false, &part));
            y += leading(LINE);
        }
        y += LINE * 0.6;
    }
    Sheet { width, height, title: title.to_owned(), marks }
}
