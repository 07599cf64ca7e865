//! What is left out when there is less time than work: what costs the picture least for the minutes it frees.

use super::looks::Looks;
use super::tasks::Task;
use lean_piece::Piece;
use lean_piece::easel::{Stage, TaskId};
use lean_recipes::cost::STEP;
use serde::Serialize;

/// Something no time is left for.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct LeftOut {
    /// What.
    pub task: TaskId,
    /// What it is called.
    pub title: String,
    /// Minutes it frees.
    pub minutes: u32,
    /// What that costs, in a few words.
    pub costs: String,
}

/// What is done in the time that is left, and what is not. A piece without a time limit is left whole.
pub fn shortened(piece: &Piece, looks: &Looks, mut tasks: Vec<Task>) -> (Vec<Task>, Vec<LeftOut>) {
    let Some(limit) = piece.intent.minutes else { return (tasks, Vec::new()) };
    let logged: u32 = piece.sessions.iter().map(|s| s.minutes).sum();
    let left = limit.saturating_sub(logged);
    let mut out = Vec::new();
    while work(piece, &tasks) > left {
        let Some((loss, at)) = cheapest(piece, looks, &tasks) else { break };
        let task = tasks.remove(at);
        out.push(LeftOut { task: task.id, title: task.title, minutes: task.minutes.0, costs: costs(loss) });
    }
    (tasks, out)
}

fn work(piece: &Piece, tasks: &[Task]) -> u32 {
    tasks.iter().filter(|t| !piece.easel.is_done(t.id) && !t.later).map(|t| t.minutes.0).sum()
}

/// What can be left out at the least loss for its minutes: the sheet's own layers, and the last layer still to come of any zone.
fn cheapest(piece: &Piece, looks: &Looks, tasks: &[Task]) -> Option<(f64, usize)> {
    let is_last = |t: &Task| !tasks.iter().any(|o| o.id.zone == t.id.zone && o.id.layer > t.id.layer);
    let loss = |t: &Task| match t.id.zone {
        None if matches!(t.id.stage, Stage::Glaze | Stage::LayIn | Stage::GroundTone | Stage::Guard) => Some(0.0),
        None => None,
        Some(_) if !is_last(t) => None,
        Some(z) => {
            let zone = piece.zone(z)?;
            let without = looks.colour(z, &|d| tasks.iter().any(|o| o.id == d && o.id != t.id));
            let (then, now) = (piece.cost().of(without, piece.wanted(zone)), piece.cost().of(looks.finished(z)?, piece.wanted(zone)));
            Some((then - now).max(0.0) * zone.reading.area.sqrt() * zone.importance.factor())
        }
    };
    let open = tasks.iter().enumerate().filter(|(_, t)| !piece.easel.is_done(t.id) && !t.later);
    let priced = open.filter_map(|(i, t)| Some((loss(t)? / f64::from(t.minutes.0.max(1)), loss(t)?, i)));
    priced.min_by(|a, b| a.0.total_cmp(&b.0)).map(|(_, loss, i)| (loss, i))
}

fn costs(loss: f64) -> String {
    match loss / STEP {
        s if s < 0.02 => "nobody will miss it".into(),
        s if s < 0.1 => "it will hardly be missed".into(),
        s if s < 0.3 => "it will be seen".into(),
        _ => "it will be missed".into(),
    }
}
