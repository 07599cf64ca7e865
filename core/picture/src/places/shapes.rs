//! Shapes of a picture, and the brushes they are looked at with.

use super::cells::EvenColour;

/// Largest brush, as a share of the longer side.
pub const LARGEST: f64 = 0.1;
/// Smallest brush.
pub const SMALLEST: f64 = 1.0 / 150.0;
/// The brush a new picture is shown at.
pub const MIDDLE: f64 = 1.0 / 40.0;
/// The brush colours are looked for at: finer than the middle one, coarser than grain.
pub(super) const FINE: f64 = 1.0 / 60.0;

/// Patches joined to shapes at one brush.
pub struct Shapes {
    /// Shape of every patch: the number of the patch that stands for it.
    pub of_patch: Vec<u32>,
    /// Every shape at the number of the patch that stands for it; empty elsewhere.
    pub all: Vec<Shape>,
    /// Shapes beside each, with the cells of border they share.
    pub next_to: Vec<Vec<(u32, u32)>>,
    /// Cells of the smallest mark of the brush.
    pub least: f32,
    /// Cells over which an edge is spread because the picture had to be enlarged.
    pub blur: f32,
}

/// One shape.
#[derive(Clone, Copy, Default)]
pub struct Shape {
    /// Number of cells.
    pub cells: f32,
    /// Mean look; in a run, of what is left when its change is taken out.
    pub look: EvenColour,
    /// Mean column and row.
    pub middle: (f32, f32),
    /// The run most of it lies in.
    pub run: Option<usize>,
}
