//! The five media a piece can be made in, and what may join them in one piece.

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

    /// True where a colour is chosen among sticks, pens or pencils that have one value each, rather than mixed.
    pub fn is_chosen(self) -> bool {
        matches!(self, Self::SoftPastel | Self::Marker | Self::Pencil)
    }

    /// Whether white is a pigment of its own here; where it is not, bare paper plays its part.
    pub fn has_white(self) -> bool {
        !matches!(self, Self::Marker | Self::Watercolour)
    }
}

/// What a second medium is.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Second {
    /// Coloured pencil over marker or watercolour.
    Pencil,
    /// Pastel over watercolour.
    Pastel,
    /// Body colour, opaque white above all, over watercolour or marker.
    BodyColour,
    /// Acrylic, for the studies of an oil.
    Acrylic,
}

impl Second {
    /// What may join a medium.
    pub fn beside(medium: Medium) -> &'static [Self] {
        match medium {
            Medium::Marker => &[Self::Pencil, Self::BodyColour],
            Medium::Watercolour => &[Self::BodyColour, Self::Pencil, Self::Pastel],
            Medium::Oil => &[Self::Acrylic],
            Medium::Pencil | Medium::SoftPastel => &[],
        }
    }

    /// The medium of the Boxes it is taken from: body colour comes in pans or tubes of watercolour, acrylic in tubes as oil does.
    pub fn box_medium(self) -> Medium {
        match self {
            Self::Pencil => Medium::Pencil,
            Self::Pastel => Medium::SoftPastel,
            Self::BodyColour => Medium::Watercolour,
            Self::Acrylic => Medium::Oil,
        }
    }

    /// The words on the screen.
    pub fn name(self) -> &'static str {
        match self {
            Self::Pencil => "pencil",
            Self::Pastel => "pastel",
            Self::BodyColour => "body colour",
            Self::Acrylic => "acrylic",
        }
    }

    /// Whether it lies over the first medium in one piece, rather than taking its place in the studies.
    pub fn lies_over(self) -> bool {
        self != Self::Acrylic
    }

    /// How a touch of it is laid, lightest first; nothing of what is mixed.
    pub fn touches(self) -> &'static [&'static str] {
        match self {
            Self::Pencil => &["light", "middle", "firm"],
            Self::Pastel => &["light", "full", "heavy"],
            Self::BodyColour => &["thin", "covering"],
            Self::Acrylic => &[],
        }
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
