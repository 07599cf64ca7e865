//! A chart used by hand: what makes each cell, and the sheet that is filled.

use crate::made_up::{SIX, six};
use lean_colour::Lab;
use lean_media::Medium;
use lean_media::layering::State;
use lean_picture::spot::Spot;
use lean_piece::paint_box::PaintBox;
use lean_piece::{Chart, ChartCell, Piece};
use lean_plan::matching::{by_hand, sheet_of_chart};
use lean_plan::paints::learned::predicted;
use lean_plan::paper::Item;

/// Six zones with their set, and a chart of the same six colours.
fn charted(medium: Medium) -> (Piece, PaintBox) {
    let (mut piece, paint_box) = six(medium);
    let cell = |(i, (l, a, b)): (usize, &(f64, f64, f64))| ChartCell {
        lab: Lab::new(*l, *a, *b),
        area: 1.0 / 6.0,
        place: Spot { x: 0.5, y: 0.5 },
        row: i as u16 / 3,
        column: i as u16 % 3,
    };
    piece.chart = Some(Chart { cells: SIX.iter().enumerate().map(cell).collect() });
    (piece, paint_box)
}

#[test]
fn every_cell_has_its_nearest_and_the_recipe_that_misses_least() {
    for medium in Medium::ALL {
        let (piece, paint_box) = charted(medium);
        let cells = by_hand(&piece, &paint_box);
        assert_eq!(cells.len(), 6);
        for cell in &cells {
            assert!(cell.nearest.is_some(), "{medium:?}");
            let Some(mix) = &cell.mix else { continue };
            assert!(
                mix.parts.iter().all(|p| paint_box.find(&p.pigment).is_some_and(|p| p.white) || piece.chosen.pigments.contains(&p.pigment))
            );
            assert!(!cell.told.as_ref().unwrap().line.is_empty() && !cell.off.is_empty());
        }
        assert!(cells.iter().filter(|c| c.mix.is_some()).count() >= 5, "{medium:?}");
    }
    let (mut piece, paint_box) = charted(Medium::Marker);
    piece.chosen.pigments.clear();
    let without = by_hand(&piece, &paint_box);
    assert!(without.iter().all(|c| c.mix.is_none() && c.nearest.is_some()), "without a set there are no recipes");
}

#[test]
fn the_sheet_shows_each_colour_with_its_recipe_and_a_cell_that_comes_to_the_recipe() {
    for medium in Medium::ALL {
        let (piece, paint_box) = charted(medium);
        let recipes: Vec<_> = by_hand(&piece, &paint_box).into_iter().filter_map(|c| c.mix).collect();
        let pages = sheet_of_chart(&piece, &paint_box).unwrap();
        let page = &pages[0];
        assert_eq!((pages.len(), page.cells.len()), (1, recipes.len()));
        for ((cell, rect), mix) in page.cells.iter().zip(&page.layout.cells).zip(&recipes) {
            let aim = cell.aim.unwrap();
            let printed = page.sheet.marks.iter().any(|m| match m {
                Item::Fill { rect: [x, y, w, _], colour } => *colour == aim && x + w < rect[0] && (y - rect[1]).abs() < 1e-9,
                _ => false,
            });
            assert!(printed, "{medium:?}: its colour is beside the cell");
            assert!(rect[2] > 15.0, "there is room to paint in");
            let comes_to = predicted(&paint_box, &cell.swatch, State::Dry).unwrap().xyz().lab();
            assert!(lean_colour::difference::ciede2000(comes_to, mix.lab) < 0.5, "{medium:?}: {comes_to:?} for {:?}", mix.lab);
        }
    }
}

#[test]
fn without_a_chart_or_a_set_it_says_what_to_do() {
    let (mut piece, paint_box) = charted(Medium::Marker);
    piece.chosen.pigments.clear();
    assert!(sheet_of_chart(&piece, &paint_box).unwrap_err().contains("no set"));
    piece.chart = None;
    assert!(sheet_of_chart(&piece, &paint_box).unwrap_err().contains("Lay it out first"));
}
