//! Readings of what was laid: masstones, tints, layers, trials of a mix.

use super::MOST_TEXT;
use super::eye::EyeJudgement;
use crate::kept_as_text;
use crate::zones::ZoneId;
use lean_colour::{BANDS, Lab, Reflectance};
use lean_media::layering::{Binder, Layer, State};
use lean_media::learn::{Evidence, Judged};
use lean_media::{GroundId, Medium, Parts, Pigment, PigmentId};
use lean_recipes::{Mix, MixLayer};
use serde::{Deserialize, Serialize};

/// One pigment in a wet mix.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct WetPart {
    /// Which.
    pub pigment: PigmentId,
    /// Parts by volume, above 0.
    #[cfg_attr(feature = "schema", schema(minimum = 0))]
    pub parts: f64,
}

/// What lies under the meter: what was put down, on which ground.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Swatch {
    /// On which ground.
    pub ground: GroundId,
    /// What a wet mix was made of; empty where it was laid in layers.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub parts: Vec<WetPart>,
    /// What was laid, first laid first; empty for a wet mix.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub layers: Vec<MixLayer>,
}

impl Swatch {
    /// What a recipe comes to on a ground; of wet mixes in parts, the least of which is one.
    pub fn of_mix(mix: &Mix, ground: GroundId) -> Self {
        if !mix.layers.is_empty() {
            return Self { ground, parts: Vec::new(), layers: mix.layers.clone() };
        }
        let amounts: Vec<(&PigmentId, f64)> = mix.amounts().into_iter().filter(|(_, n)| *n > 0.0).collect();
        let least = amounts.iter().map(|(_, n)| *n).fold(f64::INFINITY, f64::min);
        let part = |(id, n): (&PigmentId, f64)| WetPart { pigment: id.clone(), parts: (n / least * 100.0).round() / 100.0 };
        Self { ground, parts: amounts.into_iter().map(part).collect(), layers: Vec::new() }
    }

    /// The same as layers of the general model; `None` where a pigment is not in the Box, or nothing was laid.
    pub fn general<'a>(&self, medium: Medium, find: &dyn Fn(&PigmentId) -> Option<&'a Pigment>) -> Option<Vec<Layer<'a>>> {
        if !self.parts.is_empty() {
            let of = self.parts.iter().map(|p| Some((find(&p.pigment)?, Parts(p.parts)))).collect::<Option<Vec<_>>>()?;
            return medium.is_wet_opaque().then(|| vec![Layer::Paint { binder: Binder::Oil, of, film: None }]);
        }
        let layers: Vec<Layer<'a>> = self.layers.iter().map(|l| l.general(medium, find)).collect::<Option<Vec<_>>>()?.concat();
        (!layers.is_empty()).then_some(layers)
    }

    /// The pigments in it, each once.
    pub fn pigments(&self) -> Vec<&PigmentId> {
        let mut all: Vec<&PigmentId> =
            self.parts.iter().map(|p| &p.pigment).chain(self.layers.iter().flat_map(|l| l.of.iter().map(|p| &p.pigment))).collect();
        all.sort();
        all.dedup();
        all
    }
}

/// How it was read.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum ReadWith {
    /// A colour meter.
    Meter,
    /// A photo with a grey card.
    Photo,
    /// A colour typed in.
    Typed,
    /// A file of measurements.
    File,
    /// Judged by eye beside a known colour.
    Eye,
}

impl ReadWith {
    /// One standard deviation of what it reads, as a share of light. Choices: a hand-held meter, a camera in even light, an eye and a chart. A
    /// judgement by eye carries its own ([`EyeJudgement`]).
    pub fn noise(self) -> f64 {
        match self {
            Self::Meter | Self::File => 0.003,
            Self::Photo => 0.01,
            Self::Typed | Self::Eye => 0.02,
        }
    }

    /// In a word.
    pub fn word(self) -> &'static str {
        match self {
            Self::Meter => "meter",
            Self::Photo => "photo",
            Self::Typed => "typed",
            Self::File => "file",
            Self::Eye => "by eye",
        }
    }
}

/// What was read.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ReadColour {
    /// Its colour under daylight.
    pub lab: Lab,
    /// 36 bands from 380 to 730 nm where an instrument read them; empty where only a colour is known.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub bands: Vec<f64>,
}

impl ReadColour {
    /// What an instrument saw.
    pub fn of(evidence: &Evidence) -> Self {
        match evidence {
            Evidence::Spectral(r) => Self { lab: r.xyz().lab(), bands: r.0.to_vec() },
            Evidence::ColourOnly(lab) | Evidence::Judged(Judged { lab, .. }) => Self { lab: *lab, bands: Vec::new() },
        }
    }

    /// The same as evidence to learn from.
    pub fn evidence(&self) -> Evidence {
        match <[f64; BANDS]>::try_from(self.bands.as_slice()) {
            Ok(bands) => Evidence::Spectral(Reflectance(bands)),
            Err(_) => Evidence::ColourOnly(self.lab),
        }
    }
}

/// For which zone of a piece something was tried.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct TriedFor {
    /// Number of the piece.
    pub piece: i64,
    /// Which zone; `None` for a cell of its chart.
    pub zone: Option<ZoneId>,
    /// Which cell of its chart, from 0.
    #[serde(default)]
    pub cell: Option<usize>,
}

/// One reading.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SwatchReading {
    /// What was read: pigments, how much, on which ground.
    pub swatch: Swatch,
    /// What it read.
    pub seen: ReadColour,
    /// Wet or dry. Damp counts as wet.
    pub state: Dampness,
    /// Fixed or varnished when it was read: such readings are kept, and teach nothing of the bare pigment.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub sealed: bool,
    /// With what.
    pub with: ReadWith,
    /// The judgement, where it was judged by eye.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub eye: Option<EyeJudgement>,
    /// True where a simulated instrument made it up; `None` in what was kept before this was told ([`Self::is_played`]).
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub played: Option<bool>,
    /// When, UTC, as in RFC 3339.
    pub at: String,
    /// For which zone it was a trial of a mix.
    #[serde(default)]
    pub tried_for: Option<TriedFor>,
    /// Left out by the painter: it is kept, and teaches nothing.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub left_out: bool,
    /// A remark; may be empty.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub note: String,
}

/// Whether it was dry.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Dampness {
    /// Dry.
    #[default]
    Dry,
    /// Still damp.
    Damp,
    /// Wet.
    Wet,
}

impl Dampness {
    /// The state the models know; between wet and dry there is none, so a damp swatch teaches nothing.
    pub fn state(self) -> Option<State> {
        match self {
            Self::Dry => Some(State::Dry),
            Self::Wet => Some(State::Wet),
            Self::Damp => None,
        }
    }
}

kept_as_text!(SwatchReading);

impl SwatchReading {
    /// The reading of a dry swatch off a photo at a time (UTC, as in RFC 3339); `played` where a simulated camera made it up.
    pub fn of_photo(swatch: Swatch, lab: Lab, at: String, played: bool) -> Self {
        Self {
            swatch,
            seen: ReadColour { lab, bands: Vec::new() },
            state: Dampness::Dry,
            sealed: false,
            with: ReadWith::Photo,
            eye: None,
            played: Some(played),
            at,
            tried_for: None,
            left_out: false,
            note: String::new(),
        }
    }

    /// The reading as evidence to learn from.
    pub fn evidence(&self) -> Evidence {
        match &self.eye {
            Some(eye) => Evidence::Judged(eye.judged()),
            None => self.seen.evidence(),
        }
    }

    /// True where a simulated instrument made it up. Before it was told, the only colour meter was a simulated one.
    pub fn is_played(&self) -> bool {
        self.played.unwrap_or(self.with == ReadWith::Meter)
    }

    /// Checks numbers and texts.
    ///
    /// # Errors
    /// Says what is wrong and what would be right.
    pub fn check(&self) -> Result<(), String> {
        if self.swatch.parts.is_empty() == self.swatch.layers.is_empty() {
            return Err("Say what the swatch was made of: parts of a wet mix, or layers, one of the two.".into());
        }
        if let Some(p) = self.swatch.parts.iter().find(|p| !(p.parts.is_finite() && p.parts > 0.0 && p.parts <= 10_000.0)) {
            return Err(format!("{} parts of {} are out of range; parts lie above 0.", p.parts, p.pigment));
        }
        let lab = self.seen.lab;
        if ![lab.l, lab.a, lab.b].iter().all(|x| x.is_finite()) || !(0.0..=100.0).contains(&lab.l) || lab.a.abs().max(lab.b.abs()) > 200.0 {
            return Err(format!("{} {} {} is no colour: L lies between 0 and 100, a and b between -200 and 200.", lab.l, lab.a, lab.b));
        }
        if !self.seen.bands.is_empty() && self.seen.bands.len() != BANDS {
            return Err(format!("{} bands were read, but 36 are needed (380 to 730 nm by 10).", self.seen.bands.len()));
        }
        if let Some(i) = self.seen.bands.iter().position(|r| !(-0.02..=1.2).contains(r)) {
            let nm = lean_colour::spectrum::wavelength(i);
            return Err(format!("{} at {nm} nm is no reflectance: it is a share from 0 to 1.", self.seen.bands[i]));
        }
        if (self.with == ReadWith::Eye) != self.eye.is_some() {
            return Err("A reading by eye needs its judgement, and no other reading has one.".into());
        }
        if let Some(eye) = &self.eye {
            eye.check()?;
        }
        if self.note.chars().count() > MOST_TEXT {
            return Err(format!("The remark has {} characters; {MOST_TEXT} fit.", self.note.chars().count()));
        }
        Ok(())
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn reading() -> SwatchReading {
        SwatchReading {
            swatch: Swatch {
                ground: GroundId("panel-white".into()),
                parts: vec![WetPart { pigment: "PB29".into(), parts: 1.0 }],
                layers: Vec::new(),
            },
            seen: ReadColour { lab: Lab::new(30.0, 10.0, -50.0), bands: Vec::new() },
            state: Dampness::Dry,
            sealed: false,
            with: ReadWith::Typed,
            eye: None,
            played: Some(false),
            at: "2026-01-01T00:00:00Z".into(),
            tried_for: None,
            left_out: false,
            note: String::new(),
        }
    }

    #[test]
    fn what_is_wrong_with_a_reading_is_said() {
        assert_eq!(reading().check(), Ok(()));
        let wrong = |change: &dyn Fn(&mut SwatchReading)| {
            let mut r = reading();
            change(&mut r);
            r.check().unwrap_err()
        };
        assert!(wrong(&|r| r.swatch.parts.clear()).contains("made of"));
        assert!(wrong(&|r| r.swatch.parts[0].parts = f64::NAN).contains("NaN parts of PB29"));
        assert!(wrong(&|r| r.seen.lab.l = 140.0).contains("140"));
        assert!(wrong(&|r| r.seen.bands = vec![0.5; 31]).contains("31 bands"));
        assert!(wrong(&|r| r.seen.bands = (0..36).map(|i| if i == 7 { 3.0 } else { 0.4 }).collect()).contains("450 nm"));
        assert!(wrong(&|r| r.note = "x".repeat(400)).contains("400 characters"));
    }

    #[test]
    fn a_swatch_is_laid_by_the_general_model() {
        let white = lean_media::library::find("PW6").unwrap();
        let blue = lean_media::library::find("PB29").unwrap();
        let find = |id: &PigmentId| [white, blue].into_iter().find(|p| p.id == *id);
        assert!(matches!(reading().swatch.general(Medium::Oil, &find).unwrap()[0], Layer::Paint { .. }));
        let mut unknown = reading().swatch;
        unknown.parts[0].pigment = "velvet".into();
        assert!(unknown.general(Medium::Oil, &find).is_none());
        assert_eq!(reading().swatch.pigments(), [&PigmentId::from("PB29")]);
    }
}
