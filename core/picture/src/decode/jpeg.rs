//! Whether a JPEG file has arrived whole. Decoders fill in what is missing with grey and say nothing.

/// Whether the markers of a JPEG file lead to its end (ITU-T T.81, annex B). A file cut off inside its picture does not.
pub(super) fn is_whole(bytes: &[u8]) -> bool {
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

/// True where a JPEG file has bytes enough for the size in its head. Decoders fill up missing rows with one colour and say nothing. In sequential
/// files every block of eight by eight takes two bits at least, one for its mean and one for its end (ITU-T T.81, annex F); progressive ones may
/// skip blocks, and are not judged.
pub(crate) fn is_long_enough(bytes: &[u8]) -> bool {
    const LEAST_BITS: u64 = 2;
    blocks(bytes).is_none_or(|blocks| bytes.len() as u64 * 8 >= blocks * LEAST_BITS)
}

/// Blocks of a sequential JPEG file as its head says; `None` in others.
fn blocks(bytes: &[u8]) -> Option<u64> {
    let mut at = 2;
    while let Some(marker) = next_marker(bytes, &mut at) {
        let length = bytes.get(at..at + 2).map(|l| usize::from(u16::from_be_bytes([l[0], l[1]])))?;
        if matches!(marker, 0xC0 | 0xC1) {
            let head = bytes.get(at..at + length)?;
            let (rows, columns) = (u16::from_be_bytes([head[3], head[4]]), u16::from_be_bytes([head[5], head[6]]));
            let sampled = |part: &[u8]| (u64::from(part[1] >> 4), u64::from(part[1] & 15));
            let parts: Vec<(u64, u64)> = head.get(8..)?.chunks_exact(3).map(sampled).collect();
            let (most_across, most_down) = (parts.iter().map(|p| p.0).max()?.max(1), parts.iter().map(|p| p.1).max()?.max(1));
            let groups = u64::from(columns).div_ceil(8 * most_across) * u64::from(rows).div_ceil(8 * most_down);
            return Some(groups * parts.iter().map(|(across, down)| across * down).sum::<u64>());
        }
        // The picture begins: no head of a sequential file stood before it.
        if marker == 0xDA || matches!(marker, 0xC2 | 0xC9..=0xCB) {
            return None;
        }
        at += length.max(2);
    }
    None
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
    use image::codecs::jpeg::JpegEncoder;
    use image::{ExtendedColorType, ImageEncoder};

    fn jpeg() -> Vec<u8> {
        let mut out = Vec::new();
        let rgb: Vec<u8> = (0..64 * 48 * 3u32).map(|i| (i * 31 % 251) as u8).collect();
        JpegEncoder::new_with_quality(&mut out, 92).encode(&rgb, 64, 48, ExtendedColorType::Rgb8).unwrap();
        out
    }

    fn made_of(rows: u32, colour: impl Fn(usize) -> u8) -> Vec<u8> {
        let mut file = Vec::new();
        let pixels: Vec<u8> = (0..64 * rows as usize * 3).map(colour).collect();
        JpegEncoder::new_with_quality(&mut file, 95).write_image(&pixels, 64, rows, ExtendedColorType::Rgb8).unwrap();
        file
    }

    /// The same file with another number of rows in its head.
    fn saying(mut file: Vec<u8>, rows: u16) -> Vec<u8> {
        let head = file.windows(2).position(|w| w == [0xFF, 0xC0]).unwrap();
        file[head + 5..head + 7].copy_from_slice(&rows.to_be_bytes());
        file
    }

    #[test]
    fn a_head_that_says_much_more_than_there_is_is_found_before_room_is_made_for_it() {
        let striped = made_of(96, |n| (n * 7 % 251) as u8);
        assert!(decode(&striped).is_ok());
        let refused = decode(&saying(striped, 65_000)).unwrap_err();
        assert!(matches!(&refused, Unreadable::Damaged { detail, .. } if detail.contains("its head")), "{refused}");
        assert!(decode(&made_of(4000, |_| 128)).is_ok(), "one colour all over takes few bits");
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
