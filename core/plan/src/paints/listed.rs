//! A Box typed or pasted as a list: `PB29, PY43, burnt sienna`, one after the other or one a line.

use lean_media::{Pigment, PigmentId, library};
use serde::Serialize;

/// What one entry of a list was taken for.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Entry {
    /// What was typed.
    pub typed: String,
    /// The shipped modelled pigment it was taken for; `None` where none is called that.
    pub pigment: Option<PigmentId>,
    /// What that is called, or what to type instead.
    pub words: String,
}

/// Entries in a list, 1 to so many.
const MOST: usize = 500;

/// Characters of the longest entry.
const LONGEST: usize = 200;

/// Reads a list: entries parted by commas, semicolons, tabs or lines.
///
/// # Errors
/// When nothing is in it, or far too much.
pub fn read(text: &str) -> Result<Vec<Entry>, String> {
    let typed: Vec<&str> = text.split([',', ';', '\n', '\t']).map(str::trim).filter(|t| !t.is_empty()).collect();
    match typed.len() {
        0 => Err("Nothing is in that list. Type names parted by commas, as in PB29, PY43, burnt sienna.".into()),
        n if n > MOST => Err(format!("{n} entries are more than the {MOST} a Box holds.")),
        _ if typed.iter().any(|t| t.chars().count() > LONGEST) => {
            Err(format!("A name of more than {LONGEST} characters is none. Part names by commas or lines."))
        }
        _ => Ok(typed.into_iter().map(entry).collect()),
    }
}

fn entry(typed: &str) -> Entry {
    let found = |p: &Pigment| Entry { typed: typed.into(), pigment: Some(p.id.clone()), words: p.name.clone() };
    let key = plain(typed);
    let all = library::modelled();
    let exact = all.iter().find(|p| plain(&p.id.0) == key || plain(&p.name) == key);
    // A generic name that several pigments share is taken for the first of them.
    let generic = || all.iter().find(|p| p.colour_index.iter().any(|c| plain(c) == key));
    let within = || {
        let named = all.iter().filter(|p| holds(&key, &plain(&p.name)));
        named.min_by_key(|p| plain(&p.name).len().abs_diff(key.len()))
    };
    match exact.or_else(generic).or_else(within) {
        Some(p) => found(p),
        None => Entry { typed: typed.into(), pigment: None, words: nearest(&key) },
    }
}

/// Letters and digits alone, small.
fn plain(text: &str) -> String {
    text.chars().filter(char::is_ascii_alphanumeric).collect::<String>().to_ascii_lowercase()
}

/// Whether one name holds the other whole, both long enough to mean something.
fn holds(a: &str, b: &str) -> bool {
    const LEAST: usize = 5;
    a.len() >= LEAST && b.len() >= LEAST && (a.contains(b) || b.contains(a))
}

/// What to type instead: the names that share most letters in their order.
fn nearest(key: &str) -> String {
    let mut by: Vec<(usize, &Pigment)> =
        library::modelled().iter().map(|p| (common(key, &plain(&p.name)).max(common(key, &plain(&p.id.0))), p)).collect();
    by.sort_by_key(|(n, _)| std::cmp::Reverse(*n));
    let near: Vec<String> = by.iter().take(2).filter(|(n, _)| *n >= 3).map(|(_, p)| format!("{} ({})", p.name, p.id)).collect();
    if near.is_empty() { "nothing that is shipped is called that".into() } else { format!("do you mean {}?", near.join(" or ")) }
}

/// Length of the longest sequence of letters both have in the same order.
fn common(a: &str, b: &str) -> usize {
    let b: Vec<char> = b.chars().collect();
    let mut row = vec![0usize; b.len() + 1];
    for x in a.chars() {
        let mut diagonal = 0;
        for (j, y) in b.iter().enumerate() {
            let above = row[j + 1];
            row[j + 1] = if x == *y { diagonal + 1 } else { above.max(row[j]) };
            diagonal = above;
        }
    }
    row[b.len()]
}

/// Gives every pigment an id no other of `taken` has.
pub fn with_free_ids(pigments: Vec<Pigment>, taken: &[Pigment]) -> Vec<Pigment> {
    let mut used: Vec<PigmentId> = taken.iter().map(|p| p.id.clone()).collect();
    let free = |p: Pigment| {
        let mut ids = std::iter::once(p.id.clone()).chain((2..).map(|n| PigmentId(format!("{}-{n}", p.id))));
        let id = ids.find(|id| !used.contains(id)).unwrap_or_else(|| p.id.clone());
        used.push(id.clone());
        Pigment { id, ..p }
    };
    pigments.into_iter().map(free).collect()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_pasted_list_is_understood_or_told_what_to_type() {
        let got = read("PB29, pbr7 burnt sienna; Yellow Ochre\nPR 254\nvelvet dream, ultramarin, genuine cadmium red").unwrap();
        let ids: Vec<Option<&str>> = got.iter().map(|e| e.pigment.as_ref().map(|p| p.0.as_str())).collect();
        assert_eq!(ids, [Some("PB29"), Some("PBr7-burnt-sienna"), Some("PY43"), Some("PR254"), None, Some("PB29"), Some("PR108")]);
        assert!(read("ultramrine").unwrap()[0].words.contains("ultramarine (PB29)"));
        assert!(read(" ,\n").unwrap_err().contains("PB29"));
        assert!(read(&"a,".repeat(600)).unwrap_err().contains("600"));
    }

    #[test]
    fn two_of_one_kind_get_ids_of_their_own() {
        let blue = library::find("PB29").unwrap();
        let ids: Vec<String> =
            with_free_ids(vec![blue.clone(), blue.clone()], std::slice::from_ref(blue)).into_iter().map(|p| p.id.0).collect();
        assert_eq!(ids, ["PB29-2", "PB29-3"]);
    }
}
