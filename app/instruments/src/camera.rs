//! A camera held over a page: perspective, uneven light of a wrong colour, noise.

use crate::chance::Chance;
pub use lean_picture::Picture;
use lean_picture::projection::{Projection, projection};

/// How a page lies before the camera, and in what light.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Shot {
    /// Where the corners of the page lie in the picture, from the top left clockwise, as shares of its width and height.
    pub corners: [(f64, f64); 4],
    /// Light from the left to the right edge, and from top to bottom, relative to the middle: 0.2 is a fifth brighter at the far edge.
    pub falls: (f64, f64),
    /// The colour of the light on red, green and blue.
    pub tint: [f64; 3],
    /// Noise, one standard deviation in bytes.
    pub noise: f64,
    /// Pixels across the picture.
    pub width: u32,
    /// Pixels down.
    pub height: u32,
}

/// A camera, real or simulated.
pub trait Camera {
    /// Takes a picture of a page.
    fn take(&mut self, page: &Picture, shot: &Shot) -> Picture;
}

/// A simulated camera.
#[derive(Clone, Debug)]
pub struct SimulatedCamera {
    chance: Chance,
}

impl SimulatedCamera {
    /// A camera whose noise is the same every time for one seed.
    pub fn seeded(seed: u64) -> Self {
        Self { chance: Chance::seeded(seed) }
    }
}

/// What lies beside the page: a dark table, in linear light.
const TABLE: [f64; 3] = [0.06, 0.055, 0.05];

impl Camera for SimulatedCamera {
    fn take(&mut self, page: &Picture, shot: &Shot) -> Picture {
        let (w, h) = (shot.width, shot.height);
        let corners = shot.corners.map(|(x, y)| (x * f64::from(w), y * f64::from(h)));
        let unit = [(0.0, 0.0), (1.0, 0.0), (1.0, 1.0), (0.0, 1.0)];
        let to_page = projection(&corners, &unit).unwrap_or(Projection::IDENTITY);
        let mut rgb = Vec::with_capacity((w * h * 3) as usize);
        for y in 0..h {
            for x in 0..w {
                let (u, v) = to_page.at(f64::from(x) + 0.5, f64::from(y) + 0.5);
                let seen = sampled(page, u, v);
                let light =
                    (1.0 + shot.falls.0 * (f64::from(x) / f64::from(w) - 0.5)) * (1.0 + shot.falls.1 * (f64::from(y) / f64::from(h) - 0.5));
                for (linear, tint) in seen.iter().zip(shot.tint) {
                    let byte = f64::from(lean_colour::screen::grey_byte((linear * light * tint).clamp(0.0, 1.0)));
                    rgb.push((byte + shot.noise * self.chance.normal()).round().clamp(0.0, 255.0) as u8);
                }
            }
        }
        Picture { width: w, height: h, rgb }
    }
}

/// Linear light of a page at shares of its width and height, or of the table beside it.
fn sampled(page: &Picture, u: f64, v: f64) -> [f64; 3] {
    if !(0.0..1.0).contains(&u) || !(0.0..1.0).contains(&v) {
        return TABLE;
    }
    let at = |share: f64, n: u32| ((share * f64::from(n)) as u32).min(n - 1);
    page.at(at(u, page.width), at(v, page.height)).map(|byte| lean_colour::screen::LINEAR[usize::from(byte)])
}
