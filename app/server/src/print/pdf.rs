//! Sheets as pages of a PDF in millimetres.

use super::FACES;
use krilla::color::rgb;
use krilla::geom::{PathBuilder, Point, Rect, Size, Transform};
use krilla::image::Image;
use krilla::metadata::Metadata;
use krilla::num::NormalizedF32;
use krilla::page::PageSettings;
use krilla::paint::{Fill, FillRule, Stroke};
use krilla::surface::Surface;
use krilla::text::{Font, TextDirection};
use krilla::{Document, SerializeSettings};
use lean_colour::Lab;
use lean_plan::paper::{Item, Sheet};

/// Points in a millimetre.
const POINTS: f32 = 72.0 / 25.4;

/// Writes sheets as a PDF, a page each.
///
/// # Errors
/// When a page cannot be written; says why.
pub fn write(sheets: &[Sheet]) -> Result<Vec<u8>, String> {
    let fonts = FACES.map(|data| Font::new(data.to_vec().into(), 0));
    let [Some(regular), Some(bold)] = fonts else { return Err("the shipped fonts cannot be read".into()) };
    // Colours are declared as sRGB by its profile, not left to the device.
    let mut document = Document::new_with(SerializeSettings { no_device_cs: true, ..SerializeSettings::default() });
    let title = sheets.first().map(|s| s.title.clone()).unwrap_or_default();
    document.set_metadata(Metadata::new().title(title).language("en".into()));
    for sheet in sheets {
        let size = PageSettings::from_wh(sheet.width as f32 * POINTS, sheet.height as f32 * POINTS).ok_or("the page has no size")?;
        let mut page = document.start_page_with(size);
        let mut surface = page.surface();
        surface.push_transform(&Transform::from_scale(POINTS, POINTS));
        for mark in &sheet.marks {
            draw(&mut surface, mark, &regular, &bold);
        }
        surface.pop();
        surface.finish();
        page.finish();
    }
    document.finish().map_err(|e| format!("the PDF cannot be written: {e:?}"))
}

fn fill(colour: Lab) -> Fill {
    let c = colour.xyz().srgb();
    Fill { paint: rgb::Color::new(c.r, c.g, c.b).into(), opacity: NormalizedF32::ONE, rule: FillRule::EvenOdd }
}

fn black() -> Fill {
    Fill { paint: rgb::Color::new(16, 16, 16).into(), opacity: NormalizedF32::ONE, rule: FillRule::NonZero }
}

fn pen(width: f64) -> Stroke {
    Stroke { paint: rgb::Color::new(16, 16, 16).into(), width: width as f32, ..Stroke::default() }
}

fn draw(surface: &mut Surface, mark: &Item, regular: &Font, bold: &Font) {
    surface.set_fill(None);
    surface.set_stroke(None);
    let mut path = PathBuilder::new();
    match mark {
        Item::Fill { rect: [x, y, w, h], colour } => {
            surface.set_fill(Some(fill(*colour)));
            if let Some(r) = Rect::from_xywh(*x as f32, *y as f32, *w as f32, *h as f32) {
                path.push_rect(r);
            }
        }
        Item::Picture { rect: [x, y, w, h], picture } => {
            let rgba = picture.rgb.chunks_exact(3).flat_map(|p| [p[0], p[1], p[2], 255]).collect();
            let image = Image::from_rgba8(rgba, picture.width, picture.height);
            surface.push_transform(&Transform::from_translate(*x as f32, *y as f32));
            if let Some(size) = Size::from_wh(*w as f32, *h as f32) {
                surface.draw_image(image, size);
            }
            surface.pop();
            return;
        }
        Item::Shape { rings, fill: inside, line } => {
            surface.set_fill(inside.map(fill));
            surface.set_stroke((*line > 0.0).then(|| pen(*line)));
            for ring in rings {
                for (i, (x, y)) in ring.iter().enumerate() {
                    if i == 0 { path.move_to(*x as f32, *y as f32) } else { path.line_to(*x as f32, *y as f32) }
                }
                path.close();
            }
        }
        Item::Line { ends: [x0, y0, x1, y1], width } => {
            surface.set_stroke(Some(pen(*width)));
            path.move_to(*x0 as f32, *y0 as f32);
            path.line_to(*x1 as f32, *y1 as f32);
        }
        Item::Text { x, y, size, bold: heavy, text } => {
            surface.set_fill(Some(black()));
            let font = if *heavy { bold } else { regular };
            surface.draw_text(Point::from_xy(*x as f32, *y as f32), font.clone(), *size as f32, text, false, TextDirection::LeftToRight);
            return;
        }
    }
    if let Some(path) = path.finish() {
        surface.draw_path(&path);
    }
}
