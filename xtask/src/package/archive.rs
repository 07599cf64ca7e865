//! The plain archive: folders to copy into a prefix, and nothing that runs.

use super::{Version, create, files, run};
use crate::steps::root;
use std::path::{Path, PathBuf};
use std::process::Command;

/// Makes the archive and gives its place.
pub(super) fn package(program: &Path, beside: &Path, making: &Path, out: &Path, version: &Version, quick: bool) -> Result<PathBuf, String> {
    let name = format!("lean-swatch-{}-linux-{}", version.number, std::env::consts::ARCH);
    let tree = making.join("archive");
    let top = tree.join(&name);
    files::lay_out(program, beside, &top)?;
    std::fs::copy(root().join("xtask/files/ARCHIVE-README.txt"), top.join("README.txt")).map_err(|e| format!("README.txt: {e}"))?;
    files::same_each_time(&tree, version)?;
    create(out)?;
    let package = out.join(format!("{name}.tar.xz"));
    let mut make = Command::new("tar");
    make.env("XZ_OPT", if quick { "-0 -T1" } else { "-9 -T1" });
    make.args(["--sort=name", "--owner=0", "--group=0", "--numeric-owner", "--format=gnu", "--xz", "--create", "--file"]).arg(&package);
    run(make.arg("--directory").arg(&tree).arg(&name))?;
    Ok(package)
}
