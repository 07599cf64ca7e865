//! The strongest surface colours there are.
//!
//! M. R. Pointer, "The gamut of real surface colours", Color Research and Application 5 (1980), 145-155: greatest chroma measured on
//! more than four thousand real surfaces, by lightness and hue in CIELAB. His white is illuminant C; it is used here under D65 as it
//! stands, which moves hues by a few degrees.

use crate::hue::HueAngle;

/// Lightness of the rows: 15, 20, ... 90.
const FIRST: f64 = 15.0;
const STEP: f64 = 5.0;
/// Greatest chroma by lightness (rows) and hue (columns, 0, 10, ... 350 degrees).
#[rustfmt::skip]
const GAMUT: [[u8; 36]; 16] = [
    [10, 15, 14, 35, 27, 10, 4, 5, 6, 4, 9, 9, 4, 5, 7, 7, 8, 13, 10, 7, 5, 0, 2, 10, 8, 9, 12, 14, 10, 20, 30, 62, 60, 20, 26, 15],
    [30, 30, 34, 48, 40, 21, 15, 15, 15, 12, 16, 18, 14, 18, 20, 21, 24, 25, 25, 19, 19, 12, 12, 20, 16, 21, 24, 31, 29, 40, 55, 76, 71, 50, 49, 37],
    [43, 45, 49, 59, 53, 34, 26, 25, 24, 20, 23, 27, 23, 30, 32, 34, 36, 36, 38, 30, 29, 17, 20, 29, 26, 32, 34, 42, 45, 60, 72, 85, 79, 72, 63, 52],
    [56, 56, 61, 68, 66, 45, 37, 36, 32, 28, 30, 35, 32, 40, 42, 45, 48, 47, 48, 40, 37, 26, 28, 36, 34, 40, 41, 50, 55, 69, 81, 88, 84, 86, 73, 65],
    [68, 64, 69, 75, 79, 60, 48, 46, 40, 36, 37, 44, 41, 48, 52, 57, 58, 57, 57, 48, 42, 34, 35, 42, 41, 49, 46, 55, 60, 71, 79, 85, 85, 89, 82, 73],
    [77, 70, 74, 82, 90, 75, 59, 56, 48, 44, 45, 52, 49, 56, 60, 68, 68, 65, 64, 55, 45, 43, 40, 46, 47, 54, 51, 60, 61, 69, 72, 80, 86, 89, 87, 79],
    [79, 73, 76, 84, 94, 90, 70, 67, 55, 53, 51, 59, 57, 64, 69, 75, 76, 70, 69, 59, 46, 49, 45, 49, 49, 55, 55, 60, 60, 65, 64, 71, 82, 86, 87, 82],
    [77, 73, 76, 83, 93, 100, 82, 76, 64, 60, 58, 66, 64, 70, 76, 81, 82, 75, 71, 62, 46, 51, 48, 51, 50, 55, 56, 57, 57, 58, 57, 62, 74, 80, 83, 84],
    [72, 71, 74, 80, 88, 102, 93, 85, 72, 68, 65, 74, 71, 77, 82, 84, 85, 76, 72, 62, 45, 54, 51, 52, 50, 52, 51, 50, 53, 50, 50, 55, 66, 72, 78, 79],
    [65, 65, 68, 75, 82, 99, 103, 94, 82, 75, 72, 82, 78, 82, 87, 84, 83, 75, 69, 60, 43, 50, 49, 50, 47, 48, 46, 45, 46, 43, 42, 47, 57, 63, 71, 73],
    [57, 57, 61, 67, 72, 88, 106, 102, 94, 83, 80, 87, 84, 85, 89, 83, 78, 71, 64, 55, 39, 46, 45, 45, 42, 43, 40, 39, 40, 36, 35, 41, 48, 54, 62, 63],
    [50, 48, 51, 56, 60, 75, 98, 108, 105, 90, 86, 92, 90, 88, 90, 80, 69, 65, 60, 49, 35, 40, 38, 39, 36, 36, 33, 33, 34, 29, 30, 34, 40, 45, 51, 53],
    [40, 39, 40, 45, 47, 59, 85, 103, 115, 98, 94, 95, 94, 89, 83, 72, 59, 57, 51, 41, 30, 32, 32, 32, 29, 29, 27, 26, 25, 24, 24, 27, 31, 36, 40, 40],
    [30, 30, 30, 33, 35, 45, 66, 82, 115, 106, 100, 100, 95, 84, 71, 58, 49, 45, 41, 32, 22, 24, 23, 24, 21, 21, 20, 20, 18, 18, 17, 20, 24, 27, 28, 30],
    [19, 18, 19, 21, 22, 30, 45, 58, 83, 111, 106, 96, 83, 64, 54, 44, 34, 30, 29, 23, 14, 14, 15, 15, 12, 13, 13, 13, 11, 12, 12, 14, 16, 18, 18, 17],
    [8, 7, 9, 10, 10, 15, 23, 34, 48, 90, 108, 84, 50, 35, 30, 20, 15, 15, 16, 13, 7, 4, 6, 7, 4, 4, 6, 6, 4, 5, 5, 6, 8, 9, 4, 6],
];

/// Greatest chroma a real surface of this lightness (0..=100) and hue (degrees) has been measured to have; between the rows by straight
/// lines, and down to nothing at black and white.
pub fn greatest_chroma(lightness: f64, hue: HueAngle) -> f64 {
    let at_hue = |row: usize| {
        let place = hue.0.rem_euclid(360.0) / 10.0;
        let (low, share) = (place.floor() as usize % 36, place.fract());
        f64::from(GAMUT[row][low]) * (1.0 - share) + f64::from(GAMUT[row][(low + 1) % 36]) * share
    };
    let last = GAMUT.len() - 1;
    let place = (lightness - FIRST) / STEP;
    if place <= 0.0 {
        return at_hue(0) * (lightness / FIRST).clamp(0.0, 1.0);
    }
    if place >= last as f64 {
        return at_hue(last) * ((100.0 - lightness) / (100.0 - FIRST - STEP * last as f64)).clamp(0.0, 1.0);
    }
    let (low, share) = (place.floor() as usize, place.fract());
    at_hue(low) * (1.0 - share) + at_hue(low + 1) * share
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::lab::{D65, Lab};

    #[test]
    fn it_reads_the_published_table_and_runs_between_its_rows() {
        assert_eq!(greatest_chroma(15.0, HueAngle(0.0)), 10.0);
        assert_eq!(greatest_chroma(50.0, HueAngle(40.0)), 93.0);
        let (a, b) = (greatest_chroma(50.0, HueAngle(40.0)), greatest_chroma(50.0, HueAngle(50.0)));
        assert!((greatest_chroma(50.0, HueAngle(45.0)) - (a + b) / 2.0).abs() < 1e-9);
        assert_eq!(greatest_chroma(100.0, HueAngle(90.0)), 0.0);
    }

    #[test]
    fn a_lemon_is_within_it_and_a_laser_is_not() {
        let stronger = |lab: Lab<D65>| lab.chroma() > greatest_chroma(lab.l, lab.hue());
        assert!(!stronger(Lab::new(82.0, -2.0, 85.0)));
        assert!(stronger(Lab::new(60.0, -95.0, 60.0)));
    }
}
