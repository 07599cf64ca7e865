//! Pigments of a medium on a ground, ready for any form.

use super::Form;
use super::ink::Pens;
use super::pastel::{self, Sticks};
use super::pencil::{Overlaps, Pencils};
use super::wash::{Pans, Washes};
use crate::choices::Choices;
use crate::ground::Ground;
use crate::lanes::{Colours, LANES, seen};
use crate::medium::Medium;
use crate::pens::strength_in_a_pen;
use crate::pigment::Pigment;
use crate::rows::{Real, Row, Spectra, Weights, lab};
use lean_colour::{D65, Lab};

enum Kind<T> {
    Pans(Pans<T>),
    Pens(Pens<T>),
    Pencils(Pencils<T>),
    Sticks(Sticks<T>),
}

/// What is remembered from one form of a group to the next: of the same pigments on the same ground alone.
pub struct Memory<T> {
    washes: Washes<T>,
    pencils: Overlaps<T>,
    sticks: pastel::Lower<T>,
}

impl<T: Real> Default for Memory<T> {
    fn default() -> Self {
        Self { washes: Washes::default(), pencils: Overlaps::default(), sticks: pastel::Lower::default() }
    }
}

impl<T: Real> Memory<T> {
    /// Forgets a group.
    pub fn forget(&mut self) {
        self.washes.forget();
        self.pencils.forget();
        self.sticks.forget();
    }
}

/// Pigments on a ground, ready for any [`Form`]; in `f32` for sifting, in `f64` to judge.
pub struct Prepared<T> {
    kind: Kind<T>,
    weights: Weights<T>,
    bare: Row<T>,
}

impl<T: Real> Prepared<T> {
    /// Prepares pigments; forms name them by their place in this list. `None` for a medium that is mixed wet.
    pub fn of(medium: Medium, pigments: &[&Pigment], ground: &Ground) -> Option<Self> {
        let choices = Choices::default();
        let thinned = |p: &Pigment| if medium == Medium::Marker { strength_in_a_pen(p) } else { 1.0 };
        let wide: Vec<Spectra<f64>> = pigments.iter().map(|p| Spectra::<f64>::of(p).times(thinned(p))).collect();
        let own = || wide.iter().map(Spectra::<T>::narrowed).collect::<Vec<_>>();
        let (kind, bare) = match medium {
            Medium::Oil => return None,
            Medium::Watercolour => {
                let pans = Pans::of(own(), pigments, ground, &choices);
                let bare = pans.bare();
                (Kind::Pans(pans), bare)
            }
            Medium::Marker => {
                let pens = Pens::of(&wide, ground, &choices);
                let bare = pens.bare();
                (Kind::Pens(pens), bare)
            }
            Medium::Pencil => {
                let pencils = Pencils::of(pigments, ground, &choices);
                let bare = pencils.bare();
                (Kind::Pencils(pencils), bare)
            }
            Medium::SoftPastel => {
                let sticks = Sticks::of(pigments, ground, &choices);
                let bare = sticks.bare();
                (Kind::Sticks(sticks), bare)
            }
        };
        Some(Self { kind, weights: Weights::default(), bare })
    }

    #[inline(always)]
    fn relative(&self, of: &[usize], form: &Form, memory: &mut Memory<T>) -> [T; 3] {
        let seen = match &self.kind {
            Kind::Pans(k) => k.seen(of, form, &mut memory.washes),
            Kind::Pens(k) => k.seen(of, form),
            Kind::Pencils(k) => k.seen(of, form, &mut memory.pencils),
            Kind::Sticks(k) => k.seen(of, form, &mut memory.sticks),
        };
        self.weights.seen(&seen)
    }
}

impl Prepared<f64> {
    /// The colour of one form of these pigments.
    pub fn colour(&self, of: &[usize], form: &Form) -> Lab<D65> {
        lab(self.relative(of, form, &mut Memory::default()))
    }

    /// The colours of these forms of these pigments, in their order.
    pub fn colours_of(&self, of: &[usize], forms: &[Form]) -> Vec<Lab<D65>> {
        let mut memory = Memory::default();
        forms.iter().map(|form| lab(self.relative(of, form, &mut memory))).collect()
    }

    /// The ground left bare.
    pub fn bare(&self) -> Lab<D65> {
        lab(self.weights.seen(&self.bare))
    }
}

impl Prepared<f32> {
    /// The colours of these forms of these pigments, eight at a time; the last eight are filled up with the last form. `memory` is of these pigments.
    pub fn colours<'f>(
        &self,
        of: &[usize],
        forms: impl ExactSizeIterator<Item = &'f Form>,
        memory: &mut Memory<f32>,
        out: &mut Vec<Colours>,
    ) {
        let mut sums = [[0.0f32; LANES]; 3];
        let count = forms.len();
        for (n, form) in forms.enumerate() {
            let relative = self.relative_quickly(of, form, memory);
            (0..3).for_each(|c| sums[c][n % LANES] = relative[c]);
            if n % LANES == LANES - 1 || n + 1 == count {
                for sum in &mut sums {
                    let last = sum[n % LANES];
                    sum[n % LANES..].fill(last);
                }
                out.push(seen(sums));
            }
        }
    }

    fn relative_quickly(&self, of: &[usize], form: &Form, memory: &mut Memory<f32>) -> [f32; 3] {
        #[cfg(target_arch = "x86_64")]
        if is_x86_feature_detected!("avx2") && is_x86_feature_detected!("fma") {
            // SAFETY: the two features were just found on this processor.
            return unsafe { self.relative_wide(of, form, memory) };
        }
        self.relative(of, form, memory)
    }

    #[cfg(target_arch = "x86_64")]
    #[target_feature(enable = "avx2,fma")]
    fn relative_wide(&self, of: &[usize], form: &Form, memory: &mut Memory<f32>) -> [f32; 3] {
        self.relative(of, form, memory)
    }
}
