//! Colours said in words: "pale blue-grey", "dull red, a little warm", "like wet slate".

mod naming;
mod table;

pub use naming::named;

use crate::lab::Lab;
use crate::real::toward_real;
use crate::temperature::WARM_POLE;
use table::{Change, LONGEST};

/// A colour as words say it.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Worded {
    /// The colour that is most likely meant.
    pub lab: Lab,
    /// Expected error of its lightness: one standard deviation in L*.
    pub value_error: f64,
    /// Expected error of a* and of b*: one standard deviation in CIELAB units.
    pub colour_error: f64,
    /// True where a word said its lightness.
    pub says_value: bool,
    /// True where a word said its hue, or that it has none.
    pub says_hue: bool,
}

/// Expected errors of L* where the words say nothing of it, only a hue, or something of it. Choices.
const VALUE_ERRORS: [f64; 3] = [22.0, 14.0, 8.0];
/// Expected errors of a* and b*: where no hue is said; the least of one that is, and the share of its chroma by which it may be missed. Choices.
const NO_HUE: f64 = 20.0;
const LEAST_ERROR: f64 = 5.0;
const SHARE_MISSED: f64 = 0.3;
/// Chroma below which a name is a grey: beside another colour it dulls it.
const GREY: f64 = 6.0;
/// Share that a word in -ish has in the colour, and the colour before the last ("blue green"). Choices.
const LEANING: f64 = 0.3;
const BEFORE: f64 = 0.35;
/// Factor on the chroma of what is greyish, and share of the way its lightness goes to a grey, white or black that is named beside it. Choices.
const GREYED: f64 = 0.5;
const TO_GREY: f64 = 0.3;

/// One word or name, understood.
enum Meaning {
    Colour(Lab, bool),
    Leaning(Lab),
    Change(Change),
}

/// A colour from words; `None` where none of them says anything of a colour. Words that do not are passed over: "turquoise shed" is turquoise.
pub fn read(text: &str) -> Option<Worded> {
    let meanings = understood(text);
    if meanings.is_empty() {
        return None;
    }
    let mut says_value = false;
    let mut head: Option<Lab> = None;
    for m in &meanings {
        if let Meaning::Colour(lab, says) = m {
            says_value |= says;
            head = Some(head.map_or(*lab, |before| beside(before, *lab)));
        }
    }
    let says_hue = head.is_some() || meanings.iter().any(|m| matches!(m, Meaning::Leaning(_)));
    // A leaning alone is a grey that leans.
    let mut lab = head.unwrap_or(Lab::new(if says_hue { 55.0 } else { 50.0 }, 0.0, 0.0));
    for m in &meanings {
        match m {
            Meaning::Leaning(to) if to.chroma() < GREY => lab = greyed(lab, *to, 1.0),
            Meaning::Leaning(to) => lab = Lab::new(lab.l, mix(lab.a, to.a, LEANING), mix(lab.b, to.b, LEANING)),
            Meaning::Change(c) => {
                says_value |= c.lighten > 0.2;
                lab = changed(lab, *c);
            }
            Meaning::Colour(..) => {}
        }
    }
    let lab = toward_real(Lab::new(lab.l.clamp(4.0, 97.0), lab.a, lab.b));
    Some(Worded {
        lab,
        value_error: VALUE_ERRORS[if says_value { 2 } else { usize::from(says_hue) }],
        colour_error: if says_hue { LEAST_ERROR.max(SHARE_MISSED * lab.chroma()) } else { NO_HUE },
        says_value,
        says_hue,
    })
}

/// Names of colours that are understood, in alphabetical order; words that change one are not among them.
pub fn names() -> impl Iterator<Item = &'static str> {
    table::names()
}

fn understood(text: &str) -> Vec<Meaning> {
    let text = text.to_lowercase();
    let words: Vec<&str> = text.split(|c: char| !c.is_alphanumeric()).filter(|w| !w.is_empty()).collect();
    let mut meanings = Vec::new();
    let mut strength = None;
    let mut at = 0;
    while at < words.len() {
        let longest = (1..=LONGEST.min(words.len() - at)).rev();
        if let Some((n, (lab, says))) = longest.into_iter().find_map(|n| Some((n, table::named(&words[at..at + n].join(" "))?))) {
            // "A little grey" leans to grey.
            meanings.push(match strength.take() {
                Some(part) if part < 1.0 => Meaning::Leaning(lab),
                _ => Meaning::Colour(lab, says),
            });
            at += n;
            continue;
        }
        let word = words[at];
        if let Some(change) = table::changing(word) {
            meanings.push(Meaning::Change(scaled(change, strength.take().unwrap_or(1.0))));
        } else if let Some(lab) = table::leaning(word) {
            strength = None;
            meanings.push(Meaning::Leaning(lab));
        } else if let Some(much) = table::strength(word) {
            strength = Some(much);
        }
        at += 1;
    }
    meanings
}

fn scaled(c: Change, by: f64) -> Change {
    Change { lighten: (c.lighten * by).min(0.85), chroma: c.chroma.powf(by), warm: c.warm * by, ..c }
}

fn mix(from: f64, to: f64, share: f64) -> f64 {
    from + (to - from) * share
}

/// Two colours named one after the other: the last rules. A grey, white or black beside a colour dulls it and draws its lightness.
fn beside(before: Lab, last: Lab) -> Lab {
    match (before.chroma() < GREY, last.chroma() < GREY) {
        (true, false) => greyed(last, before, 1.0),
        (false, true) => greyed(before, last, 1.0),
        _ => Lab::new(mix(last.l, before.l, BEFORE), mix(last.a, before.a, BEFORE), mix(last.b, before.b, BEFORE)),
    }
}

fn greyed(colour: Lab, grey: Lab, by: f64) -> Lab {
    let chroma = GREYED.powf(by);
    Lab::new(mix(colour.l, grey.l, TO_GREY * by), colour.a * chroma, colour.b * chroma)
}

fn changed(lab: Lab, c: Change) -> Lab {
    let (sin, cos) = WARM_POLE.to_radians().sin_cos();
    Lab::new(mix(lab.l, c.to, c.lighten), lab.a * c.chroma + c.warm * cos, lab.b * c.chroma + c.warm * sin)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::difference::ciede2000;
    use proptest::prelude::*;

    fn lab(text: &str) -> Lab {
        read(text).unwrap_or_else(|| panic!("{text} is understood")).lab
    }

    #[test]
    fn words_that_change_a_colour_change_it_the_way_they_say() {
        assert!(lab("pale blue").l > lab("blue").l + 15.0 && lab("pale blue").chroma() < lab("blue").chroma());
        assert!(lab("dark green").l < lab("green").l - 15.0);
        assert!(lab("dull red").chroma() < 0.7 * lab("red").chroma());
        assert!(lab("warm grey").temperature().0 > 5.0 && lab("cool grey").temperature().0 < -5.0);
        assert!(lab("very dark green").l < lab("dark green").l && lab("slightly dark green").l > lab("dark green").l);
    }

    #[test]
    fn two_names_make_one_colour_and_the_last_rules() {
        let (one, other) = (lab("blue green"), lab("green blue"));
        assert!(ciede2000(one, lab("green")) < ciede2000(one, lab("blue")));
        assert!(ciede2000(other, lab("blue")) < ciede2000(other, lab("green")));
        assert_eq!(lab("blue-green"), one);
        assert!(lab("blue grey").chroma() < 0.6 * lab("blue").chroma() && lab("blue grey").hue().apart(lab("blue").hue()) < 3.0);
        assert!(lab("greenish yellow").hue().0 > lab("yellow").hue().0);
        assert!(lab("greyish violet").chroma() < lab("violet").chroma());
    }

    #[test]
    fn what_is_no_colour_is_passed_over() {
        assert_eq!(lab("turquoise shed"), lab("turquoise"));
        assert_eq!(lab("like slate"), lab("slate"));
        assert!(lab("the colour of wet slate").hue().apart(lab("slate").hue()) < 1e-6 && lab("wet slate").l < lab("slate").l);
        assert!(lab("turquoise shed, grey and pale").chroma() < 0.5 * lab("turquoise").chroma());
        assert!(read("a boat").is_none() && read("").is_none() && read("shed no 4").is_none());
    }

    #[test]
    fn doubt_follows_what_was_said() {
        let [open, dark, navy, plain] = ["grey or something dark", "dark", "navy", "blue"].map(|t| read(t).unwrap());
        assert!(dark.says_value && !dark.says_hue && dark.colour_error > navy.colour_error);
        assert!(navy.says_value && navy.value_error < plain.value_error && !plain.says_value);
        assert!(open.says_hue && open.says_value);
        assert!(read("warm").is_some_and(|w| !w.says_hue && !w.says_value && w.lab.temperature().0 > 5.0));
    }

    proptest! {
        #[test]
        fn any_words_give_a_real_colour_or_none(words in prop::collection::vec("(very|little|pale|deep|dull|vivid|warm|cool|greyish|slate|lemon|navy|sea|green|white|[a-z]{1,6})", 0..8)) {
            if let Some(w) = read(&words.join(" ")) {
                prop_assert!(crate::real::is_real(w.lab.xyz()), "{:?}", w.lab);
                prop_assert!(w.value_error > 0.0 && w.colour_error > 0.0);
            }
        }
    }
}
