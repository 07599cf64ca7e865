//! Reading files that are broken on purpose: every one is read or refused with the line. Longer under `cargo xtask fuzz`.

use lean_media::readings::{exchange, table};
use proptest::prelude::*;

const TABLE: &str = "id,name,L,a,b\nochre,ochre,60.2,12.5,40\nsky,\"sky, pale\",82,-4,-12.5\n";

fn exchanged() -> String {
    exchange::write(&table::read(TABLE).expect("a sound table"))
}

fn broken(text: &str, cuts: &[(f64, String)]) -> String {
    let mut chars: Vec<char> = text.chars().collect();
    for (at, with) in cuts {
        let at = (chars.len() as f64 * at) as usize;
        let end = (at + with.len()).min(chars.len());
        chars.splice(at.min(chars.len())..end, with.chars());
    }
    chars.into_iter().collect()
}

fn cuts() -> impl Strategy<Value = Vec<(f64, String)>> {
    prop::collection::vec((0.0..1.0f64, "[ -~\\n\\t,;\"<>/=0-9eE.+-]{0,12}"), 0..6)
}

proptest! {
    #[test]
    fn a_broken_table_is_read_or_refused(cuts in cuts()) {
        let text = broken(TABLE, &cuts);
        match table::read(&text) {
            Ok(swatches) => prop_assert_eq!(table::read(&table::write(&swatches)).map(|s| s.len()).ok(), Some(swatches.len())),
            Err(e) => prop_assert!(!e.to_string().is_empty()),
        }
    }

    #[test]
    fn a_broken_exchange_file_is_read_or_refused(cuts in cuts()) {
        let text = broken(&exchanged(), &cuts);
        if let Err(e) = exchange::read(&text) {
            prop_assert!(!e.to_string().is_empty());
        }
    }

    #[test]
    fn any_text_is_read_or_refused(text in "\\PC{0,300}") {
        let _ = (table::read(&text), exchange::read(&text));
    }
}
