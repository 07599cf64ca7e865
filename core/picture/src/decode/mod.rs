//! From a file's bytes to upright sRGB pixels, or a refusal that says what to do.

mod jpeg;
mod tiff;

use crate::picture::Picture;
use image::metadata::Orientation;
use image::{DynamicImage, ExtendedColorType, ImageDecoder, ImageFormat, ImageReader, Limits};
use moxcms::{ColorProfile, DataColorSpace, Layout, TransformOptions};
use rayon::prelude::*;
use std::io::Cursor;
use thiserror::Error;

/// Most pixels a reference may have: 100 megapixels.
pub(crate) const MOST_PIXELS: u64 = 100_000_000;

/// Why a file could not become a reference. Every message says what to do next.
#[derive(Debug, Error, PartialEq, Eq)]
pub enum Unreadable {
    /// Zero bytes.
    #[error("The file is empty (0 bytes). Copy it again from the camera or phone and drop that copy here.")]
    Empty,
    /// Not one of the four formats.
    #[error("This looks like {0}, which cannot be read here. Save or export the picture as JPEG, PNG, WebP or TIFF and drop that file.")]
    Unsupported(String),
    /// Recognised, but broken part-way.
    #[error(
        "This {format} is damaged or cut short ({detail}). Copy it again from where it came from; if it opens elsewhere, save it anew there."
    )]
    Damaged {
        /// Format by the first bytes.
        format: &'static str,
        /// The decoder's own words.
        detail: String,
    },
    /// More than [`MOST_PIXELS`].
    #[error(
        "This picture has {0} × {1} pixels, more than the 100 megapixels that fit. Export it at no more than 10 000 pixels on the long side."
    )]
    TooLarge(u32, u32),
    /// Printing inks instead of light.
    #[error(
        "This picture is stored as printing inks (CMYK), which do not say what colour it should look. Convert it to RGB (sRGB) and drop that file."
    )]
    Inks,
    /// More bytes than [`MOST_ROOM`] while it is opened.
    #[error(
        "To open this picture of {0} megapixels with {1} bits a pixel takes more memory than there is for one. Export it with 8 bits a channel, or at no more than {2} megapixels."
    )]
    TooHeavy(u64, u16, u64),
    /// Several pictures in one file.
    #[error("This TIFF holds {0} pictures or more. Export the one you want to paint as JPEG, PNG or a TIFF of its own and drop that.")]
    Pages(usize),
    /// More than one frame.
    #[error("This is a moving picture. Export the one frame you want to paint as JPEG or PNG and drop that.")]
    Moving,
}

/// Decodes JPEG, PNG, WebP or TIFF by its content (the name does not matter), honours orientation and an embedded colour
/// profile, and lays transparent pixels on white.
///
/// # Errors
/// See [`Unreadable`].
pub fn decode(bytes: &[u8]) -> Result<Picture, Unreadable> {
    let (format, name) = whole(bytes)?;
    let damaged = |e: image::ImageError| Unreadable::Damaged { format: name, detail: e.to_string() };

    let mut decoder = opened(bytes, format, name)?;
    room(&decoder)?;
    let profile = decoder.icc_profile().ok().flatten().and_then(|icc| ColorProfile::new_from_slice(&icc).ok());
    if profile.as_ref().is_some_and(|p| p.color_space == DataColorSpace::Cmyk) {
        return Err(Unreadable::Inks);
    }
    let orientation = decoder.orientation().unwrap_or(Orientation::NoTransforms);
    let mut pixels = DynamicImage::from_decoder(decoder).map_err(damaged)?;
    pixels.apply_orientation(orientation);
    Ok(to_srgb(pixels, profile.as_ref()))
}

/// Most bytes one picture may take while it is opened.
pub const MOST_ROOM: u64 = 640 << 20;

/// Bytes a picture takes while it is opened: what is unpacked, and the copy it is turned or converted into.
///
/// # Errors
/// See [`Unreadable`]; nothing is unpacked.
pub fn room_for(bytes: &[u8]) -> Result<u64, Unreadable> {
    let (format, name) = whole(bytes)?;
    room(&opened(bytes, format, name)?)
}

/// The format of a file that holds one whole picture made of light.
fn whole(bytes: &[u8]) -> Result<(ImageFormat, &'static str), Unreadable> {
    if bytes.is_empty() {
        return Err(Unreadable::Empty);
    }
    let (format, name) = format_of(bytes)?;
    refuse_inks_and_movement(bytes, format)?;
    if format == ImageFormat::Jpeg && !jpeg::is_whole(bytes) {
        return Err(Unreadable::Damaged { format: name, detail: "the file ends before the picture does".into() });
    }
    if format == ImageFormat::Jpeg && !jpeg::is_long_enough(bytes) {
        return Err(Unreadable::Damaged { format: name, detail: "its head says a larger picture than so few bytes can hold".into() });
    }
    Ok((format, name))
}

fn room(decoder: &impl ImageDecoder) -> Result<u64, Unreadable> {
    let (w, h) = decoder.dimensions();
    let pixels = u64::from(w) * u64::from(h);
    if pixels > MOST_PIXELS {
        return Err(Unreadable::TooLarge(w, h));
    }
    if matches!(decoder.original_color_type(), ExtendedColorType::Cmyk8 | ExtendedColorType::Cmyk16) {
        return Err(Unreadable::Inks);
    }
    let each = u64::from(decoder.color_type().bytes_per_pixel());
    // Turned pixels are as large as they were; those laid on white or made eight bits deep are smaller.
    let needed = pixels * 2 * each.max(3);
    if needed > MOST_ROOM {
        let fit = MOST_ROOM / (2 * each.max(3)) / 1_000_000;
        return Err(Unreadable::TooHeavy(pixels / 1_000_000, decoder.color_type().bits_per_pixel(), fit));
    }
    Ok(needed)
}

fn opened(bytes: &[u8], format: ImageFormat, name: &'static str) -> Result<impl ImageDecoder, Unreadable> {
    let mut reader = ImageReader::with_format(Cursor::new(bytes), format);
    let mut limits = Limits::default();
    limits.max_alloc = Some(MOST_PIXELS * 9);
    reader.limits(limits);
    reader.into_decoder().map_err(|e| Unreadable::Damaged { format: name, detail: e.to_string() })
}

fn format_of(bytes: &[u8]) -> Result<(ImageFormat, &'static str), Unreadable> {
    match image::guess_format(bytes) {
        Ok(ImageFormat::Jpeg) => Ok((ImageFormat::Jpeg, "JPEG")),
        Ok(ImageFormat::Png) => Ok((ImageFormat::Png, "PNG")),
        Ok(ImageFormat::WebP) => Ok((ImageFormat::WebP, "WebP")),
        Ok(ImageFormat::Tiff) => Ok((ImageFormat::Tiff, "TIFF")),
        Ok(other) => Err(Unreadable::Unsupported(format!("a {} file", other.to_mime_type().trim_start_matches("image/")))),
        Err(_) => Err(Unreadable::Unsupported(guess(bytes).into())),
    }
}

fn guess(bytes: &[u8]) -> &'static str {
    let head = &bytes[..bytes.len().min(64)];
    if head.get(4..8) == Some(b"ftyp") {
        "a HEIC photo or a film"
    } else if head.starts_with(b"%PDF") {
        "a PDF"
    } else if head.windows(4).any(|w| w == b"<svg") || head.starts_with(b"<?xml") {
        "a vector drawing"
    } else if std::str::from_utf8(head).is_ok() {
        "a text file"
    } else {
        "no picture"
    }
}

fn refuse_inks_and_movement(bytes: &[u8], format: ImageFormat) -> Result<(), Unreadable> {
    match format {
        ImageFormat::Jpeg if jpeg_components(bytes) == Some(4) => Err(Unreadable::Inks),
        ImageFormat::WebP if bytes.get(12..16) == Some(b"VP8X") && bytes.get(20).is_some_and(|f| f & 0x02 != 0) => Err(Unreadable::Moving),
        ImageFormat::Png if png_moves(bytes) => Err(Unreadable::Moving),
        ImageFormat::Tiff if tiff::pages(bytes) > 1 => Err(Unreadable::Pages(tiff::pages(bytes))),
        _ => Ok(()),
    }
}

/// Number of components in the frame header (ITU-T T.81, B.2.2).
fn jpeg_components(bytes: &[u8]) -> Option<u8> {
    let mut at = 2;
    while bytes.get(at) == Some(&0xFF) {
        let marker = *bytes.get(at + 1)?;
        if matches!(marker, 0xC0..=0xCF) && !matches!(marker, 0xC4 | 0xC8 | 0xCC) {
            return bytes.get(at + 9).copied();
        }
        if marker == 0xFF {
            at += 1;
            continue;
        }
        let len = u16::from_be_bytes([*bytes.get(at + 2)?, *bytes.get(at + 3)?]) as usize;
        at += 2 + len;
    }
    None
}

/// An animation control chunk before the image data with more than one frame (PNG, third edition).
fn png_moves(bytes: &[u8]) -> bool {
    let mut at = 8;
    while let (Some(len), Some(kind)) = (bytes.get(at..at + 4), bytes.get(at + 4..at + 8)) {
        let len = u32::from_be_bytes([len[0], len[1], len[2], len[3]]) as usize;
        match kind {
            b"acTL" => return bytes.get(at + 8..at + 12).is_some_and(|n| n != [0, 0, 0, 1]),
            b"IDAT" | b"IEND" => return false,
            _ => at = at.saturating_add(12).saturating_add(len),
        }
    }
    false
}

fn to_srgb(pixels: DynamicImage, profile: Option<&ColorProfile>) -> Picture {
    let (width, height) = (pixels.width(), pixels.height());
    let grey = !pixels.color().has_color();
    let rgb = if pixels.color().has_alpha() { on_white(&pixels.to_rgba8()) } else { pixels.into_rgb8().into_raw() };
    let rgb = match profile {
        Some(p) if p.color_space == DataColorSpace::Rgb && !grey => through_profile(rgb, p, width as usize),
        Some(p) if p.color_space == DataColorSpace::Gray && grey => through_grey_profile(rgb, p),
        _ => rgb,
    };
    Picture { width, height, rgb }
}

fn on_white(rgba: &image::RgbaImage) -> Vec<u8> {
    let over = |c: u8, a: u8| ((u32::from(c) * u32::from(a) + 255 * (255 - u32::from(a)) + 127) / 255) as u8;
    rgba.as_raw().chunks_exact(4).flat_map(|p| [over(p[0], p[3]), over(p[1], p[3]), over(p[2], p[3])]).collect()
}

fn through_profile(mut rgb: Vec<u8>, profile: &ColorProfile, width: usize) -> Vec<u8> {
    let srgb = ColorProfile::new_srgb();
    let Ok(transform) = profile.create_transform_8bit(Layout::Rgb, &srgb, Layout::Rgb, TransformOptions::default()) else {
        return rgb;
    };
    // Row by row, in place but for one row's buffer: a second full-size picture would cost 72 MB at 24 megapixels.
    rgb.par_chunks_exact_mut(width * 3).for_each_init(
        || vec![0u8; width * 3],
        |line, row| {
            line.copy_from_slice(row);
            if transform.transform(line, row).is_err() {
                row.copy_from_slice(line);
            }
        },
    );
    rgb
}

fn through_grey_profile(mut rgb: Vec<u8>, profile: &ColorProfile) -> Vec<u8> {
    let srgb = ColorProfile::new_srgb();
    let Ok(transform) = profile.create_transform_8bit(Layout::Gray, &srgb, Layout::Rgb, TransformOptions::default()) else {
        return rgb;
    };
    let levels: Vec<u8> = (0..=255).collect();
    let mut table = vec![0u8; 256 * 3];
    if transform.transform(&levels, &mut table).is_ok() {
        for px in rgb.chunks_exact_mut(3) {
            let i = px[0] as usize * 3;
            px.copy_from_slice(&table[i..i + 3]);
        }
    }
    rgb
}

#[cfg(test)]
mod tests {
    use super::*;
    use image::ImageEncoder;
    use image::codecs::{jpeg::JpegEncoder, png::PngEncoder, tiff::TiffEncoder, webp::WebPEncoder};

    fn picture() -> Vec<u8> {
        (0..6 * 4).flat_map(|i| [i as u8 * 10, 80, 200 - i as u8 * 5]).collect()
    }

    fn png(rgb: &[u8], w: u32, h: u32) -> Vec<u8> {
        let mut out = Vec::new();
        PngEncoder::new(&mut out).write_image(rgb, w, h, ExtendedColorType::Rgb8).unwrap();
        out
    }

    #[test]
    fn the_four_formats_are_read_by_content() {
        let rgb = picture();
        let mut webp = Vec::new();
        WebPEncoder::new_lossless(&mut webp).write_image(&rgb, 6, 4, ExtendedColorType::Rgb8).unwrap();
        let mut tiff = Cursor::new(Vec::new());
        TiffEncoder::new(&mut tiff).write_image(&rgb, 6, 4, ExtendedColorType::Rgb8).unwrap();
        for file in [png(&rgb, 6, 4), webp, tiff.into_inner()] {
            assert_eq!(decode(&file).unwrap().rgb, rgb);
        }
        let mut jpeg = Vec::new();
        JpegEncoder::new_with_quality(&mut jpeg, 100).write_image(&rgb, 6, 4, ExtendedColorType::Rgb8).unwrap();
        assert_eq!((decode(&jpeg).unwrap().width, decode(&jpeg).unwrap().height), (6, 4));
    }

    #[test]
    fn sixteen_bits_are_read() {
        let deep: Vec<u8> = (0..6 * 4 * 3).flat_map(|i: u16| (i * 800).to_ne_bytes()).collect();
        let mut out = Vec::new();
        PngEncoder::new(&mut out).write_image(&deep, 6, 4, ExtendedColorType::Rgb16).unwrap();
        let p = decode(&out).unwrap();
        assert!((i32::from(p.rgb[71]) - (71 * 800 / 257)).abs() <= 1);
    }

    #[test]
    fn an_embedded_profile_is_honoured() {
        let rgb = [200u8, 60, 40].repeat(4);
        let mut out = Vec::new();
        let mut enc = PngEncoder::new(&mut out);
        enc.set_icc_profile(ColorProfile::new_display_p3().encode().unwrap()).unwrap();
        enc.write_image(&rgb, 2, 2, ExtendedColorType::Rgb8).unwrap();
        let p = decode(&out).unwrap();
        // The same numbers in the wider space are a redder red in sRGB.
        assert!(p.rgb[0] > 210 && p.rgb[1] < 60, "{:?}", &p.rgb[..3]);
    }

    #[test]
    fn orientation_is_honoured() {
        let rgb: Vec<u8> = [[255u8, 0, 0]; 8].into_iter().chain([[0, 0, 255]; 8]).flatten().collect();
        let mut out = Vec::new();
        let mut enc = PngEncoder::new(&mut out);
        // A little-endian EXIF block holding only orientation 6: turn a quarter clockwise.
        let exif = [b"II*\0\x08\0\0\0\x01\0\x12\x01\x03\0\x01\0\0\0\x06\0\0\0".as_slice(), &[0; 4]].concat();
        enc.set_exif_metadata(exif).unwrap();
        enc.write_image(&rgb, 8, 2, ExtendedColorType::Rgb8).unwrap();
        let p = decode(&out).unwrap();
        assert_eq!((p.width, p.height), (2, 8));
        assert_eq!((p.at(1, 0), p.at(0, 0)), ([255, 0, 0], [0, 0, 255]));
    }

    #[test]
    fn transparent_pixels_lie_on_white() {
        let mut out = Vec::new();
        PngEncoder::new(&mut out).write_image(&[0, 0, 0, 0, 10, 20, 30, 255], 2, 1, ExtendedColorType::Rgba8).unwrap();
        assert_eq!(decode(&out).unwrap().rgb, [255, 255, 255, 10, 20, 30]);
    }

    #[test]
    fn bad_files_say_what_to_do() {
        assert_eq!(decode(&[]), Err(Unreadable::Empty));
        assert!(decode(b"just some words").unwrap_err().to_string().contains("text file"));
        assert!(decode(b"GIF89a\x01\0\x01\0").unwrap_err().to_string().contains("gif"));
        assert!(decode(b"\0\0\0\x18ftypheic....").unwrap_err().to_string().contains("HEIC"));
        let whole = png(&picture(), 6, 4);
        assert!(matches!(decode(&whole[..whole.len() / 2]), Err(Unreadable::Damaged { format: "PNG", .. })));
        let mut jpeg = Vec::new();
        JpegEncoder::new(&mut jpeg).write_image(&[90; 3000], 40, 25, ExtendedColorType::Rgb8).unwrap();
        assert!(matches!(decode(&jpeg[..200]), Err(Unreadable::Damaged { .. })));
    }

    #[test]
    fn a_bomb_is_refused_before_it_is_unpacked() {
        let mut bomb = png(&picture(), 6, 4);
        bomb[16..20].copy_from_slice(&60_000u32.to_be_bytes());
        bomb[20..24].copy_from_slice(&60_000u32.to_be_bytes());
        let crc = crc32(&bomb[12..29]);
        bomb[29..33].copy_from_slice(&crc.to_be_bytes());
        assert_eq!(decode(&bomb), Err(Unreadable::TooLarge(60_000, 60_000)));
    }

    #[test]
    fn inks_and_moving_pictures_are_refused() {
        let cmyk = [0xFFu8, 0xD8, 0xFF, 0xC0, 0, 20, 8, 0, 8, 0, 8, 4, 1, 0x11, 0, 2, 0x11, 0, 3, 0x11, 0, 4, 0x11, 0];
        assert_eq!(decode(&cmyk), Err(Unreadable::Inks));
        let still = png(&picture(), 6, 4);
        let mut moving = still[..33].to_vec();
        let body = [b"acTL".as_slice(), &[0, 0, 0, 3, 0, 0, 0, 0]].concat();
        moving.extend(8u32.to_be_bytes());
        moving.extend(&body);
        moving.extend(crc32(&body).to_be_bytes());
        moving.extend(&still[33..]);
        assert_eq!(decode(&moving), Err(Unreadable::Moving));
    }

    fn tiff(width: u32, height: u32) -> Vec<u8> {
        let mut out = Cursor::new(Vec::new());
        TiffEncoder::new(&mut out).write_image(&vec![90; (width * height * 3) as usize], width, height, ExtendedColorType::Rgb8).unwrap();
        out.into_inner()
    }

    /// The same picture as the next page of a TIFF: its directory is written once more, and the first one leads to it.
    fn with_another_page(tiff: &[u8], kind: Option<u32>) -> Vec<u8> {
        let four = |at: usize| u32::from_le_bytes(tiff[at..at + 4].try_into().unwrap()) as usize;
        let (at, entries) = (four(4), usize::from(u16::from_le_bytes(tiff[four(4)..four(4) + 2].try_into().unwrap())));
        let mut both = tiff.to_vec();
        let next = both.len() as u32;
        let link = at + 2 + 12 * entries;
        both[link..link + 4].copy_from_slice(&next.to_le_bytes());
        let mut page: Vec<u8> = tiff[at + 2..link].to_vec();
        let mut count = entries as u16;
        if let Some(kind) = kind {
            let own = [254u16.to_le_bytes().as_slice(), &4u16.to_le_bytes(), &1u32.to_le_bytes(), &kind.to_le_bytes()].concat();
            page = [own, page].concat();
            count += 1;
        }
        both.extend(count.to_le_bytes());
        both.extend(page);
        both.extend(0u32.to_le_bytes());
        both
    }

    #[test]
    fn a_tiff_of_several_pictures_is_refused_and_one_with_a_small_copy_beside_it_is_read() {
        let one = tiff(6, 4);
        assert!(decode(&one).is_ok());
        assert_eq!(decode(&with_another_page(&one, None)), Err(Unreadable::Pages(2)));
        assert!(decode(&with_another_page(&one, Some(1))).is_ok());
    }

    #[test]
    fn inks_in_a_tiff_are_refused() {
        // Photometric interpretation 5, four samples a pixel (TIFF 6.0, section 16).
        let mut out = Cursor::new(Vec::new());
        TiffEncoder::new(&mut out).write_image(&[90; 6 * 4 * 4], 6, 4, ExtendedColorType::Rgba8).unwrap();
        let mut bytes = out.into_inner();
        let at = u32::from_le_bytes(bytes[4..8].try_into().unwrap()) as usize;
        let entries = usize::from(u16::from_le_bytes(bytes[at..at + 2].try_into().unwrap()));
        for n in 0..entries {
            let entry = at + 2 + 12 * n;
            if bytes[entry..entry + 2] == 262u16.to_le_bytes() {
                bytes[entry + 8] = 5;
            }
        }
        assert_eq!(decode(&bytes), Err(Unreadable::Inks));
    }

    #[test]
    fn what_would_fill_the_memory_is_refused_before_it_is_unpacked() {
        let mut out = Vec::new();
        PngEncoder::new(&mut out).write_image(&[0; 6 * 4 * 8], 6, 4, ExtendedColorType::Rgba16).unwrap();
        assert_eq!(room_for(&out), Ok(6 * 4 * 16));
        out[16..20].copy_from_slice(&10_000u32.to_be_bytes());
        out[20..24].copy_from_slice(&9_999u32.to_be_bytes());
        let crc = crc32(&out[12..29]);
        out[29..33].copy_from_slice(&crc.to_be_bytes());
        assert_eq!(decode(&out), Err(Unreadable::TooHeavy(99, 64, 41)));
        assert!(room_for(&out).unwrap_err().to_string().contains("8 bits a channel"));
    }

    /// CRC-32 of the PNG specification, annex D.
    fn crc32(bytes: &[u8]) -> u32 {
        !bytes
            .iter()
            .fold(!0u32, |crc, b| (0..8).fold(crc ^ u32::from(*b), |c, _| if c & 1 == 1 { 0xEDB8_8320 ^ (c >> 1) } else { c >> 1 }))
    }
}
