//! Pigments of a medium on a ground, ready for any form.

use super::Form;
use super::ink::Pens;
use super::pastel::Sticks;
use super::pencil::{Lower, Pencils};
use super::wash::Pans;
use crate::choices::Choices;
use crate::ground::Ground;
use crate::lanes::{Colours, LANES, seen};
use crate::medium::Medium;
use crate::pigment::Pigment;
use crate::rows::{Real, Row, Spectra, Weights, lab};
use lean_colour::{D65, Lab};

enum Kind<T> {
    Pans(Pans<T>),
    Pens(Pens<T>),
    Pencils(Pencils<T>),
    Sticks(Sticks<T>),
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
        let thinned = |p: &&Pigment| Spectra::<f64>::of(p).times(super::thinned(medium, p));
        let wide: Vec<Spectra<f64>> = pigments.iter().map(thinned).collect();
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
                let pencils = Pencils::of(&own(), ground, &choices);
                let bare = pencils.bare(&choices);
                (Kind::Pencils(pencils), bare)
            }
            Medium::SoftPastel => {
                let sticks = Sticks::of(&wide, ground, &choices);
                let bare = sticks.bare(&choices);
                (Kind::Sticks(sticks), bare)
            }
        };
        Some(Self { kind, weights: Weights::default(), bare })
    }

    #[inline(always)]
    fn relative(&self, of: &[usize], form: &Form, lower: &mut Lower<T>) -> [T; 3] {
        let seen = match &self.kind {
            Kind::Pans(k) => k.seen(of, form),
            Kind::Pens(k) => k.seen(of, form),
            Kind::Pencils(k) => k.seen(of, form, lower),
            Kind::Sticks(k) => k.seen(of, form),
        };
        self.weights.seen(&seen)
    }
}

impl Prepared<f64> {
    /// The colour of one form of these pigments.
    pub fn colour(&self, of: &[usize], form: &Form) -> Lab<D65> {
        lab(self.relative(of, form, &mut Lower::default()))
    }

    /// The colours of these forms of these pigments, in their order.
    pub fn colours_of(&self, of: &[usize], forms: &[Form]) -> Vec<Lab<D65>> {
        let mut lower = Lower::default();
        forms.iter().map(|form| lab(self.relative(of, form, &mut lower))).collect()
    }

    /// The ground left bare.
    pub fn bare(&self) -> Lab<D65> {
        lab(self.weights.seen(&self.bare))
    }
}

impl Prepared<f32> {
    /// The colours of these forms of these pigments, eight at a time; the last eight are filled up with the last form.
    pub fn colours(&self, of: &[usize], forms: &[Form], out: &mut Vec<Colours>) {
        #[cfg(target_arch = "x86_64")]
        if is_x86_feature_detected!("avx2") && is_x86_feature_detected!("fma") {
            // SAFETY: the two features were just found on this processor.
            return unsafe { self.colours_wide(of, forms, out) };
        }
        self.colours_plain(of, forms, out);
    }

    #[cfg(target_arch = "x86_64")]
    #[target_feature(enable = "avx2,fma")]
    fn colours_wide(&self, of: &[usize], forms: &[Form], out: &mut Vec<Colours>) {
        self.colours_plain(of, forms, out);
    }

    #[inline(always)]
    fn colours_plain(&self, of: &[usize], forms: &[Form], out: &mut Vec<Colours>) {
        let mut lower = Lower::default();
        for eight in forms.chunks(LANES) {
            let mut sums = [[0.0f32; LANES]; 3];
            for lane in 0..LANES {
                let relative = self.relative(of, &eight[lane.min(eight.len() - 1)], &mut lower);
                for c in 0..3 {
                    sums[c][lane] = relative[c];
                }
                if lane + 1 >= eight.len() {
                    for sum in &mut sums {
                        let last = sum[lane];
                        sum[lane..].fill(last);
                    }
                    break;
                }
            }
            out.push(seen(sums));
        }
    }
}
