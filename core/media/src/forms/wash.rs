//! Watercolour: washes of one or several pans at five strengths, over each other and lifted.

use super::{Act, Form, Laying, MOST_PIGMENTS, OUTCOMES, STRENGTHS, outcome, outcomes};
use crate::choices::{Choices, Dulling};
use crate::film;
use crate::ground::Ground;
use crate::pigment::Pigment;
use crate::rows::{Film, Real, Row, Spectra, crossed, outside, padded, row};
use lean_colour::{D65, Lab, Reflectance};

/// Thickness of the thickest wash that is followed, paint as it comes. A choice: beyond it paper holds paint rather than a wash.
pub const THICKEST_WASH: f64 = 0.9;
/// How much of the way to its darkest a deepest wash goes: what is beyond costs much paint and is hardly seen. A choice.
const NEARLY_ALL: f64 = 0.95;

/// Least thickness of a wash: that of a white, which changes white paper by nothing.
const LEAST_WASH: f64 = 1e-6;
/// How far a faint wash stands out from white paper, in CIELAB: just enough to be seen as a colour. A choice.
const FAINT: f64 = 6.0;

/// What an even wash of thickness `x` is seen as on white paper.
fn on_paper(pigment: &Pigment, luminous: f64, x: f64, choices: &Choices) -> Lab<D65> {
    const PAPER: f64 = 0.88;
    let inside = choices.paper.inside(PAPER);
    let grey = choices.dulling.grey(luminous * x);
    let band = |i: usize| choices.paper.outside(film::over(pigment.k[i] * x + grey, pigment.s[i] * x, 1.0, inside));
    Reflectance(std::array::from_fn(band)).xyz().lab()
}

/// The thickness at which `reached` becomes true, between none and `thick`: to a part in 10¹³, for the faintest washes are thin.
fn thickness_where(thick: f64, reached: impl Fn(f64) -> bool) -> f64 {
    let (mut thin, mut thick) = (0.0, thick);
    for _ in 0..45 {
        let middle = 0.5 * (thin + thick);
        if reached(middle) { thick = middle } else { thin = middle }
    }
    thick
}

/// Thickness of the deepest wash of a pigment that is worth laying: its lightness has come 95 % of the way from white paper to the thickest
/// wash there is. Weak and strong pigments look about equally strong in it.
pub fn deepest_wash(pigment: &Pigment) -> f64 {
    let (choices, luminous) = (Choices::default(), Dulling::depth(&pigment.k));
    let lightness = |x: f64| on_paper(pigment, luminous, x, &choices).l;
    let (bare, darkest) = (lightness(0.0), lightness(THICKEST_WASH));
    let wanted = bare - NEARLY_ALL * (bare - darkest);
    thickness_where(THICKEST_WASH, |x| x > 0.0 && lightness(x) <= wanted).max(LEAST_WASH)
}

/// Thickness of a faint, thin, middle, strong and deep wash of a pigment: from what can just be seen to its [deepest](deepest_wash), each the same
/// number of times the one before, so that washes of one strength look about equally strong whatever the pigment.
pub fn washes(pigment: &Pigment) -> [f64; STRENGTHS] {
    let (choices, luminous, deepest) = (Choices::default(), Dulling::depth(&pigment.k), deepest_wash(pigment));
    let bare = on_paper(pigment, luminous, 0.0, &choices);
    let apart = |c: Lab<D65>| (c.l - bare.l).hypot(c.a - bare.a).hypot(c.b - bare.b);
    let faint = thickness_where(deepest, |x| apart(on_paper(pigment, luminous, x, &choices)) >= FAINT);
    let last = (STRENGTHS - 1) as f64;
    std::array::from_fn(|step| deepest * (faint / deepest).powf((last - step as f64) / last))
}

/// One wash where pigment has gathered and where it has not.
#[derive(Clone)]
struct Settled<T> {
    thin: Film<T>,
    thick: Film<T>,
}

impl<T: Real> Settled<T> {
    /// A wash of these sums of K·X and S·X, and of this luminous depth.
    #[inline(always)]
    fn of(spectra: &Spectra<T>, depth: f64, dulling: Dulling, spread: T) -> Self {
        let grey = T::of(dulling.grey(depth));
        let spectra = &Spectra { k: spectra.k.map(|k| k + grey), s: spectra.s };
        Self { thin: Film::of(spectra, T::of(1.0) - spread), thick: Film::of(spectra, T::of(1.0) + spread) }
    }

    #[inline(always)]
    fn over(&self, ground: &Row<T>) -> Row<T> {
        let (a, b) = (self.thin.over(ground), self.thick.over(ground));
        row(|i| T::of(0.5) * (a[i] + b[i]))
    }
}

/// Washes of each pan alone at each strength, and what is needed for mixed ones.
pub(super) struct Pans<T> {
    paper: Row<T>,
    bare: Row<T>,
    choices: Choices,
    /// Per thickness.
    pigments: Vec<Spectra<T>>,
    pans: Vec<Pan>,
    alone: Vec<[Settled<T>; STRENGTHS * OUTCOMES]>,
}

/// What else is known of a pan.
struct Pan {
    /// Thickness of its wash of each strength.
    washes: [f64; STRENGTHS],
    /// Luminous depth at a thickness of one.
    luminous: f64,
    /// Spread of its thickness on this paper.
    spread: f64,
    /// What is left of it when it is lifted.
    kept: f64,
}

impl<T: Real> Pans<T> {
    pub(super) fn of(spectra: Vec<Spectra<T>>, pigments: &[&Pigment], ground: &Ground, choices: &Choices) -> Self {
        let wash = choices.wash;
        let pan = |p: &&Pigment| Pan {
            washes: washes(p),
            luminous: Dulling::depth(&p.k),
            spread: ground.tooth * if p.granulating { wash.granulation } else { wash.settling },
            kept: 1.0 - if p.staining { wash.lifted_staining } else { wash.lifted_other },
        };
        let pans: Vec<Pan> = pigments.iter().map(pan).collect();
        let alone = |(s, pan): (&Spectra<T>, &Pan)| {
            let laid = |x: f64| Settled::of(&s.times(T::of(x)), pan.luminous * x, choices.dulling, T::of(pan.spread));
            outcomes(pan.washes).map(laid)
        };
        let alone = spectra.iter().zip(&pans).map(alone).collect();
        let (paper, bare) = (padded(&ground.under(choices.paper).0), padded(&ground.seen().0));
        Self { paper, bare, choices: *choices, pigments: spectra, pans, alone }
    }

    pub(super) fn bare(&self) -> Row<T> {
        self.bare
    }

    /// `made` remembers the mixed washes of this group.
    #[inline(always)]
    pub(super) fn seen(&self, of: &[usize], form: &Form, made: &mut Washes<T>) -> Row<T> {
        let mut inside = self.paper;
        for (n, l) in form.layings().iter().enumerate().filter(|(_, l)| l.adds()) {
            let times = form.layings()[n + 1..].iter().filter(|later| later.act == Act::Lift).count();
            let one: &Settled<T> = match l.parts.map(usize::from) {
                [n, 0, 0] if n > 0 && times == 0 => &self.alone[of[0]][outcome::<STRENGTHS>(l)],
                [0, n, 0] if n > 0 && times == 0 => &self.alone[of[1]][outcome::<STRENGTHS>(l)],
                [0, 0, n] if n > 0 && times == 0 => &self.alone[of[2]][outcome::<STRENGTHS>(l)],
                _ => {
                    let key = (Laying { times: 1, ..*l }, times);
                    let known = made.0.iter().position(|(k, _)| *k == key);
                    let at = match known {
                        Some(at) => at,
                        None => {
                            made.0.push((key, self.mixed(of, &self.thickness(of, l, times as i32))));
                            made.0.len() - 1
                        }
                    };
                    &made.0[at].1
                }
            };
            for _ in 0..l.times {
                inside = one.over(&inside);
            }
        }
        outside(&inside, |r| crossed(self.choices.paper, r))
    }

    /// Thickness of each place's pigment in a wash that is lifted so many times.
    #[inline(always)]
    fn thickness(&self, of: &[usize], l: &Laying, lifted: i32) -> [f64; MOST_PIGMENTS] {
        let total: f64 = l.parts.iter().map(|n| f64::from(*n)).sum();
        std::array::from_fn(|place| match of.get(place) {
            Some(pan) if l.parts[place] > 0 => {
                let pan = &self.pans[*pan];
                let kept = if lifted > 0 { pan.kept.powi(lifted) } else { 1.0 };
                pan.washes[usize::from(l.amount) - 1] * l.hand(place) * f64::from(l.parts[place]) / total * kept
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
        let depth: f64 = (0..MOST_PIGMENTS).map(|place| thickness[place] * self.pans[at(place)].luminous).sum();
        Settled::of(&Spectra::weighed(spectra), depth, self.choices.dulling, T::of(spread))
    }
}

/// Mixed and lifted washes of one group that are known already.
pub(super) struct Washes<T>(Vec<((Laying, usize), Settled<T>)>);

impl<T> Default for Washes<T> {
    fn default() -> Self {
        Self(Vec::new())
    }
}

impl<T> Washes<T> {
    pub(super) fn forget(&mut self) {
        self.0.clear();
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::library;

    #[test]
    fn a_faint_wash_is_faint_and_each_strength_darker_than_the_one_before() {
        let choices = Choices::default();
        for p in library::modelled().iter().filter(|p| !p.white) {
            let luminous = Dulling::depth(&p.k);
            let l: Vec<f64> = washes(p).iter().map(|x| on_paper(p, luminous, *x, &choices).l).collect();
            assert!(l[0] > 88.0, "{}: {l:?}", p.id);
            assert!(l.windows(2).all(|w| w[1] < w[0]), "{}: {l:?}", p.id);
        }
    }

    #[test]
    fn deepest_washes_are_dark_where_the_pigment_is_and_no_thicker_than_is_worth_it() {
        for p in library::modelled().iter().filter(|p| !p.white) {
            assert!((1e-3..=THICKEST_WASH).contains(&deepest_wash(p)), "{}: {}", p.id, deepest_wash(p));
        }
        let deep = |id: &str| deepest_wash(library::find(id).unwrap());
        // A staining blue is let down far more than an earth.
        assert!(deep("PV23") < 0.25 * deep("PBr7-burnt-sienna") && deep("PBk7") < 0.2 * deep("PG23"));
    }
}
