//! `lean-swatch values IMAGE [--groups N] [--out PNG]`

use crate::pictures::png;
use clap::Args;
use lean_picture::decode;
use lean_picture::values::{Ladder, ladder};
use lean_picture::views::{View, draw};
use std::path::PathBuf;

#[derive(Args)]
pub(super) struct Values {
    /// JPEG, PNG, WebP or TIFF.
    image: PathBuf,
    /// Number of value groups, 1 to 12.
    #[arg(long, default_value_t = 5, value_parser = clap::value_parser!(u8).range(1..=12))]
    groups: u8,
    /// Write the picture in those groups of grey to this PNG.
    #[arg(long)]
    out: Option<PathBuf>,
}

pub(super) fn run(a: Values) -> Result<Ladder, String> {
    let bytes = std::fs::read(&a.image).map_err(|e| format!("{}: {e}", a.image.display()))?;
    let picture = decode(&bytes).map_err(|e| format!("{}: {e}", a.image.display()))?;
    let groups = usize::from(a.groups);
    if let Some(out) = a.out {
        let grey = draw(&picture, View::Values, Some(groups));
        let bytes = png(&grey).map_err(|p| p.detail)?;
        std::fs::write(&out, bytes).map_err(|e| format!("{}: {e}", out.display()))?;
    }
    Ok(ladder(&picture, groups))
}
