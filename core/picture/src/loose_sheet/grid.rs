//! Patches in rows, as they are read, with the places where one is missing.

use super::PhotoRect;

/// Share of a patch's height by which it may lie off its row, and of the step between patches by which a gap may be off a whole number of steps. Choices.
const OFF_ROW: f64 = 0.55;
const OFF_STEP: f64 = 0.2;
/// Share of the gaps that must be one step wide before a wider one says that a patch is missing.
const REGULAR: f64 = 0.6;
/// Most patches that may be missing side by side.
const MOST_MISSING: usize = 3;

/// The places row by row, those that were guessed marked. `size` is that of the photo, in pixels.
pub(super) fn in_rows(places: &[PhotoRect], size: (u32, u32)) -> Vec<(PhotoRect, bool)> {
    let (w, h) = (f64::from(size.0), f64::from(size.1));
    let middles: Vec<(f64, f64)> = places.iter().map(|p| ((p.x + p.width / 2.0) * w, (p.y + p.height / 2.0) * h)).collect();
    let high = median(places.iter().map(|p| p.height * h).collect());
    let (sin, cos) = tilt(&middles, high).sin_cos();
    let turned: Vec<(f64, f64)> = middles.iter().map(|(x, y)| (x * cos + y * sin, y * cos - x * sin)).collect();
    let mut by_height: Vec<usize> = (0..places.len()).collect();
    by_height.sort_by(|a, b| turned[*a].1.total_cmp(&turned[*b].1));
    let mut rows: Vec<Vec<usize>> = Vec::new();
    for i in by_height {
        match rows.last_mut() {
            Some(row) if turned[i].1 - mean(row.iter().map(|j| turned[*j].1)) < OFF_ROW * high => row.push(i),
            _ => rows.push(vec![i]),
        }
    }
    rows.iter_mut().for_each(|row| row.sort_by(|a, b| turned[*a].0.total_cmp(&turned[*b].0)));
    let step = step(&rows, &turned);
    let mut placed = Vec::new();
    for row in &rows {
        for (n, i) in row.iter().enumerate() {
            if let (Some(step), Some(before)) = (step, n.checked_sub(1).map(|n| row[n])) {
                let missing = missing(turned[*i].0 - turned[before].0, step);
                placed.extend((1..=missing).map(|k| (between(&places[before], &places[*i], k as f64 / (missing + 1) as f64), true)));
            }
            placed.push((places[*i], false));
        }
    }
    placed
}

/// Number of patches that are missing in a gap.
fn missing(gap: f64, step: f64) -> usize {
    let steps = gap / step;
    let whole = steps.round();
    if whole >= 2.0 && whole as usize <= MOST_MISSING + 1 && (steps - whole).abs() < OFF_STEP * whole { whole as usize - 1 } else { 0 }
}

fn between(a: &PhotoRect, b: &PhotoRect, share: f64) -> PhotoRect {
    let mix = |a: f64, b: f64| a + (b - a) * share;
    PhotoRect { x: mix(a.x, b.x), y: mix(a.y, b.y), width: mix(a.width, b.width), height: mix(a.height, b.height) }
}

/// The usual step from one patch of a row to the next; `None` where they lie irregularly.
fn step(rows: &[Vec<usize>], at: &[(f64, f64)]) -> Option<f64> {
    let gaps: Vec<f64> = rows.iter().flat_map(|row| row.windows(2).map(|p| at[p[1]].0 - at[p[0]].0)).collect();
    if gaps.len() < 4 {
        return None;
    }
    let step = median(gaps.clone());
    let regular = gaps.iter().filter(|g| (*g / step - 1.0).abs() < OFF_STEP).count();
    (regular as f64 >= REGULAR * gaps.len() as f64).then_some(step)
}

/// The angle of the rows, from each patch to the nearest one on its right.
fn tilt(middles: &[(f64, f64)], high: f64) -> f64 {
    let angle = |(x, y): &(f64, f64)| {
        let right = middles.iter().map(|m| (m.0 - x, m.1 - y)).filter(|(dx, dy)| *dx > 1.0 && dy.abs() < OFF_ROW * high.max(0.5 * dx));
        right.min_by(|a, b| a.0.hypot(a.1).total_cmp(&b.0.hypot(b.1))).map(|(dx, dy)| dy.atan2(dx))
    };
    let angles: Vec<f64> = middles.iter().filter_map(angle).collect();
    if angles.is_empty() { 0.0 } else { median(angles) }
}

fn mean(of: impl ExactSizeIterator<Item = f64>) -> f64 {
    let n = of.len() as f64;
    of.sum::<f64>() / n
}

fn median(of: Vec<f64>) -> f64 {
    super::light::middle(of)
}

#[cfg(test)]
mod tests {
    use super::*;

    fn cell(column: f64, row: f64, slant: f64) -> PhotoRect {
        PhotoRect { x: 0.1 + 0.15 * column, y: 0.1 + 0.2 * row + slant * column, width: 0.1, height: 0.12 }
    }

    #[test]
    fn patches_are_read_row_by_row_and_a_gap_is_guessed() {
        let mut places: Vec<PhotoRect> = (0..3)
            .flat_map(|r| (0..5).map(move |c| (c, r)))
            .filter(|at| *at != (2, 1))
            .map(|(c, r)| cell(f64::from(c), f64::from(r), 0.015))
            .collect();
        places.reverse();
        let placed = in_rows(&places, (1000, 1000));
        assert_eq!(placed.len(), 15);
        let guessed: Vec<usize> = (0..15).filter(|i| placed[*i].1).collect();
        assert_eq!(guessed, [7], "the third of the second row");
        let wanted = cell(2.0, 1.0, 0.015);
        assert!((placed[7].0.x - wanted.x).abs() < 1e-9 && (placed[7].0.y - wanted.y).abs() < 1e-9);
        assert_eq!(placed[0].0, cell(0.0, 0.0, 0.015));
    }

    #[test]
    fn what_lies_anyhow_gets_no_guesses() {
        let places: Vec<PhotoRect> =
            [(0.0, 0.0), (1.3, 0.1), (4.0, 0.0), (0.4, 2.0), (3.1, 2.2), (4.2, 2.1)].map(|(c, r)| cell(c, r, 0.0)).into();
        assert!(in_rows(&places, (1000, 800)).iter().all(|p| !p.1));
    }
}
