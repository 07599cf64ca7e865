//! What was put down, in what order and how much, on a ground: one interface for all media.
//!
//! A [`Layering`] is laid from the ground up. Light that gets below the uppermost surface is followed as a reflectance *inside*
//! it; the uppermost layer decides once how that surface itself reflects (Saunderson 1942 for paint films, a matte veil for paper, water
//! while it is wet). So pencil may lie over marker, or opaque white over a wash.

mod ink;
mod paint;
mod pastel;
mod pencil;
mod wash;

use crate::amount::{Dose, Mass, Pressure, Rubbing, Thickness};
use crate::choices::Choices;
use crate::ground::Ground;
use crate::opaque::SurfaceOptics;
use crate::pigment::{Parts, Pigment, PigmentId};
use lean_colour::{BANDS, Reflectance};
use serde::{Deserialize, Serialize};
use std::sync::LazyLock;
use thiserror::Error;

/// What a paint is bound in.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Binder {
    /// Oil.
    Oil,
    /// Gouache: body colour over washes, and studies.
    Gouache,
    /// Acrylic.
    Acrylic,
}

/// One thing put down. A layer knows its medium.
#[derive(Clone, Debug, PartialEq)]
pub enum Layer<'a> {
    /// Wet paint mixed by parts: opaque, or a film of a thickness.
    Paint {
        /// Its binder.
        binder: Binder,
        /// Pigments by parts.
        of: Vec<(&'a Pigment, Parts)>,
        /// `None` hides what lies beneath.
        film: Option<Thickness>,
    },
    /// One wash, dry before the next: pigments with the thickness each would leave alone.
    Wash {
        /// Pigments.
        of: Vec<(&'a Pigment, Thickness)>,
    },
    /// Washes beneath wetted again and lifted with a clean brush.
    Lifting,
    /// One coat of marker; inks laid into one another wet share a coat.
    Ink {
        /// Inks.
        of: Vec<(&'a Pigment, Dose)>,
        /// Laid while the ink beneath was still wet.
        into_wet: bool,
    },
    /// A colourless blender.
    Blender,
    /// One layer of one pencil.
    Pencil {
        /// Pigment.
        of: &'a Pigment,
        /// Pressure.
        pressure: Pressure,
    },
    /// All pencil beneath burnished.
    Burnishing,
    /// One stroke of pastel over all of the area.
    Pastel {
        /// What is in the stick besides chalk, by parts.
        of: Vec<(&'a Pigment, Parts)>,
        /// How much of the stick is left.
        mass: Mass,
        /// How much of what lies beneath joins it.
        rubbing: Rubbing,
    },
}

impl<'a> Layer<'a> {
    /// The same layer of pigments as somebody else knows them; one that is not known stays as it is.
    pub fn with<'b>(&self, known: &dyn Fn(&PigmentId) -> Option<&'b Pigment>) -> Layer<'b>
    where
        'a: 'b,
    {
        let by = |p: &&'a Pigment| -> &'b Pigment { known(&p.id).unwrap_or(*p) };
        match self {
            Self::Paint { binder, of, film } => {
                Layer::Paint { binder: *binder, of: of.iter().map(|(p, n)| (by(p), *n)).collect(), film: *film }
            }
            Self::Wash { of } => Layer::Wash { of: of.iter().map(|(p, x)| (by(p), *x)).collect() },
            Self::Lifting => Layer::Lifting,
            Self::Ink { of, into_wet } => Layer::Ink { of: of.iter().map(|(p, d)| (by(p), *d)).collect(), into_wet: *into_wet },
            Self::Blender => Layer::Blender,
            Self::Pencil { of, pressure } => Layer::Pencil { of: by(of), pressure: *pressure },
            Self::Burnishing => Layer::Burnishing,
            Self::Pastel { of, mass, rubbing } => {
                Layer::Pastel { of: of.iter().map(|(p, n)| (by(p), *n)).collect(), mass: *mass, rubbing: *rubbing }
            }
        }
    }

    /// Whether a pigment is in it.
    pub fn holds(&self, id: &PigmentId) -> bool {
        match self {
            Self::Paint { of, .. } | Self::Pastel { of, .. } => of.iter().any(|(p, _)| p.id == *id),
            Self::Wash { of } => of.iter().any(|(p, _)| p.id == *id),
            Self::Ink { of, .. } => of.iter().any(|(p, _)| p.id == *id),
            Self::Pencil { of, .. } => of.id == *id,
            Self::Lifting | Self::Blender | Self::Burnishing => false,
        }
    }
}

impl Layer<'_> {
    /// The medium in one word, as grounds are said to suit it.
    pub fn medium(&self) -> &'static str {
        match self {
            Self::Paint { binder: Binder::Oil, .. } => "oil",
            Self::Paint { binder: Binder::Gouache, .. } => "gouache",
            Self::Paint { binder: Binder::Acrylic, .. } => "acrylic",
            Self::Wash { .. } | Self::Lifting => "watercolour",
            Self::Ink { .. } | Self::Blender => "marker",
            Self::Pencil { .. } | Self::Burnishing => "pencil",
            Self::Pastel { .. } => "soft-pastel",
        }
    }

    /// How much was put down, in the units of [`crate::amount`]: of a wash or coat for each pigment, of paint by parts; nothing of what only lifts
    /// or presses.
    pub fn amounts(&self) -> Vec<f64> {
        match self {
            Self::Paint { of, .. } => of.iter().map(|(_, n)| n.0).collect(),
            Self::Wash { of } => of.iter().map(|(_, x)| x.0).collect(),
            Self::Ink { of, .. } => of.iter().map(|(_, d)| d.0).collect(),
            Self::Pencil { pressure, .. } => vec![pressure.0],
            Self::Pastel { mass, .. } => vec![mass.0],
            Self::Lifting | Self::Blender | Self::Burnishing => Vec::new(),
        }
    }

    /// Whether nothing at all was put down.
    fn is_nothing(&self) -> bool {
        match self {
            Self::Paint { film, .. } => film.is_some_and(|x| x.0 == 0.0),
            Self::Wash { of } => of.iter().all(|(_, x)| x.0 == 0.0),
            Self::Ink { of, .. } => of.iter().all(|(_, d)| d.0 == 0.0),
            Self::Pencil { pressure, .. } => pressure.0 == 0.0,
            Self::Pastel { mass, .. } => mass.0 == 0.0,
            Self::Lifting | Self::Blender | Self::Burnishing => false,
        }
    }
}

/// Whether colour is seen while wet or when it has dried.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum State {
    /// Dry: how a piece is judged.
    #[default]
    Dry,
    /// Wet. Never judged against dry.
    Wet,
}

/// What was put down on a ground, first laid first.
#[derive(Clone, Debug, PartialEq)]
pub struct Layering<'a> {
    /// The ground.
    pub ground: &'a Ground,
    /// The layers.
    pub layers: Vec<Layer<'a>>,
}

/// What comes of it.
#[derive(Clone, Debug, PartialEq)]
pub struct Laid {
    /// What the eye is sent, 0..=1 in every band.
    pub reflectance: Reflectance,
    /// The state it was predicted for.
    pub state: State,
    /// What the painter should know: a tooth that took less than was laid, a wash deeper than the model holds.
    pub remarks: Vec<String>,
}

/// Why something cannot be laid.
#[derive(Clone, Debug, Error, PartialEq)]
pub enum Refused {
    /// More layers than the ground takes.
    #[error("{ground} takes {takes} {what}, not {asked}: leave out {}, or choose a ground with more tooth", asked - takes)]
    TooManyLayers {
        /// The ground.
        ground: String,
        /// `layers of pastel` and so on.
        what: &'static str,
        /// How many it takes.
        takes: usize,
        /// How many were asked for.
        asked: usize,
    },
    /// The tooth holds no more.
    #[error("tooth full: {ground} holds no more {what} after {after} layers; lay less beneath, or choose a ground with more tooth")]
    ToothFull {
        /// The ground.
        ground: String,
        /// `pastel` or `pencil`.
        what: &'static str,
        /// Layers already there.
        after: usize,
    },
    /// The paper holds no more ink.
    #[error("{ground} bleeds from the {after}. coat on: it holds a dose of {holds} in all; use fewer or lighter coats")]
    Bleeds {
        /// The ground.
        ground: String,
        /// Coats already there.
        after: usize,
        /// Dose it holds.
        holds: f64,
    },
    /// An amount is out of range.
    #[error("{0}")]
    Amount(String),
}

impl Layering<'_> {
    /// The reflectance of what was laid, with the shipped [`Choices`].
    ///
    /// # Errors
    /// See [`Refused`].
    pub fn lay(&self, state: State) -> Result<Laid, Refused> {
        self.lay_with(state, &Choices::default())
    }

    /// The same with choices of one's own.
    ///
    /// # Errors
    /// See [`Refused`].
    pub fn lay_with(&self, state: State, choices: &Choices) -> Result<Laid, Refused> {
        Ok(self.built(state, choices)?.seen())
    }

    /// What lies there, dry, ready for one thing more.
    ///
    /// # Errors
    /// See [`Refused`].
    pub fn beneath(&self) -> Result<Beneath, Refused> {
        let built = self.built(State::Dry, &CHOICES)?;
        Ok(Beneath { inside: built.inside, top: built.top })
    }

    fn built<'c>(&'c self, state: State, choices: &'c Choices) -> Result<Building<'c>, Refused> {
        self.layers.iter().try_for_each(check)?;
        self.count()?;
        let mut building = Building::on(self.ground, state, choices);
        let layers: Vec<&Layer> = self.layers.iter().filter(|l| !l.is_nothing()).collect();
        let mut rest = layers.as_slice();
        while let Some(first) = rest.first() {
            // A run of one medium is one step: its layers dissolve, overlap or rub into each other.
            let run = rest.iter().take_while(|l| std::mem::discriminant(&family(l)) == std::mem::discriminant(&family(first))).count();
            let (now, later) = rest.split_at(run);
            building.lay(now)?;
            rest = later;
        }
        Ok(building)
    }

    fn count(&self) -> Result<(), Refused> {
        let takes = self.ground.takes;
        let of = |f: fn(&Family) -> bool| self.layers.iter().filter(|l| !l.is_nothing() && f(&family(l)) && l.adds()).count();
        for (what, takes, asked) in [
            ("layers of pastel", takes.pastel, of(|f| matches!(f, Family::Pastel))),
            ("layers of pencil", takes.pencil, of(|f| matches!(f, Family::Pencil))),
            ("coats of ink", takes.ink, of(|f| matches!(f, Family::Ink))),
            ("washes", takes.wash, of(|f| matches!(f, Family::Wash))),
            ("layers of paint", takes.paint, of(|f| matches!(f, Family::Paint))),
        ] {
            if asked > takes.into() {
                return Err(Refused::TooManyLayers { ground: self.ground.name.clone(), what, takes: takes.into(), asked });
            }
        }
        Ok(())
    }
}

impl Layer<'_> {
    fn adds(&self) -> bool {
        !matches!(self, Self::Lifting | Self::Blender | Self::Burnishing)
    }
}

static CHOICES: LazyLock<Choices> = LazyLock::new(Choices::default);

/// What lies on a ground and has dried: another medium may be laid over it again and again without laying it anew.
#[derive(Clone, Debug)]
pub struct Beneath {
    inside: [f64; BANDS],
    top: Top,
}

impl Beneath {
    /// The reflectance with one layer of another medium over it on the same ground; nothing is counted against what the ground takes.
    ///
    /// # Errors
    /// See [`Refused`].
    pub fn under(&self, ground: &Ground, layer: &Layer) -> Result<Reflectance, Refused> {
        check(layer)?;
        let mut building = Building { inside: self.inside, top: self.top, ..Building::on(ground, State::Dry, &CHOICES) };
        building.lay(&[layer])?;
        Ok(building.seen().reflectance)
    }
}

enum Family {
    Paint,
    Wash,
    Ink,
    Pencil,
    Pastel,
}

fn family(layer: &Layer) -> Family {
    match layer {
        Layer::Paint { .. } => Family::Paint,
        Layer::Wash { .. } | Layer::Lifting => Family::Wash,
        Layer::Ink { .. } | Layer::Blender => Family::Ink,
        Layer::Pencil { .. } | Layer::Burnishing => Family::Pencil,
        Layer::Pastel { .. } => Family::Pastel,
    }
}

fn check(layer: &Layer) -> Result<(), Refused> {
    let not_less = |id: &PigmentId, what: &str, n: f64| {
        if n.is_finite() && n >= 0.0 {
            Ok(())
        } else {
            Err(Refused::Amount(format!("{n} is no {what} of \"{id}\": it must be zero or more")))
        }
    };
    match layer {
        Layer::Paint { of, film, .. } => {
            of.iter().try_for_each(|(p, n)| not_less(&p.id, "number of parts", n.0))?;
            if of.iter().map(|(_, n)| n.0).sum::<f64>() <= 0.0 {
                return Err(Refused::Amount("all parts are zero: put in at least one part of something".into()));
            }
            film.map_or(Ok(()), |x| not_less(&of[0].0.id, "film", x.0))
        }
        Layer::Wash { of } => of.iter().try_for_each(|(p, x)| not_less(&p.id, "thickness", x.0)),
        Layer::Ink { of, .. } => of.iter().try_for_each(|(p, d)| not_less(&p.id, "dose", d.0)),
        Layer::Pencil { of, pressure } => {
            if (0.0..=1.0).contains(&pressure.0) {
                Ok(())
            } else {
                Err(Refused::Amount(format!("{} is no pressure of \"{}\": it lies between 0 and 1", pressure.0, of.id)))
            }
        }
        Layer::Pastel { of, mass, rubbing } => {
            of.iter().try_for_each(|(p, n)| not_less(&p.id, "number of parts", n.0))?;
            if of.iter().map(|(_, n)| n.0).sum::<f64>() <= 0.0 {
                return Err(Refused::Amount("all parts are zero: a stick holds some pigment".into()));
            }
            not_less(&of[0].0.id, "mass", mass.0)?;
            if (0.0..=1.0).contains(&rubbing.0) {
                Ok(())
            } else {
                Err(Refused::Amount(format!("a rubbing of {}: it lies between 0 (crisp) and 1", rubbing.0)))
            }
        }
        Layer::Lifting | Layer::Blender | Layer::Burnishing => Ok(()),
    }
}

/// How the uppermost surface reflects.
#[derive(Clone, Copy, Debug, PartialEq)]
enum Top {
    /// Nothing was laid: the ground under its plain veil.
    Bare,
    /// Light crosses it as at a film of paint, of wax, of dust or of water, or at matte paper.
    Surface(SurfaceOptics),
    /// Paper for the most part, body colour for this share; both dry or both wet.
    PaperToBody { share: f64, state: State },
}

impl Top {
    fn outside(&self, inside: f64, choices: &Choices) -> f64 {
        let veiled = |v: f64, r: f64| v + (1.0 - v) * r;
        match self {
            Self::Bare => veiled(choices.paper_veil, inside),
            Self::Surface(s) => s.outside(inside),
            Self::PaperToBody { share, state } => {
                let (paper, body) = match state {
                    State::Dry => {
                        let lean = (1.0 - choices.gouache_loss) * choices.gouache.outside(inside);
                        (choices.paper.outside(inside), veiled(choices.gouache_veil, lean))
                    }
                    State::Wet => (choices.wet_paper().outside(inside), choices.water.outside(inside)),
                };
                (1.0 - share) * paper + share * body
            }
        }
    }
}

/// A layering half way: what lies there so far, seen from inside the uppermost surface.
struct Building<'c> {
    ground: &'c Ground,
    choices: &'c Choices,
    state: State,
    inside: [f64; BANDS],
    top: Top,
    remarks: Vec<String>,
}

impl<'c> Building<'c> {
    fn on(ground: &'c Ground, state: State, choices: &'c Choices) -> Self {
        Self { ground, choices, state, inside: ground.inside.0, top: Top::Bare, remarks: Vec::new() }
    }

    /// Goes on under another surface: what lies there is seen through it as it was seen before.
    fn enter(&mut self, surface: SurfaceOptics) {
        let (top, choices) = (self.top, self.choices);
        self.inside = self.inside.map(|r| surface.inside(top.outside(r, choices)));
        self.top = Top::Surface(surface);
    }

    /// Lays a run of one medium.
    fn lay(&mut self, run: &[&Layer]) -> Result<(), Refused> {
        let Some(first) = run.first() else { return Ok(()) };
        match family(first) {
            Family::Paint => run.iter().try_for_each(|l| paint::lay(self, l)),
            Family::Wash => wash::lay(self, run),
            Family::Ink => ink::lay(self, run),
            Family::Pencil => pencil::lay(self, run),
            Family::Pastel => pastel::lay(self, run),
        }
    }

    fn remark(&mut self, text: String) {
        if !self.remarks.contains(&text) {
            self.remarks.push(text);
        }
    }

    fn seen(self) -> Laid {
        let reflectance = Reflectance(self.inside.map(|r| self.top.outside(r, self.choices).clamp(0.0, 1.0)));
        Laid { reflectance, state: self.state, remarks: self.remarks }
    }
}

/// Absorption and scattering per band.
type Bands = [f64; BANDS];

/// Sums of K and S over `of`, each times its amount.
fn weighed<A>(of: &[(&Pigment, A)], amount: impl Fn(&A) -> f64) -> (Bands, Bands) {
    let sum = |band: fn(&Pigment) -> &Vec<f64>| std::array::from_fn(|i| of.iter().map(|(p, a)| band(p)[i] * amount(a)).sum());
    (sum(|p| &p.k), sum(|p| &p.s))
}
