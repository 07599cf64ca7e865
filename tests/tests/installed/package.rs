//! The Debian package and the archive: made, installed into a folder, brought up to date over an earlier data file, removed.

use crate::started::Started;
use lean_browser_tests::ask::ask;
use lean_browser_tests::server::program;
use serde_json::Value;
use std::path::{Path, PathBuf};
use std::process::Command;

/// A data file of the second version ever, with a piece in it.
const EARLIER: &str = concat!(env!("CARGO_MANIFEST_DIR"), "/../app/store/tests/data/maps_inline.db");

fn done(command: &mut Command) {
    let out = command.output().unwrap_or_else(|e| panic!("{command:?} cannot be started: {e}"));
    assert!(out.status.success(), "{command:?}: {}{}", String::from_utf8_lossy(&out.stdout), String::from_utf8_lossy(&out.stderr));
}

/// Packs the program of the tests into a folder; gives the package and the archive.
fn packed(out: &Path) -> (PathBuf, PathBuf) {
    let cargo = std::env::var("CARGO").unwrap_or_else(|_| "cargo".into());
    done(Command::new(cargo).args(["xtask", "package", "--quick", "--program"]).arg(program()).arg("--out").arg(out));
    let of = |ending: &str| {
        let all = std::fs::read_dir(out).unwrap().flatten().map(|f| f.path());
        all.into_iter().find(|p| p.to_string_lossy().ends_with(ending)).unwrap_or_else(|| panic!("a file {ending} was made"))
    };
    (of(".deb"), of(".tar.xz"))
}

/// The same package under an earlier version.
fn earlier(package: &Path, folder: &Path) -> PathBuf {
    let (tree, older) = (folder.join("tree"), folder.join("older.deb"));
    done(Command::new("dpkg-deb").arg("-R").arg(package).arg(&tree));
    let control = tree.join("DEBIAN/control");
    let text = std::fs::read_to_string(&control).unwrap();
    let line = text.lines().find(|l| l.starts_with("Version: ")).unwrap();
    std::fs::write(&control, text.replace(line, "Version: 0.0.9")).unwrap();
    done(Command::new("dpkg-deb").args(["--root-owner-group", "-Zgzip", "-z1", "-b"]).arg(&tree).arg(&older));
    older
}

/// A machine's folders, as far as a package knows them.
struct Machine(PathBuf);

impl Machine {
    fn new(root: PathBuf) -> Self {
        let records = root.join("var/lib/dpkg");
        for folder in ["updates", "info", "triggers"] {
            std::fs::create_dir_all(records.join(folder)).unwrap();
        }
        std::fs::write(records.join("status"), "").unwrap();
        Self(root)
    }

    /// Packages that this one needs are on this machine, and not in these folders.
    fn dpkg(&self) -> Command {
        let mut dpkg = Command::new("dpkg");
        dpkg.arg("--root").arg(&self.0).args(["--force-not-root", "--force-depends", "--force-bad-path"]);
        dpkg
    }

    fn installed_version(&self) -> String {
        let mut query = Command::new("dpkg-query");
        let out = query.arg("--admindir").arg(self.0.join("var/lib/dpkg")).args(["-W", "-f", "${Version}", "lean-swatch"]).output();
        String::from_utf8(out.unwrap().stdout).unwrap()
    }
}

fn titles(address: &str) -> Vec<String> {
    let studio = ask(address, "GET", "/api/studio", &Value::Null).unwrap();
    studio["pieces"].as_array().unwrap().iter().map(|p| p["title"].as_str().unwrap().to_owned()).collect()
}

#[test]
fn it_is_installed_run_brought_up_to_date_over_earlier_data_and_removed() {
    let folder = tempfile::tempdir().unwrap();
    let (package, archive) = packed(&folder.path().join("first"));
    let (same, same_archive) = packed(&folder.path().join("second"));
    let same_bytes = |a: &Path, b: &Path| std::fs::read(a).unwrap() == std::fs::read(b).unwrap();
    assert!(same_bytes(&package, &same) && same_bytes(&archive, &same_archive), "packed twice, it is the same");

    let machine = Machine::new(folder.path().join("machine"));
    done(machine.dpkg().arg("-i").arg(earlier(&package, folder.path())));
    assert_eq!(machine.installed_version(), "0.0.9");
    let usr = machine.0.join("usr");
    let installed = usr.join("bin/lean-swatch");
    for file in [
        "share/applications/lean-swatch.desktop",
        "share/icons/hicolor/512x512/apps/lean-swatch.png",
        "share/man/man1/lean-swatch.1.gz",
        "share/man/man1/lean-swatch-plan.1.gz",
        "share/bash-completion/completions/lean-swatch",
        "share/zsh/vendor-completions/_lean-swatch",
        "share/fish/vendor_completions.d/lean-swatch.fish",
        "share/doc/lean-swatch/copyright",
        "share/doc/lean-swatch/THIRD-PARTY.txt.gz",
        "share/doc/lean-swatch/guide/README.md",
    ] {
        assert!(usr.join(file).is_file(), "{file}");
    }

    // Run from where it is installed, over the data of an earlier version; then the update over it.
    let data = folder.path().join("painter/studio.db");
    std::fs::create_dir_all(data.parent().unwrap()).unwrap();
    std::fs::copy(EARLIER, &data).unwrap();
    let mut run = Started::program(&installed, &data, |_| ());
    let address = run.address();
    let before = titles(&address);
    assert!(!before.is_empty());
    let (_, code, said) = run.quit(&address);
    assert_eq!(code, 0);
    let kept = data.with_file_name("backups").join("studio.before-shape-15.db");
    assert!(kept.is_file() && said.iter().any(|l| l.contains(kept.to_str().unwrap())), "it says where the copy is: {said:?}");

    done(machine.dpkg().arg("-i").arg(&package));
    assert_ne!(machine.installed_version(), "0.0.9");
    let mut run = Started::program(&installed, &data, |_| ());
    let address = run.address();
    assert_eq!(titles(&address), before);
    run.quit(&address);

    done(machine.dpkg().args(["-r", "lean-swatch"]));
    assert!(!installed.exists() && !usr.join("share/applications/lean-swatch.desktop").exists());
    assert!(data.is_file() && kept.is_file(), "the data stays");
}

#[test]
fn the_archive_holds_nothing_that_runs_but_the_program() {
    let folder = tempfile::tempdir().unwrap();
    let (_, archive) = packed(folder.path());
    let out = Command::new("tar").arg("-tvf").arg(&archive).output().unwrap();
    let listed = String::from_utf8(out.stdout).unwrap();
    let programs: Vec<&str> = listed.lines().filter(|l| l.starts_with("-rwx")).filter_map(|l| l.rsplit('/').next()).collect();
    assert_eq!(programs, ["lean-swatch"]);
    assert!(listed.lines().all(|l| l.starts_with('-') || l.starts_with('d')), "plain files and folders only: {listed}");
    assert!(listed.contains("/README.txt") && listed.contains("/share/applications/lean-swatch.desktop"));
}
