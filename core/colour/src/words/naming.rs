//! Plain words for a colour.

use super::{GREY, read};
use crate::difference::ciede2000;
use crate::lab::Lab;
use std::sync::LazyLock;

/// Colours by their plainest names, and what is said of them. Choices: words everybody has.
const COLOURS: [&str; 28] = [
    "red",
    "orange",
    "yellow",
    "green",
    "blue",
    "violet",
    "purple",
    "pink",
    "brown",
    "ochre",
    "olive",
    "turquoise",
    "rose",
    "rust",
    "salmon",
    "sand",
    "lemon",
    "blue green",
    "yellow green",
    "red violet",
    "red brown",
    "warm grey",
    "cool grey",
    "grey",
    "blue grey",
    "green grey",
    "white",
    "black",
];
const SAID: [&str; 8] = ["", "pale", "light", "dull", "dark", "deep", "pale dull", "dark dull"];

/// CIEDE2000 that every further word of a name must gain. A choice: the plainest of names that are near.
const A_WORD: f64 = 0.5;

static NAMED: LazyLock<Vec<(String, Lab)>> = LazyLock::new(|| {
    // A grey cannot be dull.
    let fits = |colour: &str, said: &str| !(said.contains("dull") && read(colour).is_some_and(|w| w.lab.chroma() < GREY));
    let all = COLOURS.iter().flat_map(|colour| SAID.iter().map(move |said| (*colour, *said))).filter(|(colour, said)| fits(colour, said));
    all.map(|(colour, said)| format!("{said} {colour}").trim().to_owned()).filter_map(|name| read(&name).map(|w| (name, w.lab))).collect()
});

/// The plain words that come nearest to a colour: "deep blue green".
pub fn named(lab: Lab) -> String {
    let off = |n: &(String, Lab)| ciede2000(lab, n.1) + A_WORD * n.0.split(' ').count() as f64;
    let nearest = NAMED.iter().min_by(|a, b| off(a).total_cmp(&off(b)));
    nearest.map(|n| n.0.clone()).unwrap_or_default()
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::real::toward_real;

    #[test]
    fn words_read_back_come_near_the_colour_they_name() {
        let mut off: Vec<f64> = (0..360)
            .step_by(20)
            .flat_map(|h| {
                [(25.0, 18.0), (45.0, 40.0), (70.0, 30.0), (85.0, 10.0)].map(|(l, c)| toward_real(Lab::from_lch(l, c, f64::from(h))))
            })
            .map(|lab| ciede2000(lab, read(&named(lab)).unwrap().lab))
            .collect();
        off.sort_by(f64::total_cmp);
        assert!(off[off.len() / 2] < 9.0 && off[off.len() * 9 / 10] < 18.0, "{:.1} {:.1}", off[off.len() / 2], off[off.len() * 9 / 10]);
    }

    #[test]
    fn plain_colours_have_plain_names() {
        assert_eq!(named(Lab::new(96.0, 0.0, 1.0)), "white");
        assert_eq!(named(Lab::new(13.0, 0.0, 0.0)), "black");
        assert_eq!(named(read("turquoise").unwrap().lab), "turquoise");
        assert!(named(Lab::from_lch(26.0, 30.0, 145.0)).contains("green"));
    }
}
