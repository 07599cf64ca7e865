//! A sheet as PNG at a stated resolution.

use super::{FACES, svg};
use lean_picture::Picture;
use lean_plan::paper::{Item, Sheet};
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
    let tree = usvg::Tree::from_str(&svg::document(sheet, ""), &options).map_err(|e| format!("the sheet cannot be drawn: {e}"))?;
    let scale = PIXELS_PER_INCH / 25.4;
    let (w, h) = ((sheet.width * scale).round() as u32, (sheet.height * scale).round() as u32);
    let mut pixels = tiny_skia::Pixmap::new(w, h).ok_or("the sheet has no size")?;
    pixels.fill(tiny_skia::Color::WHITE);
    for mark in &sheet.marks {
        if let Item::Picture { rect, picture } = mark {
            lay(&mut pixels, rect.map(|mm| (mm * scale) as f32), picture)?;
        }
    }
    let fit = tiny_skia::Transform::from_scale(w as f32 / tree.size().width(), h as f32 / tree.size().height());
    resvg::render(&tree, fit, &mut pixels.as_mut());
    pixels.encode_png().map_err(|e| format!("the PNG cannot be written: {e}"))
}

/// Lays a picture into a place in pixels.
fn lay(on: &mut tiny_skia::Pixmap, [x, y, w, h]: [f32; 4], picture: &Picture) -> Result<(), String> {
    let rgba: Vec<u8> = picture.rgb.chunks_exact(3).flat_map(|p| [p[0], p[1], p[2], 255]).collect();
    let size = tiny_skia::IntSize::from_wh(picture.width, picture.height).ok_or("a study has no size")?;
    let picture = tiny_skia::Pixmap::from_vec(rgba, size).ok_or("a study cannot be drawn")?;
    let paint = tiny_skia::PixmapPaint { quality: tiny_skia::FilterQuality::Bilinear, ..tiny_skia::PixmapPaint::default() };
    let fit = tiny_skia::Transform::from_row(w / size.width() as f32, 0.0, 0.0, h / size.height() as f32, x, y);
    on.draw_pixmap(0, 0, picture.as_ref(), &paint, fit, None);
    Ok(())
}
