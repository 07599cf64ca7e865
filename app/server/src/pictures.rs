//! Pictures on their way in and out: kept untouched with their working copy, and written as files.

use crate::problem::Problem;
use axum::http::header;
use axum::response::{IntoResponse, Response};
use image::codecs::jpeg::JpegEncoder;
use image::codecs::png::{CompressionType, FilterType, PngEncoder};
use image::{ExtendedColorType, ImageEncoder};
use lean_picture::decode::{MOST_ROOM, room_for};
use lean_picture::sharpness::sharpness;
use lean_picture::{Picture, decode};
use lean_plan::zones::WORKING_SIDE;
use lean_store::Store;
use std::sync::{Condvar, Mutex};
use std::time::Duration;

/// Bytes all pictures that are being opened may take together.
const ROOM: u64 = MOST_ROOM;

/// How often somebody who waits is asked whether to go on.
const ASKED: Duration = Duration::from_millis(200);

static TAKEN: (Mutex<u64>, Condvar) = (Mutex::new(0), Condvar::new());

/// A picture in its full size, and the room it takes until it is let go.
pub(crate) struct Opened {
    picture: Picture,
    _room: Room,
}

impl std::ops::Deref for Opened {
    type Target = Picture;

    fn deref(&self) -> &Picture {
        &self.picture
    }
}

struct Room(u64);

impl Room {
    /// Waits until so much is free.
    fn of(bytes: u64, waits: &dyn Fn() -> Result<(), Problem>) -> Result<Self, Problem> {
        let mut taken = TAKEN.0.lock().unwrap_or_else(|p| p.into_inner());
        while *taken > 0 && *taken + bytes > ROOM {
            waits()?;
            taken = TAKEN.1.wait_timeout(taken, ASKED).unwrap_or_else(|p| p.into_inner()).0;
        }
        *taken += bytes;
        Ok(Self(bytes))
    }
}

impl Drop for Room {
    fn drop(&mut self) {
        *TAKEN.0.lock().unwrap_or_else(|p| p.into_inner()) -= self.0;
        TAKEN.1.notify_all();
    }
}

/// Opens a picture in its full size, as soon as there is room for it beside the others.
///
/// # Errors
/// When it is no picture that can be read.
pub(crate) fn open(file: &[u8]) -> Result<Opened, Problem> {
    open_while(file, &|| Ok(()))
}

/// The same; `waits` is asked again and again while there is no room, and calls it off by a problem.
///
/// # Errors
/// When it is no picture that can be read, and what `waits` says.
pub(crate) fn open_while(file: &[u8], waits: &dyn Fn() -> Result<(), Problem>) -> Result<Opened, Problem> {
    let room = Room::of(room_for(file)?, waits)?;
    Ok(Opened { picture: decode(file)?, _room: room })
}

/// A picture that was taken in.
pub(crate) struct TakenIn {
    /// Digest of the file.
    pub digest: String,
    /// Width and height of the file, in pixels.
    pub full: (u32, u32),
    /// Share of its linear resolution that it uses.
    pub sharpness: f64,
    /// The copy that is worked on.
    pub working: Picture,
}

impl TakenIn {
    /// Reads a file and keeps it.
    ///
    /// # Errors
    /// When it is no picture, or the data file cannot be written.
    pub(crate) fn keep(store: &Store, file: &[u8]) -> Result<Self, Problem> {
        let picture = open(file)?;
        let full = (picture.width, picture.height);
        let working = picture.reduced(WORKING_SIDE);
        let digest = store.put_picture(file, &png(&working)?)?;
        Ok(Self { digest, full, sharpness: sharpness(&picture), working })
    }

    /// Width by height.
    pub(crate) fn proportion(&self) -> f64 {
        f64::from(self.full.0) / f64::from(self.full.1)
    }
}

/// A picture as a lossless PNG, quickly.
///
/// # Errors
/// When the picture is too large to be written.
pub(crate) fn png(picture: &Picture) -> Result<Vec<u8>, Problem> {
    let mut out = Vec::new();
    PngEncoder::new_with_quality(&mut out, CompressionType::Fast, FilterType::Up)
        .write_image(&picture.rgb, picture.width, picture.height, ExtendedColorType::Rgb8)
        .map_err(|e| Problem::internal(format!("The picture cannot be written: {e}")))?;
    Ok(out)
}

/// A picture as a JPEG answer; `keep` tells the browser how long.
///
/// # Errors
/// When the picture is too large to be written.
pub(crate) fn jpeg(picture: &Picture, keep: &'static str) -> Result<Response, Problem> {
    let mut out = Vec::new();
    JpegEncoder::new_with_quality(&mut out, 90)
        .write_image(&picture.rgb, picture.width, picture.height, ExtendedColorType::Rgb8)
        .map_err(|e| Problem::internal(format!("The picture cannot be written: {e}")))?;
    Ok(([(header::CONTENT_TYPE, "image/jpeg"), (header::CACHE_CONTROL, keep)], out).into_response())
}

#[cfg(test)]
mod tests {
    use super::*;
    use std::sync::atomic::{AtomicUsize, Ordering};

    #[test]
    fn who_finds_no_room_is_asked_whether_to_wait() {
        let first = Room::of(ROOM, &|| Ok(())).unwrap_or_else(|_| unreachable!());
        let called_off = Room::of(1, &|| Err(Problem::cancelled()));
        assert!(called_off.is_err(), "whoever waits can leave");
        let asked = AtomicUsize::new(0);
        std::thread::scope(|s| {
            let asked = &asked;
            let waits = || {
                asked.fetch_add(1, Ordering::Relaxed);
                Ok(())
            };
            let waiting = s.spawn(move || Room::of(1, &waits).map(drop));
            while asked.load(Ordering::Relaxed) == 0 {
                std::thread::yield_now();
            }
            drop(first);
            assert!(waiting.join().is_ok_and(|r| r.is_ok()), "and comes in as soon as there is room");
        });
    }
}
