//! Keeping what was made: backups, the archive, the check.

use crate::daily;
use crate::extract::Body as Bytes;
use crate::jobs::JobView;
use crate::problem::Problem;
use crate::state::Studio;
use axum::Json;
use axum::body::Body;
use axum::extract::State;
use axum::http::{StatusCode, header};
use axum::response::{IntoResponse, Response};
use lean_store::{Backups, MEDIA_TYPE};
use serde::Serialize;
use std::io::Write;
use std::path::PathBuf;
use std::time::Duration;
use tokio::runtime::Handle;
use tokio::sync::mpsc;

/// A backup.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct BackupLine {
    /// Where it lies.
    file: String,
    /// How large it is, in bytes.
    bytes: u64,
}

/// How what was made is kept.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct KeepingView {
    /// The data file; none where everything lies in memory.
    data: Option<String>,
    /// How large it is, in bytes.
    bytes: u64,
    /// Its backups by the day, the newest first.
    backups: Vec<BackupLine>,
    /// How many of them are kept.
    kept: usize,
    /// Whether nothing is in it yet, so that an archive can be read into it.
    empty: bool,
    /// Why the last backup was not made; none where it was.
    not_backed_up: Option<String>,
    /// Damaged data files that gave way to what was taken out of them.
    damaged_files: Vec<BackupLine>,
    /// Sentences, one for each thing that is not in this studio because it was damaged or missing in its source; empty where nothing is missing.
    left_out: Vec<String>,
}

fn size(path: &PathBuf) -> u64 {
    std::fs::metadata(path).map_or(0, |m| m.len())
}

fn view(s: &Studio) -> Result<KeepingView, Problem> {
    let data = s.store.path().map(PathBuf::from);
    let line = |p: &PathBuf| BackupLine { file: p.display().to_string(), bytes: size(p) };
    let backups = data.as_ref().map(|d| Backups::of(d).all()).unwrap_or_default();
    Ok(KeepingView {
        bytes: data.as_ref().map_or(0, size),
        data: data.map(|d| d.display().to_string()),
        backups: backups.iter().rev().map(line).collect(),
        kept: lean_store::KEPT,
        empty: s.store.is_empty()?,
        not_backed_up: s.backups.trouble(),
        damaged_files: s.store.damaged_files().iter().rev().map(line).collect(),
        left_out: s.store.replaced().map(|r| r.rescued.lost.clone()).unwrap_or_default(),
    })
}

/// Problems of the data file and its backups, a sentence each.
pub(crate) fn troubles(s: &Studio) -> Vec<String> {
    let replaced = s.store.replaced().map(|r| {
        let lost = match r.rescued.lost.len() {
            0 => "Nothing is missing".to_owned(),
            1 => "One thing is missing; Backups names it".to_owned(),
            n => format!("{n} things are missing; Backups names them"),
        };
        format!(
            "The data file was damaged, so what is sound in it was taken out and is open now. {lost}. The damaged file is kept: {}.",
            r.kept.display()
        )
    });
    let backup = s.backups.trouble().map(|why| format!("No backup was made today. {why}"));
    replaced.into_iter().chain(backup).collect()
}

/// Where the data file and its backups lie.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/keeping", operation_id = "read_keeping", responses((status = 200, body = KeepingView))))]
pub(crate) async fn read(State(studio): State<Studio>) -> Result<Json<KeepingView>, Problem> {
    studio.run(|s| Ok(Json(view(s)?))).await
}

/// Makes today's backup, unless there is one.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/keeping/backup", operation_id = "make_backup", responses((status = 200, body = KeepingView), (status = 422, body = Problem, content_type = "application/problem+json"), (status = 507, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn back_up(State(studio): State<Studio>) -> Result<Json<KeepingView>, Problem> {
    studio
        .run(|s| {
            s.store.path().ok_or_else(|| Problem::unusable("This studio lies in memory and has no file to back up."))?;
            daily::back_up(s)?;
            Ok(Json(view(s)?))
        })
        .await
}

/// Reads every page, picture, map and record. Runs as a job that says what is not sound.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/keeping/check", operation_id = "check_everything", responses((status = 202, body = JobView))))]
pub(crate) async fn check(State(studio): State<Studio>) -> (StatusCode, Json<JobView>) {
    (StatusCode::ACCEPTED, Json(checked(&studio)))
}

/// Starts the check in the background.
pub(crate) fn checked(studio: &Studio) -> JobView {
    use lean_search::progress::Progress;
    let worker = studio.clone();
    studio.jobs.start(0, "checking everything", move |job| {
        let found = worker.store.check_all(&|share| job.report(share))?;
        for problem in &found.problems {
            tracing::error!(problem, "not sound");
        }
        job.checked(found.into());
        Ok(())
    })
}

/// Hands what is written on, piece by piece.
struct Sent {
    to: mpsc::Sender<Result<Vec<u8>, std::io::Error>>,
    buffer: Vec<u8>,
}

/// Longest wait for a client that reads nothing.
const UNREAD: Duration = Duration::from_secs(60);

/// Bytes handed on at once.
const AT_ONCE: usize = 256 << 10;

impl Write for Sent {
    fn write(&mut self, bytes: &[u8]) -> std::io::Result<usize> {
        self.buffer.extend_from_slice(bytes);
        if self.buffer.len() >= AT_ONCE {
            self.flush()?;
        }
        Ok(bytes.len())
    }

    fn flush(&mut self) -> std::io::Result<()> {
        let full = std::mem::take(&mut self.buffer);
        if full.is_empty() {
            return Ok(());
        }
        let sent = Handle::current().block_on(self.to.send_timeout(Ok(full), UNREAD));
        sent.map_err(|_| std::io::Error::other("nobody reads it any more"))
    }
}

/// The whole studio with its pictures as one JSON text. docs/ARCHIVE.md describes it.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/archive", operation_id = "save_archive", responses((status = 200, content_type = "application/json", body = String))))]
pub(crate) async fn export(State(studio): State<Studio>) -> Response {
    // Whoever comes after a few others waits here, and takes neither a thread nor memory.
    let one_of_few = studio.archives.clone().acquire_owned().await;
    let (to, from) = mpsc::channel(4);
    tokio::task::spawn_blocking(move || {
        let _one_of_few = one_of_few;
        let mut sent = Sent { to, buffer: Vec::new() };
        let written = studio.store.export(&mut sent).map_err(|e| std::io::Error::other(e.to_string())).and_then(|()| sent.flush());
        if let Err(e) = written {
            // What is cut off is seen to be: an archive ends with its last bracket.
            let _ = sent.to.blocking_send(Err(e));
        }
    });
    let pieces = futures::stream::unfold(from, |mut from| async move { from.recv().await.map(|piece| (piece, from)) });
    let name = format!("attachment; filename=\"lean-swatch-{}.json\"", jiff::Zoned::now().date());
    ([(header::CONTENT_TYPE, MEDIA_TYPE.to_owned()), (header::CONTENT_DISPOSITION, name)], Body::from_stream(pieces)).into_response()
}

/// Reads an archive into this studio, which must have nothing in it.
#[cfg_attr(feature = "description", utoipa::path(put, path = "/api/archive", operation_id = "read_archive", request_body(content = Vec<u8>, content_type = "application/octet-stream"), responses((status = 200, body = KeepingView), (status = 409, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn import(State(studio): State<Studio>, Bytes(archive): Bytes) -> Result<Json<KeepingView>, Problem> {
    studio
        .run(move |s| {
            let left_out = s.store.import_here(&archive[..])?;
            Ok(Json(KeepingView { left_out, ..view(s)? }))
        })
        .await
}
