//! Lessons of judgements by eye: trials of a simulated painter with an ordinary eye.

use super::paints::{Chance, box_of, oils, own};
use lean_colour::Lab;
use lean_colour::difference::ciede2000;
use lean_colour::temperature::WARM_POLE;
use lean_media::layering::State;
use lean_media::{Medium, Pigment, ground};
use lean_piece::paint_box::{
    Dampness, EyeDoubt, EyeJudgement, MOST_QUARTERS, PaintBox, ReadColour, ReadWith, Swatch, SwatchReading, WetPart,
};
use lean_plan::paints::learned::{learned, predicted, swatches_of};

/// The eye without practice.
const EYE: EyeDoubt = EyeDoubt { value: 1.4, colour: 2.3 };
const TRIALS: usize = 20;

/// A number of the normal distribution.
fn normal(chance: &mut Chance) -> f64 {
    (0..12).map(|_| chance.uniform()).sum::<f64>() - 6.0
}

fn colour(paint_box: &PaintBox, swatch: &Swatch) -> Lab {
    predicted(paint_box, swatch, State::Dry).unwrap().xyz().lab()
}

/// Answers of the eye where `real` lies beside `against`: each difference with the eye's error, to the nearest quarter step.
fn judged(against: Lab, real: Lab, chance: &mut Chance) -> EyeJudgement {
    let quarters = |difference: f64, error: f64, quarter: f64, chance: &mut Chance| {
        let most = f64::from(MOST_QUARTERS);
        ((difference + error * normal(chance)) / quarter).round().clamp(-most, most) as i8
    };
    let along = |angle: f64| (real.a - against.a) * angle.to_radians().cos() + (real.b - against.b) * angle.to_radians().sin();
    let lighter = quarters(real.l - against.l, EYE.value, 2.5, chance);
    let warmer = quarters(along(WARM_POLE), EYE.colour, 3.0, chance);
    let stronger = quarters(along(against.hue().0), EYE.colour, 3.0, chance);
    let turned = quarters(along(against.hue().0 + 90.0), EYE.colour, 3.0, chance);
    EyeJudgement { against, lighter, warmer, stronger, turned, doubt: EYE }
}

fn by_eye(swatch: Swatch, eye: EyeJudgement) -> SwatchReading {
    SwatchReading {
        swatch,
        seen: ReadColour { lab: eye.judged().lab, bands: Vec::new() },
        state: Dampness::Dry,
        sealed: false,
        with: ReadWith::Eye,
        eye: Some(eye),
        played: Some(false),
        at: "2026-03-01T10:00:00Z".into(),
        tried_for: None,
        left_out: false,
        note: String::new(),
    }
}

/// Swatches a painter would try with a few pigments of a Box, in the order of chance.
fn tried(paint_box: &PaintBox, set: &[&Pigment], count: usize, chance: &mut Chance) -> Vec<Swatch> {
    let white = paint_box.pigments.iter().find(|p| p.white);
    let usual = ground::usual(paint_box.medium).id;
    let pick = |chance: &mut Chance| set[(chance.uniform() * set.len() as f64) as usize];
    let part = |p: &Pigment, parts: f64| WetPart { pigment: p.id.clone(), parts };
    (0..count)
        .map(|_| {
            let (one, other) = (pick(chance), pick(chance));
            if paint_box.medium != Medium::Oil {
                let ways = swatches_of(paint_box, one);
                let over = swatches_of(paint_box, other);
                let mut swatch = ways[(chance.uniform() * ways.len() as f64) as usize].1.clone();
                if one.id != other.id && chance.uniform() < 0.5 {
                    swatch.layers.extend(over[0].1.layers.iter().cloned());
                }
                return swatch;
            }
            let mut parts = vec![part(one, 1.0 + (3.0 * chance.uniform()).floor())];
            if one.id != other.id {
                parts.push(part(other, 1.0 + (3.0 * chance.uniform()).floor()));
            }
            parts.extend(white.map(|w| part(w, (8.0 * chance.uniform()).floor())).filter(|w| w.parts > 0.0));
            Swatch { ground: usual.clone(), parts, layers: Vec::new() }
        })
        .collect()
}

/// Mean CIEDE2000 between what two Boxes say of some swatches.
fn apart(a: &PaintBox, b: &PaintBox, swatches: &[Swatch]) -> f64 {
    swatches.iter().map(|s| ciede2000(colour(a, s), colour(b, s))).sum::<f64>() / swatches.len() as f64
}

/// Mean errors of predictions before and after the trials, over some painters whose own pigments are off their models by up to a share.
fn taught(paint_box: &PaintBox, off_by: f64) -> (f64, f64) {
    let set: Vec<&Pigment> = paint_box.pigments.iter().filter(|p| !p.white).take(4).collect();
    const PAINTERS: u64 = 6;
    let (mut before, mut after) = (0.0, 0.0);
    for painter in 0..PAINTERS {
        let mut chance = Chance(31 + 7 * painter);
        let real = own(paint_box, off_by, &mut chance);
        let mut now = paint_box.clone();
        let mut kept = Vec::new();
        for (n, swatch) in tried(paint_box, &set, TRIALS, &mut chance).into_iter().enumerate() {
            // Held against what the Box says by then, as the page shows it.
            let eye = judged(colour(&now, &swatch), colour(&real, &swatch), &mut chance);
            kept.push((n as i64, by_eye(swatch, eye)));
            now = learned(paint_box, &kept).unwrap().paint_box;
        }
        let asked = tried(paint_box, &set, 60, &mut chance);
        before += apart(paint_box, &real, &asked);
        after += apart(&now, &real, &asked);
        for p in &now.pigments {
            let Some(doubt) = p.doubt else { continue };
            let usual = &swatches_of(paint_box, paint_box.find(&p.id).unwrap())[0].1;
            let (was, is, model) = (colour(&real, usual), colour(&now, usual), colour(paint_box, usual));
            let off = |c: Lab| ((c.l - was.l).powi(2) + (c.a - was.a).powi(2) + (c.b - was.b).powi(2)).sqrt();
            assert!(off(is) <= off(model).max(2.0 * doubt), "{}: {:.1} became {:.1}, doubt {doubt:.1}", p.id, off(model), off(is));
        }
    }
    (before / PAINTERS as f64, after / PAINTERS as f64)
}

#[test]
fn twenty_trials_by_eye_halve_the_error_of_predictions_and_make_no_pigment_worse_than_its_doubt() {
    // Sticks cover: twice as far off, they look as far off as paint.
    for (paint_box, off_by) in [(oils(), 0.4), (box_of(lean_demo::pans()), 0.4), (box_of(lean_demo::pastels()), 0.8)] {
        let (before, after) = taught(&paint_box, off_by);
        assert!(after <= 0.5 * before, "{}: {before:.2} became {after:.2}", paint_box.name);
    }
}
