//! Which zone every pixel belongs to, small enough to live inside a piece.

pub mod parts;

use parts::Parts;
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;

/// A grid of zone numbers, row by row. Stored as runs, written `zone:length zone:length …`.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct ZoneMap {
    /// Cells across.
    pub width: u32,
    /// Cells down.
    pub height: u32,
    /// Zone number of each cell.
    pub labels: Vec<u16>,
}

#[derive(Serialize, Deserialize)]
struct Wire {
    width: u32,
    height: u32,
    runs: String,
}

/// Most cells a map may have when it is read back.
pub(crate) const MOST_CELLS: u64 = 4_000_000;

impl Serialize for ZoneMap {
    fn serialize<S: serde::Serializer>(&self, s: S) -> Result<S::Ok, S::Error> {
        let mut runs = String::new();
        let mut at = 0;
        while at < self.labels.len() {
            let label = self.labels[at];
            let len = self.labels[at..].iter().take_while(|l| **l == label).count();
            if at > 0 {
                runs.push(' ');
            }
            runs.push_str(&format!("{label}:{len}"));
            at += len;
        }
        Wire { width: self.width, height: self.height, runs }.serialize(s)
    }
}

impl<'de> Deserialize<'de> for ZoneMap {
    fn deserialize<D: serde::Deserializer<'de>>(d: D) -> Result<Self, D::Error> {
        use serde::de::Error;
        let w = Wire::deserialize(d)?;
        let cells = u64::from(w.width) * u64::from(w.height);
        if cells == 0 || cells > MOST_CELLS {
            return Err(D::Error::custom(format!("a zone map of {} × {} cells", w.width, w.height)));
        }
        let mut labels = Vec::with_capacity(cells as usize);
        for run in w.runs.split_ascii_whitespace() {
            let parsed = run.split_once(':').and_then(|(l, n)| Some((l.parse::<u16>().ok()?, n.parse::<u64>().ok()?)));
            let (label, n) = parsed.ok_or_else(|| D::Error::custom(format!("zone map run \"{run}\" is not zone:length")))?;
            if labels.len() as u64 + n > cells {
                return Err(D::Error::custom("the zone map's runs are longer than its grid"));
            }
            labels.extend(std::iter::repeat_n(label, n as usize));
        }
        if labels.len() as u64 != cells {
            return Err(D::Error::custom("the zone map's runs are shorter than its grid"));
        }
        Ok(Self { width: w.width, height: w.height, labels })
    }
}

impl ZoneMap {
    /// Zone at a cell.
    pub fn at(&self, x: u32, y: u32) -> u16 {
        self.labels[(y * self.width + x) as usize]
    }

    /// The zone numbers in use, ascending.
    pub fn zones(&self) -> Vec<u16> {
        let mut z: Vec<u16> = self.labels.chunk_by(|a, b| a == b).map(|run| run[0]).collect();
        z.sort_unstable();
        z.dedup();
        z
    }

    /// Number of cells of each zone, by zone number.
    pub fn areas(&self) -> Vec<(u16, u64)> {
        let mut cells: BTreeMap<u16, u64> = BTreeMap::new();
        self.labels.chunk_by(|a, b| a == b).for_each(|run| *cells.entry(run[0]).or_default() += run.len() as u64);
        cells.into_iter().collect()
    }

    /// Gives every cell of `from` to `into`.
    pub fn merged(&self, from: u16, into: u16) -> Self {
        let labels = self.labels.iter().map(|l| if *l == from { into } else { *l }).collect();
        Self { labels, ..*self }
    }

    /// Lengths of the borders between zones: `(a, b, cells)` with `a < b`.
    pub fn borders(&self) -> Vec<(u16, u16, u64)> {
        let mut found = std::collections::BTreeMap::new();
        let w = self.width as usize;
        for (i, l) in self.labels.iter().enumerate() {
            let right = (i % w + 1 < w).then(|| self.labels[i + 1]);
            let below = self.labels.get(i + w).copied();
            for other in [right, below].into_iter().flatten().filter(|o| o != l) {
                *found.entry((*l.min(&other), *l.max(&other))).or_insert(0u64) += 1;
            }
        }
        found.into_iter().map(|((a, b), n)| (a, b, n)).collect()
    }

    /// The same map with its zones numbered from 1 in reading order of where their numbers are written.
    pub fn numbered(&self) -> Self {
        let parts = Parts::of(self);
        let middles = parts.middles(&parts.of_cells());
        // A zone is read where its largest place is.
        let mut at: BTreeMap<u16, (u32, (u32, u32))> = BTreeMap::new();
        for (part, (x, y)) in parts.all.iter().zip(middles) {
            let best = at.entry(part.zone).or_default();
            if part.cells > best.0 {
                *best = (part.cells, (y, x));
            }
        }
        let mut order: Vec<u16> = at.keys().copied().collect();
        order.sort_by_key(|z| at[z].1);
        let names: BTreeMap<u16, u16> = order.into_iter().enumerate().map(|(i, z)| (z, i as u16 + 1)).collect();
        Self { labels: self.labels.iter().map(|l| names[l]).collect(), ..*self }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn map(width: u32, labels: &[u16]) -> ZoneMap {
        ZoneMap { width, height: labels.len() as u32 / width, labels: labels.to_vec() }
    }

    #[test]
    fn borders_and_joining() {
        let m = map(4, &[1, 1, 2, 2, 1, 1, 2, 2, 1, 1, 1, 3]);
        assert_eq!(m.borders(), [(1, 2, 3), (1, 3, 1), (2, 3, 1)]);
        assert_eq!(m.merged(3, 2).zones(), [1, 2]);
    }

    #[test]
    fn broken_runs_are_refused() {
        let read = |runs: &str| serde_json::from_value::<ZoneMap>(serde_json::json!({ "width": 2, "height": 1, "runs": runs }));
        assert!(read("1:1 2:1").is_ok());
        assert!(read("1:1").is_err());
        assert!(read("1:9").is_err());
        assert!(read("one:2").is_err());
        let m = map(4, &[1, 1, 2, 2, 1, 1, 2, 2, 1, 1, 1, 3]);
        assert_eq!(serde_json::from_value::<ZoneMap>(serde_json::to_value(&m).unwrap()).unwrap(), m);
    }

    proptest! {
        #[test]
        fn merging_moves_the_whole_area(labels in prop::collection::vec(0u16..4, 30)) {
            let m = map(6, &labels);
            let area = |m: &ZoneMap, z: u16| m.labels.iter().filter(|l| **l == z).count();
            let merged = m.merged(2, 1);
            prop_assert_eq!(area(&merged, 1), area(&m, 1) + area(&m, 2));
            prop_assert_eq!(area(&merged, 2), 0);
        }
    }
}
