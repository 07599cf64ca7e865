//! A sheet as PNG at a stated resolution.

use super::{FACES, svg};
use lean_plan::studies::sheet::Sheet;
use resvg::{tiny_skia, usvg};
use std::sync::Arc;

/// Pixels per inch of an exported PNG.
pub const PIXELS_PER_INCH: f64 = 200.0;

/// Draws the sheet at [`PIXELS_PER_INCH`].
///
/// # Errors
/// When the sheet cannot be drawn; says why.
pub fn write(sheet: &Sheet) -> Result<Vec<u8>, String> {
    let mut fonts = usvg::fontdb::Database::new();
    for face in FACES {
        fonts.load_font_data(face.to_vec());
    }
    let options = usvg::Options { fontdb: Arc::new(fonts), font_family: "Instrument Sans".into(), ..usvg::Options::default() };
    let tree = usvg::Tree::from_str(&svg::write(sheet), &options).map_err(|e| format!("the sheet cannot be drawn: {e}"))?;
    let scale = PIXELS_PER_INCH / 25.4;
    let (w, h) = ((sheet.width * scale).round() as u32, (sheet.height * scale).round() as u32);
    let mut pixels = tiny_skia::Pixmap::new(w, h).ok_or("the sheet has no size")?;
    let fit = tiny_skia::Transform::from_scale(w as f32 / tree.size().width(), h as f32 / tree.size().height());
    resvg::render(&tree, fit, &mut pixels.as_mut());
    pixels.encode_png().map_err(|e| format!("the PNG cannot be written: {e}"))
}
