//! A colour meter: 36 bands from 380 to 730 nm.

use crate::chance::Chance;
use crate::world::{TILE, World};
use lean_colour::{BANDS, Reflectance};
use thiserror::Error;

/// Why there is no reading, and what to do.
#[derive(Clone, Debug, Error, PartialEq, Eq)]
pub enum Refused {
    /// The cable is out.
    #[error("The meter was unplugged. Plug it in, then calibrate it on its white tile.")]
    Unplugged,
    /// The cable came out while it read.
    #[error("The meter was unplugged while it read, so that reading is lost. Plug it in, calibrate it on its white tile and read again.")]
    LostMidway,
    /// Another program holds it.
    #[error("The meter is busy with another program. Close that, or wait until it has finished, and read again.")]
    Busy,
    /// Never calibrated, or too long ago.
    #[error("The meter has drifted since it was calibrated. Set it on its white tile and calibrate it.")]
    OutOfCalibration,
    /// What lay there while calibrating was no white tile.
    #[error("That is not the white tile. Lay the tile under the head and calibrate again.")]
    NotTheTile,
}

/// What a meter says of itself.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct MeterState {
    /// Whether it answers.
    pub plugged: bool,
    /// Seconds until it is warm; readings before that drift more. 0 when it is.
    pub warm_in: u32,
    /// Readings left before it has to be calibrated again; 0 when it has to be now.
    pub calibrated_for: u32,
}

/// A colour meter, real or simulated.
pub trait ColourMeter {
    /// What it says of itself.
    fn state(&self) -> MeterState;

    /// Calibrates it on its white tile.
    ///
    /// # Errors
    /// See [`Refused`].
    fn calibrate(&mut self) -> Result<(), Refused>;

    /// Reads what lies under its head: reflectance in 36 bands.
    ///
    /// # Errors
    /// See [`Refused`].
    fn read(&mut self) -> Result<Reflectance, Refused>;
}

/// Noise of one reading, one standard deviation as a share of light.
pub(crate) const NOISE: f64 = 0.002;
/// How much its lamp drifts from reading to reading, cold and warm.
const DRIFT: (f64, f64) = (0.004, 0.0004);
/// Readings until it is warm, seconds each takes, and readings a calibration lasts.
const WARM_AFTER: u32 = 4;
const SECONDS: u32 = 15;
const LASTS: u32 = 40;

/// A simulated meter over a world.
#[derive(Clone, Debug)]
pub struct SimulatedMeter {
    /// What lies under it.
    pub world: World,
    chance: Chance,
    taken: u32,
    since: Option<u32>,
    /// The light of its lamp now, and what it was when it was calibrated.
    lamp: f64,
    calibrated: f64,
    /// The cable comes out during the reading after so many more.
    pub fails_in: Option<u32>,
}

impl SimulatedMeter {
    /// A meter just switched on.
    pub fn seeded(seed: u64) -> Self {
        let mut chance = Chance::seeded(seed);
        let lamp = 1.0 + 0.05 * chance.normal();
        Self { world: World::default(), chance, taken: 0, since: None, lamp, calibrated: 1.0, fails_in: None }
    }

    fn raw(&mut self) -> Result<[f64; BANDS], Refused> {
        if self.world.unplugged {
            self.since = None;
            return Err(Refused::Unplugged);
        }
        if self.world.busy {
            return Err(Refused::Busy);
        }
        self.taken += 1;
        let drift = if self.taken <= WARM_AFTER { DRIFT.0 } else { DRIFT.1 };
        self.lamp += drift * self.chance.normal();
        if let Some(left) = self.fails_in.as_mut() {
            if *left == 0 {
                (self.fails_in, self.since, self.world.unplugged) = (None, None, true);
                return Err(Refused::LostMidway);
            }
            *left -= 1;
        }
        let seen = self.world.seen();
        Ok(std::array::from_fn(|i| (self.lamp * seen.0[i] + NOISE * self.chance.normal()).max(0.0)))
    }
}

impl ColourMeter for SimulatedMeter {
    fn state(&self) -> MeterState {
        MeterState {
            plugged: !self.world.unplugged,
            warm_in: WARM_AFTER.saturating_sub(self.taken) * SECONDS,
            calibrated_for: self.since.map_or(0, |at| LASTS.saturating_sub(self.taken - at)),
        }
    }

    fn calibrate(&mut self) -> Result<(), Refused> {
        let raw = self.raw()?;
        let mean = raw.iter().sum::<f64>() / BANDS as f64;
        let even = raw.iter().all(|r| (r / mean - 1.0).abs() < 0.03);
        if !even || !(0.75..1.25).contains(&(mean / TILE)) {
            return Err(Refused::NotTheTile);
        }
        self.calibrated = mean / TILE;
        self.since = Some(self.taken);
        Ok(())
    }

    fn read(&mut self) -> Result<Reflectance, Refused> {
        if !self.world.unplugged && !self.world.busy && self.state().calibrated_for == 0 {
            return Err(Refused::OutOfCalibration);
        }
        let raw = self.raw()?;
        Ok(Reflectance(raw.map(|r| (r / self.calibrated).clamp(0.0, 1.1))))
    }
}
