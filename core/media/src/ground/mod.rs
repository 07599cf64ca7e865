//! Surfaces to work on. A colour without its ground is a lie.

mod own;

pub use own::OwnGround;

use crate::broken::by_band;
use crate::choices::Choices;
use crate::medium::Medium;
use crate::opaque::SurfaceOptics;
use lean_colour::inferred::reflectance_of;
use lean_colour::{BANDS, Lab, Reflectance, screen};
use serde::{Deserialize, Serialize};
use std::sync::LazyLock;

/// Stable name of a ground.
#[derive(Clone, Debug, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(transparent)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct GroundId(pub String);

/// How many layers of each kind a ground takes.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Takes {
    /// Layers of pastel.
    pub pastel: u8,
    /// Layers of coloured pencil.
    pub pencil: u8,
    /// Coats of marker.
    pub ink: u8,
    /// Washes, each dry before the next.
    pub wash: u8,
    /// Layers of oil, acrylic or body colour.
    pub paint: u8,
}

/// A surface to work on. Everything about it is modelled (invented for the product), not measured.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Ground {
    /// Stable name.
    pub id: GroundId,
    /// Plain name.
    pub name: String,
    /// Its colour under daylight, bare.
    pub lab: Lab,
    /// The same for the screen, `#rrggbb`.
    pub hex: String,
    /// Roughness, 0 glass-smooth to 1 rough: how unevenly a wash settles, how strokes break.
    pub tooth: f64,
    /// Thirst, 0 to 1.
    pub absorbency: f64,
    /// Mass of pastel its tooth holds (see [`crate::amount::Mass`]).
    pub pastel_mass: f64,
    /// Thickness of pencil film before wax slides on wax.
    pub pencil_film: f64,
    /// Dose of ink in all that sinks in before it bleeds.
    pub ink_dose: f64,
    /// Layers it takes.
    pub takes: Takes,
    /// Minutes a usual wash stays wet.
    pub dry_minutes: f64,
    /// Media it is usually taken for.
    pub suits: Vec<Medium>,
    /// Reflectance inside the surface, before any veil.
    #[serde(skip)]
    #[cfg_attr(feature = "schema", schema(ignore))]
    pub inside: Reflectance,
}

#[derive(Deserialize)]
struct File {
    grounds: Vec<Entry>,
}

#[derive(Deserialize)]
struct Entry {
    id: String,
    name: String,
    lab: [f64; 3],
    tooth: f64,
    absorbency: f64,
    pastel_mass: f64,
    pencil_film: f64,
    ink_dose: f64,
    takes: Takes,
    dry_minutes: f64,
    suits: Vec<Medium>,
}

static SHIPPED: LazyLock<Vec<Ground>> = LazyLock::new(|| {
    let file: File = serde_json::from_str(include_str!("../../data/grounds.json")).expect("the shipped grounds are readable");
    file.grounds.into_iter().map(Ground::from).collect()
});

impl From<Entry> for Ground {
    fn from(e: Entry) -> Self {
        let lab = Lab::new(e.lab[0], e.lab[1], e.lab[2]);
        let seen = reflectance_of(lab.xyz()).reflectance;
        let veil = Choices::default().paper_veil;
        Self {
            id: GroundId(e.id),
            name: e.name,
            hex: lab.xyz().srgb().hex(),
            lab,
            tooth: e.tooth,
            absorbency: e.absorbency,
            pastel_mass: e.pastel_mass,
            pencil_film: e.pencil_film,
            ink_dose: e.ink_dose,
            takes: e.takes,
            dry_minutes: e.dry_minutes,
            suits: e.suits,
            inside: by_band(|i| ((seen.0[i] - veil) / (1.0 - veil)).clamp(0.0, 1.0)),
        }
    }
}

impl Ground {
    /// Reflectance of the bare ground as it is seen.
    pub fn seen(&self) -> Reflectance {
        let veil = Choices::default().paper_veil;
        by_band(|i| veil + (1.0 - veil) * self.inside.0[i])
    }

    /// Reflectance inside `surface`, so that bare ground under it is seen as it is without.
    pub fn under(&self, surface: SurfaceOptics) -> Reflectance {
        let seen = self.seen();
        by_band(|i| surface.inside(seen.0[i]))
    }

    /// A ground known only by its reflectance inside the surface: smooth, patient, as deep as the deepest shipped one.
    pub fn of(inside: Reflectance) -> Self {
        let lab = inside.xyz().lab();
        Self {
            id: GroundId("given".into()),
            name: "a given ground".into(),
            lab,
            hex: lab.xyz().srgb().hex(),
            tooth: 0.0,
            absorbency: 0.5,
            pastel_mass: 4.0,
            pencil_film: 1.2,
            ink_dose: f64::INFINITY,
            takes: Takes { pastel: u8::MAX, pencil: u8::MAX, ink: u8::MAX, wash: u8::MAX, paint: u8::MAX },
            dry_minutes: 20.0,
            suits: Vec::new(),
            inside,
        }
    }
}

/// All shipped grounds.
pub fn shipped() -> &'static [Ground] {
    &SHIPPED
}

/// A ground by its id: a shipped one, or one of one's own, whose id says all of it.
pub fn find(id: &GroundId) -> Option<Ground> {
    SHIPPED.iter().find(|g| g.id == *id).cloned().or_else(|| own::read(id))
}

/// The ground a medium is usually worked on: the first shipped one that is taken for it, white paper or panel where there is one.
pub fn usual(medium: Medium) -> Ground {
    let id = match medium {
        Medium::SoftPastel => "sanded-warm-grey",
        Medium::Marker => "marker-white",
        Medium::Pencil => "drawing-white",
        Medium::Watercolour => "cold-pressed",
        Medium::Oil => "panel-white",
    };
    find(&GroundId(id.into())).unwrap_or_else(|| SHIPPED[0].clone())
}

/// Reads a ground from text: a flat reflectance such as `0.88`, 36 reflectances with commas or blanks between (inside the surface),
/// a shipped name, or `#rrggbb` as it is seen.
///
/// # Errors
/// Says what was given and which forms are understood.
pub fn parse(text: &str) -> Result<Ground, String> {
    let text = text.trim();
    if let Ok(flat) = text.parse::<f64>() {
        return if (0.0..=1.0).contains(&flat) {
            Ok(Ground::of(Reflectance::flat(flat)))
        } else {
            Err(format!("ground {text}: a flat reflectance lies between 0 and 1"))
        };
    }
    if let Some(g) = find(&GroundId(text.into())) {
        return Ok(g);
    }
    if text.starts_with('#') {
        let xyz = screen::xyz_of_srgb(screen::parse_hex(text)?);
        return Ok(Ground::of(reflectance_of(xyz).reflectance));
    }
    if text.contains(',') || text.split_whitespace().count() > 1 {
        return thirty_six(text).map(Ground::of);
    }
    let known: Vec<_> = SHIPPED.iter().map(|s| s.id.0.as_str()).collect();
    Err(format!("no ground called \"{text}\": use a reflectance from 0 to 1, #rrggbb, 36 reflectances, or one of {}", known.join(", ")))
}

/// Reads 36 reflectances with commas or blanks between.
///
/// # Errors
/// Says which is no reflectance, or how many there are.
pub fn thirty_six(text: &str) -> Result<Reflectance, String> {
    let numbers: Vec<f64> = text
        .split(|c: char| c == ',' || c == ';' || c == '[' || c == ']' || c.is_whitespace())
        .filter(|n| !n.is_empty())
        .map(|n| n.parse().map_err(|_| format!("ground: \"{n}\" is not a number")))
        .collect::<Result<_, String>>()?;
    if let Some(n) = numbers.iter().find(|n| !(0.0..=1.0).contains(*n)) {
        return Err(format!("ground: {n} is no reflectance; each lies between 0 and 1"));
    }
    let given = numbers.len();
    let bands: [f64; BANDS] =
        numbers.try_into().map_err(|_| format!("ground: {given} reflectances, but 36 are needed (380 to 730 nm by 10)"))?;
    Ok(Reflectance(bands))
}

#[cfg(test)]
mod tests {
    use super::*;
    use lean_colour::difference::ciede2000;

    #[test]
    fn every_shipped_ground_is_a_colour_a_screen_can_show_and_takes_something() {
        assert!(shipped().len() >= 12);
        for g in shipped() {
            assert!(g.lab.xyz().srgb().in_gamut, "{}", g.name);
            assert!(g.takes.pastel > 0 && g.takes.pencil > 0 && g.takes.paint > 0 && !g.suits.is_empty(), "{}", g.name);
            let veil = Choices::default().paper_veil;
            let bare = by_band(|i| veil + (1.0 - veil) * g.inside.0[i]).xyz().lab();
            assert!(ciede2000(bare, g.lab) < 0.5, "{}: {bare:?} {:?}", g.name, g.lab);
        }
    }

    #[test]
    fn every_medium_has_a_usual_ground_that_suits_it() {
        for medium in Medium::ALL {
            assert!(usual(medium).suits.contains(&medium), "{medium:?}");
        }
    }

    #[test]
    fn grounds_are_read_from_text() {
        assert_eq!(parse("0.88").unwrap().inside, Reflectance::flat(0.88));
        assert!(parse("1.4").unwrap_err().contains("between 0 and 1"));
        assert!(parse("#ffffff").is_ok());
        assert_eq!(parse(&["0.5"; 36].join(",")).unwrap().inside, Reflectance::flat(0.5));
        assert!(parse("0.5,0.6").unwrap_err().contains("2 reflectances"));
        assert!(parse("velvet").unwrap_err().contains("sanded-warm-grey"));
        assert_eq!(parse("kraft-brown").unwrap().name, "kraft paper, brown");
    }
}
