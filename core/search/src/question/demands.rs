//! What a painter asks of a set besides matching its targets.

use lean_colour::temperature::WARM_POLE;
use lean_colour::{HueAngle, Lab};
use lean_media::{Pigment, PigmentId};
use lean_recipes::technique::Technique;
use serde::{Deserialize, Serialize};

/// Stretches of the hue circle, in painters' words.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum HueFamily {
    /// Pinks and crimsons.
    Rose,
    /// Reds.
    Red,
    /// Oranges and burnt earths.
    Orange,
    /// Ochres and yellows.
    Yellow,
    /// Greens.
    Green,
    /// Blue greens.
    SeaGreen,
    /// Blues.
    Blue,
    /// Violets and purples.
    Violet,
}

/// Chroma below which a colour belongs to no hue family. A choice.
pub const HUELESS: f64 = 8.0;

impl HueFamily {
    /// All of them, round the circle.
    pub const ALL: [Self; 8] = [Self::Rose, Self::Red, Self::Orange, Self::Yellow, Self::Green, Self::SeaGreen, Self::Blue, Self::Violet];

    /// The family of a colour by its CIELAB hue angle; `None` for greys.
    pub fn of(lab: Lab) -> Option<Self> {
        if lab.chroma() < HUELESS {
            return None;
        }
        Some(Self::at(lab.hue()))
    }

    /// The family of a hue angle in CIELAB, in degrees.
    pub fn at(hue: HueAngle) -> Self {
        let hue = hue.0.rem_euclid(360.0);
        Self::ALL.into_iter().find(|f| f.spans(hue)).unwrap_or(Self::Rose)
    }

    /// Hue angles where it begins and ends, in degrees; rose runs through nothing. Where one ends is a choice.
    fn ends(self) -> (f64, f64) {
        match self {
            Self::Rose => (345.0, 20.0),
            Self::Red => (20.0, 48.0),
            Self::Orange => (48.0, 74.0),
            Self::Yellow => (74.0, 108.0),
            Self::Green => (108.0, 170.0),
            Self::SeaGreen => (170.0, 220.0),
            Self::Blue => (220.0, 303.0),
            Self::Violet => (303.0, 345.0),
        }
    }

    /// Hue angle in its middle, in degrees.
    pub fn middle(self) -> f64 {
        let (from, to) = self.ends();
        (from + (to - from).rem_euclid(360.0) / 2.0).rem_euclid(360.0)
    }

    fn spans(self, hue: f64) -> bool {
        let (from, to) = self.ends();
        if from < to { (from..to).contains(&hue) } else { hue >= from || hue < to }
    }

    /// Where it lies, to ask in single precision.
    pub(crate) fn arc(self) -> Arc {
        let (from, to) = self.ends();
        let direction = |degrees: f64| [degrees.to_radians().cos() as f32, degrees.to_radians().sin() as f32];
        Arc { from: direction(from), to: direction(to) }
    }

    /// Its name.
    pub fn name(self) -> &'static str {
        match self {
            Self::Rose => "rose",
            Self::Red => "red",
            Self::Orange => "orange",
            Self::Yellow => "yellow",
            Self::Green => "green",
            Self::SeaGreen => "sea green",
            Self::Blue => "blue",
            Self::Violet => "violet",
        }
    }
}

/// Directions in which a family begins and ends.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct Arc {
    from: [f32; 2],
    to: [f32; 2],
}

impl Arc {
    /// Whether a colour is in it, by its two CIELAB coordinates. Every family spans less than half the circle: a colour lies in it when it lies left
    /// of where it begins and right of where it ends.
    #[inline(always)]
    pub(crate) fn holds(&self, a: f32, b: f32) -> bool {
        let left_of = |direction: &[f32; 2]| direction[0] * b - direction[1] * a;
        a * a + b * b >= (HUELESS * HUELESS) as f32 && left_of(&self.from) >= 0.0 && left_of(&self.to) < 0.0
    }
}

/// A pigment in every mix.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Mother {
    /// Which.
    pub pigment: PigmentId,
    /// Its least share in each mix, above 0 and below 1. White alone in oil is a mix; bare ground is none.
    #[cfg_attr(feature = "schema", schema(minimum = 0.01, maximum = 0.9))]
    pub share: f64,
}

/// Everything a painter may ask of a set. The default asks for the hue families of the plan and nothing else.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize)]
#[serde(default)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Demands {
    /// No black pigment: darks are mixed.
    pub no_black: bool,
    /// Only pigments of these families, and greys; empty for all.
    pub only_hues: Vec<HueFamily>,
    /// No pigment that fades sooner than this class, 1 (lasting) to 4; an unknown class does not pass.
    #[cfg_attr(feature = "schema", schema(minimum = 1, maximum = 4))]
    pub least_lasting: Option<u8>,
    /// No pigment that calls for a caution.
    pub no_hazard: bool,
    /// Most pigments in one mix, 1 to 3; 1 for colours used as they come.
    #[cfg_attr(feature = "schema", schema(minimum = 1, maximum = 3))]
    pub most_in_mix: Option<u8>,
    /// Most layers over each other in one place, every coat, stroke and lifting counted, 1 to 5.
    #[cfg_attr(feature = "schema", schema(minimum = 1, maximum = 5))]
    pub most_layers: Option<u8>,
    /// Layers may be laid as is not usual in the medium: light over dark, lifted, blended, three pens or sticks over each other.
    pub unusual_layers: bool,
    /// A little of one pigment in every mix.
    pub mother: Option<Mother>,
    /// At least one string: a light, a middle and a dark of one hue family.
    pub string: bool,
    /// A value some mix must be as dark as.
    #[cfg_attr(feature = "schema", schema(minimum = 0, maximum = 10))]
    pub darkest: Option<f64>,
    /// A value some mix, or what is free, must be as light as.
    #[cfg_attr(feature = "schema", schema(minimum = 0, maximum = 10))]
    pub lightest: Option<f64>,
    /// Families of which the set must hold a warm and a cool pigment.
    pub warm_and_cool: Vec<HueFamily>,
    /// A hue family of the plan may go unmixed where that lowers the mean. Usually a set reaches every family that sets of its size can.
    pub families_may_go: bool,
}

/// How much of the way to the warm pole two pigments of a family must differ by, in degrees of hue, to be its warm and its cool. A choice.
pub(crate) const WARM_FROM_COOL: f64 = 10.0;
/// Value below which a grey pigment is a black. A choice.
const BLACK_BELOW: f64 = 3.2;

impl Demands {
    /// Whether anything hangs on a set as a whole, not on its pigments or mixes alone.
    pub(crate) fn ask_of_sets(&self) -> bool {
        self.string || self.darkest.is_some() || self.lightest.is_some() || !self.warm_and_cool.is_empty()
    }

    /// Says what is out of range or contradicts itself.
    ///
    /// # Errors
    /// Names the demand, what is wrong with it, and what to do.
    pub fn check(&self) -> Result<(), String> {
        let within = |what: &str, n: Option<u8>, most: u8| match n {
            Some(n) if !(1..=most).contains(&n) => Err(format!("{what} is {n}; it may be 1 to {most}.")),
            _ => Ok(()),
        };
        within("The most pigments in a mix", self.most_in_mix, 3)?;
        within("The most layers", self.most_layers, 5)?;
        within("The least light-fastness", self.least_lasting, 4)?;
        for (what, v) in [("The darkest dark", self.darkest), ("The lightest light", self.lightest)] {
            if v.is_some_and(|v| !(0.0..=10.0).contains(&v)) {
                return Err(format!("{what} is off the ladder; values run from 0 to 10."));
            }
        }
        if let Some((d, l)) = self.darkest.zip(self.lightest).filter(|(d, l)| d > l) {
            return Err(format!("The darkest dark asked for ({d}) is lighter than the lightest light ({l}). Exchange the two."));
        }
        if let Some(m) = self.mother.as_ref().filter(|m| !(0.01..=0.9).contains(&m.share)) {
            return Err(format!("A share of {} of \"{}\" in every mix is out of range; it may be 0.01 to 0.9.", m.share, m.pigment));
        }
        if let Some(f) = self.warm_and_cool.iter().find(|f| !self.only_hues.is_empty() && !self.only_hues.contains(f)) {
            return Err(format!(
                "A warm and a cool {0} are asked for, but {0} is not among the only hues. Add it or take the other back.",
                f.name()
            ));
        }
        Ok(())
    }
}

/// What each pigment alone is, as far as demands ask.
#[derive(Clone, Debug)]
pub struct Alone {
    /// Its most colourful recipe.
    vivid: Lab,
    /// Value of its darkest recipe.
    darkest: f64,
}

impl Alone {
    /// What pigment `i` of a technique is. A technique in which it has no recipe of its own gives nothing.
    pub fn of(technique: &dyn Technique, i: usize) -> Option<Self> {
        let colours = technique.exact(&[i]);
        let vivid = *colours.iter().max_by(|a, b| a.chroma().total_cmp(&b.chroma()))?;
        let darkest = colours.iter().map(|c| c.value().0).fold(f64::INFINITY, f64::min);
        Some(Self { vivid, darkest })
    }

    /// Its family; `None` for greys.
    pub fn family(&self) -> Option<HueFamily> {
        HueFamily::of(self.vivid)
    }

    /// Value of its darkest recipe.
    pub(crate) fn darkest(&self) -> f64 {
        self.darkest
    }

    /// Value where it is most colourful.
    pub(crate) fn value(&self) -> f64 {
        self.vivid.value().0
    }

    /// Temperature where it is most colourful.
    pub(crate) fn temperature(&self) -> f64 {
        self.vivid.temperature().0
    }

    /// Degrees of hue from the warm pole, 0..=180.
    pub(crate) fn off_warm(&self) -> f64 {
        let off = (self.vivid.hue().0 - WARM_POLE).rem_euclid(360.0);
        off.min(360.0 - off)
    }
}

/// Why a pigment is left out.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Forbidden {
    /// It is a black.
    Black,
    /// Its hue is not among those allowed.
    OtherHue,
    /// It fades too soon, or nobody knows.
    Fades,
    /// It calls for a caution.
    Hazard,
}

impl Forbidden {
    /// The demand, in the painter's words.
    pub fn words(self) -> &'static str {
        match self {
            Self::Black => "no black",
            Self::OtherHue => "only these hues",
            Self::Fades => "least light-fastness",
            Self::Hazard => "no hazardous pigments",
        }
    }
}

/// The demand that forbids a pigment, if one does.
pub fn forbidden(demands: &Demands, pigment: &Pigment, alone: Option<&Alone>) -> Option<Forbidden> {
    let black = || {
        // Over a toned ground a thin black has a hue: what is named one is told by its dark alone.
        let grey = |a: &Alone| a.family().is_none() && a.vivid.value().0 < 2.0 * BLACK_BELOW;
        alone.is_some_and(|a| a.darkest < BLACK_BELOW && (pigment.is_black() || grey(a)))
    };
    let family = alone.and_then(Alone::family);
    if demands.no_black && black() {
        return Some(Forbidden::Black);
    }
    if !demands.only_hues.is_empty() && family.is_some_and(|f| !demands.only_hues.contains(&f)) {
        return Some(Forbidden::OtherHue);
    }
    if demands.least_lasting.is_some_and(|least| lasting(&pigment.lightfastness).is_none_or(|class| class > least)) {
        return Some(Forbidden::Fades);
    }
    (demands.no_hazard && !pigment.hazard.is_empty()).then_some(Forbidden::Hazard)
}

/// The worst light-fastness class a text names, 1 to 5; `None` when it names none. `II-III` is 3.
pub fn lasting(text: &str) -> Option<u8> {
    let numerals = text.split(|c: char| !"IV".contains(c)).filter(|t| !t.is_empty());
    numerals
        .filter_map(|n| match n {
            "I" => Some(1),
            "II" => Some(2),
            "III" => Some(3),
            "IV" => Some(4),
            "V" => Some(5),
            _ => None,
        })
        .max()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_colour_is_of_one_family_in_both_precisions() {
        for hue in 0..3600 {
            let lab = Lab::from_lch(50.0, 20.0, 0.05 + f64::from(hue) / 10.0);
            let family = HueFamily::of(lab).unwrap();
            let holding: Vec<HueFamily> = HueFamily::ALL.into_iter().filter(|f| f.arc().holds(lab.a as f32, lab.b as f32)).collect();
            assert_eq!(holding, [family], "at {hue}");
        }
        assert!(!HueFamily::Blue.arc().holds(0.0, -7.9) && HueFamily::of(Lab::new(50.0, 0.0, -7.9)).is_none());
    }

    #[test]
    fn light_fastness_is_read_from_what_makers_print() {
        assert_eq!(lasting("I"), Some(1));
        assert_eq!(lasting("II-III"), Some(3));
        assert_eq!(lasting("II (watercolour: III, darkens)"), Some(3));
        assert_eq!(lasting(""), None);
    }

    #[test]
    fn contradictions_are_named() {
        let asked = Demands { darkest: Some(6.0), lightest: Some(4.0), ..Demands::default() };
        assert!(asked.check().unwrap_err().contains("darkest"));
        let asked = Demands { only_hues: vec![HueFamily::Blue], warm_and_cool: vec![HueFamily::Red], ..Demands::default() };
        assert!(asked.check().unwrap_err().contains("red"));
        assert!(Demands { most_in_mix: Some(4), ..Demands::default() }.check().is_err());
    }
}
