//! Soft pastel: sticks light, full or heavy, crisp or rubbed, over the tone of the ground.

use super::{Act, Form, Laying, MASSES, place_of};
use crate::choices::Choices;
use crate::ground::Ground;
use crate::pigment::Pigment;
use crate::rows::{PADDED_BANDS, Real, Row, Spectra, crossed, masstone, outside, padded};

/// Tooth that fills while strokes are laid.
pub(super) struct Tooth {
    holds: f64,
    slips_off: f64,
    there: f64,
    last: Option<usize>,
}

impl Tooth {
    pub(super) fn of(ground: &Ground, choices: &Choices) -> Self {
        Self { holds: ground.pastel_mass, slips_off: choices.pastel.slips_off, there: 0.0, last: None }
    }

    /// The mass that stays of a stroke with the stick in a place: over other sticks some slips off where the tooth is full; on itself it packs.
    pub(super) fn takes(&mut self, place: usize, mass: f64) -> f64 {
        let own = self.last == Some(place);
        let kept = if own { 1.0 } else { 1.0 - self.slips_off * self.there / self.holds };
        let stays = (mass * kept).min(self.holds - self.there);
        self.there += stays;
        self.last = Some(place);
        stays
    }
}

/// Whether every stroke finds room for at least half of it.
pub(super) fn fits(ground: &Ground, form: &Form) -> bool {
    let mut tooth = Tooth::of(ground, &Choices::default());
    form.layings().iter().all(|l| {
        let mass = MASSES[usize::from(l.amount) - 1];
        (0..l.times).all(|_| tooth.takes(place_of(l), mass) >= 0.5 * mass)
    })
}

/// The dust of each stick, and each stick laid on bare ground.
pub(super) struct Sticks<T> {
    ground: Row<T>,
    bare: Row<T>,
    choices: Choices,
    /// What the tooth holds and how it fills.
    tooth: (f64, f64),
    dust: Vec<Spectra<T>>,
    crisp: Vec<Row<T>>,
}

impl<T: Real> Sticks<T> {
    pub(super) fn of(pigments: &[&Pigment], ground: &Ground, choices: &Choices) -> Self {
        let c = choices.pastel;
        let dust = |p: &&Pigment| {
            let (k, s) = c.dust(p);
            Spectra { k: padded(&k), s: padded(&s) }
        };
        let dust: Vec<Spectra<T>> = pigments.iter().map(dust).collect();
        Self {
            ground: padded(&ground.under(c.surface).0),
            bare: padded(&ground.seen().0),
            choices: *choices,
            tooth: (ground.pastel_mass, c.slips_off),
            crisp: dust.iter().map(masstone).collect(),
            dust,
        }
    }

    pub(super) fn bare(&self) -> Row<T> {
        self.bare
    }

    /// `lower` remembers what lies beneath the last stroke: forms that follow each other often share it.
    #[inline(always)]
    pub(super) fn seen(&self, of: &[usize], form: &Form, lower: &mut Lower<T>) -> Row<T> {
        let crisp = form.taking.dust(&self.choices);
        let (last, below) = match form.layings() {
            [below @ .., last] => (last, below),
            [] => return self.bare(),
        };
        if lower.laid.as_slice() != below || lower.crisp != crisp {
            lower.start(self, crisp);
            for l in below {
                lower.dust.lay(self, of[place_of(l)], l, crisp);
                lower.laid.push(*l);
            }
        }
        let mut dust = lower.dust.clone();
        dust.lay(self, of[place_of(last)], last, crisp);
        let surface = self.choices.pastel.pressed(dust.on_itself);
        outside(&dust.inside, |r| crossed(surface, r))
    }
}

/// What lies on the ground so far.
#[derive(Clone)]
struct Dust<T> {
    inside: Row<T>,
    there: Option<Spectra<T>>,
    mass: f64,
    place: Option<usize>,
    on_itself: i32,
}

impl<T: Real> Dust<T> {
    #[inline(always)]
    fn lay(&mut self, sticks: &Sticks<T>, stick: usize, l: &Laying, crisp: f64) {
        let joins = if l.act == Act::Rub { sticks.choices.pastel.rubbed } else { crisp };
        let (holds, slips_off) = sticks.tooth;
        let place = place_of(l);
        for _ in 0..l.times {
            let mut tooth = Tooth { holds, slips_off, there: self.mass, last: self.place };
            let mass = tooth.takes(place, MASSES[usize::from(l.amount) - 1] * l.hand(place));
            self.on_itself = if self.place == Some(place) { self.on_itself + 1 } else { 0 };
            self.place = Some(place);
            let share = T::of(joins * self.mass / (mass + joins * self.mass));
            let laid = match &self.there {
                Some(beneath) => Spectra::weighed([(&sticks.dust[stick], T::of(1.0) - share), (beneath, share)]),
                None => sticks.dust[stick],
            };
            let colour = if self.there.is_some() { masstone(&laid) } else { sticks.crisp[stick] };
            let cover = T::of(1.0 - (-mass).exp());
            for i in 0..PADDED_BANDS {
                self.inside[i] = (T::of(1.0) - cover) * self.inside[i] + cover * colour[i];
            }
            let all = self.mass + mass;
            self.there = Some(match &self.there {
                None => laid,
                Some(beneath) => Spectra::weighed([(beneath, T::of(self.mass / all)), (&laid, T::of(mass / all))]),
            });
            self.mass = all;
        }
    }
}

/// Strokes beneath the last one, and what they left.
pub(super) struct Lower<T> {
    laid: Vec<Laying>,
    crisp: f64,
    dust: Dust<T>,
}

impl<T: Real> Default for Lower<T> {
    fn default() -> Self {
        let dust = Dust { inside: [T::default(); PADDED_BANDS], there: None, mass: 0.0, place: None, on_itself: 0 };
        Self { laid: Vec::new(), crisp: f64::NAN, dust }
    }
}

impl<T: Real> Lower<T> {
    pub(super) fn forget(&mut self) {
        self.crisp = f64::NAN;
    }

    fn start(&mut self, sticks: &Sticks<T>, crisp: f64) {
        self.laid.clear();
        self.crisp = crisp;
        self.dust = Dust { inside: sticks.ground, there: None, mass: 0.0, place: None, on_itself: 0 };
    }
}
