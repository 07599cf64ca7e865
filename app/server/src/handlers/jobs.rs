//! Watching and cancelling long work.

use crate::extract::Path;
use crate::jobs::JobView;
use crate::problem::Problem;
use crate::state::Studio;
use axum::Json;
use axum::extract::State;
use axum::response::sse::{Event, KeepAlive, Sse};
use futures::{Stream, StreamExt, stream};
use std::convert::Infallible;
use tokio_stream::wrappers::WatchStream;

fn gone(id: u64) -> Problem {
    Problem::not_found(format!("There is no job {id}; the server may have been started anew. What it had finished was kept."))
}

/// State of a job. While it runs it is answered ten times a second at most: a client that asks more often waits for its answer.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/jobs/{id}", operation_id = "read_job", params(("id" = u64, Path)), responses((status = 200, body = JobView), (status = 404, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn read(State(studio): State<Studio>, Path(id): Path<u64>) -> Result<Json<JobView>, Problem> {
    let job = studio.jobs.get(id).ok_or_else(|| gone(id))?;
    if !job.now().finished {
        tokio::time::sleep_until(job.next_answer().into()).await;
    }
    Ok(Json(job.now()))
}

/// Asks a job to stop. What it had changed before stays; a search changes nothing until it ends.
#[cfg_attr(feature = "description", utoipa::path(delete, path = "/api/jobs/{id}", operation_id = "cancel_job", params(("id" = u64, Path)), responses((status = 200, body = JobView), (status = 404, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn cancel(State(studio): State<Studio>, Path(id): Path<u64>) -> Result<Json<JobView>, Problem> {
    studio.jobs.cancel(id).map(Json).ok_or_else(|| gone(id))
}

/// Follows a job: one event named `progress` for each step, the last one named `done`. Listening never starts anything.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/jobs/{id}/events", operation_id = "follow_job", params(("id" = u64, Path)), responses((status = 200, content_type = "text/event-stream", body = String), (status = 404, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn follow(
    State(studio): State<Studio>,
    Path(id): Path<u64>,
) -> Result<Sse<impl Stream<Item = Result<Event, Infallible>>>, Problem> {
    let job = studio.jobs.get(id).ok_or_else(|| gone(id))?;
    // The stream ends with the step that says so, not with the one that never comes after it.
    let steps = stream::unfold(Some(WatchStream::new(job.watch())), |watched| async {
        let mut watched = watched?;
        let step = watched.next().await?;
        let go_on = !step.finished;
        Some((step, go_on.then_some(watched)))
    });
    let events = steps.map(|v| {
        let name = if v.finished { "done" } else { "progress" };
        Ok(Event::default().event(name).json_data(&v).unwrap_or_default())
    });
    Ok(Sse::new(events).keep_alive(KeepAlive::default()))
}
