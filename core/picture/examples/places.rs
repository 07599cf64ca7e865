//! Shows what a picture is cut into: `places PHOTO COLOURS BRUSH OUT.png`.
use lean_picture::places::Survey;
use lean_picture::{decode, readings};
use std::time::Instant;
fn main() {
    let a: Vec<String> = std::env::args().collect();
    let picture = decode(&std::fs::read(&a[1]).unwrap()).unwrap().reduced(1600);
    let t = Instant::now();
    let survey = Survey::of(&picture);
    let t1 = t.elapsed();
    let shades = survey.palette(a[2].parse().unwrap());
    let t = Instant::now();
    let map = survey.lay(&shades, a[3].parse().unwrap(), None);
    let t2 = t.elapsed();
    let read = readings::read(&picture, &map);
    let fills: std::collections::BTreeMap<u16, lean_picture::paint::Fill> =
        read.iter().map(|(z, r)| { let g = lean_picture::places::grading(&picture, &map, &shades, *z); (*z, match g { Some(g) => lean_picture::paint::Fill { lab: g.from, to: Some((g.to, g.direction)) }, None => lean_picture::paint::Fill { lab: r.lab, to: None } }) }).collect();
    let out = lean_picture::paint::paint(&map, &fills, lean_colour::Lab::new(50., 0., 0.), 1);
    image::save_buffer(&a[4], &out.rgb, out.width, out.height, image::ExtendedColorType::Rgb8).unwrap();
    eprintln!("survey {t1:.0?} lay {t2:.0?} zones {} runs {}", map.zones().len(), shades.iter().filter(|s| s.run.is_some()).count());
}
