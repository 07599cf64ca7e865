//! Patches joined pair by pair, the least missed border first: what a larger and larger brush no longer keeps apart.
//!
//! A border is missed by what joining adds to the sum of squares, per cell of border (Mumford & Shah 1989; Koepfler, Lopez & Morel 1994). So
//! a small thing of strong contrast stays as long as a large one of weak contrast.

use super::cells::{EvenColour, apart2};
use super::patches::Patches;
use std::cmp::Ordering;
use std::collections::{BinaryHeap, HashMap};

/// The joins in order; each makes `gone` part of `kept`.
pub(super) struct Joins {
    /// `(kept, gone, missed)`, `missed` never falling.
    pub order: Vec<(u32, u32, f32)>,
    patches: usize,
}

struct Shape {
    cells: f32,
    look: EvenColour,
    next_to: HashMap<u32, u32, Plain>,
}

/// Small whole keys need no guarded hashing; iteration order is never relied on.
#[derive(Clone, Default)]
struct Plain;

impl std::hash::BuildHasher for Plain {
    type Hasher = Mixed;
    fn build_hasher(&self) -> Mixed {
        Mixed(0)
    }
}

struct Mixed(u64);

impl std::hash::Hasher for Mixed {
    fn finish(&self) -> u64 {
        self.0
    }
    fn write(&mut self, bytes: &[u8]) {
        bytes.iter().for_each(|b| self.write_u32(u32::from(*b)));
    }
    fn write_u32(&mut self, n: u32) {
        self.0 = (self.0.rotate_left(5) ^ u64::from(n)).wrapping_mul(0x517c_c1b7_2722_0a95);
    }
}

struct Candidate {
    missed: f32,
    one: u32,
    other: u32,
}

impl Ord for Candidate {
    fn cmp(&self, o: &Self) -> Ordering {
        // Least missed first; ties by number, so that the order is the same every time.
        o.missed.total_cmp(&self.missed).then_with(|| (o.one, o.other).cmp(&(self.one, self.other)))
    }
}
impl PartialOrd for Candidate {
    fn partial_cmp(&self, o: &Self) -> Option<Ordering> {
        Some(self.cmp(o))
    }
}
impl PartialEq for Candidate {
    fn eq(&self, o: &Self) -> bool {
        self.cmp(o) == Ordering::Equal
    }
}
impl Eq for Candidate {}

fn missed(a: &Shape, b: &Shape, border: u32) -> f32 {
    a.cells * b.cells / (a.cells + b.cells) * apart2(a.look, b.look) / border as f32
}

/// Joins until no border is missed by less than `until`.
pub(super) fn join(patches: &Patches, until: f32) -> Joins {
    let mut shapes: Vec<Option<Shape>> =
        patches.all.iter().map(|p| Some(Shape { cells: p.cells.max(1e-3), look: p.look, next_to: HashMap::default() })).collect();
    for (a, b, n) in &patches.borders {
        for (x, y) in [(*a, *b), (*b, *a)] {
            shapes[x as usize].as_mut().map(|s| s.next_to.insert(y, *n));
        }
    }
    let between = |shapes: &[Option<Shape>], a: u32, b: u32| -> Option<f32> {
        let (p, q) = (shapes[a as usize].as_ref()?, shapes[b as usize].as_ref()?);
        Some(missed(p, q, *p.next_to.get(&b)?))
    };
    let mut ahead: BinaryHeap<Candidate> = patches
        .borders
        .iter()
        .filter_map(|(a, b, _)| between(&shapes, *a, *b).map(|missed| Candidate { missed, one: *a, other: *b }))
        .collect();
    let (mut order, mut most) = (Vec::new(), 0.0f32);
    while let Some(c) = ahead.pop() {
        let Some(now) = between(&shapes, c.one, c.other) else { continue };
        if now > c.missed * 1.000_1 + 1e-6 {
            // One side has grown since: it is looked at again when its turn comes.
            ahead.push(Candidate { missed: now, ..c });
            continue;
        }
        most = most.max(now);
        if most > until {
            break;
        }
        let larger = |a: u32, b: u32| {
            let n = |i: u32| shapes[i as usize].as_ref().map_or(0, |s| s.next_to.len());
            if n(a) >= n(b) { (a, b) } else { (b, a) }
        };
        let (kept, gone) = larger(c.one, c.other);
        order.push((kept, gone, most));
        merge(&mut shapes, &mut ahead, kept, gone);
    }
    Joins { order, patches: patches.all.len() }
}

fn merge(shapes: &mut [Option<Shape>], ahead: &mut BinaryHeap<Candidate>, kept: u32, gone: u32) {
    let (Some(lost), Some(mut shape)) = (shapes[gone as usize].take(), shapes[kept as usize].take()) else { return };
    let cells = shape.cells + lost.cells;
    let share = lost.cells / cells;
    (0..3).for_each(|c| shape.look[c] += (lost.look[c] - shape.look[c]) * share);
    shape.cells = cells;
    shape.next_to.remove(&gone);
    for (n, border) in &lost.next_to {
        if *n == kept {
            continue;
        }
        *shape.next_to.entry(*n).or_insert(0) += border;
        if let Some(beside) = shapes[*n as usize].as_mut() {
            beside.next_to.remove(&gone);
            *beside.next_to.entry(kept).or_insert(0) += border;
        }
    }
    for n in lost.next_to.keys().filter(|n| **n != kept) {
        if let (Some(beside), Some(border)) = (shapes[*n as usize].as_ref(), shape.next_to.get(n)) {
            ahead.push(Candidate { missed: missed(&shape, beside, *border), one: kept.min(*n), other: kept.max(*n) });
        }
    }
    shapes[kept as usize] = Some(shape);
}

impl Joins {
    /// Shape of every patch once borders missed by up to `missed` are gone: numbers of patches that stand for their shape.
    pub(super) fn shapes(&self, missed: f32) -> Vec<u32> {
        let mut into: Vec<u32> = (0..self.patches as u32).collect();
        let last = self.order.partition_point(|(_, _, m)| *m <= missed);
        self.order[..last].iter().for_each(|(kept, gone, _)| into[*gone as usize] = *kept);
        (0..self.patches as u32)
            .map(|mut i| {
                while into[i as usize] != i {
                    let next = into[i as usize];
                    into[i as usize] = into[next as usize];
                    i = next;
                }
                i
            })
            .collect()
    }
}
