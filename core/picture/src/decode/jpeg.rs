//! Whether a JPEG file has arrived whole. Decoders fill in what is missing with grey and say nothing.

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
