//! ChromeDriver in a process group of its own, one for all tests of a program.

use std::io::{BufRead, BufReader};
use std::os::unix::process::CommandExt;
use std::process::{ChildStdin, Command, Stdio};
use std::sync::OnceLock;

/// How often starting it is tried.
const TRIES: usize = 5;

/// Runs ChromeDriver until its own input ends, as it does when the test program has ended in whatever way; then ends all browsers, and removes
/// what they wrote.
const UNTIL_THE_TESTS_END: &str =
    "trap : TERM; (chromedriver --port=0; kill -TERM $$) & read -r _; kill -TERM 0; wait; rm -rf -- \"$TMPDIR\"";

/// A running ChromeDriver.
#[derive(Clone)]
pub struct Driver {
    /// Where it listens.
    pub address: String,
}

struct Process {
    address: String,
    /// Held open as long as the test program runs.
    _input: ChildStdin,
}

impl Driver {
    /// The ChromeDriver of this test program; the first to ask starts it, on a free port.
    ///
    /// # Panics
    /// When it is not installed: `cargo xtask test` installs it.
    pub fn start() -> Self {
        static SHARED: OnceLock<Process> = OnceLock::new();
        let process = SHARED.get_or_init(|| (0..TRIES).find_map(|_| Process::tried()).expect("chromedriver says its port before it ends"));
        Self { address: process.address.clone() }
    }
}

impl Process {
    /// One try: two that start at the same moment may pick the same free port, and one of them ends at once.
    fn tried() -> Option<Self> {
        let kept = tempfile::tempdir().expect("a folder for browsers").keep();
        let mut child = Command::new("sh")
            .args(["-c", UNTIL_THE_TESTS_END])
            .env("TMPDIR", &kept)
            .stdin(Stdio::piped())
            .stdout(Stdio::piped())
            .stderr(Stdio::null())
            .process_group(0)
            .spawn()
            .expect("a shell starts");
        let input = child.stdin.take().expect("its input is piped");
        let mut lines = BufReader::new(child.stdout.take().expect("its output is piped")).lines();
        std::thread::spawn(move || child.wait());
        let said =
            lines.find_map(|line| line.expect("its output is text").split("started successfully on port ").nth(1).map(str::to_owned));
        let port = said?.trim_end_matches('.').to_owned();
        std::thread::spawn(move || lines.for_each(drop));
        Some(Self { address: format!("http://127.0.0.1:{port}"), _input: input })
    }
}
