//! At the easel: how a piece is carried out, as far as the painter decided or did it.

mod departure;
mod ending;
mod photo;
mod task;

pub use departure::{Departure, DepartureKind, Extent, MOST_DEPARTURES};
pub use ending::{Ending, Outcome};
pub use photo::{Corners, MOST_PHOTOS, ProgressPhoto};
pub use task::{Done, Order, Stage, TaskId};

use crate::zones::ZoneId;
use lean_media::PigmentId;
use serde::{Deserialize, Serialize};

/// What the preliminary drawing is made with.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum DrawnWith {
    /// A hard pencil.
    #[default]
    Pencil,
    /// Charcoal, dusted off before paint.
    Charcoal,
    /// A thin brush in a colour of the set.
    Brush,
    /// No drawing: shapes are laid straight away.
    Nothing,
}

/// The preliminary drawing.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
#[serde(default)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PreliminaryDrawing {
    /// With what.
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub with: DrawnWith,
    /// It belongs to the picture; otherwise it vanishes under the paint.
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub belongs: bool,
    /// It is made over the lay-in instead of under it.
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub after_lay_in: bool,
}

/// How much of a lay-in lies in a zone.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Level {
    /// Which zone.
    pub zone: ZoneId,
    /// 1 light, 2 middle, 3 full.
    #[cfg_attr(feature = "schema", schema(minimum = 1, maximum = 3))]
    pub level: u8,
}

/// One pigment laid thin under everything in a few levels: a plan of the values before the colours.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct LayIn {
    /// Which pigment of the set.
    pub pigment: PigmentId,
    /// How much lies in each zone. Zones that are not named stay bare.
    pub levels: Vec<Level>,
}

/// A thin film over all of the finished piece.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Glaze {
    /// Which pigment of the set.
    pub pigment: PigmentId,
    /// How strong: 0.02 a breath to 1 a full film.
    #[cfg_attr(feature = "schema", schema(minimum = 0.02, maximum = 1))]
    pub strength: f64,
}

/// What guards the finished surface.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Guard {
    /// Nothing.
    #[default]
    Nothing,
    /// Fixative.
    Fixative,
    /// Varnish.
    Varnish,
}

/// The air paint dries in.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Air {
    /// Degrees Celsius, 5..=40.
    #[cfg_attr(feature = "schema", schema(minimum = 5, maximum = 40))]
    pub warmth: f64,
    /// Relative humidity in per cent, 10..=95.
    #[cfg_attr(feature = "schema", schema(minimum = 10, maximum = 95))]
    pub damp: f64,
}

impl Default for Air {
    /// A room in which tables of drying are written.
    fn default() -> Self {
        Self { warmth: 20.0, damp: 50.0 }
    }
}

/// When there is time for the piece.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Hours {
    /// Minutes of one session, 15..=720.
    #[cfg_attr(feature = "schema", schema(minimum = 15, maximum = 720))]
    pub session: u32,
    /// Days from one session to the next, 1..=30.
    #[cfg_attr(feature = "schema", schema(minimum = 1, maximum = 30))]
    pub every_days: u32,
    /// Whether the order of tones that the school asks for may be left where that is quicker.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub quicker: bool,
}

impl Default for Hours {
    fn default() -> Self {
        Self { session: 120, every_days: 1, quicker: false }
    }
}

/// How a piece is carried out.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize)]
#[serde(default)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Easel {
    /// The preliminary drawing.
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub drawing: PreliminaryDrawing,
    /// The pigment the ground is toned with, thin; none when it stays as it is.
    pub tone: Option<PigmentId>,
    /// The value lay-in; none without one.
    pub lay_in: Option<LayIn>,
    /// The unifying glaze; none unless it is dared.
    pub glaze: Option<Glaze>,
    /// What guards the surface in the end.
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub guard: Guard,
    /// Whether it was decided to burnish.
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub burnish: bool,
    /// The painter works with the left hand.
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub left_handed: bool,
    /// The air it dries in.
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub air: Air,
    /// When there is time for it.
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub hours: Hours,
    /// Where the painter changed the order.
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub orders: Vec<Order>,
    /// Left out.
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub skipped: Vec<TaskId>,
    /// What is done.
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub done: Vec<Done>,
    /// Where the painting went its own way.
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub departures: Vec<Departure>,
    /// Photos of the piece on its way, oldest first.
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub photos: Vec<ProgressPhoto>,
    /// How it came out; none while it is worked on.
    pub ending: Option<Ending>,
}

/// Most changes of order and most tasks done or left out that are kept.
const MOST_KEPT: usize = 2000;

impl Easel {
    /// Says what is out of range.
    ///
    /// # Errors
    /// Names what is wrong and what to do.
    pub fn check(&self) -> Result<(), String> {
        let Air { warmth, damp } = self.air;
        if !(5.0..=40.0).contains(&warmth) || !(10.0..=95.0).contains(&damp) {
            return Err(format!("Air of {warmth} °C and {damp} % damp is out of range: 5 to 40 °C, 10 to 95 %."));
        }
        if !(15..=720).contains(&self.hours.session) {
            return Err(format!("A session of {} minutes is out of range; it may be 15 to 720.", self.hours.session));
        }
        if !(1..=30).contains(&self.hours.every_days) {
            return Err(format!("A session every {} days is out of range; it may be every 1 to 30.", self.hours.every_days));
        }
        if let Some(g) = self.glaze.as_ref().filter(|g| !(0.02..=1.0).contains(&g.strength)) {
            return Err(format!("A glaze of strength {} is out of range: from 0.02, a breath, to 1, a full film.", g.strength));
        }
        if self.lay_in.as_ref().is_some_and(|l| l.levels.iter().any(|l| !(1..=3).contains(&l.level))) {
            return Err("A lay-in has three levels, 1 light to 3 full.".into());
        }
        if self.orders.len() + self.skipped.len() + self.done.len() > MOST_KEPT {
            return Err("More is kept of this piece at the easel than fits. Take some of the orders back.".into());
        }
        if self.departures.len() > MOST_DEPARTURES {
            return Err(format!("{MOST_DEPARTURES} departures are kept for one piece. Take one back first."));
        }
        if self.photos.len() > MOST_PHOTOS {
            return Err(format!("{MOST_PHOTOS} photos of its progress are kept with one piece. Take one off first."));
        }
        self.ending.iter().try_for_each(Ending::check)?;
        self.departures.iter().try_for_each(Departure::check)?;
        self.done.iter().try_for_each(Done::check)?;
        self.photos.iter().try_for_each(ProgressPhoto::check)
    }

    /// Whether a task is done.
    pub fn is_done(&self, task: TaskId) -> bool {
        self.done.iter().any(|d| d.task == task)
    }

    /// The level of the lay-in in a zone; 0 where it stays bare.
    pub fn level_of(&self, zone: ZoneId) -> u8 {
        self.lay_in.as_ref().and_then(|l| l.levels.iter().find(|l| l.zone == zone)).map_or(0, |l| l.level)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn numbers_out_of_range_are_named() {
        let ok = Easel::default();
        assert_eq!(ok.check(), Ok(()));
        let air = |warmth, damp| Easel { air: Air { warmth, damp }, ..ok.clone() };
        assert!(air(60.0, 50.0).check().unwrap_err().contains("60 °C"));
        assert!(air(20.0, f64::NAN).check().is_err());
        let hours = |session, every_days| Easel { hours: Hours { session, every_days, quicker: false }, ..ok.clone() };
        assert!(hours(5, 1).check().unwrap_err().contains("5 minutes"));
        assert!(hours(60, 0).check().unwrap_err().contains("every 0 days"));
        let glaze = |strength| Easel { glaze: Some(Glaze { pigment: "ochre".into(), strength }), ..ok.clone() };
        assert!(glaze(0.0).check().is_err() && glaze(0.1).check().is_ok());
        let level =
            Easel { lay_in: Some(LayIn { pigment: "ochre".into(), levels: vec![Level { zone: ZoneId(1), level: 4 }] }), ..ok.clone() };
        assert!(level.check().is_err());
    }
}
