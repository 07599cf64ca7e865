//! Pages of a damaged database file, read without the database: what lies in its write-ahead log stands over them.
//! Source: the published description of SQLite's file format, versions 3.

use std::collections::HashMap;
use std::fs::File;
use std::io::{Read, Seek, SeekFrom};
use std::path::{Path, PathBuf};
use std::sync::Mutex;

/// Bytes of a page: every data file has the default size.
pub(super) const PAGE: usize = 4096;

/// A file in pages, numbered from 1.
pub(crate) struct Image {
    file: Mutex<File>,
    pages: u32,
    newer: HashMap<u32, Vec<u8>>,
}

impl Image {
    /// Opens a file, with the log beside it.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub(super) fn open(path: &Path) -> std::io::Result<Self> {
        let file = File::open(path)?;
        let pages = u32::try_from(file.metadata()?.len().div_ceil(PAGE as u64)).unwrap_or(u32::MAX);
        let log = std::fs::read(PathBuf::from(format!("{}-wal", path.display()))).unwrap_or_default();
        let newer = committed(&log).unwrap_or_default();
        let pages = pages.max(newer.keys().copied().max().unwrap_or(0));
        Ok(Self { file: Mutex::new(file), pages, newer })
    }

    /// How many pages there are.
    pub(super) fn pages(&self) -> u32 {
        self.pages
    }

    /// A page; one that the file ends in is filled up with zeros. `None` beyond the end.
    pub(super) fn page(&self, number: u32) -> Option<Vec<u8>> {
        if number == 0 || number > self.pages {
            return None;
        }
        if let Some(page) = self.newer.get(&number) {
            return Some(page.clone());
        }
        let mut file = self.file.lock().unwrap_or_else(|poisoned| poisoned.into_inner());
        file.seek(SeekFrom::Start((u64::from(number) - 1) * PAGE as u64)).ok()?;
        let mut page = Vec::with_capacity(PAGE);
        (&mut *file).take(PAGE as u64).read_to_end(&mut page).ok()?;
        page.resize(PAGE, 0);
        Some(page)
    }
}

/// Four bytes, the highest first.
pub(crate) fn u32_at(bytes: &[u8], at: usize) -> Option<u32> {
    Some(u32::from_be_bytes(bytes.get(at..at + 4)?.try_into().ok()?))
}

/// The newest state of every page that a log holds and that was committed. It ends where a checksum does not fit.
fn committed(log: &[u8]) -> Option<HashMap<u32, Vec<u8>>> {
    const HEAD: usize = 32;
    const FRAME: usize = 24;
    let magic = u32_at(log, 0)?;
    let big_endian = match magic {
        0x377f_0682 => false,
        0x377f_0683 => true,
        _ => return None,
    };
    if u32_at(log, 8)? as usize != PAGE {
        return None;
    }
    let salt = log.get(16..24)?;
    let mut sum = checksum(log.get(..24)?, (0, 0), big_endian);
    if sum != (u32_at(log, 24)?, u32_at(log, 28)?) {
        return None;
    }
    let (mut kept, mut waiting) = (HashMap::new(), HashMap::new());
    for frame in log[HEAD..].chunks_exact(FRAME + PAGE) {
        sum = checksum(&frame[FRAME..], checksum(&frame[..8], sum, big_endian), big_endian);
        if frame[8..16] != *salt || (u32_at(frame, 16)?, u32_at(frame, 20)?) != sum {
            break;
        }
        waiting.insert(u32_at(frame, 0)?, frame[FRAME..].to_vec());
        if u32_at(frame, 4)? != 0 {
            kept.extend(waiting.drain());
        }
    }
    Some(kept)
}

/// The running checksum of a log.
fn checksum(bytes: &[u8], (mut a, mut b): (u32, u32), big_endian: bool) -> (u32, u32) {
    let word = |w: &[u8]| {
        let w = [w[0], w[1], w[2], w[3]];
        if big_endian { u32::from_be_bytes(w) } else { u32::from_le_bytes(w) }
    };
    for pair in bytes.chunks_exact(8) {
        a = a.wrapping_add(word(&pair[..4])).wrapping_add(b);
        b = b.wrapping_add(word(&pair[4..])).wrapping_add(a);
    }
    (a, b)
}
