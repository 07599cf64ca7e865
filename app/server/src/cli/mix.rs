//! `lean-swatch mix --medium oil|watercolour|marker|pencil|pastel [--box FILE] [--ground NAME|R36|FILE|#hex] RECIPE`

use clap::{Args, ValueEnum};
use lean_colour::{Adapted, Lab, Light, Oklab, Temperature, Value, Xyz};
use lean_media::amount::{Rubbing, Thickness};
use lean_media::recipe_text::{Written, layers};
use lean_media::{Ground, Layering, Pigment, Seen, State, ground, library, pigment_file};
use serde::Serialize;
use std::path::{Path, PathBuf};

#[derive(Clone, Copy, PartialEq, ValueEnum)]
enum MixMedium {
    /// Amounts are parts; --film X for a film that lets its ground through.
    Oil,
    /// Amounts are thicknesses X; "lift" lifts the washes beneath.
    Watercolour,
    /// Amounts are doses; "blender" is a colourless one.
    Marker,
    /// Amounts are pressures 0..1; "burnish" presses all beneath flat.
    Pencil,
    /// Amounts are masses of a stick of half pigment, half chalk; a black holds a tenth of chalk.
    Pastel,
}

#[derive(Args)]
pub(super) struct Mix {
    /// What the pigments are bound in.
    #[arg(long)]
    medium: MixMedium,
    /// A pigment file; the shipped modelled pigments when left out.
    #[arg(long = "box")]
    box_file: Option<PathBuf>,
    /// What it lies on: a reflectance 0..1 inside the surface, a shipped name, #rrggbb, 36 reflectances with commas between, or a file
    /// of 36. White paper when left out.
    #[arg(long)]
    ground: Option<String>,
    /// Thickness of every layer of oil; opaque when left out.
    #[arg(long)]
    film: Option<f64>,
    /// Share 0..1 of the pastel beneath that joins each stroke; crisp when left out.
    #[arg(long, default_value_t = 0.0)]
    rubbed: f64,
    /// Later coats of marker go into wet ink.
    #[arg(long)]
    into_wet: bool,
    /// As it looks wet; dry when left out.
    #[arg(long)]
    wet: bool,
    /// The light it is seen under: d65, d50, tungsten or warm-led.
    #[arg(long, default_value = "d65")]
    light: String,
    /// "+" mixes, ">" lays over, first laid first: "PB29*1 + PW6*4", "PY35*0.5 > PB29*0.15".
    #[arg(allow_hyphen_values = true)]
    recipe: String,
}

#[derive(Serialize)]
pub(super) struct Printed {
    reflectance: Vec<f64>,
    xyz: Xyz,
    lab: Lab<Adapted>,
    oklab: Oklab,
    value: Value,
    temperature: Temperature,
    srgb: [u8; 3],
    in_srgb_gamut: bool,
}

pub(super) fn run(a: Mix) -> Result<Printed, String> {
    let light = Light::parse(&a.light)?;
    let given = a.box_file.as_deref().map(owned).transpose()?;
    let ground = a.ground.as_deref().map_or_else(|| ground::parse("0.88"), surface)?;
    let state = if a.wet { State::Wet } else { State::Dry };
    let layers = layers(&a.recipe, written(&a)?, given.as_deref().unwrap_or(library::modelled()))?;
    let laid = Layering { ground: &ground, layers }.lay(state).map_err(|e| e.to_string())?;
    laid.remarks.iter().for_each(|r| eprintln!("lean-swatch: {r}"));
    let seen = Seen::of(&laid.reflectance, light);
    Ok(Printed {
        reflectance: laid.reflectance.0.to_vec(),
        xyz: seen.xyz,
        lab: seen.lab,
        oklab: seen.oklab,
        value: seen.value,
        temperature: seen.temperature,
        srgb: [seen.srgb.r, seen.srgb.g, seen.srgb.b],
        in_srgb_gamut: seen.srgb.in_gamut,
    })
}

fn written(a: &Mix) -> Result<Written, String> {
    if a.film.is_some() && a.medium != MixMedium::Oil {
        return Err("--film is for oil; other media say how much by the amount after *".into());
    }
    if let Some(x) = a.film.filter(|x| !x.is_finite() || *x < 0.0) {
        return Err(format!("a film of {x}: it must be zero or more"));
    }
    Ok(match a.medium {
        MixMedium::Oil => Written::Oil { film: a.film.map(Thickness) },
        MixMedium::Watercolour => Written::Watercolour,
        MixMedium::Marker => Written::Marker { into_wet: a.into_wet },
        MixMedium::Pencil => Written::Pencil,
        MixMedium::Pastel => Written::Pastel { rubbing: Rubbing(a.rubbed) },
    })
}

/// The pigments of a file.
pub(super) fn owned(path: &Path) -> Result<Vec<Pigment>, String> {
    let text = std::fs::read_to_string(path).map_err(|e| format!("{}: {e}", path.display()))?;
    pigment_file::read(&text).map_err(|e| format!("{}: {e}", path.display()))
}

/// A ground from text, or from a file of 36 numbers.
fn surface(text: &str) -> Result<Ground, String> {
    match ground::parse(text) {
        Err(_) if Path::new(text).is_file() => {
            let numbers = std::fs::read_to_string(text).map_err(|e| format!("{text}: {e}"))?;
            ground::thirty_six(&numbers).map(Ground::of).map_err(|e| format!("{text}: {e}"))
        }
        other => other,
    }
}
