//! Colours of recipes compared with targets, eight at a time.
//!
//! Single precision. Callers judge what matters again in double precision.

use super::{Colour, Cost, HOLD_CHARGE, SIDE_CHARGE, STEP, side};
use lean_colour::temperature::WARM_POLE;
use lean_colour::{D65, Lab};
use lean_media::lanes::{Colours, Growth, LANES, Lane, lab_growth, value_slopes};
use lean_media::rows::Real;

/// A target in single precision.
#[derive(Clone, Copy)]
pub struct Wanted {
    l: f32,
    a: f32,
    b: f32,
    v: f32,
    c: f32,
    /// Side of neutral: 1 warm, −1 cool, 0 either. Asked for only where hue is free.
    side: f32,
}

impl Wanted {
    /// A wanted colour, as it is compared at this cost.
    pub fn of(lab: Lab<D65>, cost: Cost) -> Self {
        let (lab, cost) = cost.toward(lab);
        let side = match cost.colour {
            Colour::Whole => 0.0,
            Colour::SideOnly { neutral } => side(lab, neutral) as f32,
        };
        Self { l: lab.l as f32, a: lab.a as f32, b: lab.b as f32, v: lab.value().0 as f32, c: lab.chroma() as f32, side }
    }
}

impl Wanted {
    /// Its value.
    pub fn value(&self) -> f32 {
        self.v
    }
}

/// A cost function in single precision.
#[derive(Clone, Copy)]
pub struct CostF {
    weight: f32,
    hold: f32,
    charge: f32,
    value_tolerance: f32,
    colour_tolerance: f32,
    /// Temperature of neutral where hue is free.
    neutral: Option<f32>,
    slip: f32,
    layer: f32,
    third: f32,
}

impl CostF {
    /// A cost; of one that is [within](Cost::within) what can be had, that of a target well inside.
    pub fn of(cost: Cost) -> Self {
        Self {
            weight: cost.value_weight as f32,
            hold: cost.hold.map_or(0.0, |h| 0.9 * h) as f32,
            charge: if cost.hold.is_some() { HOLD_CHARGE as f32 } else { 0.0 },
            value_tolerance: cost.tolerance.value as f32,
            colour_tolerance: cost.tolerance.colour as f32,
            neutral: match cost.colour {
                Colour::Whole => None,
                Colour::SideOnly { neutral } => Some(neutral.0 as f32),
            },
            slip: cost.ranking.slip as f32,
            layer: cost.ranking.layer as f32,
            third: cost.ranking.third as f32,
        }
    }

    /// Whether a slip of the hand counts.
    pub fn asks_slips(&self) -> bool {
        self.slip > 0.0
    }

    /// How far a value may be off before that alone costs `limit`.
    pub fn reach(&self, limit: f32) -> f32 {
        if self.weight > 0.0 { limit / self.weight + self.value_tolerance } else { f32::INFINITY }
    }

    /// Charge for a slip of the hand.
    pub fn of_slip(&self, slip: f32) -> f32 {
        self.slip * slip
    }

    /// The slip of the hand that is charged so much.
    pub fn slip_of_charge(&self, charge: f32) -> f32 {
        charge / self.slip
    }

    /// Charge for layers beyond the first.
    pub fn of_layers(&self, more: &Lane) -> Lane {
        more.map(|n| self.layer * n + self.third * (n - 1.0).max(0.0))
    }

    #[inline(always)]
    fn value(&self, dv: f32) -> f32 {
        let off = dv.abs();
        self.weight * (off - self.value_tolerance).max(0.0) + self.charge * (off - self.hold).max(0.0)
    }

    #[inline(always)]
    fn colour(&self, difference: f32) -> f32 {
        (difference - self.colour_tolerance).max(0.0)
    }
}

/// The greatest lightness weight CIEDE2000 can give (at L* 0 or 100).
const MOST_SL: f32 = 1.748;
/// Rounding allowance of the bounds, in cost units.
const SLACK: f32 = 2e-3;

/// What these eight colours miss one target by, with what else is known to be charged for each; `None` where all are `limit` or more.
///
/// Most colours are dismissed by true lower bounds: the value charge plus the lightness term first, then the whole difference
/// with its hue weight at most 1.5725 and its rotation term at its greatest.
#[inline(always)]
pub fn charged(colours: &Colours, charge: &Lane, wanted: &Wanted, cost: CostF, limit: f32) -> Option<Lane> {
    if let Some(neutral) = cost.neutral {
        return Some(by_side(colours, charge, wanted, cost, neutral));
    }
    let mut by_value = [0.0f32; LANES];
    let mut bound = [0.0f32; LANES];
    for i in 0..LANES {
        by_value[i] = cost.value(colours.v[i] - wanted.v) + charge[i];
        bound[i] = by_value[i] + cost.colour((colours.l[i] - wanted.l).abs() * (1.0 / MOST_SL));
    }
    if least(&bound) - SLACK >= limit {
        return None;
    }
    for i in 0..LANES {
        bound[i] = by_value[i] + cost.colour(difference_bound(colours.l[i], colours.a[i], colours.b[i], wanted));
    }
    if least(&bound) - SLACK >= limit {
        return None;
    }
    for i in 0..LANES {
        bound[i] = by_value[i] + cost.colour(difference(colours.l[i], colours.a[i], colours.b[i], wanted));
    }
    Some(bound)
}

/// The least of eight.
#[inline(always)]
pub fn least(lanes: &Lane) -> f32 {
    lanes.iter().fold(f32::INFINITY, |a, b| less(a, *b))
}

/// How far eight colours lie from eight others: twenty a step of value, and CIEDE2000.
#[inline(always)]
fn apart(colours: &Colours, from: &Colours) -> Lane {
    let mut far = [0.0f32; LANES];
    // A loop, not a closure: only what is inlined is compiled for wide registers.
    for i in 0..LANES {
        let (a, b) = (from.a[i], from.b[i]);
        let wanted = Wanted { l: from.l[i], a, b, v: from.v[i], c: (a * a + b * b).sqrt(), side: 0.0 };
        far[i] = STEP as f32 * (colours.v[i] - wanted.v).abs() + difference(colours.l[i], colours.a[i], colours.b[i], &wanted);
    }
    far
}

/// Adds to eight sums the squares of how far eight colours lie from eight others, on the widest registers this processor has.
pub(crate) fn add_squares(sums: &mut Lane, colours: &Colours, from: &Colours) {
    #[cfg(target_arch = "x86_64")]
    if is_x86_feature_detected!("avx2") && is_x86_feature_detected!("fma") {
        // SAFETY: the two features were just found on this processor.
        return unsafe { add_squares_wide(sums, colours, from) };
    }
    add_squares_plain(sums, colours, from);
}

#[cfg(target_arch = "x86_64")]
#[target_feature(enable = "avx2,fma")]
fn add_squares_wide(sums: &mut Lane, colours: &Colours, from: &Colours) {
    add_squares_plain(sums, colours, from);
}

#[inline(always)]
fn add_squares_plain(sums: &mut Lane, colours: &Colours, from: &Colours) {
    let moved = apart(colours, from);
    for i in 0..LANES {
        sums[i] += moved[i] * moved[i];
    }
}

/// How far eight colours move when their amounts slip so far to first order: the root of the summed squares over all slips, each as twenty a step
/// of value and CIEDE2000 of close colours. `slips[n][pigment][lane]`.
pub(crate) fn slipped(own: &Colours, growth: &Growth, slips: &[[Lane; 4]]) -> Lane {
    #[cfg(target_arch = "x86_64")]
    if is_x86_feature_detected!("avx2") && is_x86_feature_detected!("fma") {
        // SAFETY: the two features were just found on this processor.
        return unsafe { slipped_wide(own, growth, slips) };
    }
    slipped_plain(own, growth, slips)
}

#[cfg(target_arch = "x86_64")]
#[target_feature(enable = "avx2,fma")]
fn slipped_wide(own: &Colours, growth: &Growth, slips: &[[Lane; 4]]) -> Lane {
    slipped_plain(own, growth, slips)
}

#[inline(always)]
fn slipped_plain(own: &Colours, growth: &Growth, slips: &[[Lane; 4]]) -> Lane {
    let growth = lab_growth(own, growth);
    let steps = value_slopes(&own.l);
    let near = Nearby::of(own);
    let mut sums = [0.0f32; LANES];
    for slip in slips {
        let mut moved = [[0.0f32; LANES]; 3];
        for p in 0..4 {
            for c in 0..3 {
                for i in 0..LANES {
                    moved[c][i] += slip[p][i] * growth[p][c][i];
                }
            }
        }
        for i in 0..LANES {
            let (dl, da, db) = (moved[0][i], moved[1][i] * near.stretch[i], moved[2][i]);
            let (cos, sin) = (near.cos[i], near.sin[i]);
            let (x, y, z) = (dl * near.by_l[i], (cos * da + sin * db) * near.by_c[i], (cos * db - sin * da) * near.by_h[i]);
            let far = STEP as f32 * (steps[i] * dl).abs() + (x * x + y * y + z * z + near.rotation[i] * y * z).max(0.0).sqrt();
            sums[i] += far * far;
        }
    }
    for s in &mut sums {
        *s = s.sqrt();
    }
    sums
}

/// The terms of CIEDE2000 at eight colours, see [`lean_colour::difference::Nearby`].
struct Nearby {
    stretch: Lane,
    cos: Lane,
    sin: Lane,
    by_l: Lane,
    by_c: Lane,
    by_h: Lane,
    rotation: Lane,
}

impl Nearby {
    #[inline(always)]
    fn of(own: &Colours) -> Self {
        const NONE: Lane = [0.0; LANES];
        let mut n = Self { stretch: NONE, cos: NONE, sin: NONE, by_l: NONE, by_c: NONE, by_h: NONE, rotation: NONE };
        for i in 0..LANES {
            let (l, a, b) = (own.l[i], own.a[i], own.b[i]);
            let stretch = 1.5 - 0.5 * seventh((a * a + b * b).sqrt());
            let a = a * stretch;
            let c = (a * a + b * b).sqrt();
            // At grey every direction is alike.
            let length = c.max(1e-20);
            let (cos, sin) = (if c > 1e-20 { a / length } else { 1.0 }, b / length);
            let l50 = (l - 50.0).powi(2);
            n.stretch[i] = stretch;
            (n.cos[i], n.sin[i]) = (cos, sin);
            n.by_l[i] = 1.0 / (1.0 + 0.015 * l50 / (20.0 + l50).sqrt());
            n.by_c[i] = 1.0 / (1.0 + 0.045 * c);
            n.by_h[i] = 1.0 / (1.0 + 0.015 * c * hue_weight(cos, sin));
            n.rotation[i] = -rotation(cos, sin) * 2.0 * seventh(c);
        }
        n
    }
}

/// The lesser of two numbers, neither of them NaN: one instruction for eight, where `f32::min` takes three.
#[inline(always)]
pub fn less(a: f32, b: f32) -> f32 {
    if b < a { b } else { a }
}

/// The greater of two numbers.
#[inline(always)]
pub fn more(a: f32, b: f32) -> f32 {
    if b > a { b } else { a }
}

/// The same where hue is free and only the side of neutral counts.
#[inline(always)]
fn by_side(colours: &Colours, charge: &Lane, wanted: &Wanted, cost: CostF, neutral: f32) -> Lane {
    let (sin, cos) = (WARM_POLE.to_radians().sin() as f32, WARM_POLE.to_radians().cos() as f32);
    std::array::from_fn(|i| {
        let wrong = -wanted.side * (colours.a[i] * cos + colours.b[i] * sin - neutral);
        cost.value(colours.v[i] - wanted.v) + SIDE_CHARGE as f32 * wrong.max(0.0) + charge[i]
    })
}

#[inline(always)]
fn seventh(c: f32) -> f32 {
    let c2 = c * c;
    let c7 = c2 * c2 * c2 * c;
    (c7 / (c7 + 6.103_515_6e9)).sqrt()
}

/// CIEDE2000 without a branch and with a single angle: multiples of the mean hue come from the direction of the summed hue vectors, and only
/// the rotation term needs how far that is from blue.
#[inline(always)]
fn difference(l: f32, a: f32, b: f32, w: &Wanted) -> f32 {
    let g = 1.5 - 0.5 * seventh(0.5 * ((a * a + b * b).sqrt() + w.c));
    let (a1, b1, a2, b2) = (a * g, b, w.a * g, w.b);
    let (c1, c2) = ((a1 * a1 + b1 * b1).sqrt(), (a2 * a2 + b2 * b2).sqrt());
    let mean = 0.5 * (c1 + c2);
    let grey = c1 * c2 <= 0.0;
    let u = if grey { a1 + a2 } else { a1 * c2 + a2 * c1 };
    let v = if grey { b1 + b2 } else { b1 * c2 + b2 * c1 };
    // Opposite hues cancel: any direction will do then.
    let length = (u * u + v * v).sqrt().max(f32::MIN_POSITIVE);
    let (cos, sin) = (u / length, v / length);
    let t = hue_weight(cos, sin);
    let l50 = (0.5 * (l + w.l) - 50.0).powi(2);
    let x = (w.l - l) / (1.0 + 0.015 * l50 / (20.0 + l50).sqrt());
    let dc = c2 - c1;
    let dh = ((a1 - a2).powi(2) + (b1 - b2).powi(2) - dc * dc).max(0.0).sqrt();
    let dh = if a1 * b2 - b1 * a2 < 0.0 { -dh } else { dh };
    let y = dc / (1.0 + 0.045 * mean);
    let z = dh / (1.0 + 0.015 * mean * t);
    let turned = -rotation(cos, sin) * 2.0 * seventh(mean);
    (x * x + y * y + z * z + turned * y * z).max(0.0).sqrt()
}

/// T of CIEDE2000 for the hue in a direction.
#[inline(always)]
fn hue_weight(cos: f32, sin: f32) -> f32 {
    let (cos2, sin2) = (cos * cos - sin * sin, 2.0 * sin * cos);
    let (cos3, sin3) = (cos2 * cos - sin2 * sin, sin2 * cos + cos2 * sin);
    let (cos4, sin4) = (cos2 * cos2 - sin2 * sin2, 2.0 * sin2 * cos2);
    // cos(x − φ) = cos x cos φ + sin x sin φ with φ = 30°, −6° and 63°.
    1.0 - 0.17 * (0.866_025_4 * cos + 0.5 * sin) + 0.24 * cos2 + 0.32 * (0.994_521_9 * cos3 - 0.104_528_46 * sin3)
        - 0.20 * (0.453_990_5 * cos4 + 0.891_006_5 * sin4)
}

/// sin(2·30°·exp(−((h − 275°)/25)²)) of the hue in a direction. 90° and more from blue it has died away (2e-4 of a degree).
#[inline(always)]
fn rotation(cos: f32, sin: f32) -> f32 {
    // Blue, 275°, lies in the direction (0.0872, −0.9962).
    let along = 0.087_155_74 * cos - 0.996_194_7 * sin;
    let across = 0.087_155_74 * sin + 0.996_194_7 * cos;
    // The tangent of half the angle, at most 1; its arctangent by Abramowitz & Stegun 4.4.49, within 2e-8.
    let t = across / (1.0 + along.max(0.0));
    let s = t * t;
    let series = -0.333_331_45
        + s * (0.199_935_51
            + s * (-0.142_089
                + s * (0.106_562_64 + s * (-0.075_289_64 + s * (0.042_909_614 + s * (-0.016_165_737 + s * 0.002_866_225_7))))));
    let degrees = 2.0 * 57.295_78 * t * (1.0 + s * series);
    let x = 60f32.to_radians() * Real::exponential(-(degrees * degrees) * (1.0 / 625.0));
    // Taylor series of the sine up to 60°, within 4e-8.
    let y = x * x;
    let sine = x * (1.0 + y * (-1.0 / 6.0 + y * (1.0 / 120.0 + y * (-1.0 / 5040.0 + y * (1.0 / 362_880.0)))));
    if along > 0.0 { sine } else { 0.0 }
}

/// Never more than CIEDE2000 of the two colours.
#[inline(always)]
fn difference_bound(l: f32, a: f32, b: f32, w: &Wanted) -> f32 {
    let c = (a * a + b * b).sqrt();
    let g = 1.5 - 0.5 * seventh(0.5 * (c + w.c));
    let (a1, a2) = (a * g, w.a * g);
    let (c1, c2) = ((a1 * a1 + b * b).sqrt(), (a2 * a2 + w.b * w.b).sqrt());
    let mean = 0.5 * (c1 + c2);
    let l50 = (0.5 * (l + w.l) - 50.0).powi(2);
    let dl = (l - w.l) / (1.0 + 0.015 * l50 / (20.0 + l50).sqrt());
    let dc = (c1 - c2).abs();
    let dh = ((a1 - a2).powi(2) + (b - w.b).powi(2) - dc * dc).max(0.0).sqrt();
    let x = dc / (1.0 + 0.045 * mean);
    let y = dh / (1.0 + 0.015 * 1.5725 * mean);
    // |RT| = sin(2Δθ)·RC with Δθ at most 30°. For a given x the form x²+y²−R·x·y has its least at y = R·x/2.
    let r = 1.732_051 * seventh(mean);
    let y = y.max(0.5 * r * x);
    (dl * dl + x * x + y * y - r * x * y).max(0.0).sqrt()
}

#[cfg(test)]
mod tests {
    use super::*;
    use lean_colour::difference::ciede2000;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn the_bound_is_never_above_the_difference(p in prop::array::uniform3(0.0..1.0f64), q in prop::array::uniform3(0.0..1.0f64), near in 0.0..1.0f64) {
            let lab = |v: [f64; 3]| Lab::<D65>::new(v[0] * 100.0, v[1] * 200.0 - 100.0, v[2] * 200.0 - 100.0);
            let (p, q) = (lab(p), lab(q));
            let q = Lab::new(p.l + (q.l - p.l) * near, p.a + (q.a - p.a) * near, p.b + (q.b - p.b) * near);
            let bound = difference_bound(p.l as f32, p.a as f32, p.b as f32, &Wanted::of(q, Cost::default()));
            prop_assert!(f64::from(bound) <= ciede2000(p, q) + 1e-3, "{bound} > {}", ciede2000(p, q));
            let quick = f64::from(difference(p.l as f32, p.a as f32, p.b as f32, &Wanted::of(q, Cost::default())));
            // Opposite hues have no mean hue to speak of; there the two may take either side.
            let opposite = (p.a * q.b - p.b * q.a).abs() < 0.002 * p.chroma() * q.chroma() && p.a * q.a + p.b * q.b < 0.0;
            prop_assert!(opposite || (quick - ciede2000(p, q)).abs() < 4e-3, "{quick} is not {}", ciede2000(p, q));
            let sl = 1.0 + 0.015 * 2500.0 / 2520f64.sqrt();
            prop_assert!(sl <= f64::from(MOST_SL) + 1e-3);
        }
    }
}
