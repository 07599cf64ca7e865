//! The built program on a data file of its own.

use std::io::{BufRead, BufReader};
use std::net::SocketAddr;
use std::path::{Path, PathBuf};
use std::process::{Child, Command, Stdio};
use std::sync::OnceLock;
use std::time::UNIX_EPOCH;

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

/// A folder with the demo studio as this build of the program fills it. Filling takes as long as its searches do, so it is done once a build
/// and every test works on a copy.
fn filled_demo() -> &'static Path {
    static FILLED: OnceLock<PathBuf> = OnceLock::new();
    FILLED.get_or_init(|| {
        let program = program();
        let built = program.metadata().and_then(|m| m.modified()).expect("the program has an age");
        let age = built.duration_since(UNIX_EPOCH).expect("it was built after 1970").as_nanos();
        let kept = program.with_file_name("demo-for-tests");
        let filled = kept.join(age.to_string());
        if !filled.exists() {
            let _ = std::fs::remove_dir_all(&kept);
            std::fs::create_dir_all(&kept).expect("a folder beside the program can be made");
            let making = tempfile::tempdir_in(&kept).expect("a folder can be made");
            let ended = Command::new(&program).arg("fill-demo").arg(making.path().join("demo.db")).status().expect("the program starts");
            assert!(ended.success(), "the demo is filled");
            std::fs::rename(making.keep(), &filled).expect("a folder can be renamed");
        }
        filled
    })
}

/// Copies the filled demo to `data`, with the journal SQLite keeps beside it.
pub fn copy_demo(data: &Path) {
    for file in std::fs::read_dir(filled_demo()).expect("the filled demo is there").flatten() {
        let name = file.file_name().into_string().expect("a plain name");
        let Some(rest) = name.strip_prefix("demo.db").filter(|r| *r != "-shm") else { continue };
        let mut copy = data.as_os_str().to_owned();
        copy.push(rest);
        std::fs::copy(file.path(), copy).expect("the demo can be copied");
    }
}

impl Server {
    /// Starts the program on `data`, with or without the demo studio, and waits until it says where it listens. A data file that is not there
    /// yet starts as a copy of the demo as this build fills it.
    pub fn start(data: &Path, demo: bool) -> Self {
        if demo && !data.exists() {
            copy_demo(data);
        }
        Self::on(data, demo)
    }

    /// The same with an address for devices.
    pub fn sharing(data: &Path, at: SocketAddr) -> Self {
        if !data.exists() {
            copy_demo(data);
        }
        Self::with(data, true, &["--share", &at.to_string()])
    }

    fn on(data: &Path, demo: bool) -> Self {
        Self::with(data, demo, &[])
    }

    fn with(data: &Path, demo: bool, more: &[&str]) -> Self {
        let mut command = Command::new(program());
        command.args(["serve", "--listen", "127.0.0.1:0", "--data"]).arg(data).args(more);
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
