//! Several hundred small connected patches that keep to edges.

use super::features::Features;
use std::cmp::Ordering;
use std::collections::BinaryHeap;

/// About how many patches a picture is first parted into.
const PATCHES: f64 = 900.0;
/// How much being near counts against being alike. A choice.
const COMPACTNESS: f32 = 0.22;

struct Offer {
    cost: f32,
    cell: u32,
    patch: u32,
}

impl Ord for Offer {
    fn cmp(&self, other: &Self) -> Ordering {
        other.cost.total_cmp(&self.cost).then(other.cell.cmp(&self.cell)).then(other.patch.cmp(&self.patch))
    }
}
impl PartialOrd for Offer {
    fn partial_cmp(&self, other: &Self) -> Option<Ordering> {
        Some(self.cmp(other))
    }
}
impl PartialEq for Offer {
    fn eq(&self, other: &Self) -> bool {
        self.cmp(other) == Ordering::Equal
    }
}
impl Eq for Offer {}

#[derive(Clone, Copy, Default)]
struct Growing {
    n: f32,
    x: f32,
    y: f32,
    f: [f32; 3],
}

/// The patch number of every cell. Non-iterative clustering from a grid of seeds (Achanta & Süsstrunk 2017): each patch is
/// connected by construction.
pub fn grow(features: &Features) -> Vec<u32> {
    let (w, h) = (features.width, features.height);
    let step = (features.len() as f64 / PATCHES).sqrt().max(1.0);
    let mut owner = vec![u32::MAX; features.len()];
    let mut growing = Vec::new();
    let mut queue = BinaryHeap::new();
    let (nx, ny) = (((w as f64 / step).round() as usize).clamp(1, w), ((h as f64 / step).round() as usize).clamp(1, h));
    for j in 0..ny {
        for i in 0..nx {
            let cell = ((2 * j + 1) * h / (2 * ny)) * w + (2 * i + 1) * w / (2 * nx);
            queue.push(Offer { cost: 0.0, cell: cell as u32, patch: growing.len() as u32 });
            growing.push(Growing::default());
        }
    }
    let near = COMPACTNESS * COMPACTNESS / (step * step) as f32;
    while let Some(Offer { cell, patch, .. }) = queue.pop() {
        let i = cell as usize;
        if owner[i] != u32::MAX {
            continue;
        }
        owner[i] = patch;
        let (x, y) = (i % w, i / w);
        let g = &mut growing[patch as usize];
        g.n += 1.0;
        g.x += x as f32;
        g.y += y as f32;
        for (sum, f) in g.f.iter_mut().zip(features.at(i)) {
            *sum += f;
        }
        let g = *g;
        let around = [(x > 0).then(|| i - 1), (x + 1 < w).then(|| i + 1), (y > 0).then(|| i - w), (y + 1 < h).then(|| i + w)];
        for j in around.into_iter().flatten().filter(|j| owner[*j] == u32::MAX) {
            let f = features.at(j);
            let unlike: f32 = (0..3).map(|c| (g.f[c] / g.n - f[c]).powi(2)).sum();
            let away = (g.x / g.n - (j % w) as f32).powi(2) + (g.y / g.n - (j / w) as f32).powi(2);
            queue.push(Offer { cost: unlike + near * away, cell: j as u32, patch });
        }
    }
    owner
}
