//! The piece on its wall, as a picture to show.

use lean_colour::Lab;
use lean_picture::Picture;
use lean_picture::projection::{Projection, projection};
use lean_picture::spot::Spot;
use lean_piece::Piece;

/// The photo with the taken candidate (the first while none is taken) hung on it: panels share the picture `shown` between them from left to right;
/// they are bare where there is none.
///
/// # Errors
/// When nothing was measured, or there is no candidate.
pub fn draw(piece: &Piece, photo: &Picture, shown: Option<&Picture>) -> Result<Picture, String> {
    let wall = piece.wall.as_ref().ok_or("There is no photo of the wall yet. Drop one first.")?;
    let candidate = wall.candidates.get(wall.taken.unwrap_or(0)).ok_or("No panel hangs on the wall yet. Add one first.")?;
    let drawn =
        wall.drawn(candidate).ok_or("Nothing was measured on this wall yet. Drag a line along something you know the length of.")?;
    let count = drawn.panels.len() as f64;
    // As fine as the panels are in the photo: finer would only flicker.
    let longest = drawn.panels.iter().flat_map(|c| [side(c[0], c[1], photo), side(c[1], c[2], photo)]).fold(1.0, f64::max);
    let fitted = shown.map(|p| p.reduced((longest * count.max(1.0)).ceil() as u32));
    let mut out = photo.clone();
    let (w, h) = (f64::from(photo.width), f64::from(photo.height));
    for (i, corners) in drawn.panels.iter().enumerate() {
        let quad: Vec<(f64, f64)> = corners.iter().map(|p| (p.x * w, p.y * h)).collect();
        let unit = [(0.0, 0.0), (1.0, 0.0), (1.0, 1.0), (0.0, 1.0)];
        let back = projection(&unit, &quad)?.inverse().ok_or("That panel cannot be seen from here.")?;
        let bounds = |f: fn(&(f64, f64)) -> f64, most: f64| {
            let (lo, hi) = quad.iter().map(f).fold((f64::INFINITY, f64::NEG_INFINITY), |(a, b), v| (a.min(v), b.max(v)));
            (lo.floor().clamp(0.0, most) as u32, hi.ceil().clamp(0.0, most) as u32)
        };
        let ((x0, x1), (y0, y1)) = (bounds(|p| p.0, w), bounds(|p| p.1, h));
        for y in y0..y1 {
            for x in x0..x1 {
                if let Some((u, v)) = inside(&back, f64::from(x) + 0.5, f64::from(y) + 0.5) {
                    let rgb = fitted.as_ref().map_or_else(bare, |p| sample(p, (i as f64 + u) / count, v));
                    let at = ((y * photo.width + x) * 3) as usize;
                    out.rgb[at..at + 3].copy_from_slice(&rgb);
                }
            }
        }
    }
    Ok(out)
}

/// Pixels from one corner to the next.
fn side(a: Spot, b: Spot, photo: &Picture) -> f64 {
    ((a.x - b.x) * f64::from(photo.width)).hypot((a.y - b.y) * f64::from(photo.height))
}

fn inside(back: &Projection, x: f64, y: f64) -> Option<(f64, f64)> {
    let (u, v) = back.at(x, y);
    ((0.0..1.0).contains(&u) && (0.0..1.0).contains(&v)).then_some((u, v))
}

/// A panel nothing is planned on yet: pale grey.
fn bare() -> [u8; 3] {
    let c = Lab::new(88.0, 0.0, 2.0).xyz().srgb();
    [c.r, c.g, c.b]
}

fn sample(p: &Picture, u: f64, v: f64) -> [u8; 3] {
    let at = |share: f64, n: u32| ((share * f64::from(n)) as u32).min(n - 1);
    p.at(at(u, p.width), at(v, p.height))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::planned;
    use crate::staged::{Staged, staged};
    use lean_piece::wall::{Candidate, Measure, Panels, Wall, WallReading};
    use lean_piece::{Millimetres, Size};

    fn hung(measure: Option<Measure>) -> Piece {
        let mut wall = Wall::of("d".into(), "w.jpg".into(), (400, 300), WallReading::default());
        wall.measure = measure;
        let size = Size { width: Millimetres(500.0), height: Millimetres(500.0) };
        wall.candidates = vec![Candidate { panels: Panels::Single, size, gap: Millimetres(0.0), at: Spot { x: 0.5, y: 0.5 } }];
        Piece { wall: Some(wall), ..staged(&[Staged::vt(8.0, 0.0), Staged::vt(2.0, 0.0)]) }
    }

    #[test]
    fn the_plan_hangs_to_scale() {
        let photo = Picture { width: 400, height: 300, rgb: vec![150; 400 * 300 * 3] };
        let line = Measure::Line { from: Spot { x: 0.0, y: 0.5 }, to: Spot { x: 1.0, y: 0.5 }, length: Millimetres(2000.0) };
        let piece = hung(Some(line));
        let plan = planned::draw(&piece, planned::What::Planned);
        let got = draw(&piece, &photo, plan.as_ref()).unwrap();
        // 500 mm are 100 pixels: from 150 to 250 across, 100 to 200 down; light above, dark below.
        assert_eq!(got.at(148, 150), [150; 3]);
        assert!(got.at(152, 110)[0] > 190 && got.at(248, 190)[0] < 60);
        assert_eq!(got.at(200, 202), [150; 3]);
        assert!(draw(&hung(None), &photo, None).unwrap_err().contains("measured"));
    }
}
