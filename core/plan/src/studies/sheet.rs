//! The study sheet: studies at true size with strokes, recipes and room to paint, laid out in millimetres.
//!
//! The layout is a list of marks on a page, y down from the top left; printers of any kind draw the same list.

use super::scheme::describe;
use crate::mixes::compare;
use crate::order_of_work::order_of_work;
use crate::wording::capital;
use lean_colour::Lab;
use lean_media::ground;
use lean_picture::outline::{self, Point};
use lean_piece::paint_box::PaintBox;
use lean_piece::{PageFormat, Piece, Study, StudyNumber};
use lean_recipes::{Mix, telling};

/// A place or length on the page in millimetres.
pub type Mm = f64;

/// One thing drawn on the page.
#[derive(Clone, Debug, PartialEq)]
pub enum Mark {
    /// A filled rectangle.
    Fill {
        /// Left, top, width, height.
        rect: [Mm; 4],
        /// Its colour.
        colour: Lab,
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
    pub marks: Vec<Mark>,
}

/// Which copy of the sheet.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Copy {
    /// Studies in colour.
    Colour,
    /// The same page with outlines to paint over.
    Outline,
}

const MARGIN: Mm = 10.0;
const HEADER: Mm = 11.0;
const FOOTER: Mm = 9.0;
const GAP: Mm = 5.0;
const TEXT_LEAST: Mm = 62.0;
/// The least height of a recipe with its name.
const LEAST_LINE: Mm = 4.6;
/// The height of a recipe under a study.
const USUAL_LINE: Mm = 6.1;
/// A recipe takes more room where there is some.
const MOST_LINE: Mm = 8.4;
const TITLE: Mm = 9.5;
/// The smallest letters that are still read on paper.
const LEAST_LETTERS: Mm = 1.7;

pub(super) fn paper(format: PageFormat) -> (Mm, Mm) {
    match format {
        PageFormat::A4 => (210.0, 297.0),
        PageFormat::Letter => (215.9, 279.4),
    }
}

/// Where things go on a page.
struct Grid {
    page: (Mm, Mm),
    study: (Mm, Mm),
    /// Text beside each study (rows), or under it (columns).
    beside: bool,
    count: usize,
    /// Height of a recipe with its name.
    line: Mm,
}

impl Grid {
    /// Rows on an upright page or columns on a lying one, whichever holds `count` studies of this size.
    fn fitting(format: PageFormat, study: (Mm, Mm), count: usize, lines: usize) -> Option<Self> {
        let (w, h) = paper(format);
        let text = TITLE + lines as f64 * LEAST_LINE;
        let n = count as f64;
        let line = |room: Mm| ((room - TITLE) / lines.max(1) as f64).clamp(LEAST_LINE, MOST_LINE);
        let down = h - 2.0 * MARGIN - HEADER - FOOTER - (n - 1.0) * GAP;
        if study.0.max(0.0) + GAP + TEXT_LEAST <= w - 2.0 * MARGIN && n * study.1.max(text) <= down {
            return Some(Self { page: (w, h), study, beside: true, count, line: line(down / n) });
        }
        let under = w - 2.0 * MARGIN - HEADER - FOOTER - study.1 - 2.0;
        let columns = n * study.0.max(TEXT_LEAST) + (n - 1.0) * GAP <= h - 2.0 * MARGIN && text <= under;
        columns.then_some(Self { page: (h, w), study, beside: false, count, line: line(under).min(USUAL_LINE) })
    }

    /// Left, top of study `i`; left, top and width of its text.
    fn place(&self, i: usize, lines: usize) -> ([Mm; 2], [Mm; 3]) {
        let top = MARGIN + HEADER;
        if self.beside {
            let step = self.study.1.max(TITLE + lines as f64 * self.line) + GAP;
            let y = top + step * i as f64;
            let x = MARGIN + self.study.0 + GAP;
            ([MARGIN, y], [x, y, self.page.0 - MARGIN - x])
        } else {
            let step = (self.page.0 - 2.0 * MARGIN + GAP) / self.count as f64;
            let x = MARGIN + step * i as f64;
            ([x, top], [x, top + self.study.1 + 2.0, step - GAP])
        }
    }
}

fn study_size(piece: &Piece) -> (Mm, Mm) {
    let long = piece.sheet.longer_side.0;
    let of_map = || piece.map().map_or(1.0, |m| f64::from(m.width) / f64::from(m.height.max(1)));
    let real = piece.reference.as_ref().filter(|r| r.width > 0 && r.height > 0);
    let aspect = real.map_or_else(of_map, |r| f64::from(r.width) / f64::from(r.height));
    if aspect >= 1.0 { (long, long / aspect) } else { (long * aspect, long) }
}

/// Lays out a piece's studies at true size, those of these numbers, or all of them when none is named: as many to a page as fit, more pages instead of
/// smaller letters.
///
/// # Errors
/// When there are no such studies, or not even one fits on a page at the chosen size; says the largest size that does.
pub fn lay_out(piece: &Piece, paint_box: &PaintBox, copy: Copy, only: &[StudyNumber]) -> Result<Vec<Sheet>, String> {
    if piece.studies.is_empty() || piece.zone_map.is_none() {
        return Err("There are no studies to print yet. Make the studies first.".into());
    }
    let studies: Vec<&Study> = piece.studies.iter().filter(|s| only.is_empty() || only.contains(&s.number)).collect();
    if studies.is_empty() {
        return Err("None of these studies is there any more. Choose others.".into());
    }
    let lines = piece.zones.len();
    let size = study_size(piece);
    let most = (1..=studies.len()).rev().find(|n| Grid::fitting(piece.sheet.page, size, *n, lines).is_some());
    let most = most.ok_or_else(|| too_large(piece, lines))?;
    // As many on each page as on the others, so that the last one is no straggler.
    let pages = studies.len().div_ceil(most);
    let (least, longer) = (studies.len() / pages, studies.len() % pages);
    let starts = (0..pages).map(|p| p * least + p.min(longer));
    let page = |studies: &[&Study]| {
        let grid = Grid::fitting(piece.sheet.page, size, studies.len(), lines)?;
        Some(page(piece, paint_box, copy, studies, &grid))
    };
    let on = |(p, start): (usize, usize)| &studies[start..start + least + usize::from(p < longer)];
    starts.enumerate().map(on).map(|s| page(s).ok_or_else(|| too_large(piece, lines))).collect()
}

fn page(piece: &Piece, paint_box: &PaintBox, copy: Copy, studies: &[&Study], grid: &Grid) -> Sheet {
    let lines = piece.zones.len();
    let mut sheet =
        Sheet { width: grid.page.0, height: grid.page.1, title: format!("{} – studies", piece.brief.title), marks: Vec::new() };
    header(&mut sheet, piece, copy);
    for (i, study) in studies.iter().enumerate() {
        let (at, text) = grid.place(i, lines);
        picture(&mut sheet, piece, study, [at[0], at[1], grid.study.0, grid.study.1], copy);
        notes(&mut sheet, piece, paint_box, study, text, grid.line);
    }
    footer(&mut sheet, piece);
    sheet
}

fn too_large(piece: &Piece, lines: usize) -> String {
    let fits = |long: f64| {
        let mut p = piece.clone();
        p.sheet.longer_side.0 = long;
        Grid::fitting(piece.sheet.page, study_size(&p), 1, lines).is_some()
    };
    let largest = (20..=300).rev().map(f64::from).find(|l| fits(*l));
    let page = if piece.sheet.page == PageFormat::A4 { "A4" } else { "Letter" };
    match largest {
        Some(l) => format!(
            "A study with a longer side of {} mm and its recipes do not fit on {page} at true size. {l} mm is the most that does.",
            piece.sheet.longer_side.0
        ),
        None => format!("A study with {lines} recipes does not fit on {page}. Join some zones first."),
    }
}

fn header(sheet: &mut Sheet, piece: &Piece, copy: Copy) {
    let ground = ground::find(&piece.brief.ground).map(|g| g.name).unwrap_or_default();
    let (w, h) = study_size(piece);
    let what = match copy {
        Copy::Colour => "studies at true size",
        Copy::Outline => "outlines to paint over, true size",
    };
    sheet.marks.push(Mark::Text { x: MARGIN, y: MARGIN + 4.2, size: 4.8, bold: true, text: piece.brief.title.clone() });
    let time = piece.intent.minutes.map(|m| format!(" · {m} minutes in all")).unwrap_or_default();
    let line = format!("{} on {ground} · {what}, {:.1} × {:.1} cm{time}", capital(piece.brief.medium.name()), w / 10.0, h / 10.0);
    sheet.marks.push(Mark::Text { x: MARGIN, y: MARGIN + 8.6, size: 3.0, bold: false, text: line });
}

fn footer(sheet: &mut Sheet, piece: &Piece) {
    let y = sheet.height - MARGIN;
    let right = sheet.width - MARGIN;
    for (a, b) in [((right - 50.0, y), (right, y)), ((right - 50.0, y - 1.5), (right - 50.0, y)), ((right, y - 1.5), (right, y))] {
        sheet.marks.push(Mark::Line { ends: [a.0, a.1, b.0, b.1], width: 0.2 });
    }
    sheet.marks.push(Mark::Text { x: right - 50.0, y: y - 2.2, size: 2.5, bold: false, text: "50 mm when printed at 100 %".into() });
    let model = if piece.brief.medium.is_wet_opaque() {
        "Colours are computed from modelled or given pigments, laid opaque. The light on paper and screen differs: trust the swatch."
    } else {
        "Colours are computed from modelled or given pigments, layer over layer on the ground. Try each on a strip of the same paper first."
    };
    // Beside the ruler on a wide page, above it on a narrow one would overlap text: cut into two short lines instead.
    for (i, line) in wrapped(model, sheet.width - 2.0 * MARGIN - 56.0, 2.5).into_iter().enumerate() {
        sheet.marks.push(Mark::Text { x: MARGIN, y: y - 2.6 + 3.0 * i as f64, size: 2.5, bold: false, text: line });
    }
}

fn picture(sheet: &mut Sheet, piece: &Piece, study: &Study, [x, y, w, h]: [Mm; 4], copy: Copy) {
    let (arcs, (gw, gh)) = arcs(piece);
    let scale = (w / f64::from(gw.max(1)), h / f64::from(gh.max(1)));
    let place = |p: &Point| (x + f64::from(p.0) * scale.0, y + f64::from(p.1) * scale.1);
    if copy == Copy::Colour
        && let Some(ground) = ground::find(&piece.brief.ground)
    {
        sheet.marks.push(Mark::Fill { rect: [x, y, w, h], colour: ground.lab });
    }
    for m in &study.mixes {
        let rings = outline::rings(&arcs, u32::from(m.zone.0)).iter().map(|r| r.iter().map(place).collect()).collect();
        let (fill, line) = match copy {
            Copy::Colour => (Some(m.mix.lab), 0.0),
            Copy::Outline => (None, 0.18),
        };
        sheet.marks.push(Mark::Shape { rings, fill, line });
    }
}

fn notes(sheet: &mut Sheet, piece: &Piece, paint_box: &PaintBox, study: &Study, [x, y, width]: [Mm; 3], line: Mm) {
    let scheme = describe(&study.scheme);
    sheet.marks.push(Mark::Text { x, y: y + 3.4, size: 3.7, bold: true, text: format!("{} · {scheme}", study.number) });
    let names: Vec<String> = study.pigments.iter().map(|p| paint_box.find(p).map_or(p.0.clone(), |p| p.name.clone())).collect();
    sheet.marks.push(Mark::Text { x, y: y + 7.2, size: 2.5, bold: false, text: cut(&names.join(", "), width, 2.5) });
    let ground = ground::find(&piece.brief.ground);
    let order = order_of_work(piece).zones;
    let laid = order.iter().filter_map(|z| study.mixes.iter().find(|m| m.zone == *z));
    for (i, m) in laid.enumerate() {
        let top = y + TITLE + i as f64 * line;
        let middle = top + (line - 1.2) / 2.0;
        if let Some(g) = &ground {
            sheet.marks.push(Mark::Fill { rect: [x, top, 17.0, line - 1.2], colour: g.lab });
        }
        sheet.marks.push(Mark::Fill { rect: [x + 1.4, top + 0.9, 14.2, line - 3.0], colour: m.mix.lab });
        let name = piece.zone_label(m.zone);
        let off = compare(m.zone, m.wanted, m.mix.clone(), piece.neutral());
        let title = format!("{} {name} · value {:.1}", m.zone.0, off.given.value.0);
        let text = |sheet: &mut Sheet, y: Mm, size: Mm, bold: bool, text: &str| {
            sheet.marks.push(Mark::Text { x: x + 19.0, y, size, bold, text: cut(text, width - 19.0, size) });
        };
        // Where many recipes share the page their letters are a little smaller.
        let body = (line * 0.45).min(2.5);
        // A recipe that is cut short cannot be mixed: it is set smaller first, then in two lines.
        let recipe = recipe_text(paint_box, &m.mix);
        let size = 2.4 * (width - 19.0) / width_of(&recipe, 2.4);
        if size >= LEAST_LETTERS {
            text(sheet, middle - 0.2 * body, body, true, &title);
            text(sheet, middle + 0.92 * body, size.min(0.96 * body), false, &recipe);
            continue;
        }
        let small = (line * 0.3).min(LEAST_LETTERS);
        text(sheet, top + 0.29 * line, small * 1.1, true, &title);
        for (n, part) in wrapped(&recipe, width - 19.0, small).iter().enumerate() {
            text(sheet, top + (0.6 + 0.31 * n as f64) * line, small, false, part);
        }
    }
}

/// A recipe on one line, in the painter's names.
pub fn recipe_text(paint_box: &PaintBox, mix: &Mix) -> String {
    telling::short(mix, &|id| paint_box.find(id).map_or_else(|| id.0.clone(), |p| p.name.clone()))
}

/// Width of a letter of the sheet's face on average, a little generous, as a share of its size.
const LETTER: f64 = 0.47;

/// About how wide a text is set.
fn width_of(text: &str, size: Mm) -> Mm {
    text.chars().count() as f64 * size * LETTER
}

fn cut(text: &str, width: Mm, size: Mm) -> String {
    if width_of(text, size) <= width {
        return text.to_owned();
    }
    let keep = ((width / (size * LETTER)) as usize).saturating_sub(1);
    text.chars().take(keep).collect::<String>().trim_end().to_owned() + "…"
}

fn wrapped(text: &str, width: Mm, size: Mm) -> Vec<String> {
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
/// Simplified edges of a piece's zones and the size of their grid.
fn arcs(piece: &Piece) -> (Vec<outline::Arc>, (u32, u32)) {
    piece.map().map_or((Vec::new(), (0, 0)), |m| (outline::arcs(m, outline::TOLERANCE), (m.width, m.height)))
}
