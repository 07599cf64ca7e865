//! A tracing at true size: outlines or the drawing itself over as many pages as it takes, with marks to join them and deep edges that continue the picture.

use super::grid::fitting;
use crate::paper::{Item, Sheet, leading, paper};
use lean_picture::outline::{self, Point};
use lean_picture::{Picture, ZoneMap};
use lean_piece::{Millimetres, PageFormat, Piece};
use serde::{Deserialize, Serialize};
use std::sync::Arc;

/// What is traced.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum TracedFrom {
    /// Outlines of the zones at the chosen brush.
    #[default]
    Outlines,
    /// The reference itself.
    Reference,
}

/// Paper round the drawing on each page, and how much pages overlap, in millimetres.
const RIM: f64 = 8.0;
const OVERLAP: f64 = 8.0;
/// Most pages.
const MOST: usize = 60;
/// Length of a cross that joins pages.
const CROSS: f64 = 3.0;

/// The pages of a tracing at true size, row by row, with `count` grid squares along the longer side (none for 0).
///
/// # Errors
/// When there is nothing to trace, or it takes too many pages.
pub fn pages(piece: &Piece, reference: Option<&Picture>, from: TracedFrom, format: PageFormat, count: u32) -> Result<Vec<Sheet>, String> {
    let map = piece.map().ok_or("There are no zones to trace yet.")?;
    if from == TracedFrom::Reference && reference.is_none() {
        return Err("There is no reference to trace. Trace the outlines instead.".into());
    }
    let edge = Millimetres::or_none(piece.intent.fit.edge);
    let (width, height) = (piece.brief.size.width.0 + 2.0 * edge, piece.brief.size.height.0 + 2.0 * edge);
    let upright = tiles(paper(format), (width, height));
    let (pw, ph) = paper(format);
    let across = tiles((ph, pw), (width, height));
    // Whichever way round takes fewer pages.
    let ((pw, ph), (columns, rows)) = if across.0 * across.1 < upright.0 * upright.1 { ((ph, pw), across) } else { ((pw, ph), upright) };
    if columns * rows > MOST {
        return Err(format!(
            "It would take {} pages of {}; {MOST} are the most. Take larger paper.",
            columns * rows,
            crate::paper::name(format)
        ));
    }
    let grid = (count > 0).then(|| fitting(piece, count, piece.brief.size)).transpose()?;
    let drawing = match from {
        TracedFrom::Outlines => rings(piece, map, edge),
        TracedFrom::Reference => Vec::new(),
    };
    let (tw, th) = (pw - 2.0 * RIM, ph - 2.0 * RIM);
    let mut sheets = Vec::new();
    for row in 0..rows {
        for column in 0..columns {
            let (left, top) = (column as f64 * (tw - OVERLAP), row as f64 * (th - OVERLAP));
            let mut sheet = Sheet { width: pw, height: ph, title: format!("{} – tracing", piece.brief.title), marks: Vec::new() };
            let window = Window { left, top, width: tw, height: th };
            if let (TracedFrom::Reference, Some(picture)) = (from, reference) {
                sheet.marks.extend(window.picture(picture, (edge, piece.brief.size.width.0, piece.brief.size.height.0)));
            }
            for ring in &drawing {
                sheet.marks.extend(window.lines(ring, 0.25));
            }
            if let Some(g) = &grid {
                let (w, h) = (piece.brief.size.width.0, piece.brief.size.height.0);
                for x in g.lines_across.iter().map(|m| m.0 + edge) {
                    sheet.marks.extend(window.lines(&[(x, edge), (x, edge + h)], 0.1));
                }
                for y in g.lines_down.iter().map(|m| m.0 + edge) {
                    sheet.marks.extend(window.lines(&[(edge, y), (edge + w, y)], 0.1));
                }
            }
            let frame = |d: f64| [(d, d), (width - d, d), (width - d, height - d), (d, height - d), (d, d)];
            sheet.marks.extend(window.lines(&frame(0.0), 0.3));
            if edge > 0.0 {
                sheet.marks.extend(window.lines(&frame(edge), 0.15));
            }
            sheet.marks.extend(joins(&window, (column, row), (columns, rows)));
            sheet.marks.extend(label(piece, (column, row), (columns, rows), (pw, ph)));
            sheets.push(sheet);
        }
    }
    Ok(sheets)
}

/// Pages across and down that a drawing of some size takes.
fn tiles((pw, ph): (f64, f64), (w, h): (f64, f64)) -> (usize, usize) {
    let of = |page: f64, length: f64| {
        let free = page - 2.0 * RIM;
        if length <= free { 1 } else { ((length - free) / (free - OVERLAP)).ceil() as usize + 1 }
    };
    (of(pw, w), of(ph, h))
}

/// The part of the drawing a page shows.
struct Window {
    left: f64,
    top: f64,
    width: f64,
    height: f64,
}

impl Window {
    /// A run of points as lines on the page, cut at its window.
    fn lines(&self, points: &[(f64, f64)], width: f64) -> Vec<Item> {
        points
            .windows(2)
            .filter_map(|w| self.cut(w[0], w[1]))
            .map(|[x0, y0, x1, y1]| Item::Line { ends: [x0, y0, x1, y1], width })
            .collect()
    }

    /// A line cut at the window (Liang & Barsky 1984), on the page.
    fn cut(&self, (x0, y0): (f64, f64), (x1, y1): (f64, f64)) -> Option<[f64; 4]> {
        let (dx, dy) = (x1 - x0, y1 - y0);
        let (mut from, mut to) = (0.0f64, 1.0f64);
        let sides = [(-dx, x0 - self.left), (dx, self.left + self.width - x0), (-dy, y0 - self.top), (dy, self.top + self.height - y0)];
        for (p, q) in sides {
            if p == 0.0 {
                if q < 0.0 {
                    return None;
                }
            } else if p < 0.0 {
                from = from.max(q / p);
            } else {
                to = to.min(q / p);
            }
        }
        let at = |t: f64| (x0 + t * dx - self.left + RIM, y0 + t * dy - self.top + RIM);
        (from < to).then(|| {
            let (a, b) = (at(from), at(to));
            [a.0, a.1, b.0, b.1]
        })
    }

    /// The part of a picture that lies in the window, with its edges drawn on outwards by mirroring where they are deep.
    fn picture(&self, picture: &Picture, (edge, w, h): (f64, f64, f64)) -> Option<Item> {
        const PER_MM: f64 = 5.0;
        let width = self.width.min(w + 2.0 * edge - self.left);
        let height = self.height.min(h + 2.0 * edge - self.top);
        if width <= 0.0 || height <= 0.0 {
            return None;
        }
        let (pw, ph) = ((width * PER_MM) as u32, (height * PER_MM) as u32);
        let mirrored = |at: f64, length: f64| {
            let t = at / length;
            let t = if t < 0.0 {
                -t
            } else if t > 1.0 {
                2.0 - t
            } else {
                t
            };
            t.clamp(0.0, 1.0 - 1e-9)
        };
        let mut rgb = Vec::with_capacity((pw * ph * 3) as usize);
        for y in 0..ph {
            for x in 0..pw {
                let u = mirrored(self.left + (f64::from(x) + 0.5) / PER_MM - edge, w);
                let v = mirrored(self.top + (f64::from(y) + 0.5) / PER_MM - edge, h);
                rgb.extend(picture.at((u * f64::from(picture.width)) as u32, (v * f64::from(picture.height)) as u32));
            }
        }
        let part = Picture { width: pw.max(1), height: ph.max(1), rgb };
        (pw > 0 && ph > 0).then(|| Item::Picture { rect: [RIM, RIM, width, height], picture: Arc::new(part) })
    }
}

/// Outlines of all zones in millimetres on the drawing. Where edges are deep, what reaches the rim goes on straight over it.
fn rings(piece: &Piece, map: &ZoneMap, edge: f64) -> Vec<Vec<(f64, f64)>> {
    let size = piece.brief.size;
    // It is laid as large as the piece holds it, in its middle.
    let scale = (size.width.0 / f64::from(map.width)).min(size.height.0 / f64::from(map.height));
    let off = ((size.width.0 - scale * f64::from(map.width)) / 2.0, (size.height.0 - scale * f64::from(map.height)) / 2.0);
    let arcs = outline::arcs(map, 0.6);
    let rims = (f64::from(map.width), f64::from(map.height));
    let place = |p: &Point| (edge + off.0 + f64::from(p.0) * scale, edge + off.1 + f64::from(p.1) * scale);
    let on_rim = |p: &Point| p.0 <= 0.0 || p.1 <= 0.0 || f64::from(p.0) >= rims.0 || f64::from(p.1) >= rims.1;
    let mut all: Vec<Vec<(f64, f64)>> = Vec::new();
    for arc in &arcs {
        // What runs along the rim is the frame, not an outline.
        if arc.points.iter().all(on_rim) {
            continue;
        }
        all.push(arc.points.iter().map(place).collect());
        if edge > 0.0 {
            for end in [arc.points.first(), arc.points.last()].into_iter().flatten().filter(|p| on_rim(p)) {
                let (x, y) = place(end);
                let to = match () {
                    () if end.0 <= 0.0 => (x - edge, y),
                    () if end.1 <= 0.0 => (x, y - edge),
                    () if f64::from(end.0) >= rims.0 => (x + edge, y),
                    () => (x, y + edge),
                };
                all.push(vec![(x, y), to]);
            }
        }
    }
    all
}

/// Crosses in the overlap by which two pages are laid over each other.
fn joins(window: &Window, (column, row): (usize, usize), (columns, rows): (usize, usize)) -> Vec<Item> {
    let mut at = Vec::new();
    let middle = OVERLAP / 2.0;
    let along = |length: f64| [0.25 * length, 0.75 * length];
    if column > 0 {
        at.extend(along(window.height).map(|y| (middle, y)));
    }
    if column + 1 < columns {
        at.extend(along(window.height).map(|y| (window.width - middle, y)));
    }
    if row > 0 {
        at.extend(along(window.width).map(|x| (x, middle)));
    }
    if row + 1 < rows {
        at.extend(along(window.width).map(|x| (x, window.height - middle)));
    }
    at.into_iter()
        .flat_map(|(x, y)| {
            let (x, y) = (x + RIM, y + RIM);
            [[x - CROSS, y, x + CROSS, y], [x, y - CROSS, x, y + CROSS]].map(|ends| Item::Line { ends, width: 0.2 })
        })
        .collect()
}

fn label(piece: &Piece, (column, row): (usize, usize), (columns, rows): (usize, usize), (_, ph): (f64, f64)) -> Vec<Item> {
    let text = format!(
        "{} · page {} of {}: row {}, column {} · lay cross on cross · 50 mm:",
        piece.brief.title,
        row * columns + column + 1,
        columns * rows,
        row + 1,
        column + 1
    );
    let y = ph - RIM + leading(2.4) + 0.6;
    let x = RIM + text.chars().count() as f64 * 2.4 * 0.47 + 2.0;
    vec![Item::Text { x: RIM, y, size: 2.4, bold: false, text }, Item::Line { ends: [x, y - 0.8, x + 50.0, y - 0.8], width: 0.3 }]
}
