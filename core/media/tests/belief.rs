//! A painter whose pigments differ from their models reads what was laid, and the tool learns: in every medium, from few trials.

use lean_colour::difference::ciede2000;
use lean_colour::{BANDS, Lab, Reflectance};
use lean_media::forms::{self, Form};
use lean_media::ground::{self, Ground};
use lean_media::layering::{Binder, Layer, Layering, State};
use lean_media::learn::{Belief, Evidence, Observation, Reading};
use lean_media::{Medium, Parts, Pigment, PigmentId, library};

/// Random numbers that are the same every time.
struct Chance(u64);

impl Chance {
    fn uniform(&mut self) -> f64 {
        self.0 = self.0.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        (self.0 >> 11) as f64 / (1u64 << 53) as f64
    }

    fn normal(&mut self) -> f64 {
        (0..12).map(|_| self.uniform()).sum::<f64>() - 6.0
    }

    fn one_of<'a, T>(&mut self, all: &'a [T]) -> &'a T {
        &all[(self.uniform() * all.len() as f64) as usize]
    }
}

const OWNED: [&str; 6] = ["PB29", "PY43", "PR101", "PG7", "PY35", "PR122"];

fn models(medium: Medium) -> Vec<Pigment> {
    let all = library::modelled();
    let mut found: Vec<Pigment> = OWNED.iter().filter_map(|id| all.iter().find(|p| p.id.0.starts_with(id)).cloned()).collect();
    assert!(found.len() >= 5, "the library has them");
    if matches!(medium, Medium::Oil | Medium::SoftPastel) {
        found.push(library::find("PW6").unwrap().clone());
    }
    if medium == Medium::Marker {
        return found.into_iter().map(|p| lean_media::pens::inked(p, 0.7)).collect();
    }
    found
}

/// The painter's own pigment: a quarter off its model, as a whole and differently over the spectrum.
fn own(model: &Pigment, chance: &mut Chance) -> Pigment {
    let off = |chance: &mut Chance| {
        let (whole, slope, bow) = (0.2 * chance.normal(), 0.12 * chance.normal(), 0.1 * chance.normal());
        let firm = if model.white { 0.2 } else { 1.0 };
        move |i: usize| {
            let x = 2.0 * i as f64 / (BANDS - 1) as f64 - 1.0;
            (firm * (whole + slope * x + bow * (2.0 * x * x - 1.0))).exp()
        }
    };
    let (k, s) = (off(chance), off(chance));
    Pigment {
        k: model.k.iter().enumerate().map(|(i, n)| n * k(i)).collect(),
        s: model.s.iter().enumerate().map(|(i, n)| n * s(i)).collect(),
        ..model.clone()
    }
}

/// Something a painter lays: a mix in whole parts, or a form of one or two pigments.
fn laid<'a>(medium: Medium, ground: &'a Ground, of: &'a [Pigment], forms: &[Vec<Form>; 2], chance: &mut Chance) -> Layering<'a> {
    let one = chance.one_of(of);
    let two = chance.uniform() < 0.6;
    let other = of.iter().filter(|p| p.id != one.id).nth((chance.uniform() * (of.len() - 1) as f64) as usize).unwrap();
    let layers = match medium {
        Medium::Oil => {
            let white = of.iter().find(|p| p.white).unwrap();
            let tint = chance.uniform() < 0.7;
            let mut parts = vec![(one, Parts((1.0 + 4.0 * chance.uniform()).round()))];
            if two {
                parts.push((other, Parts((1.0 + 4.0 * chance.uniform()).round())));
            }
            if tint && parts.iter().all(|(p, _)| !p.white) {
                parts.push((white, Parts((1.0 + 8.0 * chance.uniform()).round())));
            }
            vec![Layer::Paint { binder: Binder::Oil, of: parts, film: None }]
        }
        _ => {
            let form = *chance.one_of(&forms[usize::from(two)]);
            let both = [one, other];
            form.layering(medium, ground, if two { &both } else { &both[..1] })
        }
    };
    let layers = layers.into_iter().map(|l| l.with(&|id: &PigmentId| of.iter().find(|p| p.id == *id))).collect();
    Layering { ground, layers }
}

fn true_colour(of: &Layering, own: &[Pigment]) -> Reflectance {
    let layers = of.layers.iter().map(|l| l.with(&|id: &PigmentId| own.iter().find(|p| p.id == *id))).collect();
    Layering { ground: of.ground, layers }.lay(State::Dry).expect("the ground takes it").reflectance
}

/// A reading by the meter, or of a photo: a colour only, and noisier.
fn read(of: &Reflectance, by_meter: bool, chance: &mut Chance) -> Reading {
    let noise = if by_meter { 0.003 } else { 0.008 };
    let seen = Reflectance(of.0.map(|x| (x + noise * chance.normal()).clamp(0.0, 1.0)));
    let of = if by_meter { Evidence::Spectral(seen) } else { Evidence::ColourOnly(seen.xyz().lab()) };
    Reading { of, state: State::Dry, noise }
}

fn lab_of(reading: &Reading) -> Lab {
    reading.reflectance().xyz().lab()
}

fn median(mut of: Vec<f64>) -> f64 {
    of.sort_by(f64::total_cmp);
    of[of.len() / 2]
}

struct Painter {
    models: Vec<Pigment>,
    own: Vec<Pigment>,
    ground: Ground,
    forms: [Vec<Form>; 2],
    medium: Medium,
}

impl Painter {
    fn of(medium: Medium, chance: &mut Chance) -> Self {
        let models = models(medium);
        let own = models.iter().map(|p| own(p, chance)).collect();
        let ground = ground::usual(medium);
        let forms = [1, 2].map(|n| forms::list(medium, &ground, n, 3));
        Self { models, own, ground, forms, medium }
    }

    fn lay(&self, chance: &mut Chance) -> Layering<'_> {
        laid(self.medium, &self.ground, &self.models, &self.forms, chance)
    }

    fn belief(&self) -> Belief {
        Belief::of(&self.models.iter().collect::<Vec<_>>())
    }

    /// How far predictions of a belief lie from what this painter would see.
    fn misses(&self, belief: &Belief, of: &[Layering]) -> Vec<f64> {
        let miss = |l: &Layering| ciede2000(belief.laid(l, State::Dry).unwrap().xyz().lab(), true_colour(l, &self.own).xyz().lab());
        of.iter().map(miss).collect()
    }
}

#[test]
fn twenty_trials_halve_what_predictions_miss_in_every_medium() {
    for medium in Medium::ALL {
        let (mut before, mut after) = (Vec::new(), Vec::new());
        for seed in 0..4 {
            let mut chance = Chance(seed * 7919 + 5);
            let painter = Painter::of(medium, &mut chance);
            let unseen: Vec<Layering> = (0..60).map(|_| painter.lay(&mut chance)).collect();
            let seen: Vec<Observation> = (0..20)
                .map(|n| {
                    let laid = painter.lay(&mut chance);
                    let reading = read(&true_colour(&laid, &painter.own), n % 2 == 0, &mut chance);
                    Observation { laid, reading }
                })
                .collect();
            let prior = painter.belief();
            let (belief, strays) = prior.after(&seen).unwrap();
            assert!(strays.len() <= 1, "{medium:?}: sound readings are explained: {strays:?}");
            before.extend(painter.misses(&prior, &unseen));
            after.extend(painter.misses(&belief, &unseen));
            // No pigment gets worse by more than the doubt that is stated of it.
            for p in &painter.models {
                let alone = match medium {
                    Medium::Oil => vec![Layer::Paint { binder: Binder::Oil, of: vec![(p, Parts(1.0))], film: None }],
                    _ => forms::swatch(medium).unwrap().layering(medium, &painter.ground, &[p]),
                };
                let alone = vec![Layering { ground: &painter.ground, layers: alone }];
                let (was, is) = (painter.misses(&prior, &alone)[0], painter.misses(&belief, &alone)[0]);
                let doubt = belief.doubt(&alone[0]);
                assert!(is <= was + doubt, "{medium:?}, {}: {was:.2} became {is:.2} with a doubt of {doubt:.2}", p.id);
                assert!(doubt <= prior.doubt(&alone[0]) * 1.3 + 0.3, "{medium:?}, {}: reading leaves no more doubt than before", p.id);
            }
        }
        let (b, a) = (median(before), median(after));
        println!("{medium:?}: predictions missed by {b:.2} before, {a:.2} after twenty trials");
        assert!(a <= 0.5 * b, "{medium:?}: {b:.2} became {a:.2}");
    }
}

#[test]
fn a_smeared_swatch_is_flagged_and_teaches_nothing() {
    for medium in Medium::ALL {
        let mut chance = Chance(77);
        let painter = Painter::of(medium, &mut chance);
        let mut seen: Vec<Observation> = (0..14)
            .map(|_| {
                let laid = painter.lay(&mut chance);
                let reading = read(&true_colour(&laid, &painter.own), true, &mut chance);
                Observation { laid, reading }
            })
            .collect();
        let clean = painter.belief().after(&seen).unwrap().0;
        // Something else altogether lay under the meter.
        let wrong = if lab_of(&seen[5].reading).l > 50.0 { 0.05 } else { 0.7 };
        seen[5].reading.of = Evidence::Spectral(Reflectance(std::array::from_fn(|i| wrong + 0.003 * i as f64)));
        let (belief, strays) = painter.belief().after(&seen).unwrap();
        assert!(strays.iter().any(|s| s.nth == 5), "{medium:?}: {strays:?}");
        let unseen: Vec<Layering> = (0..30).map(|_| painter.lay(&mut chance)).collect();
        let (with, without) = (median(painter.misses(&belief, &unseen)), median(painter.misses(&clean, &unseen)));
        assert!(with <= without + 0.6, "{medium:?}: {without:.2} became {with:.2}");
    }
}

#[test]
fn of_hundreds_of_readings_the_wrong_ones_are_found_and_the_sound_ones_kept() {
    let (many, every) = (320, 11);
    for medium in [Medium::Oil, Medium::Watercolour] {
        let mut chance = Chance(4201);
        let painter = Painter::of(medium, &mut chance);
        let mut seen: Vec<Observation> = (0..many)
            .map(|n| {
                let laid = painter.lay(&mut chance);
                let reading = read(&true_colour(&laid, &painter.own), n % 2 == 0, &mut chance);
                Observation { laid, reading }
            })
            .collect();
        // Every so many, another swatch lay under the meter than the one that was written down.
        let mut wrong = Vec::new();
        for nth in (0..many).step_by(every) {
            let other = seen[(nth + 1) % many].reading;
            let off = ciede2000(lab_of(&other), lab_of(&seen[nth].reading));
            seen[nth].reading = other;
            if off > 12.0 {
                wrong.push(nth);
            }
        }
        let (_, strays) = painter.belief().after(&seen).unwrap();
        let found = wrong.iter().filter(|w| strays.iter().any(|s| s.nth == **w)).count();
        let sound = strays.iter().filter(|s| s.nth % every != 0).count();
        assert!(wrong.len() > 12, "{medium:?}: the case is one");
        assert_eq!(found, wrong.len(), "{medium:?}: {strays:?}");
        assert!(sound * 50 <= many, "{medium:?}: {sound} sound readings were left out");
    }
}

#[test]
fn a_reading_that_teaches_more_leaves_less_doubt() {
    let white = library::find("PW6").unwrap();
    let blue = library::find("PB29").unwrap();
    let ground = ground::usual(Medium::Oil);
    let paint = |of: Vec<(&'static Pigment, f64)>| Layering {
        ground: &ground,
        layers: vec![Layer::Paint { binder: Binder::Oil, of: of.into_iter().map(|(p, n)| (p, Parts(n))).collect(), film: None }],
    };
    let belief = Belief::of(&[blue, white]);
    let tint = paint(vec![(blue, 1.0), (white, 8.0)]);
    let (mass, red) = (paint(vec![(blue, 1.0)]), paint(vec![(library::find("PR101").unwrap(), 1.0)]));
    let now = belief.doubt(&tint);
    assert!(now > 1.0, "a model is doubted: {now:.2}");
    assert!(belief.doubt_if_read(&tint, 0.003, &tint) < 0.5 * now, "reading the tint itself halves it");
    assert!(belief.doubt_if_read(&mass, 0.003, &tint) > belief.doubt_if_read(&tint, 0.003, &tint));
    assert!((belief.doubt_if_read(&red, 0.003, &tint) - now).abs() < 1e-9, "another pigment teaches nothing of it");
}

#[test]
fn wet_readings_teach_what_is_dry_and_nonsense_is_refused() {
    let mut chance = Chance(3);
    let painter = Painter::of(Medium::Watercolour, &mut chance);
    let seen: Vec<Observation> = (0..16)
        .map(|_| {
            let laid = painter.lay(&mut chance);
            let layers = laid.layers.iter().map(|l| l.with(&|id: &PigmentId| painter.own.iter().find(|p| p.id == *id))).collect();
            let wet = Layering { ground: laid.ground, layers }.lay(State::Wet).unwrap().reflectance;
            Observation { laid, reading: Reading { state: State::Wet, ..read(&wet, true, &mut chance) } }
        })
        .collect();
    let unseen: Vec<Layering> = (0..40).map(|_| painter.lay(&mut chance)).collect();
    let (belief, _) = painter.belief().after(&seen).unwrap();
    let (was, is) = (median(painter.misses(&painter.belief(), &unseen)), median(painter.misses(&belief, &unseen)));
    assert!(is < 0.6 * was, "dry predictions from wet readings: {was:.2} became {is:.2}");
    let mut bad = seen[0].clone();
    bad.reading.of = Evidence::Spectral(Reflectance([f64::NAN; BANDS]));
    assert!(painter.belief().after(&[bad]).unwrap_err().to_string().contains("no reflectance"));
    let lab = Evidence::ColourOnly(Lab::new(40.0, 10.0, 10.0));
    let one = Observation { reading: Reading { of: lab, ..seen[0].reading }, laid: seen[0].laid.clone() };
    assert!(painter.belief().after(&[one]).is_ok(), "one reading is enough to learn something");
}
