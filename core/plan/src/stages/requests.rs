//! What a painter asks at the easel, as the command that does it.

use super::{at_the_easel, name};
use jiff::civil::DateTime;
use lean_media::PigmentId;
use lean_piece::change::{SetEasel, SetSessions};
use lean_piece::easel::{Departure, DepartureKind, Done, Easel, Order, TaskId};
use lean_piece::paint_box::PaintBox;
use lean_piece::{MOST_NAME, Piece, Refusal, Session};

fn command(easel: Easel, what: &str) -> SetEasel {
    SetEasel { easel, what: what.chars().take(MOST_NAME).collect() }
}

/// What a task is called in the line that says what was done.
fn called(piece: &Piece, task: TaskId) -> String {
    match task.zone {
        Some(z) => format!("{}, {}", piece.zone_label(z), name(task.stage).to_lowercase()),
        None => name(task.stage).to_lowercase(),
    }
}

/// Everything decided about carrying it out. What is done, ordered and photographed stays as it is.
///
/// # Errors
/// Names a pigment that is not in the Box.
pub fn decided(piece: &Piece, paint_box: Option<&PaintBox>, easel: Easel) -> Result<SetEasel, Refusal> {
    let now = &piece.easel;
    let named: Vec<&PigmentId> = [
        easel.tone.as_ref().filter(|_| easel.tone != now.tone),
        easel.lay_in.as_ref().map(|l| &l.pigment).filter(|_| easel.lay_in != now.lay_in),
        easel.glaze.as_ref().map(|g| &g.pigment).filter(|_| easel.glaze != now.glaze),
    ]
    .into_iter()
    .flatten()
    .collect();
    if let Some(p) = named.iter().find(|p| paint_box.is_none_or(|b| b.find(p).is_none())) {
        return Err(Refusal::Unknown(format!("\"{p}\" is not in the Box of this piece.")));
    }
    let kept = now.clone();
    let easel =
        Easel { orders: kept.orders, skipped: kept.skipped, done: kept.done, departures: kept.departures, photos: kept.photos, ..easel };
    Ok(command(easel, "how it is carried out"))
}

/// A task is done, or not yet after all.
pub fn did(piece: &Piece, task: TaskId, done: bool, at: Option<String>) -> SetEasel {
    let mut easel = piece.easel.clone();
    easel.done.retain(|d| d.task != task);
    if done {
        easel.done.push(Done { task, at });
    }
    command(easel, &called(piece, task))
}

/// A session just ended, with what was done in it.
pub fn logged(piece: &Piece, session: Session, tasks: &[TaskId], at: Option<String>) -> SetSessions {
    let mut sessions = piece.sessions.clone();
    sessions.push(session);
    let mut done: Vec<Done> = piece.easel.done.iter().filter(|d| !tasks.contains(&d.task)).cloned().collect();
    done.extend(tasks.iter().map(|task| Done { task: *task, at: at.clone() }));
    SetSessions { sessions, done: Some(done) }
}

/// A task is left out, or not after all.
pub fn skip(piece: &Piece, task: TaskId, skipped: bool) -> SetEasel {
    let mut easel = piece.easel.clone();
    easel.skipped.retain(|t| *t != task);
    if skipped {
        easel.skipped.push(task);
    }
    command(easel, &format!("leaving out {}", called(piece, task)))
}

/// One task goes before another.
///
/// # Errors
/// When it cannot: a layer before the one it lies on, or orders that contradict each other.
pub(crate) fn put_before(piece: &Piece, paint_box: Option<&PaintBox>, task: TaskId, before: TaskId) -> Result<SetEasel, Refusal> {
    let mut easel = piece.easel.clone();
    let (new, turned) = (Order { task, before }, Order { task: before, before: task });
    easel.orders.retain(|o| *o != new && *o != turned);
    easel.orders.push(new);
    let tried = Piece { easel: easel.clone(), ..piece.clone() };
    if let Some(b) = paint_box {
        let (first, then) = (called(piece, task), called(piece, before));
        at_the_easel(&tried, b, DateTime::default()).map_err(|_| {
            Refusal::Contradiction(format!("{} cannot come before {then}: it waits for it.", crate::wording::capital(&first)))
        })?;
    }
    Ok(command(easel, "the order of work"))
}

/// The order is the usual one again.
pub(crate) fn usual_order(piece: &Piece) -> SetEasel {
    command(Easel { orders: Vec::new(), skipped: Vec::new(), ..piece.easel.clone() }, "the usual order of work")
}

/// The painting goes its own way.
///
/// # Errors
/// When it names a zone that is not there.
pub fn depart(piece: &Piece, departure: Departure) -> Result<SetEasel, Refusal> {
    let zone = match &departure.change {
        DepartureKind::LeftOut { zone } | DepartureKind::Moved { zone, .. } => Some(*zone),
        DepartureKind::Added { .. } => None,
    };
    if let Some(z) = zone.filter(|z| piece.zone(*z).is_none()) {
        return Err(Refusal::NoSuchZone(z.0));
    }
    let mut easel = piece.easel.clone();
    easel.departures.push(departure);
    Ok(command(easel, "a departure from the plan"))
}

/// A departure is taken back, by its place in the list.
///
/// # Errors
/// When there is none at that place.
pub fn take_back(piece: &Piece, at: usize) -> Result<SetEasel, Refusal> {
    let mut easel = piece.easel.clone();
    if at >= easel.departures.len() {
        return Err(Refusal::Unknown("That departure is not there any more.".into()));
    }
    easel.departures.remove(at);
    Ok(command(easel, "taking a departure back"))
}

/// Corners and stage of a photo of its progress, or the photo taken off.
///
/// # Errors
/// When there is no photo at that place.
pub fn photo(piece: &Piece, at: usize, changed: Option<lean_piece::easel::ProgressPhoto>) -> Result<SetEasel, Refusal> {
    let mut easel = piece.easel.clone();
    let Some(old) = easel.photos.get(at).cloned() else {
        return Err(Refusal::Unknown("That photo is not there any more.".into()));
    };
    match changed {
        Some(new) => {
            easel.photos[at] = lean_piece::easel::ProgressPhoto { corners: new.corners, card: new.card, stage: new.stage, ..old };
            Ok(command(easel, "how a photo lies over the plan"))
        }
        None => {
            easel.photos.remove(at);
            Ok(command(easel, "taking a photo of its progress off"))
        }
    }
}
