//! Many studies in one go, and going on with one of them.

use lean_colour::{HueAngle, Lab};
use lean_media::{GroundId, Medium};
use lean_picture::{Reading, ZoneMap};
use lean_piece::change::{ChooseSet, KeepStudies, SetReference};
use lean_piece::paint_box::PaintBox;
use lean_piece::*;
use lean_plan::derived::derived;
use lean_plan::light::key::Reach;
use lean_plan::requests::Request;
use lean_plan::studies::make::most_off;
use lean_plan::studies::scheme::{self, apart};
use lean_plan::studies::{StudyKind, chord, make};
use lean_search::RecipeLists;
use lean_search::Tables;
use lean_search::progress::Unwatched;
use proptest::prelude::*;

const REACH: Reach = Reach { darkest: 1.5, lightest: 9.3, lightest_layer: 9.0 };

/// A row of zones of these colours and areas; each touches the next.
fn row(zones: &[(Lab, f64)]) -> Piece {
    let total: f64 = zones.iter().map(|z| z.1).sum();
    let read = |(i, (lab, area)): (usize, &(Lab, f64))| {
        Zone::read(ZoneId(i as u16 + 1), Reading { area: area / total, value: lab.value(), lab: *lab })
    };
    let size = Size { width: Millimetres(400.0), height: Millimetres(300.0) };
    let brief = Brief { title: "Row".into(), medium: Medium::Oil, ground: GroundId("panel-white".into()), size };
    let n = zones.len() as u32;
    let labels = (0..10 * n * 4).map(|i| ((i % (10 * n)) / 10 + 1) as u16).collect();
    let laid = SetReference {
        reference: Some(Reference::whole("d".into(), "r.png".into(), (400, 300), lean_colour::Temperature(0.0))),
        zone_map: Some(ZoneMap { width: 10 * n, height: 4, labels }.into()),
        zones: zones.iter().enumerate().map(read).collect(),
        cut: None,
        masses: Vec::new(),
        mass_map: None,
    };
    Piece::new(brief).apply(laid).unwrap().0
}

fn oils() -> PaintBox {
    let b = lean_demo::oils();
    PaintBox { name: b.name, medium: b.medium, pigments: b.pigments }
}

fn some() -> Piece {
    let colours = [
        (82.0, -1.0, -9.0, 3.0),
        (62.0, 20.0, 28.0, 1.5),
        (38.0, 6.0, 2.0, 2.0),
        (70.0, 2.0, 16.0, 1.0),
        (24.0, 1.0, -6.0, 1.5),
        (52.0, -10.0, 12.0, 1.2),
        (45.0, 24.0, 10.0, 0.8),
    ];
    row(&colours.map(|(l, a, b, area)| (Lab::new(l, a, b), area)))
}

#[test]
fn nine_studies_hold_their_values_and_differ() {
    let piece = some();
    let kinds = StudyKind::usual(&piece, 9);
    let studies = make(&piece, &oils(), &Tables::default(), &kinds, &Unwatched, &|_| {}).unwrap();
    assert_eq!(studies.iter().map(|s| s.number.0).collect::<Vec<_>>(), (1..=9).collect::<Vec<u8>>());
    let painted: Vec<Vec<Lab>> = studies.iter().map(|s| s.mixes.iter().map(|m| m.mix.lab).collect()).collect();
    for (i, one) in painted.iter().enumerate() {
        for (j, other) in painted.iter().enumerate().skip(i + 1) {
            let far = apart(&piece, one, other);
            assert!(far > 4.0, "studies {} and {} lie {far:.1} apart: {:?}, {:?}", i + 1, j + 1, studies[i].scheme, studies[j].scheme);
        }
    }
    for s in studies.iter().filter(|s| !matches!(s.scheme, Scheme::AsRead)) {
        assert!(most_off(s) <= 0.25, "{} {:?} is off by {:.2}", s.number, s.scheme, most_off(s));
        let keeps = s.mixes.iter().zip(&piece.zones).all(|(m, z)| (m.wanted.l - z.target.l).abs() < 1e-9);
        assert_eq!(keeps, scheme::holds_values(&s.scheme), "{:?}", s.scheme);
    }
}

#[test]
fn the_game_of_hues_has_a_study_of_its_own() {
    use lean_search::demands::HueFamily;
    let mut piece = some();
    piece.intent.games.only_hues = vec![HueFamily::Blue, HueFamily::Orange];
    let studies = make(&piece, &oils(), &Tables::default(), &[StudyKind::Game], &Unwatched, &|_| {}).unwrap();
    let Scheme::Chord { chord: Chord::Game, hues } = &studies[0].scheme else { panic!("{:?}", studies[0].scheme) };
    assert!(hues.iter().all(|h| piece.intent.games.only_hues.contains(&HueFamily::at(HueAngle(h.hue)))));
    assert!(make(&some(), &oils(), &Tables::default(), &[StudyKind::Game], &Unwatched, &|_| {}).unwrap().is_empty(), "no game, no study");
}

#[test]
fn shares_of_opposites_can_be_moved_too() {
    let piece = some();
    let (chord, mut hues) = scheme::in_shares(&Scheme::Opposites { dominant: 250.0, other: 60.0 }).unwrap();
    assert_eq!((chord, hues.len()), (Chord::Opposites, 2));
    (hues[0].share, hues[1].share) = (0.2, 0.8);
    let wanted = scheme::wanted(&piece, &Scheme::Chord { chord, hues }, None).unwrap();
    let warm: f64 = piece.zones.iter().zip(&wanted).filter(|(_, w)| (w.hue().0 - 60.0).abs() < 30.0).map(|(z, _)| z.reading.area).sum();
    let area: f64 = piece.zones.iter().map(|z| z.reading.area).sum();
    assert!((warm / area - 0.8).abs() <= 0.15, "{:.2} of it is warm", warm / area);
    assert!(scheme::in_shares(&Scheme::OneHue { hue: 20.0 }).is_none());
}

#[test]
fn a_mood_frees_skin_in_its_own_scheme_only() {
    use lean_piece::intent::moods::{Mood, MoodScheme};
    let mut piece = some();
    piece.zones[1].facts.kind = Some(lean_piece::light::Kind::Skin);
    piece.intent.moods = vec![Mood { word: "loud".into(), scheme: Some(MoodScheme::OneHue), key: None, contrast: 0.0 }];
    let skin = |s: Scheme| scheme::wanted(&piece, &s, None).unwrap()[1].hue().0;
    assert!((100.0..200.0).contains(&skin(Scheme::OneHue { hue: 150.0 })), "the mood asks for it");
    assert!((0.0..100.0).contains(&skin(Scheme::Slide { dark: 150.0, light: 200.0 })), "nobody asks for a green face");
}

#[test]
fn a_study_meant_to_be_quiet_is_quiet_on_its_wall() {
    use lean_piece::wall::{Heard, Wall, WallReading};
    use lean_plan::wall::loudness::voice_of;
    let mut piece = row(&[(60.0, 0.0), (52.0, 0.0), (44.0, 0.0)].map(|(l, a)| (Lab::new(l, a + 24.0, 30.0), 1.0)));
    let loud = scheme::wanted(&piece, &Scheme::OneHue { hue: 40.0 }, None).unwrap();
    let reading = WallReading { lab: Lab::new(52.0, 0.0, 5.0), value: 5.0, temperature: 3.0, loudness: 0.2, room: None };
    piece.wall = Some(Wall { heard: Some(Heard::Quiet), ..Wall::of("d".into(), "w.jpg".into(), (40, 30), reading) });
    let quiet = scheme::wanted(&piece, &Scheme::OneHue { hue: 40.0 }, None).unwrap();
    assert!(voice_of(&piece, &loud, &reading).unwrap().speaks_up, "without the wish it speaks up");
    assert!(!voice_of(&piece, &quiet, &reading).unwrap().speaks_up);
    assert!(quiet.iter().zip(&loud).all(|(q, l)| (q.l - l.l).abs() < 1e-9), "values stay");
}

#[test]
fn a_pigment_from_outside_the_scheme_is_named_as_loosening_it() {
    use lean_plan::studies::loosened::loosened;
    let paint_box = oils();
    let (_, mut next, _) = gone_on(Some(1));
    assert_eq!(loosened(&next, &paint_box), None, "the set of the study is its scheme");
    next.scheme = Some(Scheme::OneHue { hue: 265.0 });
    let study = next.studies.iter().find(|s| Some(s.number) == next.chosen_study).unwrap().pigments.clone();
    let red = paint_box.pigments.iter().find(|p| p.colour_index.iter().any(|c| c.starts_with("PR")) && !study.contains(&p.id)).unwrap();
    next.chosen.pigments.push(red.id.clone());
    let said = loosened(&next, &paint_box).expect("a red lies outside one blue");
    assert!(said.contains(&red.name) && said.contains("study 2"), "{said}");
}

/// The piece with studies made, a set in use, and one gone on with.
fn gone_on(more: Option<u8>) -> (Piece, Piece, Undo) {
    let paint_box = oils();
    let piece = some();
    let studies = make(&piece, &paint_box, &Tables::default(), &StudyKind::ALL[..3], &Unwatched, &|_| {}).unwrap();
    let pigments = studies[2].pigments.clone();
    let piece = piece.apply(KeepStudies { studies, chosen: None }).unwrap().0;
    let piece = piece.apply(ChooseSet { chosen: ChosenSet { pigments } }).unwrap().0;
    let command = Request::GoOn { number: StudyNumber(2), more }.into_command(&piece, Some(&paint_box), None).unwrap();
    let (next, undo) = piece.apply(command).unwrap();
    (piece, next, undo)
}

#[test]
fn a_study_becomes_the_plan_and_the_plan_stays_as_a_study() {
    let (before, next, undo) = gone_on(None);
    let study = &before.studies[1];
    assert_eq!(next.zones.iter().map(|z| z.target).collect::<Vec<_>>(), study.mixes.iter().map(|m| m.wanted).collect::<Vec<_>>());
    assert_eq!((&next.chosen.pigments, next.scheme.as_ref()), (&study.pigments, Some(&study.scheme)));
    let former = next.studies.last().unwrap();
    assert_eq!((former.number, &former.scheme), (StudyNumber(4), &Scheme::Former));
    assert_eq!(former.mixes.iter().map(|m| m.wanted).collect::<Vec<_>>(), before.zones.iter().map(|z| z.target).collect::<Vec<_>>());
    let now = derived(&next, Some(&oils()), &RecipeLists::default());
    assert!(next.studies.iter().all(|s| s.basis == now.basis), "going on puts no study out of date");
    assert_eq!(next.take_back(undo).unwrap(), before);
}

#[test]
fn a_few_pigments_more_keep_the_set_and_widen_the_search() {
    let (before, next, _) = gone_on(Some(2));
    assert_eq!(next.locked, before.studies[1].pigments);
    assert_eq!(usize::from(next.aim.largest), before.studies[1].pigments.len() + 2);
}

#[test]
fn a_study_that_is_not_there_is_refused() {
    let refused = Request::GoOn { number: StudyNumber(7), more: None }.into_command(&some(), Some(&oils()), None);
    assert!(refused.unwrap_err().to_string().contains("Study 7"));
}

fn zones() -> impl Strategy<Value = Vec<(Lab, f64)>> {
    let colour = (15.0..90.0f64, -25.0..30.0f64, -25.0..35.0f64).prop_map(|(l, a, b)| Lab::new(l, a, b));
    prop::collection::vec((colour, 0.7..1.3f64), 12..20)
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(32))]

    #[test]
    fn shares_of_a_scheme_come_within_a_tenth(zones in zones(), first in 0.4..0.7f64, second in 0.1..0.3f64, turn in 0.0..360.0f64) {
        let piece = row(&zones);
        let share = |hue: f64, share| HueShare { hue: (hue + turn).rem_euclid(360.0), share };
        let hues = [share(0.0, first), share(120.0, second), share(240.0, 1.0 - first - second)];
        let laid = chord::laid(&piece, &hues);
        for (h, asked) in hues.iter().enumerate() {
            let got: f64 = piece.zones.iter().zip(&laid).filter(|(_, l)| **l == h).map(|(z, _)| z.reading.area).sum();
            prop_assert!((got - asked.share).abs() <= 0.1, "{got:.2} for {:.2}", asked.share);
        }
    }

    #[test]
    fn every_scheme_that_says_so_keeps_the_values(zones in zones(), hue in 0.0..360.0f64) {
        let piece = row(&zones);
        let three = [0.0, 120.0, 240.0].map(|t| HueShare { hue: (hue + t).rem_euclid(360.0), share: 1.0 / 3.0 });
        let schemes = [
            Scheme::OneHue { hue },
            Scheme::Slide { dark: hue, light: (hue + 90.0).rem_euclid(360.0) },
            Scheme::Chord { chord: Chord::Three, hues: three.to_vec() },
        ];
        for s in schemes {
            let wanted = scheme::wanted(&piece, &s, Some(REACH)).unwrap();
            for (w, z) in wanted.iter().zip(&piece.zones) {
                prop_assert!((w.l - z.target.l).abs() < 1e-9, "{s:?}");
            }
        }
    }
}
