//! The models held to worked examples computed independently, to their printed digits.

use lean_colour::{Lab, Reflectance, Share};
use lean_media::amount::Rubbing;
use lean_media::broken::fused;
use lean_media::recipe_text::{Written, layers};
use lean_media::{Choices, Ground, Layering, Pigment, Seen, State, SurfaceOptics, pigment_file};
use std::sync::LazyLock;

/// The pigments the examples were computed with: the models as they were before they were fitted to mixes.
static PIGMENTS: LazyLock<Vec<Pigment>> =
    LazyLock::new(|| pigment_file::read(include_str!("data/example_pigments.json")).expect("the fixture is a pigment file"));

const WASH: Written = Written::Watercolour;
const INK: Written = Written::Marker { into_wet: false };

fn lay(recipe: &str, written: Written, ground: f64, state: State, choices: &Choices) -> Reflectance {
    let ground = Ground::of(Reflectance::flat(ground));
    let layering = Layering { ground: &ground, layers: layers(recipe, written, &PIGMENTS).expect("the recipe is readable") };
    layering.lay_with(state, choices).expect("it can be laid").reflectance
}

/// The choices the examples were computed with: clear layers under a plain veil, without inner reflection.
fn plain(written: Written) -> Choices {
    // Examples give the ground inside the veil of their own medium.
    let paper_veil = match written {
        Written::Pencil => 0.0,
        Written::Pastel { .. } => 0.03,
        _ => 0.025,
    };
    let mut plain = Choices { paper_veil, ..Choices::default() };
    let veil = |k1| SurfaceOptics { k1, k2: 0.0, front: 1.0 };
    (plain.dulling.most, plain.ink.dulling.most) = (0.0, 0.0);
    plain.ink.redissolved = 0.15;
    plain.paper = veil(0.025);
    plain.pencil.surface = veil(0.0);
    (plain.pencil.in_wax, plain.pencil.white_slope, plain.pencil.cover_rate) = (1.0, 0.0, 1.1);
    plain.pastel.surface = veil(0.03);
    (plain.pastel.chalk, plain.pastel.chalk_in_pale, plain.pastel.in_air, plain.pastel.in_air_when_pale) = (0.5, 0.5, 2.0, 2.0);
    plain
}

fn colour(recipe: &str, written: Written, ground: f64) -> Lab {
    lay(recipe, written, ground, State::Dry, &plain(written)).xyz().lab()
}

#[track_caller]
fn is(got: Lab, wanted: [f64; 3]) {
    let off = (got.l - wanted[0]).abs().max((got.a - wanted[1]).abs()).max((got.b - wanted[2]).abs());
    assert!(off < 6e-4, "{got:?} is not {wanted:?}");
}

#[test]
fn opaque_oil() {
    let oil = Written::Oil { film: None };
    is(colour("PB29*1 + PBr7-burnt-umber*1", oil, 0.5), [17.134, 0.094, -0.643]);
    is(colour("PR108*1 + PW6*4", oil, 0.5), [58.050, 48.444, 23.220]);
    is(colour("PB15:3*1 + PY3*6", oil, 0.5), [32.428, -51.899, 7.074]);
}

#[test]
fn washes_dry_and_wet_and_their_order() {
    is(colour("PB29*.05", WASH, 0.88), [81.281, -8.783, -22.735]);
    is(colour("PB29*.15", WASH, 0.88), [63.633, -9.116, -50.542]);
    is(colour("PB29*.45", WASH, 0.88), [44.798, 23.322, -76.225]);
    is(lay("PB29*.15", WASH, 0.88, State::Wet, &plain(WASH)).xyz().lab(), [53.288, -0.617, -58.695]);
    is(colour("PY35*.5 > PB29*.15", WASH, 0.88), [54.013, -29.885, 17.287]);
    is(colour("PB29*.15 > PY35*.5", WASH, 0.88), [70.191, -13.404, 50.264]);
}

#[test]
fn coats_of_marker() {
    for (coats, wanted) in
        [(1, [81.559, 24.877, -15.238]), (2, [76.423, 34.489, -20.001]), (3, [74.355, 38.469, -21.789]), (6, [72.906, 41.289, -22.987])]
    {
        is(colour(&vec!["PR122*.03"; coats].join(" > "), INK, 0.9), wanted);
    }
    is(colour("PB15:3*.03", INK, 0.9), [71.503, -47.501, -39.150]);
    is(colour("PB15:3*.03 > PY74*.1", INK, 0.9), [70.686, -80.070, 6.737]);
    let mut none = plain(INK);
    none.ink.redissolved = 0.0;
    is(lay("PB15:3*.03 > PY74*.1", INK, 0.9, State::Dry, &none).xyz().lab(), [68.976, -80.963, 4.127]);
}

#[test]
fn strokes_of_pencil() {
    is(colour("PR108*.3", Written::Pencil, 0.88), [91.048, 6.127, 3.010]);
    is(colour("PR108*.7", Written::Pencil, 0.88), [80.864, 22.078, 11.208]);
    is(colour("PR108*1", Written::Pencil, 0.88), [73.963, 33.546, 17.694]);
    is(colour("PR108*.5 > PR108*.5 > PR108*.5", Written::Pencil, 0.88), [66.027, 47.131, 26.438]);
}

#[test]
fn pastel_crisp_and_rubbed() {
    let crisp = Written::Pastel { rubbing: Rubbing(0.0) };
    for (mass, wanted) in [(".3", [42.374, 6.029, -21.741]), ("1", [42.469, 14.195, -43.558]), ("3", [42.550, 20.748, -57.946])] {
        is(colour(&format!("PB29*{mass}"), crisp, 0.10), wanted);
    }
    is(colour("PB29*3 > PO20*1", crisp, 0.10), [67.573, 31.215, 13.762]);
    is(colour("PB29*3 > PO20*1", Written::Pastel { rubbing: Rubbing(0.3) }, 0.10), [45.819, 6.362, -26.367]);
}

#[test]
fn broken_colour_is_not_mixed_colour() {
    let oil = |recipe: &str| lay(recipe, Written::Oil { film: None }, 0.5, State::Dry, &Choices::default());
    let dabs = [(Share(0.5), oil("PY35*1 + PW6*1")), (Share(0.5), oil("PB29*1 + PW6*2"))];
    is(fused(&dabs, 1.0).unwrap().xyz().lab(), [66.755, 10.418, 13.676]);
    is(fused(&dabs, 1.8).unwrap().xyz().lab(), [61.665, 5.695, 11.224]);
    is(colour("PY35*3 + PB29*2 + PW6*7", Written::Oil { film: None }, 0.5), [44.367, -17.102, 9.625]);
}

#[test]
fn warm_and_cool_of_tints() {
    for (recipe, t) in
        [("PB29*1 + PW6*10", -31.917), ("PB15:3*1 + PW6*10", -47.451), ("PY3", 62.692), ("PR108", 62.444), ("PR122*1 + PW6*3", 28.780)]
    {
        let seen = Seen::of(&lay(recipe, Written::Oil { film: None }, 0.5, State::Dry, &Choices::default()), lean_colour::Light::Daylight);
        assert!((seen.temperature.0 - t).abs() < 6e-3, "{recipe}: {} is not {t}", seen.temperature.0);
    }
}
