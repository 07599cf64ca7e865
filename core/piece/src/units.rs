//! Lengths and sizes, and how they are said.

use serde::{Deserialize, Serialize};

/// A length in millimetres.
#[derive(Clone, Copy, Debug, PartialEq, PartialOrd, Serialize, Deserialize)]
#[serde(transparent)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Millimetres(pub f64);

impl Millimetres {
    /// A length that may be left out, in millimetres; 0 when it is.
    pub fn or_none(length: Option<Self>) -> f64 {
        length.map_or(0.0, |l| l.0)
    }
}

/// Width and height of a piece or study.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Size {
    /// Across, 10..=3000 mm.
    #[cfg_attr(feature = "schema", schema(minimum = 10, maximum = 3000))]
    pub width: Millimetres,
    /// Down, 10..=3000 mm.
    #[cfg_attr(feature = "schema", schema(minimum = 10, maximum = 3000))]
    pub height: Millimetres,
}

/// Size of a picture.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PixelSize {
    /// Pixels across.
    pub width: u32,
    /// Pixels down.
    pub height: u32,
}

/// What lengths are shown in.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Units {
    /// Centimetres.
    #[default]
    Cm,
    /// Inches.
    Inch,
}

impl Units {
    fn number(self, length: Millimetres) -> String {
        let per_unit = match self {
            Self::Cm => 10.0,
            Self::Inch => 25.4,
        };
        let text = format!("{:.1}", length.0 / per_unit);
        text.strip_suffix(".0").map_or(text.clone(), str::to_owned)
    }

    fn word(self) -> &'static str {
        match self {
            Self::Cm => "cm",
            Self::Inch => "in",
        }
    }

    /// A length to a tenth, with its unit.
    pub fn said(self, length: Millimetres) -> String {
        format!("{} {}", self.number(length), self.word())
    }

    /// Width by height, with their unit.
    pub fn both(self, size: Size) -> String {
        format!("{} × {} {}", self.number(size.width), self.number(size.height), self.word())
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn lengths_are_said_in_the_units_of_the_piece() {
        let size = Size { width: Millimetres(400.0), height: Millimetres(297.0) };
        assert_eq!(Units::Cm.both(size), "40 × 29.7 cm");
        assert_eq!(Units::Inch.both(size), "15.7 × 11.7 in");
        assert_eq!(Units::Inch.said(Millimetres(25.4)), "1 in");
    }
}
