//! What is said of a wanted and a given colour, held to what a painter would say.

use Chroma::{Dull, Strong};
use Hue::{Blue, Green, Orange, Red, Violet, Yellow};
use lean_colour::Lab;
use lean_plan::wording::{Chroma, Difference, Hue, Warmth};

/// Lightness, chroma, hue.
type Lch = (f64, f64, f64);

fn off(wanted: Lch, given: Lch) -> Difference {
    let lab = |(l, c, h): Lch| Lab::from_lch(l, c, h);
    Difference::of(lab(wanted), lab(given))
}

/// A hue, and what it is too much of a twelfth of the circle on, and back.
const ROUND: [(f64, Hue, Hue); 12] = [
    (20.0, Orange, Violet),
    (30.0, Orange, Violet),
    (60.0, Yellow, Red),
    (80.0, Green, Orange),
    (95.0, Green, Orange),
    (120.0, Green, Yellow),
    (150.0, Blue, Yellow),
    (200.0, Blue, Green),
    (262.0, Violet, Green),
    (290.0, Violet, Blue),
    (315.0, Red, Blue),
    (345.0, Red, Violet),
];

#[test]
fn chroma_is_named_as_chroma_all_round_the_circle() {
    for (hue, ..) in ROUND {
        for (given, wanted_word) in [(18.0, Dull), (68.0, Strong)] {
            let d = off((55.0, 40.0, hue), (55.0, given, hue));
            assert_eq!((d.chroma, d.hue, d.temperature), (Some(wanted_word), None, None), "{hue}: {}", d.words);
            assert!(!d.words.contains("warm") && !d.words.contains("cool"), "{hue}: {}", d.words);
        }
    }
}

#[test]
fn hue_is_named_by_where_it_leans() {
    for (hue, on, back) in ROUND {
        for (turn, word) in [(25.0, on), (-25.0, back)] {
            let d = off((55.0, 40.0, hue), (55.0, 40.0, hue + turn));
            assert_eq!((d.chroma, d.hue), (None, Some(word)), "{hue} turned by {turn}: {}", d.words);
        }
    }
}

/// Wanted, given, and everything that is said: chroma, hue, temperature.
type Said = (&'static str, Lch, Lch, Option<Chroma>, Option<Hue>, Option<Warmth>);

const WARM: Option<Warmth> = Some(Warmth::Warm);
const COOL: Option<Warmth> = Some(Warmth::Cool);

#[test]
fn greys_are_named_by_their_cast_and_a_dark_gone_green_says_so() {
    let lab = |l: f64, a: f64, b: f64| Lab::new(l, a, b);
    for (wanted, given, word) in [
        (lab(60.0, 0.0, 0.0), lab(60.0, 4.0, -0.8), "pinkish"),
        (lab(60.0, 0.0, 0.0), lab(60.0, -4.0, 3.0), "greenish"),
        (lab(22.0, 8.0, 8.0), lab(22.0, -4.0, 4.0), "greenish"),
    ] {
        let d = Difference::of(wanted, given);
        assert!(d.words.to_lowercase().contains(word), "{}", d.words);
    }
    let warm = Difference::of(lab(60.0, 0.0, 0.0), lab(60.0, 3.0, 4.0));
    assert_eq!((warm.hue, warm.temperature), (None, WARM), "what is only warmer is called so: {}", warm.words);
    let crimson = off((40.0, 50.0, 325.0), (40.0, 50.0, 348.0));
    assert_eq!(crimson.hue, Some(Red), "{}", crimson.words);
}

const CASES: [Said; 36] = [
    ("a gold that is only dull", (65.0, 62.0, 82.0), (65.0, 38.0, 82.0), Some(Dull), None, None),
    ("an orange lamp, paler", (70.0, 70.0, 65.0), (72.0, 45.0, 66.0), Some(Dull), None, None),
    ("a red barn, greyed", (40.0, 50.0, 33.0), (41.0, 25.0, 33.0), Some(Dull), None, None),
    ("a blue door, greyed", (45.0, 40.0, 268.0), (45.0, 20.0, 268.0), Some(Dull), None, None),
    ("grass, too bright", (55.0, 30.0, 125.0), (55.0, 52.0, 125.0), Some(Strong), None, None),
    ("skin, too strong", (70.0, 22.0, 58.0), (70.0, 40.0, 57.0), Some(Strong), None, None),
    ("sky that turned green", (75.0, 25.0, 255.0), (75.0, 25.0, 200.0), None, Some(Green), None),
    ("a gold that turned to lemon", (75.0, 60.0, 80.0), (75.0, 60.0, 108.0), None, Some(Green), COOL),
    ("an orange gone red", (60.0, 60.0, 62.0), (60.0, 60.0, 35.0), None, Some(Red), None),
    ("a violet gone blue", (40.0, 35.0, 315.0), (40.0, 35.0, 275.0), None, Some(Blue), COOL),
    ("a rose gone orange", (60.0, 40.0, 10.0), (60.0, 40.0, 48.0), None, Some(Orange), WARM),
    ("leaves gone yellow", (50.0, 40.0, 135.0), (50.0, 40.0, 105.0), None, Some(Yellow), WARM),
    ("leaves gone blue", (50.0, 35.0, 140.0), (50.0, 35.0, 185.0), None, Some(Blue), COOL),
    ("dull and turned, more dull than turned", (60.0, 60.0, 70.0), (60.0, 30.0, 80.0), Some(Dull), Some(Yellow), COOL),
    ("turned and dull, more turned than dull", (60.0, 40.0, 70.0), (60.0, 34.0, 110.0), None, Some(Yellow), COOL),
    ("a grey gone warm", (60.0, 2.0, 60.0), (60.0, 7.0, 60.0), None, None, WARM),
    ("a grey gone cool", (60.0, 2.0, 250.0), (60.0, 7.0, 250.0), None, None, COOL),
    ("a warm grey gone cool", (60.0, 5.0, 60.0), (60.0, 5.0, 240.0), None, None, COOL),
    ("a cool grey gone warm", (45.0, 5.0, 240.0), (45.0, 5.0, 60.0), None, None, WARM),
    ("the same grey", (45.0, 3.0, 100.0), (45.0, 3.5, 110.0), None, None, None),
    ("a grey with a violet cast", (35.0, 3.0, 60.0), (35.0, 22.0, 315.0), Some(Strong), Some(Violet), None),
    ("a grey with a green cast", (50.0, 3.0, 30.0), (50.0, 20.0, 150.0), Some(Strong), Some(Green), None),
    ("a white gone lemon", (93.0, 3.0, 90.0), (92.0, 28.0, 98.0), Some(Strong), Some(Yellow), None),
    ("a white gone pink", (93.0, 3.0, 90.0), (90.0, 14.0, 25.0), Some(Strong), Some(Red), None),
    ("a blue that lost its colour", (50.0, 30.0, 265.0), (50.0, 4.0, 90.0), Some(Dull), None, None),
    ("a red that lost its colour", (45.0, 45.0, 30.0), (45.0, 5.0, 200.0), Some(Dull), None, None),
    ("only lighter", (50.0, 30.0, 60.0), (58.0, 30.0, 60.0), None, None, None),
    ("only darker", (50.0, 30.0, 260.0), (42.0, 30.0, 260.0), None, None, None),
    ("lighter and duller", (50.0, 45.0, 60.0), (58.0, 25.0, 60.0), Some(Dull), None, None),
    ("darker and stronger", (60.0, 25.0, 30.0), (50.0, 48.0, 30.0), Some(Strong), None, None),
    ("darker and greener", (60.0, 35.0, 95.0), (52.0, 35.0, 130.0), None, Some(Green), COOL),
    ("nothing off", (60.0, 35.0, 95.0), (60.2, 35.2, 95.3), None, None, None),
    ("a hair duller", (60.0, 35.0, 95.0), (60.0, 30.0, 95.0), Some(Dull), None, None),
    ("a deep shadow gone violet", (20.0, 4.0, 80.0), (20.0, 16.0, 300.0), Some(Strong), Some(Violet), None),
    ("brick gone pink", (45.0, 38.0, 40.0), (45.0, 38.0, 8.0), None, Some(Violet), COOL),
    ("a teal gone blue", (45.0, 25.0, 200.0), (45.0, 25.0, 245.0), None, Some(Blue), None),
];

#[test]
fn a_painter_would_say_it_so() {
    for (what, wanted, given, chroma, hue, temperature) in CASES {
        let d = off(wanted, given);
        assert_eq!((d.chroma, d.hue), (chroma, hue), "{what}: {}", d.words);
        assert_eq!(d.temperature, temperature, "{what}: {}", d.words);
    }
}

#[test]
fn sentences_begin_with_value_and_grow_with_the_miss() {
    for (wanted, given, words) in [
        ((50.0, 45.0, 60.0), (55.0, 25.0, 60.0), "Half a step too light, clearly too dull."),
        ((60.0, 35.0, 95.0), (60.2, 35.2, 95.3), "Matches."),
        ((60.0, 35.0, 95.0), (60.0, 30.0, 95.0), "A touch dull."),
        ((60.0, 60.0, 80.0), (60.0, 15.0, 80.0), "Much too dull."),
        ((50.0, 30.0, 260.0), (40.0, 30.0, 260.0), "A step too dark."),
    ] {
        assert_eq!(off(wanted, given).words, words, "{wanted:?} {given:?}");
    }
}

#[test]
fn a_plain_difference_has_a_colour_word_wherever_colour_has_a_part_in_it() {
    let mut asked = 0;
    for hue in (0..360).step_by(15).map(f64::from) {
        for (dl, dc, dh) in [(0.0, 14.0, 6.0), (4.0, -12.0, 12.0), (-6.0, 4.0, 14.0), (8.0, -6.0, -4.0), (0.0, 0.0, 20.0)] {
            let (wanted, given) = (Lab::from_lch(50.0, 30.0, hue), Lab::from_lch(50.0 + dl, 30.0 + dc, hue + dh));
            if lean_colour::difference::ciede2000(wanted, given) >= 6.0 {
                asked += 1;
                let d = Difference::of(wanted, given);
                assert!(d.chroma.is_some() || d.hue.is_some(), "{wanted:?} {given:?}: {}", d.words);
            }
        }
    }
    assert!(asked > 60, "{asked}");
}
