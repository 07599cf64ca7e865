//! Files that are broken on purpose: every one is read or refused, none is a crash. Longer under `cargo xtask fuzz`.

use image::codecs::{jpeg::JpegEncoder, png::PngEncoder, tiff::TiffEncoder, webp::WebPEncoder};
use image::{ExtendedColorType, ImageEncoder};
use lean_picture::decode;
use lean_picture::decode::{MOST_ROOM, room_for};
use proptest::prelude::*;
use std::io::Cursor;

const SIDE: u32 = 24;

fn sound(kind: usize) -> Vec<u8> {
    let rgb: Vec<u8> = (0..SIDE * SIDE * 3).map(|i| (i * 37 % 251) as u8).collect();
    let kind_of = ExtendedColorType::Rgb8;
    let mut out = Vec::new();
    match kind {
        0 => PngEncoder::new(&mut out).write_image(&rgb, SIDE, SIDE, kind_of).unwrap(),
        1 => JpegEncoder::new(&mut out).write_image(&rgb, SIDE, SIDE, kind_of).unwrap(),
        2 => WebPEncoder::new_lossless(&mut out).write_image(&rgb, SIDE, SIDE, kind_of).unwrap(),
        _ => {
            let mut tiff = Cursor::new(Vec::new());
            TiffEncoder::new(&mut tiff).write_image(&rgb, SIDE, SIDE, kind_of).unwrap();
            out = tiff.into_inner();
        }
    }
    out
}

/// A place as a share of the file, and what is done there.
#[derive(Clone, Debug)]
enum Break {
    Byte(f64, u8),
    Gone(f64, usize),
    Twice(f64, usize),
    End(f64),
}

fn broken() -> impl Strategy<Value = Break> {
    prop_oneof![
        4 => (0.0..1.0f64, any::<u8>()).prop_map(|(at, b)| Break::Byte(at, b)),
        1 => (0.0..1.0f64, 1usize..40).prop_map(|(at, n)| Break::Gone(at, n)),
        1 => (0.0..1.0f64, 1usize..40).prop_map(|(at, n)| Break::Twice(at, n)),
        1 => (0.0..1.0f64).prop_map(Break::End),
    ]
}

fn done(mut bytes: Vec<u8>, all: &[Break]) -> Vec<u8> {
    for b in all {
        if bytes.is_empty() {
            break;
        }
        let place = |at: f64| ((bytes.len() - 1) as f64 * at) as usize;
        match *b {
            Break::Byte(at, with) => {
                let at = place(at);
                bytes[at] = with;
            }
            Break::Gone(at, n) => {
                let at = place(at);
                bytes.drain(at..(at + n).min(bytes.len()));
            }
            Break::Twice(at, n) => {
                let at = place(at);
                let again: Vec<u8> = bytes[at..(at + n).min(bytes.len())].to_vec();
                bytes.splice(at..at, again);
            }
            Break::End(at) => bytes.truncate(place(at)),
        }
    }
    bytes
}

proptest! {
    #![proptest_config(ProptestConfig { cases: ProptestConfig::default().cases.max(400), ..ProptestConfig::default() })]

    #[test]
    fn a_broken_picture_is_read_or_refused(kind in 0usize..4, breaks in prop::collection::vec(broken(), 1..6)) {
        let bytes = done(sound(kind), &breaks);
        let room = room_for(&bytes);
        prop_assert!(room.as_ref().map_or(true, |r| *r <= MOST_ROOM));
        match decode(&bytes) {
            Ok(p) => prop_assert_eq!(p.rgb.len(), p.width as usize * p.height as usize * 3),
            Err(e) => prop_assert!(e.to_string().len() > 20, "it says what to do: {}", e),
        }
    }

    #[test]
    fn noise_is_no_picture(bytes in prop::collection::vec(any::<u8>(), 0..600)) {
        prop_assert!(decode(&bytes).is_err());
    }
}
