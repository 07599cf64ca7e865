//! Edges of zones as simple lines. Neighbours share every line, so that no gap opens when it is simplified.

use crate::zone_map::ZoneMap;
use rayon::prelude::*;

/// A point in cells of the zone map, x to the right, y down.
pub type Point = (f32, f32);

/// A stretch of edge between two shapes (zones, or places), from one meeting point to the next (or a closed loop).
#[derive(Clone, Debug, PartialEq)]
pub struct Arc {
    /// Shape on the left when walking the points; `None` outside the picture.
    pub left: Option<u32>,
    /// Shape on the right.
    pub right: Option<u32>,
    /// At least two points.
    pub points: Vec<Point>,
}

/// How far, in cells, a simplified line may leave the true edge.
pub const TOLERANCE: f32 = 1.1;

type Corner = (i32, i32);

/// All edges of the map's zones, simplified by `tolerance` cells (Douglas & Peucker 1973) and rounded once.
pub fn arcs(map: &ZoneMap, tolerance: f32) -> Vec<Arc> {
    let labels: Vec<u32> = map.labels.iter().map(|l| u32::from(*l)).collect();
    arcs_between(&Grid { width: map.width, height: map.height, labels: &labels }, tolerance)
}

/// Numbered shapes on a grid, row by row.
pub struct Grid<'a> {
    /// Cells across.
    pub width: u32,
    /// Cells down.
    pub height: u32,
    /// Shape of each cell.
    pub labels: &'a [u32],
}

/// The same between the shapes of any grid.
pub(crate) fn arcs_between(grid: &Grid, tolerance: f32) -> Vec<Arc> {
    trace(grid)
        .into_par_iter()
        .map(|(left, right, corners)| {
            let points: Vec<Point> = corners.into_iter().map(|(x, y)| (x as f32, y as f32)).collect();
            let frame = left.is_none() || right.is_none();
            let simple = simplified(&points, tolerance);
            Arc { left, right, points: if frame { simple } else { rounded(&simple) } }
        })
        .collect()
}

/// Closed rings of one shape, assembled from the shared arcs. Fill them by the even–odd rule.
pub fn rings(arcs: &[Arc], shape: u32) -> Vec<Vec<Point>> {
    rings_of(arcs.iter().filter(|a| (a.left == Some(shape)) != (a.right == Some(shape))), shape)
}

/// Closed rings of shapes `0..n` at once.
pub(crate) fn rings_of_all(arcs: &[Arc], n: usize) -> Vec<Vec<Vec<Point>>> {
    let mut round: Vec<Vec<&Arc>> = vec![Vec::new(); n];
    for a in arcs.iter().filter(|a| a.left != a.right) {
        [a.left, a.right].into_iter().flatten().for_each(|s| round[s as usize].push(a));
    }
    round.into_par_iter().enumerate().map(|(shape, arcs)| rings_of(arcs.into_iter(), shape as u32)).collect()
}

fn rings_of<'a>(arcs: impl Iterator<Item = &'a Arc>, shape: u32) -> Vec<Vec<Point>> {
    let mut open: Vec<Vec<Point>> =
        arcs.map(|a| if a.left == Some(shape) { a.points.clone() } else { a.points.iter().rev().copied().collect() }).collect();
    let mut rings = Vec::new();
    while let Some(mut ring) = open.pop() {
        while ring.first() != ring.last() {
            let end = ring[ring.len() - 1];
            let Some(next) = open.iter().position(|a| a[0] == end) else { break };
            ring.extend(open.swap_remove(next).into_iter().skip(1));
        }
        rings.push(ring);
    }
    rings.sort_by_key(|r| std::cmp::Reverse(r.len()));
    rings
}

/// SVG path data of rings, in cells.
pub(crate) fn path_data(rings: &[Vec<Point>]) -> String {
    let mut d = String::new();
    for ring in rings {
        for (i, (x, y)) in ring.iter().enumerate() {
            d.push_str(&format!("{}{x:.1} {y:.1}", if i == 0 { "M" } else { "L" }));
        }
        d.push('Z');
    }
    d
}

impl Grid<'_> {
    fn at(&self, x: i32, y: i32) -> Option<u32> {
        let inside = x >= 0 && y >= 0 && x < self.width as i32 && y < self.height as i32;
        inside.then(|| self.labels[y as usize * self.width as usize + x as usize])
    }

    /// Shapes to the left and right of the unit edge from `c` in direction `d`.
    fn sides(&self, c: Corner, d: Corner) -> (Option<u32>, Option<u32>) {
        let cell = |x, y| self.at(x, y);
        match d {
            (1, 0) => (cell(c.0, c.1 - 1), cell(c.0, c.1)),
            (-1, 0) => (cell(c.0 - 1, c.1), cell(c.0 - 1, c.1 - 1)),
            (0, 1) => (cell(c.0, c.1), cell(c.0 - 1, c.1)),
            _ => (cell(c.0 - 1, c.1 - 1), cell(c.0, c.1 - 1)),
        }
    }

    /// Which of the four steps from each corner lie on an edge, as bits.
    fn ways(&self) -> Vec<u8> {
        let across = self.width as usize + 1;
        let mut ways = vec![0u8; across * (self.height as usize + 1)];
        ways.par_chunks_exact_mut(across).enumerate().for_each(|(y, row)| {
            for (x, bits) in row.iter_mut().enumerate() {
                for (i, d) in STEPS.into_iter().enumerate() {
                    let (l, r) = self.sides((x as i32, y as i32), d);
                    *bits |= u8::from(l != r) << i;
                }
            }
        });
        ways
    }
}

const STEPS: [Corner; 4] = [(1, 0), (0, 1), (-1, 0), (0, -1)];

type Traced = (Option<u32>, Option<u32>, Vec<Corner>);

fn trace(grid: &Grid) -> Vec<Traced> {
    let (w, h) = (grid.width as i32, grid.height as i32);
    let ways = grid.ways();
    let index = |c: Corner| c.1 as usize * (w as usize + 1) + c.0 as usize;
    let is_node = |c: Corner| ways[index(c)].count_ones() > 2 || ((c.0 == 0 || c.0 == w) && (c.1 == 0 || c.1 == h));
    let mut walked = vec![0u8; ways.len()];
    let mut found = Vec::new();
    for nodes in [true, false] {
        for (i, bits) in ways.iter().enumerate().filter(|(_, bits)| **bits > 0) {
            let start = ((i % (w as usize + 1)) as i32, (i / (w as usize + 1)) as i32);
            if is_node(start) != nodes {
                continue;
            }
            for step in (0..4).filter(|s| bits >> s & 1 == 1) {
                if walked[i] >> step & 1 == 1 {
                    continue;
                }
                let (left, right) = grid.sides(start, STEPS[step]);
                let mut line = vec![start];
                let (mut at, mut d) = (start, step);
                loop {
                    walked[index(at)] |= 1 << d;
                    at = (at.0 + STEPS[d].0, at.1 + STEPS[d].1);
                    let back = (d + 2) % 4;
                    walked[index(at)] |= 1 << back;
                    line.push(at);
                    if at == start || is_node(at) {
                        break;
                    }
                    match (0..4).find(|n| *n != back && ways[index(at)] >> n & 1 == 1) {
                        Some(next) => d = next,
                        None => break,
                    }
                }
                found.push((left, right, line));
            }
        }
    }
    found
}

fn simplified(points: &[Point], tolerance: f32) -> Vec<Point> {
    if points.len() < 3 {
        return points.to_vec();
    }
    if points[0] == points[points.len() - 1] {
        // A loop: hold the point farthest from the start as well.
        let far = (1..points.len() - 1).max_by(|a, b| gap(points[*a], points[0]).total_cmp(&gap(points[*b], points[0]))).unwrap_or(1);
        let mut one = simplified(&points[..=far], tolerance);
        one.extend(simplified(&points[far..], tolerance).into_iter().skip(1));
        return one;
    }
    let last = points.len() - 1;
    let (mut worst, mut at) = (0.0, 0);
    for (i, p) in points.iter().enumerate().take(last).skip(1) {
        let d = off_line(*p, points[0], points[last]);
        if d > worst {
            (worst, at) = (d, i);
        }
    }
    if worst <= tolerance {
        return vec![points[0], points[last]];
    }
    let mut one = simplified(&points[..=at], tolerance);
    one.extend(simplified(&points[at..], tolerance).into_iter().skip(1));
    one
}

fn gap(p: Point, q: Point) -> f32 {
    (p.0 - q.0).hypot(p.1 - q.1)
}

fn off_line(p: Point, a: Point, b: Point) -> f32 {
    let len = gap(a, b);
    if len < 1e-6 { gap(p, a) } else { ((b.0 - a.0) * (a.1 - p.1) - (a.0 - p.0) * (b.1 - a.1)).abs() / len }
}

/// Cuts the inner corners once (Chaikin 1974), leaving the ends and long straight runs where they are.
fn rounded(points: &[Point]) -> Vec<Point> {
    const CUT: f32 = 1.2;
    let mut out = vec![points[0]];
    for t in points.windows(3) {
        let toward = |q: Point| {
            let share = (CUT / gap(t[1], q).max(1e-6)).min(0.3);
            (t[1].0 + (q.0 - t[1].0) * share, t[1].1 + (q.1 - t[1].1) * share)
        };
        out.extend([toward(t[0]), toward(t[2])]);
    }
    out.push(points[points.len() - 1]);
    out
}

#[cfg(test)]
mod tests {
    use super::*;

    fn area(rings: &[Vec<Point>]) -> f32 {
        rings.iter().map(|r| r.windows(2).map(|p| p[0].0 * p[1].1 - p[1].0 * p[0].1).sum::<f32>() / 2.0).sum::<f32>().abs()
    }

    fn map(w: u32, h: u32, zone: impl Fn(u32, u32) -> u16) -> ZoneMap {
        ZoneMap { width: w, height: h, labels: (0..h).flat_map(|y| (0..w).map(move |x| (x, y))).map(|(x, y)| zone(x, y)).collect() }
    }

    #[test]
    fn unsimplified_areas_are_exact_even_with_a_hole() {
        let m = map(30, 20, |x, y| if (10..20).contains(&x) && (5..12).contains(&y) { 2 } else { 1 });
        let labels: Vec<u32> = m.labels.iter().map(|l| u32::from(*l)).collect();
        let exact: Vec<Arc> = trace(&Grid { width: 30, height: 20, labels: &labels })
            .into_iter()
            .map(|(left, right, c)| Arc { left, right, points: c.into_iter().map(|(x, y)| (x as f32, y as f32)).collect() })
            .collect();
        assert_eq!(area(&rings(&exact, 2)), 70.0);
        assert_eq!(area(&rings(&exact, 1)), 600.0 - 70.0);
        assert_eq!(rings(&exact, 1).len(), 2);
    }

    #[test]
    fn neighbours_share_their_border_exactly() {
        let m = map(40, 40, |x, y| 1 + u16::from(x * x + y * y < 700) + u16::from(y > 30));
        let a = arcs(&m, TOLERANCE);
        let total: f32 = m.zones().iter().map(|z| area(&rings(&a, u32::from(*z)))).sum();
        assert!((total - 1600.0).abs() < 0.5, "{total}");
        for z in m.zones() {
            let cells = m.labels.iter().filter(|l| **l == z).count() as f32;
            assert!((area(&rings(&a, u32::from(z))) - cells).abs() < 0.06 * cells + 12.0);
            assert!(rings(&a, u32::from(z)).iter().all(|r| r.first() == r.last()));
        }
    }

    #[test]
    fn a_picture_of_one_zone_is_its_frame() {
        let m = map(8, 6, |_, _| 1);
        assert_eq!(area(&rings(&arcs(&m, TOLERANCE), 1)), 48.0);
        assert!(path_data(&rings(&arcs(&m, TOLERANCE), 1)).starts_with('M'));
    }
}
