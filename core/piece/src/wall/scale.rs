//! From places in a photo to millimetres on a flat wall and back.

use super::Measure;
use lean_picture::projection::{Projection, projection};
use lean_picture::spot::Spot;

/// A flat wall seen in a photo: millimetres to pixels by a plane-to-plane projection (Hartley & Zisserman 2004, section 2.3).
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Scale {
    to_photo: Projection,
    to_wall: Projection,
    photo: (f64, f64),
}

/// Least length of a measuring line, and least side of a measured rectangle, as a share of the photo's longer side.
const SHORTEST: f64 = 0.01;

impl Scale {
    /// The scale a measure gives in a photo of so many pixels. The wall's origin and, for a single line, its orientation are the photo's own.
    ///
    /// # Errors
    /// When a length is zero or not a number, or four corners do not span a convex shape.
    pub fn of(measure: &Measure, photo: (u32, u32)) -> Result<Self, String> {
        let photo = (f64::from(photo.0), f64::from(photo.1));
        let longer = photo.0.max(photo.1);
        let px = |p: &Spot| (p.x * photo.0, p.y * photo.1);
        match measure {
            Measure::Line { from, to, length } => {
                let ((x0, y0), (x1, y1)) = (px(from), px(to));
                let pixels = (x1 - x0).hypot(y1 - y0);
                if !(pixels.is_finite() && pixels >= SHORTEST * longer) {
                    return Err("The measuring line has no length: drag it along something you know the length of.".into());
                }
                long_enough(length.0)?;
                let s = pixels / length.0;
                Self::both_ways(Projection::scaling(s), photo)
            }
            Measure::Corners { corners, width, height } => {
                long_enough(width.0)?;
                long_enough(height.0)?;
                let seen: Vec<(f64, f64)> = corners.iter().map(px).collect();
                if !convex(&seen, SHORTEST * longer) {
                    return Err(
                        "The four corners do not make a shape: set them at the corners of something rectangular, from the top left clockwise."
                            .into(),
                    );
                }
                let on_wall = [(0.0, 0.0), (width.0, 0.0), (width.0, height.0), (0.0, height.0)];
                Self::both_ways(projection(&on_wall, &seen)?, photo)
            }
        }
    }

    fn both_ways(to_photo: Projection, photo: (f64, f64)) -> Result<Self, String> {
        let to_wall = to_photo.inverse().ok_or("The four corners lie on one line: set them at the corners of a rectangle.")?;
        Ok(Self { to_photo, to_wall, photo })
    }

    /// Where a place in the photo lies on the wall, in millimetres across and down; `None` beyond the horizon of the wall.
    pub fn on_wall(&self, at: Spot) -> Option<(f64, f64)> {
        self.to_wall.before_horizon(at.x * self.photo.0, at.y * self.photo.1)
    }

    /// Where a place on the wall lies in the photo; `None` beyond its horizon.
    pub fn in_photo(&self, at: (f64, f64)) -> Option<Spot> {
        self.to_photo.before_horizon(at.0, at.1).map(|(x, y)| Spot { x: x / self.photo.0, y: y / self.photo.1 })
    }
}

fn long_enough(mm: f64) -> Result<(), String> {
    if mm.is_finite() && mm > 0.0 && mm <= 100_000.0 {
        Ok(())
    } else {
        Err(format!("A length of {mm} mm cannot be: it has to be longer than 0 and shorter than 100 m."))
    }
}

/// Turning the same way at every corner, no side shorter than `least`.
fn convex(c: &[(f64, f64)], least: f64) -> bool {
    (0..4).all(|i| {
        let (a, b, d) = (c[i], c[(i + 1) % 4], c[(i + 2) % 4]);
        let turn = (b.0 - a.0) * (d.1 - b.1) - (b.1 - a.1) * (d.0 - b.0);
        turn.is_finite() && turn > least * least && (b.0 - a.0).hypot(b.1 - a.1) >= least
    })
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::units::Millimetres;
    use proptest::prelude::*;

    fn corners(c: [(f64, f64); 4]) -> Measure {
        Measure::Corners { corners: c.map(|(x, y)| Spot { x, y }), width: Millimetres(900.0), height: Millimetres(2000.0) }
    }

    #[test]
    fn a_slanted_door_is_set_right() {
        let s = Scale::of(&corners([(0.3, 0.2), (0.5, 0.25), (0.5, 0.8), (0.3, 0.9)]), (1600, 1200)).unwrap();
        let (x, y) = s.on_wall(Spot { x: 0.5, y: 0.8 }).unwrap();
        assert!((x - 900.0).abs() < 1e-6 && (y - 2000.0).abs() < 1e-6);
        // The far side is smaller: the middle of the door is not the middle of the shape.
        let middle = s.in_photo((450.0, 1000.0)).unwrap();
        assert!(middle.x > 0.401);
    }

    #[test]
    fn crossed_or_flat_corners_are_refused() {
        assert!(Scale::of(&corners([(0.3, 0.2), (0.5, 0.8), (0.5, 0.2), (0.3, 0.8)]), (1000, 1000)).is_err());
        assert!(Scale::of(&corners([(0.3, 0.2), (0.4, 0.2), (0.5, 0.2), (0.6, 0.2)]), (1000, 1000)).is_err());
    }

    proptest! {
        #[test]
        fn there_and_back_again(x in 0.05..0.95f64, y in 0.05..0.95f64, d in -0.04..0.04f64) {
            let s = Scale::of(&corners([(0.3 + d, 0.2), (0.6, 0.2 - d), (0.6 + d, 0.8), (0.3, 0.8 + d)]), (1600, 1200)).unwrap();
            if let Some(w) = s.on_wall(Spot { x, y }) {
                let back = s.in_photo(w).unwrap();
                prop_assert!((back.x - x).abs() < 1e-9 && (back.y - y).abs() < 1e-9);
            }
        }
    }
}
