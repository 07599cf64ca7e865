//! Long work: started once, watched by anyone, cancelled by anyone, finished even when nobody looks.

use crate::problem::Problem;
use crate::turns::Turns;
use lean_piece::StudyNumber;
use lean_plan::mark::ZoneMark;
use lean_plan::shared::SharedSet;
use lean_search::SetFound;
use lean_search::progress::Progress;
use lean_store::Checked;
use serde::Serialize;
use std::collections::HashMap;
use std::sync::atomic::{AtomicBool, AtomicU64, Ordering};
use std::sync::{Arc, Mutex};
use std::time::{Duration, Instant};
use tokio::sync::watch;

/// What a job is doing.
#[derive(Clone, Debug, Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub struct JobView {
    /// Number of the job while the server runs.
    pub id: u64,
    /// Which piece it works for.
    pub piece: i64,
    /// What it is, in a few words.
    pub what: String,
    /// Share of the work done, 0..=1.
    pub share: f64,
    /// Whether it has ended, for good or ill.
    pub finished: bool,
    /// What went wrong; a cancelled job says so here.
    pub problem: Option<Problem>,
    /// Sets found so far, smallest first.
    pub found: Vec<SetFound>,
    /// Studies made so far, to be looked at before all of them are kept.
    pub made: Vec<MadeStudy>,
    /// Sets for several pieces, smallest first.
    pub shared: Vec<SharedSet>,
    /// What a check of everything found.
    pub checked: Option<CheckedView>,
    /// The address to go on to.
    pub leads_to: Option<String>,
    /// Whether it waits until others' pictures are done.
    pub waits: bool,
}

/// What was looked at, and what is not sound.
#[derive(Clone, Debug, Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub struct CheckedView {
    /// Records that were read.
    pub records: usize,
    /// Pictures compared with their digest.
    pub pictures: usize,
    /// Maps of zones compared with theirs.
    pub maps: usize,
    /// What is wrong, in sentences; empty when all is sound.
    pub problems: Vec<String>,
}

impl From<Checked> for CheckedView {
    fn from(c: Checked) -> Self {
        Self { records: c.records, pictures: c.pictures, maps: c.maps, problems: c.problems }
    }
}

/// A study that was made by work still going on.
#[derive(Clone, Debug, Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub struct MadeStudy {
    /// The number it will have.
    pub number: StudyNumber,
    /// Its scheme in words.
    pub scheme: String,
    /// How many pigments its set has.
    pub pigments: usize,
    /// What each zone is filled with.
    pub marks: Vec<ZoneMark>,
}

/// A job as its work sees it.
pub struct Job {
    view: watch::Sender<JobView>,
    cancelled: AtomicBool,
    /// When it is told next to whoever asks.
    told: Mutex<Instant>,
}

/// Time between two answers to those who ask again and again what a job is doing.
const BETWEEN_ANSWERS: Duration = Duration::from_millis(100);

impl Job {
    /// Adds a set to what was found.
    pub fn found(&self, set: &SetFound) {
        self.view.send_modify(|v| v.found.push(set.clone()));
    }

    /// Shows a study that was made.
    pub fn made(&self, study: MadeStudy) {
        self.view.send_modify(|v| v.made.push(study));
    }

    /// Shows the sets for several pieces.
    pub fn shared(&self, sets: Vec<SharedSet>) {
        self.view.send_modify(|v| v.shared = sets);
    }

    /// Says what a check found.
    pub fn checked(&self, found: CheckedView) {
        self.view.send_modify(|v| v.checked = Some(found));
    }

    /// Says whether it waits for others.
    pub fn waits(&self, waits: bool) {
        self.view.send_if_modified(|v| std::mem::replace(&mut v.waits, waits) != waits);
    }

    /// Says where to go on.
    pub(crate) fn leads_to(&self, address: String) {
        self.view.send_modify(|v| v.leads_to = Some(address));
    }

    /// Follows what the job is doing.
    pub fn watch(&self) -> watch::Receiver<JobView> {
        self.view.subscribe()
    }

    /// When the next one who asks is told; whoever asks after that waits longer.
    pub(crate) fn next_answer(&self) -> Instant {
        let mut told = self.told.lock().unwrap_or_else(|p| p.into_inner());
        let at = Instant::now().max(*told);
        *told = at + BETWEEN_ANSWERS;
        at
    }

    /// What the job is doing now.
    pub fn now(&self) -> JobView {
        self.view.borrow().clone()
    }

    fn finish(&self, result: Result<(), Problem>) {
        self.view.send_modify(|v| {
            v.finished = true;
            match result {
                Ok(()) => v.share = 1.0,
                Err(p) => v.problem = Some(p),
            }
        });
    }
}

impl Progress for Job {
    fn report(&self, share: f64) {
        // Watchers need no more than a hundred steps; threads report out of order.
        self.view.send_if_modified(|v| {
            let further = share >= v.share + 0.01;
            if further {
                v.share = share.min(1.0);
            }
            further
        });
    }

    fn is_cancelled(&self) -> bool {
        self.cancelled.load(Ordering::Relaxed)
    }
}

/// All jobs since the server started. Ended ones are kept a while so that a late watcher learns how they ended.
#[derive(Clone, Default)]
pub struct Jobs {
    all: Arc<Mutex<HashMap<u64, Arc<Job>>>>,
    next: Arc<AtomicU64>,
    /// Where several painters share a machine: the queue, and whose jobs these are.
    turns: Option<(Arc<Turns>, Arc<str>)>,
}

/// Does work whose parallel loops leave one core to whoever draws, drags or drops a picture meanwhile.
pub(crate) fn on_all_cores_but_one<T: Send>(work: impl FnOnce() -> T + Send) -> T {
    let threads = std::thread::available_parallelism().map_or(1, usize::from).saturating_sub(1).max(1);
    match rayon::ThreadPoolBuilder::new().num_threads(threads).build() {
        Ok(pool) => pool.install(work),
        // A machine that gives no more threads has those of everybody.
        Err(_) => work(),
    }
}

/// How many ended jobs are remembered.
const REMEMBERED: usize = 64;

impl Jobs {
    /// Jobs started from now on wait for their turn among those of other painters.
    pub(crate) fn take_turns(&mut self, turns: Arc<Turns>, painter: &str) {
        self.turns = Some((turns, painter.into()));
    }

    /// Starts work that takes more than a second or two, on all cores but one: whoever draws, drags or drops a picture meanwhile waits for none of
    /// it. Otherwise as [`Jobs::start`].
    pub(crate) fn start_long(&self, piece: i64, what: &str, work: impl FnOnce(&Job) -> Result<(), Problem> + Send + 'static) -> JobView {
        self.start(piece, what, move |job| on_all_cores_but_one(|| work(job)))
    }

    /// Starts work on a thread of its own. A job of the same piece and kind that still runs is cancelled first.
    pub fn start(&self, piece: i64, what: &str, work: impl FnOnce(&Job) -> Result<(), Problem> + Send + 'static) -> JobView {
        let id = self.next.fetch_add(1, Ordering::Relaxed) + 1;
        let view = JobView {
            id,
            piece,
            what: what.into(),
            share: 0.0,
            finished: false,
            problem: None,
            found: Vec::new(),
            made: Vec::new(),
            shared: Vec::new(),
            checked: None,
            leads_to: None,
            waits: false,
        };
        let job =
            Arc::new(Job { view: watch::channel(view.clone()).0, cancelled: AtomicBool::new(false), told: Mutex::new(Instant::now()) });
        {
            let mut all = self.all.lock().unwrap_or_else(|p| p.into_inner());
            all.values()
                .filter(|j| {
                    let v = j.now();
                    v.piece == piece && v.what == what
                })
                .for_each(|j| j.cancelled.store(true, Ordering::Relaxed));
            forget_oldest(&mut all);
            all.insert(id, job.clone());
        }
        let turns = self.turns.clone();
        tokio::task::spawn_blocking(move || {
            let turn = turns.as_ref().map(|(turns, painter)| turns.wait(painter, &|| job.is_cancelled()));
            if matches!(turn, Some(None)) {
                return job.finish(Err(Problem::cancelled()));
            }
            let started = Instant::now();
            // A bug in one job must not take the server down or leave watchers waiting.
            let result = std::panic::catch_unwind(std::panic::AssertUnwindSafe(|| work(&job)))
                .unwrap_or_else(|_| Err(Problem::internal("The work stopped unexpectedly. Nothing was changed; try again.")));
            let view = job.now();
            tracing::info!(
                job = view.id,
                what = view.what,
                piece = view.piece,
                ms = started.elapsed().as_millis() as u64,
                ok = result.is_ok(),
                "job ended"
            );
            job.finish(result);
        });
        view
    }

    /// Whether one has not ended.
    pub(crate) fn any_running(&self) -> bool {
        self.all.lock().unwrap_or_else(|p| p.into_inner()).values().any(|j| !j.now().finished)
    }

    /// A job by number.
    pub fn get(&self, id: u64) -> Option<Arc<Job>> {
        self.all.lock().unwrap_or_else(|p| p.into_inner()).get(&id).cloned()
    }

    /// Asks a job to stop.
    pub fn cancel(&self, id: u64) -> Option<JobView> {
        let job = self.get(id)?;
        job.cancelled.store(true, Ordering::Relaxed);
        Some(job.now())
    }
}

fn forget_oldest(all: &mut HashMap<u64, Arc<Job>>) {
    let mut ended: Vec<u64> = all.iter().filter(|(_, j)| j.now().finished).map(|(id, _)| *id).collect();
    ended.sort_unstable();
    for id in ended.iter().take(ended.len().saturating_sub(REMEMBERED)) {
        all.remove(id);
    }
}
