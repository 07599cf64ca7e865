//! One owned colouring thing.

use crate::medium::Second;
use lean_colour::BANDS;
use serde::{Deserialize, Serialize};

/// Stable name of a pigment inside its Box: lower-case words joined by hyphens, or a Colour Index name.
#[derive(Clone, Debug, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(transparent)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PigmentId(pub String);

impl std::fmt::Display for PigmentId {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        f.write_str(&self.0)
    }
}

impl From<&str> for PigmentId {
    fn from(s: &str) -> Self {
        Self(s.to_owned())
    }
}

/// Parts by volume in a mix, ≥ 0. Only ratios matter.
#[derive(Clone, Copy, Debug, PartialEq, PartialOrd, Serialize, Deserialize)]
#[serde(transparent)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Parts(pub f64);

/// Where the numbers of a pigment come from.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Provenance {
    /// Shaped from general knowledge and fitted to single colours; never measured.
    Modelled,
    /// Given by the painter in a pigment file.
    Given,
    /// Learned from spectra an instrument read of the painter's own.
    Measured,
    /// Learned from colours alone: its spectrum is one of many, and says nothing about other lamps.
    Inferred,
}

/// What a pigment was believed to be before anything was read of it.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Model {
    /// Absorption, 36 bands, ≥ 0.
    pub k: Vec<f64>,
    /// Scattering, 36 bands, ≥ 0.
    pub s: Vec<f64>,
    /// Where these came from.
    pub provenance: Provenance,
}

/// What a painter says of a pigment.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize)]
#[serde(default)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Owned {
    /// The label as it is printed on it.
    pub label: String,
    /// Soft to hard, 0..=1, of sticks and pencils; `None` when nobody said.
    pub hardness: Option<f64>,
    /// See-through to covering, 0..=1; `None` when nobody said.
    pub covering: Option<f64>,
    /// How much is left, 0..=1; `None` when nobody looked.
    pub left: Option<f64>,
    /// Where it was bought.
    pub bought: String,
    /// Who has it at present; empty while it lies in the Box.
    pub lent_to: String,
    /// Used up: it is kept for its readings and the pieces painted with it, and never searched.
    pub used_up: bool,
}

/// A pigment with its absorption K and scattering S per unit volume of paint.
///
/// Both are relative to titanium white, whose S at 550 nm is 1 (science: Kubelka & Munk 1931).
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct Pigment {
    /// Stable name inside the Box.
    pub id: PigmentId,
    /// Plain name, shown everywhere.
    pub name: String,
    /// Colour Index generic names of what is in it; may be empty.
    #[serde(default)]
    pub colour_index: Vec<String>,
    /// Absorption, 36 bands, ≥ 0.
    pub k: Vec<f64>,
    /// Scattering, 36 bands, ≥ 0.
    pub s: Vec<f64>,
    /// White is free in a mix and never counted in a lean set.
    #[serde(default)]
    pub white: bool,
    /// Light-fastness class as commonly stated, `I` best; empty when unknown.
    #[serde(default)]
    pub lightfastness: String,
    /// A metal or compound that calls for a caution; empty when none is known.
    #[serde(default)]
    pub hazard: String,
    /// Bites into paper and hardly lifts.
    #[serde(default)]
    pub staining: bool,
    /// Gathers in the hollows of the paper.
    #[serde(default)]
    pub granulating: bool,
    /// Where the numbers come from.
    #[serde(default = "given")]
    pub provenance: Provenance,
    /// What it was before it was learned; `None` while nothing was read of it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub model: Option<Box<Model>>,
    /// How sure its own colour is, in CIELAB units: the root of the summed variances; `None` while nothing was read of it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub doubt: Option<f64>,
    /// What the painter says of it.
    #[serde(default, skip_serializing_if = "is_usual")]
    pub owned: Owned,
    /// Taken from a second Box, and laid as this. `None` in every Box itself.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub second: Option<Second>,
}

fn is_usual(owned: &Owned) -> bool {
    *owned == Owned::default()
}

fn given() -> Provenance {
    Provenance::Given
}

impl Pigment {
    /// Checks the bands of this pigment.
    ///
    /// # Errors
    /// Says which pigment, which list and which band is wrong, and what would be right.
    pub fn check(&self) -> Result<(), String> {
        if self.id.0.trim().is_empty() {
            return Err("a pigment has an empty id: give every pigment a short name of its own".into());
        }
        for (what, list) in [("k", &self.k), ("s", &self.s)] {
            if list.len() != BANDS {
                return Err(format!("pigment \"{}\": {what} has {} numbers, but 36 are needed (380 to 730 nm by 10)", self.id, list.len()));
            }
            if let Some(i) = list.iter().position(|x| !x.is_finite() || *x < 0.0) {
                let nm = lean_colour::spectrum::wavelength(i);
                return Err(format!("pigment \"{}\": {what} at {nm} nm is {}, but it must be zero or more", self.id, list[i]));
            }
        }
        if (0..BANDS).any(|i| self.k[i] == 0.0 && self.s[i] == 0.0) {
            return Err(format!("pigment \"{}\": k and s are both zero in one band, which is no paint at all", self.id));
        }
        Ok(())
    }

    /// As it was before anything was read of it.
    pub fn unlearned(&self) -> Self {
        match &self.model {
            Some(m) => Self { k: m.k.clone(), s: m.s.clone(), provenance: m.provenance.clone(), model: None, doubt: None, ..self.clone() },
            None => self.clone(),
        }
    }

    /// The strongest absorption its model has, by which a pen is thinned: learning a pen better does not refill it.
    pub fn peak(&self) -> f64 {
        let k = self.model.as_ref().map_or(&self.k, |m| &m.k);
        k.iter().copied().fold(f64::MIN_POSITIVE, f64::max)
    }

    /// Whether its Colour Index names are those of blacks alone.
    pub fn is_black(&self) -> bool {
        !self.colour_index.is_empty() && self.colour_index.iter().all(|name| name.starts_with("PBk"))
    }

    /// A stick or tube made of several pigments in the given parts (additivity: Duncan 1940).
    pub fn blended(id: PigmentId, name: String, of: &[(&Pigment, Parts)]) -> Self {
        let total: f64 = of.iter().map(|(_, p)| p.0).sum();
        let mix = |band: fn(&Pigment) -> &Vec<f64>| {
            (0..BANDS).map(|i| of.iter().map(|(pig, p)| band(pig)[i] * p.0 / total).sum()).collect::<Vec<f64>>()
        };
        let mut colour_index: Vec<String> = of.iter().filter(|(p, _)| !p.white).flat_map(|(p, _)| p.colour_index.clone()).collect();
        colour_index.dedup();
        let hazard = of.iter().map(|(p, _)| p.hazard.clone()).find(|h| !h.is_empty()).unwrap_or_default();
        let worst = of.iter().map(|(p, _)| p.lightfastness.clone()).max_by_key(String::len).unwrap_or_default();
        Self {
            id,
            name,
            colour_index,
            k: mix(|p| &p.k),
            s: mix(|p| &p.s),
            white: false,
            lightfastness: worst,
            hazard,
            staining: of.iter().any(|(p, _)| p.staining),
            granulating: of.iter().any(|(p, _)| p.granulating),
            provenance: Provenance::Modelled,
            model: None,
            doubt: None,
            owned: Owned::default(),
            second: None,
        }
    }
}
