//! Sheets as pages of a PDF in millimetres (ISO 32000-1).

mod font;

use super::FACES;
use flate2::Compression;
use flate2::write::ZlibEncoder;
use font::EmbeddedFont;
use lean_colour::Lab;
use lean_picture::Picture;
use lean_plan::paper::{Item, Sheet};
use moxcms::ColorProfile;
use pdf_writer::writers::ColorSpace;
use pdf_writer::{Content, Filter, Finish, Name, Pdf, Rect, Ref, Str, TextStr};
use std::io::Write;

/// Points in a millimetre.
const POINTS: f64 = 72.0 / 25.4;
/// Names of things in the resources of every page: the colour space, and the regular and the bold face.
const SRGB: Name<'static> = Name(b"sRGB");
const FONTS: [Name<'static>; 2] = [Name(b"Regular"), Name(b"Bold")];
/// Ink of lines and letters, 0..=1 in sRGB.
const INK: [f32; 3] = [16.0 / 255.0; 3];

/// Writes sheets as a PDF, a page each. Colours are declared as sRGB by its profile, not left to the device; text stays text.
///
/// # Errors
/// When the shipped fonts cannot be read, or a page has no size.
pub(crate) fn write(sheets: &[Sheet]) -> Result<Vec<u8>, String> {
    let mut document = Document { pdf: Pdf::new(), next: 1, fonts: Vec::new(), profile: Ref::new(1) };
    let (catalog, pages) = (document.next(), document.next());
    document.profile = document.next();
    let profile = ColorProfile::new_srgb().encode().map_err(|e| format!("the profile of sRGB cannot be written: {e}"))?;
    document.pdf.icc_profile(document.profile, &packed(&profile)).n(3).filter(Filter::FlateDecode);
    for (name, data) in ["InstrumentSans-Regular", "InstrumentSans-Bold"].into_iter().zip(FACES) {
        let font = EmbeddedFont::put(&mut document, name, data)?;
        document.fonts.push(font);
    }
    let kids = sheets.iter().map(|sheet| document.page(sheet, pages)).collect::<Result<Vec<Ref>, String>>()?;
    document.pdf.pages(pages).count(kids.len() as i32).kids(kids);
    document.pdf.catalog(catalog).pages(pages).lang(TextStr("en"));
    let title = sheets.first().map_or("", |s| s.title.as_str());
    let info = document.next();
    document.pdf.document_info(info).title(TextStr(title));
    Ok(document.pdf.finish())
}

/// A PDF that is being written.
struct Document {
    pdf: Pdf,
    /// Number of the next object.
    next: i32,
    /// The regular and the bold face.
    fonts: Vec<EmbeddedFont>,
    /// The profile of sRGB.
    profile: Ref,
}

impl Document {
    fn next(&mut self) -> Ref {
        let next = Ref::new(self.next);
        self.next += 1;
        next
    }

    fn page(&mut self, sheet: &Sheet, pages: Ref) -> Result<Ref, String> {
        if !(sheet.width > 0.0 && sheet.height > 0.0) {
            return Err("the page has no size".into());
        }
        let (page, content) = (self.next(), self.next());
        let mut pictures = Vec::new();
        let mut drawn = Content::new();
        // Millimetres from the top left, downwards.
        drawn.transform([POINTS, 0.0, 0.0, -POINTS, 0.0, sheet.height * POINTS].map(|x| x as f32));
        drawn.set_fill_color_space(SRGB).set_stroke_color_space(SRGB);
        for mark in &sheet.marks {
            if let Item::Picture { picture, .. } = mark {
                let picture = self.picture(picture);
                pictures.push(picture);
            }
            self.draw(&mut drawn, mark, pictures.len());
        }
        self.pdf.stream(content, &packed(&drawn.finish())).filter(Filter::FlateDecode);

        let mut written = self.pdf.page(page);
        written.parent(pages).contents(content);
        written.media_box(Rect::new(0.0, 0.0, (sheet.width * POINTS) as f32, (sheet.height * POINTS) as f32));
        let mut resources = written.resources();
        resources.color_spaces().insert(SRGB).start::<ColorSpace>().icc_based(self.profile);
        resources.fonts().pairs(FONTS.into_iter().zip(self.fonts.iter().map(|f| f.id)));
        let names: Vec<String> = (1..=pictures.len()).map(picture_name).collect();
        resources.x_objects().pairs(names.iter().map(|n| Name(n.as_bytes())).zip(pictures));
        resources.finish();
        written.finish();
        Ok(page)
    }

    fn picture(&mut self, picture: &Picture) -> Ref {
        let id = self.next();
        let data = packed(&picture.rgb);
        let mut image = self.pdf.image_xobject(id, &data);
        image.filter(Filter::FlateDecode);
        image.width(picture.width as i32).height(picture.height as i32).bits_per_component(8);
        image.color_space().icc_based(self.profile);
        image.finish();
        id
    }

    /// Draws a mark; a picture is the one put into the document last, of so many on the page.
    fn draw(&self, to: &mut Content, mark: &Item, pictures: usize) {
        match mark {
            Item::Fill { rect, colour } => {
                let [x, y, w, h] = rect.map(|v| v as f32);
                to.set_fill_color(shown(*colour)).rect(x, y, w, h).fill_even_odd();
            }
            Item::Picture { rect, .. } => {
                let [x, y, w, h] = rect.map(|v| v as f32);
                to.save_state().transform([w, 0.0, 0.0, -h, x, y + h]).x_object(Name(picture_name(pictures).as_bytes())).restore_state();
            }
            Item::Shape { rings, fill, line } => {
                if let Some(colour) = fill {
                    to.set_fill_color(shown(*colour));
                }
                for ring in rings {
                    for (i, (x, y)) in ring.iter().map(|(x, y)| (*x as f32, *y as f32)).enumerate() {
                        if i == 0 {
                            to.move_to(x, y)
                        } else {
                            to.line_to(x, y)
                        };
                    }
                    to.close_path();
                }
                let outlined = *line > 0.0;
                if outlined {
                    to.set_stroke_color(INK).set_line_width(*line as f32);
                }
                match (fill, outlined) {
                    (Some(_), true) => to.fill_even_odd_and_stroke(),
                    (Some(_), false) => to.fill_even_odd(),
                    (None, true) => to.stroke(),
                    (None, false) => to.end_path(),
                };
            }
            Item::Line { ends, width } => {
                let [x0, y0, x1, y1] = ends.map(|v| v as f32);
                to.set_stroke_color(INK).set_line_width(*width as f32).move_to(x0, y0).line_to(x1, y1).stroke();
            }
            Item::Text { x, y, size, bold, text } => {
                let nth = usize::from(*bold);
                to.set_fill_color(INK).begin_text().set_font(FONTS[nth], *size as f32);
                // The page runs downwards, letters stand upright.
                to.set_text_matrix([1.0, 0.0, 0.0, -1.0, *x as f32, *y as f32]).show(Str(&self.fonts[nth].glyphs_of(text))).end_text();
            }
        }
    }
}

fn picture_name(nth: usize) -> String {
    format!("Picture{nth}")
}

fn shown(colour: Lab) -> [f32; 3] {
    let c = colour.xyz().srgb();
    [c.r, c.g, c.b].map(|byte| f32::from(byte) / 255.0)
}

/// Bytes made smaller by zlib.
fn packed(bytes: &[u8]) -> Vec<u8> {
    let mut encoder = ZlibEncoder::new(Vec::with_capacity(bytes.len() / 2), Compression::default());
    // Writing into memory does not fail.
    let _ = encoder.write_all(bytes);
    encoder.finish().unwrap_or_default()
}
