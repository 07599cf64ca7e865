//! What there is to do: every layer of every zone in its stage, and what is done to all of the sheet.

use super::drying::{Drying, drying};
use super::minutes::{BIG, minutes, pace};
use crate::mixes::ZoneMix;
use crate::surfaces::in_use;
use lean_colour::Share;
use lean_media::forms::Act;
use lean_media::{Medium, Pigment, PigmentId};
use lean_picture::form::FormPart;
use lean_piece::easel::{DrawnWith, Guard, Stage, TaskId};
use lean_piece::intent::schools::{Question, School};
use lean_piece::light::{Distance, Role};
use lean_piece::paint_box::PaintBox;
use lean_piece::{Importance, Piece, Surface, SurfaceMix, Worked, Zone, ZoneId};
use lean_recipes::{MixLayer, telling};
use lean_schedule::Minutes;

/// Share of the picture below which a zone may be an accent. A choice.
const SMALL: f64 = 0.03;
/// Steps from the darkest of the plan within which something small is a dark accent. A choice.
const DARKEST: f64 = 0.6;

/// One thing to do.
#[derive(Clone, Debug, PartialEq)]
pub struct Task {
    /// Its name.
    pub id: TaskId,
    /// What to do, in a few words: `roof, second layer: slate blue, light`.
    pub title: String,
    /// How and with what.
    pub how: String,
    /// Minutes of work.
    pub minutes: Minutes,
    /// How long it stays wet.
    pub drying: Drying,
    /// A decision that cannot be taken back stands before it; empty otherwise.
    pub gate: String,
    /// Done once the piece has dried for months: no day is planned for it.
    pub later: bool,
}

/// All there is to do, in the order of the stages and within them as the schools say. What was left out by the painter is not in it.
pub fn tasks(piece: &Piece, paint_box: &PaintBox, mixes: &[ZoneMix], order: &[ZoneId]) -> Vec<Task> {
    let plain = plainly_timed(piece, paint_box, mixes, order);
    let done: u32 = plain.iter().filter(|t| piece.easel.is_done(t.id)).map(|t| t.minutes.0).sum();
    let own = pace(piece, done);
    if own == 1.0 { plain } else { at_pace(piece, paint_box, mixes, order, own) }
}

/// The same, timed by the tables and not by the painter's own pace.
pub(crate) fn plainly_timed(piece: &Piece, paint_box: &PaintBox, mixes: &[ZoneMix], order: &[ZoneId]) -> Vec<Task> {
    at_pace(piece, paint_box, mixes, order, 1.0)
}

fn at_pace(piece: &Piece, paint_box: &PaintBox, mixes: &[ZoneMix], order: &[ZoneId], pace: f64) -> Vec<Task> {
    let making = Making { piece, paint_box, pace };
    let mut all = making.of_the_sheet();
    for zone in order {
        if let Some((z, m)) = piece.zone(*zone).zip(mixes.iter().find(|m| m.zone == *zone)) {
            all.extend(making.of_zone(z, m));
        }
    }
    all.retain(|t| !piece.easel.skipped.contains(&t.id));
    // Stable: within a stage the order of the schools stays.
    all.sort_by_key(|t| t.id.stage);
    all
}

fn darkest(piece: &Piece) -> f64 {
    piece.zones.iter().map(|z| piece.wanted(z).value().0).fold(10.0, f64::min)
}

/// The stage in which the first layer of a zone is laid.
pub(crate) fn stage_of(piece: &Piece, zone: &Zone) -> Stage {
    let reserved = piece.intent.school(Question::Highlights, piece.brief.medium) == School::HighlightsReserved;
    let dark_accent = piece.wanted(zone).value().0 < darkest(piece) + DARKEST;
    match zone.facts.role {
        Some(Role::Highlight) if !reserved => Stage::Lights,
        _ if zone.reading.area >= BIG => Stage::BigShapes,
        _ if zone.reading.area < SMALL && (zone.importance == Importance::Focal || dark_accent) => Stage::Accents,
        _ => Stage::Parts,
    }
}

struct Making<'a> {
    piece: &'a Piece,
    paint_box: &'a PaintBox,
    pace: f64,
}

impl Making<'_> {
    fn name(&self, id: &PigmentId) -> String {
        self.paint_box.name_of(id)
    }

    fn task(&self, id: TaskId, share: f64, times: u8, (strength, of): (f64, &[(&Pigment, f64)])) -> Task {
        let medium = self.piece.brief.medium;
        Task {
            id,
            title: String::new(),
            how: String::new(),
            minutes: minutes(self.piece, id.stage, Share(share), times, self.pace),
            drying: drying(medium, &self.piece.ground(), self.piece.easel.air, id.stage, strength, of),
            gate: String::new(),
            later: false,
        }
    }

    /// Ground tone, drawing, lay-in, glaze and guard.
    fn of_the_sheet(&self) -> Vec<Task> {
        let (piece, easel) = (self.piece, &self.piece.easel);
        let alone = |id: &PigmentId| self.paint_box.find(id).map(|p| (p, 1.0));
        let whole = |stage, strength, of: Option<(&Pigment, f64)>| self.task(TaskId::whole(stage), 1.0, 1, (strength, of.as_slice()));
        let mut all = Vec::new();
        if let Some(tone) = &easel.tone {
            let how = format!("{}, thin and even over all of it, wiped down until the ground still glows.", self.name(tone));
            all.push(Task { title: "Tone the ground".into(), how, ..whole(Stage::GroundTone, 0.5, alone(tone)) });
        }
        if easel.drawing.with != DrawnWith::Nothing {
            all.push(Task { title: "Draw it".into(), how: self.drawing(), ..whole(Stage::Drawing, 0.2, None) });
        }
        if let Some(lay_in) = &easel.lay_in {
            let bare = piece.zones.len() - lay_in.levels.len().min(piece.zones.len());
            let left = if bare > 0 { format!(" {bare} of the zones stay bare.") } else { String::new() };
            let lean = if piece.brief.medium == Medium::Oil { " Lean: no oil is added, fat goes over it." } else { "" };
            let how = format!("Values only, in {}: three levels, thin, no edges sharpened.{lean}{left}", self.name(&lay_in.pigment));
            all.push(Task { title: "Lay in the values".into(), how, ..whole(Stage::LayIn, 0.7, alone(&lay_in.pigment)) });
        }
        if let Some(glaze) = &easel.glaze {
            let (title, how) = over_all(piece.brief.medium);
            all.push(Task {
                title: title.into(),
                how: how.replace("{}", &self.name(&glaze.pigment)),
                gate: "It cannot be taken off again once it has set.".into(),
                ..whole(Stage::Glaze, glaze.strength, alone(&glaze.pigment))
            });
        }
        all.extend(self.guard(&whole(Stage::Guard, 1.0, None)));
        all
    }

    fn drawing(&self) -> String {
        let drawing = self.piece.easel.drawing;
        let with = match drawing.with {
            DrawnWith::Pencil => "A hard pencil, hardly pressed",
            DrawnWith::Charcoal => "Charcoal, dusted off until it only just shows",
            DrawnWith::Brush => "A thin brush in a colour of the set",
            DrawnWith::Nothing => "",
        };
        let fate = if drawing.belongs { "Its lines stay and belong to the picture." } else { "It vanishes under what comes." };
        let when = if drawing.after_lay_in { " Over the lay-in." } else { "" };
        format!("{with}: only where one shape meets another.{when} {fate}")
    }

    fn guard(&self, plain: &Task) -> Option<Task> {
        let oil = self.piece.brief.medium == Medium::Oil;
        let (title, how) = match self.piece.easel.guard {
            Guard::Nothing => return None,
            Guard::Fixative => ("Fix it", "Several thin mists from afar, outdoors or by an open window. It darkens: try it on an offcut."),
            Guard::Varnish if oil => {
                ("Varnish it", "Not before six months: until then the film still moves. The label of the varnish comes first.")
            }
            Guard::Varnish => ("Varnish it", "Thin, in good air, away from flames. The label comes first."),
        };
        let later = oil && self.piece.easel.guard == Guard::Varnish;
        Some(Task { title: title.into(), how: how.into(), gate: "It cannot be taken off by halves.".into(), later, ..plain.clone() })
    }

    fn of_zone(&self, zone: &Zone, mix: &ZoneMix) -> Vec<Task> {
        let first = stage_of(self.piece, zone);
        let label = crate::wording::capital(&self.piece.zone_label(zone.id));
        let find = |id: &PigmentId| self.paint_box.find(id);
        if mix.mix.is_bare_ground() {
            return Vec::new();
        }
        let area = zone.reading.area;
        if let Some(surface) = in_use(self.piece, zone.id) {
            return vec![self.side_by_side(zone, surface, first)];
        }
        if mix.mix.layers.is_empty() {
            let of: Vec<(&Pigment, f64)> = mix.mix.amounts().into_iter().filter_map(|(id, n)| Some((find(id)?, n))).collect();
            let id = TaskId { stage: first, zone: Some(zone.id), layer: 0 };
            let mixed = telling::short(&mix.mix, &|id| self.name(id));
            let how = format!("{mixed}. {} {}", self.marks(zone, first), self.edge(zone)).trim_end().to_owned();
            return vec![Task { title: label, how, ..self.task(id, area, 1, (1.0, &of)) }];
        }
        let burnishes = |l: &MixLayer| l.act == Act::Burnish;
        let layer = |(n, l): (usize, &MixLayer)| {
            // What goes over a first layer is a part already, however large the zone.
            let stage = if n == 0 { first } else { first.max(Stage::Parts) };
            let id = TaskId { stage, zone: Some(zone.id), layer: n as u8 };
            let of: Vec<(&Pigment, f64)> = l.of.iter().filter_map(|p| Some((find(&p.pigment)?, f64::from(p.parts)))).collect();
            let much = l.amounts.iter().sum::<f64>() / f64::from(l.times.max(1));
            let strength = if self.piece.brief.medium == Medium::Watercolour { (much / 0.15).clamp(0.3, 3.0) } else { 1.0 };
            let laid = telling::layers(std::slice::from_ref(l), &|id| self.name(id));
            let which = if mix.mix.layers.len() > 1 { format!("{label}, {} layer", ordinal(n)) } else { label.clone() };
            let gate = match burnishes(l) && !self.piece.easel.burnish {
                true => "Burnish only when it is decided: hardly anything takes over it.".into(),
                false => String::new(),
            };
            let marks = if n == 0 { self.marks(zone, stage) } else { String::new() };
            let edge = if n == 0 { self.edge(zone) } else { "" };
            let how = format!("{laid}. {marks} {edge}").trim().to_owned();
            Task { title: which, how, gate, ..self.task(id, area, l.times, (strength, &of)) }
        };
        mix.mix.layers.iter().enumerate().map(layer).collect()
    }

    /// Several mixes laid side by side: one thing to do, with all of them.
    fn side_by_side(&self, zone: &Zone, surface: &Surface, stage: Stage) -> Task {
        let find = |id: &PigmentId| self.paint_box.find(id);
        let of: Vec<(&Pigment, f64)> = surface
            .mixes
            .iter()
            .flat_map(|m| m.mix.amounts().into_iter().map(|(id, n)| (id, n * m.share)))
            .filter_map(|(id, n)| Some((find(id)?, n)))
            .collect();
        let told = |m: &SurfaceMix| {
            let recipe = telling::short(&m.mix, &|id| self.name(id));
            if surface.worked == Worked::Siblings { recipe } else { format!("{:.0} % {recipe}", 100.0 * m.share) }
        };
        let mixes = surface.mixes.iter().map(told).collect::<Vec<_>>().join("; ");
        let how = match surface.worked {
            Worked::Siblings => format!("Every one in a mix of its own, all of one value: {mixes}."),
            Worked::Variation => format!("Let them run into each other across it, the first ruling: {mixes}."),
            Worked::Broken => {
                format!("Dabs side by side, not mixed on the ground, at most {:.0} mm wide: {mixes}.", surface.dab.0.max(1.0))
            }
        };
        let label = crate::wording::capital(&self.piece.zone_label(zone.id));
        let id = TaskId { stage, zone: Some(zone.id), layer: 0 };
        Task { title: label, how, ..self.task(id, zone.reading.area, 1, (1.0, &of)) }
    }

    /// Work at the edge between a part of a form and the darker one beside it.
    fn edge(&self, zone: &Zone) -> &'static str {
        let lighter = zone.form.is_some_and(|f| matches!(f.part, FormPart::Middle | FormPart::Light | FormPart::Rim));
        match self.piece.brief.medium {
            _ if !lighter => "",
            Medium::Marker => "Take it over the edge of the darker part while that is wet: the lighter pen blends it.",
            Medium::SoftPastel => "Drag its edge into the darker part, without rubbing all of it.",
            Medium::Pencil => "Press less and less towards the next part, so that they run into each other.",
            Medium::Watercolour => "Soften its edge with a damp brush before it dries.",
            Medium::Oil => "Lose its edge into the darker part while both are wet.",
        }
    }

    /// With which brush and which marks.
    fn marks(&self, zone: &Zone, stage: Stage) -> String {
        let brush = match stage {
            Stage::BigShapes => "A large brush, edges left open",
            Stage::Parts => "A smaller brush",
            _ => "The smallest brush, once",
        };
        let brush = match self.piece.brief.medium {
            Medium::SoftPastel | Medium::Pencil | Medium::Marker => brush
                .replace("A large brush", "Broad strokes")
                .replace("A smaller brush", "Smaller strokes")
                .replace("The smallest brush, once", "Few strokes, once"),
            _ => brush.to_owned(),
        };
        let marks = match zone.facts.distance {
            // Large shapes are laid broadly wherever they lie.
            _ if stage == Stage::BigShapes => ".",
            Some(Distance::Far) => ", broad and level as what is far off.",
            Some(Distance::Near) => ", finer and standing as what is near.",
            _ => ".",
        };
        format!("{brush}{marks}")
    }
}

/// Small ordinals in words.
fn ordinal(n: usize) -> String {
    const WORDS: [&str; 6] = ["first", "second", "third", "fourth", "fifth", "sixth"];
    WORDS.get(n).map_or_else(|| format!("{}th", n + 1), |w| (*w).into())
}

/// The last layer over everything: what it is called and how it is laid, with a place for the name of its pigment.
fn over_all(medium: Medium) -> (&'static str, &'static str) {
    match medium {
        Medium::Oil | Medium::Watercolour => {
            ("One thin glaze over all of it", "{}, a film as thin as you can lay it. Try it on the study first.")
        }
        Medium::Marker => ("One pen over all of it", "{}, one quick coat without stopping. Try it on the study first."),
        Medium::Pencil => ("One pencil over all of it", "{}, hardly pressed, evenly over everything. Try it on the study first."),
        Medium::SoftPastel => (
            "A breath of pastel over all of it",
            "Fix it first, several thin mists from afar, outdoors or by an open window, and let it dry. Then {}, hardly touching. Try it on an offcut.",
        ),
    }
}
