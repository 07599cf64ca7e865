//! Shows what a picture is cut into: `places PHOTO COLOURS BRUSH OUT.png [masses]`.
use lean_colour::Share;
use lean_picture::paint::{Fill, paint};
use lean_picture::places::Survey;
use lean_picture::{decode, readings};
use std::time::Instant;
fn main() {
    let a: Vec<String> = std::env::args().collect();
    let picture = decode(&std::fs::read(&a[1]).unwrap()).unwrap().reduced(1600);
    let t = Instant::now();
    let survey = Survey::of(&picture);
    let t1 = t.elapsed();
    let (shades, _) = survey.palette(a[2].parse().unwrap());
    let t = Instant::now();
    let map = if a.len() > 5 { survey.masses() } else { survey.lay(&shades, Share(a[3].parse().unwrap())) };
    let t2 = t.elapsed();
    let t = Instant::now();
    let read = readings::read(&picture, &if a.len() > 5 { map.clone() } else { survey.colour_map(&shades) });
    let t3 = t.elapsed();
    let fills: std::collections::BTreeMap<u16, Fill> = read
        .iter()
        .map(|(z, r)| match survey.grading(&map, &shades, *z).filter(|_| a.len() <= 5) {
            Some(g) => (*z, Fill { lab: g.from, to: Some((g.to, g.direction)) }),
            None => (*z, Fill { lab: r.lab, to: None }),
        })
        .collect();
    let out = paint(&map, &fills, lean_colour::Lab::new(50., 0., 0.), 1);
    image::save_buffer(&a[4], &out.rgb, out.width, out.height, image::ExtendedColorType::Rgb8).unwrap();
    if std::env::var("LIST").is_ok() {
        let k = lean_picture::KeptMap::from(map.clone());
        for p in k.geometry().places.iter().filter(|p| p.cells > 1200) {
            println!(
                "{} {:.3} {:.3} {} {:?}",
                p.zone,
                f64::from(p.label_at.0) / f64::from(map.width),
                f64::from(p.label_at.1) / f64::from(map.height),
                p.cells,
                read.get(&p.zone).map(|r| (r.lab.l.round(), r.lab.a.round(), r.lab.b.round()))
            );
        }
    }
    let t = Instant::now();
    let k = lean_picture::KeptMap::from(map);
    let t4 = t.elapsed();
    let n = k.geometry().places.len();
    let path: usize = k.geometry().places.iter().map(|p| p.path.len()).sum();
    eprintln!(
        "survey {t1:.0?} lay {t2:.0?} zones {} places {n} read {t3:.0?} digest {t4:.0?} geometry {:.0?} path {path} packed {}",
        k.geometry().areas.len(),
        t.elapsed() - t4,
        k.packed().unwrap().len()
    );
}
