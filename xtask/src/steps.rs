//! The steps behind each task.

use crate::package::Version;
use std::io::{BufRead, BufReader};
use std::path::{Path, PathBuf};
use std::process::{Command, Stdio};

pub(crate) type Done = Result<(), String>;

/// Debian's packages the browser tests need: the browser, the same without its own interface, their driver.
const BROWSER: &[&str] = &["chromium", "chromium-headless-shell", "chromium-driver"];

pub(crate) fn root() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).parent().map_or_else(|| PathBuf::from("."), Path::to_path_buf)
}

fn run(folder: &Path, program: &str, args: &[&str]) -> Done {
    run_with(folder, program, args, None)
}

fn run_with(folder: &Path, program: &str, args: &[&str], said: Option<(&str, &str)>) -> Done {
    eprintln!("· {program} {}", args.join(" "));
    let status = Command::new(program)
        .args(args)
        .envs(said)
        .current_dir(folder)
        .status()
        .map_err(|e| format!("{program} cannot be started: {e}"))?;
    if status.success() { Ok(()) } else { Err(format!("{program} {} ended with {status}", args.join(" "))) }
}

/// Builds everything as the tests do: any smaller part has other features and would be built anew, the slow crates too.
const BUILD: [&str; 3] = ["build", "--workspace", "--tests"];

fn cargo(args: &[&str]) -> Done {
    cargo_with(args, None)
}

fn cargo_with(args: &[&str], said: Option<(&str, &str)>) -> Done {
    run_with(&root(), &cargo_program(), args, said)
}

fn cargo_program() -> String {
    std::env::var("CARGO").unwrap_or_else(|_| "cargo".into())
}

fn present(program: &str) -> bool {
    std::env::var_os("PATH").is_some_and(|paths| std::env::split_paths(&paths).any(|p| p.join(program).is_file()))
}

/// npm packages exactly as locked; skipped when they are already there for this lock file.
pub(crate) fn web_packages() -> Done {
    if !present("npm") {
        return Err("npm is missing: install Node.js 20 or later (Debian: apt-get install nodejs npm)".into());
    }
    let web = root().join("web");
    let age = |p: PathBuf| p.metadata().and_then(|m| m.modified()).ok();
    let installed = age(web.join("node_modules/.package-lock.json"));
    if installed.is_some() && installed >= age(web.join("package-lock.json")) {
        return Ok(());
    }
    run(&web, "npm", &["ci", "--no-audit", "--no-fund"])
}

fn pages() -> Done {
    web_packages()?;
    run(&root().join("web"), "npm", &["run", "build"])
}

fn browser() -> Done {
    if ["chromium", "chromium-headless-shell", "chromedriver"].into_iter().all(present) {
        return Ok(());
    }
    let install = [&["install", "-y", "--no-install-recommends"], BROWSER].concat();
    let hint = |e| format!("{e}. The browser tests need {}; install them as root and try again", BROWSER.join(" and "));
    run(&root(), "apt-get", &["update"]).map_err(hint)?;
    run(&root(), "apt-get", &install).map_err(hint)
}

/// Does two things side by side; fails when one of them does.
fn side_by_side(one: impl FnOnce() -> Done + Send, other: impl FnOnce() -> Done) -> Done {
    std::thread::scope(|threads| {
        let one = threads.spawn(one);
        let other = other();
        one.join().unwrap_or_else(|_| Err("a thread of xtask panicked".into())).and(other)
    })
}

/// Builds everything and serves the demo studio.
pub(crate) fn demo(listen: &str) -> Done {
    const BUILD_DEMO: &[&str] = &["build", "--profile", "demo", "--package", "lean-swatch", "--no-default-features"];
    let program = target().join("demo/lean-swatch");
    side_by_side(pages, || cargo(BUILD_DEMO))?;
    if !holds_the_pages(&program)? {
        // It was linked before the pages were there, and cargo does not see files that come to lie in a folder.
        touch(&root().join("app/server/src/frontend.rs"))?;
        cargo(BUILD_DEMO)?;
    }
    run(&root(), &program.display().to_string(), &["serve", "--demo", "--listen", listen])
}

/// Builds the program for release with its pages in it, and gives its place. Paths of this machine are taken out, so that the same commit gives the
/// same bytes in another folder.
pub(crate) fn release(version: &Version) -> Result<PathBuf, String> {
    const BUILD_RELEASE: &[&str] = &["build", "--release", "--package", "lean-swatch", "--no-default-features", "--features", "package"];
    pages()?;
    let home = std::env::var_os("CARGO_HOME").map(PathBuf::from).or_else(|| Some(PathBuf::from(std::env::var_os("HOME")?).join(".cargo")));
    let cargo_home = home.ok_or("neither CARGO_HOME nor HOME is set")?;
    let flags = format!("--remap-path-prefix={}=lean-swatch --remap-path-prefix={}=cargo", root().display(), cargo_home.display());
    eprintln!("· cargo {}", BUILD_RELEASE.join(" "));
    let status = Command::new(cargo_program())
        .args(BUILD_RELEASE)
        .env("RUSTFLAGS", flags)
        .env("LEAN_SWATCH_VERSION", version.words())
        .current_dir(root())
        .status()
        .map_err(|e| format!("cargo cannot be started: {e}"))?;
    let program = target().join("release/lean-swatch");
    if status.success() { Ok(program) } else { Err(format!("the program for release was not built ({status})")) }
}

/// The folder cargo builds into.
pub(crate) fn target() -> PathBuf {
    std::env::var_os("CARGO_TARGET_DIR").map_or_else(|| root().join("target"), Into::into)
}

/// True where the program holds the pages as they are built now: the first page names its script by a digest.
fn holds_the_pages(program: &Path) -> Result<bool, String> {
    let read = |path: &Path| std::fs::read(path).map_err(|e| format!("{}: {e}", path.display()));
    let (program, page) = (read(program)?, read(&root().join("web/dist/index.html"))?);
    Ok(program.windows(page.len()).any(|part| part == page))
}

fn touch(file: &Path) -> Done {
    let now = std::fs::File::options().append(true).open(file).and_then(|f| f.set_modified(std::time::SystemTime::now()));
    now.map_err(|e| format!("{}: {e}", file.display()))
}

/// Passes every test. Runs all of them also when some fail, and names those in the end.
pub(crate) fn test() -> Done {
    browser()?;
    side_by_side(pages, || cargo(&BUILD))?;
    let failed = run_tests()?;
    if failed.is_empty() { Ok(()) } else { Err(format!("{} failed: {}", failed.len(), failed.join(", "))) }
}

/// Runs every test and gives the names of those that failed.
fn run_tests() -> Result<Vec<String>, String> {
    let args = ["test", "--workspace", "--no-fail-fast"];
    eprintln!("· cargo {}", args.join(" "));
    let mut tests = Command::new(cargo_program())
        .args(args)
        .current_dir(root())
        .stdout(Stdio::piped())
        .spawn()
        .map_err(|e| format!("cargo cannot be started: {e}"))?;
    let mut failed = Vec::new();
    for line in BufReader::new(tests.stdout.take().ok_or("cargo's output is piped")?).lines() {
        let line = line.map_err(|e| e.to_string())?;
        println!("{line}");
        failed.extend(line.strip_prefix("test ").and_then(|l| l.strip_suffix(" ... FAILED")).map(str::to_owned));
    }
    let status = tests.wait().map_err(|e| e.to_string())?;
    if !status.success() && failed.is_empty() {
        failed.push(format!("cargo test ({status}); what it was at stands above"));
    }
    Ok(failed)
}

/// Takes the pictures of the main views, or the one of the kit, whose page is in no other build.
pub(crate) fn shots(kit: bool) -> Done {
    browser()?;
    cargo(&BUILD)?;
    let only = |test| ["test", "--workspace", "--test", "shots", "--", "--ignored", test];
    if !kit {
        pages()?;
        cargo(&only("example"))?;
        // The first page holds them.
        pages()?;
        return cargo(&only("take"));
    }
    web_packages()?;
    run_with(&root().join("web"), "npm", &["run", "build"], Some(("VITE_KIT", "1")))?;
    let taken = cargo_with(&only("take"), Some(("SHOTS", "kit")));
    pages().and(taken)
}

/// Property tests with many more cases than the test command gives them.
pub(crate) fn fuzz(cases: u32) -> Done {
    let cases = cases.to_string();
    let parts: [(&str, &[&str]); 4] = [
        ("lean-piece", &["--lib"]),
        ("lean-plan", &["--test", "rules", "piece::"]),
        ("lean-picture", &["--test", "hostile"]),
        ("lean-media", &["--test", "hostile"]),
    ];
    for (package, only) in parts {
        cargo_with(&[&["test", "--release", "--package", package], only].concat(), Some(("PROPTEST_CASES", &cases)))?;
    }
    Ok(())
}

/// Kills the program a thousand times while it writes, imports, restores, rescues, takes pictures in and changes the shape of a file; damages data files.
pub(crate) fn kill_often() -> Done {
    let loud = ["--", "--nocapture"];
    cargo_with(&["test", "--workspace", "--no-run"], None)?;
    cargo_with(&[&["test", "--workspace", "--test", "kills"][..], &loud].concat(), Some(("KILLS", "1000")))?;
    cargo_with(&[&["test", "--workspace", "--test", "file"][..], &loud, &["damage"]].concat(), None)?;
    cargo_with(&[&["test", "--workspace", "--test", "responsive"][..], &loud].concat(), None)
}

/// What a hidden command of the program prints.
fn printed(command: &str) -> Result<String, String> {
    let out = Command::new(target().join("debug/lean-swatch")).arg(command).current_dir(root()).output().map_err(|e| e.to_string())?;
    if !out.status.success() {
        return Err(String::from_utf8_lossy(&out.stderr).into_owned());
    }
    String::from_utf8(out.stdout).map_err(|e| e.to_string())
}

/// Hidden commands of the program, and the files that hold what they print.
const GENERATED: [(&str, &str); 3] =
    [("openapi", "web/src/api/openapi.json"), ("routes", "app/server/src/routes.txt"), ("words", "web/src/api/words.json")];

/// Writes the API description, its types and the words of the core anew.
pub(crate) fn api_types() -> Done {
    web_packages()?;
    cargo(&BUILD)?;
    for (command, file) in GENERATED {
        std::fs::write(root().join(file), printed(command)?).map_err(|e| e.to_string())?;
    }
    run(&root().join("web"), "npm", &["run", "api"])
}

/// Everything a reader would object to before reading.
pub(crate) fn check() -> Done {
    cargo(&["fmt", "--all", "--check"])?;
    side_by_side(pages_are_sound, lints)?;
    fresh_types()
}

fn pages_are_sound() -> Done {
    web_packages()?;
    let web = root().join("web");
    run(&web, "npm", &["run", "types"])?;
    run(&web, "npm", &["run", "lint"])
}

/// Lints everything. Where the compiler is wrapped by the linter (`.ci/run`), the build that the tests need lints, and nothing is built twice.
fn lints() -> Done {
    if std::env::var("RUSTC_WORKSPACE_WRAPPER").is_ok_and(|wrapper| wrapper.ends_with("clippy-driver")) {
        return cargo(&["build", "--workspace", "--all-targets"]);
    }
    cargo(&["clippy", "--workspace", "--all-targets", "--", "-D", "warnings"])
}

/// Fails when the committed description or types are not what the server describes today.
fn fresh_types() -> Done {
    let files = GENERATED.map(|(_, file)| file);
    let read =
        || [files[0], files[1], files[2], "web/src/api/schema.ts"].map(|f| std::fs::read_to_string(root().join(f)).unwrap_or_default());
    let before = read();
    api_types()?;
    if read() == before {
        Ok(())
    } else {
        Err("the generated API types were stale; they are fresh now: commit web/src/api and app/server/src/routes.txt".into())
    }
}
