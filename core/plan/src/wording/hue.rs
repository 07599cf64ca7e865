//! Names of hues.

use lean_colour::HueAngle;
use lean_search::demands::HueFamily;

/// A hue angle (CIELAB, degrees) as a painter's word: the same names as everywhere else.
pub(crate) fn hue_word(hue: HueAngle) -> &'static str {
    HueFamily::at(hue).name()
}
