//! The Debian package, made by Debian's own tool.

use super::{Version, create, files, problem, run, write};
use std::path::{Path, PathBuf};
use std::process::Command;

/// Makes the package and gives its place.
pub(super) fn package(program: &Path, beside: &Path, making: &Path, out: &Path, version: &Version, quick: bool) -> Result<PathBuf, String> {
    let tree = making.join("debian");
    files::lay_out(program, beside, &tree.join("usr"))?;
    let kilobytes = size(&tree)? >> 10;
    write(&tree.join("DEBIAN/control"), control(version, kilobytes, &needed_libc(program)?).as_bytes())?;
    files::same_each_time(&tree, version)?;
    create(out)?;
    let package = out.join(format!("lean-swatch_{}_{}.deb", version.number, architecture()));
    let mut make = Command::new("dpkg-deb");
    make.env("SOURCE_DATE_EPOCH", version.seconds.to_string());
    make.args(["--root-owner-group", "--threads-max=1"]).args(if quick { ["-Zgzip", "-z1"] } else { ["-Zxz", "-z9"] });
    run(make.arg("--build").arg(&tree).arg(&package))?;
    Ok(package)
}

fn architecture() -> &'static str {
    match std::env::consts::ARCH {
        "x86_64" => "amd64",
        "aarch64" => "arm64",
        other => other,
    }
}

fn control(version: &Version, kilobytes: u64, libc: &str) -> String {
    format!(
        "Package: lean-swatch\n\
         Version: {number}\n\
         Architecture: {architecture}\n\
         Maintainer: The Lean Swatch makers <lean-swatch@localhost>\n\
         Installed-Size: {kilobytes}\n\
         Depends: libc6 (>= {libc}), libgcc-s1\n\
         Recommends: xdg-utils\n\
         Section: graphics\n\
         Priority: optional\n\
         Description: colour planner for painters\n \
         From everything you own it finds the few pigments that will do, matches\n \
         the values of a reference, plans the warm-cool harmony, and carries it\n \
         through small colour studies to the final piece. For soft pastel, alcohol\n \
         marker, coloured pencil, watercolour and oil. It opens in your browser and\n \
         needs no network.\n \
         .\n \
         Made from commit {commit}.\n",
        number = version.number,
        architecture = architecture(),
        commit = version.commit,
    )
}

/// Bytes of all files below a folder.
fn size(folder: &Path) -> Result<u64, String> {
    let mut sum = 0;
    for entry in std::fs::read_dir(folder).map_err(|e| problem(folder, &e))?.flatten() {
        let path = entry.path();
        sum += if path.is_dir() { size(&path)? } else { entry.metadata().map_err(|e| problem(&path, &e))?.len() };
    }
    Ok(sum)
}

/// The earliest version of the C library that has everything the program asks for by version, as in "2.34".
fn needed_libc(program: &Path) -> Result<String, String> {
    const MARK: &[u8] = b"GLIBC_2.";
    let bytes = std::fs::read(program).map_err(|e| problem(program, &e))?;
    let asked = bytes.windows(MARK.len()).enumerate().filter(|(_, w)| *w == MARK).map(|(i, _)| i + MARK.len());
    let minor = |at: usize| {
        let digits: String = bytes[at..].iter().take_while(|b| b.is_ascii_digit()).map(|b| char::from(*b)).collect();
        digits.parse::<u32>().ok()
    };
    let newest = asked.filter_map(minor).max();
    newest.map(|minor| format!("2.{minor}")).ok_or_else(|| format!("{} asks for no version of the C library", program.display()))
}
