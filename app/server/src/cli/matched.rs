//! `lean-swatch match --box FILE --medium M "L,a,b"`

use super::mix::owned;
use clap::Args;
use lean_colour::typed;
use lean_media::Medium;
use lean_plan::matching::{Mixed, Nearest, mixed, nearest};
use lean_search::progress::Unwatched;
use serde::Serialize;
use std::path::PathBuf;

#[derive(Args)]
pub(super) struct Match {
    /// A pigment file: everything owned.
    #[arg(long = "box")]
    box_file: PathBuf,
    /// The medium: oil, watercolour, marker, pencil or pastel.
    #[arg(long)]
    medium: Medium,
    /// A shipped ground; the usual one of the medium when left out.
    #[arg(long)]
    ground: Option<String>,
    /// The wanted colour: CIELAB under D65, "L,a,b", or as typed anywhere: "#7a6f8c", "dull blue green".
    #[arg(allow_negative_numbers = true)]
    wanted: String,
}

#[derive(Serialize)]
pub(super) struct Printed {
    /// The nearest as they are, and the next lighter and darker.
    nearest: Nearest,
    /// The best mixes of one, two and three, where colours are mixed.
    mixes: Vec<Mixed>,
}

pub(super) fn run(a: Match) -> Result<Printed, String> {
    let wanted = typed::parse(&a.wanted)?;
    let pigments = owned(&a.box_file)?;
    let on = super::lean::ground_of(a.ground.as_deref(), a.medium)?;
    let mixes =
        if a.medium.is_chosen() { Vec::new() } else { mixed(wanted, &pigments, a.medium, &on, &Unwatched).map_err(|e| e.to_string())? };
    Ok(Printed { nearest: nearest(wanted, &pigments, a.medium, &on), mixes })
}
