//! What lies on the table of the simulated studio.

use crate::chance::Chance;
use lean_colour::{BANDS, Reflectance};
use lean_media::Pigment;

/// What lies under the head of the meter.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct World {
    /// The surface there; `None` where nothing was put down: the bare table.
    pub under: Option<Reflectance>,
    /// The white tile lies there instead.
    pub tile: bool,
    /// The cable is out.
    pub unplugged: bool,
    /// Another program holds the meter.
    pub busy: bool,
}

impl World {
    /// The surface a head set down would see.
    pub fn seen(&self) -> Reflectance {
        match (self.tile, self.under) {
            (true, _) => Reflectance::flat(TILE),
            (false, Some(r)) => r,
            (false, None) => Reflectance::flat(TABLE),
        }
    }
}

/// Reflectance of the white tile and of the grey table.
pub(crate) const TILE: f64 = 0.96;
const TABLE: f64 = 0.22;

/// A pigment as it really is in the simulated studio: up to a quarter off its model, as a whole and differently over the spectrum, the same every time
/// for one seed and pigment.
pub fn own_pigment(model: &Pigment, seed: u64) -> Pigment {
    let name = model.id.0.bytes().fold(seed, |h, b| h.wrapping_mul(0x0100_0000_01b3) ^ u64::from(b));
    let mut chance = Chance::seeded(name);
    let firm = if model.white { 0.15 } else { 1.0 };
    let mut off = || {
        let (whole, slope, bow) = (0.18 * chance.normal(), 0.1 * chance.normal(), 0.08 * chance.normal());
        move |i: usize| {
            let x = 2.0 * i as f64 / (BANDS - 1) as f64 - 1.0;
            (firm * (whole + slope * x + bow * (2.0 * x * x - 1.0))).exp()
        }
    };
    let (k, s) = (off(), off());
    Pigment {
        k: model.k.iter().enumerate().map(|(i, n)| n * k(i)).collect(),
        s: model.s.iter().enumerate().map(|(i, n)| n * s(i)).collect(),
        ..model.clone()
    }
}
