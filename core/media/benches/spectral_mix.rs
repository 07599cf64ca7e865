//! Spectral mixes a second on one core: eight at a time, one at a time, and what the arithmetic of this machine allows, in one run.
//!
//! Run `cargo bench --bench spectral_mix`. The limit is measured, not looked up: two loops hold the processor's divider and its
//! multiply-add units busy with independent numbers in registers. A mix of three pigments and white needs, for every eight mixes and each of
//! 36 bands, one square root and one division (the divider) and 8 multiply-adds for K and S, 5 further operations for the fused
//! formula and 3 multiply-adds for X, Y, Z. The slower of the two is the limit.

mod limits;

use lean_colour::BANDS;
use lean_media::lanes::{Colours, Front, LANES, Lane, Spectrum, colours_of_all};
use lean_media::opaque::OIL;
use lean_media::{Paint, Parts, Pigment, library};
use limits::{operations_a_second, pairs_a_second, rate};
use std::hint::black_box;

/// Arithmetic operations for eight mixes and one band, square root and division not counted.
const OPERATIONS: f64 = 8.0 + 5.0 + 3.0;

fn main() {
    let of: [&Pigment; 4] = ["PB29", "PY35", "PBr7-burnt-sienna", "PW6"].map(|id| library::find(id).expect("it is shipped"));
    let spectra = of.map(Spectrum::of);
    let parts: Vec<[Lane; 4]> = (0..4096u32)
        .map(|n| std::array::from_fn(|p| std::array::from_fn(|lane| 0.5 + ((n as usize * 7 + p * 5 + lane * 3) % 8) as f32)))
        .collect();
    let mut out = vec![Colours { l: [0.0; LANES], a: [0.0; LANES], b: [0.0; LANES], v: [0.0; LANES] }; parts.len()];
    let pigments = [&spectra[0], &spectra[1], &spectra[2], &spectra[3]];
    let many = rate(parts.len() * LANES, || {
        colours_of_all(pigments, black_box(&parts), Front::of(OIL), &mut out);
        black_box(&out);
    });
    let few = 512;
    let one = rate(few, || {
        for n in 0..few {
            let recipe: [(&Pigment, Parts); 4] = std::array::from_fn(|p| (of[p], Parts(f64::from(parts[n][p][0]))));
            let lab = Paint::mixed(&recipe).expect("it is a recipe").opaque(OIL).xyz().lab();
            black_box((lab, lab.value()));
        }
    });
    let (divider, units) = (1.0 / pairs_a_second(), OPERATIONS / operations_a_second());
    let limit = LANES as f64 / (BANDS as f64 * divider.max(units));
    println!("one core, three pigments and white, to Lab and value:");
    println!("  eight at a time  {:>8.2} million mixes a second", many / 1e6);
    println!("  one at a time    {:>8.2} million mixes a second: {:.1} times slower", one / 1e6, many / one);
    println!(
        "  arithmetic limit {:>8.2} million mixes a second ({}): {:.0} % of it reached",
        limit / 1e6,
        if divider > units { "square root and division" } else { "multiply-adds" },
        100.0 * many / limit
    );
}
