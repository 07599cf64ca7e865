//! A school: one process, one data file a painter, behind a proxy that signs people in and says in a header who it is.
//!
//! The proxy is believed, and nobody else can be: the server listens on this machine only. Long work of all painters takes turns ([`Turns`]).

use crate::daily;
use crate::handlers::keeping;
use crate::problem::Problem;
use crate::router::router_behind_proxy;
use crate::state::Studio;
use crate::turns::Turns;
use axum::Router;
use axum::extract::{Request, State};
use axum::http::{HeaderMap, HeaderName, StatusCode, header};
use axum::response::{IntoResponse, Response};
use jiff::civil::Date;
use lean_store::Store;
use std::path::PathBuf;
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};
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
    seats: Mutex<Vec<(String, Seat)>>,
}

/// Where the studio of a painter stands once it is open.
type Seat = Arc<Mutex<Option<Open>>>;

/// A studio that is open.
struct Open {
    router: Router,
    studio: Studio,
    /// The day its backup was seen to.
    backed_up: Date,
}

impl School {
    /// Data files lie in `folder`, named after who the `header` says it is; `together` long works run at once.
    pub fn at(folder: PathBuf, header: HeaderName, together: usize) -> Self {
        Self { folder, header, turns: Arc::new(Turns::of(together)), most: OPEN, seats: Mutex::default() }
    }

    /// The same with fewer studios, or more, kept open at once.
    pub fn keeping(self, most: usize) -> Self {
        Self { most: most.max(1), ..self }
    }

    /// The queue all long work waits in.
    pub fn turns(&self) -> Arc<Turns> {
        self.turns.clone()
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

    /// The studio of a painter; its file is made when it is not there. Nobody waits while the file of another is opened.
    fn of(&self, painter: &str) -> Result<Router, Problem> {
        let seat = self.seat(painter);
        let mut seat = locked(&seat);
        if seat.is_none() {
            *seat = Some(self.opened(painter)?);
        }
        let open = seat.as_mut().ok_or_else(|| Problem::internal("The studio could not be opened. Try again."))?;
        let today = jiff::Zoned::now().date();
        if open.backed_up != today {
            open.backed_up = today;
            let studio = open.studio.clone();
            tokio::task::spawn_blocking(move || daily::back_up(&studio));
        }
        Ok(open.router.clone())
    }

    /// Where the studio of a painter stands, or is to stand. Of too many the one that was asked longest ago goes, unless it still works.
    fn seat(&self, painter: &str) -> Seat {
        let mut seats = locked(&self.seats);
        let taken = seats.iter().position(|(name, _)| name == painter).map(|at| seats.remove(at).1);
        let seat = taken.unwrap_or_default();
        if seats.len() >= self.most {
            // One that is being opened or asked just now is in use.
            let works =
                |seat: &Mutex<Option<Open>>| seat.try_lock().map_or(true, |s| s.as_ref().is_some_and(|o| o.studio.jobs.any_running()));
            let idle = seats.iter().position(|(_, seat)| !works(seat));
            idle.map(|at| seats.remove(at));
        }
        seats.push((painter.to_owned(), seat.clone()));
        seat
    }

    fn opened(&self, painter: &str) -> Result<Open, Problem> {
        let store = Store::open(&self.folder.join(format!("{painter}.db"))).map_err(Problem::from)?;
        let mut studio = Studio::new(store);
        studio.jobs.take_turns(self.turns.clone(), painter);
        if studio.store.was_not_checked() {
            keeping::checked(&studio);
        }
        Ok(Open { router: router_behind_proxy(studio.clone()), studio, backed_up: Date::MIN })
    }
}

fn locked<T>(of: &Mutex<T>) -> MutexGuard<'_, T> {
    of.lock().unwrap_or_else(PoisonError::into_inner)
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
