//! Server and pages for somebody who works on them.

use crate::steps::{Done, root, web_packages};
use std::path::Path;
use std::process::{Child, Command};
use std::time::{Duration, SystemTime};

/// Where the server listens; the pages' own server passes `/api` on to it (`web/vite.config.ts`).
const LISTEN: &str = "127.0.0.1:7436";
/// How often sources are looked at.
const LOOK: Duration = Duration::from_secs(1);

/// Serves the demo studio with pages that reload, and builds and starts the server anew whenever a source of it was saved. Ends with Ctrl-C.
pub(crate) fn dev() -> Done {
    web_packages()?;
    let started = |name: &str, e: std::io::Error| format!("{name} cannot be started: {e}");
    let mut pages = Command::new("npm").args(["run", "dev"]).current_dir(root().join("web")).spawn().map_err(|e| started("npm", e))?;
    let mut server: Option<Child> = None;
    let mut served = SystemTime::UNIX_EPOCH;
    loop {
        let newest = newest(&[root().join("core"), root().join("app"), root().join("demo")]);
        if newest > served {
            served = newest;
            if build().is_ok() {
                stop(&mut server);
                server = Some(serve().map_err(|e| started("the server", e))?);
            }
        }
        if pages.try_wait().map_err(|e| e.to_string())?.is_some() {
            stop(&mut server);
            return Err("the pages' server ended".into());
        }
        std::thread::sleep(LOOK);
    }
}

fn build() -> Done {
    let cargo = std::env::var("CARGO").unwrap_or_else(|_| "cargo".into());
    let status = Command::new(cargo).args(["build", "--workspace"]).current_dir(root()).status().map_err(|e| e.to_string())?;
    if status.success() { Ok(()) } else { Err("it does not build; the server runs on as it was".into()) }
}

fn serve() -> std::io::Result<Child> {
    Command::new(root().join("target/debug/lean-swatch")).args(["serve", "--demo", "--listen", LISTEN]).current_dir(root()).spawn()
}

fn stop(server: &mut Option<Child>) {
    if let Some(mut child) = server.take() {
        let _ = child.kill();
        let _ = child.wait();
    }
}

/// When the newest source below some folders was saved.
fn newest(folders: &[std::path::PathBuf]) -> SystemTime {
    fn of(folder: &Path) -> SystemTime {
        let entries = std::fs::read_dir(folder).into_iter().flatten().flatten();
        let age = |path: std::path::PathBuf| match path.extension().and_then(|e| e.to_str()) {
            _ if path.is_dir() => of(&path),
            Some("rs" | "toml" | "json") => path.metadata().and_then(|m| m.modified()).unwrap_or(SystemTime::UNIX_EPOCH),
            _ => SystemTime::UNIX_EPOCH,
        };
        entries.map(|e| age(e.path())).max().unwrap_or(SystemTime::UNIX_EPOCH)
    }
    folders.iter().map(|f| of(f)).max().unwrap_or(SystemTime::UNIX_EPOCH)
}
