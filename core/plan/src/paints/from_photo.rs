//! A Box from a photo: patches of colour that become pigments, or readings of those that are there.

use super::inventory::of_masstone;
use super::learned::{predicted, swatch_of};
use super::listed::with_free_ids;
use lean_colour::difference::ciede2000;
use lean_colour::inferred::reflectance_of;
use lean_colour::real::toward_real;
use lean_colour::{Lab, Reflectance, words};
use lean_media::forms::{self, Form, Laying};
use lean_media::layering::State;
use lean_media::{Ground, Parts, Pigment, PigmentId};
use lean_piece::paint_box::{PaintBox, Swatch};
use lean_recipes::mix_layers;
use std::collections::BTreeMap;

/// A patch with the name it is given.
#[derive(Clone, Debug, PartialEq)]
pub struct NamedPatch {
    /// The name of a pigment: of one in the Box, or of a new one. 1..=80 characters.
    pub name: String,
    /// Its reading.
    pub lab: Lab,
}

/// Patches taken into a Box.
#[derive(Clone, Debug, PartialEq)]
pub struct TakenIn {
    /// The Box with the new pigments in it.
    pub paint_box: PaintBox,
    /// The swatch in each patch, in their order.
    pub swatches: Vec<Swatch>,
}

/// Takes patches into a Box: one that bears the name of a pigment is a swatch of it, any other is a new pigment inferred from its colour.
///
/// # Errors
/// When a name is missing, too long or given twice, or a swatch cannot be laid on that ground.
pub fn take_in(paint_box: &PaintBox, ground: &Ground, patches: &[NamedPatch]) -> Result<TakenIn, String> {
    let mut next = paint_box.clone();
    let mut swatches = Vec::new();
    let mut given: BTreeMap<String, usize> = BTreeMap::new();
    for (n, patch) in patches.iter().enumerate() {
        let name = patch.name.trim();
        if name.is_empty() || name.chars().count() > 80 {
            return Err(format!("Cell {} needs a name of 1 to 80 characters.", n + 1));
        }
        if let Some(before) = given.insert(name.to_lowercase(), n) {
            return Err(format!("Cells {} and {} are both called \"{name}\". Give one another name, or leave it out.", before + 1, n + 1));
        }
        let there = paint_box.pigments.iter().find(|p| p.name.to_lowercase() == name.to_lowercase());
        let laid = match there {
            Some(p) => swatch(paint_box, ground, p, 1).map(|s| s.0),
            None => swatched_as(&next, ground, name, patch.lab).map(|(new, mut laid)| {
                let called = new.id.clone();
                let new = with_free_ids(vec![new], &next.pigments).remove(0);
                renamed(&mut laid, &called, &new.id);
                next.pigments.push(new);
                laid
            }),
        };
        swatches.push(laid.ok_or_else(|| format!("{} does not take a swatch of {name}.", ground.name))?);
    }
    Ok(TakenIn { paint_box: next, swatches })
}

/// Puts the id a pigment has in its Box into a swatch of it.
fn renamed(laid: &mut Swatch, called: &PigmentId, id: &PigmentId) {
    let parts = laid.parts.iter_mut().map(|p| &mut p.pigment);
    let layers = laid.layers.iter_mut().flat_map(|l| &mut l.of).map(|p| &mut p.pigment);
    parts.chain(layers).filter(|own| *own == called).for_each(|own| own.clone_from(id));
}

/// Rounds in which the absorption of a new pigment is moved until its swatch is the colour that was seen, and by which power in each. Choices: it settles in
/// fewer.
const ROUNDS: usize = 32;
const EACH: f64 = 1.2;
/// Most times a swatch may have been laid, and CIEDE2000 within which fewer will do: a dark pencil is pressed more than once. Choices.
const MOST_TIMES: u8 = 3;
const NEAR: f64 = 2.0;
/// Least and most that a pigment absorbs, relative to the scattering of titanium white.
const ABSORBS: (f64, f64) = (1e-4, 300.0);

/// A pigment whose usual swatch on a ground has a colour: a wash is laid thin and a pencil lets the paper through, so that it absorbs more than a
/// masstone of that colour would, band by band.
fn swatched_as(paint_box: &PaintBox, ground: &Ground, name: &str, lab: Lab) -> Option<(Pigment, Swatch)> {
    let wanted = reflectance_of(toward_real(lab).xyz()).reflectance;
    let mut best: Option<(f64, Pigment, Swatch)> = None;
    for times in 1..=MOST_TIMES {
        let mut pigment = of_masstone(paint_box.medium, name, &wanted);
        for _ in 0..ROUNDS {
            let with_it = PaintBox { pigments: [&paint_box.pigments[..], std::slice::from_ref(&pigment)].concat(), ..paint_box.clone() };
            let Some((laid, seen)) = swatch(&with_it, ground, &pigment, times) else { break };
            let off = ciede2000(seen.xyz().lab(), lab);
            if best.as_ref().is_none_or(|b| off < b.0) {
                best = Some((off, pigment.clone(), laid));
            }
            for (k, (wanted, seen)) in pigment.k.iter_mut().zip(wanted.0.iter().zip(seen.0)) {
                *k = (*k * (seen.max(1e-4) / wanted.max(1e-4)).powf(EACH)).clamp(ABSORBS.0, ABSORBS.1);
            }
        }
        if best.as_ref().is_some_and(|b| b.0 < NEAR) {
            break;
        }
    }
    best.map(|b| (b.1, b.2))
}

/// The swatch of a pigment on a ground, laid so many times, and what it is predicted to look like; `None` where the ground does not take it.
fn swatch(paint_box: &PaintBox, ground: &Ground, pigment: &Pigment, times: u8) -> Option<(Swatch, Reflectance)> {
    let usual = Swatch { ground: ground.id.clone(), ..swatch_of(paint_box, pigment, Parts(0.0))? };
    let laid = match forms::swatch(paint_box.medium) {
        Some(once) => {
            let often: Vec<Laying> = once.layings().iter().map(|l| Laying { times, ..*l }).collect();
            Swatch { layers: mix_layers(paint_box.medium, ground, &Form::laid(&often)?, &[pigment]), ..usual }
        }
        None => usual,
    };
    let seen = predicted(paint_box, &laid, State::Dry)?;
    Some((laid, seen))
}

/// Plain names for colours, each once: "dull green", "dull green 2". None of them is one of `taken`.
pub fn plain_names(colours: &[Lab], taken: &[Pigment]) -> Vec<String> {
    let mut used: Vec<String> = taken.iter().map(|p| p.name.to_lowercase()).collect();
    let free = |lab: &Lab| {
        let plain = words::named(*lab);
        let mut names = std::iter::once(plain.clone()).chain((2..).map(|n| format!("{plain} {n}")));
        let name = names.find(|name| !used.contains(name)).unwrap_or(plain);
        used.push(name.clone());
        name
    };
    colours.iter().map(free).collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use lean_media::{Medium, ground};

    fn sticks() -> PaintBox {
        PaintBox { name: "Sticks".into(), medium: Medium::SoftPastel, pigments: Vec::new() }
    }

    fn patch(name: &str, l: f64, a: f64, b: f64) -> NamedPatch {
        NamedPatch { name: name.into(), lab: Lab::new(l, a, b) }
    }

    #[test]
    fn a_patch_is_a_new_pigment_or_a_swatch_of_one_that_is_there() {
        let ground = ground::usual(Medium::SoftPastel);
        let first = take_in(&sticks(), &ground, &[patch("sea", 50.0, -20.0, -10.0), patch("brick", 40.0, 30.0, 20.0)]).unwrap();
        assert_eq!((first.paint_box.pigments.len(), first.swatches.len()), (2, 2));
        let again = take_in(&first.paint_box, &ground, &[patch("Sea", 52.0, -21.0, -9.0)]).unwrap();
        assert_eq!(again.paint_box, first.paint_box);
        assert_eq!(again.swatches, first.swatches[..1]);
        first.paint_box.check().unwrap();
    }

    #[test]
    fn a_new_pigment_looks_as_it_was_seen_in_every_medium() {
        for medium in Medium::ALL {
            let ground = ground::usual(medium);
            let empty = PaintBox { name: "New".into(), medium, pigments: Vec::new() };
            // A pencil leaves paper showing: deep colours it lays no more than to here.
            let up = if medium == Medium::Pencil { 8.0 } else { 0.0 };
            for (l, a, b) in [(45.0 + up, -18.0, 10.0), (60.0, 24.0, 26.0), (38.0 + up, 4.0, -26.0)] {
                let lab = Lab::new(l, a, b);
                let (pigment, laid) = swatched_as(&empty, &ground, "new", lab).unwrap();
                let with_it = PaintBox { pigments: vec![pigment], ..empty.clone() };
                let seen = predicted(&with_it, &laid, State::Dry).unwrap().xyz().lab();
                assert!(ciede2000(seen, lab) < 3.0, "{medium:?}: {:.1} off", ciede2000(seen, lab));
            }
        }
    }

    #[test]
    fn names_are_told_apart() {
        let ground = ground::usual(Medium::SoftPastel);
        let twice = take_in(&sticks(), &ground, &[patch("sea", 50.0, 0.0, 0.0), patch("Sea ", 40.0, 0.0, 0.0)]).unwrap_err();
        assert!(twice.contains("1 and 2"), "{twice}");
        assert!(take_in(&sticks(), &ground, &[patch(" ", 50.0, 0.0, 0.0)]).unwrap_err().contains("Cell 1"));
        let names = plain_names(&[Lab::new(50.0, -30.0, 20.0), Lab::new(50.5, -30.0, 20.0)], &[]);
        assert_eq!(names[1], format!("{} 2", names[0]));
    }
}
