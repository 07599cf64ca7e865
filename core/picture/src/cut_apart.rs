//! A photographed sheet of several small drawings, cut apart.

use crate::frame::Crop;
use crate::picture::{Picture, centivalue};

/// Longer side of the copy that is searched, in cells.
const GRID: u32 = 300;
/// How far apart marks of one drawing may be, as a share of the longer side. A choice.
const NEAR: f64 = 0.022;
/// Smallest drawing, as a share of the sheet. A choice.
const SMALLEST: f64 = 0.012;
/// Hundredths of a step by which a mark is darker than the paper. A choice.
const MARK: u16 = 70;

/// Where the drawings on a sheet are, in reading order. Empty when nothing is drawn.
pub fn drawings(sheet: &Picture) -> Vec<Crop> {
    let small = sheet.reduced(GRID);
    let (w, h) = (small.width as usize, small.height as usize);
    let values: Vec<u16> = small.rgb.chunks_exact(3).map(centivalue).collect();
    let paper = tile_paper(&values, w, h);
    let mark: Vec<bool> = values.iter().zip(&paper).map(|(v, p)| v + MARK < *p).collect();
    let near = ((w.max(h) as f64 * NEAR).round() as usize).max(1);
    let mut boxes = boxes(w, h, &mark, near);
    join_overlapping(&mut boxes);
    boxes.retain(|b| (b.2 - b.0) * (b.3 - b.1) >= (SMALLEST * (w * h) as f64) as usize);
    in_reading_order(&mut boxes);
    boxes
        .into_iter()
        .map(|(l, t, r, b)| Crop {
            left: l as f64 / w as f64,
            top: t as f64 / h as f64,
            width: (r - l) as f64 / w as f64,
            height: (b - t) as f64 / h as f64,
        })
        .collect()
}

/// Left, top, right, bottom in cells, the last two excluded.
type Bounds = (usize, usize, usize, usize);

/// Lightness of the paper around every cell: four fifths of the way up in tiles a sixth of the sheet wide.
fn tile_paper(values: &[u16], w: usize, h: usize) -> Vec<u16> {
    let tile = (w.max(h) / 6).max(4);
    let tw = w.div_ceil(tile);
    let tiles: Vec<u16> = (0..tw * h.div_ceil(tile))
        .map(|i| {
            let (tx, ty) = (i % tw, i / tw);
            let mut v: Vec<u16> = (ty * tile..((ty + 1) * tile).min(h))
                .flat_map(|y| (tx * tile..((tx + 1) * tile).min(w)).map(move |x| values[y * w + x]))
                .collect();
            v.sort_unstable();
            v[v.len() * 4 / 5]
        })
        .collect();
    (0..w * h).map(|i| tiles[(i / w / tile) * tw + (i % w) / tile]).collect()
}

/// Bounds of marks that lie near each other.
fn boxes(w: usize, h: usize, mark: &[bool], near: usize) -> Vec<Bounds> {
    let mut seen = vec![false; mark.len()];
    let mut out = Vec::new();
    for start in 0..mark.len() {
        if !mark[start] || seen[start] {
            continue;
        }
        seen[start] = true;
        let mut ahead = vec![start];
        let mut b: Bounds = (w, h, 0, 0);
        while let Some(i) = ahead.pop() {
            let (x, y) = (i % w, i / w);
            b = (b.0.min(x), b.1.min(y), b.2.max(x + 1), b.3.max(y + 1));
            for yy in y.saturating_sub(near)..(y + near + 1).min(h) {
                for xx in x.saturating_sub(near)..(x + near + 1).min(w) {
                    let j = yy * w + xx;
                    if mark[j] && !seen[j] {
                        seen[j] = true;
                        ahead.push(j);
                    }
                }
            }
        }
        out.push(b);
    }
    out
}

fn join_overlapping(boxes: &mut Vec<Bounds>) {
    let overlap = |a: &Bounds, b: &Bounds| a.0 < b.2 && b.0 < a.2 && a.1 < b.3 && b.1 < a.3;
    'again: loop {
        for i in 0..boxes.len() {
            for j in i + 1..boxes.len() {
                if overlap(&boxes[i], &boxes[j]) {
                    let (a, b) = (boxes[i], boxes.remove(j));
                    boxes[i] = (a.0.min(b.0), a.1.min(b.1), a.2.max(b.2), a.3.max(b.3));
                    continue 'again;
                }
            }
        }
        return;
    }
}

/// Rows from the top, each from the left; drawings whose middles lie within each other's height are of one row.
fn in_reading_order(boxes: &mut Vec<Bounds>) {
    boxes.sort_by_key(|b| b.1 + b.3);
    let mut rows: Vec<Vec<Bounds>> = Vec::new();
    for b in boxes.drain(..) {
        let middle = (b.1 + b.3) / 2;
        match rows.last_mut().filter(|r| r.iter().any(|o| o.1 <= middle && middle < o.3)) {
            Some(row) => row.push(b),
            None => rows.push(vec![b]),
        }
    }
    for row in &mut rows {
        row.sort_by_key(|b| b.0);
    }
    boxes.extend(rows.into_iter().flatten());
}

#[cfg(test)]
mod tests {
    use super::*;

    fn sheet(frames: &[(u32, u32, u32, u32)]) -> Picture {
        let (w, h) = (900u32, 600u32);
        let mut rgb = vec![235u8; (w * h * 3) as usize];
        let mut put = |x: u32, y: u32| {
            let i = ((y * w + x) * 3) as usize;
            rgb[i..i + 3].fill(70);
        };
        for (x, y, fw, fh) in frames {
            for t in 0..4 {
                (0..*fw).for_each(|i| [put(x + i, y + t), put(x + i, y + fh - 1 - t)].into_iter().collect());
                (0..*fh).for_each(|i| [put(x + t, y + i), put(x + fw - 1 - t, y + i)].into_iter().collect());
            }
        }
        Picture { width: w, height: h, rgb }
    }

    #[test]
    fn four_drawings_are_found_in_reading_order() {
        let got = drawings(&sheet(&[(520, 60, 300, 200), (60, 40, 300, 200), (70, 340, 280, 210), (510, 350, 300, 200)]));
        assert_eq!(got.len(), 4);
        assert!(got[0].left < got[1].left && got[2].left < got[3].left && got[0].top < got[2].top);
        assert!((got[0].left - 60.0 / 900.0).abs() < 0.01 && (got[0].width - 300.0 / 900.0).abs() < 0.015);
    }

    #[test]
    fn a_blank_sheet_has_none_and_specks_do_not_count() {
        assert!(drawings(&sheet(&[])).is_empty());
        assert_eq!(drawings(&sheet(&[(60, 40, 300, 200), (700, 500, 12, 12)])).len(), 1);
    }
}
