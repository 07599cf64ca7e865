//! Values measured along a line, inside a zone, and wherever they are equal.

use crate::picture::{Picture, centivalue};
use crate::spot::Spot;
use crate::values::quantile;
use crate::zone_map::ZoneMap;
use lean_colour::Lab;
use serde::Serialize;

/// Number of places read along a line.
pub(crate) const SAMPLES: usize = 120;

/// Values along a line.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Profile {
    /// Value at each of 120 places, from one end to the other.
    pub values: Vec<f64>,
    /// Temperature at each, against grey.
    pub temperatures: Vec<f64>,
    /// Darkest of them.
    pub darkest: f64,
    /// Lightest of them.
    pub lightest: f64,
    /// Where along the line, 0..=1, the value changes most.
    pub edge: f64,
}

/// Reads along a line, each place as the mean of a small disc.
///
/// # Errors
/// When the line has no length or leaves the picture.
pub fn along(picture: &Picture, from: Spot, to: Spot) -> Result<Profile, String> {
    let inside = |p: Spot| (0.0..=1.0).contains(&p.x) && (0.0..=1.0).contains(&p.y);
    if !inside(from) || !inside(to) {
        return Err("The line leaves the picture: draw it inside.".into());
    }
    if (to.x - from.x).hypot(to.y - from.y) < 1e-3 {
        return Err("The line has no length: drag it from one place to another.".into());
    }
    let radius = (picture.width.max(picture.height) / 400).max(1);
    let cell = |share: f64, n: u32| ((share * f64::from(n)) as u32).min(n - 1);
    let labs: Vec<Lab> = (0..SAMPLES)
        .filter_map(|i| {
            let t = i as f64 / (SAMPLES - 1) as f64;
            let (x, y) = (from.x + (to.x - from.x) * t, from.y + (to.y - from.y) * t);
            picture.patch(cell(x, picture.width), cell(y, picture.height), radius)
        })
        .collect();
    let values: Vec<f64> = labs.iter().map(|l| l.value().0).collect();
    let steepest = values.windows(4).enumerate().max_by(|a, b| (a.1[3] - a.1[0]).abs().total_cmp(&(b.1[3] - b.1[0]).abs()));
    Ok(Profile {
        darkest: values.iter().copied().fold(10.0, f64::min),
        lightest: values.iter().copied().fold(0.0, f64::max),
        edge: steepest.map_or(0.5, |(i, _)| (i as f64 + 1.5) / (SAMPLES - 1) as f64),
        temperatures: labs.iter().map(|l| l.temperature().0).collect(),
        values,
    })
}

/// The values inside a zone: what nearly all of it lies above and below.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Spread {
    /// Two in a hundred of its pixels are darker.
    pub darkest: f64,
    /// Two in a hundred are lighter.
    pub lightest: f64,
}

/// The spread of values inside a zone; `None` when it has no pixels.
pub fn inside(picture: &Picture, map: &ZoneMap, zone: u16) -> Option<Spread> {
    let mut fine = vec![0u64; 1001];
    for y in 0..picture.height {
        let my = (u64::from(y) * u64::from(map.height) / u64::from(picture.height)) as u32;
        for x in 0..picture.width {
            let mx = (u64::from(x) * u64::from(map.width) / u64::from(picture.width)) as u32;
            if map.at(mx, my) == zone {
                fine[centivalue(&picture.at(x, y)) as usize] += 1;
            }
        }
    }
    (fine.iter().sum::<u64>() > 0).then(|| Spread { darkest: quantile(&fine, 0.02), lightest: quantile(&fine, 0.98) })
}

#[cfg(test)]
mod tests {
    use super::*;

    fn halves() -> Picture {
        let rgb = (0..200 * 50).flat_map(|i| if i % 200 < 100 { [40; 3] } else { [200; 3] }).collect();
        Picture { width: 200, height: 50, rgb }
    }

    #[test]
    fn the_edge_is_where_the_value_changes() {
        let p = along(&halves(), Spot { x: 0.1, y: 0.5 }, Spot { x: 0.9, y: 0.5 }).unwrap();
        assert!((p.edge - 0.5).abs() < 0.03 && p.lightest - p.darkest > 4.0);
        assert_eq!(p.values.len(), SAMPLES);
    }

    #[test]
    fn a_line_without_length_or_outside_is_refused() {
        let at = |x| Spot { x, y: 0.5 };
        assert!(along(&halves(), at(0.3), at(0.3)).unwrap_err().contains("no length"));
        assert!(along(&halves(), at(0.3), at(1.3)).unwrap_err().contains("leaves the picture"));
    }

    #[test]
    fn a_zone_is_read_from_its_own_pixels_only() {
        let map = ZoneMap { width: 2, height: 1, labels: vec![1, 2] };
        let s = inside(&halves(), &map, 2).unwrap();
        assert!(s.darkest > 7.0 && s.darkest == s.lightest);
        assert!(inside(&halves(), &map, 9).is_none());
    }
}
