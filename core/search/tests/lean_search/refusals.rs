//! Questions that cannot be answered say why.

use crate::asking::{ids, in_oil, need, shipped, some_targets};
use lean_media::{Medium, Pigment};
use lean_recipes::Target;
use lean_search::demands::{Demands, HueFamily, Mother};
use lean_search::progress::Unwatched;
use lean_search::{Ask, Choice, Need, NoAnswer, Tables, search};

fn owned() -> Vec<Pigment> {
    shipped(&["PB29", "PY43", "PR108", "PBk7", "PW6"])
}

fn refused(choice: Choice) -> NoAnswer {
    in_oil(&owned(), &some_targets(), &choice, 2..=3).unwrap_err()
}

fn asked(demands: Demands) -> Choice {
    Choice { demands, ..Choice::default() }
}

#[test]
fn contradictions_say_which() {
    let both = Choice { locked: ids(&["PB29"]), excluded: ids(&["PB29"]), ..Choice::default() };
    assert_eq!(refused(both), NoAnswer::Contradiction("PB29".into()));
    let mother = Some(Mother { pigment: "PY43".into(), share: 0.2 });
    let mother = Choice { excluded: ids(&["PY43"]), demands: Demands { mother, ..Demands::default() }, ..Choice::default() };
    assert_eq!(refused(mother), NoAnswer::Contradiction("PY43".into()));
    let black = Choice { locked: ids(&["PBk7"]), demands: Demands { no_black: true, ..Demands::default() }, ..Choice::default() };
    assert_eq!(refused(black), NoAnswer::LockedForbidden("PBk7".into(), "no black"));
    let hazard = Choice { locked: ids(&["PR108"]), demands: Demands { no_hazard: true, ..Demands::default() }, ..Choice::default() };
    assert!(refused(hazard).to_string().contains("no hazardous pigments"));
    let values = refused(asked(Demands { darkest: Some(7.0), lightest: Some(4.0), ..Demands::default() }));
    assert!(values.to_string().contains("lighter than the lightest"));
}

#[test]
fn what_is_not_there_is_named() {
    assert_eq!(refused(Choice { locked: ids(&["PX1"]), ..Choice::default() }), NoAnswer::NotInBox("PX1".into()));
    assert_eq!(refused(Choice { locked: ids(&["PW6"]), ..Choice::default() }), NoAnswer::White("PW6".into()));
    let mother = Some(Mother { pigment: "PX1".into(), share: 0.2 });
    assert_eq!(refused(asked(Demands { mother, ..Demands::default() })), NoAnswer::NotInBox("PX1".into()));
}

#[test]
fn too_few_too_many_and_none_are_told_apart() {
    let three = Choice { locked: ids(&["PB29", "PY43", "PR108", "PBk7"]), ..Choice::default() };
    assert_eq!(refused(three), NoAnswer::TooManyLocked(4, 3));
    assert!(matches!(refused(Choice { excluded: ids(&["PB29", "PY43", "PR108"]), ..Choice::default() }), NoAnswer::TooFew(_)));
    let all = refused(Choice { excluded: ids(&["PB29", "PY43", "PR108", "PBk7"]), ..Choice::default() });
    assert!(matches!(&all, NoAnswer::NothingLeft(why) if why == "exclusions"), "{all}");
    let demanded = Demands { only_hues: vec![HueFamily::Violet], no_black: true, ..Demands::default() };
    assert!(refused(asked(demanded)).to_string().contains("no black, only these hues"));
    assert!(matches!(in_oil(&[], &some_targets(), &Choice::default(), 2..=6), Err(NoAnswer::TooFew(_))));
}

#[test]
fn nothing_to_match_and_odd_weights_are_refused() {
    let ask = |targets: &[Target]| in_oil(&owned(), targets, &Choice::default(), 2..=3).unwrap_err();
    let weighing = |w: f64| some_targets().iter().map(|t| Target { weight: w, ..*t }).collect::<Vec<_>>();
    assert_eq!(ask(&[]), NoAnswer::NoTargets);
    assert_eq!(ask(&weighing(0.0)), NoAnswer::NoTargets);
    assert_eq!(ask(&weighing(-1.0)), NoAnswer::Weight(1, -1.0));
    assert!(matches!(ask(&weighing(f64::NAN)), NoAnswer::Weight(1, w) if w.is_nan()));
    let many = vec![some_targets()[0]; 97];
    assert_eq!(ask(&many), NoAnswer::TooManyTargets(97));
    let weightless = [Need { weight: 0.0, ..need(Medium::Oil, some_targets()) }];
    let ask = Ask { pigments: &owned(), medium: Medium::Oil, needs: &weightless, choice: &Choice::default(), sizes: 2..=3 };
    assert_eq!(search(&ask, &Tables::default(), &Unwatched, &|_| {}), Err(NoAnswer::NoTargets));
}

#[test]
fn doubled_ids_and_impossible_sizes_are_refused() {
    let twice = [owned(), shipped(&["PB29"])].concat();
    assert_eq!(in_oil(&twice, &some_targets(), &Choice::default(), 2..=3), Err(NoAnswer::Duplicate("PB29".into())));
    for (sizes, wrong) in [(0..=3, (0, 3)), (2..=9, (2, 9))] {
        assert_eq!(in_oil(&owned(), &some_targets(), &Choice::default(), sizes), Err(NoAnswer::Sizes(wrong.0, wrong.1, 8)));
    }
}

#[test]
fn demands_that_nothing_meets_are_named_with_what_there_is() {
    let dark = refused(asked(Demands { darkest: Some(0.1), ..Demands::default() }));
    assert!(dark.to_string().contains("as dark as value 0.1"), "{dark}");
    let blues = refused(asked(Demands { warm_and_cool: vec![HueFamily::Blue], ..Demands::default() }));
    assert!(blues.to_string().contains("a warm and a cool blue"), "{blues}");
    // Each can be had, but not both with two pigments.
    let both = Demands { warm_and_cool: vec![HueFamily::Blue, HueFamily::Yellow], ..Demands::default() };
    let owned = shipped(&["PB29", "PB15:3", "PY3", "PY35", "PW6"]);
    let refused = in_oil(&owned, &some_targets(), &asked(both), 2..=2).unwrap_err();
    assert!(matches!(refused, NoAnswer::Demanding(2, 2, _)), "{refused}");
}

#[test]
fn a_box_without_white_is_searched_without_it() {
    let owned = shipped(&["PB29", "PY43", "PR101", "PY3"]);
    let found = in_oil(&owned, &some_targets(), &Choice::default(), 2..=3).unwrap();
    let parts = found.iter().flat_map(|s| &s.recipes).flat_map(|m| &m.parts);
    assert!(parts.into_iter().all(|p| owned.iter().any(|o| o.id == p.pigment)));
}
