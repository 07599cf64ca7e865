//! How far apart two colours look.
//!
//! The formula is written out here rather than taken from a colour library because the lean search needs its terms one
//! by one to prove lower bounds; the tests hold it to the published vectors and to `palette`'s version.

use crate::lab::Lab;

/// CIEDE2000 colour difference with kL = kC = kH = 1 (CIE 142-2001; Sharma, Wu & Dalal 2005). 0 is no difference, about
/// 1 is just visible side by side. Both colours are relative to the same white.
pub fn ciede2000<W>(p: Lab<W>, q: Lab<W>) -> f64 {
    let Parts { lightness: x, chroma: y, hue: z, rotation } = parts(p, q);
    (x * x + y * y + z * z + rotation * y * z).max(0.0).sqrt()
}

/// What a CIEDE2000 difference is made of, each part weighed as the eye does.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Parts {
    /// How much lighter the second is.
    pub lightness: f64,
    /// How much more colourful.
    pub chroma: f64,
    /// How far its hue lies, positive from red towards yellow.
    pub hue: f64,
    /// What chroma and hue have in common in the blues.
    pub rotation: f64,
}

/// The parts of the difference of `q` from `p`.
pub fn parts<W>(p: Lab<W>, q: Lab<W>) -> Parts {
    let pow7 = |c: f64| {
        let c7 = c.powi(7);
        (c7 / (c7 + 6_103_515_625.0)).sqrt()
    };
    let g = 0.5 * (1.0 - pow7((p.chroma() + q.chroma()) / 2.0));
    let (a1, a2) = (p.a * (1.0 + g), q.a * (1.0 + g));
    let (c1, c2) = (a1.hypot(p.b), a2.hypot(q.b));
    let hue = |a: f64, b: f64| if a == 0.0 && b == 0.0 { 0.0 } else { b.atan2(a).to_degrees().rem_euclid(360.0) };
    let (h1, h2) = (hue(a1, p.b), hue(a2, q.b));

    let mut dh = h2 - h1;
    let grey = c1 * c2 == 0.0;
    if grey {
        dh = 0.0;
    } else if dh > 180.0 {
        dh -= 360.0;
    } else if dh < -180.0 {
        dh += 360.0;
    }
    let dl = q.l - p.l;
    let dc = c2 - c1;
    let dh_term = 2.0 * (c1 * c2).sqrt() * (dh / 2.0).to_radians().sin();

    let l_mean = (p.l + q.l) / 2.0;
    let c_mean = (c1 + c2) / 2.0;
    let h_mean = if grey {
        h1 + h2
    } else if (h1 - h2).abs() <= 180.0 {
        (h1 + h2) / 2.0
    } else if h1 + h2 < 360.0 {
        (h1 + h2 + 360.0) / 2.0
    } else {
        (h1 + h2 - 360.0) / 2.0
    };
    let cos = |deg: f64| deg.to_radians().cos();
    let t = 1.0 - 0.17 * cos(h_mean - 30.0) + 0.24 * cos(2.0 * h_mean) + 0.32 * cos(3.0 * h_mean + 6.0) - 0.20 * cos(4.0 * h_mean - 63.0);
    let l50 = (l_mean - 50.0).powi(2);
    let sl = 1.0 + 0.015 * l50 / (20.0 + l50).sqrt();
    let sc = 1.0 + 0.045 * c_mean;
    let sh = 1.0 + 0.015 * c_mean * t;
    let turn = 30.0 * (-((h_mean - 275.0) / 25.0).powi(2)).exp();
    let rt = -(2.0 * turn).to_radians().sin() * 2.0 * pow7(c_mean);
    Parts { lightness: dl / sl, chroma: dc / sc, hue: dh_term / sh, rotation: rt }
}

/// CIEDE2000 of colours close to one another: its terms at one colour, for differences so small that the weights do not change.
#[derive(Clone, Copy, Debug)]
pub struct Nearby {
    stretch: f64,
    along: (f64, f64),
    weights: (f64, f64, f64),
    rotation: f64,
}

impl Nearby {
    /// Round a colour.
    pub fn of<W>(lab: Lab<W>) -> Self {
        let pow7 = |c: f64| (c.powi(7) / (c.powi(7) + 6_103_515_625.0)).sqrt();
        let stretch = 1.5 - 0.5 * pow7(lab.chroma());
        let (a, b) = (lab.a * stretch, lab.b);
        let c = a.hypot(b);
        // At grey every direction is alike.
        let along = if c > 0.0 { (a / c, b / c) } else { (1.0, 0.0) };
        let h = b.atan2(a).to_degrees().rem_euclid(360.0);
        let cos = |deg: f64| deg.to_radians().cos();
        let t = 1.0 - 0.17 * cos(h - 30.0) + 0.24 * cos(2.0 * h) + 0.32 * cos(3.0 * h + 6.0) - 0.20 * cos(4.0 * h - 63.0);
        let l50 = (lab.l - 50.0).powi(2);
        let turn = 30.0 * (-((h - 275.0) / 25.0).powi(2)).exp();
        Self {
            stretch,
            along,
            weights: (1.0 + 0.015 * l50 / (20.0 + l50).sqrt(), 1.0 + 0.045 * c, 1.0 + 0.015 * c * t),
            rotation: -(2.0 * turn).to_radians().sin() * 2.0 * pow7(c),
        }
    }

    /// How far a small step from it looks.
    pub fn length(&self, dl: f64, da: f64, db: f64) -> f64 {
        let da = da * self.stretch;
        let (cos, sin) = self.along;
        let (x, y, z) = (dl / self.weights.0, (cos * da + sin * db) / self.weights.1, (cos * db - sin * da) / self.weights.2);
        (x * x + y * y + z * z + self.rotation * y * z).max(0.0).sqrt()
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::D65;
    use palette::color_difference::Ciede2000;
    use proptest::prelude::*;

    /// Pairs and differences of Sharma, Wu & Dalal 2005, table 1.
    const SHARMA: &[([f64; 3], [f64; 3], f64)] = &[
        ([50.0, 2.6772, -79.7751], [50.0, 0.0, -82.7485], 2.0425),
        ([50.0, 3.1571, -77.2803], [50.0, 0.0, -82.7485], 2.8615),
        ([50.0, 2.8361, -74.0200], [50.0, 0.0, -82.7485], 3.4412),
        ([50.0, -1.3802, -84.2814], [50.0, 0.0, -82.7485], 1.0),
        ([50.0, -1.1848, -84.8006], [50.0, 0.0, -82.7485], 1.0),
        ([50.0, -0.9009, -85.5211], [50.0, 0.0, -82.7485], 1.0),
        ([50.0, 0.0, 0.0], [50.0, -1.0, 2.0], 2.3669),
        ([50.0, -1.0, 2.0], [50.0, 0.0, 0.0], 2.3669),
        ([50.0, 2.49, -0.001], [50.0, -2.49, 0.0009], 7.1792),
        ([50.0, 2.49, -0.001], [50.0, -2.49, 0.0010], 7.1792),
        ([50.0, 2.49, -0.001], [50.0, -2.49, 0.0011], 7.2195),
        ([50.0, 2.49, -0.001], [50.0, -2.49, 0.0012], 7.2195),
        ([50.0, -0.001, 2.49], [50.0, 0.0009, -2.49], 4.8045),
        ([50.0, -0.001, 2.49], [50.0, 0.0011, -2.49], 4.7461),
        ([50.0, 2.5, 0.0], [50.0, 0.0, -2.5], 4.3065),
        ([50.0, 2.5, 0.0], [73.0, 25.0, -18.0], 27.1492),
        ([50.0, 2.5, 0.0], [61.0, -5.0, 29.0], 22.8977),
        ([50.0, 2.5, 0.0], [56.0, -27.0, -3.0], 31.9030),
        ([50.0, 2.5, 0.0], [58.0, 24.0, 15.0], 19.4535),
        ([50.0, 2.5, 0.0], [50.0, 3.1736, 0.5854], 1.0),
        ([60.2574, -34.0099, 36.2677], [60.4626, -34.1751, 39.4387], 1.2644),
        ([63.0109, -31.0961, -5.8663], [62.8187, -29.7946, -4.0864], 1.2630),
        ([61.2901, 3.7196, -5.3901], [61.4292, 2.2480, -4.9620], 1.8731),
        ([35.0831, -44.1164, 3.7933], [35.0232, -40.0716, 1.5901], 1.8645),
        ([22.7233, 20.0904, -46.6940], [23.0331, 14.9730, -42.5619], 2.0373),
        ([36.4612, 47.8580, 18.3852], [36.2715, 50.5065, 21.2231], 1.4146),
        ([90.8027, -2.0831, 1.4410], [91.1528, -1.6435, 0.0447], 1.4441),
        ([90.9257, -0.5406, -0.9208], [88.6381, -0.8985, -0.7239], 1.5381),
        ([6.7747, -0.2908, -2.4247], [5.8714, -0.0985, -2.2286], 0.6377),
        ([2.0776, 0.0795, -1.1350], [0.9033, -0.0636, -0.5514], 0.9082),
    ];

    #[test]
    fn published_vectors() {
        for (p, q, d) in SHARMA {
            let got = ciede2000::<D65>(Lab::new(p[0], p[1], p[2]), Lab::new(q[0], q[1], q[2]));
            assert!((got - d).abs() < 5e-5, "{p:?} {q:?}: {got} is not {d}");
        }
    }

    proptest! {
        #[test]
        fn agrees_with_palette(p in prop::array::uniform3(0.0..1.0f64), q in prop::array::uniform3(0.0..1.0f64)) {
            let lab = |v: [f64; 3]| (v[0] * 100.0, v[1] * 160.0 - 80.0, v[2] * 160.0 - 80.0);
            let (p, q) = (lab(p), lab(q));
            // Across the hue origin `palette` leaves the mean hue above 360°, which the standard reduces: skip those.
            let hue = |c: (f64, f64, f64)| c.2.atan2(c.1).to_degrees().rem_euclid(360.0);
            prop_assume!((hue(p) - hue(q)).abs() < 175.0);
            let theirs = palette::Lab::<palette::white_point::D65, f64>::new(p.0, p.1, p.2)
                .difference(palette::Lab::new(q.0, q.1, q.2));
            let ours = ciede2000::<D65>(Lab::new(p.0, p.1, p.2), Lab::new(q.0, q.1, q.2));
            prop_assert!((ours - theirs).abs() < 1e-6, "{ours} {theirs}");
        }
    }

    #[test]
    fn close_colours_differ_as_their_terms_say() {
        for i in 0..200 {
            let x = f64::from(i);
            let lab = Lab::<D65>::new(10.0 + (x * 7.3) % 80.0, (x * 13.7) % 120.0 - 60.0, (x * 29.1) % 140.0 - 70.0);
            let step = [1e-4 * (x * 1.7).sin(), 1e-4 * (x * 2.9).cos(), 1e-4 * (x * 0.7).cos()];
            let other = Lab::new(lab.l + step[0], lab.a + step[1], lab.b + step[2]);
            let (near, whole) = (Nearby::of(lab).length(step[0], step[1], step[2]), ciede2000(lab, other));
            assert!((near - whole).abs() < 1e-4 * whole, "{near} is not {whole} at {lab:?}");
        }
    }
}
