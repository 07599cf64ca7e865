//! Short, calm cautions where materials can hurt. The label and safety data sheet always come first.

use lean_media::{Medium, Pigment};
use serde::Serialize;

/// What every caution ends with.
const FIRST: &str = "The label and safety data sheet come first; follow local rules.";

/// A caution: one line that is always shown, and the rest on request.
#[derive(Clone, Debug, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Caution {
    /// What to do, on one line.
    pub line: String,
    /// What it is about, and what comes first.
    pub reason: String,
}

/// Cautions for working in a medium with these pigments.
pub fn cautions(medium: Medium, pigments: &[&Pigment]) -> Vec<Caution> {
    let of_medium = of_medium(medium).map(|(line, reason)| Caution { line: line.into(), reason: format!("{reason} {FIRST}") });
    let named: Vec<String> = pigments.iter().filter(|p| !p.hazard.is_empty()).map(|p| format!("{} ({})", p.name, p.hazard)).collect();
    let of_pigments = (!named.is_empty()).then(|| Caution {
        line: match named.len() {
            1 => "One pigment here is hazardous: no dust, no spray, gloves.".into(),
            n => format!("{n} pigments here are hazardous: no dust, no spray, gloves."),
        },
        reason: format!("{}. No brush in the mouth; leftovers go to hazardous waste. {FIRST}", named.join(", ")),
    });
    of_medium.into_iter().chain(of_pigments).collect()
}

fn of_medium(medium: Medium) -> Option<(&'static str, &'static str)> {
    match medium {
        Medium::SoftPastel => Some((
            "Fine dust: wipe it up wet, never blow.",
            "Pastel and sanded paper make fine dust: no food nearby; wear a mask rated for fine dust.",
        )),
        Medium::Marker => Some(("Alcohol pens: open a window, no flames.", "Keep the ink off the skin; cap each pen after use.")),
        Medium::Oil => Some((
            "Oily rags can set themselves on fire: lay them flat outdoors, or keep them under water in a closed metal tin.",
            "Drying oil warms as it takes up air. Solvents: open a window, no flames.",
        )),
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
            assert!(all.iter().all(|c| c.reason.contains("safety data sheet") && c.line.len() < 120));
            assert!(all.last().unwrap().reason.contains("cadmium"));
        }
        assert_eq!(cautions(Medium::Oil, &[library::find("PB29").unwrap()]).len(), 1);
    }
}
