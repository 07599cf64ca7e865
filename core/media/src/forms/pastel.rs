//! Soft pastel: up to three sticks, light or full, crisp or rubbed, over the tone of the ground.

use super::{Form, Laying, MASSES, OUTCOMES, layered, outcome, outcomes, place_of};
use crate::choices::Choices;
use crate::ground::Ground;
use crate::rows::{PADDED_BANDS, Real, Row, Spectra, masstone, outside, padded, row, veiled};
use lean_colour::BANDS;
use lean_colour::spectrum::wavelength;

/// Amount of a heavy stroke: only for a stick alone.
const HEAVY: u8 = 3;
const STEPS: usize = MASSES.len();
/// Amount of a full stroke.
const FULL: u8 = 2;

pub fn forms(pigments: usize) -> Vec<Form> {
    let most = if pigments == 1 { HEAVY } else { FULL };
    // A third stick goes over a full first stroke: over a light one it would make a fourth recipe of the same two.
    let keep = |l: &[Laying]| l.len() < 3 || l[0].amount == FULL;
    layered(pigments, most, &[false, true], keep)
}

/// The dust of each stick, and each stick laid crisp.
pub struct Sticks<T> {
    ground: Row<T>,
    veil: f64,
    /// Mass the tooth holds.
    holds: T,
    rubbed: T,
    masses: [T; STEPS * OUTCOMES],
    covers: [T; STEPS * OUTCOMES],
    dust: Vec<Spectra<T>>,
    crisp: Vec<Row<T>>,
}

impl<T: Real> Sticks<T> {
    pub fn of(pigments: &[Spectra<f64>], ground: &Ground, choices: &Choices) -> Self {
        let c = choices.pastel;
        let chalk = |i: usize| c.chalk_s * (wavelength(i.min(BANDS - 1)) / 550.0).powf(c.chalk_slope);
        let dust = |p: &Spectra<f64>| Spectra {
            k: row(|i| T::of((1.0 - c.chalk) * p.k[i] + c.chalk * c.chalk_k)),
            s: row(|i| T::of((1.0 - c.chalk) * c.in_air * p.s[i] + c.chalk * chalk(i))),
        };
        let dust: Vec<Spectra<T>> = pigments.iter().map(dust).collect();
        Self {
            ground: padded(&ground.inside.0),
            veil: c.veil,
            holds: T::of(ground.pastel_mass),
            rubbed: T::of(c.rubbed),
            masses: outcomes(MASSES).map(T::of),
            covers: outcomes(MASSES).map(|m| T::of(1.0 - (-m).exp())),
            crisp: dust.iter().map(masstone).collect(),
            dust,
        }
    }

    pub fn bare(&self, choices: &Choices) -> Row<T> {
        outside(&self.ground, |r| veiled(choices.paper_veil, r))
    }

    #[inline(always)]
    pub fn seen(&self, of: &[usize], form: &Form) -> Row<T> {
        let mut inside = self.ground;
        let mut there: Option<(T, Spectra<T>)> = None;
        let layers = form.layers();
        let erring = layers.iter().any(|l| l.slip.is_some());
        let mut laid_so_far = T::of(0.0);
        for (n, l) in layers.iter().enumerate() {
            let (stick, step) = (of[place_of(l)], outcome::<STEPS>(l));
            let (mut mass, mut cover) = (self.masses[step], self.covers[step]);
            let room = self.holds - laid_so_far;
            // Only where the hand slips is more laid than the tooth holds.
            if erring {
                if mass > room {
                    mass = room;
                    cover = T::of(1.0) - (T::of(0.0) - mass).exponential();
                }
                laid_so_far = laid_so_far + mass;
            }
            let mut laid = self.dust[stick];
            let mut colour = self.crisp[stick];
            if let Some((before, beneath)) = there.as_ref().filter(|_| l.rubbed) {
                let joins = self.rubbed * *before / (mass + self.rubbed * *before);
                laid = Spectra::weighed([(&laid, T::of(1.0) - joins), (beneath, joins)]);
                colour = masstone(&laid);
            }
            for i in 0..PADDED_BANDS {
                inside[i] = (T::of(1.0) - cover) * inside[i] + cover * colour[i];
            }
            // What lies there is only asked for by a later rubbed stroke.
            if layers[n + 1..].iter().any(|later| later.rubbed) {
                there = Some(match there {
                    None => (mass, laid),
                    Some((before, beneath)) => {
                        let all = before + mass;
                        (all, Spectra::weighed([(&beneath, before / all), (&laid, mass / all)]))
                    }
                });
            }
        }
        outside(&inside, |r| veiled(self.veil, r))
    }
}
