//! Names of hues.

use lean_search::demands::HueFamily;

/// A hue angle (CIELAB, degrees) as a painter's word: the same names as everywhere else.
pub fn hue_word(hue: f64) -> &'static str {
    HueFamily::at(hue).name()
}
