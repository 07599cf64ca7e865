//! A zone map that is kept once, under the digest of what it says, and shared by everything that speaks of it.

use crate::outline::{self, Grid, TOLERANCE};
use crate::zone_map::ZoneMap;
use crate::zone_map::parts::Parts;
use flate2::Compression;
use flate2::read::DeflateDecoder;
use flate2::write::DeflateEncoder;
use serde::{Deserialize, Serialize};
use sha2::{Digest, Sha256};
use std::collections::BTreeMap;
use std::io::{Read, Write};
use std::sync::{Arc, Mutex, OnceLock};

/// A map by its digest. Written out it is the digest and the size alone; the map itself is put in again by whoever keeps maps
/// ([`KeptMap::found`]). Maps with the same digest are equal.
#[derive(Clone, Debug)]
pub struct KeptMap {
    digest: String,
    width: u32,
    height: u32,
    body: Option<Arc<Body>>,
}

#[derive(Debug)]
struct Body {
    map: ZoneMap,
    geometry: OnceLock<Geometry>,
    /// How it lies on the map it was last compared with.
    overlap: Mutex<Option<(String, Arc<Overlap>)>>,
}

/// Cells that a shape of one map shares with a shape of another: `(one, other) -> cells`.
pub type Overlap = BTreeMap<(u16, u16), u64>;

/// What can be drawn of a map.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Geometry {
    /// Every place, by zone and from the largest down.
    pub places: Vec<PlaceShape>,
    /// Lengths of the borders between zones: `(a, b, cells)` with `a < b`.
    pub borders: Vec<(u16, u16, u64)>,
    /// Cells of each zone, by zone number.
    pub areas: Vec<(u16, u64)>,
    /// Size and position of each zone as a whole, by zone number.
    pub extents: Vec<Extent>,
}

/// Size and position of a zone, in cells.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Extent {
    /// The zone.
    pub zone: u16,
    /// Its cells.
    pub cells: u64,
    /// The mean of its cells, across and down.
    pub middle: (f64, f64),
    /// Cells of it along the edge of the picture.
    pub on_edge: u64,
}

/// One place of a zone.
#[derive(Clone, Debug, PartialEq)]
pub struct PlaceShape {
    /// Its zone.
    pub zone: u16,
    /// Its cells.
    pub cells: u32,
    /// The cell of it that lies farthest from its edge: where a number is written.
    pub label_at: (u32, u32),
    /// SVG path data in cells; fill by the even–odd rule.
    pub path: String,
}

impl From<ZoneMap> for KeptMap {
    fn from(map: ZoneMap) -> Self {
        let digest = Sha256::digest(runs(&map)).iter().map(|b| format!("{b:02x}")).collect();
        let (width, height) = (map.width, map.height);
        Self { digest, width, height, body: Some(Arc::new(Body { map, geometry: OnceLock::new(), overlap: Mutex::new(None) })) }
    }
}

impl PartialEq for KeptMap {
    fn eq(&self, other: &Self) -> bool {
        self.digest == other.digest
    }
}

#[derive(Serialize, Deserialize)]
struct Wire {
    digest: String,
    width: u32,
    height: u32,
}

impl Serialize for KeptMap {
    fn serialize<S: serde::Serializer>(&self, s: S) -> Result<S::Ok, S::Error> {
        Wire { digest: self.digest.clone(), width: self.width, height: self.height }.serialize(s)
    }
}

impl<'de> Deserialize<'de> for KeptMap {
    fn deserialize<D: serde::Deserializer<'de>>(d: D) -> Result<Self, D::Error> {
        let Wire { digest, width, height } = Wire::deserialize(d)?;
        Ok(Self { digest, width, height, body: None })
    }
}

impl KeptMap {
    /// SHA-256 of the map, in hexadecimal.
    pub fn digest(&self) -> &str {
        &self.digest
    }

    /// Cells across and down.
    pub fn size(&self) -> (u32, u32) {
        (self.width, self.height)
    }

    /// The map; `None` while it has only been named.
    pub fn map(&self) -> Option<&ZoneMap> {
        self.body.as_ref().map(|b| &b.map)
    }

    /// What can be drawn of it, worked out once; empty while it has only been named.
    pub fn geometry(&self) -> &Geometry {
        static NOTHING: Geometry = Geometry { places: Vec::new(), borders: Vec::new(), areas: Vec::new(), extents: Vec::new() };
        self.body.as_ref().map_or(&NOTHING, |b| b.geometry.get_or_init(|| Geometry::of(&b.map)))
    }

    /// How the shapes of this map lie on those of another, which is stretched over it; worked out once for the same two. Empty while either
    /// has only been named.
    pub fn overlap(&self, other: &KeptMap) -> Arc<Overlap> {
        let (Some(body), Some(on)) = (&self.body, other.map()) else { return Arc::default() };
        let mut last = body.overlap.lock().unwrap_or_else(|p| p.into_inner());
        if let Some((_, found)) = last.as_ref().filter(|(digest, _)| *digest == other.digest) {
            return found.clone();
        }
        let found = Arc::new(overlap(&body.map, on));
        *last = Some((other.digest.clone(), found.clone()));
        found
    }

    /// Takes the map itself from another of the same digest.
    pub fn found(&mut self, same: &KeptMap) {
        if same.digest == self.digest {
            self.body.clone_from(&same.body);
        }
    }

    /// The map as it is kept: runs of cells, compressed. `None` while it has only been named.
    pub fn packed(&self) -> Option<Vec<u8>> {
        let mut out = DeflateEncoder::new(Vec::new(), Compression::default());
        out.write_all(&runs(self.map()?)).ok()?;
        out.finish().ok()
    }

    /// Reads what [`KeptMap::packed`] wrote.
    ///
    /// # Errors
    /// When the bytes are no map.
    pub fn unpacked(bytes: &[u8]) -> Result<Self, String> {
        let broken = || "a kept map of zones is damaged".to_owned();
        let mut plain = Vec::new();
        // Far more than any map of ours says.
        DeflateDecoder::new(bytes).take(64 << 20).read_to_end(&mut plain).map_err(|_| broken())?;
        let mut at = 0;
        let mut next = || -> Option<u64> {
            let mut n = 0u64;
            for shift in (0..63).step_by(7) {
                let byte = *plain.get(at)?;
                at += 1;
                n |= u64::from(byte & 0x7f) << shift;
                if byte < 0x80 {
                    return Some(n);
                }
            }
            None
        };
        let (width, height) = (next().ok_or_else(broken)?, next().ok_or_else(broken)?);
        let cells = width.checked_mul(height).filter(|c| (1..=crate::zone_map::MOST_CELLS).contains(c)).ok_or_else(broken)?;
        let mut labels: Vec<u16> = Vec::with_capacity(cells as usize);
        while (labels.len() as u64) < cells {
            let (label, n) = (next().ok_or_else(broken)?, next().ok_or_else(broken)?);
            if n == 0 || labels.len() as u64 + n > cells || label > u64::from(u16::MAX) {
                return Err(broken());
            }
            labels.extend(std::iter::repeat_n(label as u16, n as usize));
        }
        Ok(ZoneMap { width: width as u32, height: height as u32, labels }.into())
    }
}

/// Width, height, then label and length of every run, each in seven-bit groups, low ones first.
fn runs(map: &ZoneMap) -> Vec<u8> {
    let mut out = Vec::new();
    let mut put = |mut n: u64| {
        while n >= 0x80 {
            out.push(n as u8 | 0x80);
            n >>= 7;
        }
        out.push(n as u8);
    };
    put(u64::from(map.width));
    put(u64::from(map.height));
    for run in map.labels.chunk_by(|a, b| a == b) {
        put(u64::from(run[0]));
        put(run.len() as u64);
    }
    out
}

fn overlap(one: &ZoneMap, other: &ZoneMap) -> Overlap {
    let mut cells = Overlap::new();
    let columns: Vec<usize> = (0..u64::from(one.width)).map(|x| (x * u64::from(other.width) / u64::from(one.width)) as usize).collect();
    for y in 0..one.height as usize {
        let below = (y as u64 * u64::from(other.height) / u64::from(one.height)) as usize * other.width as usize;
        let row = &one.labels[y * one.width as usize..(y + 1) * one.width as usize];
        let pair = |x: usize| (row[x], other.labels[below + columns[x]]);
        let mut from = 0;
        for x in 1..=row.len() {
            if x == row.len() || pair(x) != pair(from) {
                *cells.entry(pair(from)).or_default() += (x - from) as u64;
                from = x;
            }
        }
    }
    cells
}

impl Geometry {
    fn of(map: &ZoneMap) -> Self {
        let parts = Parts::of(map);
        let of = parts.of_cells();
        let arcs = outline::arcs_between(&Grid { width: map.width, height: map.height, labels: &of }, TOLERANCE);
        let rings = outline::rings_of_all(&arcs, parts.all.len());
        let label_at = parts.middles(&of);
        let mut places: Vec<PlaceShape> = parts
            .all
            .iter()
            .zip(rings)
            .zip(label_at)
            .map(|((p, rings), label_at)| PlaceShape { zone: p.zone, cells: p.cells, label_at, path: outline::path_data(&rings) })
            .collect();
        places.sort_by_key(|p| (p.zone, std::cmp::Reverse(p.cells)));
        let mut borders = std::collections::BTreeMap::new();
        for (a, b, n) in parts.borders() {
            let (a, b) = (parts.all[a as usize].zone, parts.all[b as usize].zone);
            *borders.entry((a.min(b), a.max(b))).or_insert(0u64) += u64::from(n);
        }
        let mut areas = std::collections::BTreeMap::new();
        parts.all.iter().for_each(|p| *areas.entry(p.zone).or_insert(0u64) += u64::from(p.cells));
        let borders = borders.into_iter().map(|((a, b), n)| (a, b, n)).collect();
        Self { places, borders, areas: areas.into_iter().collect(), extents: extents(map) }
    }

    /// Places of a zone, the largest first.
    pub fn places_of(&self, zone: u16) -> &[PlaceShape] {
        let from = self.places.partition_point(|p| p.zone < zone);
        let to = self.places.partition_point(|p| p.zone <= zone);
        &self.places[from..to]
    }
}

fn extents(map: &ZoneMap) -> Vec<Extent> {
    let (w, h) = (map.width as usize, map.height as usize);
    let most = map.labels.iter().copied().max().map_or(0, usize::from);
    let mut all = vec![Extent::default(); most + 1];
    for (i, label) in map.labels.iter().enumerate() {
        let (x, y) = (i % w, i / w);
        let e = &mut all[usize::from(*label)];
        (e.zone, e.cells) = (*label, e.cells + 1);
        e.middle = (e.middle.0 + x as f64, e.middle.1 + y as f64);
        e.on_edge += u64::from(x == 0 || y == 0 || x + 1 == w || y + 1 == h);
    }
    let there = all.into_iter().filter(|e| e.cells > 0);
    there.map(|e| Extent { middle: (e.middle.0 / e.cells as f64, e.middle.1 / e.cells as f64), ..e }).collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn map(width: u32, labels: &[u16]) -> ZoneMap {
        ZoneMap { width, height: labels.len() as u32 / width, labels: labels.to_vec() }
    }

    #[test]
    fn places_are_sorted_and_lie_where_they_are_labelled() {
        let m = map(6, &[1, 1, 1, 2, 2, 1, 1, 1, 1, 2, 2, 1, 1, 1, 1, 2, 2, 2]);
        let kept = KeptMap::from(m.clone());
        let g = kept.geometry();
        assert_eq!(g.places.iter().map(|p| (p.zone, p.cells)).collect::<Vec<_>>(), [(1, 9), (1, 2), (2, 7)]);
        assert!(g.places.iter().all(|p| m.at(p.label_at.0, p.label_at.1) == p.zone && p.path.starts_with('M')));
        assert_eq!(g.places_of(1).len(), 2);
        assert_eq!((g.borders.as_slice(), g.areas.as_slice()), (&m.borders()[..], &m.areas()[..]));
    }

    #[test]
    fn a_named_map_is_nothing_until_it_is_found() {
        let kept = KeptMap::from(map(4, &[1, 1, 2, 2]));
        let mut named: KeptMap = serde_json::from_value(serde_json::to_value(&kept).unwrap()).unwrap();
        assert!(named.map().is_none() && named.geometry().places.is_empty() && named.packed().is_none());
        named.found(&KeptMap::from(map(4, &[1, 1, 1, 2])));
        assert!(named.map().is_none(), "another map is not taken for it");
        named.found(&kept);
        assert_eq!(named.map(), kept.map());
    }

    #[test]
    fn broken_bytes_are_refused() {
        let packed = KeptMap::from(map(4, &[1, 1, 2, 2])).packed().unwrap();
        assert!(KeptMap::unpacked(&packed[..packed.len() / 2]).is_err());
        assert!(KeptMap::unpacked(&[]).is_err());
        let mut squeezed = DeflateEncoder::new(Vec::new(), Compression::default());
        squeezed.write_all(&[4, 1, 1, 9]).unwrap();
        assert!(KeptMap::unpacked(&squeezed.finish().unwrap()).is_err(), "runs longer than the grid");
    }

    proptest! {
        #[test]
        fn packing_keeps_every_cell(labels in prop::collection::vec(0u16..300, 36)) {
            let kept = KeptMap::from(map(9, &labels));
            let again = KeptMap::unpacked(&kept.packed().unwrap()).unwrap();
            prop_assert_eq!(again.map(), kept.map());
            prop_assert_eq!(again.digest(), kept.digest());
        }
    }
}
