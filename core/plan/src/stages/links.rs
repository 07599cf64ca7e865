//! What waits for what among the tasks of one piece.

use super::tasks::Task;
use crate::order_of_work::order_of_work;
use lean_media::Medium;
use lean_piece::easel::{Order, Stage, TaskId};
use lean_piece::{Piece, ZoneId};
use lean_schedule::{Apart, Job, Lag, Minutes, Plan, Sittings};
use std::collections::HashMap;

/// Waits shorter than this, in minutes, are none. A choice.
const SHORT: u32 = 4;

/// What waits for what, by the places of tasks in their list.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Links {
    /// One after the other.
    pub lags: Vec<Lag>,
    /// Either way round, the second once the first is dry.
    pub apart: Vec<Apart>,
}

/// The links of a piece's tasks: the sheet before its zones, layers in turn once dry, parts over the big shapes they touch, accents and lights
/// last, nothing beside a wet wash, the orders the painter gave, and as far as those leave it open the order of tones the school asks for, unless
/// the painter wants what is quicker.
pub fn links(piece: &Piece, tasks: &[Task]) -> Links {
    let mut links = links_in_any_order(piece, tasks);
    if !piece.easel.hours.quicker {
        tones_in_order(piece, tasks, &mut links.lags);
    }
    links
}

/// The same, in whatever order of tones paint allows.
pub(crate) fn links_in_any_order(piece: &Piece, tasks: &[Task]) -> Links {
    let at: HashMap<TaskId, usize> = tasks.iter().enumerate().map(|(i, t)| (t.id, i)).collect();
    let linking = Linking { piece, tasks, at };
    let mut lags = linking.sheet_first();
    lags.extend(linking.layers_in_turn());
    lags.extend(linking.parts_over_big_shapes());
    lags.extend(linking.last_things_last());
    lags.extend(piece.easel.orders.iter().filter_map(|o| linking.order(o)));
    Links { lags, apart: linking.wet_beside_wet() }
}

/// Adds the order of the school: within a stage the first layers of neighbours, and those of one band of values before those of the next. What
/// would wait for itself is left out.
fn tones_in_order(piece: &Piece, tasks: &[Task], lags: &mut Vec<Lag>) {
    let order = order_of_work(piece).zones;
    let value = |z: ZoneId| piece.zone(z).map_or(5.0, |zone| piece.wanted(zone).value().0);
    let (least, most) = order.iter().map(|z| value(*z)).fold((10.0f64, 0.0f64), |(a, b), v| (a.min(v), b.max(v)));
    let band = |z: ZoneId| ((BANDS * (value(z) - least) / (most - least).max(1e-9)) as usize).min(BANDS as usize - 1);
    let borders = &piece.geometry().borders;
    let touch = |a: ZoneId, b: ZoneId| borders.iter().any(|(x, y, _)| (*x, *y) == (a.0, b.0) || (*x, *y) == (b.0, a.0));
    let mut waits = Waits::of(tasks.len(), lags);
    for stage in [Stage::BigShapes, Stage::Parts] {
        let first: Vec<(usize, ZoneId)> = order
            .iter()
            .filter_map(|z| Some((tasks.iter().position(|t| t.id == TaskId { stage, zone: Some(*z), layer: 0 })?, *z)))
            .collect();
        for (n, (before, a)) in first.iter().enumerate() {
            for (after, b) in &first[n + 1..] {
                if (touch(*a, *b) || band(*a) != band(*b)) && waits.add(*before, *after) {
                    lags.push(Lag { before: *before, after: *after, wait: Minutes(0) });
                }
            }
        }
    }
}

/// Bands a plan's values fall into for the order of tones: light, middle, dark. A choice.
const BANDS: f64 = 3.0;

/// What waits for what, by place.
struct Waits {
    then: Vec<Vec<usize>>,
}

impl Waits {
    fn of(tasks: usize, lags: &[Lag]) -> Self {
        let mut then = vec![Vec::new(); tasks];
        lags.iter().for_each(|l| then[l.before].push(l.after));
        Self { then }
    }

    /// Whether `after` may wait for `before`; if so, it does from now on.
    fn add(&mut self, before: usize, after: usize) -> bool {
        if self.leads(after, before) {
            return false;
        }
        self.then[before].push(after);
        true
    }

    fn leads(&self, from: usize, to: usize) -> bool {
        let (mut open, mut seen) = (vec![from], vec![false; self.then.len()]);
        while let Some(at) = open.pop() {
            if at == to {
                return true;
            }
            if !std::mem::replace(&mut seen[at], true) {
                open.extend(&self.then[at]);
            }
        }
        false
    }
}

/// Whether the painter's orders can all be kept.
pub(crate) fn can_be_kept(piece: &Piece, tasks: &[Task]) -> bool {
    let jobs = tasks.iter().map(|_| Job::of(Minutes(1))).collect();
    Plan { jobs, lags: links_in_any_order(piece, tasks).lags, apart: Vec::new(), sittings: Sittings::endless() }.check().is_ok()
}

struct Linking<'a> {
    piece: &'a Piece,
    tasks: &'a [Task],
    at: HashMap<TaskId, usize>,
}

impl Linking<'_> {
    fn of(&self, wanted: impl Fn(&Task) -> bool) -> Vec<usize> {
        (0..self.tasks.len()).filter(|i| wanted(&self.tasks[*i])).collect()
    }

    fn over(&self, before: usize, after: usize) -> Lag {
        let wait = self.tasks[before].drying.over;
        // A minute or two is waited for while the next pen is found.
        Lag { before, after, wait: if wait.0 < SHORT { Minutes(0) } else { wait } }
    }

    /// Ground tone, drawing and lay-in in their order, and after them all first layers.
    fn sheet_first(&self) -> Vec<Lag> {
        let mut stages = [Stage::GroundTone, Stage::Drawing, Stage::LayIn];
        if self.piece.easel.drawing.after_lay_in {
            stages.swap(1, 2);
        }
        let sheet: Vec<usize> = stages.iter().filter_map(|s| self.at.get(&TaskId::whole(*s)).copied()).collect();
        let chain = sheet.windows(2).map(|w| self.over(w[0], w[1]));
        let first = self.of(|t| t.id.zone.is_some() && t.id.layer == 0);
        let then = sheet.last().into_iter().flat_map(|s| first.iter().map(|f| self.over(*s, *f)));
        chain.chain(then).collect()
    }

    fn layers_in_turn(&self) -> Vec<Lag> {
        let mut of_zone: HashMap<ZoneId, Vec<usize>> = HashMap::new();
        for (i, t) in self.tasks.iter().enumerate() {
            if let Some(z) = t.id.zone {
                of_zone.entry(z).or_default().push(i);
            }
        }
        let mut lags = Vec::new();
        for mut layers in of_zone.into_values() {
            layers.sort_by_key(|i| self.tasks[*i].id.layer);
            lags.extend(layers.windows(2).map(|w| self.over(w[0], w[1])));
        }
        lags.sort_by_key(|l| (l.before, l.after));
        lags
    }

    fn borders(&self) -> impl Iterator<Item = (ZoneId, ZoneId)> + '_ {
        self.piece.geometry().borders.iter().flat_map(|(a, b, _)| [(ZoneId(*a), ZoneId(*b)), (ZoneId(*b), ZoneId(*a))])
    }

    fn first_layer(&self, zone: ZoneId, stage: Stage) -> Option<usize> {
        self.at.get(&TaskId { stage, zone: Some(zone), layer: 0 }).copied()
    }

    fn parts_over_big_shapes(&self) -> Vec<Lag> {
        let pairs = self.borders().filter_map(|(big, part)| {
            let (before, after) = (self.first_layer(big, Stage::BigShapes)?, self.first_layer(part, Stage::Parts)?);
            Some(Lag { before, after, wait: Minutes(0) })
        });
        pairs.collect()
    }

    /// Accents after all that is not an accent has its first layer, lights after all else, glaze and guard over a dry piece.
    fn last_things_last(&self) -> Vec<Lag> {
        let earlier = |stage: Stage| self.of(|t| t.id.zone.is_some() && t.id.stage < stage);
        let mut lags = Vec::new();
        for accent in self.of(|t| t.id.stage == Stage::Accents && t.id.layer == 0) {
            let before = earlier(Stage::Accents).into_iter().filter(|i| self.tasks[*i].id.layer == 0);
            lags.extend(before.map(|before| Lag { before, after: accent, wait: Minutes(0) }));
        }
        for light in self.of(|t| t.id.stage == Stage::Lights && t.id.layer == 0) {
            lags.extend(earlier(Stage::Lights).into_iter().map(|before| Lag { before, after: light, wait: Minutes(0) }));
        }
        for stage in [Stage::Glaze, Stage::Guard] {
            for last in self.of(|t| t.id.stage == stage && !t.later) {
                lags.extend(self.of(|t| t.id.stage < stage).into_iter().map(|before| self.over(before, last)));
            }
        }
        lags
    }

    fn order(&self, o: &Order) -> Option<Lag> {
        Some(Lag { before: *self.at.get(&o.task)?, after: *self.at.get(&o.before)?, wait: Minutes(0) })
    }

    /// Washes beside washes; oil and sticks do not mind.
    fn wet_beside_wet(&self) -> Vec<Apart> {
        if self.piece.brief.medium != Medium::Watercolour {
            return Vec::new();
        }
        let of_zone = |z: ZoneId| self.of(|t| t.id.zone == Some(z));
        let pairs = self.piece.geometry().borders.iter().flat_map(|(a, b, _)| {
            let others = of_zone(ZoneId(*b));
            of_zone(ZoneId(*a)).into_iter().flat_map(move |one| others.clone().into_iter().map(move |other| (one, other)))
        });
        let wet = |i: usize| self.tasks[i].drying.beside;
        pairs.map(|(one, other)| Apart { one, one_wet: wet(one), other, other_wet: wet(other) }).collect()
    }
}
