//! A zone parted by a straight line.

use crate::zone_map::ZoneMap;
use serde::{Deserialize, Serialize};

/// A place in the picture: 0..=1 across and down.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Place {
    /// Share of the width from the left edge.
    #[cfg_attr(feature = "schema", schema(minimum = 0, maximum = 1))]
    pub x: f64,
    /// Share of the height from the top edge.
    #[cfg_attr(feature = "schema", schema(minimum = 0, maximum = 1))]
    pub y: f64,
}

/// Gives the part of `zone` on the right-hand side of the line `from → to`, lengthened both ways, to `new`.
///
/// # Errors
/// When the line has no length, or leaves fewer than eight cells of the zone on one side.
pub fn by_line(map: &ZoneMap, zone: u16, from: Place, to: Place, new: u16) -> Result<ZoneMap, String> {
    let ok = |p: Place| p.x.is_finite() && p.y.is_finite();
    let (dx, dy) = (to.x - from.x, to.y - from.y);
    if !ok(from) || !ok(to) || dx.hypot(dy) < 1e-3 {
        return Err("the dividing line has no length: draw it from one edge of the zone to another".into());
    }
    let (w, h) = (f64::from(map.width), f64::from(map.height));
    let mut labels = map.labels.clone();
    let mut sides = [0usize; 2];
    for (i, label) in labels.iter_mut().enumerate().filter(|(_, l)| **l == zone) {
        let x = ((i as u32 % map.width) as f64 + 0.5) / w - from.x;
        let y = ((i as u32 / map.width) as f64 + 0.5) / h - from.y;
        let right = dx * y - dy * x > 0.0;
        sides[usize::from(right)] += 1;
        if right {
            *label = new;
        }
    }
    if sides.iter().any(|n| *n < 8) {
        return Err("the line does not cross this zone: draw it so that some of the zone lies on both sides".into());
    }
    Ok(ZoneMap { labels, ..*map })
}

#[cfg(test)]
mod tests {
    use super::*;

    fn at(x: f64, y: f64) -> Place {
        Place { x, y }
    }

    #[test]
    fn a_line_down_the_middle_halves_a_zone_and_leaves_others() {
        let mut labels = vec![1u16; 200];
        labels[..40].fill(2);
        let m = ZoneMap { width: 20, height: 10, labels };
        let s = by_line(&m, 1, at(0.5, 0.0), at(0.5, 1.0), 3).unwrap();
        assert_eq!(s.areas(), [(1, 80), (2, 40), (3, 80)]);
        assert_eq!((s.at(0, 5), s.at(19, 5)), (3, 1));
    }

    #[test]
    fn a_line_that_misses_or_has_no_length_is_refused() {
        let m = ZoneMap { width: 20, height: 10, labels: vec![1; 200] };
        assert!(by_line(&m, 1, at(0.3, 0.3), at(0.3, 0.3), 2).unwrap_err().contains("no length"));
        assert!(by_line(&m, 1, at(0.0, 0.0), at(0.0, 1.0), 2).unwrap_err().contains("does not cross"));
        assert!(by_line(&m, 7, at(0.5, 0.0), at(0.5, 1.0), 2).is_err());
        assert!(by_line(&m, 1, at(f64::NAN, 0.0), at(0.5, 1.0), 2).is_err());
    }
}
