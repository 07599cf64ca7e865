//! Where studies and their notes go: pages, places, columns of text.

use super::notes::{LETTERS, Noted, TRIALS};
use super::{FOOTER, GAP, HEADER, MARGIN};
use crate::paper::{Mm, paper};
use lean_piece::PageFormat;

/// The least width in which recipes are still read.
const TEXT_LEAST: Mm = 62.0;

/// A stretch of text: which lines of a study's notes, and where.
pub(super) struct Column {
    /// The study, by its place among those printed.
    pub study: usize,
    /// Left, top, width.
    pub at: [Mm; 3],
    /// Lines of recipes from and to (excluded).
    pub lines: std::ops::Range<usize>,
    /// Whether title and set stand above them.
    pub head: bool,
    /// Whether boxes for trials stand under them.
    pub trials: bool,
}

/// One page.
pub(super) struct Page {
    /// Width and height of the paper as it lies.
    pub size: (Mm, Mm),
    /// Studies by their place among those printed, with left, top, width and height of their picture.
    pub pictures: Vec<(usize, [Mm; 4])>,
    /// What is said of them.
    pub columns: Vec<Column>,
    /// Size of the letters of recipes.
    pub letters: Mm,
}

/// All pages: as many studies to each as fit, as evenly as they can be parted, in the largest letters that need no further page. `None` when a study is
/// larger than the page.
pub(super) fn arranged(format: PageFormat, study: (Mm, Mm), noted: &[Noted]) -> Option<Vec<Page>> {
    picture_fits(format, study).then_some(())?;
    let evenly = |pages: usize| -> Option<Vec<Page>> {
        let (least, longer) = (noted.len() / pages, noted.len() % pages);
        let start = |p: usize| p * least + p.min(longer);
        let all = |letters: Mm| (0..pages).map(|p| together(format, study, noted, start(p)..start(p + 1), letters)).collect();
        LETTERS.iter().find_map(|letters| all(*letters))
    };
    (1..=noted.len()).find_map(evenly).or_else(|| Some(noted.iter().enumerate().flat_map(|(i, n)| flowing(format, study, i, n)).collect()))
}

/// Whether a study without a word about it fits on the page, either way round.
pub(crate) fn picture_fits(format: PageFormat, (w, h): (Mm, Mm)) -> bool {
    let (pw, ph) = paper(format);
    let room = |w: Mm, h: Mm| (w - 2.0 * MARGIN, h - 2.0 * MARGIN - HEADER - FOOTER);
    [room(pw, ph), room(ph, pw)].iter().any(|(rw, rh)| w <= *rw && h <= *rh)
}

/// Some studies with all that is said of them on one page: in rows, each with its text beside it, or in columns on a lying page, each with its text
/// under it.
fn together(format: PageFormat, study: (Mm, Mm), noted: &[Noted], which: std::ops::Range<usize>, letters: Mm) -> Option<Page> {
    let (w, h) = paper(format);
    let column = |study: usize, at: [Mm; 3]| Column { study, at, lines: 0..noted[study].lines.len(), head: true, trials: true };
    let n = which.len() as f64;
    let text = w - 2.0 * MARGIN - study.0 - GAP;
    if text >= TEXT_LEAST {
        let heights: Vec<Mm> = which.clone().map(|i| noted[i].height(text, letters).max(study.1)).collect();
        let room = h - 2.0 * MARGIN - HEADER - FOOTER;
        let used = heights.iter().sum::<f64>() + (n - 1.0) * GAP;
        if used <= room {
            // What is left over parts the studies.
            let between = GAP + ((room - used) / n).min(GAP);
            let tops = heights.iter().scan(MARGIN + HEADER, |y, h| {
                let top = *y;
                *y += h + between;
                Some(top)
            });
            let tops: Vec<Mm> = tops.collect();
            return Some(Page {
                size: (w, h),
                pictures: which.clone().zip(&tops).map(|(i, y)| (i, [MARGIN, *y, study.0, study.1])).collect(),
                columns: which.zip(&tops).map(|(i, y)| column(i, [MARGIN + study.0 + GAP, *y, text])).collect(),
                letters,
            });
        }
    }
    let (w, h) = (h, w);
    let step = (w - 2.0 * MARGIN + GAP) / n;
    let text = step - GAP;
    let under = h - 2.0 * MARGIN - HEADER - FOOTER - study.1 - 3.0;
    let fits = text >= study.0.max(TEXT_LEAST) && which.clone().all(|i| noted[i].height(text, letters) <= under);
    let x = |i: usize| MARGIN + step * (i - which.start) as f64;
    let top = MARGIN + HEADER;
    fits.then(|| Page {
        size: (w, h),
        pictures: which.clone().map(|i| (i, [x(i), top, study.0, study.1])).collect(),
        columns: which.clone().map(|i| column(i, [x(i), top + study.1 + 3.0, text])).collect(),
        letters,
    })
}

/// One study on pages of its own: what is said of it begins under it and goes on in columns overleaf.
fn flowing(format: PageFormat, study: (Mm, Mm), nth: usize, noted: &Noted) -> Vec<Page> {
    let letters = LETTERS[LETTERS.len() - 1];
    let (pw, ph) = paper(format);
    let upright = study.0 <= pw - 2.0 * MARGIN && study.1 <= ph - 2.0 * MARGIN - HEADER - FOOTER;
    let (w, h) = if upright { (pw, ph) } else { (ph, pw) };
    let top = MARGIN + HEADER;
    let bottom = h - MARGIN - FOOTER;
    let columns = (((w - 2.0 * MARGIN + GAP) / (TEXT_LEAST + GAP)) as usize).max(1);
    let step = (w - 2.0 * MARGIN + GAP) / columns as f64;
    let width = step - GAP;
    let mut pages = vec![Page { size: (w, h), pictures: vec![(nth, [MARGIN, top, study.0, study.1])], columns: Vec::new(), letters }];
    let (mut column, mut from) = (0, top + study.1 + 3.0);
    let mut line = 0;
    let mut head = true;
    loop {
        if column == columns {
            pages.push(Page { size: (w, h), pictures: Vec::new(), columns: Vec::new(), letters });
            (column, from) = (0, top);
        }
        let mut y = from + if head { noted.head(width, letters) } else { 0.0 };
        let first = line;
        while line < noted.lines.len() && y + noted.lines[line].height(width, letters) <= bottom {
            y += noted.lines[line].height(width, letters);
            line += 1;
        }
        let trials = line == noted.lines.len() && y + TRIALS <= bottom;
        // A column that holds nothing is left empty, unless a whole page would.
        if line > first || trials || from == top {
            // A recipe taller than a page is no recipe; it is set where it stands rather than for ever sought room for.
            line = line.max((first + usize::from(line == first && !trials)).min(noted.lines.len()));
            let at = [MARGIN + step * column as f64, from, width];
            pages.last_mut().into_iter().for_each(|p| p.columns.push(Column { study: nth, at, lines: first..line, head, trials }));
            head = false;
        }
        if trials {
            return pages;
        }
        column += 1;
    }
}
