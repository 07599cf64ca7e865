//! Zones found, parted, joined and mended: pixels turned into the facts a command carries.
//!
//! **The three nouns and how they meet.** A [`Surveyed`] is the reference of a piece with what was found of it; a [`Cut`] says which shades belong
//! to which zone and how large the brush is; laid over the look it gives the map of places. The two dials are in [`dials`], what a hand
//! mends in [`mending`], the big shapes in [`masses`].

pub mod dials;
pub mod found;
pub mod masses;
pub mod mending;
pub mod planes;

pub use found::{from_lines, from_picture, propose, reframe, set_drawing, set_reference, set_reference_at};
pub(crate) use mending::by_hand;
pub use mending::{give, join_by, merge, own, part_by_mass, redraw, split, take, zone_at};
pub use planes::from_planes;

use lean_colour::Share;
use lean_picture::places::Survey;
use lean_picture::sharpness::sharpness;
use lean_picture::{Picture, Reading, ZoneMap, readings, views};
use lean_piece::{Cut, Piece, Reference, Zone, ZoneId};
use std::collections::BTreeMap;

/// Longer side of the copy of the reference that zones and views are read from, in pixels.
pub const WORKING_SIDE: u32 = 1600;
/// How many colours a new picture is shown in.
pub const COLOURS: usize = 10;
/// Fewest and most colours the dial asks for.
pub const COLOUR_RANGE: std::ops::RangeInclusive<usize> = 3..=24;

/// A picture file, as far as a reference tells of it.
#[derive(Clone, Debug, PartialEq)]
pub struct PictureFile {
    /// SHA-256 of the file, in hexadecimal.
    pub digest: String,
    /// Name it was dropped under.
    pub file_name: String,
    /// Pixels across and down, upright.
    pub full: (u32, u32),
    /// Share of its linear resolution that it uses, above 0 to 1.
    pub sharpness: f64,
}

impl PictureFile {
    /// What the picture in full tells.
    pub fn of(digest: String, file_name: String, full: &Picture) -> Self {
        Self { digest, file_name, full: (full.width, full.height), sharpness: sharpness(full) }
    }

    /// The reference it makes, looked at whole; `working` is its working copy.
    pub fn reference(self, working: &Picture) -> Reference {
        let whole = Reference::whole(self.digest, self.file_name, self.full, views::mean_temperature(working));
        Reference { sharpness: self.sharpness, ..whole }
    }
}

/// The working copy of a reference and what was found of it.
#[derive(Clone, Copy)]
pub struct Surveyed<'a> {
    /// The working copy in its frame.
    pub working: &'a Picture,
    /// What it is made of.
    pub survey: &'a Survey,
}

impl Surveyed<'_> {
    /// The map of places of a cut.
    pub fn laid(&self, cut: &Cut) -> ZoneMap {
        let auto = self.survey.lay(&cut.shades, Share(cut.brush));
        match cut.hand.as_ref().and_then(|h| h.map()) {
            Some(hand) => self.survey.under_hand(&auto, hand, Share(cut.brush)),
            None => auto,
        }
    }

    /// Where the zones of a cut lie whatever the brush.
    fn colour_map(&self, cut: &Cut) -> ZoneMap {
        let mut map = self.survey.colour_map(&cut.shades);
        if let Some(hand) = cut.hand.as_ref().and_then(|h| h.map()).filter(|h| h.labels.len() == map.labels.len()) {
            map.labels.iter_mut().zip(&hand.labels).filter(|(_, h)| **h > 0).for_each(|(l, h)| *l = *h);
        }
        map
    }

    /// Zones of a cut: those in `anew`, and those the piece does not have yet, as they are read; of the others only the share of the picture.
    fn zones(&self, piece: &Piece, cut: &Cut, anew: &[ZoneId]) -> Vec<Zone> {
        let map = self.colour_map(cut);
        let read = readings::read(self.working, &map);
        zones_of(cut)
            .into_iter()
            .map(|id| {
                let nothing = || Reading { area: 0.0, value: lean_colour::Value(5.0), lab: lean_colour::Lab::new(51.6, 0.0, 0.0) };
                let reading = read.get(&id.0).cloned();
                match piece.zone(id) {
                    Some(old) if !anew.contains(&id) => {
                        Zone { reading: Reading { area: reading.map_or(0.0, |r| r.area), ..old.reading.clone() }, ..old.clone() }
                    }
                    old => {
                        let new = self.read(&map, cut, id, reading.unwrap_or_else(nothing));
                        old.map_or(new.clone(), |old| Zone {
                            name: old.name.clone(),
                            importance: old.importance,
                            facts: old.facts,
                            kept: old.kept,
                            ..new
                        })
                    }
                }
            })
            .collect()
    }

    /// A zone as it reads, graded where it is a smooth run.
    fn read(&self, map: &ZoneMap, cut: &Cut, id: ZoneId, reading: Reading) -> Zone {
        let zone = Zone::read(id, reading);
        match self.survey.grading(map, &cut.shades, id.0) {
            Some(g) => Zone { target: g.from, graded: Some(lean_piece::light::Graded { to: g.to, direction: g.direction }), ..zone },
            None => zone,
        }
    }
}

/// The zones of a cut, ascending: those of its shades and those only laid by hand.
fn zones_of(cut: &Cut) -> Vec<ZoneId> {
    let mut zones: Vec<u16> = cut.shades.iter().map(|s| s.zone).collect();
    if let Some(hand) = &cut.hand {
        zones.extend(hand.geometry().areas.iter().map(|a| a.0).filter(|z| *z > 0));
    }
    zones.sort_unstable();
    zones.dedup();
    zones.into_iter().map(ZoneId).collect()
}

/// Zones as they read, for a map that no cut made.
pub(crate) fn fresh(working: &Picture, map: &ZoneMap) -> Vec<Zone> {
    readings::read(working, map).into_iter().map(|(id, reading)| Zone::read(ZoneId(id), reading)).collect()
}

/// The lowest number no zone has.
fn free_number(taken: impl IntoIterator<Item = u16>) -> u16 {
    let taken: std::collections::BTreeSet<u16> = taken.into_iter().collect();
    (1..=u16::MAX).find(|n| !taken.contains(n)).unwrap_or(u16::MAX)
}

fn said(e: String) -> String {
    let mut c = e.chars();
    format!("{}.", c.next().map(|f| f.to_uppercase().chain(c).collect::<String>()).unwrap_or_default())
}

/// A description short enough to be kept.
fn what(text: String) -> String {
    text.chars().take(lean_piece::MOST_NAME).collect()
}

/// How many cells each zone has on a map.
fn cells_of(map: &ZoneMap) -> BTreeMap<u16, usize> {
    let mut cells = BTreeMap::new();
    map.labels.chunk_by(|a, b| a == b).for_each(|run| *cells.entry(run[0]).or_default() += run.len());
    cells
}
