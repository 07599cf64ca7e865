//! The five media a piece can be made in.

use serde::{Deserialize, Serialize};

/// What a pigment is bound in. A Box and a piece each have one.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Medium {
    /// Sticks of pigment and chalk.
    SoftPastel,
    /// Pens with dye in alcohol.
    Marker,
    /// Pencils of pigment in wax.
    Pencil,
    /// Pans of pigment in gum.
    Watercolour,
    /// Oil paint.
    Oil,
}

impl Medium {
    /// All five.
    pub const ALL: [Self; 5] = [Self::SoftPastel, Self::Marker, Self::Pencil, Self::Watercolour, Self::Oil];

    /// The words on the screen.
    pub fn name(self) -> &'static str {
        match self {
            Self::SoftPastel => "soft pastel",
            Self::Marker => "alcohol marker",
            Self::Pencil => "coloured pencil",
            Self::Watercolour => "watercolour",
            Self::Oil => "oil",
        }
    }

    /// What one piece of a Box is called in this medium.
    pub fn unit(self) -> &'static str {
        match self {
            Self::SoftPastel => "stick",
            Self::Marker => "pen",
            Self::Pencil => "pencil",
            Self::Watercolour => "pan",
            Self::Oil => "tube",
        }
    }

    /// Whether pigments are mixed wet and laid to hide the ground, rather than laid over it in layers.
    pub fn is_wet_opaque(self) -> bool {
        self == Self::Oil
    }

    /// Whether white is a pigment of its own here; where it is not, bare paper plays its part.
    pub fn has_white(self) -> bool {
        !matches!(self, Self::Marker | Self::Watercolour)
    }
}

impl std::str::FromStr for Medium {
    type Err = String;

    fn from_str(s: &str) -> Result<Self, String> {
        Ok(match s {
            "soft-pastel" | "pastel" => Self::SoftPastel,
            "marker" => Self::Marker,
            "pencil" => Self::Pencil,
            "watercolour" => Self::Watercolour,
            "oil" => Self::Oil,
            _ => return Err(format!("\"{s}\" is no medium: choose soft-pastel, marker, pencil, watercolour or oil")),
        })
    }
}
