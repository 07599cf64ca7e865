//! Finding entries.

use crate::extract::Query;
use crate::problem::Problem;
use crate::state::Studio;
use axum::Json;
use axum::extract::State;
use lean_colour::{Lab, Srgb8, Value, typed};
use lean_journal::{DayTime, EntryKind, JournalEntry, Search, Season};
use lean_media::{Medium, PigmentId};
use lean_piece::easel::Outcome;
use lean_store::{KeptEntry, Source};
use serde::{Deserialize, Serialize};

/// Most entries in one answer.
const MOST: usize = 200;
/// Entries in one answer when nobody says.
const USUAL: usize = 60;

/// What is looked for; everything left out asks for nothing.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::IntoParams))]
#[cfg_attr(feature = "description", into_params(parameter_in = Query))]
pub(crate) struct Asked {
    /// Words, all of which must occur; the beginnings of words are enough.
    words: Option<String>,
    /// Kinds, as in `study,trial`; all when left out.
    kinds: Option<String>,
    /// A season.
    season: Option<Season>,
    /// South of the equator.
    southern: Option<bool>,
    /// A part of the day.
    day_time: Option<DayTime>,
    /// The weather.
    weather: Option<String>,
    /// The light.
    light: Option<String>,
    /// The subject.
    subject: Option<String>,
    /// The medium.
    medium: Option<Medium>,
    /// The ground, by its name.
    ground: Option<String>,
    /// The scheme, in words.
    scheme: Option<String>,
    /// A pigment, by its id.
    pigment: Option<String>,
    /// How it came out.
    outcome: Option<Outcome>,
    /// From this day on, as `2025-01-14`.
    from: Option<String>,
    /// Up to this day.
    to: Option<String>,
    /// A colour, CIELAB under D65, as `52,-8,30`, or of the screen, as `#7a6f8c`.
    colour: Option<String>,
    /// A mean value, 0..=10.
    value: Option<f64>,
    /// Entries to pass over.
    skip: Option<usize>,
    /// Most entries wanted, 1 to 200; 60 when left out.
    most: Option<usize>,
}

impl Asked {
    fn search(self) -> Result<Search, Problem> {
        let day = |d: Option<String>| match d.filter(|d| !d.is_empty()) {
            Some(d) if d.parse::<jiff::civil::Date>().is_err() => {
                Err(Problem::unusable(format!("\"{d}\" is no day. Write it as 2025-01-14.")))
            }
            d => Ok(d),
        };
        let words = self.words.unwrap_or_default();
        if words.chars().count() > 300 {
            return Err(Problem::unusable("300 characters of words are enough to find something. Use fewer."));
        }
        if let Some(v) = self.value.filter(|v| !(0.0..=10.0).contains(v)) {
            return Err(Problem::unusable(format!("A value of {v} is out of range; values run from 0 to 10.")));
        }
        let said = |t: Option<String>| t.filter(|t| !t.is_empty());
        Ok(Search {
            words,
            kinds: kinds(self.kinds.as_deref().unwrap_or_default())?,
            season: self.season,
            southern: self.southern.unwrap_or(false),
            day_time: self.day_time,
            weather: said(self.weather),
            light: said(self.light),
            subject: said(self.subject),
            medium: self.medium,
            ground: said(self.ground),
            scheme: said(self.scheme),
            pigment: said(self.pigment).map(PigmentId),
            outcome: self.outcome,
            from: day(self.from)?,
            to: day(self.to)?,
            colour: said(self.colour).as_deref().map(typed::parse).transpose().map_err(Problem::unusable)?,
            value: self.value.map(Value),
        })
    }
}

fn kinds(text: &str) -> Result<Vec<EntryKind>, Problem> {
    let kind = |w: &str| {
        EntryKind::ALL.iter().copied().find(|k| k.key() == w).ok_or_else(|| {
            let known: Vec<&str> = EntryKind::ALL.iter().map(|k| k.key()).collect();
            Problem::unusable(format!("\"{w}\" is no kind of entry. There are {}.", known.join(", ")))
        })
    };
    text.split(',').map(str::trim).filter(|w| !w.is_empty()).map(kind).collect()
}

/// Where an entry was read from.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case", tag = "kind")]
pub(crate) enum EntrySource {
    /// A piece.
    Piece {
        /// Its number.
        id: i64,
    },
    /// A reading of a Box.
    Reading {
        /// The Box.
        paint_box: String,
    },
    /// A field note.
    Note {
        /// Its number.
        id: i64,
    },
}

/// A colour for the screen, with its share.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct EntrySwatch {
    /// For the screen.
    srgb: Srgb8,
    /// CIELAB under D65.
    lab: Lab,
    /// Share of the picture, 0..=1.
    share: f64,
}

/// An entry as the wall shows it.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct EntryView {
    /// Its number in the journal.
    id: i64,
    /// Where it was read from.
    source: EntrySource,
    /// The season it lies in with its year, as "Winter 2026".
    season: String,
    /// The entry.
    entry: JournalEntry,
    /// Its colours for the screen, the largest first.
    colours: Vec<EntrySwatch>,
    /// What was really there, for the screen.
    read: Option<Srgb8>,
    /// Address of its picture; none where it has none.
    picture: Option<String>,
    /// Address of what was painted, to be seen beside it.
    painted: Option<String>,
}

/// What fits a search.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct FoundView {
    /// The entries asked for.
    entries: Vec<EntryView>,
    /// How many fit in all.
    all: usize,
    /// Pieces and readings that are still to be read: until then some entries may be missing. Ask again.
    left: usize,
}

/// Width of the pictures of the wall, in pixels.
const PICTURE: u32 = 360;

fn view(kept: KeptEntry, southern: bool) -> EntryView {
    let KeptEntry { id, source, entry } = kept;
    let mut colours: Vec<EntrySwatch> =
        entry.colours.iter().map(|c| EntrySwatch { srgb: c.lab.xyz().srgb(), lab: c.lab, share: c.share }).collect();
    colours.sort_by(|a, b| b.share.total_cmp(&a.share));
    let painted = |piece: i64, study: &str| format!("/api/pieces/{piece}/painted?width={PICTURE}{study}&journal={id}");
    let (picture, beside) = match (&source, entry.kind) {
        (Source::Piece(p), EntryKind::Study) => (Some(painted(*p, &format!("&study={}", entry.number))), None),
        (Source::Piece(p), EntryKind::Piece) => {
            let last = entry.photos.checked_sub(1).map(|at| format!("/api/pieces/{p}/easel/photos/{at}/view"));
            (Some(painted(*p, "")), last)
        }
        // A note without a photo has no picture.
        (Source::Note(_), _) => (entry.photo.as_ref().map(|digest| format!("/api/field-notes/photo/{digest}")), None),
        _ => (None, None),
    };
    let season = Season::headed(&entry.on, southern);
    let source = match source {
        Source::Piece(id) => EntrySource::Piece { id },
        Source::Reading(paint_box, _) => EntrySource::Reading { paint_box: paint_box.0 },
        Source::Note(id) => EntrySource::Note { id },
    };
    EntryView { id, source, season, read: entry.read.map(|lab| lab.xyz().srgb()), entry, colours, picture, painted: beside }
}

/// Entries of the journal that fit a search: those nearest in colour first where a colour is looked for, or else the newest first.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/journal", operation_id = "find_entries", params(Asked), responses((status = 200, body = FoundView), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn find(State(studio): State<Studio>, Query(asked): Query<Asked>) -> Result<Json<FoundView>, Problem> {
    let (skip, most) = (asked.skip.unwrap_or(0), asked.most.unwrap_or(USUAL).clamp(1, MOST));
    let search = asked.search()?;
    let southern = search.southern;
    studio
        .run(move |s| {
            let found = s.store.journal(&search, skip, most)?;
            Ok(Json(FoundView {
                all: found.all,
                left: found.left,
                entries: found.entries.into_iter().map(|k| view(k, southern)).collect(),
            }))
        })
        .await
}

/// A pigment that was used.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct PigmentChoice {
    /// Its id.
    id: String,
    /// What it is called.
    name: String,
}

/// How many entries of a kind there are.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct KindCount {
    /// Which.
    kind: EntryKind,
    /// How many.
    count: usize,
}

/// What there is to choose from, most common first.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct JournalChoices {
    /// Kinds of weather.
    weather: Vec<String>,
    /// Kinds of light.
    light: Vec<String>,
    /// Subjects.
    subject: Vec<String>,
    /// Grounds by name.
    ground: Vec<String>,
    /// Schemes in words.
    scheme: Vec<String>,
    /// Pigments.
    pigment: Vec<PigmentChoice>,
    /// How many entries of each kind there are.
    kinds: Vec<KindCount>,
}

/// What there is to choose from in a search.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/journal/choices", operation_id = "journal_choices", responses((status = 200, body = JournalChoices))))]
pub(crate) async fn choices(State(studio): State<Studio>) -> Result<Json<JournalChoices>, Problem> {
    studio
        .run(|s| {
            let c = s.store.journal_choices()?;
            Ok(Json(JournalChoices {
                weather: c.weather,
                light: c.light,
                subject: c.subject,
                ground: c.ground,
                scheme: c.scheme,
                pigment: c.pigment.into_iter().map(|(id, name)| PigmentChoice { id: id.0, name }).collect(),
                kinds: c.kinds.into_iter().map(|(kind, count)| KindCount { kind, count }).collect(),
            }))
        })
        .await
}
