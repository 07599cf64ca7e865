//! The connected parts of a map: the places of its zones.

use crate::zone_map::ZoneMap;

/// A stretch of one row in one zone.
#[derive(Clone, Copy, Debug)]
struct Stretch {
    from: u32,
    to: u32,
    row: u32,
    part: u32,
}

/// One connected part.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct ConnectedPart {
    /// Its zone.
    pub zone: u16,
    /// Its cells.
    pub cells: u32,
}

/// The parts of a map by four neighbours, numbered in reading order of their first cells.
pub struct Parts {
    /// All of them.
    pub all: Vec<ConnectedPart>,
    stretches: Vec<Stretch>,
    width: usize,
}

impl Parts {
    /// Finds them.
    pub fn of(map: &ZoneMap) -> Self {
        let w = map.width as usize;
        let mut stretches: Vec<Stretch> = Vec::new();
        let mut zones: Vec<u16> = Vec::new();
        let mut into: Vec<u32> = Vec::new();
        let mut above = 0..0;
        for row in 0..map.height as usize {
            let line = &map.labels[row * w..(row + 1) * w];
            let first = stretches.len();
            let mut a = above.start;
            let mut from = 0;
            while from < w {
                let zone = line[from];
                let to = from + line[from..].iter().take_while(|l| **l == zone).count();
                let own = into.len() as u32;
                into.push(own);
                zones.push(zone);
                stretches.push(Stretch { from: from as u32, to: to as u32, row: row as u32, part: own });
                while a < above.end && (stretches[a].to as usize) <= from {
                    a += 1;
                }
                let mut b = a;
                while b < above.end && (stretches[b].from as usize) < to {
                    let other = stretches[b].part;
                    if zones[other as usize] == zone {
                        unite(&mut into, own, other);
                    }
                    b += 1;
                }
                from = to;
            }
            above = first..stretches.len();
        }
        let mut number = vec![u32::MAX; into.len()];
        let mut all: Vec<ConnectedPart> = Vec::new();
        for s in &mut stretches {
            let top = root(&mut into, s.part) as usize;
            if number[top] == u32::MAX {
                number[top] = all.len() as u32;
                all.push(ConnectedPart { zone: zones[top], cells: 0 });
            }
            s.part = number[top];
            all[s.part as usize].cells += s.to - s.from;
        }
        Self { all, stretches, width: w }
    }

    /// Cell numbers of each stretch of a row, with its part.
    pub fn stretches(&self) -> impl Iterator<Item = (std::ops::Range<usize>, u32)> + '_ {
        self.stretches.iter().map(|s| {
            let row = s.row as usize * self.width;
            (row + s.from as usize..row + s.to as usize, s.part)
        })
    }

    /// Part of every cell.
    pub fn of_cells(&self) -> Vec<u32> {
        let mut of = Vec::with_capacity(self.width * self.stretches.last().map_or(0, |s| s.row as usize + 1));
        self.stretches.iter().for_each(|s| of.extend(std::iter::repeat_n(s.part, (s.to - s.from) as usize)));
        of
    }

    /// The cell of every part that lies farthest from its edge (city blocks, two sweeps; the frame is an edge). `of` is the part of each cell.
    pub fn middles(&self, of: &[u32]) -> Vec<(u32, u32)> {
        let (w, n) = (self.width, of.len());
        let mut depth = vec![0u32; n];
        for i in 0..n {
            let up = if i >= w && of[i - w] == of[i] { depth[i - w] } else { 0 };
            let left = if i % w > 0 && of[i - 1] == of[i] { depth[i - 1] } else { 0 };
            depth[i] = 1 + up.min(left);
        }
        let mut best = vec![(0, 0usize); self.all.len()];
        for i in (0..n).rev() {
            let down = if i + w < n && of[i + w] == of[i] { depth[i + w] } else { 0 };
            let right = if i % w + 1 < w && of[i + 1] == of[i] { depth[i + 1] } else { 0 };
            depth[i] = depth[i].min(1 + down.min(right));
            let b = &mut best[of[i] as usize];
            if depth[i] >= b.0 {
                *b = (depth[i], i);
            }
        }
        best.into_iter().map(|(_, i)| ((i % w) as u32, (i / w) as u32)).collect()
    }

    /// Borders between parts: `(one, other, cells)` with `one < other`, ascending.
    pub fn borders(&self) -> Vec<(u32, u32, u32)> {
        let mut pairs: Vec<(u32, u32, u32)> = Vec::new();
        let mut note = |a: u32, b: u32, n: u32| {
            if a != b {
                pairs.push((a.min(b), a.max(b), n));
            }
        };
        let mut above = 0;
        for i in 0..self.stretches.len() {
            let s = self.stretches[i];
            if let Some(next) = self.stretches.get(i + 1).filter(|n| n.row == s.row) {
                note(s.part, next.part, 1);
            }
            while above < i
                && (self.stretches[above].row + 1 < s.row || (self.stretches[above].row + 1 == s.row && self.stretches[above].to <= s.from))
            {
                above += 1;
            }
            let mut b = above;
            while b < i && self.stretches[b].row + 1 == s.row && self.stretches[b].from < s.to {
                let o = self.stretches[b];
                note(s.part, o.part, o.to.min(s.to).saturating_sub(o.from.max(s.from)));
                b += 1;
            }
        }
        pairs.sort_unstable();
        pairs.chunk_by(|p, q| (p.0, p.1) == (q.0, q.1)).map(|run| (run[0].0, run[0].1, run.iter().map(|p| p.2).sum())).collect()
    }
}

fn root(into: &mut [u32], mut i: u32) -> u32 {
    while into[i as usize] != i {
        into[i as usize] = into[into[i as usize] as usize];
        i = into[i as usize];
    }
    i
}

fn unite(into: &mut [u32], a: u32, b: u32) {
    let (a, b) = (root(into, a), root(into, b));
    into[a.max(b) as usize] = a.min(b);
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn parts_are_what_a_flood_finds(labels in prop::collection::vec(1u16..4, 63)) {
            let map = ZoneMap { width: 9, height: 7, labels };
            let parts = Parts::of(&map);
            let of = parts.of_cells();
            prop_assert_eq!(of.len(), 63);
            // A plain flood from each cell agrees on who belongs together.
            let mut seen = vec![usize::MAX; 63];
            for start in 0..63 {
                if seen[start] != usize::MAX { continue; }
                let mut ahead = vec![start];
                seen[start] = start;
                let mut n = 0;
                while let Some(i) = ahead.pop() {
                    n += 1;
                    prop_assert_eq!(of[i], of[start]);
                    let x = i % 9;
                    let around = [(x > 0).then(|| i - 1), (x < 8).then(|| i + 1), (i >= 9).then(|| i - 9), (i + 9 < 63).then(|| i + 9)];
                    for j in around.into_iter().flatten().filter(|j| map.labels[*j] == map.labels[start]) {
                        if seen[j] == usize::MAX { seen[j] = start; ahead.push(j); }
                    }
                }
                prop_assert_eq!(parts.all[of[start] as usize], ConnectedPart { zone: map.labels[start], cells: n });
            }
            let mut plain = std::collections::BTreeMap::new();
            for i in 0..63 {
                for j in [(i % 9 < 8).then(|| i + 1), (i + 9 < 63).then(|| i + 9)].into_iter().flatten().filter(|j| of[*j] != of[i]) {
                    *plain.entry((of[i].min(of[j]), of[i].max(of[j]))).or_insert(0u32) += 1;
                }
            }
            prop_assert_eq!(parts.borders(), plain.into_iter().map(|((a, b), n)| (a, b, n)).collect::<Vec<_>>());
        }
    }
}
