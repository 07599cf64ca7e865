//! The drawing part of `lean-swatch plan DRAWING --drawing --studies N`: shapes, a plan of their values, and so many colourings side by side.

use super::made::{Colour, Recipe, recipe};
use crate::pictures::png;
use lean_colour::difference::ciede2000;
use lean_picture::Picture;
use lean_picture::line_drawing::LineArt;
use lean_piece::paint_box::PaintBox;
use lean_piece::{Piece, Study};
use lean_plan::drawing::alike;
use lean_plan::planned::painted_study;
use lean_plan::requests::Request;
use lean_plan::studies::variants::COUNT;
use lean_plan::studies::{StudyKind, make, scheme};
use lean_search::Tables;
use lean_search::progress::Unwatched;
use serde::Serialize;
use std::path::Path;

/// The whole answer.
#[derive(Serialize)]
pub(super) struct Printed {
    recognised: &'static str,
    shapes: Vec<Shape>,
    studies: Vec<Coloured>,
}

#[derive(Serialize)]
struct Shape {
    id: u16,
    area: f64,
    /// Shapes that mirror it.
    like: Vec<u16>,
}

#[derive(Serialize)]
struct Coloured {
    scheme: String,
    set: Vec<String>,
    /// Mean CIEDE2000 of what is given from what is wanted, by area.
    miss: f64,
    shapes: Vec<Given>,
}

#[derive(Serialize)]
struct Given {
    id: u16,
    target: Colour,
    given: Colour,
    recipe: Recipe,
}

/// Studies of a drawing when no number is given.
const USUAL: usize = 9;
/// The plan of the values that is followed.
const VALUES: u8 = 2;
/// Pixels across each study, and between them.
const ACROSS: u32 = 480;
const BETWEEN: u32 = 12;

/// Colours a drawing whose shapes are still open, and writes the colourings as one picture.
pub(super) fn run(
    (studies, out): (Option<usize>, &Path),
    piece: &Piece,
    paint_box: &PaintBox,
    drawing: &Picture,
) -> Result<Printed, String> {
    let count = studies.unwrap_or(USUAL);
    if !COUNT.contains(&count) {
        return Err(format!("{count} studies: ask for {} to {}", COUNT.start(), COUNT.end()));
    }
    let values = Request::PlanValues { plan: VALUES, keep: Vec::new() };
    let values = values.into_command(piece, Some(paint_box), None).map_err(|e| e.to_string())?;
    let piece = piece.apply(values).map_err(|e| e.to_string())?.0;
    let kinds = StudyKind::usual(&piece, count);
    let made = make(&piece, paint_box, &Tables::default(), &kinds, &Unwatched, &|_| {}).map_err(|e| e.to_string())?;
    let lines = LineArt::of(drawing);
    let pictures: Vec<Picture> = made.iter().filter_map(|s| painted_study(&piece, s, ACROSS)).map(|p| lines.over(p)).collect();
    let sheet = side_by_side(&pictures).ok_or("that drawing makes no shapes")?;
    std::fs::write(out, png(&sheet).map_err(|p| p.detail)?).map_err(|e| format!("{}: {e}", out.display()))?;
    let groups = alike(&piece);
    let like = |id| groups.iter().filter(|g| g.contains(&id)).flatten().filter(|other| **other != id).map(|z| z.0).collect();
    Ok(Printed {
        recognised: "drawing",
        shapes: piece.zones.iter().map(|z| Shape { id: z.id.0, area: z.reading.area, like: like(z.id) }).collect(),
        studies: made.iter().map(|s| coloured(&piece, paint_box, s)).collect(),
    })
}

fn coloured(piece: &Piece, paint_box: &PaintBox, study: &Study) -> Coloured {
    let name = |id| paint_box.find(id).map_or_else(String::new, |p| p.name.clone());
    let area = |m: &lean_piece::StudyMix| piece.zone(m.zone).map_or(0.0, |z| z.reading.area);
    let total: f64 = study.mixes.iter().map(area).sum::<f64>().max(f64::MIN_POSITIVE);
    Coloured {
        scheme: scheme::describe(&study.scheme),
        set: study.pigments.iter().map(name).collect(),
        miss: study.mixes.iter().map(|m| area(m) * ciede2000(m.wanted, m.mix.lab)).sum::<f64>() / total,
        shapes: study
            .mixes
            .iter()
            .map(|m| Given { id: m.zone.0, target: Colour::of(m.wanted), given: Colour::of(m.mix.lab), recipe: recipe(paint_box, &m.mix) })
            .collect(),
    }
}

/// Pictures of one size in rows of three on a middle grey; `None` without any.
fn side_by_side(pictures: &[Picture]) -> Option<Picture> {
    const COLUMNS: u32 = 3;
    const GREY: u8 = 134;
    let first = pictures.first()?;
    let columns = COLUMNS.min(pictures.len() as u32);
    let rows = (pictures.len() as u32).div_ceil(COLUMNS);
    let (w, h) = (columns * (first.width + BETWEEN) + BETWEEN, rows * (first.height + BETWEEN) + BETWEEN);
    let mut rgb = vec![GREY; (w * h * 3) as usize];
    for (n, picture) in pictures.iter().enumerate() {
        let (column, row) = (n as u32 % COLUMNS, n as u32 / COLUMNS);
        let (left, top) = (BETWEEN + column * (first.width + BETWEEN), BETWEEN + row * (first.height + BETWEEN));
        for y in 0..picture.height {
            let from = (y * picture.width * 3) as usize;
            let to = (((top + y) * w + left) * 3) as usize;
            let bytes = (picture.width * 3) as usize;
            rgb[to..to + bytes].copy_from_slice(&picture.rgb[from..from + bytes]);
        }
    }
    Some(Picture { width: w, height: h, rgb })
}
