//! Surfaces to work on. A colour without its ground is a lie.

use lean_colour::{Lab, Reflectance, screen};
use serde::{Deserialize, Serialize};

/// Stable name of a ground.
#[derive(Clone, Debug, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(transparent)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct GroundId(pub String);

/// A surface to work on. Its colour is modelled (chosen for the product), not measured.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Ground {
    /// Stable name.
    pub id: GroundId,
    /// Plain name.
    pub name: String,
    /// Its colour under daylight.
    pub lab: Lab,
    /// The same for the screen, `#rrggbb`.
    pub hex: String,
}

/// The shipped grounds: id, plain name, colour.
const SHIPPED: &[(&str, &str, [f64; 3])] = &[
    ("sanded-warm-grey", "fine sanded paper, warm grey", [67.5, 1.2, 5.2]),
    ("sanded-umber", "fine sanded paper, dark umber", [34.0, 5.0, 9.5]),
    ("laid-cool-grey", "laid paper, cool grey", [72.0, -1.0, -3.5]),
    ("paper-white", "smooth white paper", [94.0, -0.3, 2.2]),
    ("panel-white", "primed panel, white", [95.0, -0.4, 1.8]),
    ("panel-ochre", "primed panel, toned ochre", [62.0, 9.0, 24.0]),
    ("panel-grey", "primed panel, middle grey", [58.0, 0.0, 1.0]),
];

/// All shipped grounds.
pub fn shipped() -> Vec<Ground> {
    SHIPPED.iter().map(|(id, name, c)| ground(id, name, Lab::new(c[0], c[1], c[2]))).collect()
}

/// A shipped ground by its id.
pub fn find(id: &GroundId) -> Option<Ground> {
    shipped().into_iter().find(|g| g.id == *id)
}

fn ground(id: &str, name: &str, lab: Lab) -> Ground {
    Ground { id: GroundId(id.into()), name: name.into(), lab, hex: lab.xyz().srgb().hex() }
}

/// Reads a ground from text: a flat reflectance such as `0.88`, a shipped name, or `#rrggbb`.
///
/// A colour becomes a flat reflectance of the same luminance when only that is needed under an opaque layer.
///
/// # Errors
/// Says what was given and which forms are understood.
pub fn parse(text: &str) -> Result<Reflectance, String> {
    if let Ok(flat) = text.parse::<f64>() {
        return if (0.0..=1.0).contains(&flat) {
            Ok(Reflectance::flat(flat))
        } else {
            Err(format!("ground {text}: a flat reflectance lies between 0 and 1"))
        };
    }
    if text.contains(',') {
        return thirty_six(text);
    }
    if let Some(g) = find(&GroundId(text.into())) {
        return Ok(Reflectance::flat(g.lab.xyz().y / 100.0));
    }
    if text.starts_with('#') {
        let rgb = screen::parse_hex(text)?;
        return Ok(Reflectance::flat(screen::xyz_of_srgb(rgb).y / 100.0));
    }
    let known: Vec<_> = SHIPPED.iter().map(|s| s.0).collect();
    Err(format!("no ground called \"{text}\": use a reflectance from 0 to 1, #rrggbb, 36 reflectances, or one of {}", known.join(", ")))
}

fn thirty_six(text: &str) -> Result<Reflectance, String> {
    let numbers: Vec<f64> = text
        .split(',')
        .map(|n| n.trim().parse().map_err(|_| format!("ground: \"{}\" is not a number", n.trim())))
        .collect::<Result<_, String>>()?;
    if let Some(n) = numbers.iter().find(|n| !(0.0..=1.0).contains(*n)) {
        return Err(format!("ground: {n} is no reflectance; each lies between 0 and 1"));
    }
    let given = numbers.len();
    numbers.try_into().map(Reflectance).map_err(|_| format!("ground: {given} reflectances, but 36 are needed (380 to 730 nm by 10)"))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_shipped_ground_is_a_colour_a_screen_can_show() {
        for g in shipped() {
            assert!(g.lab.xyz().srgb().in_gamut, "{}", g.name);
        }
    }

    #[test]
    fn grounds_are_read_from_text() {
        assert_eq!(parse("0.88").unwrap(), Reflectance::flat(0.88));
        assert!(parse("1.4").unwrap_err().contains("between 0 and 1"));
        assert!(parse("#ffffff").is_ok());
        assert_eq!(parse(&["0.5"; 36].join(",")).unwrap(), Reflectance::flat(0.5));
        assert!(parse("0.5,0.6").unwrap_err().contains("2 reflectances"));
        assert!(parse("velvet").unwrap_err().contains("sanded-warm-grey"));
    }
}
