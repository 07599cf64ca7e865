//! The piece as planned, as a picture: zones filled with their targets, with their mixes, or as they look among their neighbours.

use crate::mixes::ZoneMix;
use crate::stages::{StageLook, ZoneNow};
use crate::surfaces::in_use;
use lean_colour::neighbours::{Border, over_zones, shown_alone};
use lean_colour::{Lab, Share};
use lean_media::Medium;
use lean_picture::Picture;
use lean_picture::paint::{Fill, paint};
use lean_picture::painted::{Hand, Mosaic, Painting, painted_with};
use lean_piece::{Piece, Study, StudyMix, Worked, Zone, ZoneId};
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
    Some(paint(piece.map()?, &filled(piece, what), piece.ground().lab, SCALE))
}

fn filled(piece: &Piece, what: What) -> BTreeMap<u16, Fill> {
    let fill = |z: &Zone| Fill {
        lab: what.of(piece, z),
        to: z.graded.filter(|_| what == What::Planned).map(|g| (piece.within_rules(g.to), g.direction)),
    };
    piece.zones.iter().map(|z| (z.id.0, fill(z))).collect()
}

/// Zones filled with their mixes, graded ones from the first mix to the last; `None` without zones.
pub fn draw_mixed(piece: &Piece, mixes: &[ZoneMix]) -> Option<Picture> {
    Some(paint(piece.map()?, &mixed(piece, mixes), piece.ground().lab, SCALE))
}

fn mixed(piece: &Piece, mixes: &[ZoneMix]) -> BTreeMap<u16, Fill> {
    let fill = |m: &ZoneMix| {
        let direction = piece.zone(m.zone).and_then(|z| z.graded).map(|g| g.direction);
        Fill { lab: m.given.lab, to: m.then.last().zip(direction).map(|(last, direction)| (last.given.lab, direction)) }
    };
    mixes.iter().map(|m| (m.zone.0, fill(m))).collect()
}

/// The hand of a medium.
fn hand_of(medium: Medium) -> Hand {
    match medium {
        Medium::SoftPastel => Hand::Pastel,
        Medium::Pencil => Hand::Pencil,
        Medium::Watercolour => Hand::Wash,
        Medium::Marker => Hand::Ink,
        Medium::Oil => Hand::Dabs,
    }
}

/// Brushes the hand of a picture is shown with, as shares of its width: what the eye can tell at the size of a hand, and what still looks painted.
const SHOWN: (f64, f64) = (1.0 / 90.0, 1.0 / 22.0);
/// Least width of a dab in a picture, in pixels: what is smaller has fused. A choice.
const LEAST_DAB: f64 = 2.5;
/// The brush of a study, as a share of its longer side: large. A choice.
const OF_STUDY: f64 = 1.0 / 26.0;

fn hand_painted(piece: &Piece, fills: &BTreeMap<u16, Fill>, width: u32, brush: f64, seed: u32) -> Option<Picture> {
    painted_on(piece, piece.ground().lab, fills, &BTreeMap::new(), width, brush, seed)
}

fn painted_on(
    piece: &Piece,
    ground: Lab,
    fills: &BTreeMap<u16, Fill>,
    mosaics: &BTreeMap<u16, Mosaic>,
    width: u32,
    brush: f64,
    seed: u32,
) -> Option<Picture> {
    let map = piece.map()?;
    let longer = f64::from(width) * (f64::from(map.height) / f64::from(map.width.max(1))).max(1.0);
    let brush = (brush.clamp(SHOWN.0, SHOWN.1) * longer).max(2.0) as f32;
    Some(painted_with(map, fills, mosaics, ground, width, Painting { hand: hand_of(piece.brief.medium), brush, seed }))
}

/// A study painted with its large brush, `width` pixels wide; `None` without zones.
pub fn painted_study(piece: &Piece, study: &Study, width: u32) -> Option<Picture> {
    let fill = |m: &StudyMix| {
        let run = piece.zone(m.zone).and_then(|z| z.graded).map(|g| g.direction);
        Fill { lab: m.mix.lab, to: m.then.last().zip(run).map(|(last, direction)| (last.lab, direction)) }
    };
    let fills = study.mixes.iter().map(|m| (m.zone.0, fill(m))).collect();
    hand_painted(piece, &fills, width, OF_STUDY, u32::from(study.number.0))
}

/// The plan painted in its mixes with its own brush; `None` without zones.
pub fn painted_mixes(piece: &Piece, mixes: &[ZoneMix], width: u32) -> Option<Picture> {
    let all = mosaics(piece, width, &|_| true);
    painted_on(piece, piece.ground().lab, &mixed(piece, mixes), &all, width, brush_of(piece), 0)
}

/// Zones laid in several mixes side by side, of those that are finished.
fn mosaics(piece: &Piece, width: u32, finished: &dyn Fn(ZoneId) -> bool) -> BTreeMap<u16, Mosaic> {
    let pixels = f64::from(width) / piece.brief.size.width.0.max(1.0);
    let mosaic = |z: &Zone| {
        let surface = in_use(piece, z.id).filter(|_| finished(z.id))?;
        let colours = surface.mixes.iter().map(|m| (m.mix.lab, Share(m.share))).collect();
        let dab = (surface.dab.0 * pixels).max(LEAST_DAB) as f32;
        Some((z.id.0, Mosaic { colours, dab, by_place: surface.worked == Worked::Siblings }))
    };
    piece.zones.iter().filter_map(mosaic).collect()
}

/// The plan painted in what is wanted, before there is a set; `None` without zones.
pub fn painted_targets(piece: &Piece, width: u32) -> Option<Picture> {
    hand_painted(piece, &filled(piece, What::Planned), width, brush_of(piece), 0)
}

/// A piece on its way, painted: what is bare stays ground, unfinished zones lie as far as they are; `None` without zones.
pub fn painted_look(piece: &Piece, look: &StageLook, width: u32) -> Option<Picture> {
    let finished = |z: &ZoneNow| z.to_come == 0;
    let run =
        |z: &ZoneNow| piece.zone(z.zone).and_then(|o| o.graded).filter(|_| finished(z)).map(|g| (piece.within_rules(g.to), g.direction));
    let fills = look.zones.iter().filter(|z| !z.bare).map(|z| (z.zone.0, Fill { lab: z.mark.lab, to: run(z) })).collect();
    let done = |id: ZoneId| look.zones.iter().any(|z| z.zone == id && finished(z) && !z.bare);
    painted_on(piece, look.ground.lab, &fills, &mosaics(piece, width, &done), width, brush_of(piece), 0)
}

fn brush_of(piece: &Piece) -> f64 {
    piece.cut.as_ref().map_or(OF_STUDY, |c| c.brush)
}

/// How every zone tends to look among its neighbours.
pub(crate) fn among_neighbours(piece: &Piece, what: What) -> Vec<(ZoneId, Lab)> {
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
