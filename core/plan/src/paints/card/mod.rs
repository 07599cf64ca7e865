//! Test cards: every candidate on the actual ground, next to each other; two layered both ways; the distinct orders of several. Printed as empty cells,
//! painted, photographed, read back.

mod page;

use super::learned::{predicted, swatches_of};
use crate::paper::Sheet;
use lean_colour::Lab;
use lean_colour::difference::ciede2000;
use lean_media::layering::State;
use lean_media::{Ground, Medium, Pigment, forms};
use lean_picture::swatch_sheet::Layout;
use lean_piece::paint_box::{PaintBox, Swatch};
use lean_recipes::mix_layers;
use serde::{Deserialize, Serialize};

/// What a card tries.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum CardKind {
    /// Each pigment in the swatches that teach most.
    Alone,
    /// Every two of them, each over the other.
    BothWays,
    /// All of them, two to five, in every order that gives another colour.
    Orders,
    /// The colours of the chart of a piece, each with the recipe its set gives.
    Chart,
}

lean_piece::worded! {
    CardKind { Alone: "each alone", BothWays: "two over each other, both ways", Orders: "every order of two to five", Chart: "the colours of the chart" }
}

/// A cell of a card.
#[derive(Clone, Debug, PartialEq)]
pub struct CardCell {
    /// What is laid in it.
    pub swatch: Swatch,
    /// The same in words.
    pub words: String,
    /// The colour it is meant to come to, printed beside it; `None` where there is none.
    pub aim: Option<Lab>,
}

/// A page of a card.
#[derive(Clone, Debug, PartialEq)]
pub struct CardPage {
    /// What is laid in its cells.
    pub cells: Vec<CardCell>,
    /// Where they lie.
    pub layout: Layout,
    /// The page to be printed.
    pub sheet: Sheet,
}

/// CIEDE2000 from which two orders are different colours. A choice.
const DISTINCT: f64 = 1.0;
/// Most pages of one card.
const MOST_PAGES: usize = 4;

/// The pages of a card of these pigments on a ground.
///
/// # Errors
/// When there are too few or too many pigments for it, or the medium lays nothing over another; of a chart, which is that of a piece.
pub fn card(paint_box: &PaintBox, ground: &Ground, kind: CardKind, of: &[&Pigment]) -> Result<Vec<CardPage>, String> {
    let cells = match kind {
        CardKind::Alone => of.iter().flat_map(|p| alone(paint_box, ground, p)).collect(),
        CardKind::BothWays => both_ways(paint_box, ground, of)?,
        CardKind::Orders => orders(paint_box, ground, of)?,
        CardKind::Chart => return Err("The colours of a chart are those of a piece. Say of which.".into()),
    };
    pages(paint_box, ground, cells)
}

/// These cells on pages.
pub(crate) fn pages(paint_box: &PaintBox, ground: &Ground, cells: Vec<CardCell>) -> Result<Vec<CardPage>, String> {
    let most = MOST_PAGES * page::CELLS;
    match cells.len() {
        0 => Err("There is nothing to try. Choose pigments for the card.".into()),
        n if n > most => Err(format!("{n} cells are more than the {most} of {MOST_PAGES} pages. Choose fewer pigments.")),
        n => Ok(cells
            .chunks(page::CELLS)
            .enumerate()
            .map(|(i, c)| page::laid_out(paint_box, ground, c, i + 1, n.div_ceil(page::CELLS)))
            .collect()),
    }
}

/// The swatches of one pigment that say most: alone, and a tint or a fainter one.
fn alone(paint_box: &PaintBox, ground: &Ground, p: &Pigment) -> Vec<CardCell> {
    let on = |swatch: Swatch| Swatch { ground: ground.id.clone(), ..swatch };
    let all = swatches_of(paint_box, p);
    let picked: Vec<usize> = if paint_box.medium == Medium::Oil { vec![0, 3] } else { vec![0, all.len() / 2] };
    let cell = |i: &usize| all.get(*i).cloned().map(|(words, swatch)| CardCell { swatch: on(swatch), words, aim: None });
    let mut cells: Vec<CardCell> = picked.iter().filter_map(cell).collect();
    cells.dedup();
    cells
}

fn layered(medium: Medium) -> Result<forms::Form, String> {
    forms::swatch(medium).ok_or_else(|| "Oil is mixed before it is laid: a card of layers makes no sense in it.".to_owned())
}

/// Pigments laid one over the other, first laid first.
fn over(paint_box: &PaintBox, ground: &Ground, form: &forms::Form, of: &[&Pigment]) -> CardCell {
    let layers = of.iter().flat_map(|p| mix_layers(paint_box.medium, ground, form, &[p])).collect();
    let words: Vec<&str> = of.iter().map(|p| p.name.as_str()).collect();
    CardCell { swatch: Swatch { ground: ground.id.clone(), parts: Vec::new(), layers }, words: words.join(", over it "), aim: None }
}

fn both_ways(paint_box: &PaintBox, ground: &Ground, of: &[&Pigment]) -> Result<Vec<CardCell>, String> {
    let form = layered(paint_box.medium)?;
    if of.len() < 2 {
        return Err("Two pigments at least are laid over each other. Choose more.".into());
    }
    let pairs = (0..of.len()).flat_map(|i| (i + 1..of.len()).map(move |j| (i, j)));
    Ok(pairs
        .flat_map(|(i, j)| [over(paint_box, ground, &form, &[of[i], of[j]]), over(paint_box, ground, &form, &[of[j], of[i]])])
        .collect())
}

fn orders(paint_box: &PaintBox, ground: &Ground, of: &[&Pigment]) -> Result<Vec<CardCell>, String> {
    let form = layered(paint_box.medium)?;
    if !(2..=5).contains(&of.len()) {
        return Err(format!("Orders are tried of two to five pigments, not of {}.", of.len()));
    }
    let mut kept: Vec<(CardCell, Lab)> = Vec::new();
    for order in permutations(of.len()) {
        let cell = over(paint_box, ground, &form, &order.iter().map(|i| of[*i]).collect::<Vec<_>>());
        let Some(seen) = predicted(paint_box, &cell.swatch, State::Dry) else {
            return Err(format!("{} does not take {} layers. Choose fewer pigments or another ground.", ground.name, of.len()));
        };
        let lab = seen.xyz().lab();
        if kept.iter().all(|(_, other)| ciede2000(*other, lab) >= DISTINCT) {
            kept.push((cell, lab));
        }
    }
    Ok(kept.into_iter().map(|k| k.0).collect())
}

/// All orders of so many things (Heap 1963, by insertion).
fn permutations(n: usize) -> Vec<Vec<usize>> {
    (0..n).fold(vec![Vec::new()], |all, next| {
        all.iter().flat_map(|order| (0..=order.len()).map(move |at| [&order[..at], &[next], &order[at..]].concat())).collect()
    })
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::paper::Item;
    use lean_media::ground;

    fn pens() -> PaintBox {
        let b = lean_demo::pens();
        PaintBox { name: b.name, medium: b.medium, pigments: b.pigments }
    }

    #[test]
    fn cards_hold_what_they_say() {
        let b = pens();
        let ground = ground::usual(b.medium);
        let of: Vec<&Pigment> = b.pigments.iter().take(4).collect();
        let cells =
            |kind, n: usize| -> Vec<CardCell> { card(&b, &ground, kind, &of[..n]).unwrap().into_iter().flat_map(|p| p.cells).collect() };
        assert_eq!(cells(CardKind::BothWays, 3).len(), 6);
        let orders = cells(CardKind::Orders, 4);
        assert!((2..=24).contains(&orders.len()), "{}", orders.len());
        let labs: Vec<_> = orders.iter().map(|c| predicted(&b, &c.swatch, State::Dry).unwrap().xyz().lab()).collect();
        assert!((0..labs.len()).all(|i| (0..i).all(|j| ciede2000(labs[i], labs[j]) >= DISTINCT)), "no two orders look alike");
        assert!(!cells(CardKind::Alone, 4).is_empty());
        let all: Vec<&Pigment> = b.pigments.iter().collect();
        assert!(card(&b, &ground, CardKind::Orders, &all).is_err() && card(&b, &ground, CardKind::BothWays, &all).is_err());
        assert!(card(&b, &ground, CardKind::Alone, &[]).unwrap_err().contains("Choose"));
        assert_eq!(permutations(4).len(), 24);
    }

    #[test]
    fn every_cell_lies_inside_the_marks_and_off_the_bare_places() {
        let b = pens();
        let ground = ground::usual(b.medium);
        let of: Vec<&Pigment> = b.pigments.iter().collect();
        for page in card(&b, &ground, CardKind::Alone, &of).unwrap() {
            let l = &page.layout;
            assert_eq!(l.cells.len(), page.cells.len());
            let apart =
                |a: &[f64; 4], b: &[f64; 4]| a[0] + a[2] <= b[0] || b[0] + b[2] <= a[0] || a[1] + a[3] <= b[1] || b[1] + b[3] <= a[1];
            for (i, c) in l.cells.iter().enumerate() {
                assert!(c[0] > 0.0 && c[0] + c[2] < 210.0 && c[1] + c[3] < 277.0);
                assert!(l.bare.iter().chain([&l.grey]).all(|r| apart(c, r)) && l.cells[..i].iter().all(|o| apart(c, o)));
            }
            assert!(l.bare.iter().all(|r| r[0] + r[2] < 210.0 - 4.0 && apart(r, &l.grey)));
            assert!(page.sheet.marks.iter().all(|m| !matches!(m, Item::Text { size, .. } if *size < 2.0)));
        }
    }
}
