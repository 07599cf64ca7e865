//! Edges laid back where the picture has them: squinting finds the masses, a closer look finds their edges.

use super::features::box_mean;
use crate::zone_map::ZoneMap;
use rayon::prelude::*;

/// How far an edge may be moved, as a share of the longer side.
const BAND: f64 = 0.018;
/// Neighbourhood from which a zone's colour near an edge is taken, as a share of the longer side.
const NEAR: f64 = 0.05;
/// What a ragged edge costs against a misfit of one step of value, squared. A choice.
const SMOOTH: f32 = 2.5;
/// Rounds of looking again; later ones change almost nothing.
const ROUNDS: usize = 5;

/// Cost of one zone for the cells it may claim; infinite elsewhere.
struct Claim {
    zone: u16,
    misfit: Vec<f32>,
}

/// Moves every edge to where the two zones' own colours part: each cell near an edge goes to the zone it is most like,
/// evened out by its neighbours (iterated conditional modes, Besag 1986). `planes` are in steps of value.
pub fn settled(map: &ZoneMap, planes: &[Vec<f32>; 3]) -> ZoneMap {
    let longer = f64::from(map.width.max(map.height));
    let reach = |share: f64| ((longer * share).round() as usize).max(1);
    let mut map = map.clone();
    for round in 0..ROUNDS {
        let claims: Vec<Claim> = map.zones().par_iter().map(|z| claim(&map, planes, *z, reach(BAND), reach(NEAR))).collect();
        sweep(&mut map, &claims, round % 2 == 1);
    }
    map
}

/// How ill each cell within `band` of a zone fits its colour nearby.
fn claim(map: &ZoneMap, planes: &[Vec<f32>; 3], zone: u16, band: usize, near: usize) -> Claim {
    let (w, h) = (map.width as usize, map.height as usize);
    let own: Vec<f32> = map.labels.iter().map(|l| f32::from(u8::from(*l == zone))).collect();
    let reached = box_mean(&own, w, h, band);
    let share = box_mean(&own, w, h, near);
    let mut misfit: Vec<f32> = reached.iter().map(|r| if *r > 0.0 { 0.0 } else { f32::INFINITY }).collect();
    for plane in planes {
        let mine: Vec<f32> = plane.iter().zip(&own).map(|(v, o)| v * o).collect();
        let sum = box_mean(&mine, w, h, near);
        for i in 0..misfit.len() {
            if misfit[i].is_finite() {
                misfit[i] += (plane[i] - sum[i] / share[i].max(1e-9)).powi(2);
            }
        }
    }
    Claim { zone, misfit }
}

/// Gives every cell to the zone that claims it cheapest, its eight neighbours having their say.
fn sweep(map: &mut ZoneMap, claims: &[Claim], backwards: bool) {
    let (w, h) = (map.width as usize, map.height as usize);
    let cells = w * h;
    for n in 0..cells {
        let i = if backwards { cells - 1 - n } else { n };
        let (x, y) = (i % w, i / w);
        let around = |zone: u16| {
            let mut unlike = 0;
            for yy in y.saturating_sub(1)..(y + 2).min(h) {
                for xx in x.saturating_sub(1)..(x + 2).min(w) {
                    unlike += u32::from(map.labels[yy * w + xx] != zone && (xx, yy) != (x, y));
                }
            }
            unlike
        };
        let own = map.labels[i];
        if around(own) == 0 {
            continue;
        }
        let best = claims
            .iter()
            .filter(|c| c.misfit[i].is_finite())
            .map(|c| (c.misfit[i] + SMOOTH * around(c.zone) as f32 / 8.0, c.zone))
            .min_by(|a, b| a.0.total_cmp(&b.0).then((a.1 != own).cmp(&(b.1 != own))).then(a.1.cmp(&b.1)));
        if let Some((_, zone)) = best {
            map.labels[i] = zone;
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_misplaced_edge_goes_where_the_picture_parts() {
        let (w, h) = (200u32, 120u32);
        let plane: Vec<f32> = (0..w * h).map(|i| if i % w < 100 { 7.0 } else { 4.0 }).collect();
        let misplaced = ZoneMap { width: w, height: h, labels: (0..w * h).map(|i| if i % w < 97 + (i / w) % 4 { 1 } else { 2 }).collect() };
        let zeros = vec![0.0; plane.len()];
        let map = settled(&misplaced, &[plane, zeros.clone(), zeros]);
        for (i, zone) in map.labels.iter().enumerate() {
            assert_eq!(*zone, if (i as u32) % w < 100 { 1 } else { 2 }, "cell {} {}", i as u32 % w, i as u32 / w);
        }
    }
}
