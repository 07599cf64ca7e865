//! Zones from a drawing in lines: closed outlines become zones, small gaps in the line are bridged.
//!
//! A ball rolled inside the outlines does not pass through a gap it does not fit (trapped-ball segmentation, Zhang et al. 2009): the largest
//! ball first, then smaller ones where it could not go.

mod over;
mod recognised;

pub use over::LineArt;
pub use recognised::is_drawing;

use crate::picture::{Picture, centivalue};
use crate::places::GRID;
use crate::zone_map::ZoneMap;
use rayon::prelude::*;
use std::collections::{BTreeMap, BTreeSet, VecDeque};

/// Longer side of the grid of a line drawing, in cells.
pub(crate) const LINE_GRID: u32 = GRID;
/// Widest gap that is bridged, as a share of the longer side. A choice.
const GAP: f64 = 0.022;
/// Smallest shape that becomes a zone, as a share of the picture. A choice.
const SMALLEST: f64 = 0.0005;
/// Hundredths of a step by which ink is darker than the paper around it. A choice.
const INK: f32 = 90.0;
/// Share of a border that is open from which there is no line between two shapes. A choice.
const HARDLY_A_LINE: f64 = 0.6;
/// Most zones, the background and the outline counted.
const MOST: usize = 90;

/// What the lines themselves become.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Lines {
    /// They are given to the shapes beside them.
    Given,
    /// A zone of their own, numbered last.
    Zone,
}

/// Zones of a line drawing, numbered from 1 in reading order.
///
/// # Errors
/// When there is no line, or no line closes a shape.
pub fn zones(picture: &Picture, lines: Lines) -> Result<ZoneMap, String> {
    let turned = recognised::is_inverted(picture).then(|| picture.negative());
    let picture = turned.as_ref().unwrap_or(picture);
    let (w, h, ink) = ink(picture);
    let share = ink.iter().filter(|i| **i).count() as f64 / ink.len() as f64;
    if share == 0.0 {
        return Err("no line was found: is it a drawing in dark lines on light paper?".into());
    }
    if share > 0.55 {
        return Err("most of this picture is dark, so it is no drawing in lines: find its zones as those of a photo".into());
    }
    let mut label = trapped(w, h, &ink);
    join_strays(w, &ink, &mut label);
    if label.iter().filter(|l| **l > 0).max() == label.iter().filter(|l| **l > 0).min() {
        return Err(
            "no outline closes: the gaps in the lines are wider than can be bridged. Close them on the paper, or part zones by hand".into(),
        );
    }
    grow(w, &ink, &mut label, false);
    if lines == Lines::Given {
        grow(w, &ink, &mut label, true);
    }
    let top = label.iter().copied().max().unwrap_or(0);
    let labels = label.iter().map(|l| if *l == 0 { (top + 1) as u16 } else { *l as u16 }).collect();
    Ok(ZoneMap { width: w as u32, height: h as u32, labels }.numbered())
}

/// Which cells hold ink: darker than the paper around, looked for at full sharpness so that thin lines are not lost.
fn ink(picture: &Picture) -> (usize, usize, Vec<bool>) {
    let (pw, ph) = (picture.width as usize, picture.height as usize);
    let values: Vec<f32> = picture.rgb.par_chunks_exact(3).map(|p| f32::from(centivalue(p))).collect();
    let paper = paper(&values, pw, ph);
    let longer = pw.max(ph);
    let scale = (LINE_GRID as usize).min(longer) as f64 / longer as f64;
    let (w, h) = (((pw as f64 * scale).round() as usize).max(1), ((ph as f64 * scale).round() as usize).max(1));
    let mut out = vec![false; w * h];
    out.par_chunks_mut(w).enumerate().for_each(|(y, row)| {
        let (y0, y1) = (y * ph / h, ((y + 1) * ph / h).max(y * ph / h + 1));
        for (x, cell) in row.iter_mut().enumerate() {
            let (x0, x1) = (x * pw / w, ((x + 1) * pw / w).max(x * pw / w + 1));
            *cell = (y0..y1).any(|yy| (x0..x1).any(|xx| values[yy * pw + xx] < paper[yy * pw + xx] - INK));
        }
    });
    (w, h, out)
}

/// The paper under the lines: the lightest in coarse tiles, spread to the tiles around and smoothed between them.
fn paper(values: &[f32], w: usize, h: usize) -> Vec<f32> {
    let tile = (w.max(h) / 24).max(4);
    let (tw, th) = (w.div_ceil(tile), h.div_ceil(tile));
    let light = |tx: usize, ty: usize| {
        let mut v: Vec<f32> = (ty * tile..((ty + 1) * tile).min(h))
            .flat_map(|y| (tx * tile..((tx + 1) * tile).min(w)).map(move |x| values[y * w + x]))
            .collect();
        let at = (v.len() * 4 / 5).min(v.len() - 1);
        *v.select_nth_unstable_by(at, f32::total_cmp).1
    };
    let tiles: Vec<f32> = (0..tw * th).into_par_iter().map(|i| light(i % tw, i / tw)).collect();
    // A tile that is all ink takes the paper from around it.
    let spread: Vec<f32> = (0..tw * th)
        .map(|i| {
            let (x, y) = (i % tw, i / tw);
            let around =
                (y.saturating_sub(1)..(y + 2).min(th)).flat_map(|yy| (x.saturating_sub(1)..(x + 2).min(tw)).map(move |xx| yy * tw + xx));
            around.map(|j| tiles[j]).fold(0.0, f32::max)
        })
        .collect();
    (0..w * h).into_par_iter().map(|i| spread[(i / w / tile) * tw + (i % w) / tile]).collect()
}

fn trapped(w: usize, h: usize, ink: &[bool]) -> Vec<u32> {
    let largest = ((w.max(h) as f64 * GAP / 2.0).round() as u32).max(1);
    let smallest = ((w * h) as f64 * SMALLEST) as usize;
    let mut label = vec![0u32; w * h];
    let mut next = 0;
    for radius in (1..=largest).rev() {
        let wall: Vec<bool> = ink.iter().zip(&label).map(|(i, l)| *i || *l > 0).collect();
        let centre = fits(w, h, &wall, radius);
        for cells in connected(w, &centre) {
            let ball = within(w, h, &cells, radius, &wall);
            if ball.len() >= smallest {
                next += 1;
                ball.into_iter().for_each(|i| label[i] = next);
            }
        }
    }
    label
}

/// Where the middle of a ball may lie: no wall within `radius` cells, across, down or diagonally; the edge of the picture is none.
fn fits(w: usize, h: usize, wall: &[bool], radius: u32) -> Vec<bool> {
    let radius = radius as usize;
    let across = near(h, w, radius, |row, x| wall[row * w + x]);
    let near = near(w, h, radius, |column, y| across[y * w + column]);
    (0..wall.len()).map(|i| !near[(i % w) * h + i / w]).collect()
}

/// Line by line, whether something lies within `radius` of a place on its line.
fn near(lines: usize, length: usize, radius: usize, there: impl Fn(usize, usize) -> bool) -> Vec<bool> {
    let mut found = vec![false; lines * length];
    for line in 0..lines {
        for at in (0..length).filter(|at| there(line, *at)) {
            found[line * length + at.saturating_sub(radius)..line * length + (at + radius + 1).min(length)].fill(true);
        }
    }
    found
}

fn four(i: usize, w: usize, n: usize) -> impl Iterator<Item = usize> {
    let x = i % w;
    [(x > 0).then(|| i - 1), (x + 1 < w).then(|| i + 1), (i >= w).then(|| i - w), (i + w < n).then(|| i + w)].into_iter().flatten()
}

fn connected(w: usize, inside: &[bool]) -> Vec<Vec<usize>> {
    let mut seen = vec![false; inside.len()];
    let mut all = Vec::new();
    for start in 0..inside.len() {
        if !inside[start] || seen[start] {
            continue;
        }
        seen[start] = true;
        let mut cells = vec![start];
        let mut at = 0;
        while at < cells.len() {
            for j in four(cells[at], w, inside.len()) {
                if inside[j] && !seen[j] {
                    seen[j] = true;
                    cells.push(j);
                }
            }
            at += 1;
        }
        all.push(cells);
    }
    all
}

/// The cells a ball covers whose middle is in `cells`.
fn within(w: usize, h: usize, cells: &[usize], radius: u32, wall: &[bool]) -> Vec<usize> {
    let mut far = vec![u32::MAX; w * h];
    let mut queue: VecDeque<usize> = cells.iter().copied().collect();
    cells.iter().for_each(|i| far[*i] = 0);
    let mut out = Vec::with_capacity(cells.len());
    while let Some(i) = queue.pop_front() {
        out.push(i);
        if far[i] == radius {
            continue;
        }
        for j in four(i, w, w * h) {
            if far[j] == u32::MAX && !wall[j] {
                far[j] = far[i] + 1;
                queue.push_back(j);
            }
        }
    }
    out
}

/// Shapes split at a neck that is wider than any gap are one; leftovers in corners belong to what they open into; and while there are too many
/// zones the smallest is given away.
fn join_strays(w: usize, ink: &[bool], label: &mut [u32]) {
    let mut probe = label.to_vec();
    grow(w, ink, &mut probe, false);
    let mut whole = probe.clone();
    grow(w, ink, &mut whole, true);
    let n = probe.len();
    let widest = ((w.max(n / w) as f64) * GAP) as usize;
    loop {
        let all = meeting(w, &whole);
        // A dotted line has many gaps: what counts is the widest of them, or that there is hardly a line between.
        let joined = meeting(w, &probe).into_iter().filter_map(|(pair, cells)| {
            let share = cells.len() as f64 / all.get(&pair).map_or(cells.len(), BTreeSet::len).max(1) as f64;
            let run = widest_run(w, cells);
            (run > widest || share > HARDLY_A_LINE).then_some((pair, run))
        });
        let Some(((keep, gone), _)) = joined.max_by_key(|(_, n)| *n) else { break };
        for l in probe.iter_mut().chain(whole.iter_mut()).chain(label.iter_mut()).filter(|l| **l == gone) {
            *l = keep;
        }
    }
    loop {
        let mut sizes: BTreeMap<u32, usize> = BTreeMap::new();
        label.iter().filter(|l| **l > 0).for_each(|l| *sizes.entry(*l).or_default() += 1);
        if sizes.len() <= MOST {
            break;
        }
        let Some((small, _)) = sizes.into_iter().min_by_key(|(_, n)| *n) else { break };
        label.iter_mut().filter(|l| **l == small).for_each(|l| *l = 0);
    }
}

/// The cells at which two labels meet, by the two.
fn meeting(w: usize, label: &[u32]) -> BTreeMap<(u32, u32), BTreeSet<usize>> {
    let mut met: BTreeMap<(u32, u32), BTreeSet<usize>> = BTreeMap::new();
    for i in 0..label.len() {
        for j in [(i % w + 1 < w).then(|| i + 1), (i + w < label.len()).then(|| i + w)].into_iter().flatten() {
            let (a, b) = (label[i].min(label[j]), label[i].max(label[j]));
            if a != b && a > 0 {
                met.entry((a, b)).or_default().insert(i);
            }
        }
    }
    met
}

/// The most cells of a set that hang together, corners counted.
fn widest_run(w: usize, mut cells: BTreeSet<usize>) -> usize {
    let mut widest = 0;
    while let Some(start) = cells.pop_first() {
        let (mut run, mut reached) = (0, vec![start]);
        while let Some(i) = reached.pop() {
            run += 1;
            let (x, y) = ((i % w) as i64, (i / w) as i64);
            for (dx, dy) in [(-1, -1), (0, -1), (1, -1), (-1, 0), (1, 0), (-1, 1), (0, 1), (1, 1)] {
                let (xx, yy) = (x + dx, y + dy);
                if (0..w as i64).contains(&xx) && yy >= 0 && cells.remove(&((yy * w as i64 + xx) as usize)) {
                    reached.push((yy * w as i64 + xx) as usize);
                }
            }
        }
        widest = widest.max(run);
    }
    widest
}

/// Gives unlabelled cells to the nearest label: bare paper only, or `through` the ink as well.
fn grow(w: usize, ink: &[bool], label: &mut [u32], through: bool) {
    let n = label.len();
    let mut queue: VecDeque<usize> = (0..n).filter(|i| label[*i] > 0).collect();
    while let Some(i) = queue.pop_front() {
        for j in four(i, w, n) {
            if label[j] == 0 && (through || !ink[j]) {
                label[j] = label[i];
                queue.push_back(j);
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// White paper to draw on.
    struct Sheet {
        w: u32,
        h: u32,
        rgb: Vec<u8>,
    }

    impl Sheet {
        fn new(w: u32, h: u32, paper: u8) -> Self {
            Self { w, h, rgb: vec![paper; (w * h * 3) as usize] }
        }

        fn line(mut self, from: (i32, i32), to: (i32, i32)) -> Self {
            let n = (to.0 - from.0).abs().max((to.1 - from.1).abs()).max(1);
            for s in 0..=n {
                let (x, y) = (from.0 + (to.0 - from.0) * s / n, from.1 + (to.1 - from.1) * s / n);
                for (dx, dy) in [(0, 0), (1, 0), (0, 1), (1, 1)] {
                    let i = (((y + dy) as u32 * self.w + (x + dx) as u32) * 3) as usize;
                    self.rgb[i..i + 3].fill(30);
                }
            }
            self
        }

        /// A square with a gap of so many pixels in its upper side.
        fn square(self, x: i32, y: i32, side: i32, gap: i32) -> Self {
            let middle = x + side / 2;
            self.line((x, y), (middle - gap / 2, y))
                .line((middle + gap - gap / 2, y), (x + side, y))
                .line((x, y), (x, y + side))
                .line((x + side, y), (x + side, y + side))
                .line((x, y + side), (x + side, y + side))
        }

        fn picture(self) -> Picture {
            Picture { width: self.w, height: self.h, rgb: self.rgb }
        }
    }

    #[test]
    fn closed_outlines_become_zones() {
        let p = Sheet::new(800, 600, 240).square(100, 100, 200, 0).square(450, 250, 220, 0).picture();
        let map = zones(&p, Lines::Given).unwrap();
        assert_eq!(map.zones(), [1, 2, 3]);
        let at = |x: u32, y: u32| map.at(x * map.width / 800, y * map.height / 600);
        assert!(at(20, 20) != at(200, 200) && at(200, 200) != at(560, 360));
    }

    #[test]
    fn small_gaps_are_bridged_and_wide_ones_are_not() {
        let with_gap = |gap| zones(&Sheet::new(800, 600, 240).square(200, 150, 300, gap).picture(), Lines::Given);
        assert_eq!(with_gap(9).unwrap().zones(), [1, 2]);
        assert!(with_gap(120).unwrap_err().contains("no outline closes"));
    }

    #[test]
    fn lines_can_be_a_zone_of_their_own() {
        let p = Sheet::new(800, 600, 240).square(200, 150, 300, 0).picture();
        let map = zones(&p, Lines::Zone).unwrap();
        assert_eq!(map.zones().len(), 3);
        let at = |x: u32, y: u32| map.at(x * map.width / 800, y * map.height / 600);
        assert!(at(200, 300) != at(350, 300) && at(200, 300) != at(20, 20));
    }

    #[test]
    fn paper_photographed_in_a_shadow_is_still_paper() {
        let mut sheet = Sheet::new(800, 600, 240).square(100, 100, 200, 0).square(450, 250, 220, 0);
        for (i, b) in sheet.rgb.iter_mut().enumerate() {
            let x = (i / 3 % 800) as f64 / 800.0;
            *b = (f64::from(*b) * (0.35 + 0.65 * x)) as u8;
        }
        assert_eq!(zones(&sheet.picture(), Lines::Given).unwrap().zones().len(), 3);
    }

    #[test]
    fn a_blank_sheet_and_a_dark_photo_are_refused() {
        assert!(zones(&Sheet::new(300, 200, 240).picture(), Lines::Given).unwrap_err().contains("no line"));
        let dark = Picture {
            width: 300,
            height: 200,
            rgb: (0..60_000).flat_map(|i| if i % 300 % 30 < 10 { [220; 3] } else { [20; 3] }).collect(),
        };
        assert!(zones(&dark, Lines::Given).is_err());
    }
}
