//! Coloured pencil: up to three pencils in order, each laid light, middle or firm.

use super::{Form, PRESSURES, layered, place_of};
use crate::choices::Choices;
use crate::ground::Ground;
use crate::rows::{Film, PADDED_BANDS, Real, Row, Spectra, padded};

pub fn forms(pigments: usize) -> Vec<Form> {
    layered(pigments, PRESSURES.len() as u8, &[false], |_| true)
}

/// Films of each pencil at each pressure.
pub struct Pencils<T> {
    paper: Row<T>,
    spread: T,
    narrow: T,
    covers: [T; PRESSURES.len()],
    films: Vec<[Film<T>; PRESSURES.len()]>,
}

impl<T: Real> Pencils<T> {
    pub fn of(pencils: &[Spectra<T>], ground: &Ground, choices: &Choices) -> Self {
        let c = choices.pencil;
        Self {
            paper: padded(&ground.inside.0),
            spread: T::of(c.spread),
            narrow: T::of(1.0 / c.spread),
            covers: PRESSURES.map(|p| T::of(c.most_cover * (1.0 - (-c.cover_rate * p).exp()))),
            films: pencils.iter().map(|p| PRESSURES.map(|pressure| Film::of(p, T::of(c.film * pressure)))).collect(),
        }
    }

    /// Bare paper, unlike between strokes, has its veil.
    pub fn bare(&self, choices: &Choices) -> Row<T> {
        crate::rows::outside(&self.paper, |r| crate::rows::veiled(choices.paper_veil, r))
    }

    #[inline(always)]
    pub fn seen(&self, of: &[usize], form: &Form) -> Row<T> {
        let layers = form.layers();
        let mut sum = [T::default(); PADDED_BANDS];
        for state in 0..1usize << layers.len() {
            let mut area = T::of(1.0);
            let mut there = self.paper;
            for (n, l) in layers.iter().enumerate() {
                let step = usize::from(l.amount) - 1;
                let cover = self.covers[step];
                if state >> n & 1 == 1 {
                    area = area * cover;
                    there = self.films[of[place_of(l)]][step].over(&there);
                } else {
                    area = area * (T::of(1.0) - cover);
                }
            }
            for i in 0..PADDED_BANDS {
                sum[i] = sum[i] + area * there[i].power(self.narrow);
            }
        }
        sum.map(|r| r.power(self.spread))
    }
}
