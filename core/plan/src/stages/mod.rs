//! Carrying a piece out: what there is to do, when, and what it should look like on the way.
//!
//! **The nouns and how they meet.** [`tasks`](tasks::tasks) turns zones and mixes into [`Task`](tasks::Task)s, each in a stage with its [`drying`]. Their
//! [`links`] are timed by [`lean_schedule`] into [`sessions`](timetable::Sessions). [`laid`] knows the colour of a zone at any point on its way;
//! [`looks`] puts them together. [`lay_in`] and [`glaze`] are decided before they are done; [`shortened`] leaves out what no time is left for.

pub mod calendar;
pub mod drying;
pub mod glaze;
pub mod in_hand;
pub mod laid;
pub mod lay_in;
pub mod links;
pub mod looks;
mod minutes;
pub mod requests;
pub mod shortened;
mod smudging;
pub mod spent;
pub mod tasks;
pub mod timetable;

pub use looks::{StageLook, ZoneNow};
pub use shortened::LeftOut;
pub use timetable::{SessionPlan, Sessions, Slot};

use crate::departures::as_painted;
use crate::mixes::{ZoneMix, mixes_of};
use crate::order_of_work::order_of_work;
use drying::DryingLine;
use in_hand::{InHand, in_hand};
use jiff::civil::DateTime;
use laid::Surface;
use lean_media::forms::Act;
use lean_media::{Medium, PigmentId};
use lean_piece::easel::{Stage, TaskId};
use lean_piece::paint_box::PaintBox;
use lean_piece::{Piece, ZoneId};
use looks::Looks;
use serde::Serialize;
use tasks::Task;
use timetable::{Left, begin_by, passed, timed};

/// A task as it is shown.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct TaskLine {
    /// Its name.
    pub id: TaskId,
    /// What to do, in a few words.
    pub title: String,
    /// How and with what.
    pub how: String,
    /// Pigments of this layer.
    pub pigments: Vec<PigmentId>,
    /// Minutes of work.
    pub minutes: u32,
    /// How long it stays wet.
    pub drying: DryingLine,
    /// A decision that cannot be taken back stands before it; empty otherwise.
    pub gate: String,
    /// What the hand would smudge, and how to guard it; empty otherwise.
    pub smudges: String,
    /// No day is planned for it.
    pub later: bool,
    /// Whether it is done.
    pub done: bool,
}

/// A stage with a heading.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StageLine {
    /// Which.
    pub stage: Stage,
    /// What it is called.
    pub name: &'static str,
    /// What it is for, in a sentence.
    pub words: &'static str,
}

/// Something still wet.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Wet {
    /// What.
    pub task: TaskId,
    /// Minutes from now until what lies beside it may be touched; 0 when it may.
    pub beside: u32,
    /// Minutes until the next layer may go over it.
    pub over: u32,
    /// Minutes until it can no longer be lifted; 0 when it cannot any more.
    pub lift: u32,
}

/// A piece at the easel.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct AtTheEasel {
    /// The stages that have something to do.
    pub stages: Vec<StageLine>,
    /// All there is to do, stage by stage.
    pub tasks: Vec<TaskLine>,
    /// When what is left is done.
    pub sessions: Sessions,
    /// The last day on which what is left can be begun to be ready in time; none without a date, or when it is too late.
    pub begin_by: Option<String>,
    /// How it stands with the date and the time, in a sentence or two; empty when there is nothing to say.
    pub words: String,
    /// What the time limit leaves no time for.
    pub left_out: Vec<LeftOut>,
    /// What to do now: it can be begun at once, or is what is waited for.
    pub next: Option<TaskId>,
    /// Minutes until that can be begun.
    pub next_in: u32,
    /// What is still wet.
    pub wet: Vec<Wet>,
    /// Layers against what the ground takes, in a sentence; empty where nothing lies in layers.
    pub layers: String,
    /// The picture after every stage.
    pub looks: Vec<StageLook>,
    /// The picture as it is now.
    pub now: StageLook,
    /// Every pigment of the set, with what wants it.
    pub in_hand: Vec<InHand>,
}

/// What a stage is called.
pub fn name(stage: Stage) -> &'static str {
    match stage {
        Stage::GroundTone => "Ground tone",
        Stage::Drawing => "Drawing",
        Stage::LayIn => "Value lay-in",
        Stage::BigShapes => "Big shapes",
        Stage::Parts => "Parts",
        Stage::Accents => "Accents",
        Stage::Lights => "Lights",
        Stage::Glaze => "Unifying layer",
        Stage::Guard => "Fixing",
    }
}

fn what_for(stage: Stage) -> &'static str {
    match stage {
        Stage::GroundTone => "One colour under all the others.",
        Stage::Drawing => "Only where one shape meets another.",
        Stage::LayIn => "Light and dark are settled before any hue is.",
        Stage::BigShapes => "The whole surface, largest first, broad and level, edges open.",
        Stage::Parts => "Smaller shapes and further layers, over the big ones they touch.",
        Stage::Accents => "Small and telling: kept for the end.",
        Stage::Lights => "The lightest, last and once.",
        Stage::Glaze => "One thin layer that draws all of it together.",
        Stage::Guard => "What guards the surface.",
    }
}

/// A piece at the easel at a time. `None` without a set: there is nothing to lay yet.
///
/// # Errors
/// When the painter's orders cannot be kept together, in words.
pub fn at_the_easel(planned: &Piece, paint_box: &PaintBox, now: DateTime) -> Result<Option<AtTheEasel>, String> {
    let piece = &as_painted(planned);
    let mixes = mixes_of(piece, Some(paint_box));
    if mixes.is_empty() {
        return Ok(None);
    }
    let surface = Surface::of(piece, paint_box);
    let order: Vec<ZoneId> = order_of_work(piece).zones;
    let all = tasks::tasks(piece, paint_box, &mixes, &order);
    let whole = Looks::of(piece, &mixes, &surface, &all);
    let (tasks, left_out) = shortened::shortened(piece, &whole, all);
    let looks = Looks::of(piece, &mixes, &surface, &tasks);
    let sessions = timed(&[Left { piece, tasks: &tasks }], now, piece.easel.hours)?;
    let first = sessions.sessions.first().and_then(|s| s.slots.first().map(|slot| (slot.task, s, slot)));
    let day = |on: &str| on.parse().map_or(0, |d: jiff::civil::Date| now.date().until(d).map_or(0, |s| s.get_days())).unsigned_abs();
    let lines = tasks.iter().map(|t| line(piece, &mixes, t)).collect();
    Ok(Some(AtTheEasel {
        stages: stages(&tasks),
        tasks: lines,
        begin_by: begin_by(piece, &sessions, now),
        words: words(piece, &sessions, now),
        left_out,
        next: first.map(|(task, ..)| task),
        next_in: first.map_or(0, |(_, s, slot)| day(&s.on) * 1440 + slot.begins),
        wet: wet(piece, &tasks, now),
        layers: layers(piece, &mixes, &tasks),
        looks: looks.after_each(&tasks),
        now: looks.at(None, &|t| piece.easel.is_done(t)),
        in_hand: in_hand(piece, &mixes, &tasks),
        sessions,
    }))
}

/// The picture after a stage, or as it is now; `None` without a set.
pub fn look_at(piece: &Piece, paint_box: &PaintBox, stage: Option<Stage>) -> Option<StageLook> {
    let mixes = mixes_of(piece, Some(paint_box));
    if mixes.is_empty() {
        return None;
    }
    let surface = Surface::of(piece, paint_box);
    let tasks = tasks::tasks(piece, paint_box, &mixes, &order_of_work(piece).zones);
    let looks = Looks::of(piece, &mixes, &surface, &tasks);
    Some(match stage {
        Some(s) => looks.at(stage, &|t| t.stage <= s),
        None => looks.at(None, &|t| piece.easel.is_done(t)),
    })
}

fn stages(tasks: &[Task]) -> Vec<StageLine> {
    let has = |s: &Stage| tasks.iter().any(|t| t.id.stage == *s);
    Stage::ALL.into_iter().filter(has).map(|stage| StageLine { stage, name: name(stage), words: what_for(stage) }).collect()
}

fn line(piece: &Piece, mixes: &[ZoneMix], t: &Task) -> TaskLine {
    let mix = t.id.zone.and_then(|z| mixes.iter().find(|m| m.zone == z));
    let of_layer = |m: &ZoneMix| match m.mix.layers.get(usize::from(t.id.layer)) {
        Some(l) => l.of.iter().map(|p| p.pigment.clone()).collect(),
        None => m.mix.parts.iter().map(|p| p.pigment.clone()).collect(),
    };
    TaskLine {
        id: t.id,
        title: t.title.clone(),
        how: t.how.clone(),
        pigments: mix.map(of_layer).unwrap_or_default(),
        minutes: t.minutes.0,
        drying: t.drying.into(),
        gate: t.gate.clone(),
        smudges: smudging::smudges(piece, t),
        later: t.later,
        done: piece.easel.is_done(t.id),
    }
}

/// What is still wet, by when it was done.
fn wet(piece: &Piece, tasks: &[Task], now: DateTime) -> Vec<Wet> {
    let since = |t: &Task| {
        let d = piece.easel.done.iter().find(|d| d.task == t.id)?;
        d.time().map(|at| passed(at, now))
    };
    let still = |t: &Task| {
        let since = since(t)?;
        let left = |m: lean_schedule::Minutes| m.0.saturating_sub(since);
        let wet = Wet { task: t.id, beside: left(t.drying.beside), over: left(t.drying.over), lift: left(t.drying.lift) };
        (wet.over > 0).then_some(wet)
    };
    tasks.iter().filter_map(still).collect()
}

/// The most layers any zone gets, its lay-in and the glaze counted, against what the ground takes; nothing where one lies alone.
fn layers(piece: &Piece, mixes: &[ZoneMix], tasks: &[Task]) -> String {
    let takes = piece.ground().takes;
    let (takes, what) = match piece.brief.medium {
        Medium::SoftPastel => (takes.pastel, "of pastel"),
        Medium::Pencil => (takes.pencil, "of pencil"),
        Medium::Marker => (takes.ink, "of ink"),
        Medium::Watercolour => (takes.wash, "washes"),
        Medium::Oil => (takes.paint, "of paint"),
    };
    let over_all = tasks.iter().filter(|t| matches!(t.id.stage, Stage::GroundTone | Stage::Glaze)).count();
    let own = |m: &ZoneMix| {
        let adds = m.mix.layers.iter().filter(|l| matches!(l.act, Act::Lay | Act::Rub));
        if m.mix.layers.is_empty() { 1 } else { adds.map(|l| usize::from(l.times)).sum() }
    };
    let extra = |m: &ZoneMix| over_all + usize::from(piece.easel.level_of(m.zone) > 0);
    let Some(m) = mixes.iter().max_by_key(|m| own(m) + extra(m)) else { return String::new() };
    let (most, label) = (own(m) + extra(m), piece.zone_label(m.zone));
    match most {
        // What a recipe asks for alone is within what the ground takes.
        n if n > usize::from(takes) && extra(m) > 0 => {
            format!("The ground takes {takes} layers {what}; {label} would get {n}. Leave one out, or take another ground.")
        }
        0 | 1 => String::new(),
        n => format!("At most {n} layers lie on each other, in {label}; the ground takes {takes} {what}."),
    }
}

fn words(piece: &Piece, sessions: &Sessions, now: DateTime) -> String {
    let whom = if piece.intent.for_whom.trim().is_empty() { String::new() } else { format!(" for {}", piece.intent.for_whom.trim()) };
    match (&piece.intent.due, &sessions.finished) {
        (Some(due), Some(finished)) if sessions.late_days > 0 => {
            format!(
                "It cannot be ready{whom} by {due}: with these sessions it is dry on {finished}. Longer or more sessions, fewer layers, or another date."
            )
        }
        (Some(due), Some(_)) => match begin_by(piece, sessions, now) {
            Some(day) => format!("To be ready{whom} by {due}, go on by {day}."),
            None => String::new(),
        },
        (Some(_), None) => format!("All is done{whom}."),
        _ => String::new(),
    }
}
