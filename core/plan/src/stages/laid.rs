//! What every zone looks like on its way: toned, laid in, with some of its layers.

use crate::mixes::ZoneMix;
use crate::surfaces::in_use;
use lean_colour::{Lab, Reflectance, Share};
use lean_media::amount::{Dose, Mass, Pressure, Rubbing, Thickness};
use lean_media::broken::fused;
use lean_media::layering::{Binder, State};
use lean_media::{Choices, Ground, Layer, Layering, Medium, Parts, Pigment, PigmentId};
use lean_piece::easel::{Stage, TaskId};
use lean_piece::paint_box::PaintBox;
use lean_piece::{Piece, ZoneId};

/// Share of a zone in which what lies beneath shows between strokes of covering paint. A choice.
pub(crate) const SHOWS: f64 = 0.03;

/// Mass of a thin stroke of pastel, the most that is laid over what is fixed; and one that hides the ground. Choices.
const BREATH: f64 = 0.3;
const HIDES: f64 = 3.0;

/// How far a zone is.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct Far {
    /// The ground is toned.
    pub toned: bool,
    /// The level of the lay-in, 0 where there is none.
    pub level: u8,
    /// How many of its layers lie.
    pub layers: usize,
    /// The glaze lies over it.
    pub glazed: bool,
}

/// A thin film of one pigment in the way of a medium: `much` is 1 for a light level of a lay-in, 3 for a full one.
pub fn film<'a>(medium: Medium, pigment: &'a Pigment, much: f64) -> Layer<'a> {
    match medium {
        Medium::Oil => Layer::Paint { binder: Binder::Oil, of: vec![(pigment, Parts(1.0))], film: Some(Thickness(0.35 * much * much)) },
        Medium::Watercolour => Layer::Wash { of: vec![(pigment, Thickness(0.04 * much * much))] },
        Medium::Marker => Layer::Ink { of: vec![(pigment, Dose(0.012 * much * much))], into_wet: false },
        Medium::Pencil => Layer::Pencil { of: pigment, pressure: Pressure(0.22 * much) },
        Medium::SoftPastel => {
            Layer::Pastel { of: vec![(pigment, Parts(1.0))], mass: Mass(BREATH * much), rubbing: Rubbing(Choices::default().pastel.rubbed) }
        }
    }
}

/// Works out what lies where.
pub struct Surface<'a> {
    medium: Medium,
    ground: Ground,
    paint_box: &'a PaintBox,
    tone: Option<&'a Pigment>,
    lay_in: Option<&'a Pigment>,
    glaze: Option<(&'a Pigment, f64)>,
}

impl<'a> Surface<'a> {
    /// The surface of a piece as its painter means to build it.
    pub fn of(piece: &Piece, paint_box: &'a PaintBox) -> Self {
        let easel = &piece.easel;
        let find = |id: &PigmentId| paint_box.find(id);
        Self {
            medium: piece.brief.medium,
            ground: piece.ground(),
            paint_box,
            tone: easel.tone.as_ref().and_then(find),
            lay_in: easel.lay_in.as_ref().and_then(|l| find(&l.pigment)),
            glaze: easel.glaze.as_ref().and_then(|g| Some((find(&g.pigment)?, g.strength))),
        }
    }

    /// The same with another lay-in.
    pub(crate) fn laid_in_with(self, pigment: &'a Pigment) -> Self {
        Self { lay_in: Some(pigment), ..self }
    }

    /// The same with another glaze.
    pub(crate) fn glazed_with(self, pigment: &'a Pigment, strength: Share) -> Self {
        Self { glaze: Some((pigment, strength.0)), ..self }
    }

    fn laid(&self, layers: Vec<Layer<'a>>) -> Option<Reflectance> {
        Some(Layering { ground: &self.ground, layers }.lay(State::Dry).ok()?.reflectance)
    }

    fn beneath(&self, far: Far) -> Vec<Layer<'a>> {
        let tone = self.tone.filter(|_| far.toned).map(|p| film(self.medium, p, 0.8));
        let lay_in = self.lay_in.filter(|_| far.level > 0).map(|p| film(self.medium, p, f64::from(far.level)));
        tone.into_iter().chain(lay_in).collect()
    }

    /// A breath of pastel over what is fixed: the fixed tooth takes it whatever lies there, nothing of that joins it, and it covers by its mass.
    fn over_fixed(&self, beneath: Vec<Layer<'a>>, pigment: &'a Pigment, much: f64) -> Option<Reflectance> {
        let breath = |mass: f64| Layer::Pastel { of: vec![(pigment, Parts(1.0))], mass: Mass(mass), rubbing: Rubbing(0.0) };
        let covers = 1.0 - (-BREATH * much).exp();
        fused(&[(Share(1.0 - covers), self.laid(beneath)?), (Share(covers), self.laid(vec![breath(HIDES)])?)], 1.0).ok()
    }

    /// The reflectance of a zone so far; `None` where the ground does not take it all, or a pigment is gone.
    fn reflectance(&self, mix: Option<&ZoneMix>, far: Far) -> Option<Reflectance> {
        let glaze = self.glaze.filter(|_| far.glazed);
        let glazed = |mut layers: Vec<Layer<'a>>| match glaze {
            None => self.laid(layers),
            Some((pigment, strength)) if self.medium == Medium::SoftPastel => self.over_fixed(layers, pigment, strength.sqrt()),
            Some((pigment, strength)) => {
                layers.push(film(self.medium, pigment, strength.sqrt()));
                self.laid(layers)
            }
        };
        let beneath = self.beneath(far);
        let Some(mix) = mix.map(|m| &m.mix).filter(|m| far.layers > 0 && !m.is_bare_ground()) else { return glazed(beneath) };
        let mut all = beneath.clone();
        if mix.layers.is_empty() {
            all.extend(mix.general(self.medium, &|id| self.paint_box.find(id))?);
            // Bare ground between strokes is closed; a tone or lay-in is let stand.
            if beneath.is_empty() {
                return glazed(all);
            }
            return fused(&[(Share(1.0 - SHOWS), glazed(all)?), (Share(SHOWS), glazed(beneath)?)], 1.0).ok();
        }
        for l in mix.layers.iter().take(far.layers) {
            all.extend(l.general(self.medium, &|id| self.paint_box.find(id))?);
        }
        glazed(all)
    }

    /// The colour of a zone so far. A zone with all its layers and nothing beneath is its mix; what lies beneath or above moves it from there by as much as
    /// the optics say. `None` where the ground does not take it all.
    pub fn colour(&self, mix: Option<&ZoneMix>, far: Far) -> Option<Lab> {
        let lab = |r: Reflectance| r.xyz().lab();
        let now = lab(self.reflectance(mix, far)?);
        let Some(m) = mix.filter(|m| far.layers > 0 && far.layers >= m.mix.layers.len().max(1)) else { return Some(now) };
        let plain = lab(self.reflectance(mix, Far { layers: far.layers, ..Far::default() })?);
        Some(Lab::new(m.mix.lab.l + now.l - plain.l, m.mix.lab.a + now.a - plain.a, m.mix.lab.b + now.b - plain.b))
    }

    /// The bare or toned ground.
    pub fn ground(&self, toned: bool) -> Lab {
        self.colour(None, Far { toned, ..Far::default() }).unwrap_or(self.ground.lab)
    }
}

/// How far a zone is when those of `tasks` are done that `is_done` says: its layers count from the ground up as far as none is missing.
pub fn far(piece: &Piece, zone: ZoneId, tasks: &[TaskId], is_done: &dyn Fn(TaskId) -> bool) -> Far {
    let lies = |layer: u8| tasks.iter().any(|t| t.zone == Some(zone) && t.layer == layer && is_done(*t));
    let whole = |stage: Stage| tasks.contains(&TaskId::whole(stage)) && is_done(TaskId::whole(stage));
    let layers = (0..u8::MAX).take_while(|n| lies(*n)).count();
    // Several mixes side by side are one thing to do, however many layers each has.
    let layers = if layers > 0 && in_use(piece, zone).is_some() { usize::from(u8::MAX) } else { layers };
    Far {
        toned: piece.easel.tone.is_some() && whole(Stage::GroundTone),
        level: if whole(Stage::LayIn) { piece.easel.level_of(zone) } else { 0 },
        layers,
        glazed: piece.easel.glaze.is_some() && whole(Stage::Glaze),
    }
}
