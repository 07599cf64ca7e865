//! Watercolour: washes of one or several pans at five strengths, over each other and lifted.

use super::{Act, Form, Laying, MOST_PIGMENTS, OUTCOMES, WASHES, outcome, outcomes};
use crate::choices::Choices;
use crate::film;
use crate::ground::Ground;
use crate::pigment::Pigment;
use crate::rows::{Film, Real, Row, Spectra, outside, padded, row, veiled};
use lean_colour::{BANDS, Reflectance};

/// Thickness of the thickest wash that is followed, paint as it comes. A choice: beyond it paper holds paint rather than a wash.
pub const THICKEST_WASH: f64 = 0.9;
/// How much of the way to its darkest a deepest wash goes: what is beyond costs much paint and is hardly seen. A choice.
const NEARLY_ALL: f64 = 0.95;

/// Thickness of the deepest wash of a pigment that is worth laying: its lightness has come 95 % of the way from white paper to the thickest
/// wash there is. Weak and strong pigments look about equally strong in it.
pub fn deepest_wash(pigment: &Pigment) -> f64 {
    const PAPER: f64 = 0.88;
    let choices = Choices::default();
    let mean: f64 = pigment.k.iter().sum::<f64>() / BANDS as f64;
    let lightness = |x: f64| {
        let veil = choices.paper_veil_under(mean * x);
        Reflectance(std::array::from_fn(|i| veil + (1.0 - veil) * film::over(pigment.k[i], pigment.s[i], x, PAPER))).xyz().lab().l
    };
    let (bare, darkest) = (lightness(0.0), lightness(THICKEST_WASH));
    let wanted = bare - NEARLY_ALL * (bare - darkest);
    let (mut thin, mut thick) = (0.0, THICKEST_WASH);
    // Thirty halvings: to a billionth of a thickness.
    for _ in 0..30 {
        let middle = 0.5 * (thin + thick);
        if lightness(middle) > wanted { thin = middle } else { thick = middle }
    }
    thick
}

/// One wash where pigment has gathered and where it has not.
#[derive(Clone)]
struct Settled<T> {
    thin: Film<T>,
    thick: Film<T>,
}

impl<T: Real> Settled<T> {
    #[inline(always)]
    fn of(spectra: &Spectra<T>, spread: T) -> Self {
        Self { thin: Film::of(spectra, T::of(1.0) - spread), thick: Film::of(spectra, T::of(1.0) + spread) }
    }

    #[inline(always)]
    fn over(&self, ground: &Row<T>) -> Row<T> {
        let (a, b) = (self.thin.over(ground), self.thick.over(ground));
        row(|i| T::of(0.5) * (a[i] + b[i]))
    }
}

/// Washes of each pan alone at each strength, and what is needed for mixed ones.
pub struct Pans<T> {
    paper: Row<T>,
    choices: Choices,
    /// Per thickness.
    pigments: Vec<Spectra<T>>,
    pans: Vec<Pan>,
    alone: Vec<[Settled<T>; WASHES.len() * OUTCOMES]>,
}

/// What else is known of a pan.
struct Pan {
    /// Thickness of its deepest wash.
    deepest: f64,
    /// Absorption in the mean of all bands.
    load: f64,
    /// Spread of its thickness on this paper.
    spread: f64,
    /// What is left of it when it is lifted.
    kept: f64,
}

impl<T: Real> Pans<T> {
    pub fn of(spectra: Vec<Spectra<T>>, pigments: &[&Pigment], ground: &Ground, choices: &Choices) -> Self {
        let wash = choices.wash;
        let pan = |p: &&Pigment| Pan {
            deepest: deepest_wash(p),
            load: p.k.iter().sum::<f64>() / BANDS as f64,
            spread: ground.tooth * if p.granulating { wash.granulation } else { wash.settling },
            kept: 1.0 - if p.staining { wash.lifted_staining } else { wash.lifted_other },
        };
        let pans: Vec<Pan> = pigments.iter().map(pan).collect();
        let alone =
            |(s, pan): (&Spectra<T>, &Pan)| outcomes(WASHES).map(|x: f64| Settled::of(&s.times(T::of(x * pan.deepest)), T::of(pan.spread)));
        let alone = spectra.iter().zip(&pans).map(alone).collect();
        Self { paper: padded(&ground.inside.0), choices: *choices, pigments: spectra, pans, alone }
    }

    pub fn bare(&self) -> Row<T> {
        outside(&self.paper, |r| veiled(self.choices.paper_veil, r))
    }

    /// `made` remembers the mixed washes of this group.
    #[inline(always)]
    pub fn seen(&self, of: &[usize], form: &Form, made: &mut Washes<T>) -> Row<T> {
        let mut inside = self.paper;
        let mut load = 0.0;
        for (n, l) in form.layings().iter().enumerate().filter(|(_, l)| l.adds()) {
            let times = form.layings()[n + 1..].iter().filter(|later| later.act == Act::Lift).count();
            let thickness = self.thickness(of, l, times as i32);
            load += (0..of.len()).map(|place| thickness[place] * self.pans[of[place]].load).sum::<f64>();
            inside = match l.parts.map(usize::from) {
                [n, 0, 0] if n > 0 && times == 0 => self.alone[of[0]][outcome::<{ WASHES.len() }>(l)].over(&inside),
                [0, n, 0] if n > 0 && times == 0 => self.alone[of[1]][outcome::<{ WASHES.len() }>(l)].over(&inside),
                [0, 0, n] if n > 0 && times == 0 => self.alone[of[2]][outcome::<{ WASHES.len() }>(l)].over(&inside),
                _ => {
                    let key = (*l, times);
                    let known = made.0.iter().position(|(k, _)| *k == key);
                    let at = match known {
                        Some(at) => at,
                        None => {
                            made.0.push((key, self.mixed(of, &thickness)));
                            made.0.len() - 1
                        }
                    };
                    made.0[at].1.over(&inside)
                }
            };
        }
        let veil = self.choices.paper_veil_under(load);
        outside(&inside, |r| veiled(veil, r))
    }

    /// Thickness of each place's pigment in a wash that is lifted so many times.
    #[inline(always)]
    fn thickness(&self, of: &[usize], l: &Laying, lifted: i32) -> [f64; MOST_PIGMENTS] {
        let total: f64 = l.parts.iter().map(|n| f64::from(*n)).sum();
        let strength = WASHES[usize::from(l.amount) - 1];
        std::array::from_fn(|place| match of.get(place) {
            Some(pan) if l.parts[place] > 0 => {
                let pan = &self.pans[*pan];
                let kept = if lifted > 0 { pan.kept.powi(lifted) } else { 1.0 };
                pan.deepest * strength * l.hand(place) * f64::from(l.parts[place]) / total * kept
            }
            _ => 0.0,
        })
    }

    #[inline(always)]
    fn mixed(&self, of: &[usize], thickness: &[f64; MOST_PIGMENTS]) -> Settled<T> {
        // Places without a pigment hold the first with nothing of it.
        let at = |place: usize| *of.get(place).unwrap_or(&of[0]);
        let all: f64 = thickness.iter().sum();
        let spread: f64 = (0..MOST_PIGMENTS).map(|place| thickness[place] / all * self.pans[at(place)].spread).sum();
        let spectra = std::array::from_fn::<_, MOST_PIGMENTS, _>(|place| (&self.pigments[at(place)], T::of(thickness[place])));
        Settled::of(&Spectra::weighed(spectra), T::of(spread))
    }
}

/// Mixed and lifted washes of one group that are known already.
pub struct Washes<T>(Vec<((Laying, usize), Settled<T>)>);

impl<T> Default for Washes<T> {
    fn default() -> Self {
        Self(Vec::new())
    }
}

impl<T> Washes<T> {
    pub fn forget(&mut self) {
        self.0.clear();
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::library;

    #[test]
    fn deepest_washes_are_dark_where_the_pigment_is_and_no_thicker_than_is_worth_it() {
        for p in library::modelled().iter().filter(|p| !p.white) {
            assert!((1e-3..=THICKEST_WASH).contains(&deepest_wash(p)), "{}: {}", p.id, deepest_wash(p));
        }
        let deep = |id: &str| deepest_wash(library::find(id).unwrap());
        // A staining blue is let down far more than an earth.
        assert!(deep("PV23") < 0.2 * deep("PBr7-burnt-sienna") && deep("PBk7") < 0.2 * deep("PG23"));
    }
}
