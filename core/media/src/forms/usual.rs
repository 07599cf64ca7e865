//! What a practitioner lays: which pigment goes over which, how firmly, how often. Other recipes can be asked for as unusual layering.

use super::{Form, Laying, place_of};
use crate::medium::Medium;
use crate::pigment::Pigment;
use lean_colour::{D65, Lab};

/// Steps of value within which two layers are like each other, and either may lie over the other.
const LIKE: f64 = 0.75;
/// Steps of value within which a later pen does not dissolve a darker one so that it shows.
const LIKE_INK: f64 = 0.3;
/// Steps of value between two sticks, or a stick and the ground, beyond which nobody reaches for the one to make the other.
const FAR: f64 = 2.5;
/// The same where one of them is black: it dirties whatever is lighter.
const FAR_FROM_BLACK: f64 = 1.0;
/// Degrees of hue beyond which two pens are opposites: one coat of each dulls the other.
const OPPOSITE: f64 = 120.0;
/// Degrees of hue within which two pens are related, and may lie over each other as one likes.
const RELATED: f64 = 60.0;
/// Chroma below which a pen is a grey, which may lie over or under any colour.
const GREY: f64 = 12.0;
/// Hardness above that of the stick or pencil beneath from which one scratches into it instead of lying on it. A choice.
const SCRATCHES: f64 = 0.3;
/// Covering below which a pigment hides nothing darker beneath it. A choice.
const SEE_THROUGH: f64 = 0.35;
/// Most coats of marker in all.
const MOST_COATS: u8 = 3;
/// Most washes in all.
const MOST_WASHES: u8 = 2;

/// Most pigments a practitioner lays in one place.
pub fn most_pigments(medium: Medium) -> usize {
    match medium {
        Medium::Marker | Medium::SoftPastel => 2,
        Medium::Oil | Medium::Watercolour | Medium::Pencil => 3,
    }
}

/// The traits that decide over which others a pigment may lie: the colour of its usual swatch, black or not, hardness and covering as the painter says, 0..=1.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Nature {
    lab: Lab<D65>,
    value: f64,
    black: bool,
    hardness: Option<f64>,
    covering: Option<f64>,
}

impl Nature {
    /// The nature of a pigment whose usual swatch has this colour.
    pub fn of(pigment: &Pigment, swatch: Lab<D65>) -> Self {
        let (hardness, covering) = (pigment.owned.hardness, pigment.owned.covering);
        Self { lab: swatch, value: swatch.value().0, black: pigment.is_black(), hardness, covering }
    }

    /// True where it scratches into what lies beneath: both are said to be hard or soft, and it is plainly the harder.
    fn scratches(&self, lower: &Self) -> bool {
        self.hardness.zip(lower.hardness).is_some_and(|(own, beneath)| own - beneath > SCRATCHES)
    }

    /// True where it is said to hide nothing darker.
    fn is_see_through(&self) -> bool {
        self.covering.is_some_and(|c| c < SEE_THROUGH)
    }
}

/// Whether one pigment may be laid over another.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
enum Over {
    /// As one likes.
    #[default]
    Free,
    /// Thinly: a light veil of pencil, one coat of a pen.
    Thin,
    /// Not at all.
    Never,
}

/// What a group of up to three pigments may be laid as: groups of one class have the same recipes.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
pub struct Class {
    /// `[lower][upper]` by place.
    over: [[Over; 3]; 3],
    /// Whether a light stroke of the pigment in a place, with the ground showing, is a colour of its own.
    light_alone: [bool; 3],
}

impl Class {
    /// The class of a group, on a ground of this value.
    pub fn of(medium: Medium, group: &[Nature], ground: f64) -> Self {
        let mut class = Self { light_alone: [true; 3], ..Self::default() };
        for (i, lower) in group.iter().enumerate() {
            class.light_alone[i] = medium != Medium::SoftPastel || (lower.value - ground).abs() <= FAR;
            for (j, upper) in group.iter().enumerate().filter(|(j, _)| *j != i) {
                class.over[i][j] = over(medium, lower, upper);
            }
        }
        class
    }

    /// Whether a practitioner lays this form of a group of this class.
    pub fn allows(&self, medium: Medium, form: &Form) -> bool {
        let layings = form.layings();
        let times: u8 = layings.iter().filter(|l| l.adds()).map(|l| l.times).sum();
        let plain = layings.iter().all(Laying::adds) && !returns(layings);
        let pigments = (0..3).filter(|place| layings.iter().any(|l| l.parts[*place] > 0)).count();
        let lies = |may: &dyn Fn(Over, &Laying, &Laying) -> bool| {
            let pairs = layings.iter().enumerate().flat_map(|(n, low)| layings[n + 1..].iter().map(move |high| (low, high)));
            pairs.filter(|(low, high)| place_of(low) != place_of(high)).all(|(low, high)| {
                let over = self.over[place_of(low)][place_of(high)];
                over != Over::Never && may(over, low, high)
            })
        };
        match medium {
            Medium::Oil => true,
            Medium::Watercolour => plain && times <= MOST_WASHES,
            Medium::Marker => {
                let once = |over, low: &Laying, high: &Laying| over == Over::Free || low.times == 1 && high.times == 1;
                plain && pigments <= most_pigments(medium) && times <= MOST_COATS && lies(&once)
            }
            Medium::Pencil => plain && lies(&|over, low, high| over == Over::Free || is_veil(low, high)),
            Medium::SoftPastel => {
                let thin = |l: &Laying| l.amount == 1 && l.times == 1 && !self.light_alone[place_of(l)];
                plain && pigments <= most_pigments(medium) && !thin(&layings[0]) && lies(&|_, _, _| true)
            }
        }
    }
}

/// A lighter pencil over a darker one: light, or over what was laid lightly itself no firmer than middle.
fn is_veil(low: &Laying, high: &Laying) -> bool {
    let most = if low.amount == 1 && low.times == 1 { 2 } else { 1 };
    high.amount <= most && high.times == 1
}

/// Whether a pigment comes back after another.
fn returns(layings: &[Laying]) -> bool {
    layings.iter().enumerate().any(|(n, l)| layings[..n].iter().any(|before| before.parts == l.parts))
}

fn over(medium: Medium, lower: &Nature, upper: &Nature) -> Over {
    let lighter = upper.value - lower.value;
    match medium {
        Medium::Oil | Medium::Watercolour => Over::Free,
        Medium::Marker if lighter > LIKE_INK => Over::Never,
        Medium::Marker => {
            let apart = ((upper.lab.hue().0 - lower.lab.hue().0 + 180.0).rem_euclid(360.0) - 180.0).abs();
            if upper.lab.chroma().min(lower.lab.chroma()) < GREY || apart <= RELATED {
                Over::Free
            } else if apart > OPPOSITE {
                Over::Thin
            } else {
                Over::Never
            }
        }
        Medium::Pencil | Medium::SoftPastel if upper.scratches(lower) || upper.is_see_through() && lighter > LIKE => Over::Never,
        Medium::Pencil if lower.black => Over::Never,
        Medium::Pencil => {
            if lighter > LIKE {
                Over::Thin
            } else {
                Over::Free
            }
        }
        Medium::SoftPastel => {
            let far = if lower.black || upper.black { FAR_FROM_BLACK } else { FAR };
            if lighter.abs() > far || lighter < -LIKE { Over::Never } else { Over::Free }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::super::{Act, MOST_LAYERS, Prepared, list, swatch};
    use super::*;
    use crate::{ground, library};

    /// The forms a practitioner lays of some pigments, by name of the medium.
    fn usual(medium: Medium, ids: &[&str]) -> Vec<Form> {
        let g = ground::usual(medium);
        let pigments: Vec<&Pigment> = ids.iter().map(|id| library::find(id).unwrap()).collect();
        let prepared = Prepared::<f64>::of(medium, &pigments, &g).unwrap();
        let swatch = swatch(medium).unwrap();
        let natures: Vec<Nature> = pigments.iter().enumerate().map(|(i, p)| Nature::of(p, prepared.colour(&[i], &swatch))).collect();
        let class = Class::of(medium, &natures, g.lab.value().0);
        list(medium, &g, ids.len(), MOST_LAYERS).into_iter().filter(|f| class.allows(medium, f)).collect()
    }

    fn orders(forms: &[Form]) -> Vec<(usize, usize)> {
        let mut all: Vec<_> = forms.iter().map(|f| (place_of(&f.layings()[0]), place_of(f.layings().last().unwrap()))).collect();
        all.sort_unstable();
        all.dedup();
        all
    }

    #[test]
    fn pens_go_light_before_dark_two_at_most_and_opposites_once() {
        let forms = usual(Medium::Marker, &["PO73", "PY154"]);
        assert_eq!(orders(&forms), [(1, 0)], "yellow first");
        assert!(forms.iter().all(|f| f.layers() <= 3 && f.layings().iter().all(Laying::adds)));
        assert!(usual(Medium::Marker, &["PB29", "PY154", "PR254"]).is_empty());
        let opposites = usual(Medium::Marker, &["PG7", "PR254"]);
        assert!(!opposites.is_empty() && opposites.iter().all(|f| f.layers() == 2), "one coat of each, to dull");
        assert!(usual(Medium::Marker, &["PG7", "PY154"]).is_empty(), "unrelated hues are not laid over each other");
        assert!(!usual(Medium::Marker, &["PBk9", "PY154"]).is_empty(), "a grey goes over any colour");
    }

    #[test]
    fn pencils_go_dark_over_light_and_light_over_dark_is_a_veil() {
        let forms = usual(Medium::Pencil, &["PB29", "PY154"]);
        assert_eq!(orders(&forms), [(0, 1), (1, 0)]);
        let veils = forms.iter().filter(|f| place_of(&f.layings()[0]) == 0);
        assert!(veils.clone().all(|f| f.layings()[1].times == 1 && f.layings()[1].amount <= 2));
        assert!(veils.filter(|f| f.layings()[0].amount == 3).all(|f| f.layings()[1].amount == 1));
        assert_eq!(orders(&usual(Medium::Pencil, &["PBk7", "PY43"])), [(1, 0)], "black is never first");
    }

    #[test]
    fn sticks_are_near_each_other_and_dark_goes_first() {
        assert!(usual(Medium::SoftPastel, &["PBk7", "PY43"]).is_empty(), "no black into what is light");
        assert!(usual(Medium::SoftPastel, &["PB29", "PY154"]).is_empty(), "too far apart");
        assert_eq!(orders(&usual(Medium::SoftPastel, &["PBr7-burnt-umber", "PR101"])), [(0, 1)]);
        let light = |id: &str| usual(Medium::SoftPastel, &[id]).iter().any(|f| f.layings()[0].amount == 1);
        assert!(light("PY43") && !light("PBk7"), "a thin black is no grey");
    }

    #[test]
    fn hard_goes_under_soft_and_what_is_see_through_under_what_is_darker() {
        let g = ground::usual(Medium::SoftPastel);
        let orders_of = |medium: Medium, upper: &str, said: [(Option<f64>, Option<f64>); 2]| {
            let mut pigments: Vec<Pigment> = ["PBr7-burnt-umber", upper].iter().map(|id| library::find(id).unwrap().clone()).collect();
            for (p, (hardness, covering)) in pigments.iter_mut().zip(said) {
                (p.owned.hardness, p.owned.covering) = (hardness, covering);
            }
            let by_ref: Vec<&Pigment> = pigments.iter().collect();
            let prepared = Prepared::<f64>::of(medium, &by_ref, &g).unwrap();
            let one = swatch(medium).unwrap();
            let natures: Vec<Nature> = by_ref.iter().enumerate().map(|(i, p)| Nature::of(p, prepared.colour(&[i], &one))).collect();
            let class = Class::of(medium, &natures, g.lab.value().0);
            orders(&list(medium, &g, 2, MOST_LAYERS).into_iter().filter(|f| class.allows(medium, f)).collect::<Vec<_>>())
        };
        assert_eq!(orders_of(Medium::SoftPastel, "PR101", [(Some(0.8), None), (Some(0.2), None)]), [(0, 1)], "the hard umber first");
        assert!(
            orders_of(Medium::SoftPastel, "PR101", [(Some(0.2), None), (Some(0.8), None)]).is_empty(),
            "a hard red scratches into the umber"
        );
        assert_eq!(orders_of(Medium::SoftPastel, "PR101", [(Some(0.2), None), (None, None)]), [(0, 1)], "nobody said how hard the red is");
        assert_eq!(orders_of(Medium::Pencil, "PY154", [(None, None), (None, Some(0.2))]), [(1, 0)], "a see-through yellow hides no umber");
    }

    #[test]
    fn washes_are_one_or_two_and_nothing_is_lifted() {
        for n in 1..=3 {
            let forms = usual(Medium::Watercolour, &["PB29", "PBr7-burnt-umber", "PY43"][..n]);
            assert!(forms.iter().all(|f| f.layers() <= 2 && f.layings().iter().all(|l| l.act == Act::Lay)));
            assert!(forms.iter().any(|f| f.layings()[0].times == 2));
        }
    }
}
