//! A photo of the piece on its way, compared with its stage: what is off, which relations moved, what to do next, and whether it is time to stop.

mod finishing;
mod words;

pub use finishing::FinishingCheck;

use crate::departures::as_painted;
use crate::mark::Mark;
use crate::mixes::mixes_of;
use crate::order_of_work::order_of_work;
use crate::stages::laid::Surface;
use crate::stages::looks::Looks;
use crate::stages::tasks::{Task, tasks};
use crate::stages::{StageLook, name};
use lean_colour::Lab;
use lean_colour::difference::ciede2000;
use lean_picture::Picture;
use lean_picture::laid_over::{Expected, LaidOver, LightFrom, LightOn, ZoneRead};
use lean_picture::spot::Spot;
use lean_piece::easel::{ProgressPhoto, Stage};
use lean_piece::paint_box::PaintBox;
use lean_piece::{Piece, ZoneId};
use serde::Serialize;
use std::collections::BTreeMap;

/// Steps of value, and CIEDE2000, by which a zone must be off its stage to be spoken of. Choices: wider than what a photo and a hand blur.
const OFF_VALUE: f64 = 0.4;
const OFF_COLOUR: f64 = 9.0;
/// Share of a zone that must read as ground for it to count as not laid. A choice.
const UNLAID: f64 = 0.6;
/// Places well inside a zone that it takes to judge it: of thin and scattered ones a photo shows the edges. A choice.
const READ: usize = 14;
/// How much less a photo must be off another stage, in steps, for it not to be taken for what is done. A choice.
const PLAINLY: f64 = 0.3;

/// A zone in the photo against its stage.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ZoneSeen {
    /// Which.
    pub zone: ZoneId,
    /// What it reads, with the light taken out.
    pub read: Mark,
    /// What it should be at this stage.
    pub wanted: Mark,
    /// Whether it is off enough to be spoken of.
    pub off: bool,
    /// How, in a sentence.
    pub sentence: String,
}

/// A photo compared with its stage.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Progress {
    /// The stage it shows; none where it is compared with what is done.
    pub stage: Option<Stage>,
    /// What it was compared with and how it was lit, in sentences.
    pub words: String,
    /// Corners of the picture in the photo, from its top left clockwise.
    #[cfg_attr(feature = "schema", schema(value_type = Vec<Spot>))]
    pub corners: [Spot; 4],
    /// How well it lies over the plan, 0..=1.
    pub fit: f64,
    /// Every zone that is in sight.
    pub zones: Vec<ZoneSeen>,
    /// Relations that moved, in sentences.
    pub relations: Vec<String>,
    /// What to do next, most needed first.
    pub next: Vec<String>,
    /// How far it is off its stage in all, in steps of value.
    pub off: f64,
    /// Whether it is time to stop: only when the piece is nearly done.
    pub finishing: Vec<FinishingCheck>,
}

/// A stage with what a photo of it is expected to show.
struct Candidate {
    look: StageLook,
    expected: Expected,
}

/// Compares a photo with the stage it shows: with each stage and with what is done, or with the stage that was said.
///
/// # Errors
/// Why it cannot be compared, in words.
pub fn compared(planned: &Piece, paint_box: &PaintBox, photo: &Picture, about: &ProgressPhoto) -> Result<Progress, String> {
    let piece = &as_painted(planned);
    let map = piece.map().ok_or("This piece has no zones yet, so there is nothing to compare a photo with.")?;
    let mixes = mixes_of(piece, Some(paint_box));
    if mixes.is_empty() {
        return Err("There is no set yet, so it is not known what the piece should look like on its way.".into());
    }
    let all = tasks(piece, paint_box, &mixes, &order_of_work(piece).zones);
    let surface = Surface::of(piece, paint_box);
    let looks = Looks::of(piece, &mixes, &surface, &all);
    let candidates = candidates(piece, &looks, &all, about.stage);
    let expected: Vec<Expected> = candidates.iter().map(|c| c.expected.clone()).collect();
    let laid = match about.corners {
        Some(corners) => LaidOver::at(photo, map, &expected, corners.map(|c| (c.x, c.y))),
        None => LaidOver::find(photo, map, &expected),
    }
    .map_err(|e| e.to_string())?;
    let card = about.card.map(|c| (c.x, c.y));
    // Laid over by the picture that fits best, it is compared with the stage it is least off.
    let judged = candidates.iter().map(|c| {
        let light = LightOn::of(photo, map, &laid, &c.expected, card);
        let read = light.read(photo, map, &laid, c.look.ground.lab);
        (off(piece, &read, &c.look), c, light, read)
    });
    // What the painter says is done is believed unless another stage fits plainly better: thin first washes are like deep ones in less light.
    let known = |c: &Candidate| if c.look.stage.is_none() { PLAINLY } else { 0.0 };
    let nearest = judged.min_by(|a, b| (a.0 - known(a.1)).total_cmp(&(b.0 - known(b.1))));
    let (off, candidate, light, read) = nearest.ok_or("Nothing can be compared.")?;
    let zones = seen(piece, &read, &candidate.look);
    let nearly_done =
        all.iter().filter(|t| !t.later && !piece.easel.is_done(t.id) && candidate.look.stage.is_none_or(|s| t.id.stage > s)).count() == 0;
    let finishing = if nearly_done { finishing::checks(piece, &read, &candidate.look, &all, (photo, map, &laid)) } else { Vec::new() };
    Ok(Progress {
        stage: candidate.look.stage,
        words: told(candidate, about.stage.is_some(), &laid, &light),
        corners: laid.corners.map(|(x, y)| Spot { x, y }),
        fit: laid.fit.max(0.0),
        relations: words::relations(piece, &zones),
        next: words::next(piece, &zones, &all, &candidate.look),
        zones,
        off,
        finishing,
    })
}

/// Whether the last session still gained something, from how far the last two photos are off.
pub fn gain(before: f64, now: f64) -> String {
    match before - now {
        g if g < -0.05 => "It is farther off than in the photo before: look at what changed before going on.".into(),
        g if g < 0.1 * before => "Hardly nearer than in the photo before: it may be time to stop.".into(),
        _ => "Nearer than in the photo before.".into(),
    }
}

fn candidates(piece: &Piece, looks: &Looks, all: &[Task], said: Option<Stage>) -> Vec<Candidate> {
    let of = |mut look: StageLook| {
        look.zones.iter_mut().filter(|z| z.to_come == 0 && !z.bare).for_each(|z| z.mark = over_its_run(piece, z));
        let zones: BTreeMap<u16, Lab> = look.zones.iter().map(|z| (z.zone.0, z.mark.lab)).collect();
        let bare = look.zones.iter().filter(|z| z.bare).map(|z| z.zone.0).collect();
        Candidate { expected: Expected { zones, bare }, look }
    };
    let each = looks.after_each(all).into_iter();
    let now = looks.at(None, &|t| piece.easel.is_done(t));
    let mut list: Vec<StageLook> = match said {
        Some(stage) => each.filter(|l| l.stage == Some(stage)).collect(),
        None if piece.easel.done.is_empty() => each.collect(),
        // What is done comes first: of two that fit alike it is taken.
        None => std::iter::once(now).chain(each).collect(),
    };
    // A sheet on which nothing is to be seen yet goes with anything.
    list.retain(|l| spread(l) > 1.0);
    list.into_iter().map(of).collect()
}

/// What a zone shows as a whole: of one that runs from colour to colour the middle of its way.
fn over_its_run(piece: &Piece, z: &crate::stages::ZoneNow) -> Mark {
    let Some(run) = piece.zone(z.zone).and_then(|o| o.graded) else { return z.mark };
    let (from, to) = (z.mark.lab, piece.within_rules(run.to));
    Mark::of(Lab::new((from.l + to.l) / 2.0, (from.a + to.a) / 2.0, (from.b + to.b) / 2.0), piece.neutral())
}

fn spread(look: &StageLook) -> f64 {
    let first = look.zones.first().map(|z| z.mark.lab);
    look.zones.iter().filter_map(|z| Some(ciede2000(z.mark.lab, first?))).fold(0.0, f64::max)
}

/// How far a reading is off a look in all: the mean over zones in steps, by the root of their share, a step at most each.
fn off(piece: &Piece, read: &BTreeMap<u16, ZoneRead>, look: &StageLook) -> f64 {
    let (mut sum, mut weight) = (0.0, 0.0);
    for z in &look.zones {
        let (Some(r), Some(zone)) = (read.get(&z.zone.0), piece.zone(z.zone)) else { continue };
        let w = zone.reading.area.sqrt();
        sum += w * (lean_recipes::cost::apart(r.lab, z.mark.lab) / lean_recipes::cost::STEP).min(2.0);
        weight += w;
    }
    sum / f64::max(weight, 1e-9)
}

fn seen(piece: &Piece, read: &BTreeMap<u16, ZoneRead>, look: &StageLook) -> Vec<ZoneSeen> {
    let neutral = piece.neutral();
    let zone = |z: &crate::stages::ZoneNow| {
        let r = read.get(&z.zone.0).filter(|r| r.places >= READ)?;
        let dv = r.lab.value().0 - z.mark.lab.value().0;
        let unlaid = !z.bare && r.bare > UNLAID && ciede2000(z.mark.lab, look.ground.lab) > OFF_COLOUR;
        let off = unlaid || dv.abs() >= OFF_VALUE || ciede2000(r.lab, z.mark.lab) >= OFF_COLOUR;
        let sentence = match (unlaid, off) {
            (true, _) => "It is still bare ground.".to_owned(),
            (_, false) => "As it should be at this stage.".to_owned(),
            _ => crate::wording::Difference::of(z.mark.lab, r.lab).words,
        };
        Some(ZoneSeen { zone: z.zone, read: Mark::of(r.lab, neutral), wanted: z.mark, off, sentence })
    };
    look.zones.iter().filter_map(zone).collect()
}

fn told(candidate: &Candidate, said: bool, laid: &LaidOver, light: &LightOn) -> String {
    let stage = match (candidate.look.stage, said) {
        (Some(s), true) => format!("Compared with {}, as you said.", name(s).to_lowercase()),
        (Some(s), false) => format!("It shows the piece after {}.", name(s).to_lowercase()),
        (None, _) => "Compared with what is done.".into(),
    };
    let turned = if laid.is_turned() { " It was turned the right way up." } else { "" };
    let curve = if light.contrast > 1.0 { " The camera steepened the contrast; that was taken out." } else { "" };
    let light = match light.from {
        LightFrom::Card => "The light was read off the grey card.",
        LightFrom::Ground => "The light was read off the bare ground.",
        LightFrom::Whole => "The light was read off the painting as a whole: one zone that is off is found, a shift of all of them is not.",
    };
    format!("{stage}{turned} {light}{curve}")
}
