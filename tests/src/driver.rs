//! ChromeDriver in a process group of its own.

use std::io::{BufRead, BufReader, Lines};
use std::os::unix::process::CommandExt;
use std::path::Path;
use std::process::{Child, ChildStdout, Command, Stdio};

/// How often starting it is tried.
const TRIES: usize = 5;

/// A running ChromeDriver; its whole group is ended when it is dropped.
pub struct Driver {
    child: Child,
    /// Where it listens.
    pub address: String,
    /// Where its browsers keep what they write; removed once they have ended.
    _kept: tempfile::TempDir,
}

impl Driver {
    /// Starts ChromeDriver on a free port.
    ///
    /// # Panics
    /// When it is not installed: `cargo xtask test` installs it.
    pub fn start() -> Self {
        let kept = tempfile::tempdir().expect("a folder for browsers");
        let (child, lines, port) = (0..TRIES).find_map(|_| Self::tried(kept.path())).expect("chromedriver says its port before it ends");
        std::thread::spawn(move || lines.for_each(drop));
        Self { child, address: format!("http://127.0.0.1:{port}"), _kept: kept }
    }

    /// One try: two that start at the same moment may pick the same free port, and one of them ends at once.
    fn tried(kept: &Path) -> Option<(Child, Lines<BufReader<ChildStdout>>, String)> {
        let mut child = Command::new("chromedriver")
            .arg("--port=0")
            .env("TMPDIR", kept)
            .stdout(Stdio::piped())
            .stderr(Stdio::null())
            .process_group(0)
            .spawn()
            .expect("chromedriver is installed (cargo xtask test installs Debian's chromium and chromium-driver)");
        let mut lines = BufReader::new(child.stdout.take().expect("its output is piped")).lines();
        loop {
            let Some(line) = lines.next() else {
                child.wait().expect("it has ended");
                return None;
            };
            if let Some(port) = line.expect("its output is text").split("started successfully on port ").nth(1) {
                let port = port.trim_end_matches('.').to_owned();
                return Some((child, lines, port));
            }
        }
    }
}

impl Drop for Driver {
    fn drop(&mut self) {
        let group = format!("-{}", self.child.id());
        let _ = Command::new("kill").args(["-TERM", "--", &group]).status();
        let _ = self.child.wait();
    }
}
