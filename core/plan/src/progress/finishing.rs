//! Whether it is time to stop: checks on the last photo. A caution, never a lock.

use crate::planned::painted_look;
use crate::stages::StageLook;
use crate::stages::tasks::Task;
use crate::wording::capital;
use crate::wording::grammar::subject;
use lean_colour::difference::ciede2000;
use lean_colour::screen::xyz_of_linear;
use lean_picture::laid_over::{Expected, LaidOver, LightOn, UNIT, ZoneRead};
use lean_picture::{Picture, ZoneMap};
use lean_piece::easel::Stage;
use lean_piece::{Importance, Piece, ZoneId};
use serde::Serialize;
use std::collections::BTreeMap;

/// One thing looked at before stopping.
#[derive(Clone, Debug, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FinishingCheck {
    /// Whether it is as it should be.
    pub sound: bool,
    /// What was found, in a sentence.
    pub words: String,
}

fn check(sound: bool, words: impl Into<String>) -> FinishingCheck {
    FinishingCheck { sound, words: words.into() }
}

/// All checks on a piece that is nearly done.
pub(super) fn checks(
    piece: &Piece,
    read: &BTreeMap<u16, ZoneRead>,
    look: &StageLook,
    tasks: &[Task],
    photo: (&Picture, &ZoneMap, &LaidOver),
) -> Vec<FinishingCheck> {
    let mut all = vec![values(read, look), handling(piece, read, look, photo.1), lights_last(piece, tasks)];
    all.extend(rim(piece, look, photo));
    all
}

/// Least rank correlation of values with the plan. A choice.
const SAME_ORDER: f64 = 0.9;

/// Whether the order of values is still that of the plan (Spearman 1904).
fn values(read: &BTreeMap<u16, ZoneRead>, look: &StageLook) -> FinishingCheck {
    let pairs: Vec<(f64, f64)> = look.zones.iter().filter_map(|z| Some((z.mark.value.0, read.get(&z.zone.0)?.lab.value().0))).collect();
    let ranks = |of: Vec<f64>| -> Vec<f64> { of.iter().map(|v| of.iter().filter(|o| *o < v).count() as f64).collect() };
    let (a, b) = (ranks(pairs.iter().map(|p| p.0).collect()), ranks(pairs.iter().map(|p| p.1).collect()));
    let mean = |of: &[f64]| of.iter().sum::<f64>() / of.len().max(1) as f64;
    let (ma, mb) = (mean(&a), mean(&b));
    let cov: f64 = a.iter().zip(&b).map(|(x, y)| (x - ma) * (y - mb)).sum();
    let var = |of: &[f64], m: f64| of.iter().map(|x| (x - m).powi(2)).sum::<f64>();
    let r = cov / (var(&a, ma) * var(&b, mb)).sqrt().max(1e-9);
    match r >= SAME_ORDER {
        true => check(true, "Values still stand in the order of the plan."),
        false => check(false, "Values no longer stand in the order of the plan: squint at it beside the study."),
    }
}

/// How many times as rough, or as smooth, as the middle of all zones one must be to be asked about, and from how many places. Choices.
const OTHERWISE: f64 = 2.6;
const PLACES: usize = 40;
/// Roughness of a photo itself, L*: noise and grain.
const GRAIN: f64 = 0.8;

/// Whether one passage is handled much smoother or rougher than the rest, each beside what the hand of the medium makes of its colour on this ground.
fn handling(piece: &Piece, read: &BTreeMap<u16, ZoneRead>, look: &StageLook, map: &ZoneMap) -> FinishingCheck {
    let usual = as_usual(piece, look, map).unwrap_or_default();
    let graded = |z: u16| piece.zone(ZoneId(z)).is_some_and(|z| z.graded.is_some());
    let beside = |(z, r): (&u16, &ZoneRead)| {
        let hand = usual.get(z).map_or(0.0, |u| u.rough);
        (r.places >= PLACES && !graded(*z)).then(|| (*z, (r.rough + GRAIN) / (hand + GRAIN)))
    };
    let told: Vec<(u16, f64)> = read.iter().filter_map(beside).collect();
    let mut sorted: Vec<f64> = told.iter().map(|t| t.1).collect();
    sorted.sort_by(f64::total_cmp);
    let middle = sorted.get(sorted.len() / 2).copied().unwrap_or(1.0);
    let odd = |t: &&(u16, f64)| t.1 > OTHERWISE * middle || t.1 * OTHERWISE < middle;
    match told.iter().find(odd) {
        Some((z, rough)) => {
            let how = if *rough > middle { "rougher" } else { "smoother" };
            check(false, format!("{} handled much {how} than the rest: is that meant?", subject(&piece.zone_label(ZoneId(*z)))))
        }
        None => check(true, "No passage is handled much smoother or rougher than the rest."),
    }
}

/// Pixels across of a picture painted to be compared with.
const PAINTED: u32 = 480;

/// What zones would read if the piece were painted in the usual hand of its medium.
fn as_usual(piece: &Piece, look: &StageLook, map: &ZoneMap) -> Option<BTreeMap<u16, ZoneRead>> {
    let painted = painted_look(piece, look, PAINTED)?;
    let zones = look.zones.iter().map(|z| (z.zone.0, z.mark.lab)).collect();
    let expected = Expected { zones, bare: Vec::new() };
    let laid = LaidOver::at(&painted, map, std::slice::from_ref(&expected), UNIT).ok()?;
    Some(LightOn::of(&painted, map, &laid, &expected, None).read(&painted, map, &laid, look.ground.lab))
}

/// Whether nothing was laid after the lights.
fn lights_last(piece: &Piece, tasks: &[Task]) -> FinishingCheck {
    let when = |t: &Task| piece.easel.done.iter().find(|d| d.task == t.id).and_then(|d| d.time());
    let first_light = tasks.iter().filter(|t| t.id.stage == Stage::Lights).filter_map(when).min();
    let later = tasks.iter().find(|t| t.id.stage < Stage::Lights && when(t).zip(first_light).is_some_and(|(at, light)| at > light));
    match later {
        Some(t) => check(false, format!("{} was laid after the lights: are they still the lightest?", capital(&t.title))),
        None => check(true, "Lights came last."),
    }
}

/// Share of a border that must be bare ground to be a rim. A choice.
const RIM: f64 = 0.14;

/// Whether bare ground is left between what matters and what is round it.
fn rim(piece: &Piece, look: &StageLook, (photo, map, laid): (&Picture, &ZoneMap, &LaidOver)) -> Option<FinishingCheck> {
    let ground = look.ground.lab;
    // Where a colour is near that of the ground a rim cannot be told.
    let told = |z: u16| look.zones.iter().any(|n| n.zone.0 == z && !n.bare && ciede2000(n.mark.lab, ground) > 12.0);
    let focal: Vec<u16> = piece.zones.iter().filter(|z| z.importance == Importance::Focal).map(|z| z.id.0).collect();
    if focal.is_empty() {
        return None;
    }
    // The light is taken as even here: ground beside paint is told by being lighter than both.
    let (mut all, mut empty) = (BTreeMap::<u16, f64>::new(), BTreeMap::<u16, f64>::new());
    let lightness = |x: u32, y: u32| {
        let at = |n: u32, of: u32| (f64::from(n) + 0.5) / f64::from(of);
        laid.light_at(photo, at(x, map.width), at(y, map.height)).map(|l| xyz_of_linear(l).lab().l)
    };
    let reach = (map.width.max(map.height) / 120).max(2);
    for y in (reach..map.height.saturating_sub(reach)).step_by(2) {
        for x in (reach..map.width.saturating_sub(reach)).step_by(2) {
            let (here, beside) = (map.at(x, y), map.at(x + 1, y));
            let pair = [here, beside];
            if here == beside || !pair.iter().all(|z| told(*z)) || !pair.iter().any(|z| focal.contains(z)) {
                continue;
            }
            let (Some(edge), Some(left), Some(right)) = (lightness(x, y), lightness(x - reach, y), lightness(x + reach, y)) else {
                continue;
            };
            for z in pair.iter().filter(|z| focal.contains(z)) {
                *all.entry(*z).or_default() += 1.0;
                if edge > left.max(right) + 12.0 && ground.l > left.max(right) + 12.0 {
                    *empty.entry(*z).or_default() += 1.0;
                }
            }
        }
    }
    let worst = all
        .iter()
        .filter(|(_, n)| **n >= 20.0)
        .map(|(z, n)| (empty.get(z).copied().unwrap_or(0.0) / n, *z))
        .max_by(|a, b| a.0.total_cmp(&b.0));
    Some(match worst {
        Some((share, z)) if share > RIM => check(false, format!("An empty rim of ground is left round {}.", piece.zone_label(ZoneId(z)))),
        _ => check(true, "No empty rim round what matters."),
    })
}
