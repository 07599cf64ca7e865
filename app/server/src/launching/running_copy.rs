//! The one running copy of the program for a data file, found by every later start.

use std::fs::{File, OpenOptions};
use std::io::{Read, Write};
use std::net::SocketAddr;
use std::path::{Path, PathBuf};
use std::time::{Duration, Instant};

/// Longest time a start waits until the other copy, which is still starting, says where it is.
const PATIENCE: Duration = Duration::from_secs(5);
const LOOK: Duration = Duration::from_millis(20);

/// A data file claimed by this process until it ends. Beside the data file lie `NAME.running`, which is locked meanwhile, and `NAME.address`,
/// which holds the address and keeps it for the next start.
pub(crate) struct RunningCopy {
    _locked: File,
    address: PathBuf,
    last_time: Option<u16>,
}

/// Outcome of claiming a data file.
pub(crate) enum Claim {
    /// No other copy has it.
    Ours(RunningCopy),
    /// Another copy of this user has it, at this address.
    Theirs(String),
}

impl RunningCopy {
    /// Claims a data file, whose folder is made where it is not there.
    ///
    /// # Errors
    /// A sentence, when the folder cannot be written or the other copy does not say where it is.
    pub(crate) fn claim(data: &Path) -> Result<Claim, String> {
        let (locked, address) = (beside(data, "running"), beside(data, "address"));
        let problem = |path: &Path, e: std::io::Error| format!("{}: {e}", path.display());
        if let Some(folder) = data.parent().filter(|f| !f.as_os_str().is_empty()) {
            std::fs::create_dir_all(folder).map_err(|e| problem(folder, e))?;
        }
        let file = own_file(&locked).map_err(|e| problem(&locked, e))?;
        match file.try_lock() {
            Ok(()) => {
                let last_time = read(&address).and_then(|at| at.rsplit(':').next()?.parse().ok());
                // Until it is known anew: whoever starts now must not be led to the address of the last time.
                own_file(&address).and_then(|f| f.set_len(0)).map_err(|e| problem(&address, e))?;
                Ok(Claim::Ours(Self { _locked: file, address, last_time }))
            }
            Err(std::fs::TryLockError::WouldBlock) => told(&address).map(Claim::Theirs),
            Err(std::fs::TryLockError::Error(e)) => Err(problem(&locked, e)),
        }
    }

    /// Port the pages were at when the data file was served last.
    pub(crate) fn last_time(&self) -> Option<u16> {
        self.last_time
    }

    /// Says where the pages are, and keeps it for the next start.
    pub(crate) fn is_at(&self, address: SocketAddr) {
        // Not known, it costs a bookmark and nothing else.
        let written = own_file(&self.address).and_then(|mut f| f.set_len(0).and_then(|()| write!(f, "http://{address}")));
        if let Err(e) = written {
            tracing::warn!(file = %self.address.display(), problem = %e, "the address is not kept");
        }
    }
}

fn beside(data: &Path, ending: &str) -> PathBuf {
    let mut name = data.as_os_str().to_owned();
    name.push(".");
    name.push(ending);
    name.into()
}

/// Opens a file that its owner alone may read, and makes it where it is not there.
fn own_file(path: &Path) -> std::io::Result<File> {
    let mut options = OpenOptions::new();
    options.create(true).truncate(false).read(true).write(true);
    #[cfg(unix)]
    std::os::unix::fs::OpenOptionsExt::mode(&mut options, 0o600);
    options.open(path)
}

fn read(address: &Path) -> Option<String> {
    let mut text = String::new();
    File::open(address).and_then(|mut f| f.read_to_string(&mut text)).ok()?;
    let at = text.trim();
    // An address is believed only where it leads to this machine.
    let socket: SocketAddr = at.strip_prefix("http://")?.parse().ok()?;
    socket.ip().is_loopback().then(|| at.to_owned())
}

/// The address the other copy says.
fn told(address: &Path) -> Result<String, String> {
    let end = Instant::now() + PATIENCE;
    loop {
        if let Some(at) = read(address) {
            return Ok(at);
        }
        if Instant::now() > end {
            return Err("another Lean Swatch holds the data file and does not say where it is: end it, and start again".into());
        }
        std::thread::sleep(LOOK);
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn ours(data: &Path) -> RunningCopy {
        match RunningCopy::claim(data).unwrap() {
            Claim::Ours(copy) => copy,
            Claim::Theirs(at) => panic!("nobody else runs, and it is said to be at {at}"),
        }
    }

    #[test]
    fn the_second_start_finds_the_first_and_the_port_is_kept_for_the_third() {
        let dir = tempfile::tempdir().unwrap();
        let data = dir.path().join("new folder/studio.db");
        let first = ours(&data);
        assert_eq!(first.last_time(), None);
        first.is_at("127.0.0.1:41234".parse().unwrap());
        assert!(matches!(RunningCopy::claim(&data).unwrap(), Claim::Theirs(at) if at == "http://127.0.0.1:41234"));
        drop(first);
        assert_eq!(ours(&data).last_time(), Some(41234));
    }

    #[test]
    fn an_address_elsewhere_is_not_believed() {
        let dir = tempfile::tempdir().unwrap();
        let data = dir.path().join("studio.db");
        std::fs::write(beside(&data, "address"), "http://192.0.2.7:80").unwrap();
        assert_eq!(ours(&data).last_time(), None);
    }
}
