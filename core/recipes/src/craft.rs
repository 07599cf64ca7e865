//! What the search knows of a medium: recipes of a few pigments and their colours. No optics.

use crate::mix::Mix;
use lean_colour::Lab;
use lean_media::lanes::Colours;

/// Most pigments one recipe holds, white not counted.
pub const MOST_IN_RECIPE: usize = 3;

/// Recipes of a medium on a ground, with the painter's limits on what a mix may be.
///
/// A *group* is up to three pigments by ascending number. Its recipes hold every pigment of the group and no other; those of the empty group
/// are what is free: white alone, or bare ground. Both precisions list the same recipes in the same order.
pub trait Craft: Sync {
    /// How many pigments there are to make groups of.
    fn pigments(&self) -> usize;

    /// How many recipes a group of so many pigments has at most.
    fn recipes(&self, pigments: usize) -> usize;

    /// Adds the colours of a group's recipes in single precision, eight at a time; the last eight are filled up with one of their own.
    fn quick(&self, group: &[usize], out: &mut Vec<Colours>);

    /// The colours of a group's recipes in double precision.
    fn exact(&self, group: &[usize]) -> Vec<Lab>;

    /// The `nth` recipe of a group, of the colour `lab`.
    fn mix(&self, group: &[usize], nth: usize, lab: Lab) -> Mix;
}
