//! Whether a JPEG file has arrived whole. Decoders fill in what is missing with grey and say nothing.

use zune_core::bytestream::ZCursor;
use zune_core::options::DecoderOptions;
use zune_jpeg::JpegDecoder;

/// Whether the markers of a JPEG file lead to its end (ITU-T T.81, annex B). A file cut off inside its picture does not.
pub fn is_whole(bytes: &[u8]) -> bool {
    let mut at = 2;
    while let Some(marker) = next_marker(bytes, &mut at) {
        match marker {
            END => return true,
            // Markers that stand alone: no length follows.
            0x01 | 0xD0..=0xD8 => {}
            _ => {
                let Some(length) = bytes.get(at..at + 2).map(|l| usize::from(u16::from_be_bytes([l[0], l[1]]))) else { return false };
                at += length.max(2);
            }
        }
    }
    false
}

/// Whether a JPEG file holds as many rows as its head says. Decoders fill up what is missing with middle grey and say nothing; `last_row` are the
/// bytes of the last row they gave.
pub fn holds_what_it_says(bytes: &[u8], last_row: &[u8]) -> bool {
    const FILLED_UP: u8 = 128;
    if last_row.iter().any(|b| *b != FILLED_UP) {
        return true;
    }
    // A picture may be grey below: then a decoder that says what is missing is asked.
    let options = DecoderOptions::new_fast().set_strict_mode(true).set_max_width(usize::MAX).set_max_height(usize::MAX);
    JpegDecoder::new_with_options(ZCursor::new(bytes), options).decode().is_ok()
}

/// End of image.
const END: u8 = 0xD9;

/// The next marker from a place on; within a scan, bytes of the picture are passed over.
fn next_marker(bytes: &[u8], at: &mut usize) -> Option<u8> {
    loop {
        *at += bytes.get(*at..)?.iter().position(|b| *b == 0xFF)?;
        // Fill bytes may stand before a marker.
        *at += bytes[*at..].iter().position(|b| *b != 0xFF)?;
        let marker = bytes[*at];
        *at += 1;
        // 0xFF 0x00 is a byte of the picture.
        if marker != 0 {
            return Some(marker);
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::decode::{Unreadable, decode};
    use image::{ExtendedColorType, ImageEncoder};

    fn made_of(rows: u32, colour: impl Fn(usize) -> u8) -> Vec<u8> {
        let mut file = Vec::new();
        let pixels: Vec<u8> = (0..64 * rows as usize * 3).map(colour).collect();
        image::codecs::jpeg::JpegEncoder::new_with_quality(&mut file, 95).write_image(&pixels, 64, rows, ExtendedColorType::Rgb8).unwrap();
        file
    }

    /// The same file with another number of rows in its head.
    fn saying(mut file: Vec<u8>, rows: u16) -> Vec<u8> {
        let head = file.windows(2).position(|w| w == [0xFF, 0xC0]).unwrap();
        file[head + 5..head + 7].copy_from_slice(&rows.to_be_bytes());
        file
    }

    #[test]
    fn a_head_that_says_more_rows_than_there_are_is_found_and_a_grey_picture_is_none() {
        let striped = made_of(96, |n| (n * 7 % 251) as u8);
        assert!(decode(&striped).is_ok());
        for rows in [200, 9000] {
            let refused = decode(&saying(striped.clone(), rows)).unwrap_err();
            assert!(matches!(&refused, Unreadable::Damaged { detail, .. } if detail.contains(&format!("64 × {rows}"))), "{refused}");
        }
        assert!(decode(&made_of(96, |_| 128)).is_ok(), "grey all over");
    }
    use image::codecs::jpeg::JpegEncoder;

    fn jpeg() -> Vec<u8> {
        let mut out = Vec::new();
        let rgb: Vec<u8> = (0..64 * 48 * 3u32).map(|i| (i * 31 % 251) as u8).collect();
        JpegEncoder::new_with_quality(&mut out, 92).encode(&rgb, 64, 48, image::ExtendedColorType::Rgb8).unwrap();
        out
    }

    #[test]
    fn a_whole_file_is_whole_and_every_shorter_one_is_not() {
        let whole = jpeg();
        assert!(is_whole(&whole));
        assert!((3..whole.len()).all(|n| !is_whole(&whole[..n])));
        let padded: Vec<u8> = whole.iter().copied().chain([0; 40]).collect();
        assert!(is_whole(&padded), "what follows the end does not matter");
    }

    #[test]
    fn the_end_of_a_small_picture_inside_is_not_the_end() {
        let (outer, inner) = (jpeg(), jpeg());
        let length = u16::try_from(inner.len() + 2).unwrap();
        let with_thumbnail: Vec<u8> = [&outer[..2], &[0xFF, 0xE1], &length.to_be_bytes(), &inner, &outer[2..]].concat();
        assert!(is_whole(&with_thumbnail));
        assert!(!is_whole(&with_thumbnail[..with_thumbnail.len() - 60]));
    }
}
