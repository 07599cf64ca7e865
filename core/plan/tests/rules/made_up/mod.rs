//! A made-up piece of any medium: six zones on a grid, with a set from the demo Box of that medium.

use lean_colour::{Lab, Temperature};
use lean_media::{GroundId, Medium, PigmentId, ground};
use lean_picture::{Reading, ZoneMap};
use lean_piece::change::SetReference;
use lean_piece::paint_box::PaintBox;
use lean_piece::*;

/// The demo Box of a medium.
pub(crate) fn paint_box(medium: Medium) -> PaintBox {
    let b = match medium {
        Medium::SoftPastel => lean_demo::pastels(),
        Medium::Marker => lean_demo::pens(),
        Medium::Pencil => lean_demo::pencils(),
        Medium::Watercolour => lean_demo::pans(),
        Medium::Oil => lean_demo::oils(),
    };
    PaintBox { name: b.name, medium: b.medium, pigments: b.pigments }
}

/// A piece with zones in a grid of `across`, each `cell` cells square, in these colours.
pub(crate) fn grid(medium: Medium, colours: &[Lab], across: u32, cell: u32) -> Piece {
    let n = colours.len() as u32;
    let down = n.div_ceil(across);
    let zone = |i: u32| ((i / (across * cell)) / cell * across + (i % (across * cell)) / cell).min(n - 1) as u16 + 1;
    let map = ZoneMap { width: across * cell, height: down * cell, labels: (0..across * down * cell * cell).map(zone).collect() };
    let areas = map.areas();
    let total: u64 = areas.iter().map(|a| a.1).sum();
    let share = |id: u16| areas.iter().find(|a| a.0 == id).map_or(0.0, |a| a.1 as f64 / total as f64);
    let zones = colours
        .iter()
        .enumerate()
        .map(|(i, lab)| Zone::read(ZoneId(i as u16 + 1), Reading { area: share(i as u16 + 1), value: lab.value(), lab: *lab }))
        .collect();
    let ground: GroundId = ground::usual(medium).id;
    let size = Size { width: Millimetres(240.0), height: Millimetres(180.0) };
    let reference = Reference::whole("d".into(), "grid.png".into(), (400, 300), Temperature(2.0));
    brought(Brief { title: "Grid".into(), medium, ground, size }, reference, map, zones)
}

/// A piece whose picture was dropped and found to have these zones.
pub(crate) fn brought(brief: Brief, reference: Reference, map: ZoneMap, zones: Vec<Zone>) -> Piece {
    Piece::new(brief)
        .apply(Command::SetReference(SetReference {
            reference: Some(reference),
            zone_map: Some(map.into()),
            zones,
            cut: None,
            masses: Vec::new(),
            mass_map: None,
        }))
        .unwrap()
        .0
}

/// Six colours from light to dark, warm and cool.
pub(crate) const SIX: [(f64, f64, f64); 6] =
    [(88.0, 0.0, 5.0), (72.0, -4.0, -14.0), (60.0, 14.0, 26.0), (48.0, -10.0, 16.0), (36.0, 16.0, 14.0), (26.0, 0.0, -8.0)];

/// Six zones of [`SIX`] with the lean set of four of the demo Box.
pub(crate) fn six(medium: Medium) -> (Piece, PaintBox) {
    let colours: Vec<Lab> = SIX.iter().map(|(l, a, b)| Lab::new(*l, *a, *b)).collect();
    with_set(grid(medium, &colours, 3, 20), 4)
}

/// A piece with its lean set of a size.
pub(crate) fn with_set(mut piece: Piece, size: usize) -> (Piece, PaintBox) {
    let paint_box = paint_box(piece.brief.medium);
    let ask = piece.ask(&paint_box, vec![piece.own_need()], size..=size);
    let sizes = lean_search::search(&ask.ask(), &lean_search::Tables::default(), &lean_search::progress::Unwatched, &|_| {}).unwrap();
    let pigments: Vec<PigmentId> = sizes.into_iter().find(|s| s.pigments.len() == size).unwrap().pigments;
    piece.chosen = ChosenSet { pigments };
    (piece, paint_box)
}
