//! Which masses of a picture stand one before the other: a face before a wall, a mug before a bench.

use super::masses;
use super::patches::Patches;
use super::shapes::Shapes;
use std::collections::BTreeMap;

/// Most masses told apart; what lies in none has the number 0.
pub(super) const MOST: usize = 12;
/// Masses face each other across a gap of this share of the longer side: hair between a face and a wall. A choice.
const GAP: f32 = 0.03;
/// Share of the smaller mass's width along which two must face each other. A choice.
const FACING: f32 = 0.25;
/// Cells between the places where facing masses are looked for.
const STRIDE: usize = 4;

/// Masses of the patches, and which of them stand one before the other.
#[derive(Default)]
pub(super) struct Depth {
    /// Mass of every patch, from 1; 0 for none.
    pub of_patch: Vec<u8>,
    /// The shape that stands for the mass of every patch.
    owners: Vec<u32>,
    /// Mass of every cell.
    of_cell: Vec<u8>,
    width: usize,
    facing: [[bool; MOST]; MOST],
    /// Cells of each mass.
    sizes: [f32; MOST],
    /// A cell of each mass, column and row.
    inside: [(u16, u16); MOST],
}

impl Depth {
    /// Masses are joined from `shapes` at the largest brush.
    pub(super) fn of(patches: &Patches, shapes: &Shapes, width: usize) -> Self {
        let owners = masses::owners(shapes);
        let owners: Vec<u32> = shapes.of_patch.iter().map(|s| owners.get(*s as usize).copied().unwrap_or(0)).collect();
        let owner = |patch: usize| owners[patch];
        let mut cells: BTreeMap<u32, f32> = BTreeMap::new();
        patches.all.iter().enumerate().for_each(|(p, patch)| *cells.entry(owner(p)).or_default() += patch.cells);
        let mut by_size: Vec<(u32, f32)> = cells.into_iter().collect();
        by_size.sort_by(|a, b| b.1.total_cmp(&a.1).then(a.0.cmp(&b.0)));
        let number: BTreeMap<u32, u8> = by_size.iter().take(MOST - 1).enumerate().map(|(n, (o, _))| (*o, n as u8 + 1)).collect();
        let of_patch: Vec<u8> = (0..patches.all.len()).map(|p| number.get(&owner(p)).copied().unwrap_or(0)).collect();
        let of_cell: Vec<u8> = patches.of_cell.iter().map(|p| of_patch[*p as usize]).collect();
        let sizes = by_size.iter().map(|s| s.1).collect::<Vec<_>>();
        let facing = facing(&of_cell, width, &sizes);
        let mut inside = [(0, 0); MOST];
        // The largest patch of a mass lies well inside it.
        for n in 1..MOST {
            let largest = (0..of_patch.len())
                .filter(|p| usize::from(of_patch[*p]) == n)
                .max_by(|a, b| patches.all[*a].cells.total_cmp(&patches.all[*b].cells));
            if let Some(cell) = largest.and_then(|p| patches.of_cell.iter().position(|q| *q == p as u32)) {
                inside[n] = ((cell % width) as u16, (cell / width) as u16);
            }
        }
        let sizes = std::array::from_fn(|n| if n == 0 { 0.0 } else { sizes.get(n - 1).copied().unwrap_or(0.0) });
        Self { owners, sizes, of_patch, of_cell, width, facing, inside }
    }

    /// The shape that stands for the mass of a patch, also of one too small to have a number.
    pub(super) fn owner(&self, patch: u32) -> u32 {
        self.owners.get(patch as usize).copied().unwrap_or(0)
    }

    /// Whether two masses stand one before the other.
    pub(super) fn facing(&self, one: usize, other: usize) -> bool {
        self.facing[one][other]
    }

    /// Cells of a mass.
    pub(super) fn size(&self, mass: usize) -> f32 {
        self.sizes[mass]
    }

    /// A cell of a mass.
    pub(super) fn inside(&self, mass: usize) -> (u16, u16) {
        self.inside[mass]
    }

    /// The mass at a cell; 0 for none.
    pub(super) fn at(&self, (x, y): (u16, u16)) -> u8 {
        self.of_cell.get(usize::from(y) * self.width + usize::from(x)).copied().unwrap_or(0)
    }

    /// Cells of each mass in every shape.
    pub(crate) fn in_shapes(&self, patches: &Patches, shapes: &Shapes) -> Vec<[f32; MOST]> {
        let mut cells = vec![[0.0; MOST]; shapes.all.len()];
        for (p, patch) in patches.all.iter().enumerate() {
            cells[shapes.of_patch[p] as usize][usize::from(self.of_patch[p])] += patch.cells;
        }
        cells
    }
}

fn facing(of_cell: &[u8], width: usize, sizes: &[f32]) -> [[bool; MOST]; MOST] {
    let height = of_cell.len() / width.max(1);
    let gap = ((GAP * width.max(height) as f32) as usize).max(1);
    let mut met = [[0u32; MOST]; MOST];
    for y in (0..height).step_by(STRIDE) {
        for x in (0..width).step_by(STRIDE) {
            let here = usize::from(of_cell[y * width + x]);
            let across = (x + gap < width).then(|| of_cell[y * width + x + gap]);
            let down = (y + gap < height).then(|| of_cell[(y + gap) * width + x]);
            for there in [across, down].into_iter().flatten().map(usize::from).filter(|there| *there != here) {
                met[here][there] += 1;
                met[there][here] += 1;
            }
        }
    }
    let mut facing = [[false; MOST]; MOST];
    for one in 1..MOST.min(sizes.len() + 1) {
        for other in 1..MOST.min(sizes.len() + 1) {
            let smaller = sizes[one - 1].min(sizes[other - 1]);
            // Each cell of border is met about `gap` cells deep.
            let border = met[one][other] as f32 * (STRIDE * STRIDE) as f32 / gap as f32;
            facing[one][other] = one != other && border > FACING * smaller.sqrt();
        }
    }
    facing
}
