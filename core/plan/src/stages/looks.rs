//! What it should look like after each stage, and what looks wrong then and comes right later.

use super::laid::{Far, Surface, far};
use super::tasks::Task;
use crate::mark::Mark;
use crate::mixes::ZoneMix;
use crate::wording::grammar::{is_plural, subject, verb};
use crate::wording::{capital, steps};
use lean_colour::neighbours::{Border, over_zones, shown_alone};
use lean_colour::{Lab, Steps};
use lean_piece::easel::{Stage, TaskId};
use lean_piece::{Piece, ZoneId};
use serde::Serialize;

/// Steps of value by which a zone must look off on the way to be worth a word, and most words. Choices.
const OFF: f64 = 0.35;
const MOST_WORDS: usize = 4;

/// A zone after a stage.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ZoneNow {
    /// Which.
    pub zone: ZoneId,
    /// Its colour then.
    pub mark: Mark,
    /// Nothing lies there yet.
    pub bare: bool,
    /// Layers that are still to come.
    pub to_come: usize,
}

/// The picture after a stage.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StageLook {
    /// The stage; none for the piece as it is now.
    pub stage: Option<Stage>,
    /// The ground, toned or not.
    pub ground: Mark,
    /// Every zone.
    pub zones: Vec<ZoneNow>,
    /// What looks wrong and comes right, largest first: "the roof looks half a step too dark until the sky is in".
    pub wrong: Vec<String>,
}

/// Knows what the picture looks like at any time.
pub struct Looks<'a> {
    piece: &'a Piece,
    mixes: &'a [ZoneMix],
    surface: &'a Surface<'a>,
    tasks: Vec<TaskId>,
    borders: Vec<Border>,
    last: Vec<Lab>,
}

impl<'a> Looks<'a> {
    /// The looks of a piece whose surface is built that way, by these tasks.
    pub fn of(piece: &'a Piece, mixes: &'a [ZoneMix], surface: &'a Surface<'a>, tasks: &[Task]) -> Self {
        let tasks = tasks.iter().map(|t| t.id).collect();
        let at = |id: u16| piece.zones.iter().position(|z| z.id.0 == id);
        let borders = piece.geometry().borders.iter();
        let borders = borders.filter_map(|(a, b, n)| Some(Border { one: at(*a)?, other: at(*b)?, length: *n as f64 })).collect();
        let mut looks = Self { piece, mixes, surface, tasks, borders, last: Vec::new() };
        looks.last = piece.zones.iter().map(|z| looks.colour(z.id, &|_| true)).collect();
        looks
    }

    fn mix(&self, zone: ZoneId) -> Option<&'a ZoneMix> {
        self.mixes.iter().find(|m| m.zone == zone)
    }

    fn layers(&self, zone: ZoneId) -> usize {
        self.tasks.iter().filter(|t| t.zone == Some(zone)).count()
    }

    fn far(&self, zone: ZoneId, is_done: &dyn Fn(TaskId) -> bool) -> Far {
        far(self.piece, zone, &self.tasks, is_done)
    }

    /// The colour of a zone when all of `is_done` is. Where the ground does not take what lies beneath the mix, the mix alone.
    pub fn colour(&self, zone: ZoneId, is_done: &dyn Fn(TaskId) -> bool) -> Lab {
        let (mix, far) = (self.mix(zone), self.far(zone, is_done));
        let bare_below = Far { level: 0, toned: false, ..far };
        let laid = self.surface.colour(mix, far).or_else(|| self.surface.colour(mix, bare_below));
        laid.or(mix.map(|m| m.mix.lab).filter(|_| far.layers > 0)).unwrap_or_else(|| self.surface.ground(far.toned))
    }

    /// The colour of a zone when everything is done.
    pub fn finished(&self, zone: ZoneId) -> Option<Lab> {
        self.piece.zones.iter().position(|z| z.id == zone).map(|i| self.last[i])
    }

    /// The picture when all of `is_done` is.
    pub fn at(&self, stage: Option<Stage>, is_done: &dyn Fn(TaskId) -> bool) -> StageLook {
        let neutral = self.piece.neutral();
        let now: Vec<Lab> = self.piece.zones.iter().map(|z| self.colour(z.id, is_done)).collect();
        let zones = self.piece.zones.iter().zip(&now).map(|(z, lab)| {
            let far = self.far(z.id, is_done);
            ZoneNow {
                zone: z.id,
                mark: Mark::of(*lab, neutral),
                bare: far.layers == 0 && far.level == 0,
                to_come: self.layers(z.id).saturating_sub(far.layers),
            }
        });
        let zones: Vec<ZoneNow> = zones.collect();
        let toned = self.piece.easel.tone.is_some() && is_done(TaskId::whole(Stage::GroundTone));
        let wrong = self.wrong(&now, &zones);
        StageLook { stage, ground: Mark::of(self.surface.ground(toned), neutral), zones, wrong }
    }

    /// After every stage that has something to do.
    pub(crate) fn after_each(&self, tasks: &[Task]) -> Vec<StageLook> {
        let has = |s: &Stage| tasks.iter().any(|t| t.id.stage == *s && !t.later);
        Stage::ALL.into_iter().filter(has).map(|stage| self.at(Some(stage), &|t| t.stage <= stage)).collect()
    }

    /// How values look among their neighbours.
    fn seen(&self, colours: &[Lab]) -> Vec<f64> {
        let looks = over_zones(colours, &self.borders, self.surface.ground(false), &vec![0.0; colours.len()]).unwrap_or_default();
        looks.iter().map(|l| shown_alone(l).value().0).collect()
    }

    fn wrong(&self, now: &[Lab], zones: &[ZoneNow]) -> Vec<String> {
        let (seen, last) = (self.seen(now), self.seen(&self.last));
        let mut words: Vec<(f64, String)> = (0..now.len())
            .filter(|i| !zones[*i].bare)
            .filter_map(|i| {
                let off = seen[i] - last[i];
                let own = now[i].value().0 - self.last[i].value().0;
                (off.abs() >= OFF).then(|| (off.abs() * self.piece.zones[i].reading.area.sqrt(), self.sentence(i, off, own, now, zones)))
            })
            .collect();
        words.sort_by(|a, b| b.0.total_cmp(&a.0));
        words.into_iter().take(MOST_WORDS).map(|w| w.1).collect()
    }

    fn sentence(&self, i: usize, off: f64, own: f64, now: &[Lab], zones: &[ZoneNow]) -> String {
        let label = self.piece.zone_label(self.piece.zones[i].id);
        let side = if off > 0.0 { "light" } else { "dark" };
        let much = steps(Steps(off.abs()));
        if own.abs() >= off.abs() / 2.0 && zones[i].to_come > 0 {
            let come = match zones[i].to_come {
                1 => "one more layer comes".to_owned(),
                n => format!("{} more layers come", ["no", "one", "two", "three", "four", "five"].get(n).copied().unwrap_or("several")),
            };
            return format!("{} {much} too {side} for now: {come}.", subject(&label));
        }
        let looks = if is_plural(&label) { "look" } else { "looks" };
        let until = match self.neighbour_that_mends(i, now) {
            Some(other) => {
                let other = self.piece.zone_label(self.piece.zones[other].id);
                format!("{other} {} in", verb(&other, 1))
            }
            None => "all round it is in".to_owned(),
        };
        format!("{} {looks} {much} too {side} until {until}.", capital(&label))
    }

    /// The unfinished neighbour whose finishing brings a zone nearest to how it will look.
    fn neighbour_that_mends(&self, i: usize, now: &[Lab]) -> Option<usize> {
        let last = self.seen(&self.last)[i];
        let before = (self.seen(now)[i] - last).abs();
        let beside = self.borders.iter().filter_map(|b| match (b.one == i, b.other == i) {
            (true, _) => Some(b.other),
            (_, true) => Some(b.one),
            _ => None,
        });
        let mended = beside.map(|j| {
            let mut then = now.to_vec();
            then[j] = self.last[j];
            ((self.seen(&then)[i] - last).abs(), j)
        });
        mended.filter(|(off, _)| *off < 0.7 * before).min_by(|a, b| a.0.total_cmp(&b.0)).map(|(_, j)| j)
    }
}
