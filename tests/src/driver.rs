//! ChromeDriver in a process group of its own.

use std::io::{BufRead, BufReader};
use std::os::unix::process::CommandExt;
use std::process::{Child, Command, Stdio};

/// A running ChromeDriver; its whole group is ended when it is dropped.
pub struct Driver {
    child: Child,
    /// Where it listens.
    pub address: String,
}

impl Driver {
    /// Starts ChromeDriver on a free port.
    ///
    /// # Panics
    /// When it is not installed: `cargo xtask test` installs it.
    pub fn start() -> Self {
        let mut child = Command::new("chromedriver")
            .arg("--port=0")
            .stdout(Stdio::piped())
            .stderr(Stdio::null())
            .process_group(0)
            .spawn()
            .expect("chromedriver is installed (cargo xtask test installs Debian's chromium and chromium-driver)");
        let mut lines = BufReader::new(child.stdout.take().expect("its output is piped")).lines();
        let port = loop {
            let line = lines.next().expect("chromedriver says its port before it ends").expect("its output is text");
            if let Some(port) = line.split("started successfully on port ").nth(1) {
                break port.trim_end_matches('.').to_owned();
            }
        };
        std::thread::spawn(move || lines.for_each(drop));
        Self { child, address: format!("http://127.0.0.1:{port}") }
    }
}

impl Drop for Driver {
    fn drop(&mut self) {
        let group = format!("-{}", self.child.id());
        let _ = Command::new("kill").args(["-TERM", "--", &group]).status();
        let _ = self.child.wait();
    }
}
