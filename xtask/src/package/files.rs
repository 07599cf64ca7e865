//! The files of a package below its prefix, which is `usr` in Debian's and the top of the archive.

use super::{Version, create, licences, problem, run, write};
use crate::steps::{Done, root};
use std::fs::{File, FileTimes};
use std::path::Path;
use std::process::Command;
use std::time::{Duration, SystemTime};

const NAME: &str = "lean-swatch";

/// Lays out every file: the program, its entry in the menu, icons, manual, completions, guide and licences. `beside` holds what the program wrote
/// for the package.
pub(super) fn lay_out(program: &Path, beside: &Path, prefix: &Path) -> Done {
    let share = prefix.join("share");
    copy(program, &prefix.join("bin").join(NAME))?;
    executable(&prefix.join("bin").join(NAME))?;
    copy(&root().join("xtask/files/lean-swatch.desktop"), &share.join("applications/lean-swatch.desktop"))?;
    for size in ["192", "512"] {
        let icon = root().join(format!("web/public/icon-{size}.png"));
        copy(&icon, &share.join(format!("icons/hicolor/{size}x{size}/apps/{NAME}.png")))?;
    }
    copy(&root().join("web/public/icon.svg"), &share.join(format!("icons/hicolor/scalable/apps/{NAME}.svg")))?;
    for page in names_in(&beside.join("man"))? {
        let packed = share.join("man/man1").join(&page);
        copy(&beside.join("man").join(&page), &packed)?;
        // Without name and time in its head it is the same each time.
        run(Command::new("gzip").args(["-9", "--no-name"]).arg(&packed))?;
    }
    let completions = beside.join("completions");
    copy(&completions.join("lean-swatch.bash"), &share.join("bash-completion/completions/lean-swatch"))?;
    copy(&completions.join("_lean-swatch"), &share.join("zsh/vendor-completions/_lean-swatch"))?;
    copy(&completions.join("lean-swatch.fish"), &share.join("fish/vendor_completions.d/lean-swatch.fish"))?;
    let doc = share.join("doc").join(NAME);
    let guide = root().join("docs/guide");
    for page in names_in(&guide)? {
        copy(&guide.join(&page), &doc.join("guide").join(&page))?;
    }
    for licence in ["LICENSE-APACHE", "LICENSE-MIT"] {
        copy(&root().join(licence), &doc.join(licence))?;
    }
    write(&doc.join("copyright"), licences::copyright().as_bytes())?;
    write(&doc.join("THIRD-PARTY.txt"), licences::of_others()?.as_bytes())?;
    run(Command::new("gzip").args(["-9", "--no-name"]).arg(doc.join("THIRD-PARTY.txt")))
}

/// Names of the files in a folder, in order.
fn names_in(folder: &Path) -> Result<Vec<String>, String> {
    let entries = std::fs::read_dir(folder).map_err(|e| problem(folder, &e))?;
    let files = entries.flatten().filter(|f| f.path().is_file());
    let mut names: Vec<String> = files.map(|f| f.file_name().to_string_lossy().into_owned()).collect();
    names.sort();
    Ok(names)
}

fn copy(from: &Path, to: &Path) -> Done {
    to.parent().map_or(Ok(()), create)?;
    std::fs::copy(from, to).map_err(|e| problem(from, &e))?;
    readable(to)
}

#[cfg(unix)]
fn mode(path: &Path, mode: u32) -> Done {
    use std::os::unix::fs::PermissionsExt;
    std::fs::set_permissions(path, std::fs::Permissions::from_mode(mode)).map_err(|e| problem(path, &e))
}

#[cfg(not(unix))]
fn mode(_: &Path, _: u32) -> Done {
    Err("packages for Linux are made on Linux".into())
}

fn readable(path: &Path) -> Done {
    mode(path, 0o644)
}

fn executable(path: &Path) -> Done {
    mode(path, 0o755)
}

/// Gives everything below a folder the time of the commit, and folders the usual rights.
pub(super) fn same_each_time(folder: &Path, version: &Version) -> Done {
    let time = SystemTime::UNIX_EPOCH + Duration::from_secs(version.seconds);
    for entry in std::fs::read_dir(folder).map_err(|e| problem(folder, &e))?.flatten() {
        let path = entry.path();
        if path.is_dir() {
            same_each_time(&path, version)?;
        } else {
            let set = File::options().append(true).open(&path).and_then(|f| f.set_times(FileTimes::new().set_modified(time)));
            set.map_err(|e| problem(&path, &e))?;
        }
    }
    executable(folder)?;
    File::open(folder).and_then(|f| f.set_times(FileTimes::new().set_modified(time))).map_err(|e| problem(folder, &e))
}
