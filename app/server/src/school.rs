//! A school: one process, one data file a painter, behind a proxy that signs people in and says in a header who it is.
//!
//! The proxy is believed, and nobody else can be: the server listens on this machine only. Long work of all painters takes turns ([`Turns`]).

use crate::problem::Problem;
use crate::router::router_behind_proxy;
use crate::state::Studio;
use crate::turns::Turns;
use axum::Router;
use axum::extract::{Request, State};
use axum::http::{HeaderMap, HeaderName, StatusCode, header};
use axum::response::{IntoResponse, Response};
use lean_store::Store;
use std::path::PathBuf;
use std::sync::{Arc, Mutex};
use tower::ServiceExt;

/// Studios that are kept open at once; of the others the file is opened anew when its painter comes back.
const OPEN: usize = 64;

/// Everyone's studios.
pub struct School {
    folder: PathBuf,
    header: HeaderName,
    turns: Arc<Turns>,
    most: usize,
    /// The one asked last stands last.
    open: Mutex<Vec<(String, Router)>>,
}

impl School {
    /// Data files lie in `folder`, named after who the `header` says it is; `together` long works run at once.
    pub fn at(folder: PathBuf, header: HeaderName, together: usize) -> Self {
        Self { folder, header, turns: Arc::new(Turns::of(together)), most: OPEN, open: Mutex::default() }
    }

    /// The same with fewer studios, or more, kept open at once.
    pub fn keeping(self, most: usize) -> Self {
        Self { most: most.max(1), ..self }
    }

    /// Who asks, as the proxy says.
    fn painter(&self, headers: &HeaderMap) -> Result<String, Problem> {
        let mut said = headers.get_all(&self.header).iter();
        let name = match (said.next().map(|v| v.to_str().unwrap_or_default()), said.next()) {
            (Some(name), None) => name,
            _ => "",
        };
        let whole = (1..=64).contains(&name.len()) && !name.starts_with('.');
        let plain = name.bytes().all(|b| b.is_ascii_lowercase() || b.is_ascii_digit() || b"-_.@".contains(&b));
        if whole && plain {
            return Ok(name.to_owned());
        }
        Err(Problem::new(
            StatusCode::UNAUTHORIZED,
            "nobody",
            "Nobody is signed in",
            format!("The proxy is to say who asks in one {} header: 1 to 64 small letters, digits, and - _ . @.", self.header),
        ))
    }

    /// The studio of a painter; its file is made when it is not there.
    fn of(&self, painter: &str) -> Result<Router, Problem> {
        let mut open = self.open.lock().unwrap_or_else(|p| p.into_inner());
        let at = open.iter().position(|(name, _)| name == painter);
        let entry = match at {
            Some(at) => open.remove(at),
            None => {
                let file = self.folder.join(format!("{painter}.db"));
                let store = Store::open(&file).map_err(Problem::from)?;
                let mut studio = Studio::new(store);
                studio.jobs.take_turns(self.turns.clone(), painter);
                (painter.to_owned(), router_behind_proxy(studio))
            }
        };
        let router = entry.1.clone();
        open.push(entry);
        if open.len() > self.most {
            drop(open.remove(0));
        }
        Ok(router)
    }
}

/// Each painter's own studio, and nobody else's.
pub fn router(school: School) -> Router {
    Router::new().fallback(answer).with_state(Arc::new(school))
}

async fn answer(State(school): State<Arc<School>>, request: Request) -> Response {
    if let Some(problem) = from_elsewhere(request.headers()) {
        return problem.into_response();
    }
    let painter = match school.painter(request.headers()) {
        Ok(painter) => painter,
        Err(problem) => return problem.into_response(),
    };
    // Opening a file reads the disk.
    let opened = tokio::task::spawn_blocking(move || school.of(&painter)).await;
    match opened.unwrap_or_else(|_| Err(Problem::internal("The studio could not be opened. Try again."))) {
        Ok(router) => router.oneshot(request).await.into_response(),
        Err(problem) => problem.into_response(),
    }
}

/// A page of another site that sends something here, signed in as the painter is (cross-site requests). The proxy passes on the host that was asked.
fn from_elsewhere(headers: &HeaderMap) -> Option<Problem> {
    let text = |name: HeaderName| headers.get(name).map(|v| v.to_str().unwrap_or("?").to_owned());
    let origin = text(header::ORIGIN)?;
    let host = text(header::HOST).unwrap_or_default();
    let own = origin.split_once("://").is_some_and(|(_, o)| o.eq_ignore_ascii_case(&host));
    (!own).then(|| {
        let detail =
            format!("The page \"{origin}\" is not of \"{host}\". Behind a proxy, pass the host on: proxy_set_header Host $http_host.");
        Problem::new(StatusCode::FORBIDDEN, "foreign", "Refused", detail)
    })
}
