//! What is off between a wanted and a given colour, and how a painter says it: value first, then chroma where that changed most, then hue by
//! its direction, temperature last and only where the hue moves it or both are nearly grey.

use super::{capital, value_off};
use lean_colour::difference::{ciede2000, parts};
use lean_colour::temperature::{SAME, WARM_POLE};
use lean_colour::{HueAngle, Lab, Steps};
use serde::Serialize;

/// What is wrong with the chroma of the given colour.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize)]
pub enum Chroma {
    /// Less colour than wanted.
    #[serde(rename = "too dull")]
    Dull,
    /// More.
    #[serde(rename = "too strong")]
    Strong,
}

/// Which way the hue of the given colour lies from the wanted one.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize)]
pub enum Hue {
    /// Towards red.
    #[serde(rename = "too red")]
    Red,
    /// Towards orange.
    #[serde(rename = "too orange")]
    Orange,
    /// Towards yellow.
    #[serde(rename = "too yellow")]
    Yellow,
    /// Towards green.
    #[serde(rename = "too green")]
    Green,
    /// Towards blue.
    #[serde(rename = "too blue")]
    Blue,
    /// Towards violet.
    #[serde(rename = "too violet")]
    Violet,
}

/// Which way its temperature lies.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize)]
pub enum Warmth {
    /// Warmer than wanted.
    #[serde(rename = "too warm")]
    Warm,
    /// Cooler.
    #[serde(rename = "too cool")]
    Cool,
}

impl Hue {
    /// All of them round the circle, each with the CIELAB hue angle it is at its purest. Where they lie is a choice.
    const ROUND: [(Self, f64); 6] =
        [(Self::Red, 30.0), (Self::Orange, 62.0), (Self::Yellow, 95.0), (Self::Green, 150.0), (Self::Blue, 262.0), (Self::Violet, 315.0)];

    /// The one whose purest angle is nearest.
    fn nearest(hue: f64) -> usize {
        // Crimson and rose are reds, though violet is nearly as near.
        if hue.rem_euclid(360.0) >= CRIMSON {
            return 0;
        }
        let off = |at: f64| turn(at, hue).abs();
        (0..Self::ROUND.len()).min_by(|a, b| off(Self::ROUND[*a].1).total_cmp(&off(Self::ROUND[*b].1))).unwrap_or(0)
    }

    /// What a hue is too much of when it should be another: the hue it has become, or has come nearer to; where it was that before, the next one.
    fn towards(wanted: f64, given: f64) -> Self {
        let (from, to, count) = (Self::nearest(wanted), Self::nearest(given), Self::ROUND.len());
        let off = |hue: f64| turn(Self::ROUND[to].1, hue);
        let purer = off(given).abs() < off(wanted).abs() && off(given) * off(wanted) >= 0.0;
        let at = match (from != to || purer, turn(wanted, given) >= 0.0) {
            (true, _) => to,
            (false, true) => (from + 1) % count,
            (false, false) => (from + count - 1) % count,
        };
        Self::ROUND[at].0
    }

    fn more(self) -> &'static str {
        match self {
            Self::Red => "redder",
            Self::Orange => "more orange",
            Self::Yellow => "yellower",
            Self::Green => "greener",
            Self::Blue => "bluer",
            Self::Violet => "more violet",
        }
    }

    /// What a grey is called that leans to it.
    fn cast(self) -> &'static str {
        match self {
            Self::Red => "pinkish",
            Self::Orange => "brownish",
            Self::Yellow => "yellowish",
            Self::Green => "greenish",
            Self::Blue => "bluish",
            Self::Violet => "violet",
        }
    }

    fn word(self) -> &'static str {
        match self {
            Self::Red => "red",
            Self::Orange => "orange",
            Self::Yellow => "yellow",
            Self::Green => "green",
            Self::Blue => "blue",
            Self::Violet => "violet",
        }
    }
}

/// Words for a hue turned to smaller and to larger hue angles: of an orange "redder" and "yellower"; `None` of a colour without a hue.
pub fn turns(lab: Lab) -> Option<[&'static str; 2]> {
    /// Degrees by which a hue is turned to see what it is called.
    const BY: f64 = 25.0;
    let hue = lab.hue().0;
    (lab.chroma() >= GREY).then(|| [-BY, BY].map(|by| Hue::towards(hue, (hue + by).rem_euclid(360.0)).more()))
}

/// Degrees from one hue to another the shorter way, −180..180; positive from red towards yellow.
fn turn(from: f64, to: f64) -> f64 {
    (to - from + 540.0).rem_euclid(360.0) - 180.0
}

/// Degrees off warm and cool from which on a grey is said to be pinkish or greenish, and by which a colour must turn as it fades to have gone to
/// another. Choices.
const ACROSS: f64 = 35.0;
const GONE: f64 = 45.0;
/// Lightness below which a colour is a dark. A choice.
const DARK: f64 = 40.0;
/// Hue from which on reds are called so. A choice.
const CRIMSON: f64 = 345.0;
/// Chroma below which a colour is nearly grey: its hue is no more than a cast. A choice.
const GREY: f64 = 8.0;
/// Parts of a colour difference (CIEDE2000) below which nothing is said of them, unless nothing else is. A choice.
const SEEN: f64 = 2.5;
/// From this difference on there is a word about the colour whenever the colour has any part in it.
const ALWAYS: f64 = 6.0;
/// What of a difference cannot be seen at all.
const UNSEEN: f64 = 1.0;
/// A difference that needs no word.
const SITS: f64 = 1.5;

/// What is off.
#[derive(Clone, Debug, PartialEq, Serialize)]
pub struct Difference {
    /// Steps too light (+) or dark (−).
    pub value_steps: f64,
    /// What is wrong with its chroma.
    pub chroma: Option<Chroma>,
    /// What is wrong with its hue.
    pub hue: Option<Hue>,
    /// What is wrong with its temperature.
    pub temperature: Option<Warmth>,
    /// All of it in a sentence.
    pub words: String,
}

impl Difference {
    /// What is off in `given` where `wanted` was meant.
    pub fn of(wanted: Lab, given: Lab) -> Self {
        let value_steps = given.value().0 - wanted.value().0;
        let all = ciede2000(wanted, given);
        let p = parts(wanted, given);
        let (chroma_off, hue_off) = (p.chroma.abs(), p.hue.abs());
        let value = value_off(Steps(value_steps));
        // What is said of the colour: what can be seen; from a plain difference on, or where nothing else is said, at least the larger of the two.
        let asked = (all >= ALWAYS || value.is_none() && all >= SITS) && chroma_off.max(hue_off) >= UNSEEN;
        let said = |off: f64, other: f64| off >= SEEN || asked && off >= other;
        let cast = wanted.chroma() < GREY && given.chroma() >= GREY;
        let both_grey = wanted.chroma() < GREY && given.chroma() < GREY;
        let faded = given.chroma() < GREY && wanted.chroma() >= GREY;
        // What lost its colour is dull; a grey that took on a colour is stronger than it should be, and too much of that colour, however the two measure.
        let turned = chroma_off.hypot(hue_off) >= SEEN || asked;
        let changed = if cast || faded { turned } else { said(chroma_off, hue_off) && chroma_off >= hue_off && !both_grey };
        let chroma = changed.then_some(if p.chroma > 0.0 { Chroma::Strong } else { Chroma::Dull });
        let (da, db) = (given.a - wanted.a, given.b - wanted.b);
        let leans = HueAngle(db.atan2(da).to_degrees());
        let hue = if both_grey {
            // Warm and cool say the rest.
            let across = turn(WARM_POLE, leans.0).abs();
            (da.hypot(db) >= SEEN && (ACROSS..=180.0 - ACROSS).contains(&across)).then_some(Hue::ROUND[Hue::nearest(leans.0)].0)
        } else if faded && gone_green(wanted, given) {
            Some(Hue::Green)
        } else if cast {
            turned.then_some(Hue::ROUND[Hue::nearest(given.hue().0)].0)
        } else {
            (said(hue_off, chroma_off) && !faded).then(|| Hue::towards(wanted.hue().0, given.hue().0))
        };
        let warmer = warmer(wanted, given, both_grey);
        let temperature = (warmer.abs() >= SAME && (both_grey || hue.is_some() && !cast)).then_some(if warmer > 0.0 {
            Warmth::Warm
        } else {
            Warmth::Cool
        });
        let mut told: Vec<String> = value.into_iter().collect();
        // Of a cast its hue says it all.
        told.extend(chroma.filter(|_| !cast).map(|c| sized(chroma_off, if c == Chroma::Dull { "dull" } else { "strong" })));
        told.extend(hue.map(|h| match (cast, both_grey || faded) {
            (true, _) => sized(chroma_off.hypot(hue_off), h.word()),
            (false, true) => sized(da.hypot(db), h.cast()),
            (false, false) => sized(hue_off, h.word()),
        }));
        told.extend(temperature.map(|t| sized(warmer.abs() / WARMTH, if t == Warmth::Warm { "warm" } else { "cool" })));
        let words = if told.is_empty() { "Matches.".into() } else { format!("{}.", capital(&told.join(", "))) };
        Self { value_steps, chroma, hue, temperature, words }
    }

    /// How the colour of the one compares with the other, without its value: "duller and greener"; empty where both are much the same.
    pub fn comparison(&self) -> String {
        let chroma = self.chroma.map(|c| if c == Chroma::Dull { "duller" } else { "stronger" });
        let temperature = self.temperature.map(|t| if t == Warmth::Warm { "warmer" } else { "cooler" });
        let words: Vec<&str> = [chroma, self.hue.map(Hue::more), temperature].into_iter().flatten().collect();
        match words[..] {
            [] => String::new(),
            [only] => only.into(),
            [ref first @ .., last] => format!("{} and {last}", first.join(", ")),
        }
    }
}

/// Units of temperature that look about as far as one of a colour difference. A choice.
const WARMTH: f64 = 2.2;

/// Whether a dark that lost its colour went to green, as browns and blacks do that yellow got into.
fn gone_green(wanted: Lab, given: Lab) -> bool {
    given.l < DARK
        && given.chroma() >= SEEN
        && Hue::ROUND[Hue::nearest(given.hue().0)].0 == Hue::Green
        && turn(wanted.hue().0, given.hue().0).abs() >= GONE
}

/// How much warmer the given colour is because of its hue: at the chroma that was wanted, or as it is where both are nearly grey.
fn warmer(wanted: Lab, given: Lab, both_grey: bool) -> f64 {
    let alike = if both_grey || given.chroma() == 0.0 { 1.0 } else { wanted.chroma() / given.chroma() };
    let at_like_chroma = Lab::new(given.l, given.a * alike, given.b * alike);
    at_like_chroma.temperature().warmer_than(wanted.temperature())
}

/// "A touch dull", "too dull", "clearly too dull", "much too dull", by how far it is off as the eye counts.
fn sized(off: f64, what: &str) -> String {
    match off {
        x if x < 3.5 => format!("a touch {what}"),
        x if x < 7.0 => format!("too {what}"),
        x if x < 13.0 => format!("clearly too {what}"),
        _ => format!("much too {what}"),
    }
}
