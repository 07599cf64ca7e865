//! Licences of what is packed: our own, and those of every crate, script and font in the program.

use super::{output, problem};
use crate::steps::root;
use std::collections::BTreeMap;
use std::path::{Path, PathBuf};
use std::process::Command;

/// Debian's file of copyrights.
pub(super) fn copyright() -> String {
    "Format: https://www.debian.org/doc/packaging-manuals/copyright-format/1.0/\n\
     Upstream-Name: Lean Swatch\n\
     \n\
     Files: *\n\
     Copyright: the makers of Lean Swatch\n\
     License: MIT or Apache-2.0\n \
     The texts of both stand in LICENSE-MIT and LICENSE-APACHE beside this file.\n\
     \n\
     Files: usr/bin/lean-swatch\n\
     Copyright: the makers of Lean Swatch, and those named in THIRD-PARTY.txt.gz\n\
     License: MIT or Apache-2.0, with parts under the licences in THIRD-PARTY.txt.gz\n \
     The program holds crates, scripts and the fonts Instrument Sans and Spline\n \
     Sans Mono (SIL Open Font License). Their licences stand in THIRD-PARTY.txt.gz.\n"
        .to_owned()
}

/// Every licence text in what others made, with the names of what stands under it.
///
/// # Errors
/// When the crates or the packages of the pages are not there.
pub(super) fn of_others() -> Result<String, String> {
    let mut under: BTreeMap<String, Vec<String>> = BTreeMap::new();
    for (name, folder) in crates()?.into_iter().chain(scripts()?) {
        for text in licences_in(&folder)? {
            under.entry(text).or_default().push(name.clone());
        }
    }
    let mut sections: Vec<(Vec<String>, String)> = under.into_iter().map(|(text, names)| (names, text)).collect();
    sections.sort();
    let line = "-".repeat(72);
    Ok(sections.into_iter().map(|(names, text)| format!("{line}\n{}\n{line}\n\n{text}\n\n", names.join("\n"))).collect())
}

type Named = (String, PathBuf);

/// The crates in the program, with their folders.
fn crates() -> Result<Vec<Named>, String> {
    let cargo = std::env::var("CARGO").unwrap_or_else(|_| "cargo".into());
    let mut tree = Command::new(cargo);
    tree.args(["tree", "--package", "lean-swatch", "--no-default-features", "--edges", "normal", "--prefix", "none", "--format", "{p}"]);
    let text = output(&mut tree)?;
    let mut all: Vec<Named> = Vec::new();
    for line in text.lines() {
        let mut words = line.split(' ');
        let (Some(name), Some(version)) = (words.next(), words.next().and_then(|v| v.strip_prefix('v'))) else { continue };
        // Ours have their folder behind the version.
        if line.contains('(') && !line.contains("(proc-macro)") && !line.ends_with("(*)") {
            continue;
        }
        let folder = format!("{name}-{version}");
        if let Some(at) = registries()?.into_iter().map(|r| r.join(&folder)).find(|f| f.is_dir()) {
            all.push((format!("{name} {version}"), at));
        } else if !name.starts_with("lean-") {
            return Err(format!("the sources of {name} {version} are not there: run cargo fetch"));
        }
    }
    all.sort();
    all.dedup();
    Ok(all)
}

/// Folders with the sources of crates.
fn registries() -> Result<Vec<PathBuf>, String> {
    let home = std::env::var_os("CARGO_HOME").map(PathBuf::from).or_else(|| Some(PathBuf::from(std::env::var_os("HOME")?).join(".cargo")));
    let sources = home.ok_or("neither CARGO_HOME nor HOME is set")?.join("registry/src");
    let entries = std::fs::read_dir(&sources).map_err(|e| problem(&sources, &e))?;
    Ok(entries.flatten().map(|e| e.path()).collect())
}

/// The packages in the pages, with their folders.
fn scripts() -> Result<Vec<Named>, String> {
    let web = root().join("web");
    let listed = output(Command::new("npm").args(["ls", "--all", "--omit=dev", "--parseable", "--prefix"]).arg(&web))?;
    let modules = web.join("node_modules");
    let mut all: Vec<Named> = Vec::new();
    for line in listed.lines() {
        let folder = PathBuf::from(line);
        if let Ok(name) = folder.strip_prefix(&modules) {
            all.push((name.display().to_string(), folder.clone()));
        }
    }
    all.sort();
    all.dedup();
    Ok(all)
}

/// Texts of the licences that lie in a folder.
fn licences_in(folder: &Path) -> Result<Vec<String>, String> {
    let entries = std::fs::read_dir(folder).map_err(|e| problem(folder, &e))?;
    let mut files: Vec<PathBuf> = entries.flatten().map(|e| e.path()).filter(|p| p.is_file() && is_licence(p)).collect();
    files.sort();
    files.into_iter().map(|f| std::fs::read_to_string(&f).map(|t| t.trim().to_owned()).map_err(|e| problem(&f, &e))).collect()
}

fn is_licence(path: &Path) -> bool {
    let name = path.file_name().unwrap_or_default().to_string_lossy().to_uppercase();
    ["LICENSE", "LICENCE", "COPYING", "NOTICE", "OFL"].iter().any(|start| name.starts_with(start))
}
