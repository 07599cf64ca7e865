//! The program started without a word, or with a few.

use lean_browser_tests::ask::ask;
use serde_json::Value;
use std::io::{BufRead, BufReader, Lines};
use std::path::{Path, PathBuf};
use std::process::{Child, ChildStdout, Command, Stdio};
use std::time::{Duration, Instant};

/// Longest time anything is waited for.
const PATIENCE: Duration = Duration::from_secs(30);

pub(crate) struct Started {
    child: Child,
    out: Lines<BufReader<ChildStdout>>,
    /// Every line it printed so far.
    pub(crate) said: Vec<String>,
}

impl Started {
    /// Starts a program on a data file; `set` may add to its arguments and environment. No screen is there unless that says so.
    pub(crate) fn program(program: &Path, data: &Path, set: impl FnOnce(&mut Command)) -> Self {
        let mut command = Command::new(program);
        command.arg("--data").arg(data).env("LEAN_SWATCH_LOG", "warn").env_remove("DISPLAY").env_remove("WAYLAND_DISPLAY");
        set(&mut command);
        let mut child = command.stdout(Stdio::piped()).stderr(Stdio::piped()).spawn().expect("the program starts");
        let out = BufReader::new(child.stdout.take().expect("its output is piped")).lines();
        Self { child, out, said: Vec::new() }
    }

    /// Reads what it prints up to the line with an address, and gives that.
    pub(crate) fn address(&mut self) -> String {
        loop {
            let line = self.out.next().expect("it says where it is before it ends").expect("its output is text");
            let at = line.split("http://").nth(1).map(|at| format!("http://{}", at.trim()));
            self.said.push(line);
            if let Some(at) = at {
                return at;
            }
        }
    }

    /// Ends it from its page, and gives the answer and the exit code.
    pub(crate) fn quit(mut self, address: &str) -> (Value, i32, Vec<String>) {
        let answer = ask(address, "POST", "/api/quit", &Value::Null).expect("it can be ended");
        let (code, said) = self.ended();
        (answer, code, said)
    }

    /// Waits for its end, and gives the exit code with everything it printed.
    pub(crate) fn ended(&mut self) -> (i32, Vec<String>) {
        self.said.extend(self.out.by_ref().map_while(Result::ok));
        let code = self.child.wait().expect("it ends").code().expect("it ends by itself");
        (code, self.said.clone())
    }
}

impl Drop for Started {
    fn drop(&mut self) {
        let _ = self.child.kill();
        let _ = self.child.wait();
    }
}

/// A folder with the system's way to open an address, which only writes the address down.
pub(crate) struct Opener(tempfile::TempDir);

impl Opener {
    pub(crate) fn new() -> Self {
        use std::os::unix::fs::PermissionsExt;
        let folder = tempfile::tempdir().expect("a folder can be made");
        let opener = folder.path().join("xdg-open");
        let script = format!("#!/bin/sh\nprintf %s \"$1\" > '{0}.part' && mv '{0}.part' '{0}'\n", Self::written(folder.path()).display());
        std::fs::write(&opener, script).expect("a script can be written");
        std::fs::set_permissions(&opener, std::fs::Permissions::from_mode(0o755)).expect("it can be made a program");
        Self(folder)
    }

    fn written(folder: &Path) -> PathBuf {
        folder.join("opened")
    }

    /// Makes a program find it, and believe that there is a screen.
    pub(crate) fn beside(&self, command: &mut Command) {
        let path = format!("{}:{}", self.0.path().display(), std::env::var("PATH").expect("there is a PATH"));
        command.env("PATH", path).env("DISPLAY", ":99");
    }

    /// Waits for the address that is opened, and forgets it.
    pub(crate) fn opened(&self) -> String {
        let (written, end) = (Self::written(self.0.path()), Instant::now() + PATIENCE);
        loop {
            if let Ok(address) = std::fs::read_to_string(&written) {
                std::fs::remove_file(&written).expect("it can be forgotten");
                return address;
            }
            assert!(Instant::now() < end, "nothing was opened");
            std::thread::yield_now();
        }
    }

    /// True where something was opened that was not asked for yet.
    pub(crate) fn opened_more(&self) -> bool {
        Self::written(self.0.path()).exists()
    }
}
