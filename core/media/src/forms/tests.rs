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
    assert_eq!(count(Medium::Watercolour), [3 + 9, 15 + 18, 12 + 54]);
    assert_eq!(count(Medium::Marker), [2, 2 * 4, 6 * 8]);
    assert_eq!(count(Medium::Pencil), [3, 2 * 9, 6 * 27]);
    // Of the three-stick forms those with three full strokes are more than the tooth holds.
    assert_eq!(count(Medium::SoftPastel), [3, 2 * 8, 6 * (16 - 4)]);
    assert_eq!(count(Medium::Oil), [0, 0, 0]);
    assert_eq!(list(Medium::Pencil, &patient, 3, 2).len(), 0);
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
                narrow.colours(&of, &forms, &mut quick);
                for (n, form) in forms.iter().enumerate() {
                    let chosen: Vec<&Pigment> = of.iter().map(|i| pigments[*i]).collect();
                    let laid = Layering { ground: &g, layers: form.layering(medium, &chosen) }.lay(State::Dry).unwrap();
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
