//! Several pieces with dates, timed together: one pair of hands, and paint of one dries while another is worked on.

use super::laid::Surface;
use super::links;
use super::looks::Looks;
use super::shortened::shortened;
use super::tasks::{Task, tasks};
use super::timetable::{Left, Sessions, timed};
use crate::departures::as_painted;
use crate::mixes::mixes_of;
use crate::order_of_work::order_of_work;
use jiff::civil::DateTime;
use lean_piece::Piece;
use lean_piece::easel::Hours;
use lean_piece::paint_box::PaintBox;
use serde::Serialize;

/// One piece in the calendar.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct DuePiece {
    /// Its number.
    pub id: i64,
    /// Its title.
    pub title: String,
    /// For whom.
    pub for_whom: String,
    /// The day it must be finished.
    pub due: String,
    /// Minutes of work left.
    pub left: u32,
}

/// All pieces that are due, timed together.
#[derive(Clone, Debug, Default, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Calendar {
    /// The pieces, soonest due first; slots name them by their place here.
    pub pieces: Vec<DuePiece>,
    /// The sessions of all of them.
    pub sessions: Sessions,
    /// How it stands, in a sentence.
    pub words: String,
}

/// Times pieces together from now on, in sessions as long and as often as the most eager of them allows.
///
/// # Errors
/// When the orders of a piece cannot be kept, in words.
pub fn calendar(of: &[(i64, Piece, PaintBox)], now: DateTime) -> Result<Calendar, String> {
    let mut all: Vec<(i64, Piece, Vec<Task>)> = of.iter().map(|(id, piece, b)| left(*id, piece, b)).collect();
    all.retain(|(_, piece, tasks)| tasks.iter().any(|t| !t.later && !piece.easel.is_done(t.id)));
    all.sort_by(|a, b| (&a.1.intent.due, a.0).cmp(&(&b.1.intent.due, b.0)));
    let hours = all.iter().map(|a| a.1.easel.hours).fold(None, |most: Option<Hours>, h| {
        let most = most.unwrap_or(h);
        Some(Hours {
            session: most.session.max(h.session),
            every_days: most.every_days.min(h.every_days),
            quicker: most.quicker && h.quicker,
        })
    });
    let Some(hours) = hours else { return Ok(Calendar::default()) };
    let lefts: Vec<Left> = all.iter().map(|(_, piece, tasks)| Left { piece, tasks }).collect();
    let sessions = timed(&lefts, now, hours)?;
    let open = |piece: &Piece, tasks: &[Task]| tasks.iter().filter(|t| !t.later && !piece.easel.is_done(t.id)).map(|t| t.minutes.0).sum();
    let pieces: Vec<DuePiece> = all
        .iter()
        .map(|(id, piece, tasks)| DuePiece {
            id: *id,
            title: piece.brief.title.clone(),
            for_whom: piece.intent.for_whom.clone(),
            due: piece.intent.due.clone().unwrap_or_default(),
            left: open(piece, tasks),
        })
        .collect();
    let words = match (sessions.late_days, sessions.finished.as_deref()) {
        (0, Some(day)) => format!("All dates are kept; the last piece is dry on {day}."),
        (days, _) => format!("Not all dates can be kept: the worst is missed by {days} {}.", if days == 1 { "day" } else { "days" }),
    };
    Ok(Calendar { pieces, sessions, words })
}

fn left(id: i64, planned: &Piece, paint_box: &PaintBox) -> (i64, Piece, Vec<Task>) {
    let mut piece = as_painted(planned);
    let mixes = mixes_of(&piece, Some(paint_box));
    let all = tasks(&piece, paint_box, &mixes, &order_of_work(&piece).zones);
    let surface = Surface::of(&piece, paint_box);
    let looks = Looks::of(&piece, &mixes, &surface, &all);
    let (tasks, _) = shortened(&piece, &looks, all);
    // Orders that contradict each other since zones were changed do not close the calendar.
    if !links::can_be_kept(&piece, &tasks) {
        piece.easel.orders.clear();
    }
    (id, piece, tasks)
}
