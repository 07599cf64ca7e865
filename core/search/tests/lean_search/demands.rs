//! What a painter asks of a set is in the answer.

use crate::asking::{in_oil, need, shipped, some_targets};
use lean_colour::{Lab, Temperature};
use lean_media::{Medium, Pigment, PigmentId, library};
use lean_recipes::Target;
use lean_recipes::cost::Cost;
use lean_recipes::wet::parts::usual;
use lean_search::demands::{Demands, HueFamily, Mother};
use lean_search::progress::Unwatched;
use lean_search::{Ask, Choice, Need, SetFound, Tables, search};

fn thirty() -> Vec<Pigment> {
    library::modelled().iter().filter(|p| p.id.0 != "PW4").step_by(2).chain(library::find("PW6")).cloned().fold(Vec::new(), |mut all, p| {
        if all.iter().all(|q: &Pigment| q.id != p.id) {
            all.push(p);
        }
        all
    })
}

fn under(demands: Demands) -> SetFound {
    in_oil(&thirty(), &some_targets(), &Choice { demands, ..Choice::default() }, 5..=5).unwrap().remove(0)
}

fn of<'a>(owned: &'a [Pigment], set: &'a [PigmentId]) -> impl Iterator<Item = &'a Pigment> {
    set.iter().map(|id| owned.iter().find(|p| p.id == *id).unwrap())
}

#[test]
fn forbidden_pigments_stay_out_and_freedom_never_costs_more() {
    let free = under(Demands::default());
    let no_black = under(Demands { no_black: true, ..Demands::default() });
    let owned = thirty();
    assert!(of(&owned, &no_black.pigments).all(|p| !p.colour_index.iter().any(|c| c.starts_with("PBk"))));
    let safe = under(Demands { no_hazard: true, ..Demands::default() });
    assert!(of(&owned, &safe.pigments).all(|p| p.hazard.is_empty()));
    let lasting = under(Demands { least_lasting: Some(1), ..Demands::default() });
    assert!(of(&owned, &lasting.pigments).all(|p| p.lightfastness == "I"), "{:?}", lasting.pigments);
    for asked in [&no_black, &safe, &lasting] {
        assert!(asked.cost >= free.cost - 1e-12);
    }
}

#[test]
fn a_mother_colour_is_in_every_mix_and_one_pigment_alone_when_that_is_asked() {
    let mother = Mother { pigment: thirty()[3].id.clone(), share: 0.25 };
    let found = under(Demands { mother: Some(mother.clone()), ..Demands::default() });
    assert!(found.pigments.contains(&mother.pigment));
    assert!(found.recipes.iter().all(|m| m.share_of(&mother.pigment) >= 0.25 - 1e-12), "{:?}", found.recipes);
    let alone = under(Demands { most_in_mix: Some(1), ..Demands::default() });
    let coloured = |m: &lean_recipes::Mix| m.parts.iter().filter(|p| p.pigment.0 != "PW6").count();
    assert!(alone.recipes.iter().all(|m| coloured(m) <= 1));
}

#[test]
fn warm_and_cool_of_a_family_are_both_in() {
    let owned = thirty();
    let found = under(Demands { warm_and_cool: vec![HueFamily::Blue, HueFamily::Yellow], ..Demands::default() });
    for family in [HueFamily::Blue, HueFamily::Yellow] {
        let hues: Vec<f64> = of(&owned, &found.pigments)
            .filter_map(|p| {
                let white = owned.iter().find(|w| w.white).unwrap();
                let tints = usual(1).iter().map(|n| {
                    let of = [(p, n.parts[0]), (white, n.parts[3])].map(|(g, n)| (g, lean_media::Parts(f64::from(n))));
                    lean_media::Paint::mixed(&of).unwrap().opaque(lean_media::opaque::OIL).xyz().lab()
                });
                tints.max_by(|a, b| a.chroma().total_cmp(&b.chroma()))
            })
            .filter(|l| HueFamily::of(*l) == Some(family))
            .map(|l: Lab| l.hue().0)
            .collect();
        let spread = hues.iter().copied().fold(f64::MIN, f64::max) - hues.iter().copied().fold(f64::MAX, f64::min);
        assert!(spread >= 10.0, "{family:?}: {hues:?}");
    }
}

#[test]
fn values_only_leaves_the_hue_free_and_tolerance_spends_no_pigment_on_what_is_not_seen() {
    let owned = thirty();
    let with = |cost: Cost, sizes| {
        let needs = [Need { cost, ..need(Medium::Oil, some_targets()) }];
        search(
            &Ask { pigments: &owned, medium: Medium::Oil, needs: &needs, choice: &Choice::default(), sizes },
            &Tables::default(),
            &Unwatched,
            &|_| {},
        )
        .unwrap()
    };
    let values = with(Cost::values_only(Temperature(0.0)), 2..=3);
    assert!(values[1].cost < with(Cost::default(), 3..=3)[0].cost);
    for (mix, t) in values[1].recipes.iter().zip(some_targets()) {
        assert!((mix.lab.value().0 - t.lab.value().0).abs() < 0.3, "values are met: {mix:?}");
    }
    let (exact, tolerant) = (with(Cost::default(), 2..=6), with(Cost { tolerance: Cost::GOOD_ENOUGH, ..Cost::default() }, 2..=6));
    let enough = |sets: &[SetFound]| sets.iter().take_while(|s| s.cost > 0.6 * sets[0].cost).count();
    assert!(enough(&tolerant) <= enough(&exact));
    assert!(tolerant.iter().zip(&exact).all(|(t, e)| t.cost <= e.cost + 1e-12));
}

#[test]
fn one_set_for_several_pieces_lies_between_their_own() {
    let owned = thirty();
    let warm: Vec<Target> =
        (0..5).map(|i| Target { lab: Lab::from_lch(30.0 + 10.0 * f64::from(i), 35.0, 40.0 + 10.0 * f64::from(i)), weight: 1.0 }).collect();
    let cool: Vec<Target> =
        (0..6).map(|i| Target { lab: Lab::from_lch(25.0 + 9.0 * f64::from(i), 30.0, 230.0 + 12.0 * f64::from(i)), weight: 2.0 }).collect();
    let both = |weight: f64| {
        let needs = [need(Medium::Oil, warm.clone()), Need { weight, ..need(Medium::Oil, cool.clone()) }];
        let ask = Ask { pigments: &owned, medium: Medium::Oil, needs: &needs, choice: &Choice::default(), sizes: 3..=3 };
        search(&ask, &Tables::default(), &Unwatched, &|_| {}).unwrap().remove(0)
    };
    let even = both(1.0);
    assert!((even.cost - (even.pieces[0] + even.pieces[1]) / 2.0).abs() < 1e-9);
    assert_eq!(even.recipes.len(), warm.len(), "recipes are those of the first piece");
    // The more a piece counts, the better it is served.
    let (little, much) = (both(0.005), both(200.0));
    assert!(little.pieces[1] >= even.pieces[1] - 1e-9 && even.pieces[1] >= much.pieces[1] - 1e-9);
    assert!(much.pieces[1] < little.pieces[1]);
    let alone = in_oil(&owned, &warm, &Choice::default(), 3..=3).unwrap().remove(0);
    assert!(little.pieces[0] <= alone.cost + 0.3 && alone.cost <= little.pieces[0] + 1e-9);
}

#[test]
fn fewer_layers_mean_simpler_recipes() {
    let owned = shipped(&["PB29", "PY43", "PR101", "PG7", "PBk11", "PW6"]);
    for medium in [Medium::Watercolour, Medium::Marker, Medium::Pencil, Medium::SoftPastel] {
        let with = |most_layers| {
            let demands = Demands { most_layers: Some(most_layers), families_may_go: true, ..Demands::default() };
            let choice = Choice { demands, ..Choice::default() };
            let needs = [need(medium, some_targets())];
            search(&Ask { pigments: &owned, medium, needs: &needs, choice: &choice, sizes: 3..=3 }, &Tables::default(), &Unwatched, &|_| {})
                .unwrap()
                .remove(0)
        };
        let (one, two) = (with(1), with(2));
        assert!(one.recipes.iter().all(|m| m.layers() <= 1) && two.recipes.iter().all(|m| m.layers() <= 2), "{medium:?}");
        assert!(two.cost <= one.cost + 1e-12);
    }
}
