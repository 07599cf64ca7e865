//! Fits the modelled pigments to mixes as well as to single colours, and writes `data/modelled_pigments.json`.
//!
//! `cargo run --release -p lean-media --example refit` starts from `data/before_mixes.json` (each pigment fitted to its own remembered
//! masstone and tint) and changes K and S by smooth factors over the spectrum, as little as will do: a sweep tries each factor a little up
//! and a little down and keeps what lowers the loss, with ever smaller steps. Facts marked `held_out` take no part and judge the result. The
//! same input gives the same output.

use lean_colour::difference::ciede2000;
use lean_colour::{BANDS, Lab, Reflectance};
use lean_media::facts::{Fact, Facts, Find};
use lean_media::opaque::{OIL, masstone};
use serde_json::{Value, json};
use std::collections::BTreeMap;

/// Places along the spectrum where factors are set; between them they run straight.
const KNOTS: usize = 7;
/// Cost of a squared just visible miss of a fact, of a squared CIEDE2000 from a remembered colour, of a squared log-factor, and of
/// a squared bend between neighbouring factors. Choices.
const FACT: f64 = 1.0;
/// The same of the facts that were given first: their brackets are wide, and none may be lost to the narrower ones.
const FIRST_FACT: f64 = 2.5;
const COLOUR: f64 = 0.42;
const KEPT: f64 = 0.5;
const BEND: f64 = 0.8;
/// Facts are fitted with room to spare, in just visible amounts.
const MARGIN: f64 = 1.5;

struct Model {
    id: String,
    k: Vec<f64>,
    s: Vec<f64>,
    masstone: Option<Lab>,
    tint: Option<Lab>,
    factors: [[f64; KNOTS]; 2],
}

/// The pigments as they are now.
struct Now(BTreeMap<String, (Vec<f64>, Vec<f64>)>);

impl Find for Now {
    fn find(&self, id: &str) -> Option<(&[f64], &[f64])> {
        self.0.get(id).map(|(k, s)| (k.as_slice(), s.as_slice()))
    }
}

fn factor(knots: &[f64; KNOTS], band: usize) -> f64 {
    let at = band as f64 / (BANDS - 1) as f64 * (KNOTS - 1) as f64;
    let (n, part) = (at as usize, at.fract());
    let next = knots[(n + 1).min(KNOTS - 1)];
    (knots[n] * (1.0 - part) + next * part).exp()
}

fn spectra(m: &Model) -> (Vec<f64>, Vec<f64>) {
    let bent = |base: &[f64], knots: &[f64; KNOTS]| base.iter().enumerate().map(|(i, x)| x * factor(knots, i)).collect();
    (bent(&m.k, &m.factors[0]), bent(&m.s, &m.factors[1]))
}

fn opaque(k: impl Fn(usize) -> f64, s: impl Fn(usize) -> f64) -> Lab {
    Reflectance(std::array::from_fn(|i| OIL.outside(masstone(k(i), s(i))))).xyz().lab()
}

/// Masstone and 1:10 tint.
fn singles(of: &(Vec<f64>, Vec<f64>), white: &(Vec<f64>, Vec<f64>)) -> (Lab, Lab) {
    let tint = |p: &[f64], w: &[f64], i: usize| (p[i] + 10.0 * w[i]) / 11.0;
    (opaque(|i| of.0[i], |i| of.1[i]), opaque(|i| tint(&of.0, &white.0, i), |i| tint(&of.1, &white.1, i)))
}

fn own_loss(m: &Model, now: &Now) -> f64 {
    let of = &now.0[&m.id];
    let (mass, tint) = singles(of, &now.0["PW6"]);
    let near = |wanted: Option<Lab>, got: Lab| wanted.map_or(0.0, |w| COLOUR * ciede2000(w, got).powi(2));
    let kept: f64 = m.factors.iter().flatten().map(|f| KEPT * f * f).sum();
    let bend: f64 = m.factors.iter().flat_map(|f| f.windows(2)).map(|w| BEND * (w[1] - w[0]).powi(2)).sum();
    near(m.masstone, mass) + near(m.tint, tint) + kept + bend
}

fn fact_loss((fact, weight): (&Fact, f64), now: &Now) -> f64 {
    let misses = fact.misses(now, MARGIN).unwrap_or_else(|e| panic!("{e}"));
    misses.iter().map(|m| weight * (m.by / if m.metric == "h" { 2.0 } else { 1.0 }).min(12.0).powi(2)).sum()
}

fn lab(v: &Value) -> Option<Lab> {
    let n: Vec<f64> = v.as_array()?.iter().filter_map(Value::as_f64).collect();
    Some(Lab::new(*n.first()?, *n.get(1)?, *n.get(2)?))
}

fn numbers(v: &Value) -> Vec<f64> {
    v.as_array().map(|a| a.iter().filter_map(Value::as_f64).collect()).unwrap_or_default()
}

fn report(what: &str, facts: &[&Fact], now: &Now) {
    let failed: Vec<&str> = facts.iter().filter(|f| !f.misses(now, 0.0).unwrap_or_default().is_empty()).map(|f| f.id.as_str()).collect();
    println!("{what}: {} of {} hold {failed:?}", facts.len() - failed.len(), facts.len());
}

fn main() {
    let folder = concat!(env!("CARGO_MANIFEST_DIR"), "/");
    let read = |name: &str| std::fs::read_to_string(format!("{folder}{name}")).unwrap_or_else(|e| panic!("{name}: {e}"));
    let mut file: Value = serde_json::from_str(&read("data/before_mixes.json")).expect("the first models are JSON");
    let facts_of = |name: &str| serde_json::from_str::<Facts>(&read(name)).unwrap_or_else(|e| panic!("{name}: {e}")).facts;
    let first = facts_of("tests/data/mixing_facts.json");
    let own: Vec<Fact> = ["own", "media"].iter().flat_map(|of| facts_of(&format!("tests/data/{of}_facts.json"))).collect();
    let weighed: Vec<(&Fact, f64)> =
        first.iter().map(|f| (f, FIRST_FACT)).chain(own.iter().map(|f| (f, FACT))).filter(|(f, _)| !f.held_out).collect();
    let fitted: Vec<&Fact> = weighed.iter().map(|f| f.0).collect();
    let held: Vec<&Fact> = first.iter().chain(&own).filter(|f| f.held_out).collect();
    let mut models: Vec<Model> = file["pigments"]
        .as_object()
        .expect("pigments by id")
        .iter()
        .map(|(id, p)| Model {
            id: id.clone(),
            k: numbers(&p["K"]),
            s: numbers(&p["S"]),
            masstone: lab(&p["target_masstone_lab"]),
            tint: lab(&p["target_tint_lab"]),
            factors: [[0.0; KNOTS]; 2],
        })
        .collect();
    let mut now = Now(models.iter().map(|m| (m.id.clone(), spectra(m))).collect());
    report("before, fitted", &fitted, &now);
    report("before, held out", &held, &now);

    for step in [0.24, 0.16, 0.1, 0.06, 0.04, 0.02, 0.01] {
        for _ in 0..12 {
            let mut moved = false;
            for m in models.iter_mut().filter(|m| m.id != "PW6") {
                let about: Vec<(&Fact, f64)> = weighed.iter().copied().filter(|(f, _)| f.pigments().any(|p| p == m.id)).collect();
                let loss = |m: &Model, now: &Now| own_loss(m, now) + about.iter().map(|f| fact_loss(*f, now)).sum::<f64>();
                let mut best = loss(m, &now);
                for which in 0..2 {
                    for knot in 0..KNOTS {
                        for by in [step, -step] {
                            m.factors[which][knot] += by;
                            let before = now.0.insert(m.id.clone(), spectra(m));
                            let tried = loss(m, &now);
                            if tried < best - 1e-9 {
                                best = tried;
                                moved = true;
                            } else {
                                m.factors[which][knot] -= by;
                                now.0.insert(m.id.clone(), before.expect("it was there"));
                            }
                        }
                    }
                }
            }
            if !moved {
                break;
            }
        }
    }

    report("after, fitted", &fitted, &now);
    report("after, held out", &held, &now);
    let white = now.0["PW6"].clone();
    let mut off: Vec<(f64, f64)> = Vec::new();
    for m in &models {
        let of = &now.0[&m.id];
        let (mass, tint) = singles(of, &white);
        let entry = &mut file["pigments"][&m.id];
        let rounded = |v: &[f64]| v.iter().map(|x| (x * 1e6).round() / 1e6).collect::<Vec<f64>>();
        let three = |c: Lab| [c.l, c.a, c.b].map(|x| (x * 1e3).round() / 1e3);
        entry["K"] = json!(rounded(&of.0));
        entry["S"] = json!(rounded(&of.1));
        entry["masstone_lab"] = json!(three(mass));
        if let (Some(a), Some(b)) = (m.masstone, m.tint) {
            let fit = (ciede2000(a, mass), ciede2000(b, tint));
            entry["tint_1_10_lab"] = json!(three(tint));
            entry["fit_dE00"] = json!([(fit.0 * 100.0).round() / 100.0, (fit.1 * 100.0).round() / 100.0]);
            off.push(fit);
        }
    }
    let middle = |mut v: Vec<f64>| {
        v.sort_by(f64::total_cmp);
        (v[v.len() / 2], v[v.len() - 1])
    };
    let (mass, tint) = (middle(off.iter().map(|o| o.0).collect()), middle(off.iter().map(|o| o.1).collect()));
    println!(
        "CIEDE2000 from the remembered colours: masstones median {:.2}, most {:.2}; tints median {:.2}, most {:.2}",
        mass.0, mass.1, tint.0, tint.1
    );
    let label = "MODELLED, NOT MEASURED. Parametric spectra shaped from general knowledge, fitted to remembered masstones and tints and to facts about mixes by examples/refit.rs.";
    file["_label"] = json!(label);
    std::fs::write(format!("{folder}data/modelled_pigments.json"), file.to_string() + "\n").expect("the models are written");
}
