//! What really greys what in a Box: for each pigment its best opposites, with the grey they give.

use super::{COLOURED, TINT};
use crate::mark::Mark;
use crate::mixes::technique_of;
use lean_colour::Lab;
use lean_media::{Pigment, PigmentId};
use lean_piece::Piece;
use lean_piece::paint_box::PaintBox;
use lean_recipes::telling;
use rayon::prelude::*;
use serde::Serialize;

/// Two pigments that grey each other.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Thread {
    /// One.
    pub one: PigmentId,
    /// The other.
    pub other: PigmentId,
    /// The greyest they give together.
    pub grey: Mark,
    /// How it is mixed or laid.
    pub recipe: String,
}

/// Best opposites told of each pigment.
const BEST: usize = 2;

/// For each pigment that has a hue its best opposites, greyest first, from the pigments of the Box that are not left out of the piece.
pub fn threads(piece: &Piece, paint_box: &PaintBox) -> Vec<Thread> {
    let free = paint_box.own().iter().filter(|p| !p.white && !piece.excluded.contains(&p.id));
    let coloured: Vec<(&Pigment, Lab)> = free.filter_map(|p| Some((p, vivid(piece, paint_box, p)?))).collect();
    let pairs: Vec<(usize, usize)> = (0..coloured.len()).flat_map(|i| (i + 1..coloured.len()).map(move |j| (i, j))).collect();
    let greys: Vec<(usize, usize, Lab, String)> = pairs
        .into_par_iter()
        .filter_map(|(i, j)| {
            let (lab, recipe) = greyest(piece, paint_box, coloured[i], coloured[j])?;
            Some((i, j, lab, recipe))
        })
        .collect();
    let mut kept: Vec<&(usize, usize, Lab, String)> = (0..coloured.len())
        .flat_map(|p| {
            let mut of: Vec<_> = greys.iter().filter(|(i, j, ..)| *i == p || *j == p).collect();
            of.sort_by(|a, b| a.2.chroma().total_cmp(&b.2.chroma()));
            of.into_iter().take(BEST)
        })
        .collect();
    kept.sort_by(|a, b| a.2.chroma().total_cmp(&b.2.chroma()).then(a.0.cmp(&b.0)).then(a.1.cmp(&b.1)));
    kept.dedup_by_key(|g| (g.0, g.1));
    let thread = |(i, j, lab, recipe): &(usize, usize, Lab, String)| Thread {
        one: coloured[*i].0.id.clone(),
        other: coloured[*j].0.id.clone(),
        grey: Mark::of(*lab, piece.neutral()),
        recipe: recipe.clone(),
    };
    kept.into_iter().map(thread).collect()
}

/// The greyest of two pigments' recipes that is not a mere tint of either, and how it is made; `None` where the medium has no recipe of the two.
pub(super) fn greyest(piece: &Piece, paint_box: &PaintBox, one: (&Pigment, Lab), other: (&Pigment, Lab)) -> Option<(Lab, String)> {
    let technique = technique_of(piece, paint_box, &[one.0, other.0]);
    let listed = technique.listed(&[0, 1]);
    let light = one.1.l.max(other.1.l) + TINT;
    let colours = listed.colours();
    let within = colours.iter().enumerate().filter(|(_, c)| c.l <= light);
    let (nth, lab) = within.min_by(|a, b| a.1.chroma().total_cmp(&b.1.chroma()))?;
    let name = |id: &PigmentId| paint_box.name_of(id);
    Some((*lab, telling::short(&listed.mix(nth, *lab), &name)))
}

/// The most colourful recipe of a pigment alone; `None` for greys.
pub(super) fn vivid(piece: &Piece, paint_box: &PaintBox, pigment: &Pigment) -> Option<Lab> {
    let alone = technique_of(piece, paint_box, &[pigment]).exact(&[0]);
    alone.into_iter().max_by(|a, b| a.chroma().total_cmp(&b.chroma())).filter(|lab| lab.chroma() >= COLOURED)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::staged::{Staged, staged};

    #[test]
    fn each_coloured_pigment_has_an_opposite_that_greys_it() {
        let oils = lean_demo::oils();
        let paint_box = PaintBox { name: oils.name, medium: oils.medium, pigments: oils.pigments };
        let piece = staged(&[Staged::vt(6.0, 4.0), Staged::vt(3.0, -4.0)]);
        let threads = threads(&piece, &paint_box);
        let coloured: Vec<&Pigment> = paint_box.pigments.iter().filter(|p| !p.white && vivid(&piece, &paint_box, p).is_some()).collect();
        for p in &coloured {
            let best = threads.iter().find(|t| t.one == p.id || t.other == p.id).expect("every pigment has one");
            let own = vivid(&piece, &paint_box, p).unwrap();
            assert!(
                best.grey.lab.chroma() < own.chroma(),
                "{}: {:.1} is no greyer than {:.1}",
                p.name,
                best.grey.lab.chroma(),
                own.chroma()
            );
        }
        let pairs: std::collections::BTreeSet<_> = threads.iter().map(|t| (&t.one, &t.other)).collect();
        assert_eq!(pairs.len(), threads.len(), "no pair is told twice");
    }
}
