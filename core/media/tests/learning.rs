//! Learning gives known pigments back, says how sure it is, and does not average away what it cannot explain.

use lean_colour::difference::ciede2000;
use lean_colour::{BANDS, Lab, Reflectance};
use lean_media::amount::Thickness;
use lean_media::layering::State;
use lean_media::learn::{CannotLearn, Drawdown, Evidence, Learned, Reading, Rung, from_coats, from_films, from_tints};
use lean_media::opaque::OIL;
use lean_media::{Paint, Parts, Pigment, film, library};

fn white() -> &'static Pigment {
    library::find("PW6").unwrap()
}

fn coloured() -> impl Iterator<Item = &'static Pigment> {
    library::modelled().iter().filter(|p| !p.white)
}

/// Noise that is the same every time: roughly normal, standard deviation 1.
struct Noise(u32);

impl Noise {
    fn next(&mut self) -> f64 {
        (0..12).map(|_| self.uniform()).sum::<f64>() - 6.0
    }

    fn uniform(&mut self) -> f64 {
        self.0 = self.0.wrapping_mul(1_664_525).wrapping_add(1_013_904_223);
        f64::from(self.0 >> 8) / f64::from(1u32 << 24)
    }
}

fn opaque(of: &[(&Pigment, f64)]) -> Reflectance {
    Paint::mixed(&of.iter().map(|(p, n)| (*p, Parts(*n))).collect::<Vec<_>>()).unwrap().opaque(OIL)
}

fn reading(r: Reflectance, sigma: f64, noise: &mut Noise) -> Reading {
    let seen = Reflectance(r.0.map(|x| (x + sigma * noise.next()).clamp(0.0, 1.0)));
    Reading { of: Evidence::Spectral(seen), state: State::Dry, noise: sigma.max(1e-6) }
}

fn drawdowns(p: &Pigment, fractions: &[f64], sigma: f64, noise: &mut Noise) -> Vec<Drawdown> {
    fractions.iter().map(|c| Drawdown { fraction: *c, reading: reading(opaque(&[(p, *c), (white(), 1.0 - c)]), sigma, noise) }).collect()
}

fn as_pigment(l: &Learned) -> Pigment {
    Pigment { k: l.k.to_vec(), s: l.s.to_vec(), ..library::find("PB29").unwrap().clone() }
}

fn sorted(mut of: Vec<f64>) -> Vec<f64> {
    of.sort_by(f64::total_cmp);
    of
}

#[test]
fn two_exact_drawdowns_give_the_pigment_back() {
    let p = library::find("PB29").unwrap();
    let learned = from_tints(&drawdowns(p, &[1.0, 1.0 / 11.0], 0.0, &mut Noise(1)), white(), OIL).unwrap();
    for i in 0..BANDS {
        assert!((learned.k[i] / p.k[i] - 1.0).abs() < 2e-3, "K of band {i}: {} is not {}", learned.k[i], p.k[i]);
    }
    assert!(!learned.inferred && learned.unexplained.is_empty());
}

#[test]
fn noisy_readings_give_every_pigment_back_within_the_stated_error() {
    let yellow = library::find("PY35").unwrap();
    let (mut tints, mut mixes, mut outside) = (Vec::new(), Vec::new(), 0);
    for (n, p) in coloured().enumerate() {
        let of = drawdowns(p, &[1.0, 0.5, 0.2, 1.0 / 11.0], 0.002, &mut Noise(n as u32 + 7));
        let learned = from_tints(&of, white(), OIL).unwrap();
        assert!(learned.k.iter().chain(&learned.s).all(|x| *x >= 0.0), "{}", p.id);
        assert!(learned.unexplained.is_empty(), "{}: {:?}", p.id, learned.unexplained);
        let again = as_pigment(&learned);
        let off = |of: &dyn Fn(&Pigment) -> Reflectance| ciede2000(of(&again).xyz().lab(), of(p).xyz().lab());
        let tint = off(&|q| opaque(&[(q, 1.0), (white(), 3.0)]));
        outside += usize::from(tint > 3.0 * learned.expected_difference + 0.02);
        tints.push(tint);
        mixes.push(off(&|q| opaque(&[(q, 1.0), (yellow, 2.0)])));
    }
    let (tints, mixes) = (sorted(tints), sorted(mixes));
    assert!(tints[tints.len() / 2] < 0.12 && *tints.last().unwrap() < 1.0, "tints {tints:?}");
    assert!(mixes[mixes.len() / 2] < 0.15 && *mixes.last().unwrap() < 2.0, "mixes {mixes:?}");
    assert!(outside <= 1, "{outside} pigments lie outside three times their stated error");
}

#[test]
fn colours_alone_give_a_usable_inferred_pigment() {
    let mut tints = Vec::new();
    for p in coloured() {
        let of = [1.0, 1.0 / 11.0].map(|c| {
            let lab = opaque(&[(p, c), (white(), 1.0 - c)]).xyz().lab();
            Drawdown { fraction: c, reading: Reading { of: Evidence::ColourOnly(lab), state: State::Dry, noise: 0.004 } }
        });
        let learned = from_tints(&of, white(), OIL).unwrap();
        assert!(learned.inferred);
        let again = as_pigment(&learned);
        let tint = |q: &Pigment| opaque(&[(q, 1.0), (white(), 3.0)]).xyz().lab();
        tints.push(ciede2000(tint(&again), tint(p)));
    }
    let tints = sorted(tints);
    assert!(tints[tints.len() / 2] < 0.8 && tints[tints.len() * 9 / 10] < 2.0, "{tints:?}");
}

#[test]
fn films_over_black_and_white_give_a_transparent_pigment_back() {
    for id in ["PB29", "PY150", "PR83", "PG18", "PBr7-raw-sienna"] {
        let p = library::find(id).unwrap();
        let mut noise = Noise(3);
        let steps: Vec<Rung> = [(0.1, 0.88), (0.3, 0.88), (0.8, 0.88), (0.3, 0.03), (0.8, 0.03)]
            .into_iter()
            .map(|(x, g)| {
                let seen = Reflectance(std::array::from_fn(|i| OIL.outside(film::over(p.k[i], p.s[i], x, g))));
                Rung { film: Thickness(x), ground: Reflectance::flat(g), reading: reading(seen, 0.001, &mut noise) }
            })
            .collect();
        let (out, back) = OIL.both_ways();
        let learned = from_films(&steps, out, back).unwrap();
        assert!(learned.unexplained.is_empty(), "{id}: {:?}", learned.unexplained);
        // A film that was not among the readings.
        let unseen =
            |k: &[f64], s: &[f64]| Reflectance(std::array::from_fn(|i| OIL.outside(film::over(k[i], s[i], 0.5, 0.88)))).xyz().lab();
        let off = ciede2000(unseen(&learned.k, &learned.s), unseen(&p.k, &p.s));
        assert!(off < 0.4, "{id}: {off}");
    }
}

#[test]
fn coats_give_an_ink_back() {
    let ink = library::find("PR122").unwrap();
    let mut noise = Noise(5);
    let veil = |r: f64| 0.025 + 0.975 * r;
    let steps: Vec<Rung> = [1.0, 1.45, 1.6525]
        .into_iter()
        .map(|d| {
            let seen = Reflectance(std::array::from_fn(|i| veil(0.9 * (-2.0 * ink.k[i] * 0.03 * d).exp())));
            Rung { film: Thickness(d), ground: Reflectance::flat(0.9), reading: reading(seen, 0.002, &mut noise) }
        })
        .collect();
    let learned = from_coats(&steps, veil, |r| (r - 0.025) / 0.975).unwrap();
    assert!(learned.s.iter().all(|s| *s == 0.0));
    for i in 0..BANDS {
        let (got, want) = (learned.k[i], ink.k[i] * 0.03);
        assert!((got - want).abs() < 4.0 * learned.k_error[i] + 1e-3, "band {i}: {got} is not {want} ± {}", learned.k_error[i]);
    }
}

#[test]
fn a_reading_that_does_not_fit_is_flagged_and_left_out() {
    let (p, other) = (library::find("PB29").unwrap(), library::find("PR254").unwrap());
    let mut of = drawdowns(p, &[1.0, 0.5, 0.2, 0.1], 0.002, &mut Noise(9));
    of.insert(2, Drawdown { fraction: 0.3, reading: reading(opaque(&[(other, 0.3), (white(), 0.7)]), 0.002, &mut Noise(2)) });
    let learned = from_tints(&of, white(), OIL).unwrap();
    assert_eq!(learned.unexplained, [2]);
    let tint = |q: &Pigment| opaque(&[(q, 1.0), (white(), 3.0)]).xyz().lab();
    assert!(ciede2000(tint(&as_pigment(&learned)), tint(p)) < 0.5, "the stray was not averaged in");
}

#[test]
fn what_cannot_be_learned_from_is_refused_in_words() {
    let p = library::find("PB29").unwrap();
    assert_eq!(from_tints(&[], white(), OIL), Err(CannotLearn::Nothing));
    let mut of = drawdowns(p, &[1.0, 0.2], 0.002, &mut Noise(1));
    of[1].reading.state = State::Wet;
    assert!(from_tints(&of, white(), OIL).unwrap_err().to_string().contains("never judged"));
    of[1] = Drawdown { fraction: 0.0, reading: of[0].reading };
    assert!(from_tints(&of, white(), OIL).unwrap_err().to_string().contains("share of 0"));
    of[1] = Drawdown { fraction: 0.5, reading: Reading { noise: 0.0, ..of[0].reading } };
    assert!(from_tints(&of, white(), OIL).unwrap_err().to_string().contains("noise"));
    let nan = Reading { of: Evidence::Spectral(Reflectance([f64::NAN; BANDS])), ..of[0].reading };
    assert!(from_tints(&[Drawdown { fraction: 1.0, reading: nan }], white(), OIL).unwrap_err().to_string().contains("380 nm"));
    let colour = Reading { of: Evidence::ColourOnly(Lab::new(40.0, 5.0, 5.0)), ..of[0].reading };
    assert!(from_tints(&[Drawdown { fraction: 1.0, reading: colour }], white(), OIL).unwrap().inferred);
}
