use super::*;
use crate::ground;
use crate::layering::{Layering, State};
use crate::library;

fn grounds() -> Vec<Ground> {
    ["hot-pressed", "sanded-warm-grey", "kraft-brown"].iter().filter_map(|n| ground::find(&crate::GroundId((*n).into()))).collect()
}

#[test]
fn as_many_forms_as_counted_by_hand() {
    let patient = Ground::of(lean_colour::Reflectance::flat(0.88));
    let count = |m| [1, 2, 3].map(|n| list(m, &patient, n, MOST_LAYERS).len());
    // Washes, once and twice; lifted; over each other; and with something lifted before the last.
    assert_eq!(count(Medium::Watercolour), [5 + 3 + 3, 7 * (5 + 3) + 3 + 2 * 25 + 2 * 4, 16 * (5 + 3) + 3 + 6 * 9 + 6 * 8 + 6 * 2]);
    // Coats; coming back; blended.
    assert_eq!(count(Medium::Marker), [3 + 3, 2 * 9 - 2 + 2 * 4 + 2 * 4, 6 * 7 + 12 * 3 + 6 * 2]);
    assert_eq!(count(Medium::Oil), [0, 0, 0]);
    for medium in [Medium::Marker, Medium::Pencil, Medium::SoftPastel, Medium::Watercolour] {
        assert!(list(medium, &patient, 3, 2).is_empty() || medium == Medium::Watercolour, "{medium:?}");
        for n in 1..=3 {
            let all = list(medium, &patient, n, MOST_LAYERS);
            assert!(all.iter().all(|f| (1..=MOST_LAYERS).contains(&f.layers())));
            let twice = all.iter().enumerate().find(|(i, f)| all[..*i].contains(f));
            assert!(twice.is_none(), "{medium:?}: {twice:?}");
            assert!(n == 1 || all.iter().any(|f| f.layers() >= 3), "{medium:?}: nothing deep of {n}");
        }
    }
}

#[test]
fn pencils_are_laid_as_often_as_the_tooth_bears_and_no_oftener() {
    let paper = |film: f64| Ground { pencil_film: film, ..Ground::of(lean_colour::Reflectance::flat(0.88)) };
    let thrice = |g: &Ground| list(Medium::Pencil, g, 1, MOST_LAYERS).iter().filter(|f| f.layings()[0].times == 3).count();
    assert_eq!((thrice(&paper(1.2)), thrice(&paper(0.75)), thrice(&paper(0.7))), (2, 2, 0));
}

#[test]
fn a_black_stick_closes_the_tooth_and_white_hardly_covers_it() {
    let ground = ground::usual(Medium::SoftPastel);
    let pigments = [library::find("PBk7").unwrap(), library::find("PBk9").unwrap(), library::find("PW6").unwrap()];
    let sticks = Prepared::<f64>::of(Medium::SoftPastel, &pigments, &ground).unwrap();
    let forms = list(Medium::SoftPastel, &ground, 1, MOST_LAYERS);
    let thrice = forms.iter().find(|f| f.layings()[0].times == 3).unwrap();
    let black = sticks.colour(&[0], thrice);
    assert!((17.0..21.0).contains(&black.l), "{black:?}");
    let over = list(Medium::SoftPastel, &ground, 2, MOST_LAYERS);
    let light_over_full = |f: &&Form| match f.layings() {
        [a, b] => (a.amount, a.times, b.amount, b.act, a.parts[0]) == (2, 1, 1, Act::Lay, 1),
        _ => false,
    };
    let form = over.iter().find(light_over_full).unwrap();
    let value = sticks.colour(&[1, 2], form).value().0;
    assert!((4.3..5.4).contains(&value), "value {value}");
    assert!(sticks.colour(&[1, 2], &form.with_taking(Taking::Least)).value().0 > value + 1.5);
}

#[test]
fn a_strong_wash_is_dark_and_calm() {
    let paper = ground::usual(Medium::Watercolour);
    let deep = |ids: &[&str], parts: [u8; 3]| {
        let pigments: Vec<&Pigment> = ids.iter().map(|id| library::find(id).unwrap()).collect();
        let form = Form::of(&[Laying { parts, amount: 5, times: 1, ..Laying::default() }]);
        let of: Vec<usize> = (0..pigments.len()).collect();
        Prepared::<f64>::of(Medium::Watercolour, &pigments, &paper).unwrap().colour(&of, &form)
    };
    let blue = deep(&["PB15:3"], [1, 0, 0]);
    let brown = deep(&["PBr7-burnt-sienna"], [1, 0, 0]);
    let green = deep(&["PG7", "PBr7-burnt-sienna", "PY150"], [2, 1, 1]);
    assert!(blue.l < 42.0 && blue.chroma() < 62.0, "{blue:?}");
    assert!(brown.l < 52.0, "{brown:?}");
    assert!(green.l < 42.0 && green.chroma() < 35.0, "{green:?}");
}

#[test]
fn every_form_has_the_colour_the_general_model_gives() {
    let lib = library::modelled();
    let pigments: Vec<&Pigment> = lib.iter().step_by(7).take(6).collect();
    for medium in [Medium::Watercolour, Medium::Marker, Medium::Pencil, Medium::SoftPastel] {
        for g in grounds() {
            let (wide, narrow) = (Prepared::<f64>::of(medium, &pigments, &g).unwrap(), Prepared::<f32>::of(medium, &pigments, &g).unwrap());
            for of in [vec![4], vec![0, 3], vec![1, 2, 5]] {
                let forms = list(medium, &g, of.len(), MOST_LAYERS);
                let mut quick = Vec::new();
                narrow.colours(&of, forms.iter(), &mut Memory::default(), &mut quick);
                for (n, form) in forms.iter().enumerate() {
                    agrees_when_the_hand_errs(&wide, &pigments, &g, medium, &of, form, n);
                    let chosen: Vec<&Pigment> = of.iter().map(|i| pigments[*i]).collect();
                    let laid = Layering { ground: &g, layers: form.layering(medium, &g, &chosen) }.lay(State::Dry).unwrap();
                    let want = laid.reflectance.xyz().lab();
                    let got = wide.colour(&of, form);
                    let near = |a: f64, b: f64, tolerance: f64| assert!((a - b).abs() < tolerance, "{medium:?} {form:?}: {a} is not {b}");
                    near(got.l, want.l, 1e-5);
                    near(got.a, want.a, 1e-5);
                    near(got.b, want.b, 1e-5);
                    let (batch, lane) = (&quick[n / 8], n % 8);
                    near(f64::from(batch.l[lane]), want.l, 5e-3);
                    near(f64::from(batch.a[lane]), want.a, 2e-2);
                    near(f64::from(batch.b[lane]), want.b, 2e-2);
                }
            }
        }
    }
}

#[test]
fn the_bare_ground_is_what_an_empty_layering_gives() {
    let pigments = [library::find("PB29").unwrap()];
    for g in grounds() {
        let bare = Layering { ground: &g, layers: vec![] }.lay(State::Dry).unwrap().reflectance.xyz().lab();
        for medium in [Medium::Watercolour, Medium::Marker, Medium::Pencil, Medium::SoftPastel] {
            let got = Prepared::<f64>::of(medium, &pigments, &g).unwrap().bare();
            assert!((got.l - bare.l).abs() < 1e-9 && (got.b - bare.b).abs() < 1e-9);
        }
    }
}

#[test]
fn shares_of_a_form_add_up() {
    let patient = Ground::of(lean_colour::Reflectance::flat(0.88));
    for medium in Medium::ALL {
        for form in list(medium, &patient, 3, MOST_LAYERS) {
            let sum: f64 = (0..3).map(|p| form.share(p)).sum();
            assert!((sum - 1.0).abs() < 1e-12 && (0..3).all(|p| form.share(p) > 0.0));
        }
    }
}

/// Some of the slips of some of the forms, by the general model.
fn agrees_when_the_hand_errs(wide: &Prepared<f64>, all: &[&Pigment], g: &Ground, medium: Medium, of: &[usize], form: &Form, n: usize) {
    if !n.is_multiple_of(5) {
        return;
    }
    let chosen: Vec<&Pigment> = of.iter().map(|i| all[*i]).collect();
    let mut others: Vec<Form> = (0..form.slips()).map(|s| form.erring(s)).collect();
    if form.leans_on_taking(medium) {
        others.extend([form.with_taking(Taking::Least), form.with_taking(Taking::Most)]);
    }
    for other in others {
        assert_ne!(other, *form);
        let mut choices = Choices::default();
        choices.ink.redissolved = match other.taking() {
            Taking::Usual => choices.ink.redissolved,
            Taking::Least => choices.ink.redissolved_at_least,
            Taking::Most => choices.ink.redissolved_at_most,
        };
        let layering = Layering { ground: g, layers: other.layering(medium, g, &chosen) };
        let Ok(laid) = layering.lay_with(State::Dry, &choices) else { continue };
        let want = laid.reflectance.xyz().lab();
        let got = wide.colour(of, &other);
        let far = (got.l - want.l).abs() + (got.a - want.a).abs() + (got.b - want.b).abs();
        assert!(far < 1e-4, "{medium:?} {other:?}: {got:?} is not {want:?}");
    }
}
