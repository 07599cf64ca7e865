//! Learning pigments from readings.
//!
//! A [`Reading`] is what an instrument, a photo or a typed-in colour says of one swatch, with its state and its noise. A [`Belief`] takes readings of
//! anything laid in any medium and refines all pigments in it together. A reading that the model cannot explain is kept and flagged, not averaged away.

mod belief;
mod evidence;

pub use belief::{Belief, Observation, Stray};
pub use evidence::{Evidence, Judged, Reading};

use thiserror::Error;

/// Why nothing can be learned.
#[derive(Clone, Debug, Error, PartialEq)]
pub enum CannotLearn {
    /// A number is out of range.
    #[error("reading {0}: {1}")]
    Bad(usize, String),
}

/// Checks that readings are numbers of surfaces.
fn sound(readings: &[&Reading]) -> Result<(), CannotLearn> {
    for (i, r) in readings.iter().enumerate() {
        if !(r.noise.is_finite() && r.noise > 0.0) {
            return Err(CannotLearn::Bad(i + 1, format!("a noise of {}: it is a share of light above zero, such as 0.002", r.noise)));
        }
        if let Evidence::Judged(Judged { value_error, colour_error, .. }) = r.of
            && ![value_error, colour_error].iter().all(|e| e.is_finite() && *e > 0.0)
        {
            return Err(CannotLearn::Bad(i + 1, format!("errors of {value_error} and {colour_error}: they are CIELAB units above zero")));
        }
        let seen = r.reflectance();
        if let Some(band) = seen.0.iter().position(|x| !x.is_finite() || *x < -0.02 || *x > 1.2) {
            let nm = lean_colour::spectrum::wavelength(band);
            return Err(CannotLearn::Bad(i + 1, format!("{} at {nm} nm is no reflectance", seen.0[band])));
        }
    }
    Ok(())
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::layering::State;
    use lean_colour::{Lab, Reflectance};

    #[test]
    fn what_is_no_surface_is_refused_in_words() {
        let reading = |of, noise| Reading { of, state: State::Dry, noise };
        let grey = Evidence::ColourOnly(Lab::new(50.0, 0.0, 0.0));
        assert_eq!(sound(&[&reading(grey, 0.01)]), Ok(()));
        let noiseless = sound(&[&reading(grey, 0.01), &reading(grey, 0.0)]).unwrap_err().to_string();
        assert!(noiseless.contains("reading 2") && noiseless.contains("above zero"), "{noiseless}");
        let bright = Evidence::Spectral(Reflectance::flat(7.0));
        assert!(sound(&[&reading(bright, 0.01)]).unwrap_err().to_string().contains("no reflectance"));
    }
}
