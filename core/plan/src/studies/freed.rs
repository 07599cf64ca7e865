//! What a hue that was set free may be: how strong at its value, how warm, its lightness kept.

use lean_colour::real::toward_real;
use lean_colour::temperature::WARM_POLE;
use lean_colour::{Lab, Value};
use lean_piece::{Piece, Zone};

/// Least chroma that still shows a hue. A choice.
pub(super) const FAINT: f64 = 9.0;

/// Temperature of a unit of chroma at a hue, −1..=1.
pub(super) fn warmth(hue: f64) -> f64 {
    (hue - WARM_POLE).to_radians().cos()
}

/// Chroma a zone of this value may have: little near black and white, most in the middle.
pub(super) fn room(value: Value, most: f64) -> f64 {
    let arch = (std::f64::consts::PI * value.0.clamp(0.0, 10.0) / 10.0).sin();
    most * (0.22 + 0.78 * arch)
}

/// Typical strength of colour of the piece, kept by its studies.
pub(super) fn strength(piece: &Piece) -> f64 {
    let strongest = piece.zones.iter().map(|z| z.target.chroma()).fold(0.0, f64::max);
    strongest.clamp(30.0, 52.0)
}

/// The zone's own lightness with another chroma and hue.
pub(super) fn held(zone: &Zone, chroma: f64, hue: f64) -> Lab {
    toward_real(Lab::from_lch(zone.target.l, chroma, hue))
}

/// The shorter way round the circle, −180..=180 degrees.
pub(super) fn turn(from: f64, to: f64) -> f64 {
    (to - from + 180.0).rem_euclid(360.0) - 180.0
}
