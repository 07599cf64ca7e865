//! A Box from a photo: patches of colour that become pigments, or readings of those that are there.

use super::inventory::of_colour;
use super::learned::{predicted, swatch_of};
use super::listed::with_free_ids;
use lean_colour::{Lab, words};
use lean_media::layering::State;
use lean_media::{Ground, Parts, Pigment};
use lean_piece::paint_box::{PaintBox, Swatch};
use std::collections::BTreeMap;

/// A patch with the name it is given.
#[derive(Clone, Debug, PartialEq)]
pub struct NamedPatch {
    /// The name of a pigment: of one in the Box, or of a new one. 1..=80 characters.
    pub name: String,
    /// What the patch reads.
    pub lab: Lab,
}

/// What becomes of patches.
#[derive(Clone, Debug, PartialEq)]
pub struct TakenIn {
    /// The Box with the new pigments in it.
    pub paint_box: PaintBox,
    /// What was laid in each patch, in their order.
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
        let pigment = match there {
            Some(p) => p.clone(),
            None => {
                let new = with_free_ids(vec![of_colour(paint_box.medium, name, patch.lab)], &next.pigments).remove(0);
                next.pigments.push(new.clone());
                new
            }
        };
        swatches.push(swatch(&next, ground, &pigment).ok_or_else(|| format!("{} does not take a swatch of {name}.", ground.name))?);
    }
    Ok(TakenIn { paint_box: next, swatches })
}

fn swatch(paint_box: &PaintBox, ground: &Ground, pigment: &Pigment) -> Option<Swatch> {
    let laid = Swatch { ground: ground.id.clone(), ..swatch_of(paint_box, pigment, Parts(0.0))? };
    predicted(paint_box, &laid, State::Dry).map(|_| laid)
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
    fn names_are_told_apart() {
        let ground = ground::usual(Medium::SoftPastel);
        let twice = take_in(&sticks(), &ground, &[patch("sea", 50.0, 0.0, 0.0), patch("Sea ", 40.0, 0.0, 0.0)]).unwrap_err();
        assert!(twice.contains("1 and 2"), "{twice}");
        assert!(take_in(&sticks(), &ground, &[patch(" ", 50.0, 0.0, 0.0)]).unwrap_err().contains("Cell 1"));
        let names = plain_names(&[Lab::new(50.0, -30.0, 20.0), Lab::new(50.5, -30.0, 20.0)], &[]);
        assert_eq!(names[1], format!("{} 2", names[0]));
    }
}
