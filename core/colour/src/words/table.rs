//! The words that are understood: names of colours and things that have one, and what changes them.

use crate::lab::Lab;
use std::collections::BTreeMap;
use std::sync::LazyLock;

/// Most words a name has.
pub(super) const LONGEST: usize = 2;

/// Names, each with a usual colour of it: CIELAB lightness, chroma and hue angle as painters would mix it. Choices.
static NAMES: LazyLock<BTreeMap<&'static str, Lab>> = LazyLock::new(|| {
    let lines = include_str!("../../data/colour_words.csv").lines().skip(1);
    lines
        .map(|line| {
            let mut fields = line.split(',');
            let name = fields.next().unwrap_or_default();
            let numbers: Vec<f64> = fields.map(|n| n.parse().expect("a number in the table of colour words")).collect();
            (name, Lab::from_lch(numbers[0], numbers[1], numbers[2]))
        })
        .collect()
});

/// Hues alone: their lightness is open until another word says it.
const OPEN: [&str; 14] =
    ["red", "orange", "yellow", "green", "blue", "violet", "purple", "pink", "brown", "grey", "gray", "turquoise", "teal", "magenta"];

/// The colour of a name, and whether the name says its lightness, too.
pub(super) fn named(name: &str) -> Option<(Lab, bool)> {
    NAMES.get(name).map(|lab| (*lab, !OPEN.contains(&name)))
}

/// Every name, in alphabetical order.
pub(super) fn names() -> impl Iterator<Item = &'static str> {
    NAMES.keys().copied()
}

/// The change a word makes to a colour.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) struct Change {
    /// Share of the way to [`Self::to`] that lightness goes.
    pub lighten: f64,
    /// The lightness it goes to.
    pub to: f64,
    /// Factor on chroma.
    pub chroma: f64,
    /// CIELAB units towards the warm pole.
    pub warm: f64,
}

const fn change(lighten: f64, to: f64, chroma: f64, warm: f64) -> Change {
    Change { lighten, to, chroma, warm }
}

/// Words that change a colour. Choices, by what painters lay when they are told so.
const CHANGES: [(&str, Change); 41] = [
    ("pale", change(0.55, 94.0, 0.55, 0.0)),
    ("light", change(0.45, 94.0, 0.8, 0.0)),
    ("lighter", change(0.3, 94.0, 0.9, 0.0)),
    ("pastel", change(0.6, 92.0, 0.5, 0.0)),
    ("faded", change(0.35, 90.0, 0.5, 0.0)),
    ("bleached", change(0.6, 94.0, 0.4, 0.0)),
    ("washed", change(0.45, 92.0, 0.5, 0.0)),
    ("sunlit", change(0.35, 94.0, 1.05, 6.0)),
    ("dark", change(0.5, 8.0, 0.8, 0.0)),
    ("darker", change(0.3, 8.0, 0.9, 0.0)),
    ("deep", change(0.45, 10.0, 1.0, 0.0)),
    ("shadowed", change(0.45, 10.0, 0.7, -4.0)),
    ("shaded", change(0.4, 10.0, 0.75, -4.0)),
    ("wet", change(0.25, 10.0, 1.1, 0.0)),
    ("mid", change(0.0, 50.0, 1.0, 0.0)),
    ("middle", change(0.0, 50.0, 1.0, 0.0)),
    ("dull", change(0.0, 50.0, 0.5, 0.0)),
    ("muted", change(0.0, 50.0, 0.55, 0.0)),
    ("dusty", change(0.15, 80.0, 0.5, 0.0)),
    ("dirty", change(0.2, 30.0, 0.5, 2.0)),
    ("soft", change(0.1, 80.0, 0.7, 0.0)),
    ("subdued", change(0.0, 50.0, 0.6, 0.0)),
    ("drab", change(0.0, 50.0, 0.45, 0.0)),
    ("neutral", change(0.0, 50.0, 0.3, 0.0)),
    ("hazy", change(0.25, 85.0, 0.5, -2.0)),
    ("misty", change(0.4, 88.0, 0.4, -2.0)),
    ("bright", change(0.1, 85.0, 1.3, 0.0)),
    ("vivid", change(0.0, 50.0, 1.4, 0.0)),
    ("strong", change(0.0, 50.0, 1.3, 0.0)),
    ("intense", change(0.0, 50.0, 1.4, 0.0)),
    ("pure", change(0.0, 50.0, 1.35, 0.0)),
    ("rich", change(0.1, 20.0, 1.2, 0.0)),
    ("fresh", change(0.1, 85.0, 1.2, 0.0)),
    ("glowing", change(0.2, 85.0, 1.35, 4.0)),
    ("luminous", change(0.3, 92.0, 1.2, 0.0)),
    ("warm", change(0.0, 50.0, 1.0, 9.0)),
    ("warmer", change(0.0, 50.0, 1.0, 6.0)),
    ("hot", change(0.0, 50.0, 1.2, 14.0)),
    ("cool", change(0.0, 50.0, 1.0, -9.0)),
    ("cooler", change(0.0, 50.0, 1.0, -6.0)),
    ("cold", change(0.0, 50.0, 1.0, -13.0)),
];

/// The change a word makes to a colour; `None` of a word that makes none.
pub(super) fn changing(word: &str) -> Option<Change> {
    CHANGES.iter().find(|(w, _)| *w == word).map(|(_, c)| *c)
}

/// Factor a word puts on the change of the next; `None` of a word that is no such factor.
pub(super) fn strength(word: &str) -> Option<f64> {
    match word {
        "very" | "extremely" => Some(1.5),
        "quite" | "rather" | "fairly" => Some(1.0),
        "slightly" | "slight" | "bit" | "little" | "faintly" | "touch" => Some(0.5),
        _ => None,
    }
}

/// The hue a word in -ish leans to: "bluish", "greenish", "reddish".
pub(super) fn leaning(word: &str) -> Option<Lab> {
    let stem = word.strip_suffix("ish").or_else(|| word.strip_suffix('y'))?;
    let doubled = stem.len() > 2 && stem.as_bytes()[stem.len() - 1] == stem.as_bytes()[stem.len() - 2];
    let tries = [stem.to_owned(), format!("{stem}e"), if doubled { stem[..stem.len() - 1].to_owned() } else { String::new() }];
    tries.iter().find_map(|t| named(t)).map(|(lab, _)| lab)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::real::is_real;

    #[test]
    fn there_are_enough_names_and_every_one_is_a_colour_of_a_real_surface() {
        assert!(names().count() >= 200);
        for name in names() {
            let (lab, _) = named(name).unwrap();
            assert!(is_real(lab.xyz()), "{name}: {lab:?}");
            assert!(name.split(' ').count() <= LONGEST, "{name}");
        }
    }

    #[test]
    fn a_word_has_one_meaning() {
        for (word, _) in CHANGES {
            assert!(named(word).is_none() && strength(word).is_none(), "{word}");
        }
        assert!(OPEN.iter().all(|name| NAMES.contains_key(name)));
    }

    #[test]
    fn leanings_are_found_by_their_stems() {
        for (word, hue) in [("bluish", "blue"), ("reddish", "red"), ("purplish", "purple"), ("whitish", "white"), ("greeny", "green")] {
            assert_eq!(leaning(word), named(hue).map(|n| n.0), "{word}");
        }
        assert_eq!(leaning("fish"), None);
    }
}
