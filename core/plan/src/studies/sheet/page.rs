//! One page drawn.

use super::arrange::{Column, Page};
use super::notes::{BESIDE_SWATCH, Noted, SWATCH, TITLE, TRIALS};
use super::{Copy, MARGIN};
use crate::drawing::is_drawing;
use crate::paper::{Item, Mm, Sheet, leading, wrapped};
use crate::planned::painted_study;
use crate::wording::capital;
use lean_media::ground;
use lean_picture::outline::{self, Point};
use lean_piece::{Piece, Study};
use std::sync::Arc;

/// Pixels to the inch of painted pictures on paper.
const PIXELS_PER_INCH: f64 = 200.0;
/// How far from a study the tape that masks it begins and ends, and how long its marks are.
const TAPE: (Mm, Mm, Mm) = (0.8, 2.2, 4.0);

pub(super) fn drawn(piece: &Piece, studies: &[&Study], noted: &[Noted], page: &Page, copy: Copy) -> Sheet {
    let (width, height) = page.size;
    let mut sheet = Sheet { width, height, title: format!("{} – studies", piece.brief.title), marks: Vec::new() };
    header(&mut sheet, piece, copy, page);
    for (i, rect) in &page.pictures {
        picture(&mut sheet, piece, studies[*i], *rect, copy);
        tape(&mut sheet, *rect);
    }
    for column in &page.columns {
        notes(&mut sheet, piece, &noted[column.study], column, page.letters);
    }
    footer(&mut sheet, piece);
    sheet
}

fn header(sheet: &mut Sheet, piece: &Piece, copy: Copy, page: &Page) {
    let ground = ground::find(&piece.brief.ground).map(|g| g.name).unwrap_or_default();
    let (w, h) = super::study_size(piece, piece.sheet.longer_side.0);
    let what = match copy {
        Copy::Painted | Copy::Flat => "studies at true size",
        Copy::Outline => "outlines to paint over, true size",
    };
    sheet.marks.push(Item::Text { x: MARGIN, y: MARGIN + 4.2, size: 4.8, bold: true, text: piece.brief.title.clone() });
    let time = piece.intent.minutes.map(|m| format!(" · {m} minutes in all")).unwrap_or_default();
    let line = format!("{} on {ground} · {what}, {:.1} × {:.1} cm{time}", capital(piece.brief.medium.name()), w / 10.0, h / 10.0);
    let room = page.size.0 - 2.0 * MARGIN;
    for (i, line) in wrapped(&line, room, 3.0).into_iter().take(2).enumerate() {
        sheet.marks.push(Item::Text {
            x: MARGIN,
            y: MARGIN + 8.2 + 2.9 * i as f64,
            size: if i == 0 { 3.0 } else { 2.4 },
            bold: false,
            text: line,
        });
    }
}

fn footer(sheet: &mut Sheet, piece: &Piece) {
    let y = sheet.height - MARGIN;
    let right = sheet.width - MARGIN;
    for (a, b) in [((right - 50.0, y), (right, y)), ((right - 50.0, y - 1.5), (right - 50.0, y)), ((right, y - 1.5), (right, y))] {
        sheet.marks.push(Item::Line { ends: [a.0, a.1, b.0, b.1], width: 0.2 });
    }
    sheet.marks.push(Item::Text { x: right - 50.0, y: y - 2.2, size: 2.5, bold: false, text: "50 mm when printed at 100 %".into() });
    let model = if piece.brief.medium.is_wet_opaque() {
        "Colours are computed from modelled or given pigments, laid opaque. The light on paper and screen differs: trust the swatch."
    } else {
        "Colours are computed from modelled or given pigments, layer over layer on the ground. Try each on a strip of the same paper first."
    };
    // Beside the ruler on a wide page, above it on a narrow one would overlap text: cut into short lines instead.
    for (i, line) in wrapped(model, sheet.width - 2.0 * MARGIN - 56.0, 2.2).into_iter().enumerate() {
        sheet.marks.push(Item::Text { x: MARGIN, y: y - 4.6 + 2.7 * i as f64, size: 2.2, bold: false, text: line });
    }
}

fn picture(sheet: &mut Sheet, piece: &Piece, study: &Study, rect: [Mm; 4], copy: Copy) {
    let [x, y, w, h] = rect;
    if copy == Copy::Painted {
        let across = (w / 25.4 * PIXELS_PER_INCH).round().clamp(40.0, 3600.0) as u32;
        sheet.marks.extend(painted_study(piece, study, across).map(|p| Item::Picture { rect, picture: Arc::new(p) }));
        return;
    }
    let Some(map) = piece.map() else { return };
    let arcs = outline::arcs(map, outline::TOLERANCE);
    let scale = (w / f64::from(map.width.max(1)), h / f64::from(map.height.max(1)));
    let place = |p: &Point| (x + f64::from(p.0) * scale.0, y + f64::from(p.1) * scale.1);
    if copy == Copy::Flat
        && let Some(ground) = ground::find(&piece.brief.ground)
    {
        sheet.marks.push(Item::Fill { rect, colour: ground.lab });
    }
    for m in &study.mixes {
        let rings = outline::rings(&arcs, u32::from(m.zone.0)).iter().map(|r| r.iter().map(place).collect()).collect();
        // Of a drawing the lines are always there.
        let outlined = if is_drawing(piece) { 0.18 } else { 0.0 };
        let (fill, line) = if copy == Copy::Flat { (Some(m.mix.lab), outlined) } else { (None, 0.18) };
        sheet.marks.push(Item::Shape { rings, fill, line });
    }
}

/// Marks at the corners between which masking tape is laid round a study.
fn tape(sheet: &mut Sheet, [x, y, w, h]: [Mm; 4]) {
    let (near, far, long) = TAPE;
    for (cx, sx) in [(x, -1.0), (x + w, 1.0)] {
        for (cy, sy) in [(y, -1.0), (y + h, 1.0)] {
            for off in [near, near + far] {
                let (px, py) = (cx + sx * off, cy + sy * off);
                sheet.marks.push(Item::Line { ends: [px, py, px - sx * long, py], width: 0.08 });
                sheet.marks.push(Item::Line { ends: [px, py, px, py - sy * long], width: 0.08 });
            }
        }
    }
}

fn notes(sheet: &mut Sheet, piece: &Piece, noted: &Noted, column: &Column, letters: Mm) {
    let [x, top, width] = column.at;
    let mut y = top;
    let say = |sheet: &mut Sheet, x: Mm, width: Mm, y: &mut Mm, size: Mm, bold: bool, text: &str| {
        for line in wrapped(text, width, size) {
            *y += leading(size);
            sheet.marks.push(Item::Text { x, y: *y - 0.3 * size, size, bold, text: line });
        }
    };
    if column.head {
        say(sheet, x, width, &mut y, TITLE, true, &noted.title);
        say(sheet, x, width, &mut y, letters, false, &noted.set);
        y += 1.4;
    }
    for line in &noted.lines[column.lines.clone()] {
        let height = line.height(width, letters) - 1.1;
        strokes(sheet, piece, [x, y, SWATCH, height], line);
        let (x, width) = (x + BESIDE_SWATCH, width - BESIDE_SWATCH);
        say(sheet, x, width, &mut y, letters, true, &line.title);
        say(sheet, x, width, &mut y, letters, false, &line.recipe);
        y += 1.1;
    }
    if column.trials {
        trials(sheet, [x, y + 1.0, width], letters);
    }
}

/// A swatch of a mix on its ground; of a run, its mixes one beside the other.
fn strokes(sheet: &mut Sheet, piece: &Piece, [x, y, w, h]: [Mm; 4], line: &super::notes::Line) {
    if let Some(g) = ground::find(&piece.brief.ground) {
        sheet.marks.push(Item::Fill { rect: [x, y, w, h], colour: g.lab });
    }
    let each = (w - 2.8) / line.colours.len().max(1) as f64;
    for (i, colour) in line.colours.iter().enumerate() {
        sheet.marks.push(Item::Fill { rect: [x + 1.4 + each * i as f64, y + 0.9, each, h - 1.8], colour: *colour });
    }
}

/// Empty boxes for trials, and room for the minutes.
fn trials(sheet: &mut Sheet, [x, y, width]: [Mm; 3], letters: Mm) {
    let side = TRIALS - 3.0;
    let count = (((width - 24.0) / (side + 1.5)) as usize).clamp(2, 5);
    for i in 0..count {
        let left = x + i as f64 * (side + 1.5);
        let ring = vec![(left, y), (left + side, y), (left + side, y + side), (left, y + side)];
        sheet.marks.push(Item::Shape { rings: vec![ring], fill: None, line: 0.12 });
    }
    let at = x + count as f64 * (side + 1.5) + 1.0;
    sheet.marks.push(Item::Text { x: at, y: y + letters, size: letters, bold: false, text: "trials".into() });
    sheet.marks.push(Item::Text { x: at, y: y + side - 0.6, size: letters, bold: false, text: "minutes".into() });
    sheet
        .marks
        .push(Item::Line { ends: [at + 4.2 * letters, y + side, (at + 4.2 * letters + 12.0).min(x + width), y + side], width: 0.12 });
}
