//! Names in sentences: one thing is, several are.

use super::capital;

/// Words that end as if there were several and mean one.
const ONE: [&str; 9] = ["grass", "glass", "brass", "moss", "dress", "canvas", "iris", "cactus", "cross"];

/// Whether a name means several things: "far hills", "pole and gates", "boards, turning"; not "grass in shade".
pub(crate) fn is_plural(name: &str) -> bool {
    // What stands after a comma or a small word says where it is or how it turns.
    let head = name.split([',', '(']).next().unwrap_or(name);
    let before =
        |word: &&str| !["in", "on", "by", "of", "at", "under", "behind", "beside", "with", "from", "near", "below", "above"].contains(word);
    let words: Vec<&str> = head.split_whitespace().take_while(before).collect();
    if words.contains(&"and") {
        return true;
    }
    words.last().is_some_and(|last| {
        let last = last.to_lowercase();
        last.ends_with('s')
            && !last.ends_with("ss")
            && !last.ends_with("'s")
            && !last.ends_with("us")
            && !last.ends_with("is")
            && !ONE.contains(&last.as_str())
    })
}

/// "is" or "are" after a name that stands for so many zones or masses.
pub(crate) fn verb(name: &str, count: usize) -> &'static str {
    if count > 1 || is_plural(name) { "are" } else { "is" }
}

/// A name at the head of a sentence with its verb: "Far hills are", "Sky is".
pub fn subject(name: &str) -> String {
    format!("{} {}", capital(name), verb(name, 1))
}

/// What stands for a name: "it" or "them".
pub fn it(name: &str) -> &'static str {
    if is_plural(name) { "them" } else { "it" }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn one_thing_is_and_several_are() {
        for (name, words) in [
            ("far hills", "Far hills are"),
            ("sky", "Sky is"),
            ("grass", "Grass is"),
            ("pole and gates", "Pole and gates are"),
            ("boards, turning", "Boards, turning are"),
            ("shelf in shade", "Shelf in shade is"),
            ("boards by the lamp", "Boards by the lamp are"),
            ("wall of the houses", "Wall of the houses is"),
            ("bell's shadow", "Bell's shadow is"),
            ("zone 4", "Zone 4 is"),
            ("glass", "Glass is"),
            ("tins in shade", "Tins in shade are"),
        ] {
            assert_eq!(subject(name), words);
        }
        assert_eq!((verb("sky", 2), it("hills"), it("sky")), ("are", "them", "it"));
    }
}
