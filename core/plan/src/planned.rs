//! The piece as planned, as a picture: zones filled with their targets, with their mixes, or as they look among their neighbours.

use crate::mixes::ZoneMix;
use lean_colour::Lab;
use lean_colour::neighbours::{Border, over_zones, shown_alone};
use lean_picture::Picture;
use lean_picture::paint::{Fill, paint};
use lean_piece::{Piece, Zone, ZoneId};
use std::collections::BTreeMap;

/// Pixels to a cell of the zone grid.
pub const SCALE: u32 = 1;

/// What zones are filled with.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum What {
    /// What the reference reads.
    Read,
    /// What is planned.
    Planned,
}

impl What {
    fn of(self, piece: &Piece, zone: &Zone) -> Lab {
        match self {
            Self::Read => zone.reading.lab,
            Self::Planned => piece.wanted(zone),
        }
    }
}

/// Zones filled flat, graded ones from end to end; `None` without zones.
pub fn draw(piece: &Piece, what: What) -> Option<Picture> {
    let map = piece.map()?;
    let fill = |z: &Zone| Fill {
        lab: what.of(piece, z),
        to: z.graded.filter(|_| what == What::Planned).map(|g| (piece.within_rules(g.to), g.direction)),
    };
    let fills: BTreeMap<u16, Fill> = piece.zones.iter().map(|z| (z.id.0, fill(z))).collect();
    Some(paint(map, &fills, piece.ground().lab, SCALE))
}

/// Zones filled with their mixes, graded ones from the first mix to the last; `None` without zones.
pub fn draw_mixed(piece: &Piece, mixes: &[ZoneMix]) -> Option<Picture> {
    let map = piece.map()?;
    let fill = |m: &ZoneMix| {
        let direction = piece.zone(m.zone).and_then(|z| z.graded).map(|g| g.direction);
        Fill { lab: m.given.lab, to: m.then.last().zip(direction).map(|(last, direction)| (last.given.lab, direction)) }
    };
    let fills: BTreeMap<u16, Fill> = mixes.iter().map(|m| (m.zone.0, fill(m))).collect();
    Some(paint(map, &fills, piece.ground().lab, SCALE))
}

/// How every zone tends to look among its neighbours.
pub fn among_neighbours(piece: &Piece, what: What) -> Vec<(ZoneId, Lab)> {
    let colours: Vec<Lab> = piece.zones.iter().map(|z| what.of(piece, z)).collect();
    let at = |id: u16| piece.zones.iter().position(|z| z.id.0 == id);
    let borders = piece.geometry().borders.iter();
    let borders: Vec<Border> = borders.filter_map(|(a, b, n)| Some(Border { one: at(*a)?, other: at(*b)?, length: *n as f64 })).collect();
    let looks = over_zones(&colours, &borders, piece.ground().lab, &vec![0.0; colours.len()]).unwrap_or_default();
    piece.zones.iter().zip(looks).map(|(z, look)| (z.id, shown_alone(&look))).collect()
}

/// Zones filled with what they look like among their neighbours; `None` without zones.
pub fn draw_among_neighbours(piece: &Piece, what: What) -> Option<Picture> {
    let map = piece.map()?;
    let fills: BTreeMap<u16, Fill> = among_neighbours(piece, what).into_iter().map(|(z, lab)| (z.0, Fill { lab, to: None })).collect();
    Some(paint(map, &fills, piece.ground().lab, SCALE))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::staged::{Staged, staged};
    use lean_piece::light::Graded;

    #[test]
    fn a_graded_zone_runs_and_an_even_one_does_not() {
        let mut piece = staged(&[Staged::vt(8.0, 0.0), Staged::vt(3.0, 0.0)]);
        piece.zones[0].graded = Some(Graded { to: Lab::new(50.0, 0.0, 0.0), direction: 90.0 });
        let p = draw(&piece, What::Planned).unwrap();
        assert!(p.at(0, 0)[0] > p.at(0, p.height / 2 - 1)[0] + 40);
        assert_eq!(p.at(0, p.height / 2 + 2), p.at(0, p.height - 1));
        let read = draw(&piece, What::Read).unwrap();
        assert_eq!(read.at(0, 0), read.at(0, read.height / 2 - 1), "the reference is not graded");
    }

    #[test]
    fn a_grey_beside_black_looks_lighter_than_beside_white() {
        let grey = |other: f64| {
            let piece = staged(&[Staged::vt(5.0, 0.0), Staged::vt(other, 0.0)]);
            among_neighbours(&piece, What::Planned)[0].1.l
        };
        assert!(grey(1.0) > grey(9.5) + 2.0);
    }
}
