//! Where the time went: minutes per stage, planned and taken.

use super::tasks::plainly_timed;
use super::{name, tasks::Task};
use crate::departures::as_painted;
use crate::mixes::mixes_of;
use crate::order_of_work::order_of_work;
use lean_piece::Piece;
use lean_piece::easel::{Stage, TaskId};
use lean_piece::paint_box::PaintBox;
use serde::{Deserialize, Serialize};

/// Minutes of one stage.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StageTime {
    /// Which.
    pub stage: Stage,
    /// Minutes planned for what is done of it, at the pace of the tables.
    pub planned: f64,
    /// Minutes it took.
    pub took: f64,
}

impl StageTime {
    /// What the stage is called.
    pub fn name(&self) -> &'static str {
        name(self.stage)
    }
}

/// What each stage took of the sessions logged. The minutes of a session are shared out among what was done on its day, in proportion to what
/// was planned for it; sessions on which nothing is marked as done teach nothing. Empty without a set.
pub fn spent(planned: &Piece, paint_box: &PaintBox) -> Vec<StageTime> {
    let piece = &as_painted(planned);
    let mixes = mixes_of(piece, Some(paint_box));
    if mixes.is_empty() {
        return Vec::new();
    }
    let all = plainly_timed(piece, paint_box, &mixes, &order_of_work(piece).zones);
    let mut stages: Vec<StageTime> = Vec::new();
    for session in &piece.sessions {
        let on_its_day =
            |t: &&Task| piece.easel.done.iter().any(|d| d.task == t.id && d.at.as_deref().is_some_and(|at| at.starts_with(&session.on)));
        let done: Vec<&Task> = all.iter().filter(on_its_day).collect();
        let minutes: f64 = done.iter().map(|t| f64::from(t.minutes.0)).sum();
        for t in done {
            let planned = f64::from(t.minutes.0);
            let took = f64::from(session.minutes) * planned / minutes;
            match stages.iter_mut().find(|s| s.stage == t.id.stage) {
                Some(s) => {
                    s.planned += planned;
                    s.took += took;
                }
                None => stages.push(StageTime { stage: t.id.stage, planned, took }),
            }
        }
    }
    stages.sort_by_key(|s| s.stage);
    stages
}

/// Everything there is to do with the minutes planned for it, at the pace of the tables. Empty without a set.
pub fn planned_minutes(planned: &Piece, paint_box: &PaintBox) -> Vec<(TaskId, u32)> {
    let piece = &as_painted(planned);
    let mixes = mixes_of(piece, Some(paint_box));
    if mixes.is_empty() {
        return Vec::new();
    }
    plainly_timed(piece, paint_box, &mixes, &order_of_work(piece).zones).iter().map(|t| (t.id, t.minutes.0)).collect()
}
