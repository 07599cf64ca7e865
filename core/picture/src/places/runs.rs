//! Smooth runs: skies, walls and backdrops whose colour changes evenly from one end to the other. They are one colour of the plan, graded,
//! not bands with edges the picture does not have.
//!
//! On a coarse copy, calm ground without edges is grown from its middle as long as one curved sheet per look coordinate describes it.

use super::cells::{Cells, EvenColour, apart2};
use rayon::prelude::*;
use serde::{Deserialize, Serialize};
use std::collections::VecDeque;

/// Cells of the grid to one coarse cell.
const COARSE: usize = 4;
/// Steepest change per coarse cell that still counts as calm, in look units. A choice.
const CALM: f32 = 1.3;
/// How far a cell may lie off its sheet, in look units. A choice: about what the eye forgives in a wash.
const OFF: f32 = 4.5;
/// By how many times as much it may lie off a flat sheet.
const STRAIGHT: f32 = 1.5;
/// Least share of the picture that is a run.
const LEAST: f64 = 0.025;
/// Least change from end to end, in look units.
const SPAN: f32 = 5.0;
/// Most runs looked for.
const MOST: usize = 6;

/// An even change of colour over a part of the picture.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct Run {
    /// What describes it.
    pub surface: Surface,
    /// Mean look over its cells.
    pub mean: EvenColour,
    /// Cells it covers.
    pub cells: usize,
    /// Mean squared distance of the sheet from its mean, over its cells.
    pub spread: f32,
    /// Least and greatest of each look coordinate over its cells: the sheet is not carried on beyond.
    pub reach: [EvenColour; 2],
}

impl Run {
    /// Colour at a cell.
    pub fn at(&self, x: f32, y: f32) -> EvenColour {
        let look = self.surface.at(x, y);
        std::array::from_fn(|c| look[c].clamp(self.reach[0][c], self.reach[1][c]))
    }

    /// Where it changes most, in degrees clockwise from rightwards.
    pub fn direction(&self) -> f64 {
        // The principal axis of the summed outer products of the three gradients.
        let (mut xx, mut xy, mut yy) = (0.0f64, 0.0f64, 0.0f64);
        for c in 0..3 {
            let (gx, gy) = self.surface.slope(c);
            xx += gx * gx;
            xy += gx * gy;
            yy += gy * gy;
        }
        (0.5 * (2.0 * xy).atan2(xx - yy)).to_degrees().rem_euclid(360.0)
    }
}

/// The runs of a picture and which of them each cell belongs to (0 for none, else its number from 1).
pub(super) fn find(cells: &Cells) -> (Vec<Run>, Vec<u8>) {
    let coarse = Coarse::of(cells);
    let calm = coarse.calm();
    let depth = coarse.depth(&calm);
    let mut owner = vec![0u8; coarse.looks.len()];
    let least = (coarse.looks.len() as f64 * LEAST) as usize;
    let mut runs = Vec::new();
    let mut tried = vec![false; coarse.looks.len()];
    while runs.len() < MOST {
        let free = |i: &usize| depth[*i] >= 3 && owner[*i] == 0 && !tried[*i];
        let Some(seed) = (0..owner.len()).filter(free).max_by_key(|i| (depth[*i], std::cmp::Reverse(*i))) else { break };
        let grown = coarse.grow(seed, &calm, &owner);
        if grown.len() < least.max(8) {
            tried[seed] = true;
            coarse.around(seed, 6).for_each(|i| tried[i] = true);
            grown.into_iter().for_each(|i| tried[i] = true);
            continue;
        }
        grown.iter().for_each(|i| tried[*i] = true);
        let (sheet, span) = coarse.fit(&grown);
        if span < SPAN * cells.scale {
            continue;
        }
        let number = runs.len() as u8 + 1;
        coarse.filled(&coarse.straight(&grown), &sheet, &owner).into_iter().for_each(|i| owner[i] = number);
        runs.push(sheet);
    }
    spread_over(cells, &coarse, &runs, &owner)
}

/// A curved sheet over the grid for each look coordinate: `c + x·u + y·v + uu·u² + uv·u·v + vv·v²`, with `u` and `v` the distance from the
/// middle of the run in units of [`Surface::unit`] cells.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct Surface {
    /// Middle of the run, in cells.
    pub middle: (f32, f32),
    /// Cells to one unit.
    pub unit: f32,
    /// Six coefficients for each look coordinate.
    pub terms: [[f32; 6]; 3],
}

impl Surface {
    fn at(&self, x: f32, y: f32) -> EvenColour {
        let (u, v) = ((x - self.middle.0) / self.unit, (y - self.middle.1) / self.unit);
        let powers = [1.0, u, v, u * u, u * v, v * v];
        self.terms.map(|t| t.iter().zip(powers).map(|(t, p)| t * p).sum())
    }

    /// Change across and down at the middle, per unit.
    fn slope(&self, coordinate: usize) -> (f64, f64) {
        (f64::from(self.terms[coordinate][1]), f64::from(self.terms[coordinate][2]))
    }

    /// The same sheet on a grid `scale` times as fine.
    fn finer(&self, scale: f32) -> Self {
        let at = |m: f32| m * scale + (scale - 1.0) / 2.0;
        Self { middle: (at(self.middle.0), at(self.middle.1)), unit: self.unit * scale, terms: self.terms }
    }
}

/// Solves the normal equations of up to six terms for three right-hand sides; terms that nothing tells stay 0.
fn solved(mut m: [[f64; 9]; 6], order: usize) -> [[f32; 6]; 3] {
    for p in 0..order {
        let best = (p..order).max_by(|a, b| m[*a][p].abs().total_cmp(&m[*b][p].abs())).unwrap_or(p);
        m.swap(p, best);
        if m[p][p].abs() < 1e-7 {
            continue;
        }
        for r in (0..order).filter(|r| *r != p) {
            let share = m[r][p] / m[p][p];
            (p..9).for_each(|c| m[r][c] -= share * m[p][c]);
        }
    }
    std::array::from_fn(|c| std::array::from_fn(|p| if p < order && m[p][p].abs() >= 1e-7 { (m[p][6 + c] / m[p][p]) as f32 } else { 0.0 }))
}

struct Coarse {
    width: usize,
    height: usize,
    looks: Vec<EvenColour>,
    scale: f32,
}

impl Coarse {
    fn of(cells: &Cells) -> Self {
        let (width, height) = (cells.width.div_ceil(COARSE), cells.height.div_ceil(COARSE));
        let mean: Vec<EvenColour> = (0..width * height)
            .into_par_iter()
            .map(|i| {
                let (x0, y0) = (i % width * COARSE, i / width * COARSE);
                let (x1, y1) = ((x0 + COARSE).min(cells.width), (y0 + COARSE).min(cells.height));
                let mut sum = [0.0f32; 3];
                for y in y0..y1 {
                    for look in &cells.looks[y * cells.width + x0..y * cells.width + x1] {
                        (0..3).for_each(|c| sum[c] += look[c]);
                    }
                }
                sum.map(|s| s / ((x1 - x0) * (y1 - y0)) as f32)
            })
            .collect();
        let once = super::cells::binomial(&mean, width, height);
        Self { width, height, looks: super::cells::binomial(&once, width, height), scale: cells.scale }
    }

    fn calm(&self) -> Vec<bool> {
        let (w, h) = (self.width, self.height);
        (0..w * h)
            .map(|i| {
                let (x, y) = (i % w, i / w);
                let (l, r) = (x.saturating_sub(1), (x + 1).min(w - 1));
                let (u, d) = (y.saturating_sub(1), (y + 1).min(h - 1));
                let steep = apart2(self.looks[y * w + l], self.looks[y * w + r]) + apart2(self.looks[u * w + x], self.looks[d * w + x]);
                steep < (2.0 * CALM * self.scale).powi(2)
            })
            .collect()
    }

    /// City-block distance from what is not calm.
    fn depth(&self, calm: &[bool]) -> Vec<u32> {
        let (w, h) = (self.width, self.height);
        let mut d = vec![0u32; w * h];
        for i in 0..w * h {
            if calm[i] {
                let (up, left) = (if i >= w { d[i - w] } else { w as u32 }, if i % w > 0 { d[i - 1] } else { w as u32 });
                d[i] = 1 + up.min(left);
            }
        }
        for i in (0..w * h).rev() {
            if calm[i] {
                let down = if i + w < w * h { d[i + w] } else { w as u32 };
                let right = if i % w + 1 < w { d[i + 1] } else { w as u32 };
                d[i] = d[i].min(1 + down.min(right));
            }
        }
        d
    }

    fn around(&self, i: usize, r: usize) -> impl Iterator<Item = usize> + '_ {
        let (x, y, w) = (i % self.width, i / self.width, self.width);
        let across = x.saturating_sub(r)..(x + r + 1).min(w);
        (y.saturating_sub(r)..(y + r + 1).min(self.height)).flat_map(move |yy| across.clone().map(move |xx| yy * w + xx))
    }

    fn four(&self, i: usize) -> impl Iterator<Item = usize> {
        let (w, n) = (self.width, self.looks.len());
        let x = i % w;
        [(x > 0).then(|| i - 1), (x + 1 < w).then(|| i + 1), (i >= w).then(|| i - w), (i + w < n).then(|| i + w)].into_iter().flatten()
    }

    /// Grows from a seed over calm ground, fitting the sheet anew each time the ground has doubled.
    fn grow(&self, seed: usize, calm: &[bool], owner: &[u8]) -> Vec<usize> {
        let mut inside: Vec<usize> = self.around(seed, 2).filter(|i| calm[*i] && owner[*i] == 0).collect();
        let mut sheet = self.fit(&inside).0;
        let mut before = 0;
        // The last rounds only settle the edge under the final sheet.
        for _ in 0..14 {
            let mut seen = vec![false; self.looks.len()];
            let mut queue: VecDeque<usize> = VecDeque::from([seed]);
            seen[seed] = true;
            let limit = inside.len() * 2 + 16;
            let mut next = Vec::new();
            while let Some(i) = queue.pop_front() {
                next.push(i);
                if next.len() >= limit {
                    break;
                }
                for j in self.four(i) {
                    let off = apart2(self.looks[j], sheet.at((j % self.width) as f32, (j / self.width) as f32));
                    if !seen[j] && calm[j] && owner[j] == 0 && off < (OFF * self.scale).powi(2) {
                        seen[j] = true;
                        queue.push_back(j);
                    }
                }
            }
            inside = next;
            sheet = self.fit(&inside).0;
            if inside.len() <= before + before / 100 {
                break;
            }
            before = inside.len();
        }
        inside
    }

    /// Least squares sheet over some cells, and how much it changes over them from one end to the other.
    fn fit(&self, inside: &[usize]) -> (Surface, f32) {
        // Few cells do not hold a curve.
        self.fit_of(inside, if inside.len() < 200 { 3 } else { 6 })
    }

    /// The same with so many terms.
    fn fit_of(&self, inside: &[usize], order: usize) -> (Surface, f32) {
        let n = inside.len() as f64;
        let at = |i: usize| ((i % self.width) as f64, (i / self.width) as f64);
        let (mx, my) = inside.iter().map(|i| at(*i)).fold((0.0, 0.0), |s, p| (s.0 + p.0 / n, s.1 + p.1 / n));
        let unit = inside.iter().map(|i| (at(*i).0 - mx).abs().max((at(*i).1 - my).abs())).fold(1.0, f64::max);
        let mut normal = [[0.0f64; 9]; 6];
        for i in inside {
            let ((x, y), look) = (at(*i), self.looks[*i]);
            let (u, v) = ((x - mx) / unit, (y - my) / unit);
            let powers = [1.0, u, v, u * u, u * v, v * v];
            for r in 0..order {
                (0..order).for_each(|c| normal[r][c] += powers[r] * powers[c]);
                (0..3).for_each(|c| normal[r][6 + c] += powers[r] * f64::from(look[c]));
            }
        }
        let terms = solved(normal, order);
        let sheet = Surface { middle: (mx as f32, my as f32), unit: unit as f32, terms };
        let looks: Vec<EvenColour> = inside.iter().map(|i| sheet.at(at(*i).0 as f32, at(*i).1 as f32)).collect();
        let far = |from: EvenColour| looks.iter().copied().max_by(|a, b| apart2(from, *a).total_cmp(&apart2(from, *b))).unwrap_or(from);
        let one = far(sheet.at(mx as f32, my as f32));
        (sheet, apart2(one, far(one)).sqrt())
    }

    /// The cells that also lie near a flat sheet: a graded wash runs one way.
    fn straight(&self, inside: &[usize]) -> Vec<usize> {
        let flat = self.fit_of(inside, 3).0;
        let off = |i: &usize| apart2(self.looks[*i], flat.at((*i % self.width) as f32, (*i / self.width) as f32));
        inside.iter().copied().filter(|i| off(i) < (STRAIGHT * OFF * self.scale).powi(2)).collect()
    }

    /// A run laid up to the edges of what it describes: ground near its rim, calm or not, that lies on its sheet.
    fn filled(&self, inside: &[usize], sheet: &Surface, owner: &[u8]) -> Vec<usize> {
        let mut far = vec![u8::MAX; self.looks.len()];
        let mut queue: VecDeque<usize> = inside.iter().copied().collect();
        inside.iter().for_each(|i| far[*i] = 0);
        let mut out = inside.to_vec();
        while let Some(i) = queue.pop_front() {
            if far[i] == 4 {
                continue;
            }
            for j in self.four(i) {
                let off = apart2(self.looks[j], sheet.at((j % self.width) as f32, (j / self.width) as f32));
                if far[j] == u8::MAX && owner[j] == 0 && off < (1.5 * OFF * self.scale).powi(2) {
                    far[j] = far[i] + 1;
                    queue.push_back(j);
                    out.push(j);
                }
            }
        }
        out
    }
}

/// Planes and owners taken back to the cells of the grid; a cell whose look is off its sheet is no part of the run.
fn spread_over(cells: &Cells, coarse: &Coarse, sheets: &[Surface], owner: &[u8]) -> (Vec<Run>, Vec<u8>) {
    let mut runs: Vec<Run> = sheets
        .iter()
        .map(|p| Run { surface: p.finer(COARSE as f32), mean: [0.0; 3], cells: 0, spread: 0.0, reach: [[f32::MIN; 3], [f32::MAX; 3]] })
        .collect();
    let w = cells.width;
    let of_cell: Vec<u8> = (0..cells.looks.len())
        .into_par_iter()
        .map(|i| {
            let number = owner[i / w / COARSE * coarse.width + i % w / COARSE];
            let on_it = number > 0
                && apart2(cells.looks[i], runs[usize::from(number) - 1].at((i % w) as f32, (i / w) as f32))
                    < (1.8 * OFF * cells.scale).powi(2);
            if on_it { number } else { 0 }
        })
        .collect();
    for (r, run) in runs.iter_mut().enumerate() {
        let inside: Vec<usize> = (0..of_cell.len()).filter(|i| usize::from(of_cell[*i]) == r + 1).collect();
        run.cells = inside.len();
        let n = inside.len().max(1) as f64;
        let looks: Vec<EvenColour> = inside.iter().map(|i| run.at((i % w) as f32, (i / w) as f32)).collect();
        let mean: [f64; 3] = std::array::from_fn(|c| looks.iter().map(|l| f64::from(l[c])).sum::<f64>() / n);
        run.mean = mean.map(|m| m as f32);
        run.spread = (looks.iter().map(|l| f64::from(apart2(*l, run.mean))).sum::<f64>() / n) as f32;
        let end = |pick: fn(f32, f32) -> f32| looks.iter().copied().reduce(|a, b| std::array::from_fn(|c| pick(a[c], b[c])));
        run.reach = [end(f32::min).unwrap_or(run.mean), end(f32::max).unwrap_or(run.mean)];
    }
    (runs, of_cell)
}
