//! A sheet as PNG at a stated resolution.

use super::FACES;
use crate::pictures;
use lean_colour::Lab;
use lean_picture::Picture;
use lean_plan::paper::{Item, Sheet};
use tiny_skia::{
    Color, FillRule, FilterQuality, IntSize, Paint, Path, PathBuilder, Pixmap, PixmapPaint, PremultipliedColorU8, Rect, Stroke, Transform,
};
use ttf_parser::{Face, OutlineBuilder};

/// Pixels per inch of an exported PNG.
pub(crate) const PIXELS_PER_INCH: f64 = 200.0;

/// Draws the sheet at [`PIXELS_PER_INCH`]. Its painted pictures lie beneath everything else.
///
/// # Errors
/// When the sheet cannot be drawn; says why.
pub(crate) fn write(sheet: &Sheet) -> Result<Vec<u8>, String> {
    let unread = |e| format!("the shipped fonts cannot be read: {e}");
    let [regular, bold] = FACES.map(|data| Face::parse(data, 0));
    let faces = [regular.map_err(unread)?, bold.map_err(unread)?];
    let scale = PIXELS_PER_INCH / 25.4;
    let (w, h) = ((sheet.width * scale).round() as u32, (sheet.height * scale).round() as u32);
    let mut pixels = Pixmap::new(w, h).ok_or("the sheet has no size")?;
    pixels.fill(Color::WHITE);
    for mark in &sheet.marks {
        if let Item::Picture { rect, picture } = mark {
            lay(&mut pixels, rect.map(|mm| (mm * scale) as f32), picture)?;
        }
    }
    let fit = Transform::from_scale(w as f32 / sheet.width as f32, h as f32 / sheet.height as f32);
    for mark in &sheet.marks {
        draw(&mut pixels, mark, fit, &faces);
    }
    let rgb = pixels.pixels().iter().flat_map(|p: &PremultipliedColorU8| [p.red(), p.green(), p.blue()]).collect();
    pictures::png(&Picture { width: w, height: h, rgb }).map_err(|p| p.detail)
}

/// Lays a picture into a place in pixels.
fn lay(on: &mut Pixmap, [x, y, w, h]: [f32; 4], picture: &Picture) -> Result<(), String> {
    let rgba: Vec<u8> = picture.rgb.chunks_exact(3).flat_map(|p| [p[0], p[1], p[2], 255]).collect();
    let size = IntSize::from_wh(picture.width, picture.height).ok_or("a study has no size")?;
    let picture = Pixmap::from_vec(rgba, size).ok_or("a study cannot be drawn")?;
    let paint = PixmapPaint { quality: FilterQuality::Bilinear, ..PixmapPaint::default() };
    let fit = Transform::from_row(w / size.width() as f32, 0.0, 0.0, h / size.height() as f32, x, y);
    on.draw_pixmap(0, 0, picture.as_ref(), &paint, fit, None);
    Ok(())
}

fn draw(on: &mut Pixmap, mark: &Item, fit: Transform, faces: &[Face; 2]) {
    let ink = ink_of([16; 3]);
    match mark {
        Item::Fill { rect, colour } => {
            let [x, y, w, h] = rect.map(|v| v as f32);
            if let Some(rect) = Rect::from_xywh(x, y, w, h) {
                on.fill_rect(rect, &shown(*colour), fit, None);
            }
        }
        Item::Picture { .. } => {}
        Item::Shape { rings, fill, line } => {
            let mut path = PathBuilder::new();
            for ring in rings {
                for (i, (x, y)) in ring.iter().map(|(x, y)| (*x as f32, *y as f32)).enumerate() {
                    if i == 0 { path.move_to(x, y) } else { path.line_to(x, y) }
                }
                path.close();
            }
            let Some(path) = path.finish() else { return };
            if let Some(colour) = fill {
                on.fill_path(&path, &shown(*colour), FillRule::EvenOdd, fit, None);
            }
            outline(on, &path, *line, fit);
        }
        Item::Line { ends, width } => {
            let [x0, y0, x1, y1] = ends.map(|v| v as f32);
            let mut path = PathBuilder::new();
            path.move_to(x0, y0);
            path.line_to(x1, y1);
            path.finish().iter().for_each(|path| outline(on, path, *width, fit));
        }
        Item::Text { x, y, size, bold, text } => {
            if let Some(path) = letters(&faces[usize::from(*bold)], text) {
                let size = *size as f32 / f32::from(faces[usize::from(*bold)].units_per_em());
                let place = fit.pre_translate(*x as f32, *y as f32).pre_scale(size, -size);
                on.fill_path(&path, &ink, FillRule::Winding, place, None);
            }
        }
    }
}

fn outline(on: &mut Pixmap, path: &Path, width: f64, fit: Transform) {
    if width > 0.0 {
        on.stroke_path(path, &ink_of([16; 3]), &Stroke { width: width as f32, ..Stroke::default() }, fit, None);
    }
}

fn shown(colour: Lab) -> Paint<'static> {
    let c = colour.xyz().srgb();
    ink_of([c.r, c.g, c.b])
}

fn ink_of([r, g, b]: [u8; 3]) -> Paint<'static> {
    let mut paint = Paint::default();
    paint.set_color_rgba8(r, g, b, 255);
    paint
}

/// The outlines of a line of text in units of its font, from nought rightwards and upwards.
fn letters(face: &Face, text: &str) -> Option<Path> {
    let mut line = Letters { path: PathBuilder::new(), from: 0.0 };
    for letter in text.chars() {
        let glyph = face.glyph_index(letter).unwrap_or_default();
        face.outline_glyph(glyph, &mut line);
        line.from += f32::from(face.glyph_hor_advance(glyph).unwrap_or(0));
    }
    line.path.finish()
}

struct Letters {
    path: PathBuilder,
    /// Where the next letter begins.
    from: f32,
}

impl OutlineBuilder for Letters {
    fn move_to(&mut self, x: f32, y: f32) {
        self.path.move_to(self.from + x, y);
    }

    fn line_to(&mut self, x: f32, y: f32) {
        self.path.line_to(self.from + x, y);
    }

    fn quad_to(&mut self, x1: f32, y1: f32, x: f32, y: f32) {
        self.path.quad_to(self.from + x1, y1, self.from + x, y);
    }

    fn curve_to(&mut self, x1: f32, y1: f32, x2: f32, y2: f32, x: f32, y: f32) {
        self.path.cubic_to(self.from + x1, y1, self.from + x2, y2, self.from + x, y);
    }

    fn close(&mut self) {
        self.path.close();
    }
}
