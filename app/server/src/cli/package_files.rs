//! Manual pages and shell completions of a package, made of the description that `--help` prints.

use super::described;
use clap::Args;
use clap_complete::{Shell, generate_to};
use std::path::PathBuf;

#[derive(Args)]
pub(crate) struct PackageFiles {
    /// Folder the files are written to, in `man` and `completions`; made when it is not there.
    folder: PathBuf,
}

/// Writes the files.
pub(super) fn write(a: &PackageFiles) -> Result<(), String> {
    let (manual, completions) = (a.folder.join("man"), a.folder.join("completions"));
    let problem = |e: std::io::Error| format!("{}: {e}", a.folder.display());
    for folder in [&manual, &completions] {
        std::fs::create_dir_all(folder).map_err(problem)?;
    }
    clap_mangen::generate_to(described(), &manual).map_err(problem)?;
    for shell in [Shell::Bash, Shell::Zsh, Shell::Fish] {
        generate_to(shell, &mut described(), "lean-swatch", &completions).map_err(problem)?;
    }
    Ok(())
}
