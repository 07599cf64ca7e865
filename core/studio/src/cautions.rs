//! Short, calm cautions where materials can hurt. The label and safety data sheet always come first.

use lean_media::{Medium, Pigment};

/// What every caution ends with.
const FIRST: &str = "The label and safety data sheet come first; follow local rules.";

/// Cautions for working in a medium with these pigments.
pub fn cautions(medium: Medium, pigments: &[&Pigment]) -> Vec<String> {
    let mut found = Vec::new();
    match medium {
        Medium::SoftPastel => found.push(format!("Pastel and sanded paper make fine dust: wipe it up wet, never blow; no food nearby; wear a mask rated for fine dust. {FIRST}")),
        Medium::Oil => found.push(format!(
            "Rags with drying oil can set themselves on fire: lay them flat to dry outdoors, or keep them under water in a closed metal tin. Solvents: open a window, no flames. {FIRST}"
        )),
    }
    let named: Vec<String> = pigments.iter().filter(|p| !p.hazard.is_empty()).map(|p| format!("{} ({})", p.name, p.hazard)).collect();
    if !named.is_empty() {
        found.push(format!(
            "{}: no dust, no spray, no brush in the mouth; gloves; leftovers go to hazardous waste. {FIRST}",
            named.join(", ")
        ));
    }
    found
}

#[cfg(test)]
mod tests {
    use super::*;
    use lean_media::library;

    #[test]
    fn every_caution_defers_to_the_label() {
        let cadmium = library::find("PR108").unwrap();
        for medium in [Medium::SoftPastel, Medium::Oil] {
            let all = cautions(medium, &[cadmium]);
            assert_eq!(all.len(), 2);
            assert!(all.iter().all(|c| c.contains("safety data sheet")));
            assert!(all[1].contains("cadmium"));
        }
        assert_eq!(cautions(Medium::Oil, &[library::find("PB29").unwrap()]).len(), 1);
    }
}
