//! `lean-swatch mix --medium oil [--box FILE] [--ground NAME|R36|#hex] RECIPE`

use clap::{Args, ValueEnum};
use lean_colour::{Lab, Oklab, Temperature, Value, Xyz};
use lean_media::opaque::{OIL, Paint};
use lean_media::{Pigment, ground, library, pigment_file, recipe_text};
use serde::Serialize;
use std::path::PathBuf;

#[derive(Clone, Copy, ValueEnum)]
enum MixMedium {
    Oil,
}

#[derive(Args)]
pub struct Mix {
    /// What the pigments are bound in.
    #[arg(long)]
    medium: MixMedium,
    /// A pigment file; the shipped modelled pigments when left out.
    #[arg(long = "box")]
    box_file: Option<PathBuf>,
    /// What it lies on: 0..1, a shipped name, #rrggbb, or 36 reflectances with commas between. An opaque mix hides it.
    #[arg(long)]
    ground: Option<String>,
    /// As in "PB29*1 + PW6*4".
    recipe: String,
}

#[derive(Serialize)]
pub struct Seen {
    reflectance: Vec<f64>,
    xyz: Xyz,
    lab: Lab,
    oklab: Oklab,
    value: Value,
    temperature: Temperature,
    srgb: [u8; 3],
    in_srgb_gamut: bool,
}

pub fn run(a: Mix) -> Result<Seen, String> {
    let MixMedium::Oil = a.medium;
    let given: Option<Vec<Pigment>> = match &a.box_file {
        Some(path) => {
            let text = std::fs::read_to_string(path).map_err(|e| format!("{}: {e}", path.display()))?;
            Some(pigment_file::read(&text).map_err(|e| format!("{}: {e}", path.display()))?)
        }
        None => None,
    };
    if let Some(text) = &a.ground {
        ground::parse(text)?;
    }
    let owned = given.as_deref().unwrap_or(library::modelled());
    let paint = Paint::mixed(&recipe_text::parse(&a.recipe, owned)?)?;
    let r = paint.opaque(OIL);
    let xyz = r.xyz();
    let (lab, screen) = (xyz.lab(), xyz.srgb());
    Ok(Seen {
        reflectance: r.0.to_vec(),
        xyz,
        lab,
        oklab: xyz.oklab(),
        value: lab.value(),
        temperature: lab.temperature(),
        srgb: [screen.r, screen.g, screen.b],
        in_srgb_gamut: screen.in_gamut,
    })
}
