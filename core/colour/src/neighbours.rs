//! How a colour tends to look among its neighbours. Never a number to mix by.

use crate::lab::{D65, Lab, WHITE_D65, Xyz};
use crate::light::times;
use palette::cam16::{BakedParameters, Cam16, Parameters, Surround};
use palette::white_point;
use std::sync::LazyLock;

/// Strength of contrast (−1..0) or assimilation (0..1) by the surround (Hunt 1991). A choice: at −0.3 a grey beside a strong red would turn an
/// implausible green.
pub(crate) const CONTRAST: f64 = -0.1;
/// How much of CAM16's shift in lightness by the background is taken. The whole of it parts a value 5 on black from the same on white by 1.4
/// steps; matched greys in the usual display lie half a step to one apart (Gilchrist et al. 1999, An anchoring theory of lightness
/// perception, Psychological Review 106), so half is taken: 0.7.
pub(crate) const LIGHTNESS: f64 = 0.5;
/// Luminance of the adapting field in cd/m²: a lit room. A choice.
pub const ROOM: f64 = 40.0;

/// CAM16's cone-like channels (Li et al. 2017).
const CONES: [[f64; 3]; 3] = [[0.401_288, 0.650_173, -0.051_461], [-0.250_268, 1.204_414, 0.045_854], [-0.002_079, 0.048_952, 0.953_127]];

/// A neighbour and how much of it there is around the colour: shared border, or area; any unit.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Neighbour {
    /// Its colour.
    pub colour: Lab<D65>,
    /// Its weight, ≥ 0.
    pub weight: f64,
}

/// Luminance of the middle grey that colours are compared on.
const MIDDLE_GREY: f64 = 20.0;

/// How a colour tends to look among its neighbours.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Appearance {
    /// CAM16 lightness J, moved by the neighbours' mean luminance as far as is usually seen, 0..100.
    pub lightness: f64,
    /// The same colour's J on a middle grey, to compare with.
    pub lightness_alone: f64,
    /// The colour as it tends to look: hue and chroma pushed away from the neighbours.
    pub colour: Lab<D65>,
}

/// CAM16 lightness J of a colour on a background of luminance `background` (0..100), in an average surround (Li et al. 2017).
pub(crate) fn lightness_on(colour: Xyz, background: f64) -> f64 {
    seen(colour, conditions(background))
}

/// CAM16 worked out for one background.
type Conditions = BakedParameters<palette::Xyz<white_point::Any, f64>, f64>;

/// The background that colours are compared on, worked out once.
static ON_MIDDLE_GREY: LazyLock<Conditions> = LazyLock::new(|| conditions(MIDDLE_GREY));

fn conditions(background: f64) -> Conditions {
    let white = palette::Xyz::<white_point::Any, f64>::new(WHITE_D65.x / 100.0, WHITE_D65.y / 100.0, WHITE_D65.z / 100.0);
    let mut parameters = Parameters::default_dynamic_wp(white, ROOM);
    parameters.background_luminance = background.clamp(1.0, 100.0) / 100.0;
    parameters.surround = Surround::Average;
    parameters.bake()
}

fn seen(colour: Xyz, conditions: Conditions) -> f64 {
    let xyz = palette::Xyz::<white_point::Any, f64>::new(colour.x / 100.0, colour.y / 100.0, colour.z / 100.0);
    Cam16::from_xyz(xyz, conditions).lightness
}

/// The white an eye adapts to when a colour of luminance factor `own` (0..100) lies within `surround` (Hunt 1991, chromatic
/// induction): per cone-like channel, with `p` from −1 (contrast) to 1 (assimilation). Its luminance is 100.
pub(crate) fn induced_white(surround: Xyz, own: f64, p: f64) -> Xyz {
    let grey = Xyz { x: WHITE_D65.x * own / 100.0, y: own, z: WHITE_D65.z * own / 100.0 };
    let (near, back, white) = (times(&CONES, surround), times(&CONES, grey), times(&CONES, WHITE_D65));
    let turned: [f64; 3] = std::array::from_fn(|c| {
        let q = (near[c] / back[c].max(1e-9)).max(1e-6);
        white[c] * (((1.0 - p) * q + (1.0 + p) / q) / ((1.0 + p) * q + (1.0 - p) / q)).sqrt()
    });
    let white = lean_linear::solve(CONES, turned).expect("the CAM16 matrix is regular");
    Xyz { x: white[0] * 100.0 / white[1], y: 100.0, z: white[2] * 100.0 / white[1] }
}

/// How a colour tends to look among its neighbours. Without any it looks like itself.
pub fn among(colour: Lab<D65>, neighbours: &[Neighbour]) -> Appearance {
    let xyz = colour.xyz();
    let lightness_alone = seen(xyz, *ON_MIDDLE_GREY);
    let total: f64 = neighbours.iter().map(|n| n.weight.max(0.0)).sum();
    if total <= 0.0 {
        return Appearance { lightness: lightness_alone, lightness_alone, colour };
    }
    let mean = |of: fn(Xyz) -> f64| neighbours.iter().map(|n| n.weight.max(0.0) * of(n.colour.xyz())).sum::<f64>() / total;
    let surround = Xyz { x: mean(|c| c.x), y: mean(|c| c.y), z: mean(|c| c.z) };
    let white = induced_white(surround, xyz.y.max(0.1), CONTRAST);
    let seen: Lab<D65> = xyz.lab_relative_to(white);
    let shift = lightness_on(xyz, surround.y) - lightness_alone;
    Appearance { lightness: lightness_alone + LIGHTNESS * shift, lightness_alone, colour: Lab::new(colour.l, seen.a, seen.b) }
}

/// The colour to show on a middle grey so that it is as light there (CAM16 J) as another place makes it: the look's own hue and chroma, found
/// by halving, exact to 1e-6 of L*.
pub fn shown_alone(look: &Appearance) -> Lab<D65> {
    let (mut dark, mut light) = (0.0, 100.0);
    for _ in 0..30 {
        let middle = (dark + light) / 2.0;
        let lighter = seen(Lab::<D65>::new(middle, look.colour.a, look.colour.b).xyz(), *ON_MIDDLE_GREY) > look.lightness;
        if lighter { light = middle } else { dark = middle }
    }
    Lab::new((dark + light) / 2.0, look.colour.a, look.colour.b)
}

/// A border between two zones of a picture, by their positions in a list of colours.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Border {
    /// One zone.
    pub one: usize,
    /// The other.
    pub other: usize,
    /// How long the border they share is, ≥ 0; any unit.
    pub length: f64,
}

/// How every zone of a picture tends to look among its neighbours and on its ground: each neighbour counts by the length of the border
/// shared; the ground, where it is left showing, by `ground_border` (one length per zone).
///
/// # Errors
/// When a border names a zone that is not there, or the lengths are not one per zone.
pub fn over_zones(colours: &[Lab<D65>], borders: &[Border], ground: Lab<D65>, ground_border: &[f64]) -> Result<Vec<Appearance>, String> {
    if ground_border.len() != colours.len() {
        return Err(format!("{} lengths of ground for {} zones: give one for each", ground_border.len(), colours.len()));
    }
    let mut around: Vec<Vec<Neighbour>> = ground_border.iter().map(|w| vec![Neighbour { colour: ground, weight: *w }]).collect();
    for b in borders {
        let there =
            |i: usize| colours.get(i).copied().ok_or_else(|| format!("a border names zone {i}, but there are only {}", colours.len()));
        let (one, other) = (there(b.one)?, there(b.other)?);
        around[b.one].push(Neighbour { colour: other, weight: b.length });
        around[b.other].push(Neighbour { colour: one, weight: b.length });
    }
    Ok(colours.iter().zip(&around).map(|(c, n)| among(*c, n)).collect())
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::Value;

    #[test]
    fn a_grey_is_lighter_on_black_than_on_white() {
        let grey = Xyz { x: 17.5, y: 18.42, z: 20.06 };
        for (background, j) in [(5.0, 44.1292), (20.0, 39.6364), (60.0, 33.8704)] {
            let got = lightness_on(grey, background);
            assert!((got - j).abs() < 5e-4, "{background}: {got} is not {j}");
        }
    }

    #[test]
    fn a_grey_beside_a_strong_red_leans_to_its_opposite() {
        let red = Lab::new(50.0, 60.0, 40.0);
        let white = induced_white(red.xyz(), Lab::<D65>::new(50.0, 0.0, 0.0).xyz().y, CONTRAST);
        assert!((white.x - 101.8227).abs() < 5e-4 && (white.z - 100.1239).abs() < 2e-3, "{white:?}");
        let look = among(Lab::new(50.0, 0.0, 0.0), &[Neighbour { colour: red, weight: 3.0 }]);
        assert!((look.colour.a + 6.456).abs() < 2e-3 && (look.colour.b + 3.226).abs() < 2e-3, "{:?}", look.colour);
    }

    #[test]
    fn among_greys_of_its_own_value_nothing_changes() {
        let own = Lab::new(60.0, 12.0, -8.0);
        let look = among(own, &[Neighbour { colour: Lab::new(60.0, 0.0, 0.0), weight: 1.0 }]);
        assert!((look.colour.a - own.a).abs() < 1e-6 && (look.colour.b - own.b).abs() < 1e-6);
        assert_eq!(among(own, &[]).colour, own);
    }

    #[test]
    fn shown_alone_a_colour_is_as_light_as_it_looked() {
        let own = Lab::new(50.0, 4.0, -6.0);
        assert!((shown_alone(&among(own, &[])).l - own.l).abs() < 1e-5, "with no neighbours it is itself");
        for other in [5.0, 95.0] {
            let look = among(own, &[Neighbour { colour: Lab::new(other, 0.0, 0.0), weight: 1.0 }]);
            let shown = shown_alone(&look);
            assert!((lightness_on(shown.xyz(), 20.0) - look.lightness).abs() < 1e-4);
            assert_eq!(shown.l > own.l, other < 50.0, "lighter beside dark: {shown:?}");
        }
    }

    #[test]
    fn a_middle_grey_on_black_and_on_white_lies_half_a_step_to_one_apart() {
        let grey = Lab::new(Value(5.0).lightness(), 0.0, 0.0);
        let on = |l: f64| shown_alone(&among(grey, &[Neighbour { colour: Lab::new(l, 0.0, 0.0), weight: 1.0 }])).value().0;
        let apart = on(20.0) - on(96.0);
        assert!((0.5..=1.0).contains(&apart), "{apart}");
    }

    #[test]
    fn in_a_picture_each_neighbour_counts_by_its_border() {
        let grey = Lab::new(50.0, 0.0, 0.0);
        let (red, blue) = (Lab::new(50.0, 50.0, 30.0), Lab::new(50.0, 5.0, -40.0));
        let border = |other, length| Border { one: 0, other, length };
        let at = |to_red: f64, to_blue: f64| {
            over_zones(&[grey, red, blue], &[border(1, to_red), border(2, to_blue)], grey, &[0.0; 3]).unwrap()[0].colour
        };
        assert!(at(9.0, 1.0).a < at(1.0, 9.0).a && at(9.0, 1.0).b < at(1.0, 9.0).b);
        // Left in a sea of its own grey, it looks like itself.
        let alone = over_zones(&[grey, red], &[border(1, 0.0)], grey, &[5.0, 0.0]).unwrap()[0];
        assert!(alone.colour.chroma() < 1e-6);
        assert!(over_zones(&[grey], &[border(3, 1.0)], grey, &[0.0]).unwrap_err().contains("zone 3"));
        assert!(over_zones(&[grey], &[], grey, &[]).is_err());
    }
}
