//! The hand of each medium: how much more or less paint lies at a pixel. All numbers are choices, made by looking.

use super::Painting;
use super::noise::{hashed, rough, smooth};

/// Which hand.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Hand {
    /// Broken strokes over a tooth.
    Pastel,
    /// Hatching over a tooth.
    Pencil,
    /// Pools with rims and grain.
    Wash,
    /// Flat passes that overlap.
    Ink,
    /// Dabs of a loaded brush.
    Dabs,
}

/// What lies at a pixel.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct Texture {
    /// Share of the ground that this hand leaves bare over a few strokes.
    pub bare: f32,
    /// How much of this pixel is covered, 0..=1; 1 − `bare` in the mean.
    pub cover: f32,
    /// How much more light it sends back than its mean, as a share.
    pub lighter: f32,
}

impl Hand {
    /// How far edges swing, in brushes.
    pub(super) fn edge(self) -> f32 {
        match self {
            Self::Pastel => 0.26,
            Self::Pencil => 0.14,
            Self::Wash => 0.16,
            Self::Ink => 0.1,
            Self::Dabs => 0.24,
        }
    }

    /// Whether paint gathers at the rim of a place.
    pub(super) fn has_rims(self) -> bool {
        matches!(self, Self::Wash | Self::Ink)
    }

    /// The mark at a pixel of a zone; `rim` is how far its edge is, 0 at it and 1 from a brush on.
    pub(super) fn mark(self, (x, y): (f32, f32), painting: Painting, zone: u16, rim: f32) -> Texture {
        let Painting { brush, seed, .. } = painting;
        let own = seed ^ u32::from(zone).wrapping_mul(0x9E37);
        match self {
            Self::Pastel => {
                // Strokes lie at a slant that changes from zone to zone; the tooth is the paper's own.
                let (u, v) = turned(x, y, -35.0 + 30.0 * (hashed(i32::from(zone), 0, seed) - 0.5));
                let tooth = smooth(x / (0.09 * brush).max(1.1), y / (0.09 * brush).max(1.1), seed);
                let stroke = rough(u / (1.6 * brush), v / (0.22 * brush).max(1.2), own);
                // What the tooth leaves of a stroke that is laid as it is meant: specks in its deepest hollows, no snowfall.
                Texture { bare: 0.07, cover: ramp(0.62 * tooth + 0.38 * stroke, 0.2, 0.38), lighter: 0.11 * (stroke - 0.5) }
            }
            Self::Pencil => {
                let (u, v) = turned(x, y, -50.0 + 22.0 * (hashed(i32::from(zone), 1, seed) - 0.5));
                let wave = v + 0.5 * brush * (smooth(u / (2.0 * brush), v / (2.0 * brush), own) - 0.5);
                let line = 0.5 + 0.5 * (wave * std::f32::consts::TAU / (0.2 * brush).max(2.6)).sin();
                let tooth = smooth(x / (0.07 * brush).max(1.0), y / (0.07 * brush).max(1.0), seed);
                Texture {
                    bare: 0.24,
                    cover: ramp(0.5 * line + 0.5 * tooth, 0.14, 0.5),
                    lighter: 0.05 * (rough(u / brush, v / brush, own) - 0.5),
                }
            }
            Self::Wash => {
                let pool = rough(x / (2.2 * brush), y / (2.2 * brush), own) - 0.5;
                let grain = smooth(x / (0.06 * brush).max(1.0), y / (0.06 * brush).max(1.0), seed) - 0.5;
                let gathered = (-(rim / 0.16).powi(2)).exp();
                Texture { bare: 0.0, cover: 1.0, lighter: 0.34 * pool + 0.08 * grain - 0.22 * gathered }
            }
            Self::Ink => {
                let (_, v) = turned(x, y, -14.0 + 8.0 * (hashed(i32::from(zone), 2, seed) - 0.5));
                let pass = v / (1.1 * brush) + 0.12 * smooth(x / (3.0 * brush), y / (3.0 * brush), own);
                let within = pass - pass.floor();
                let twice = if within < 0.13 { -0.055 } else { 0.0 };
                let tone = 0.03 * (hashed(pass.floor() as i32, i32::from(zone), seed) - 0.5);
                let bleed = -0.05 * (-(rim / 0.12).powi(2)).exp();
                Texture { bare: 0.0, cover: 1.0, lighter: twice + tone + bleed + 0.012 * (smooth(x / 1.5, y / 1.5, seed) - 0.5) }
            }
            Self::Dabs => Texture { bare: 0.0, cover: 1.0, lighter: dab((x, y), brush, own) },
        }
    }
}

/// A dab of a loaded brush: the nearest of scattered middles, long cells (Worley 1996); each dab a little lighter or darker, with the streaks of the
/// bristles and a ridge where it ends.
fn dab((x, y): (f32, f32), brush: f32, seed: u32) -> f32 {
    let slant = -60.0 + 90.0 * (smooth(x / (7.0 * brush), y / (7.0 * brush), seed) - 0.5) + 40.0 * (hashed(9, 9, seed) - 0.5);
    let (u, v) = turned(x, y, slant);
    let (cu, cv) = (u / (1.25 * brush), v / (0.48 * brush));
    let (iu, iv) = (cu.floor() as i32, cv.floor() as i32);
    let mut best = (f32::INFINITY, f32::INFINITY, 0, 0);
    for dv in -1..=1 {
        for du in -1..=1 {
            let (a, b) = (iu + du, iv + dv);
            let middle = (a as f32 + hashed(a, b, seed), b as f32 + hashed(a, b, seed ^ 0x51));
            let far = (cu - middle.0).powi(2) + (cv - middle.1).powi(2);
            if far < best.0 {
                best = (far, best.0, a, b);
            } else if far < best.1 {
                best.1 = far;
            }
        }
    }
    let tone = hashed(best.2, best.3, seed ^ 0x99) - 0.5;
    let streak = smooth(u / (0.9 * brush), v / (0.055 * brush).max(1.0), seed ^ 0x21) - 0.5;
    let ridge = (-((best.1.sqrt() - best.0.sqrt()) / 0.1).powi(2)).exp();
    0.15 * tone + 0.1 * streak - 0.05 * ridge
}

fn turned(x: f32, y: f32, degrees: f32) -> (f32, f32) {
    let (sin, cos) = degrees.to_radians().sin_cos();
    (x * cos + y * sin, y * cos - x * sin)
}

/// 0 below `from`, 1 above `to`, smooth between.
fn ramp(v: f32, from: f32, to: f32) -> f32 {
    let t = ((v - from) / (to - from)).clamp(0.0, 1.0);
    t * t * (3.0 - 2.0 * t)
}
