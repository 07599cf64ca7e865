//! The built program on a data file of its own.

use std::io::{BufRead, BufReader};
use std::path::{Path, PathBuf};
use std::process::{Child, Command, Stdio};

/// A running `lean-swatch serve`, killed when dropped.
pub struct Server {
    child: Child,
    /// As in `http://127.0.0.1:41234`.
    pub address: String,
}

/// Where `cargo build` put the program: beside the test binary's folder.
pub fn program() -> PathBuf {
    let test = std::env::current_exe().expect("a test knows its own path");
    let built = test.parent().and_then(Path::parent).map(|d| d.join("lean-swatch")).unwrap_or_default();
    assert!(built.exists(), "{} is not built: run `cargo xtask test`, which builds it first", built.display());
    built
}

impl Server {
    /// Starts the program on `data`, with or without the demo studio, and waits until it says where it listens.
    pub fn start(data: &Path, demo: bool) -> Self {
        let mut command = Command::new(program());
        command.args(["serve", "--listen", "127.0.0.1:0", "--data"]).arg(data);
        if demo {
            command.arg("--demo");
        }
        let mut child = command.env("LEAN_SWATCH_LOG", "warn").stdout(Stdio::piped()).spawn().expect("the program starts");
        let out = child.stdout.take().expect("its output is piped");
        let mut lines = BufReader::new(out).lines();
        let address = loop {
            let line = lines.next().expect("the program says where it listens before it ends").expect("its output is text");
            if let Some(at) = line.split("http://").nth(1) {
                break format!("http://{}", at.trim());
            }
        };
        std::thread::spawn(move || lines.for_each(drop));
        Self { child, address }
    }

    /// Ends the program at once, as a power cut would (SIGKILL).
    pub fn kill(mut self) {
        self.child.kill().expect("the program can be killed");
        self.child.wait().expect("the program ends");
    }
}

impl Drop for Server {
    fn drop(&mut self) {
        let _ = self.child.kill();
        let _ = self.child.wait();
    }
}
