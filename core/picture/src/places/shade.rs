//! A colour of a picture.

use super::cells::EvenColour;

/// Power of a colour's share of the picture in its weight. A choice between 1 (area alone) and 0 (every colour alike).
pub(crate) const RARE: f32 = 0.75;

/// One of the colours told apart.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct Shade {
    /// Its look; of a run, the mean.
    pub look: EvenColour,
    /// The smooth run it is, from 0.
    pub run: Option<usize>,
    /// Its weight.
    pub weight: f32,
    /// A cell of the mass it lies in; `None` where it lies wherever it is found.
    pub within: Option<(u16, u16)>,
}
