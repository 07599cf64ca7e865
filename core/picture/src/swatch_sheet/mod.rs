//! A sheet of swatches read off its photo: cells found by the marks at its corners, perspective taken out, uneven light taken out by the bare paper
//! between them, and its strength and colour by a grey card.

mod find;
mod light;

use crate::Picture;
use crate::projection::Projection;
use lean_colour::Lab;
use lean_colour::screen::{LINEAR, xyz_of_linear};
use thiserror::Error;

/// A rectangle on the sheet in millimetres: left, top, width, height.
pub type Rect = [f64; 4];

/// Where things lie on a sheet.
#[derive(Clone, Debug, PartialEq)]
pub struct Layout {
    /// Width and height of the sheet.
    pub size: (f64, f64),
    /// Middles of the black corner marks, from the top left clockwise.
    pub marks: [(f64, f64); 4],
    /// Side of each mark.
    pub mark: f64,
    /// Middle of the small mark that says which corner is the first; half as large as the others.
    pub first: (f64, f64),
    /// Where the grey card lies.
    pub grey: Rect,
    /// Places of bare paper.
    pub bare: Vec<Rect>,
    /// The cells, in their order.
    pub cells: Vec<Rect>,
}

/// Reflectance of the grey card, the usual 18 %.
pub const GREY_CARD: f64 = 0.18;

/// What a cell reads.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Cell {
    /// Its colour under daylight.
    pub lab: Lab,
    /// How unevenly it lies: spread of light within it as a share of its mean.
    pub uneven: f64,
    /// Whether it is to be looked at: smeared, empty, in glare or clipped.
    pub doubtful: bool,
}

/// Why a photo cannot be read.
#[derive(Clone, Copy, Debug, Error, PartialEq, Eq)]
pub enum Unread {
    /// The marks are not all in sight.
    #[error(
        "The four black marks at the corners of the sheet cannot all be found. Photograph the whole sheet from straight above, with some table round it and no shadow across a corner."
    )]
    Marks,
    /// The grey card is missing.
    #[error("No grey card lies in its place on the sheet, or it is in glare or shadow. Lay it there and photograph the sheet again.")]
    Grey,
    /// The photo is too dark, or burnt out.
    #[error("The photo is too dark or too bright to read colours from. Photograph the sheet again in even daylight.")]
    Exposure,
}

/// Unevenness from which a cell is looked at again. A choice: brush marks stay below it, a smear does not.
const UNEVEN: f64 = 0.16;
/// Points across a cell that are read, and the share of its middle they lie in.
const ACROSS: usize = 14;
const MIDDLE: f64 = 0.68;

/// Reads the cells of a sheet off its photo.
///
/// # Errors
/// See [`Unread`].
pub fn read(photo: &Picture, layout: &Layout) -> Result<Vec<Cell>, Unread> {
    let to_photo = find::placed(photo, layout).ok_or(Unread::Marks)?;
    let field = light::field(photo, layout, &to_photo)?;
    let cells = layout.cells.iter().map(|rect| cell(photo, rect, &to_photo, &field));
    Ok(cells.collect())
}

fn cell(photo: &Picture, rect: &Rect, to_photo: &Projection, field: &light::Field) -> Cell {
    let points = grid(rect, ACROSS, MIDDLE);
    let mut seen: Vec<[f64; 3]> = Vec::with_capacity(points.len());
    let mut clipped = 0;
    for (x, y) in points {
        let (raw, at_end) = pixel(photo, to_photo.at(x, y));
        clipped += usize::from(at_end);
        let gain = field.gain(x, y);
        seen.push(std::array::from_fn(|c| raw[c] * gain[c]));
    }
    let median: [f64; 3] = std::array::from_fn(|c| middle(seen.iter().map(|s| s[c]).collect()));
    let y = |s: &[f64; 3]| 0.2126 * s[0] + 0.7152 * s[1] + 0.0722 * s[2];
    let mean = y(&median).max(0.01);
    let off = |s: &[f64; 3]| (0..3).map(|c| (s[c] - median[c]).powi(2)).sum::<f64>() / 3.0;
    // A dark cell is noisy of itself: noise of the camera is not unevenness of paint.
    let spread = seen.iter().map(off).sum::<f64>() / seen.len() as f64;
    let uneven = spread.sqrt() / (mean + 0.05);
    let lab = xyz_of_linear(median.map(|c| c.max(0.0))).lab();
    Cell { lab, uneven, doubtful: uneven > UNEVEN || clipped * 4 > seen.len() }
}

fn middle(mut of: Vec<f64>) -> f64 {
    of.sort_by(f64::total_cmp);
    of.get(of.len() / 2).copied().unwrap_or(0.0)
}

/// Points spread evenly over the middle part of a rectangle.
fn grid(&[x, y, w, h]: &Rect, across: usize, part: f64) -> Vec<(f64, f64)> {
    let place = |from: f64, size: f64, i: usize| from + size * (0.5 + part * ((i as f64 + 0.5) / across as f64 - 0.5));
    (0..across * across).map(|n| (place(x, w, n % across), place(y, h, n / across))).collect()
}

/// Linear light at a place in the photo, between its pixels, and whether it lies at an end of what the photo holds.
fn pixel(photo: &Picture, (x, y): (f64, f64)) -> ([f64; 3], bool) {
    let (w, h) = (f64::from(photo.width) - 1.0, f64::from(photo.height) - 1.0);
    let (x, y) = ((x - 0.5).clamp(0.0, w), (y - 0.5).clamp(0.0, h));
    let (x0, y0) = (x as u32, y as u32);
    let (x1, y1) = ((x0 + 1).min(photo.width - 1), (y0 + 1).min(photo.height - 1));
    let (fx, fy) = (x - f64::from(x0), y - f64::from(y0));
    let at = |x: u32, y: u32| photo.at(x, y);
    let four = [(at(x0, y0), (1.0 - fx) * (1.0 - fy)), (at(x1, y0), fx * (1.0 - fy)), (at(x0, y1), (1.0 - fx) * fy), (at(x1, y1), fx * fy)];
    let linear = std::array::from_fn(|c| four.iter().map(|(p, share)| share * LINEAR[usize::from(p[c])]).sum());
    let end = four[0].0.iter().any(|b| *b >= 254);
    (linear, end)
}
