//! A TrueType font within a PDF: its file whole, its glyphs by number, and which letters they are (ISO 32000-1, sections 9.7 and 9.10).

use super::{Document, packed};
use pdf_writer::types::{CidFontType, FontFlags, SystemInfo, UnicodeCmap};
use pdf_writer::{Filter, Finish, Name, Rect, Ref, Str};
use std::collections::BTreeMap;
use ttf_parser::Face;

/// Letters are told apart by two bytes, the number of their glyph.
const BY_GLYPH: SystemInfo<'static> = SystemInfo { registry: Str(b"Adobe"), ordering: Str(b"Identity"), supplement: 0 };

/// A font that was put into a document.
pub(crate) struct EmbeddedFont {
    /// The object that text refers to.
    pub id: Ref,
    face: Face<'static>,
}

impl EmbeddedFont {
    /// Puts a font into a document.
    ///
    /// # Errors
    /// When it is no TrueType font.
    pub(super) fn put(document: &mut Document, name: &str, data: &'static [u8]) -> Result<Self, String> {
        let face = Face::parse(data, 0).map_err(|e| format!("the shipped font {name} cannot be read: {e}"))?;
        let [id, glyphs, descriptor, letters, file] = std::array::from_fn(|_| document.next());
        let per_em = 1000.0 / f32::from(face.units_per_em());
        let scaled = |units: i16| f32::from(units) * per_em;

        let mut font = document.pdf.type0_font(id);
        font.base_font(Name(name.as_bytes())).encoding_predefined(Name(b"Identity-H")).descendant_font(glyphs).to_unicode(letters);
        font.finish();

        let mut cid = document.pdf.cid_font(glyphs);
        cid.subtype(CidFontType::Type2).base_font(Name(name.as_bytes())).system_info(BY_GLYPH).font_descriptor(descriptor);
        cid.cid_to_gid_map_predefined(Name(b"Identity"));
        let widths = (0..face.number_of_glyphs()).map(|g| f32::from(face.glyph_hor_advance(ttf_parser::GlyphId(g)).unwrap_or(0)) * per_em);
        cid.widths().consecutive(0, widths);
        cid.finish();

        let bounds = face.global_bounding_box();
        let mut described = document.pdf.font_descriptor(descriptor);
        described.name(Name(name.as_bytes())).flags(FontFlags::SYMBOLIC).italic_angle(0.0).font_file2(file);
        described.bbox(Rect::new(scaled(bounds.x_min), scaled(bounds.y_min), scaled(bounds.x_max), scaled(bounds.y_max)));
        described.ascent(scaled(face.ascender())).descent(scaled(face.descender()));
        described.cap_height(scaled(face.capital_height().unwrap_or(face.ascender()))).stem_v(if face.is_bold() { 140.0 } else { 80.0 });
        described.finish();

        document.pdf.cmap(letters, &letters_of(&face));
        let length = i32::try_from(data.len()).unwrap_or(i32::MAX);
        document.pdf.stream(file, &packed(data)).filter(Filter::FlateDecode).pair(Name(b"Length1"), length);
        Ok(Self { id, face })
    }

    /// The glyphs of a text, two bytes each; what the font has no glyph for is its empty box.
    pub(crate) fn glyphs_of(&self, text: &str) -> Vec<u8> {
        text.chars().flat_map(|c| self.face.glyph_index(c).map_or(0, |g| g.0).to_be_bytes()).collect()
    }
}

/// The table from glyphs to letters, by which text is found and copied.
fn letters_of(face: &Face) -> Vec<u8> {
    let mut of_glyph = BTreeMap::new();
    for table in face.tables().cmap.iter().flat_map(|cmap| cmap.subtables).filter(|t| t.is_unicode()) {
        table.codepoints(|code| {
            if let (Some(letter), Some(glyph)) = (char::from_u32(code), table.glyph_index(code)) {
                of_glyph.entry(glyph.0).or_insert(letter);
            }
        });
    }
    let mut cmap = UnicodeCmap::new(Name(b"Letters"), BY_GLYPH);
    of_glyph.into_iter().for_each(|(glyph, letter)| cmap.pair(glyph, letter));
    cmap.finish().to_vec()
}
