use lean_media::{lanes::*, library};
use lean_recipes::cost::quick;
use std::time::Instant;
fn main() {
    let all: Vec<_> = library::modelled().iter().filter(|p| !p.white).map(Spectrum::of).collect();
    let lanes: [Lane; 4] = std::array::from_fn(|p| std::array::from_fn(|i| 1.0 + (p * 3 + i) as f32));
    let mut out = vec![Colours::NONE; 1];
    let n = 20000;
    let t = Instant::now();
    for _ in 0..n {
        colours_of_all([&all[0], &all[10], &all[20], &all[30]], std::hint::black_box(&[lanes]), &mut out);
    }
    println!("colours {:?}", t.elapsed() / n);
    let t = Instant::now();
    let mut g = growth([&all[0], &all[10], &all[20], &all[30]], &lanes);
    for _ in 0..n {
        g = growth([&all[0], &all[10], &all[20], &all[30]], std::hint::black_box(&lanes));
    }
    println!("growth {:?}", t.elapsed() / n);
    let by = [[[0.1f32; 8]; 4]; 7];
    let t = Instant::now();
    let mut s = [0.0; 8];
    for _ in 0..n {
        s = quick::slipped(&out[0], &g, std::hint::black_box(&by));
    }
    println!("slipped 7 {:?} {:?}", t.elapsed() / n, s);
    let c2 = Colours { l: [50.0; 8], a: [3.0; 8], b: [20.0; 8], v: [5.0; 8] };
    let t = Instant::now();
    for _ in 0..n {
        quick::add_squares(&mut s, std::hint::black_box(&out[0]), &c2);
    }
    println!("add_squares {:?} {:?}", t.elapsed() / n, s);
}
