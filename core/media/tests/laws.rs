//! What must hold whatever is mixed or laid.

use lean_colour::{BANDS, Light, Reflectance};
use lean_media::amount::{Dose, Mass, Pressure, Rubbing, Thickness};
use lean_media::layering::{Binder, Layer, Refused};
use lean_media::recipe_text::{Written, layers};
use lean_media::{Choices, Ground, GroundId, Layering, Parts, Pigment, Seen, State, ground, library};
use proptest::prelude::*;

fn pigment(i: usize) -> &'static Pigment {
    &library::modelled()[i % library::modelled().len()]
}

fn named(id: &str) -> &'static Pigment {
    library::find(id).unwrap()
}

fn lay(ground: &Ground, layers: Vec<Layer>, state: State) -> Reflectance {
    Layering { ground, layers }.lay(state).unwrap().reflectance
}

/// Any layer of any medium with a moderate amount.
fn any_layer() -> impl Strategy<Value = Layer<'static>> {
    (0usize..61, 0usize..61, 0.0..1.0f64, 0.0..1.0f64, 0usize..9).prop_map(|(i, j, a, b, kind)| {
        let (p, q) = (pigment(i), pigment(j));
        let parts = vec![(p, Parts(0.1 + a)), (q, Parts(b))];
        match kind {
            0 => Layer::Paint { binder: Binder::Oil, of: parts, film: None },
            1 => Layer::Paint { binder: Binder::Oil, of: parts, film: Some(Thickness(6.0 * b)) },
            2 => Layer::Paint { binder: Binder::Gouache, of: parts, film: Some(Thickness(3.0 * a)) },
            3 => Layer::Paint { binder: Binder::Acrylic, of: parts, film: Some(Thickness(3.0 * a)) },
            4 => Layer::Wash { of: vec![(p, Thickness(0.4 * a)), (q, Thickness(0.2 * b))] },
            5 => Layer::Ink { of: vec![(p, Dose(0.05 * a))], into_wet: b > 0.5 },
            6 => Layer::Pencil { of: p, pressure: Pressure(a) },
            7 => Layer::Pastel { of: parts, mass: Mass(0.8 * b), rubbing: Rubbing(a) },
            _ => Layer::Blender,
        }
    })
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(160))]

    #[test]
    fn light_is_never_made(layers in prop::collection::vec(any_layer(), 0..5), flat in 0.02..0.97f64, wet in any::<bool>()) {
        let g = Ground::of(Reflectance::flat(flat));
        let state = if wet { State::Wet } else { State::Dry };
        if let Ok(laid) = (Layering { ground: &g, layers }).lay(state) {
            prop_assert!(laid.reflectance.0.iter().all(|r| (0.0..=1.0).contains(r)));
            for light in Light::ALL {
                let seen = Seen::of(&laid.reflectance, light);
                prop_assert!((0.0..=10.0 + 1e-9).contains(&seen.value.0));
            }
        }
    }

    #[test]
    fn nothing_laid_changes_nothing(kind in 0usize..4, i in 0usize..61, flat in 0.05..0.95f64) {
        let g = Ground::of(Reflectance::flat(flat));
        let p = pigment(i);
        let nothing = match kind {
            0 => Layer::Wash { of: vec![(p, Thickness(0.0))] },
            1 => Layer::Ink { of: vec![(p, Dose(0.0))], into_wet: false },
            2 => Layer::Pencil { of: p, pressure: Pressure(0.0) },
            _ => Layer::Pastel { of: vec![(p, Parts(1.0))], mass: Mass(0.0), rubbing: Rubbing(0.0) },
        };
        prop_assert_eq!(lay(&g, vec![nothing], State::Dry), lay(&g, vec![], State::Dry));
    }

    #[test]
    fn an_endless_film_is_the_masstone(i in 0usize..61, j in 0usize..61, flat in 0.0..1.0f64) {
        let g = Ground::of(Reflectance::flat(flat));
        let of = vec![(pigment(i), Parts(1.0)), (pigment(j), Parts(2.0))];
        let film = lay(&g, vec![Layer::Paint { binder: Binder::Oil, of: of.clone(), film: Some(Thickness(1e6)) }], State::Dry);
        let opaque = lay(&g, vec![Layer::Paint { binder: Binder::Oil, of, film: None }], State::Dry);
        for b in 0..BANDS { prop_assert!((film.0[b] - opaque.0[b]).abs() < 1e-6); }
    }

    #[test]
    fn two_films_are_one_of_both_thicknesses(i in 0usize..61, x in 0.05..3.0f64, y in 0.05..3.0f64, flat in 0.02..0.95f64) {
        let g = Ground::of(Reflectance::flat(flat));
        let film = |x: f64| Layer::Paint { binder: Binder::Oil, of: vec![(pigment(i), Parts(1.0))], film: Some(Thickness(x)) };
        let (two, one) = (lay(&g, vec![film(x), film(y)], State::Dry), lay(&g, vec![film(x + y)], State::Dry));
        for b in 0..BANDS { prop_assert!((two.0[b] - one.0[b]).abs() < 1e-6); }
    }

    #[test]
    fn order_is_irrelevant_exactly_where_nothing_scatters(i in 0usize..61, j in 0usize..61, a in 0.01..0.1f64, b in 0.01..0.1f64) {
        prop_assume!(i != j);
        let g = Ground::of(Reflectance::flat(0.9));
        let mut choices = Choices::default();
        choices.ink.redissolved = 0.0;
        let ink = |p: usize, d: f64| Layer::Ink { of: vec![(pigment(p), Dose(d))], into_wet: false };
        let order = |layers| Layering { ground: &g, layers }.lay_with(State::Dry, &choices).unwrap().reflectance;
        let (one, other) = (order(vec![ink(i, a), ink(j, b)]), order(vec![ink(j, b), ink(i, a)]));
        for n in 0..BANDS { prop_assert!((one.0[n] - other.0[n]).abs() < 1e-12); }
    }

    #[test]
    fn marker_never_lightens_below_what_it_covers(i in 0usize..61, j in 0usize..61, a in 0.01..0.1f64, b in 0.0..0.2f64) {
        let g = Ground::of(Reflectance::flat(0.9));
        let ink = |p: usize, d: f64| Layer::Ink { of: vec![(pigment(p), Dose(d))], into_wet: false };
        let bare = lay(&g, vec![], State::Dry);
        let laid = lay(&g, vec![ink(i, a), ink(j, b)], State::Dry);
        for n in 0..BANDS { prop_assert!(laid.0[n] <= bare.0[n] + 1e-12); }
    }

    #[test]
    fn the_tooth_never_takes_more_than_it_holds(masses in prop::collection::vec(0.1..3.0f64, 1..8), i in 0usize..61) {
        // Over black, the more white chalk the lighter: what lies there can never beat the whole capacity laid at once.
        let g = Ground { pastel_mass: 2.0, ..Ground::of(Reflectance::flat(0.03)) };
        let stroke = |m: f64| Layer::Pastel { of: vec![(pigment(i), Parts(1.0))], mass: Mass(m), rubbing: Rubbing(0.0) };
        // Strokes on themselves also press the dust's surface together, which is not asked here.
        let mut choices = Choices::default();
        choices.pastel.pressed_veil = 1.0;
        let all = Layering { ground: &g, layers: masses.iter().map(|m| stroke(*m)).collect() }.lay_with(State::Dry, &choices);
        let full = lay(&g, vec![stroke(2.0)], State::Dry);
        match all {
            Ok(laid) => {
                let bare = lay(&g, vec![stroke(1e-9)], State::Dry);
                for n in 0..BANDS {
                    let moved = |r: &Reflectance| (r.0[n] - bare.0[n]).abs();
                    prop_assert!(moved(&laid.reflectance) <= moved(&full) + 1e-6, "{} against {}", moved(&laid.reflectance), moved(&full));
                }
            }
            Err(Refused::ToothFull { after, .. }) => prop_assert!(masses[..after].iter().sum::<f64>() >= 2.0 - 1e-6),
            Err(other) => prop_assert!(false, "{}", other),
        }
    }
}

#[test]
fn washes_dry_lighter_and_opaque_lights_dry_darker_and_greyer() {
    let paper = ground::find(&GroundId("hot-pressed".into())).unwrap();
    let both = |layers: Vec<Layer>| {
        let seen = |state| lay(&paper, layers.clone(), state).xyz().lab();
        (seen(State::Wet), seen(State::Dry))
    };
    for id in ["PB29", "PV19-rose", "PBr7-burnt-sienna", "PY150", "PG7"] {
        let (wet, dry) = both(vec![Layer::Wash { of: vec![(named(id), Thickness(0.12))] }]);
        assert!(dry.l > wet.l + 2.0, "{id}: {wet:?} {dry:?}");
    }
    for id in ["PB29", "PR108", "PG17"] {
        let of = vec![(named(id), Parts(1.0)), (named("PW6"), Parts(12.0))];
        let (wet, dry) = both(vec![Layer::Paint { binder: Binder::Gouache, of, film: None }]);
        assert!(dry.l < wet.l && dry.chroma() < wet.chroma(), "{id}: {wet:?} {dry:?}");
        let wash = vec![(named(id), Thickness(0.3)), (named("PW6"), Thickness(6.0))];
        let (wet, dry) = both(vec![Layer::Wash { of: wash }]);
        assert!(dry.l < wet.l && dry.chroma() < wet.chroma(), "{id} with white in the wash: {wet:?} {dry:?}");
        // White at the thickness it is usually touched in with.
        let (wet, dry) = both(vec![Layer::Wash { of: vec![(named(id), Thickness(0.1)), (named("PW6"), Thickness(1.0))] }]);
        assert!(dry.l < wet.l, "{id} with a little white in the wash: {wet:?} {dry:?}");
    }
    let (wet, dry) = both(vec![Layer::Paint { binder: Binder::Gouache, of: vec![(named("PBk7"), Parts(1.0))], film: None }]);
    assert!(dry.l > wet.l, "darks dry lighter: {wet:?} {dry:?}");
    let acrylic = vec![(named("PB29"), Parts(1.0)), (named("PW6"), Parts(1.0))];
    let (wet, dry) = both(vec![Layer::Paint { binder: Binder::Acrylic, of: acrylic, film: None }]);
    assert!(dry.l < wet.l && wet.l - dry.l < 5.0, "acrylic goes down a little: {wet:?} {dry:?}");
}

#[test]
fn granulation_lightens_a_wash_on_rough_paper_and_lifting_spares_stainers() {
    let find = |id: &str| ground::find(&GroundId(id.into())).unwrap();
    let as_white = |g: Ground| Ground { inside: Reflectance::flat(0.88), ..g };
    let (rough, smooth) = (as_white(find("rough-cotton")), as_white(find("hot-pressed")));
    let wash = |id: &str| vec![Layer::Wash { of: vec![(named(id), Thickness(0.2))] }];
    let lightness = |g: &Ground, layers| lay(g, layers, State::Dry).xyz().lab().l;
    assert!(lightness(&rough, wash("PB29")) > lightness(&smooth, wash("PB29")) + 0.5);
    let gain = |id: &str| {
        let mut lifted = wash(id);
        lifted.push(Layer::Lifting);
        lightness(&smooth, lifted) - lightness(&smooth, wash(id))
    };
    assert!(gain("PB29") > 3.0 * gain("PB15:3"), "ultramarine lifts, phthalo stays");
}

#[test]
fn a_light_marker_over_a_dark_one_hardly_lightens_and_a_blender_only_thins() {
    let paper = ground::find(&GroundId("marker-white".into())).unwrap();
    let ink = |id: &str, d: f64| Layer::Ink { of: vec![(named(id), Dose(d))], into_wet: false };
    let l = |layers| lay(&paper, layers, State::Dry).xyz().lab().l;
    let dark = l(vec![ink("PB60", 0.08)]);
    let over = l(vec![ink("PB60", 0.08), ink("PY3", 0.03)]);
    assert!((over - dark).abs() < 8.0, "{dark} {over}");
    let blended = l(vec![ink("PB60", 0.08), Layer::Blender]);
    assert!(blended > dark && blended < l(vec![]));
    let dark_over = l(vec![ink("PY3", 0.03), ink("PB60", 0.08)]);
    assert!(dark_over < over, "the same two pens in another order give another colour");
}

#[test]
fn media_are_mixed_in_one_piece() {
    let paper = ground::find(&GroundId("cold-pressed".into())).unwrap();
    let wash = Layer::Wash { of: vec![(named("PB29"), Thickness(0.4))] };
    let white = Layer::Paint { binder: Binder::Gouache, of: vec![(named("PW6"), Parts(1.0))], film: Some(Thickness(4.0)) };
    let pencil = Layer::Pencil { of: named("PR108"), pressure: Pressure(0.8) };
    let l = |layers: Vec<Layer>| lay(&paper, layers, State::Dry).xyz().lab();
    let dark = l(vec![wash.clone()]);
    assert!(l(vec![wash.clone(), white]).l > dark.l + 25.0, "opaque white covers a wash");
    let red = l(vec![wash, pencil.clone()]);
    assert!(red.a - dark.a > 3.0 || red.b - dark.b > 8.0, "pencil shows on a wash: {dark:?} {red:?}");
    let marker = Layer::Ink { of: vec![(named("PY3"), Dose(0.08))], into_wet: false };
    assert_eq!((marker.medium(), pencil.medium()), ("marker", "pencil"));
    assert!(l(vec![marker, pencil]).a > 5.0, "pencil over marker");
}

#[test]
fn a_pencil_laid_again_on_top_stays_on_top() {
    let paper = ground::find(&GroundId("drawing-white".into())).unwrap();
    let stroke = |id: &str| Layer::Pencil { of: named(id), pressure: Pressure(0.9) };
    let l = |ids: [&str; 3]| lay(&paper, ids.map(stroke).to_vec(), State::Dry).xyz().lab().l;
    assert!(l(["PBk7", "PBk7", "PW6"]) > l(["PBk7", "PW6", "PBk7"]) + 1.0);
    let eleven: Vec<Layer> = (0..11).map(|i| Layer::Pencil { of: named(["PR108", "PB35"][i % 2]), pressure: Pressure(0.1) }).collect();
    let any = Ground::of(Reflectance::flat(0.9));
    let refused = Layering { ground: &any, layers: eleven }.lay(State::Dry).unwrap_err().to_string();
    assert!(refused.contains("11 changes of pencil"), "{refused}");
}

#[test]
fn burnishing_covers_the_paper() {
    let paper = ground::find(&GroundId("drawing-white".into())).unwrap();
    let stroke = || Layer::Pencil { of: named("PB15:3"), pressure: Pressure(0.6) };
    let chroma = |layers| lay(&paper, layers, State::Dry).xyz().lab().chroma();
    assert!(chroma(vec![stroke(), stroke(), Layer::Burnishing]) > chroma(vec![stroke(), stroke()]) + 2.0);
}

#[test]
fn a_toned_ground_is_overcome_by_pastel_and_feeds_a_wash() {
    let dark = ground::find(&GroundId("sanded-umber".into())).unwrap();
    let light = ground::find(&GroundId("paper-white".into())).unwrap();
    let both = |make: &dyn Fn() -> Layer<'static>| {
        let of = |g: &Ground| lay(g, vec![make()], State::Dry).xyz().lab().l;
        of(&light) - of(&dark)
    };
    let pastel = both(&|| Layer::Pastel { of: vec![(named("PY43"), Parts(1.0))], mass: Mass(1.0), rubbing: Rubbing(0.0) });
    let wash = both(&|| Layer::Wash { of: vec![(named("PY43"), Thickness(0.1))] });
    assert!(wash > 1.5 * pastel && pastel > 2.0, "wash {wash}, pastel {pastel}");
}

#[test]
fn what_cannot_be_laid_is_refused_in_words() {
    let laid = ground::find(&GroundId("laid-cool-grey".into())).unwrap();
    let stroke = |m: f64| Layer::Pastel { of: vec![(named("PB29"), Parts(1.0))], mass: Mass(m), rubbing: Rubbing(0.0) };
    let refused = |ground: &Ground, layers: Vec<Layer>| Layering { ground, layers }.lay(State::Dry).unwrap_err().to_string();
    let many = refused(&laid, vec![stroke(0.05); 20]);
    assert!(many.contains("takes 2 layers of pastel, not 20") && many.contains("leave out 18"), "{many}");
    let any = Ground::of(Reflectance::flat(0.5));
    let full = refused(&any, vec![stroke(4.0), stroke(1.0)]);
    assert!(full.contains("tooth full") && full.contains("after 1 layers"), "{full}");
    let pencil = Layer::Pencil { of: named("PB29"), pressure: Pressure(1.0) };
    assert!(refused(&any, vec![pencil; 6]).contains("tooth full"));
    let marker = ground::find(&GroundId("panel-white".into())).unwrap();
    let soaked = Layer::Ink { of: vec![(named("PB29"), Dose(3.0))], into_wet: false };
    assert!(refused(&marker, vec![soaked]).contains("bleeds"));
    let nothing = Layer::Paint { binder: Binder::Oil, of: vec![(named("PB29"), Parts(0.0))], film: None };
    assert!(refused(&any, vec![nothing]).contains("all parts are zero"));
    let nan = Layer::Wash { of: vec![(named("PB29"), Thickness(f64::NAN))] };
    assert!(refused(&any, vec![nan]).contains("NaN"));
    let hard = Layer::Pencil { of: named("PB29"), pressure: Pressure(1.4) };
    assert!(refused(&any, vec![hard]).contains("between 0 and 1"));
}

#[test]
fn what_the_tooth_only_half_takes_is_remarked() {
    let g = Ground { pastel_mass: 1.5, ..Ground::of(Reflectance::flat(0.5)) };
    let layers = layers("PB29*1 > PO20*1", Written::Pastel { rubbing: Rubbing(0.0) }, library::modelled()).unwrap();
    let laid = Layering { ground: &g, layers }.lay(State::Dry).unwrap();
    assert!(laid.remarks[0].contains("took only 50 %"), "{:?}", laid.remarks);
}
