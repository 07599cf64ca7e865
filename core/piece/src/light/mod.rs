//! Light as it is said: what falls on the piece, and how every zone stands in it.
//!
//! **The nouns and how they meet.** A [`Lighting`] names the lamps of a piece; [`Facts`] say of each zone how it stands in that light; a
//! [`Graded`] target runs from one colour to another.

mod words;

use lean_colour::{Lab, Share};
use serde::{Deserialize, Serialize};

/// Whether a lamp is warm or cool.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Tint {
    /// Sun, fire, lamp.
    Warm,
    /// Window to the north, overcast sky, moon.
    Cool,
    /// Neither.
    Neutral,
}

impl Tint {
    /// +1 warm, −1 cool, 0 neither.
    pub fn sign(self) -> f64 {
        match self {
            Self::Warm => 1.0,
            Self::Cool => -1.0,
            Self::Neutral => 0.0,
        }
    }
}

/// Where a lamp stands, seen by the painter.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum LampFrom {
    /// From the left.
    Left,
    /// From the right.
    Right,
    /// From above.
    Above,
    /// From below.
    Below,
    /// From where the painter stands.
    Front,
    /// From behind the subject.
    Behind,
}

/// One light.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Lamp {
    /// Warm or cool.
    pub tint: Tint,
    /// From where.
    pub from: LampFrom,
    /// Hard: shadows with an edge. Otherwise soft.
    pub hard: bool,
}

/// How the piece is lit.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case", tag = "kind")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Falling {
    /// Nobody has said.
    #[default]
    Unnamed,
    /// A flat design: no light falls on it.
    Flat,
    /// One light.
    One {
        /// It.
        first: Lamp,
    },
    /// Two, each with its own pair of lit and shadow.
    Two {
        /// The one zones stand in unless said otherwise.
        first: Lamp,
        /// The other.
        second: Lamp,
    },
}

/// What breaks the usual order of planes and distance, so that rules about it stay silent.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Exception {
    /// A glow far off: sunset, lamp, fire.
    FarGlow,
    /// Ground lighter than the sky.
    Snow,
    /// A low sun that lights uprights more than the ground.
    LowSun,
    /// Night.
    Night,
    /// Light from behind: everything near is dark against it.
    Backlight,
}

/// The light of a piece.
#[derive(Clone, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
#[serde(default)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Lighting {
    /// What falls on it.
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub falling: Falling,
    /// Under the open sky: planes take their value from how they face it.
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub outdoors: bool,
    /// What breaks the usual order here.
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub exceptions: Vec<Exception>,
}

impl Lighting {
    /// The lamp a zone stands in; `None` without named light.
    pub fn lamp(&self, which: Which) -> Option<Lamp> {
        match (self.falling, which) {
            (Falling::One { first }, _) | (Falling::Two { first, .. }, Which::First) => Some(first),
            (Falling::Two { second, .. }, Which::Second) => Some(second),
            (Falling::Unnamed | Falling::Flat, _) => None,
        }
    }

    /// Whether one of these is among the exceptions.
    pub fn has(&self, any: &[Exception]) -> bool {
        any.iter().any(|e| self.exceptions.contains(e))
    }

    /// In a few words, for the run and the card.
    pub fn describe(&self) -> String {
        let lamp = |l: Lamp| {
            let tint = match l.tint {
                Tint::Warm => "warm",
                Tint::Cool => "cool",
                Tint::Neutral => "neutral",
            };
            format!("{tint}, {}, from {}", if l.hard { "hard" } else { "soft" }, l.from.label())
        };
        match self.falling {
            Falling::Unnamed => "no light yet".into(),
            Falling::Flat => "flat, no light".into(),
            Falling::One { first } => lamp(first),
            Falling::Two { first, second } => format!("{}; and {}", lamp(first), lamp(second)),
        }
    }
}

/// How a zone faces the sky.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Plane {
    /// The sky itself.
    Sky,
    /// Ground, table, water.
    Flat,
    /// Roof, hill.
    Slanted,
    /// Wall, tree, figure.
    Upright,
}

/// How far off a zone is.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Distance {
    /// Near.
    Near,
    /// Between.
    Middle,
    /// Far.
    Far,
}

/// What part a zone plays in the light.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Role {
    /// In the light.
    Lit,
    /// Turning away.
    Halftone,
    /// In shadow.
    Shadow,
    /// In shadow, lit back by a neighbour.
    Reflected,
    /// Where two things touch: the darkest of the shadow.
    Contact,
    /// The lamp mirrored.
    Highlight,
    /// Gives light itself.
    SelfLuminous,
}

impl Role {
    /// Whether it belongs to the lit family.
    pub fn is_lit(self) -> bool {
        matches!(self, Self::Lit | Self::Halftone)
    }

    /// Whether it belongs to the shadow family.
    pub fn is_shadow(self) -> bool {
        matches!(self, Self::Shadow | Self::Reflected | Self::Contact)
    }
}

/// What a zone is, where that matters for its colour.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Kind {
    /// Water: it carries the sky.
    Water,
    /// A white thing: its greys lean one way in each light.
    White,
    /// A dark thing: darks with a colour.
    Dark,
    /// Skin.
    Skin,
    /// Leaves and grass.
    Foliage,
    /// Hair, fur and feathers.
    Fur,
    /// Metal: it mirrors what is around it.
    Metal,
    /// Cloth.
    Cloth,
    /// Fruit and flowers.
    Fruit,
}

/// Which of two lights.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Which {
    /// The first.
    #[default]
    First,
    /// The second.
    Second,
}

/// How a zone stands in the light. What nobody said is `None`.
#[derive(Clone, Copy, Debug, Default, PartialEq, Serialize, Deserialize)]
#[serde(default)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Facts {
    /// How it faces the sky.
    pub plane: Option<Plane>,
    /// How far off it is.
    pub distance: Option<Distance>,
    /// Its part in the light.
    pub role: Option<Role>,
    /// What it is, where it matters.
    pub kind: Option<Kind>,
    /// The light it stands in.
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub light: Which,
    /// Its own colour, away from light and shadow; `None` takes what is read.
    pub local: Option<Lab>,
    /// False while the machine proposed it; true once the painter said so.
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub by_hand: bool,
}

impl Facts {
    /// Whether it says something that nobody has confirmed.
    pub fn is_guess(&self) -> bool {
        !self.by_hand && (self.plane.is_some() || self.distance.is_some() || self.role.is_some() || self.kind.is_some())
    }
}

/// A target that runs from its own colour to another along a direction.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Graded {
    /// The colour at the far end.
    pub to: Lab,
    /// The way it runs, in degrees clockwise: 0 to the right, 90 downwards.
    #[cfg_attr(feature = "schema", schema(minimum = 0, maximum = 360))]
    pub direction: f64,
}

impl Graded {
    /// The colour a share of the way from `from`, 0..=1, evenly in CIELAB.
    pub fn at(&self, from: Lab, share: Share) -> Lab {
        let mix = |a: f64, b: f64| a + (b - a) * share.0.clamp(0.0, 1.0);
        Lab::new(mix(from.l, self.to.l), mix(from.a, self.to.a), mix(from.b, self.to.b))
    }

    /// Steps of value along the whole way at which one mix hands over to the next: one mix for every step and a half, three at most.
    pub fn stops(&self, from: Lab) -> Vec<Lab> {
        let steps = (self.to.value().0 - from.value().0).abs();
        let colour = (self.to.a - from.a).hypot(self.to.b - from.b);
        let count = (((steps / 1.5).max(colour / 25.0)).ceil() as usize + 1).clamp(2, 3);
        (0..count).map(|i| self.at(from, Share(i as f64 / (count - 1) as f64))).collect()
    }
}

/// Which part of the reachable range the piece lives in.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Key {
    /// As read, only pressed together where the medium cannot follow.
    #[default]
    AsRead,
    /// From the darkest reachable to the lightest.
    Full,
    /// The lighter six tenths.
    High,
    /// The darker six tenths.
    Low,
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_graded_target_runs_from_end_to_end() {
        let (from, to) = (Lab::new(80.0, 0.0, -10.0), Lab::new(60.0, 4.0, 10.0));
        let g = Graded { to, direction: 90.0 };
        assert_eq!((g.at(from, Share::NONE), g.at(from, Share::ALL)), (from, to));
        let stops = g.stops(from);
        assert_eq!((stops.first(), stops.last()), (Some(&from), Some(&to)));
        assert!((2..=3).contains(&stops.len()));
    }

    #[test]
    fn with_two_lights_each_zone_stands_in_its_own() {
        let lamp = |tint| Lamp { tint, from: LampFrom::Left, hard: false };
        let two = Lighting { falling: Falling::Two { first: lamp(Tint::Warm), second: lamp(Tint::Cool) }, ..Lighting::default() };
        assert_eq!(two.lamp(Which::First).map(|l| l.tint), Some(Tint::Warm));
        assert_eq!(two.lamp(Which::Second).map(|l| l.tint), Some(Tint::Cool));
        let one = Lighting { falling: Falling::One { first: lamp(Tint::Cool) }, ..two };
        assert_eq!(one.lamp(Which::Second).map(|l| l.tint), Some(Tint::Cool));
        assert_eq!(Lighting::default().lamp(Which::First), None);
    }
}
