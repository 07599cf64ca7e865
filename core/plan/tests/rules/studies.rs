//! Studies: values held, hues freed, warm kept warm, and a sheet at true scale.

use crate::made_up::brought;
use lean_colour::{Lab, Temperature};
use lean_media::{GroundId, Medium};
use lean_picture::{Reading, ZoneMap};
use lean_piece::light::Graded;
use lean_piece::paint_box::PaintBox;
use lean_piece::*;
use lean_plan::mixes::{pigments_of, technique_of};
use lean_plan::paper::{Item, Sheet};
use lean_plan::studies::StudyKind;
use lean_plan::studies::go_on::go_on;
use lean_plan::studies::make::{make, most_off};
use lean_plan::studies::order::{holds, lost, ordered_pairs, pairs_of};
use lean_plan::studies::scheme::{self, REALLY_DIFFERS, apart};
use lean_plan::studies::sheet::{Copy, lay_out, recipe_text};
use lean_recipes::Cost;
use lean_search::Recipes;
use lean_search::Tables;
use lean_search::progress::Unwatched;
use proptest::prelude::*;

/// A row of zones of these colours; each touches the next.
fn row(colours: &[Lab]) -> Piece {
    let n = colours.len() as u32;
    let zones = colours
        .iter()
        .enumerate()
        .map(|(i, lab)| Zone::read(ZoneId(i as u16 + 1), Reading { area: 1.0 / f64::from(n), value: lab.value(), lab: *lab }))
        .collect();
    let brief = Brief {
        title: "Row".into(),
        medium: Medium::Oil,
        ground: GroundId("panel-white".into()),
        size: Size { width: Millimetres(400.0), height: Millimetres(300.0) },
    };
    let labels = (0..40 * n * 10).map(|i| ((i % (40 * n)) / 40 + 1) as u16).collect();
    let reference = Reference::whole("d".into(), "r.png".into(), (400, 300), Temperature(2.0));
    let map = ZoneMap { width: 40 * n, height: 10, labels };
    brought(brief, reference, map, zones)
}

fn sticks() -> PaintBox {
    let b = lean_demo::pastels();
    PaintBox { name: b.name, medium: b.medium, pigments: b.pigments }
}

fn some() -> Piece {
    row(&[
        Lab::new(82.0, -1.0, -7.0),
        Lab::new(62.0, 20.0, 28.0),
        Lab::new(38.0, 6.0, 2.0),
        Lab::new(70.0, 2.0, 10.0),
        Lab::new(24.0, 1.0, -6.0),
    ])
}

#[test]
fn three_studies_really_differ_and_hold_their_values() {
    let (piece, paint_box) = (some(), sticks());
    let studies = make(&piece, &paint_box, &Tables::default(), &StudyKind::ALL[..3], &Unwatched, &|_| {}).unwrap();
    assert_eq!(studies.iter().map(|s| s.number).collect::<Vec<_>>(), [StudyNumber(1), StudyNumber(2), StudyNumber(3)]);
    let wanted: Vec<Vec<Lab>> = studies.iter().map(|s| s.mixes.iter().map(|m| m.wanted).collect()).collect();
    let painted: Vec<Vec<Lab>> = studies.iter().map(|s| s.mixes.iter().map(|m| m.mix.lab).collect()).collect();
    for (i, j) in [(0, 1), (0, 2), (1, 2)] {
        assert!(apart(&piece, &wanted[i], &wanted[j]) >= REALLY_DIFFERS, "studies {i} and {j}");
        let painted = apart(&piece, &painted[i], &painted[j]);
        assert!(painted >= 7.0, "studies {i} and {j} come out {painted} apart");
    }
    for s in &studies[1..] {
        assert!(most_off(s) <= 0.25, "{} is off by {}", s.number, most_off(s));
        // Warm stays warmer as far as that costs no zone more than a difference of three; what is lost is told.
        let set = pigments_of(&paint_box, &s.pigments);
        let technique = technique_of(&piece, &paint_box, &set);
        let recipes = Recipes::of(technique.as_ref());
        let cost = Cost { hold: Some(Cost::QUARTER_STEP), within: piece.cost().within, ranking: piece.cost().ranking, ..Cost::default() };
        for m in &s.mixes {
            let (least, _) = recipes.best(m.wanted, cost).unwrap();
            let own = recipes.fitted(cost).of_mix(&m.mix, m.wanted);
            assert!(own <= least + 3.0 + 1e-6, "{}: {:?} costs {own} where {least} is possible", s.number, m.wanted);
        }
    }
}

#[test]
fn one_hue_is_one_hue() {
    let piece = some();
    for hue in [30.0, 120.0, 265.0] {
        let wanted = scheme::wanted(&piece, &lean_piece::Scheme::OneHue { hue }, None).unwrap();
        for c in wanted.iter().filter(|c| c.chroma() > 4.0) {
            let off = ((c.hue().0 - hue + 180.0).rem_euclid(360.0) - 180.0).abs();
            assert!(off <= 12.0 + 1e-6, "{c:?} is no {hue}");
        }
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(48))]
    #[test]
    fn every_scheme_keeps_lightness_and_the_order_of_warm_and_cool(
        colours in prop::collection::vec((15.0..90.0f64, -25.0..30.0f64, -25.0..35.0f64), 2..7)
    ) {
        let piece = row(&colours.iter().map(|(l, a, b)| Lab::new(*l, *a, *b)).collect::<Vec<_>>());
        for s in scheme::opposite_schemes(|h| h.turned(lean_colour::HueAngle(180.0))).into_iter().chain(scheme::neighbour_schemes()) {
            let wanted = scheme::wanted(&piece, &s, None).unwrap();
            for (w, z) in wanted.iter().zip(&piece.zones) {
                prop_assert!((w.l - z.target.l).abs() < 1e-9);
            }
            for pair in ordered_pairs(&piece) {
                prop_assert!(holds(&wanted, pair), "{s:?} {pair:?}");
            }
        }
    }
}

/// The text of a sheet, in its order.
fn texts(sheet: &Sheet) -> Vec<&str> {
    sheet.marks.iter().filter_map(|m| if let Item::Text { text, .. } = m { Some(text.as_str()) } else { None }).collect()
}

#[test]
fn the_sheet_is_laid_out_in_true_millimetres_inside_the_page() {
    let mut piece = some();
    let paint_box = sticks();
    piece.studies = make(&piece, &paint_box, &Tables::default(), &StudyKind::ALL[..3], &Unwatched, &|_| {}).unwrap();
    for page in [PageFormat::A5, PageFormat::A4, PageFormat::A3, PageFormat::Letter] {
        piece.sheet = SheetSettings { longer_side: Millimetres(100.0), page };
        for copy in [Copy::Painted, Copy::Flat, Copy::Outline] {
            let sheets = lay_out(&piece, &paint_box, copy, &[]).unwrap();
            let mut studies = 0;
            for sheet in &sheets {
                let inside = |x: f64, y: f64| (0.0..=sheet.width).contains(&x) && (0.0..=sheet.height).contains(&y);
                let whole = |[x, y, w, h]: [f64; 4]| {
                    assert!(inside(x, y) && inside(x + w, y + h));
                    usize::from((w - 100.0).abs() < 1e-9 && (h - 75.0).abs() < 1e-9)
                };
                for mark in &sheet.marks {
                    match mark {
                        Item::Picture { rect, picture } => {
                            studies += whole(*rect);
                            assert_eq!(picture.width, 787, "100 mm at 200 pixels to the inch");
                        }
                        Item::Fill { rect, .. } => studies += whole(*rect),
                        Item::Shape { rings, .. } => assert!(rings.iter().flatten().all(|(x, y)| inside(*x, *y))),
                        Item::Line { ends: [a, b, c, d], .. } => assert!(inside(*a, *b) && inside(*c, *d)),
                        Item::Text { x, y, size, text, .. } => {
                            assert!(inside(*x, *y) && *size >= 2.0, "\"{text}\" in letters of {size} mm at {x}, {y}");
                        }
                    }
                }
            }
            assert_eq!(studies, if copy == Copy::Outline { 0 } else { 3 }, "{page:?} {copy:?}");
            // A long recipe stands in several lines, one under the other: nothing of it is lost.
            let all: String = sheets.iter().flat_map(texts).collect::<Vec<_>>().join(" ");
            for mix in piece.studies.iter().flat_map(|s| &s.mixes) {
                let recipe = recipe_text(&paint_box, &mix.mix);
                assert!(all.contains(&recipe), "\"{recipe}\" is not whole on the sheet");
            }
        }
    }
    piece.sheet = SheetSettings { longer_side: Millimetres(300.0), page: PageFormat::A4 };
    let words = lay_out(&piece, &paint_box, Copy::Flat, &[]).unwrap_err();
    let fits: f64 = words.split(". ").nth(1).unwrap().split(' ').next().unwrap().parse().unwrap();
    piece.sheet.longer_side = Millimetres(fits);
    assert!(lay_out(&piece, &paint_box, Copy::Flat, &[]).is_ok(), "{words}");
    piece.sheet.longer_side = Millimetres(fits + 1.0);
    assert!(lay_out(&piece, &paint_box, Copy::Flat, &[]).is_err(), "{words}");
}

#[test]
fn each_study_is_shown_as_soon_as_it_is_made() {
    let shown = std::cell::RefCell::new(Vec::new());
    let piece = some();
    let made =
        make(&piece, &sticks(), &Tables::default(), &StudyKind::ALL[..3], &Unwatched, &|s| shown.borrow_mut().push(s.clone())).unwrap();
    assert_eq!(*shown.borrow(), made);
}

#[test]
fn a_graded_zone_runs_in_its_studies_and_goes_on_running() {
    let mut piece = some();
    let end = Lab::new((piece.zones[0].target.l - 30.0).max(5.0), 2.0, -6.0);
    piece.zones[0].graded = Some(Graded { to: end, direction: 90.0 });
    let made = make(&piece, &sticks(), &Tables::default(), &StudyKind::ALL[..3], &Unwatched, &|_| {}).unwrap();
    for study in &made {
        let run = &study.mixes[0];
        let last = run.then.last().expect("it hands over to a further mix");
        let wanted = piece.zones[0].retargeted(run.wanted).graded.unwrap().to;
        assert!((last.lab.l - wanted.l).abs() < (run.mix.lab.l - wanted.l).abs(), "{:?}: the run goes its way", study.scheme);
        assert!(study.mixes[1].then.is_empty(), "the other zones do not run");
    }
    piece.studies = made;
    let go = go_on(&piece, Some(&sticks()), &[], StudyNumber(2), None).unwrap();
    let (next, _) = piece.apply(Command::GoOn(go)).unwrap();
    let (was, is) = (&piece.zones[0], &next.zones[0]);
    let moved = |a: Lab, b: Lab| [a.l - b.l, a.a - b.a, a.b - b.b];
    assert!(is.graded.is_some() && moved(is.target, was.target)[0].abs() < 1e-9 && (is.graded.unwrap().to.l - end.l).abs() < 1e-9);
}

#[test]
fn more_studies_take_more_pages_and_some_can_be_chosen() {
    let mut piece = some();
    let paint_box = sticks();
    let made = make(&piece, &paint_box, &Tables::default(), &StudyKind::ALL[..1], &Unwatched, &|_| {}).unwrap().remove(0);
    piece.studies = (1..=7).map(|n| Study { number: StudyNumber(n), ..made.clone() }).collect();
    let titles = |only: &[u8]| -> Vec<Vec<String>> {
        let only: Vec<StudyNumber> = only.iter().map(|n| StudyNumber(*n)).collect();
        let text = |m: &Item| if let Item::Text { text, .. } = m { text.strip_suffix(" · as measured").map(str::to_owned) } else { None };
        lay_out(&piece, &paint_box, Copy::Flat, &only).unwrap().iter().map(|s| s.marks.iter().filter_map(text).collect()).collect()
    };
    let all = titles(&[]);
    assert!(all.len() > 1 && all.iter().all(|p| p.len() >= 2), "{all:?}");
    assert_eq!(all.concat(), ["1", "2", "3", "4", "5", "6", "7"]);
    assert_eq!(titles(&[2, 5]).concat(), ["2", "5"]);
    assert!(lay_out(&piece, &paint_box, Copy::Flat, &[StudyNumber(9)]).is_err());
}

#[test]
fn an_order_that_was_not_kept_is_said() {
    let piece = some();
    let mut studies = make(&piece, &sticks(), &Tables::default(), &StudyKind::ALL[..3], &Unwatched, &|_| {}).unwrap();
    for s in &mut studies {
        let wanted: Vec<Lab> = s.mixes.iter().map(|m| m.wanted).collect();
        let (warm, cool) = pairs_of(&piece, &wanted)[0];
        s.mixes[warm].mix.lab = s.mixes[cool].mix.lab;
        assert!(lost(&piece, s).contains(&(piece.zones[warm].id, piece.zones[cool].id)));
    }
}
