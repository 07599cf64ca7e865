//! Short, calm cautions where materials can hurt. The label and safety data sheet always come first.

use lean_media::{Medium, Pigment};

/// What every caution ends with.
const FIRST: &str = "The label and safety data sheet come first; follow local rules.";

/// Cautions for working in a medium with these pigments.
pub fn cautions(medium: Medium, pigments: &[&Pigment]) -> Vec<String> {
    let mut found = Vec::new();
    if let Some(caution) = of_medium(medium) {
        found.push(format!("{caution} {FIRST}"));
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

fn of_medium(medium: Medium) -> Option<&'static str> {
    match medium {
        Medium::SoftPastel => {
            Some("Pastel and sanded paper make fine dust: wipe it up wet, never blow; no food nearby; wear a mask rated for fine dust.")
        }
        Medium::Marker => Some("Alcohol pens: open a window, no flames, keep the ink off the skin; cap each pen after use."),
        Medium::Oil => Some(
            "Rags with drying oil can set themselves on fire: lay them flat to dry outdoors, or keep them under water in a closed metal tin. \
             Solvents: open a window, no flames.",
        ),
        Medium::Pencil | Medium::Watercolour => None,
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use lean_media::library;

    #[test]
    fn every_caution_defers_to_the_label() {
        let cadmium = library::find("PR108").unwrap();
        for medium in Medium::ALL {
            let all = cautions(medium, &[cadmium]);
            assert!(all.iter().all(|c| c.contains("safety data sheet")));
            assert!(all.last().unwrap().contains("cadmium"));
        }
        assert_eq!(cautions(Medium::Oil, &[library::find("PB29").unwrap()]).len(), 1);
    }
}
