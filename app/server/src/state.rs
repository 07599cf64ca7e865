//! What every handler shares.

use crate::backup_outcome::BackupOutcome;
use crate::filling::SharedFilling;
use crate::jobs::Jobs;
use crate::launching::Quit;
use crate::lessons::Lessons;
use crate::problem::Problem;
use crate::sharing::Sharing;
use lean_instruments::SimulatedMeter;
use lean_picture::frame::Frame;
use lean_picture::line_drawing::LineArt;
use lean_picture::places::Survey;
use lean_picture::{Picture, decode};
use lean_piece::paint_box::{BoxId, PaintBox};
use lean_piece::{Piece, Together};
use lean_plan::planned;
use lean_recipes::Target;
use lean_search::{Need, RecipeLists, Tables};
use lean_store::{Kept, PieceId, Store, StoreError};
use std::collections::HashSet;
use std::sync::{Arc, Mutex, MutexGuard};
use tokio::sync::Semaphore;

/// Number of archives written side by side, at most: each takes a thread.
const SIDE_BY_SIDE: usize = 4;

/// How many working copies are kept decoded.
const DECODED: usize = 4;

/// A working copy by its digest and frame.
type Decoded = (String, Arc<Picture>);

/// What was found of a picture, by the same key.
type Surveyed = (String, Arc<Survey>);

/// How many surveys are kept; each takes some thirty megabytes.
const SURVEYED: usize = 2;

/// Opens the demo studio and gives its address. It hears the address where the demo is left to.
pub(crate) type DemoDoor = dyn Fn(&str) -> Result<String, Problem> + Send + Sync;

/// The store, the running jobs and the pictures looked at last.
#[derive(Clone)]
pub struct Studio {
    /// The data file.
    pub store: Arc<Store>,
    /// Long work.
    pub jobs: Jobs,
    /// What searches have made ready.
    pub tables: Arc<Tables>,
    /// Recipes of the sets asked for last.
    pub lists: Arc<RecipeLists>,
    /// Outcome of the backups by the day.
    pub backups: BackupOutcome,
    /// Leave to write an archive: each takes a thread.
    pub archives: Arc<Semaphore>,
    /// What readings taught.
    pub lessons: Arc<Lessons>,
    /// Where paired devices come to; nothing while nothing is shared.
    pub sharing: Option<Arc<Sharing>>,
    /// The demo studio that can be visited from here; nothing in the demo itself, in a school, and on a phone.
    pub visiting: Option<Arc<DemoDoor>>,
    /// In a demo studio that is visited: where it is left to.
    pub home: Option<Arc<str>>,
    /// True where a simulated meter and camera stand in this studio: in a demo, or where they were asked for.
    pub(crate) simulates: bool,
    /// Ends the program; nothing where no page may, as in a school.
    pub(crate) quit: Option<Arc<Quit>>,
    /// In a demo studio: progress of filling it.
    pub filling: SharedFilling,
    working: Arc<Mutex<Vec<Decoded>>>,
    surveys: Arc<Mutex<Vec<Surveyed>>>,
    meter: Arc<Mutex<SimulatedMeter>>,
    played_photos: Arc<Mutex<HashSet<String>>>,
}

/// The seed of the simulated meter.
const METER: u64 = 17;

impl Studio {
    /// A studio over an open data file.
    pub fn new(store: Store) -> Self {
        Self {
            store: Arc::new(store),
            jobs: Jobs::default(),
            tables: Arc::default(),
            lists: Arc::default(),
            backups: BackupOutcome::default(),
            archives: Arc::new(Semaphore::new(SIDE_BY_SIDE)),
            lessons: Arc::default(),
            sharing: None,
            visiting: None,
            home: None,
            simulates: false,
            quit: None,
            played_photos: Arc::default(),
            filling: SharedFilling::default(),
            working: Arc::default(),
            surveys: Arc::default(),
            meter: Arc::new(Mutex::new(SimulatedMeter::seeded(METER))),
        }
    }

    /// The same with a simulated meter and camera, whose readings teach here.
    pub fn simulated(self) -> Self {
        Self { simulates: true, lessons: Arc::new(Lessons::of_a_simulated_studio()), ..self }
    }

    /// Refuses what needs an instrument where there is none.
    ///
    /// # Errors
    /// A sentence that says what can be done without.
    pub(crate) fn expect_instruments(&self) -> Result<(), Problem> {
        if self.simulates {
            return Ok(());
        }
        Err(Problem::not_found(
            "There is no colour meter here. Judge the swatch by eye, photograph a test card, type its colour, or take in a file of measurements.",
        ))
    }

    /// Remembers a photo that the simulated camera made up.
    pub(crate) fn remember_played(&self, photo: &[u8]) {
        self.played_photos.lock().unwrap_or_else(|p| p.into_inner()).insert(Store::digest_of(photo));
    }

    /// True where the simulated camera made a photo up, by its digest.
    pub(crate) fn is_played(&self, digest: &str) -> bool {
        self.played_photos.lock().unwrap_or_else(|p| p.into_inner()).contains(digest)
    }

    /// The colour meter, for one at a time.
    pub fn meter(&self) -> MutexGuard<'_, SimulatedMeter> {
        self.meter.lock().unwrap_or_else(|poisoned| poisoned.into_inner())
    }

    /// Runs work that reads the disk or computes for more than a moment off the async threads.
    ///
    /// # Errors
    /// Those of the work.
    pub async fn run<T: Send + 'static>(&self, work: impl FnOnce(&Self) -> Result<T, Problem> + Send + 'static) -> Result<T, Problem> {
        let studio = self.clone();
        tokio::task::spawn_blocking(move || work(&studio))
            .await
            .unwrap_or_else(|_| Err(Problem::internal("The work stopped unexpectedly. Nothing was changed; try again.")))
    }

    /// The Box a piece draws on, if any, with what it takes from a second one. A second Box that was removed gives nothing.
    ///
    /// # Errors
    /// When the data file cannot be read.
    pub fn box_of(&self, kept: &Kept) -> Result<Option<PaintBox>, Problem> {
        kept.piece.paint_box.as_ref().map(|first| self.boxes_together(first, kept.piece.together.as_ref())).transpose()
    }

    /// The same where nothing can be done without one.
    ///
    /// # Errors
    /// When the piece draws on none, too.
    pub(crate) fn needed_box(&self, kept: &Kept) -> Result<PaintBox, Problem> {
        self.box_of(kept)?.ok_or_else(|| Problem::unusable("This piece draws on no Box yet. Choose one in the brief."))
    }

    /// A Box, alone or with what is taken from a second one.
    ///
    /// # Errors
    /// When the first is not there, or the data file cannot be read.
    pub(crate) fn boxes_together(&self, first: &BoxId, together: Option<&Together>) -> Result<PaintBox, Problem> {
        let paint_box = self.store.paint_box(first)?;
        let Some(together) = together else { return Ok(paint_box) };
        if together.paint_box == *first {
            return Ok(paint_box.with(together.second, None));
        }
        match self.store.paint_box(&together.paint_box) {
            Ok(other) => Ok(paint_box.with(together.second, Some(&other))),
            Err(StoreError::NotFound(_)) => Ok(paint_box),
            Err(e) => Err(e.into()),
        }
    }

    /// What a set for this piece has to serve: its own zones first, then those of the pieces it is also for. A companion that was removed, or has
    /// no zones yet, asks for nothing.
    ///
    /// # Errors
    /// When the data file cannot be read, or a companion is in another medium.
    pub fn needs(&self, piece: &Piece) -> Result<Vec<Need>, Problem> {
        let mut needs = vec![piece.own_need()];
        if let Some(wished) = &piece.wished {
            let targets = wished.colours.iter().map(|c| Target { lab: c.lab, weight: c.area.max(0.0).sqrt() }).collect();
            needs.push(Need { weight: wished.weight, ..piece.need(targets, piece.cost()) });
        }
        for companion in &piece.aim.also_for {
            let other = match self.store.piece(companion.piece) {
                Ok(kept) => kept.piece,
                Err(StoreError::NotFound(_)) => continue,
                Err(e) => return Err(e.into()),
            };
            if other.brief.medium != piece.brief.medium {
                return Err(Problem::unusable(format!(
                    "\"{}\" is in {} by now; one set serves pieces of one medium. Take it off the pieces this set is also for.",
                    other.brief.title,
                    other.brief.medium.name()
                )));
            }
            if !other.zones.is_empty() {
                needs.push(Need { weight: companion.weight, ..other.own_need() });
            }
        }
        Ok(needs)
    }

    /// A piece and the working copy of its reference.
    ///
    /// # Errors
    /// When the piece is not there or has no reference.
    pub(crate) fn piece_and_picture(&self, id: PieceId) -> Result<(Kept, Arc<Picture>), Problem> {
        let kept = self.store.piece(id)?;
        let picture = match &kept.piece.reference {
            Some(reference) => self.framed(&reference.digest, reference.frame)?,
            // Without a reference the plan itself is looked at and measured.
            None => planned::draw(&kept.piece, planned::What::Read)
                .map(Arc::new)
                .ok_or_else(|| Problem::not_found("This piece has no reference yet. Drop a picture on it."))?,
        };
        Ok((kept, picture))
    }

    /// A picture of the plan with the lines of the drawing over it; as it is where the reference is no drawing.
    ///
    /// # Errors
    /// When the drawing is not in the data file or cannot be read.
    pub(crate) fn with_lines(&self, piece: &Piece, picture: Picture) -> Result<Picture, Problem> {
        Ok(match self.line_art(piece)? {
            Some(lines) => lines.over(picture),
            None => picture,
        })
    }

    /// The lines of the drawing; `None` where the reference is none.
    ///
    /// # Errors
    /// As [`Self::with_lines`].
    pub(crate) fn line_art(&self, piece: &Piece) -> Result<Option<LineArt>, Problem> {
        let drawing = piece.reference.as_ref().filter(|r| r.lines);
        drawing.map(|r| Ok(LineArt::of(&*self.framed(&r.digest, r.frame)?))).transpose()
    }

    /// The working copy of a reference in its frame.
    ///
    /// # Errors
    /// When it is not in the data file or cannot be read.
    pub fn framed(&self, digest: &str, frame: Frame) -> Result<Arc<Picture>, Problem> {
        if frame.is_whole() {
            return self.working_copy(digest);
        }
        let key = key_of(digest, frame);
        if let Some(hit) = self.remembered(&key) {
            return Ok(hit);
        }
        let picture = Arc::new(frame.apply(&*self.working_copy(digest)?));
        self.remember(key, picture.clone());
        Ok(picture)
    }

    /// What was found of a piece's picture; made once, cut with any colours and any brush.
    pub fn survey(&self, kept: &Kept, picture: &Picture) -> Arc<Survey> {
        let Some(reference) = &kept.piece.reference else { return Arc::new(Survey::of(picture)) };
        self.survey_of(&reference.digest, reference.frame, picture)
    }

    /// The same of a picture in its frame.
    pub(crate) fn survey_of(&self, digest: &str, frame: Frame, picture: &Picture) -> Arc<Survey> {
        let key = key_of(digest, frame);
        let known = || self.surveys.lock().unwrap_or_else(|p| p.into_inner()).iter().find(|(k, _)| *k == key).map(|(_, s)| s.clone());
        if let Some(hit) = known() {
            return hit;
        }
        // Made with the list free: whoever asks for another picture does not wait.
        let survey = Arc::new(Survey::of(picture));
        self.keep_survey(key, survey.clone());
        survey
    }

    /// Remembers a working copy that was just made, whole, and what was found of it.
    pub(crate) fn looked_at(&self, digest: &str, picture: Arc<Picture>, survey: Arc<Survey>) {
        self.remember(digest.to_owned(), picture);
        self.keep_survey(digest.to_owned(), survey);
    }

    fn keep_survey(&self, key: String, survey: Arc<Survey>) {
        let mut cache = self.surveys.lock().unwrap_or_else(|p| p.into_inner());
        cache.retain(|(k, _)| *k != key);
        cache.push((key, survey));
        if cache.len() > SURVEYED {
            cache.remove(0);
        }
    }

    fn remembered(&self, key: &str) -> Option<Arc<Picture>> {
        let mut cache = self.working.lock().unwrap_or_else(|p| p.into_inner());
        let at = cache.iter().position(|(d, _)| d == key)?;
        let hit = cache.remove(at);
        let picture = hit.1.clone();
        cache.push(hit);
        Some(picture)
    }

    fn remember(&self, key: String, picture: Arc<Picture>) {
        let mut cache = self.working.lock().unwrap_or_else(|p| p.into_inner());
        cache.push((key, picture));
        if cache.len() > DECODED {
            cache.remove(0);
        }
    }

    /// The decoded working copy of a reference.
    ///
    /// # Errors
    /// When it is not in the data file or cannot be read.
    pub(crate) fn working_copy(&self, digest: &str) -> Result<Arc<Picture>, Problem> {
        if let Some(hit) = self.remembered(digest) {
            return Ok(hit);
        }
        let picture = Arc::new(decode(&self.store.working(digest)?)?);
        self.remember(digest.to_owned(), picture.clone());
        Ok(picture)
    }
}

fn key_of(digest: &str, frame: Frame) -> String {
    if frame.is_whole() { digest.to_owned() } else { format!("{digest} {frame:?}") }
}
