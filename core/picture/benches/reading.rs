//! From a phone photo's bytes to values and zones at 12 and 24 megapixels.
//!
//! Run `cargo bench --bench reading`. The last line compares value reading by tables with the formula pixel by pixel.

mod made_up;

use lean_colour::{Share, Value, screen};
use lean_picture::places::{MIDDLE, Survey};
use lean_picture::values::ladder;
use lean_picture::{Picture, decode, readings};
use std::time::Instant;

fn main() {
    for (w, h) in [(4000, 3000), (6000, 4000)] {
        let bytes = made_up::jpeg(w, h);
        let start = Instant::now();
        let picture = decode(&bytes).expect("the photo is read");
        let decoded = start.elapsed();
        let l = ladder(&picture, 5);
        let valued = start.elapsed();
        let working = picture.reduced(1600);
        let survey = Survey::of(&working);
        let (shades, _) = survey.palette(10);
        let map = survey.lay(&shades, Share(MIDDLE));
        let read = readings::read(&working, &map);
        println!(
            "{} megapixels: decoded {decoded:.0?}, values {:.0?}, zones {:.0?}, all {:.0?} ({} zones, median value {:.1})",
            w * h / 1_000_000,
            valued - decoded,
            start.elapsed() - valued,
            start.elapsed(),
            read.len(),
            l.median
        );
        let again = Instant::now();
        survey.lay(&shades, Share(1.0 / 80.0));
        println!("  another brush: {:.0?}", again.elapsed());
    }
    ratio();
}

fn ratio() {
    let picture = decode(&made_up::jpeg(1200, 900)).expect("the photo is read");
    let picture = Picture { rgb: picture.rgb.repeat(4), height: picture.height * 4, ..picture };
    let start = Instant::now();
    let quick = picture.centivalues().len();
    let ours = start.elapsed();
    let start = Instant::now();
    let sum: f64 = picture.rgb.chunks_exact(3).map(|p| Value::from_luminance(screen::xyz_of_srgb([p[0], p[1], p[2]]).y).0).sum();
    let plain = start.elapsed();
    println!(
        "values of {quick} pixels: {ours:.0?} against {plain:.0?} by the formula ({:.0} times as fast; mean {:.2})",
        plain.as_secs_f64() / ours.as_secs_f64(),
        sum / quick as f64
    );
}
