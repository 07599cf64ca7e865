//! CIE XYZ, CIELAB and OKLab. The white point is part of the type, so that mixing two of them does not compile.

use crate::hue::HueAngle;
use serde::{Deserialize, Serialize};
use std::marker::PhantomData;

/// Marks colours seen under CIE illuminant D65, 2° observer.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct D65;

/// Marks colours relative to the white of the light they are seen under.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct Adapted;

/// Tristimulus values, Y of the perfect diffuser = 100.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Xyz {
    /// X, 0..≈95 for surfaces under D65.
    pub x: f64,
    /// Y, 0..100: the luminance factor in percent.
    pub y: f64,
    /// Z, 0..≈109 for surfaces under D65.
    pub z: f64,
}

/// White point of the folded D65 weights (their column sums; CIE 015 gives 95.047, 100, 108.883).
pub const WHITE_D65: Xyz = Xyz { x: 95.046857, y: 100.0, z: 108.882973 };

/// CIELAB (CIE 015): `l` 0..100, `a` and `b` roughly −130..130. `W` names the white it is relative to.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Lab<W = D65> {
    /// Lightness L*, 0..100.
    pub l: f64,
    /// Green (−) to red (+).
    pub a: f64,
    /// Blue (−) to yellow (+).
    pub b: f64,
    white: PhantomData<W>,
}

/// OKLab (Ottosson 2020): `l` 0..1, `a` and `b` about −0.4..0.4. Used for display gradients only.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Oklab {
    /// Lightness, 0..1.
    pub l: f64,
    /// Green to red.
    pub a: f64,
    /// Blue to yellow.
    pub b: f64,
}

const DELTA: f64 = 6.0 / 29.0;

fn forward(t: f64) -> f64 {
    if t > DELTA * DELTA * DELTA { t.cbrt() } else { t / (3.0 * DELTA * DELTA) + 4.0 / 29.0 }
}

fn inverse(f: f64) -> f64 {
    if f > DELTA { f * f * f } else { 3.0 * DELTA * DELTA * (f - 4.0 / 29.0) }
}

impl<W> Lab<W> {
    /// A colour from its three coordinates.
    pub const fn new(l: f64, a: f64, b: f64) -> Self {
        Self { l, a, b, white: PhantomData }
    }

    /// Chroma C*ab, ≥ 0.
    pub fn chroma(&self) -> f64 {
        self.a.hypot(self.b)
    }

    /// Hue angle h_ab in degrees, 0..360. Meaningless for greys.
    pub fn hue(&self) -> HueAngle {
        HueAngle(self.b.atan2(self.a).to_degrees().rem_euclid(360.0))
    }

    /// The colour of lightness `l`, chroma `c` and hue `h` degrees.
    pub fn from_lch(l: f64, c: f64, h: f64) -> Self {
        let h = h.to_radians();
        Self::new(l, c * h.cos(), c * h.sin())
    }
}

impl Lab<D65> {
    /// Tristimulus values of this colour; negative when no light can have it.
    pub fn xyz(&self) -> Xyz {
        let fy = (self.l + 16.0) / 116.0;
        Xyz { x: WHITE_D65.x * inverse(fy + self.a / 500.0), y: WHITE_D65.y * inverse(fy), z: WHITE_D65.z * inverse(fy - self.b / 200.0) }
    }
}

impl Xyz {
    /// CIELAB relative to D65.
    pub fn lab(&self) -> Lab<D65> {
        self.lab_relative_to(WHITE_D65)
    }

    /// CIELAB relative to `white`, whose kind the caller names.
    pub(crate) fn lab_relative_to<W>(&self, white: Xyz) -> Lab<W> {
        let (fx, fy, fz) = (forward(self.x / white.x), forward(self.y / white.y), forward(self.z / white.z));
        Lab::new(116.0 * fy - 16.0, 500.0 * (fx - fy), 200.0 * (fy - fz))
    }

    /// OKLab by way of `palette`.
    pub fn oklab(&self) -> Oklab {
        use palette::{IntoColor, white_point};
        let xyz: palette::Xyz<white_point::D65, f64> = palette::Xyz::new(self.x / 100.0, self.y / 100.0, self.z / 100.0);
        let ok: palette::Oklab<f64> = xyz.into_color();
        Oklab { l: ok.l, a: ok.a, b: ok.b }
    }
}

/// On the wire a colour is `{l, a, b}`.
#[derive(Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[cfg_attr(feature = "schema", schema(as = Lab))]
pub(crate) struct LabWire {
    /// Lightness L*, 0..100.
    #[cfg_attr(feature = "schema", schema(minimum = 0, maximum = 100))]
    l: f64,
    /// Green (−) to red (+).
    #[cfg_attr(feature = "schema", schema(minimum = -200, maximum = 200))]
    a: f64,
    /// Blue (−) to yellow (+).
    #[cfg_attr(feature = "schema", schema(minimum = -200, maximum = 200))]
    b: f64,
}

impl<W> Serialize for Lab<W> {
    fn serialize<S: serde::Serializer>(&self, s: S) -> Result<S::Ok, S::Error> {
        LabWire { l: self.l, a: self.a, b: self.b }.serialize(s)
    }
}

impl<'de> Deserialize<'de> for Lab<D65> {
    fn deserialize<D: serde::Deserializer<'de>>(d: D) -> Result<Self, D::Error> {
        let w = LabWire::deserialize(d)?;
        if !(0.0..=100.0).contains(&w.l) || !(-200.0..=200.0).contains(&w.a) || !(-200.0..=200.0).contains(&w.b) {
            return Err(serde::de::Error::custom("a colour needs l in 0..100 and a, b in -200..200"));
        }
        Ok(Lab::new(w.l, w.a, w.b))
    }
}

#[cfg(feature = "schema")]
impl utoipa::PartialSchema for Lab<D65> {
    fn schema() -> utoipa::openapi::RefOr<utoipa::openapi::schema::Schema> {
        LabWire::schema()
    }
}

#[cfg(feature = "schema")]
impl utoipa::ToSchema for Lab<D65> {
    fn name() -> std::borrow::Cow<'static, str> {
        "Lab".into()
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn lab_and_xyz_are_inverses(l in 0.0..100.0f64, a in -60.0..60.0f64, b in -60.0..60.0f64) {
            let back = Lab::<D65>::new(l, a, b).xyz().lab();
            prop_assert!((back.l - l).abs() < 1e-9 && (back.a - a).abs() < 1e-9 && (back.b - b).abs() < 1e-9);
        }
    }

    #[test]
    fn published_colours_of_the_screen_primaries() {
        // CIELAB (D65) of the sRGB primaries and of their mid grey, as generally published to two decimals.
        for (rgb, wanted) in [
            ([255, 0, 0], [53.24, 80.09, 67.20]),
            ([0, 255, 0], [87.73, -86.18, 83.18]),
            ([0, 0, 255], [32.30, 79.19, -107.86]),
            ([119, 119, 119], [50.03, 0.0, 0.0]),
        ] {
            let lab = crate::screen::lab_of_srgb(rgb);
            for (got, want) in [lab.l, lab.a, lab.b].into_iter().zip(wanted) {
                assert!((got - want).abs() < 0.02, "{rgb:?}: {lab:?} is not {wanted:?}");
            }
        }
    }

    #[test]
    fn oklab_of_white_is_one() {
        let ok = WHITE_D65.oklab();
        assert!((ok.l - 1.0).abs() < 1e-3 && ok.a.abs() < 1e-3 && ok.b.abs() < 1e-3);
    }

    #[test]
    fn a_colour_outside_its_ranges_is_refused_on_the_wire() {
        assert!(serde_json_like(200.0).is_err());
        assert!(serde_json_like(50.0).is_ok());
    }

    fn serde_json_like(l: f64) -> Result<Lab, serde::de::value::Error> {
        use serde::de::IntoDeserializer;
        let pairs = vec![("l", l), ("a", 0.0), ("b", 0.0)];
        Lab::deserialize(serde::de::value::MapDeserializer::new(
            pairs.into_iter().map(|(k, v)| (k, v.into_deserializer() as serde::de::value::F64Deserializer<_>)),
        ))
    }
}
