//! What is said of where the numbers of a pigment come from.

use lean_media::{Pigment, Provenance};

/// In a word or two: where they come from, and whether the pigment is at hand; empty of one that is only modelled, which is said of the whole Box.
pub fn known(p: &Pigment) -> String {
    let from = match p.provenance {
        Provenance::Modelled => "",
        Provenance::Given => "as given",
        Provenance::Measured => "measured",
        Provenance::Inferred => "inferred",
    };
    let away = match (p.owned.used_up, p.owned.lent_to.is_empty()) {
        (true, _) => "used up",
        (false, false) => "lent",
        _ => "",
    };
    [from, away].into_iter().filter(|w| !w.is_empty()).collect::<Vec<_>>().join(", ")
}

/// In a sentence, with its doubt.
pub fn known_in_full(p: &Pigment) -> String {
    let doubt = p.doubt.map(|d| format!(", give or take {d:.1}")).unwrap_or_default();
    match p.provenance {
        Provenance::Modelled => "Modelled, not measured.".into(),
        Provenance::Given => "As given in a pigment file.".into(),
        Provenance::Measured => format!("Measured: learned from spectra of your own{doubt}."),
        Provenance::Inferred => {
            format!("Inferred from colours alone{doubt}: its spectrum is one of many, and says nothing about other lamps.")
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use lean_media::library;

    #[test]
    fn what_is_only_modelled_is_said_once_and_what_was_read_with_its_doubt() {
        let modelled = library::find("PB29").unwrap().clone();
        assert_eq!((known(&modelled).as_str(), known_in_full(&modelled).as_str()), ("", "Modelled, not measured."));
        let mut read = Pigment { provenance: Provenance::Inferred, doubt: Some(1.24), ..modelled };
        read.owned.used_up = true;
        assert_eq!(known(&read), "inferred, used up");
        assert!(known_in_full(&read).starts_with("Inferred from colours alone, give or take 1.2:"));
    }
}
