//! A sheet of swatches as it lies on the table of the simulated studio.

use lean_colour::{Reflectance, screen};
use lean_picture::Picture;
use lean_picture::swatch_sheet::{GREY_CARD, Layout, Rect};

/// Pixels to the millimetre of the painted sheet.
const FINE: f64 = 5.0;
/// Light that plain paper sends back, and the ink of the marks.
const PAPER: f64 = 0.86;
const INK: f64 = 0.025;

/// A sheet with its marks, a grey card in its place, and what was painted in its cells.
pub fn painted_sheet(layout: &Layout, cells: &[Reflectance]) -> Picture {
    let (w, h) = ((layout.size.0 * FINE) as u32, (layout.size.1 * FINE) as u32);
    let grey = |y: f64| [screen::grey_byte(y); 3];
    let mut page = Picture { width: w, height: h, rgb: grey(PAPER).repeat((w * h) as usize) };
    for (middle, side) in layout.marks.iter().map(|m| (m, layout.mark)).chain([(&layout.first, layout.mark / 2.0)]) {
        fill(&mut page, [middle.0 - side / 2.0, middle.1 - side / 2.0, side, side], grey(INK));
    }
    fill(&mut page, layout.grey, grey(GREY_CARD));
    for (rect, seen) in layout.cells.iter().zip(cells) {
        let c = seen.xyz().srgb();
        fill(&mut page, *rect, [c.r, c.g, c.b]);
    }
    page
}

fn fill(page: &mut Picture, [x, y, w, h]: Rect, rgb: [u8; 3]) {
    let span = |from: f64, size: f64, most: u32| ((from * FINE).max(0.0) as u32)..(((from + size) * FINE) as u32).min(most);
    for row in span(y, h, page.height) {
        for column in span(x, w, page.width) {
            let at = ((row * page.width + column) * 3) as usize;
            page.rgb[at..at + 3].copy_from_slice(&rgb);
        }
    }
}
