//! Steps a hand really laid, as it says so itself: which pigments, how much, how often, what was done.

use crate::amounts;
use crate::layered::mix_layers;
use crate::mix::MixLayer;
use lean_media::forms::{Act, Form, Laying, MOST_LAYERS, MOST_PIGMENTS};
use lean_media::{Ground, Medium, Pigment, PigmentId};
use serde::{Deserialize, Serialize};

/// A pigment in a step.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct LaidPart {
    /// The pigment.
    pub pigment: PigmentId,
    /// Its parts of a wash, 1 to 9; 1 where a step is of one pigment alone.
    #[cfg_attr(feature = "schema", schema(minimum = 1, maximum = 9))]
    pub parts: u8,
}

/// One step of what was laid.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct LaidStep {
    /// The pigments in it, several only in a wash; none where something is lifted or burnished.
    pub of: Vec<LaidPart>,
    /// Strength of a wash, pressure of a pencil, mass of a stroke: its place among [`amounts`], from 1.
    #[cfg_attr(feature = "schema", schema(minimum = 1, maximum = 5))]
    pub amount: u8,
    /// Washes, coats, layers or strokes of it, one after the other, 1 to 3.
    #[cfg_attr(feature = "schema", schema(minimum = 1, maximum = 3))]
    pub times: u8,
    /// The act.
    pub act: Act,
}

/// Most parts of a pigment in a wash.
const MOST_PARTS: u8 = 9;
/// Most times in a row.
const MOST_TIMES: u8 = 3;

/// The steps of a recipe in layers, as they can be changed.
pub fn steps_of(medium: Medium, layers: &[MixLayer]) -> Vec<LaidStep> {
    let amount = |l: &MixLayer| amounts(medium).iter().position(|name| l.how.starts_with(name)).map_or(1, |n| n as u8 + 1);
    let parts = |n: u16| u8::try_from(n).unwrap_or(MOST_PARTS).clamp(1, MOST_PARTS);
    let step = |l: &MixLayer| LaidStep {
        of: l.of.iter().map(|p| LaidPart { pigment: p.pigment.clone(), parts: parts(p.parts) }).collect(),
        amount: amount(l),
        times: l.times.clamp(1, MOST_TIMES),
        act: l.act,
    };
    // A second medium over the first is laid otherwise.
    layers.iter().filter(|l| l.second.is_none()).map(step).collect()
}

/// Steps as layers of a recipe, with their amounts on this ground.
///
/// # Errors
/// A sentence, when a step cannot be laid or there are too many.
pub fn layers_of<'a>(
    medium: Medium,
    ground: &Ground,
    steps: &[LaidStep],
    find: &dyn Fn(&PigmentId) -> Option<&'a Pigment>,
) -> Result<Vec<MixLayer>, String> {
    let mut pigments: Vec<&Pigment> = Vec::new();
    let mut layings = Vec::new();
    for (n, step) in steps.iter().enumerate() {
        let wrong = |what: &str| Err(format!("Layer {}: {what}.", n + 1));
        let adds = matches!(step.act, Act::Lay | Act::Rub);
        let most = amounts(medium).len().max(1) as u8;
        if !(1..=most).contains(&step.amount) || !(1..=MOST_TIMES).contains(&step.times) {
            return wrong(&format!(
                "an amount of {} laid {} times is not known here; amounts go to {most}, times to {MOST_TIMES}",
                step.amount, step.times
            ));
        }
        if adds && (step.of.is_empty() || step.of.len() > 1 && medium != Medium::Watercolour) {
            return wrong("say which pigment it is of; only a wash is of several");
        }
        let mut parts = [0; MOST_PIGMENTS];
        for part in step.of.iter().filter(|_| adds) {
            let Some(pigment) = find(&part.pigment) else { return wrong(&format!("\"{}\" is not in this Box", part.pigment)) };
            if !(1..=MOST_PARTS).contains(&part.parts) {
                return wrong(&format!("{} parts of {} are out of range, 1 to {MOST_PARTS}", part.parts, pigment.name));
            }
            let place = pigments.iter().position(|p| p.id == pigment.id).unwrap_or(pigments.len());
            if place == pigments.len() {
                pigments.push(pigment);
            }
            if place >= MOST_PIGMENTS {
                return wrong(&format!("at most {MOST_PIGMENTS} pigments can be told of one swatch"));
            }
            parts[place] = part.parts;
        }
        layings.push(Laying { parts, amount: step.amount, times: step.times, act: step.act, slip: None });
    }
    let form = Form::laid(&layings).ok_or_else(|| format!("Lay one to {MOST_LAYERS} layers; these are {}.", layings.len()))?;
    Ok(mix_layers(medium, ground, &form, &pigments))
}

#[cfg(test)]
mod tests {
    use super::*;
    use lean_media::{ground, library};

    fn step(pigment: &str, amount: u8, times: u8) -> LaidStep {
        LaidStep { of: vec![LaidPart { pigment: pigment.into(), parts: 1 }], amount, times, act: Act::Lay }
    }

    fn find(id: &PigmentId) -> Option<&'static Pigment> {
        library::find(&id.0)
    }

    #[test]
    fn steps_become_layers_and_come_back_in_every_medium_of_layers() {
        for medium in [Medium::Watercolour, Medium::Marker, Medium::Pencil, Medium::SoftPastel] {
            let most = amounts(medium).len().max(1) as u8;
            let steps = vec![step("PB29", 1, 2), step("PY43", most, 1)];
            let layers = layers_of(medium, &ground::usual(medium), &steps, &find).unwrap();
            assert_eq!(steps_of(medium, &layers), steps, "{medium:?}: {layers:?}");
            assert!(layers.iter().all(|l| l.general(medium, &find).is_some()), "{medium:?}");
        }
    }

    #[test]
    fn what_cannot_be_laid_is_said_with_its_layer() {
        let of = |medium: Medium, steps: &[LaidStep]| layers_of(medium, &ground::usual(medium), steps, &find).unwrap_err();
        assert!(of(Medium::Pencil, &[step("PB29", 1, 1), step("PB29", 9, 1)]).starts_with("Layer 2: an amount of 9"));
        assert!(of(Medium::Pencil, &[step("velvet", 1, 1)]).contains("\"velvet\" is not in this Box"));
        assert!(of(Medium::Marker, &[]).contains("these are 0"));
        let two = LaidStep { of: ["PB29", "PY43"].map(|p| LaidPart { pigment: p.into(), parts: 1 }).to_vec(), ..step("PB29", 1, 1) };
        assert!(of(Medium::Marker, std::slice::from_ref(&two)).contains("only a wash"));
        assert!(layers_of(Medium::Watercolour, &ground::usual(Medium::Watercolour), &[two], &find).is_ok());
    }
}
