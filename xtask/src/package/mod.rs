//! Packages: a Debian package and a plain archive of the same files, the same bytes for the same commit.

mod archive;
mod debian;
mod files;
mod licences;
mod version;

use crate::steps::{self, Done, root};
use std::path::{Path, PathBuf};
use std::process::Command;
pub(crate) use version::Version;

/// Arguments of `cargo xtask package`.
#[derive(Default)]
pub(crate) struct Wanted {
    /// A program that is built already; one is built for release where none is named.
    pub(crate) program: Option<PathBuf>,
    /// Folder the packages go to; `target/package` where none is named.
    pub(crate) out: Option<PathBuf>,
    /// True where to spend less time on making them small, as a test does.
    pub(crate) quick: bool,
}

impl Wanted {
    /// Reads the arguments.
    ///
    /// # Errors
    /// A sentence that names what is not known.
    pub(crate) fn of(line: &[&str]) -> Result<Self, String> {
        match line {
            [] => Ok(Self::default()),
            ["--quick", rest @ ..] => Ok(Self { quick: true, ..Self::of(rest)? }),
            ["--program", path, rest @ ..] => Ok(Self { program: Some(path.into()), ..Self::of(rest)? }),
            ["--out", path, rest @ ..] => Ok(Self { out: Some(path.into()), ..Self::of(rest)? }),
            [other, ..] => Err(format!("package does not know \"{other}\"; it takes --program FILE, --out FOLDER and --quick")),
        }
    }
}

/// Largest size of a package, in bytes.
const LARGEST: u64 = 25 << 20;

/// Makes both packages and names them with their sizes.
pub(crate) fn package(wanted: &Wanted) -> Done {
    let version = Version::of_these_sources();
    let program = match &wanted.program {
        Some(program) => program.clone(),
        None => steps::release(&version)?,
    };
    let out = wanted.out.clone().unwrap_or_else(|| steps::target().join("package"));
    let made = out.join("making");
    let _ = std::fs::remove_dir_all(&made);
    create(&made)?;
    let beside = made.join("written by the program");
    run(Command::new(&program).arg("package-files").arg(&beside))?;
    let packages = [
        debian::package(&program, &beside, &made, &out, &version, wanted.quick)?,
        archive::package(&program, &beside, &made, &out, &version, wanted.quick)?,
    ];
    std::fs::remove_dir_all(&made).map_err(|e| problem(&made, &e))?;
    for package in packages {
        let bytes = std::fs::metadata(&package).map_err(|e| problem(&package, &e))?.len();
        println!("{}: {:.1} MB", package.display(), bytes as f64 / f64::from(1 << 20));
        if bytes > LARGEST && !wanted.quick {
            return Err(format!("{} is larger than {} MB", package.display(), LARGEST >> 20));
        }
    }
    Ok(())
}

fn run(command: &mut Command) -> Done {
    let said = format!("{command:?}");
    let status = command.current_dir(root()).status().map_err(|e| format!("{said} cannot be started: {e}"))?;
    if status.success() { Ok(()) } else { Err(format!("{said} ended with {status}")) }
}

/// Standard output of a command, as text.
fn output(command: &mut Command) -> Result<String, String> {
    let said = format!("{command:?}");
    let out = command.current_dir(root()).output().map_err(|e| format!("{said} cannot be started: {e}"))?;
    if !out.status.success() {
        return Err(format!("{said}: {}", String::from_utf8_lossy(&out.stderr)));
    }
    String::from_utf8(out.stdout).map_err(|e| format!("{said}: {e}"))
}

fn problem(path: &Path, e: &std::io::Error) -> String {
    format!("{}: {e}", path.display())
}

fn create(folder: &Path) -> Done {
    std::fs::create_dir_all(folder).map_err(|e| problem(folder, &e))
}

fn write(path: &Path, text: &[u8]) -> Done {
    path.parent().map_or(Ok(()), create)?;
    std::fs::write(path, text).map_err(|e| problem(path, &e))
}
