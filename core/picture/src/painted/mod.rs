//! Painted surfaces: a plan in the hand of its medium, honest in the mean.
//!
//! Every place is painted twice over. A *hand* ([`Hand`]) says how much more or less paint lies at each pixel: the tooth of the paper, the rim of a
//! wash, the overlap of two passes, dabs. Then the paint of every place is set so that its mean, in light, is that of its mix, over a few strokes and as a whole: texture is made
//! around the mix, never added to it. Edges are moved a little, as a hand moves them. The same picture every time, from a seed.

mod hand;
mod mosaic;
mod noise;

pub use hand::Hand;
pub use mosaic::Mosaic;

use crate::paint::Fill;
use crate::picture::Picture;
use crate::zone_map::ZoneMap;
use hand::Texture;
use lean_colour::Lab;
use lean_colour::screen::{grey_byte, linear_of_xyz};
use mosaic::Tiled;
use rayon::prelude::*;
use std::collections::BTreeMap;
use std::sync::LazyLock;

/// How finely light is told apart when it is encoded: a fifth of the smallest step of a byte, in the darkest.
const TOLD: usize = 16384;

/// The byte of every level of light.
static BYTES: LazyLock<Vec<u8>> = LazyLock::new(|| (0..=TOLD).map(|i| grey_byte(i as f64 / TOLD as f64)).collect());

fn encoded(light: f32) -> u8 {
    BYTES[(light.clamp(0.0, 1.0) * TOLD as f32 + 0.5) as usize]
}

/// How a surface is painted.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Painting {
    /// The hand of the medium.
    pub hand: Hand,
    /// The smallest mark, in pixels of the picture that is made, at least 1.
    pub brush: f32,
    /// Says which of all equal pictures it is.
    pub seed: u32,
}

/// Light of a pixel, red, green and blue, 0..=1.
type Light = [f32; 3];

/// Passes in which the paint of a place is set to its mean: what the screen cannot show (a channel below 0 or above 1) is made up for by the rest of
/// the place.
const SETTLING: usize = 3;

/// Paints every zone of a map into a picture `width` pixels wide; what has no fill stays bare ground.
pub fn painted(map: &ZoneMap, fills: &BTreeMap<u16, Fill>, ground: Lab, width: u32, painting: Painting) -> Picture {
    painted_with(map, fills, &BTreeMap::new(), ground, width, painting)
}

/// The same, with zones that are laid in several colours side by side in place of their fill.
pub fn painted_with(
    map: &ZoneMap,
    fills: &BTreeMap<u16, Fill>,
    mosaics: &BTreeMap<u16, Mosaic>,
    ground: Lab,
    width: u32,
    painting: Painting,
) -> Picture {
    let width = width.max(1);
    let height = ((u64::from(width) * u64::from(map.height)).div_ceil(u64::from(map.width.max(1)))).max(1) as u32;
    let (w, h) = (width as usize, height as usize);
    let labels = edged(map, (w, h), painting);
    let wanted = Wanted::of(&labels, (w, h), fills, ground).with(mosaics, &labels, (w, h), painting.seed);
    let bare = light(ground);
    let hand = painting.hand;
    let rims = hand.has_rims().then(|| rims(&labels, (w, h), painting.brush));
    let mut lights: Vec<Light> = vec![[0.0; 3]; w * h];
    lights.par_chunks_exact_mut(w).enumerate().for_each(|(y, row)| {
        for (x, out) in row.iter_mut().enumerate() {
            let (at, label) = (y * w + x, labels[y * w + x]);
            let mix = wanted.at(label, x, y);
            let rim = rims.as_ref().map_or(1.0, |r| r[at]);
            *out = if wanted.is_filled(label) { laid(hand.mark((x as f32, y as f32), painting, label, rim), mix, bare) } else { bare };
        }
    });
    settle_locally(&mut lights, &labels, w, &wanted, painting.brush);
    settle(&mut lights, &labels, w, &wanted);
    let rgb = lights.par_iter().flat_map_iter(|l| l.map(encoded)).collect();
    Picture { width, height, rgb }
}

/// How far the paint of broken strokes may go beyond the mix towards what no paint can be: with all of it deep strokes would be black on light
/// ground. A choice.
const DARING: f32 = 0.5;

/// What a mark leaves at a pixel. Where ground shows between, the paint is stronger than the mix by as much as the ground takes away; where no
/// such paint can be, less ground shows.
fn laid(mark: Texture, mix: Light, bare: Light) -> Light {
    let showing = (0..3).fold(mark.bare, |most, c| {
        let gap = (mix[c] - bare[c]).abs();
        let all = if mix[c] < bare[c] { bare[c] } else { 1.0 - bare[c] };
        if gap > 1e-4 { most.min(DARING * (1.0 - gap / all.max(gap))) } else { most }
    });
    let cover = if mark.bare > 0.0 { 1.0 - (1.0 - mark.cover) * showing / mark.bare } else { 1.0 };
    let mut out = [0.0; 3];
    for c in 0..3 {
        let paint = bare[c] + (mix[c] - bare[c]) / (1.0 - showing).max(0.05);
        out[c] = ((bare[c] + (paint - bare[c]) * cover) * (1.0 + mark.lighter)).clamp(0.0, 1.0);
    }
    out
}

/// Sets every place to the mean light of what is wanted there.
fn settle(lights: &mut [Light], labels: &[u16], w: usize, wanted: &Wanted) {
    let top = labels.iter().max().map_or(0, |m| usize::from(*m) + 1);
    for _ in 0..SETTLING {
        let sums = lights
            .par_chunks_exact(w)
            .zip(labels.par_chunks_exact(w))
            .enumerate()
            .fold(
                || vec![([0.0f64; 3], 0u32); top],
                |mut sums, (y, (row, own))| {
                    for (x, (light, label)) in row.iter().zip(own).enumerate() {
                        let (sum, n) = &mut sums[usize::from(*label)];
                        let want = wanted.at(*label, x, y);
                        (0..3).for_each(|c| sum[c] += f64::from(want[c] - light[c]));
                        *n += 1;
                    }
                    sums
                },
            )
            .reduce(
                || vec![([0.0f64; 3], 0u32); top],
                |mut a, b| {
                    for (x, y) in a.iter_mut().zip(b) {
                        (0..3).for_each(|c| x.0[c] += y.0[c]);
                        x.1 += y.1;
                    }
                    a
                },
            );
        let by: Vec<Light> = sums.iter().map(|(s, n)| s.map(|c| (c / f64::from((*n).max(1))) as f32)).collect();
        lights.par_iter_mut().zip(labels).for_each(|(light, label)| {
            let by = by[usize::from(*label)];
            (0..3).for_each(|c| light[c] = (light[c] + by[c]).clamp(0.0, 1.0));
        });
    }
}

/// Brushes across a stretch over which the mean holds by itself, not only over the whole place: a few strokes.
const FEW_STROKES: f32 = 2.5;
/// Share of a stretch a place must fill for its mean there to be trusted. A choice.
const FILLED: f32 = 0.15;

/// Sets every place to the mean of what is wanted over a few strokes, too: a large place is not allowed to be too light here and too dark there.
/// Between the middles of stretches the correction runs smoothly.
fn settle_locally(lights: &mut [Light], labels: &[u16], w: usize, wanted: &Wanted, brush: f32) {
    let h = labels.len() / w;
    let side = (FEW_STROKES * brush).max(4.0);
    let (across, down) = ((w as f32 / side).ceil() as usize + 1, (h as f32 / side).ceil() as usize + 1);
    let top = labels.iter().max().map_or(0, |m| usize::from(*m) + 1);
    // Every pixel counts for the four stretches whose middles it lies between.
    let shares = |x: usize, y: usize| {
        let (u, v) = (x as f32 / side, y as f32 / side);
        let (i, j) = (u as usize, v as usize);
        let (fx, fy) = (u - i as f32, v - j as f32);
        [(i, j, (1.0 - fx) * (1.0 - fy)), (i + 1, j, fx * (1.0 - fy)), (i, j + 1, (1.0 - fx) * fy), (i + 1, j + 1, fx * fy)]
            .map(|(i, j, share)| (j.min(down - 1) * across + i.min(across - 1), share))
    };
    let mut sums = vec![[0.0f32; 4]; top * across * down];
    for (at, (light, label)) in lights.iter().zip(labels).enumerate() {
        let (x, y) = (at % w, at / w);
        let want = wanted.at(*label, x, y);
        for (stretch, share) in shares(x, y) {
            let sum = &mut sums[usize::from(*label) * across * down + stretch];
            (0..3).for_each(|c| sum[c] += share * (want[c] - light[c]));
            sum[3] += share;
        }
    }
    let least = FILLED * side * side;
    let by: Vec<Light> = sums.iter().map(|s| if s[3] < least { [0.0; 3] } else { [s[0] / s[3], s[1] / s[3], s[2] / s[3]] }).collect();
    lights.par_chunks_exact_mut(w).zip(labels.par_chunks_exact(w)).enumerate().for_each(|(y, (row, own))| {
        for (x, (light, label)) in row.iter_mut().zip(own).enumerate() {
            for (stretch, share) in shares(x, y) {
                let by = by[usize::from(*label) * across * down + stretch];
                (0..3).for_each(|c| light[c] = (light[c] + share * by[c]).clamp(0.0, 1.0));
            }
        }
    });
}

/// The zone of every pixel, edges moved by less than the brush.
fn edged(map: &ZoneMap, (w, h): (usize, usize), painting: Painting) -> Vec<u16> {
    let (mw, mh) = (map.width as usize, map.height as usize);
    let scale = mw as f32 / w as f32;
    let swing = painting.hand.edge() * painting.brush;
    let mut out = vec![0u16; w * h];
    out.par_chunks_exact_mut(w).enumerate().for_each(|(y, row)| {
        for (x, label) in row.iter_mut().enumerate() {
            let (dx, dy) = noise::swung(x as f32, y as f32, painting.brush, painting.seed);
            let at = |p: usize, d: f32, most: usize| (((p as f32 + 0.5 + d * swing) * scale) as isize).clamp(0, most as isize - 1) as usize;
            *label = map.labels[at(y, dy, mh) * mw + at(x, dx, mw)];
        }
    });
    out
}

/// Pixels to a cell in which rims are measured, across and down: a rim is far wider than a pixel.
const RIM_CELL: usize = 3;

/// How far every pixel lies from the edge of its place: 0 at the edge, 1 from a brush on. Two passes of a chamfer (Borgefors 1986) over cells of a few
/// pixels, joined smoothly.
fn rims(labels: &[u16], (w, h): (usize, usize), brush: f32) -> Vec<f32> {
    let cell = if brush > 12.0 { RIM_CELL } else { 1 };
    let (cw, ch) = (w.div_ceil(cell), h.div_ceil(cell));
    let small: Vec<u16> = (0..cw * ch).map(|i| labels[(i / cw * cell).min(h - 1) * w + (i % cw * cell).min(w - 1)]).collect();
    let far = (brush / cell as f32).max(1.0);
    let mut d = vec![far; cw * ch];
    let steps = |back: isize| {
        [(-1, 0, 1.0), (0, -1, 1.0), (-1, -1, 1.41), (1, -1, 1.41)].map(|(x, y, s): (isize, isize, f32)| (x * back, y * back, s))
    };
    let mut pass = |x: usize, y: usize, back: isize| {
        let at = y * cw + x;
        for (dx, dy, step) in steps(back) {
            let (nx, ny) = (x as isize + dx, y as isize + dy);
            if nx >= 0 && ny >= 0 && nx < cw as isize && ny < ch as isize {
                let other = ny as usize * cw + nx as usize;
                d[at] = if small[at] == small[other] { d[at].min(d[other] + step) } else { d[at].min(0.5 * step) };
            }
        }
    };
    (0..ch).for_each(|y| (0..cw).for_each(|x| pass(x, y, 1)));
    (0..ch).rev().for_each(|y| (0..cw).rev().for_each(|x| pass(x, y, -1)));
    let mut out = vec![0.0f32; w * h];
    out.par_chunks_exact_mut(w).enumerate().for_each(|(y, row)| {
        let (v, fy) = between(y, cell, ch);
        for (x, out) in row.iter_mut().enumerate() {
            let (u, fx) = between(x, cell, cw);
            let at = |dx: usize, dy: usize| d[(v + dy).min(ch - 1) * cw + (u + dx).min(cw - 1)];
            let mix = |a: f32, b: f32, t: f32| a + (b - a) * t;
            *out = (mix(mix(at(0, 0), at(1, 0), fx), mix(at(0, 1), at(1, 1), fx), fy) / far).min(1.0);
        }
    });
    out
}

/// The cell before a pixel and how far it lies towards the next.
fn between(pixel: usize, cell: usize, cells: usize) -> (usize, f32) {
    let at = pixel / cell;
    (at.min(cells - 1), (pixel % cell) as f32 / cell as f32)
}

fn light(lab: Lab) -> Light {
    linear_of_xyz(lab.xyz()).map(|c| c.clamp(0.0, 1.0) as f32)
}

/// What is wanted at every pixel: even zones their mix, graded ones their run from end to end.
struct Wanted {
    even: Vec<Light>,
    filled: Vec<bool>,
    runs: Vec<Option<Run>>,
    tiled: Vec<Option<Tiled>>,
    /// Number of the place of every pixel, where a mosaic asks for it.
    places: Vec<u32>,
    across: usize,
    seed: u32,
}

/// Steps a run is told in; enough that none is seen.
const STEPS: usize = 64;

struct Run {
    /// Light along the way: colours run evenly to the eye, as they do in a flat plan, not evenly in light, which would be lighter in the middle.
    light: [Light; STEPS + 1],
    way: (f32, f32),
    from: f32,
    to: f32,
}

impl Wanted {
    fn of(labels: &[u16], (w, _): (usize, usize), fills: &BTreeMap<u16, Fill>, ground: Lab) -> Self {
        let top = labels.iter().max().map_or(0, |m| usize::from(*m) + 1);
        let mut even = vec![light(ground); top];
        let mut filled = vec![false; top];
        let mut runs: Vec<Option<Run>> = (0..top).map(|_| None).collect();
        for (zone, fill) in fills.iter().filter(|(z, _)| usize::from(**z) < top) {
            filled[usize::from(*zone)] = true;
            even[usize::from(*zone)] = light(fill.lab);
            if let Some((to, degrees)) = fill.to {
                let (sin, cos) = (degrees as f32).to_radians().sin_cos();
                let mix = |a: f64, b: f64, step: usize| a + (b - a) * step as f64 / STEPS as f64;
                let along = |i| Lab::new(mix(fill.lab.l, to.l, i), mix(fill.lab.a, to.a, i), mix(fill.lab.b, to.b, i));
                let light = std::array::from_fn(|i| light(along(i)));
                let run = Run { light, way: (cos, sin), from: f32::INFINITY, to: f32::NEG_INFINITY };
                runs[usize::from(*zone)] = Some(run);
            }
        }
        if runs.iter().any(Option::is_some) {
            for (i, label) in labels.iter().enumerate() {
                if let Some(run) = &mut runs[usize::from(*label)] {
                    let s = (i % w) as f32 * run.way.0 + (i / w) as f32 * run.way.1;
                    (run.from, run.to) = (run.from.min(s), run.to.max(s));
                }
            }
        }
        Self { even, filled, runs, tiled: (0..top).map(|_| None).collect(), places: Vec::new(), across: w, seed: 0 }
    }

    fn with(mut self, mosaics: &BTreeMap<u16, Mosaic>, labels: &[u16], size: (usize, usize), seed: u32) -> Self {
        for (zone, mosaic) in mosaics {
            if let Some(tiled) = self.tiled.get_mut(usize::from(*zone)) {
                *tiled = Tiled::of(mosaic);
            }
        }
        if self.tiled.iter().flatten().any(Tiled::is_by_place) {
            self.places = mosaic::places(labels, size);
        }
        self.seed = seed;
        self
    }

    fn is_filled(&self, label: u16) -> bool {
        self.filled[usize::from(label)]
    }

    fn at(&self, label: u16, x: usize, y: usize) -> Light {
        if let Some(tiled) = &self.tiled[usize::from(label)] {
            let place = self.places.get(y * self.across + x).copied().unwrap_or(0);
            return tiled.at((x as f32, y as f32), place, self.seed ^ u32::from(label));
        }
        match &self.runs[usize::from(label)] {
            None => self.even[usize::from(label)],
            Some(run) => {
                let s = (x as f32 * run.way.0 + y as f32 * run.way.1 - run.from) / (run.to - run.from).max(1e-6);
                let step = s.clamp(0.0, 1.0) * STEPS as f32;
                let (at, part) = ((step as usize).min(STEPS - 1), step - (step as usize).min(STEPS - 1) as f32);
                std::array::from_fn(|c| run.light[at][c] + (run.light[at + 1][c] - run.light[at][c]) * part)
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use lean_colour::difference::ciede2000;
    use lean_colour::screen::{xyz_of_linear, xyz_of_srgb};
    use proptest::prelude::*;

    const HANDS: [Hand; 5] = [Hand::Pastel, Hand::Pencil, Hand::Wash, Hand::Ink, Hand::Dabs];

    /// Two halves, and a stripe through both.
    fn map() -> ZoneMap {
        let labels = (0..60 * 40).map(|i| if (16..24).contains(&(i / 60)) { 3 } else { 1 + u16::from(i % 60 >= 30) }).collect();
        ZoneMap { width: 60, height: 40, labels }
    }

    fn fills(colours: [Lab; 3]) -> BTreeMap<u16, Fill> {
        (1..).zip(colours.map(|lab| Fill { lab, to: None })).collect()
    }

    /// Mean colour of the light of some pixels.
    fn mean(picture: &Picture, of: impl Fn(u32, u32) -> bool) -> Lab {
        let (mut sum, mut n) = ([0.0; 3], 0.0);
        for y in 0..picture.height {
            for x in (0..picture.width).filter(|x| of(*x, y)) {
                let light = linear_of_xyz(xyz_of_srgb(picture.at(x, y)));
                (0..3).for_each(|c| sum[c] += light[c]);
                n += 1.0;
            }
        }
        xyz_of_linear(sum.map(|s: f64| s / n)).lab()
    }

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(24))]
        #[test]
        fn the_mean_of_what_is_painted_is_the_mix(
            hand in 0..5usize, seed in 0..1000u32, brush in 4.0..15.0f32,
            rgb in prop::array::uniform3(prop::array::uniform3(10..246u8)), ground in prop::array::uniform3(20..250u8),
        ) {
            let colours = rgb.map(lean_colour::screen::lab_of_srgb);
            let ground = lean_colour::screen::lab_of_srgb(ground);
            let painting = Painting { hand: HANDS[hand], brush, seed };
            let picture = painted(&map(), &fills(colours), ground, 300, painting);
            // Away from the edges, which a hand moves; at least three brushes high.
            for (colour, (x0, x1)) in colours[..2].iter().zip([(0, 150 - 35), (150 + 35, 300)]) {
                let seen = mean(&picture, |x, y| (x0..x1).contains(&x) && !(80 - 35..120 + 35).contains(&y));
                prop_assert!(ciede2000(seen, *colour) < 1.0, "{:?}: {seen:?} for {colour:?}", HANDS[hand]);
            }
        }
    }

    #[test]
    fn the_same_seed_paints_the_same_picture_and_a_hand_is_seen() {
        let colours = [Lab::new(60.0, 20.0, 30.0), Lab::new(40.0, -10.0, -20.0), Lab::new(80.0, 0.0, 10.0)];
        for hand in HANDS {
            let painting = Painting { hand, brush: 12.0, seed: 7 };
            let paint = |seed| painted(&map(), &fills(colours), Lab::new(92.0, 0.0, 4.0), 240, Painting { seed, ..painting });
            assert_eq!(paint(7).rgb, paint(7).rgb);
            assert_ne!(paint(7).rgb, paint(8).rgb, "{hand:?}");
            let inside: std::collections::BTreeSet<[u8; 3]> = {
                let picture = paint(7);
                (5..100).flat_map(|x| (5..60).map(move |y| (x, y))).map(|(x, y)| picture.at(x, y)).collect()
            };
            assert!(inside.len() > 5, "{hand:?} is flat");
        }
    }

    #[test]
    fn a_graded_zone_is_no_lighter_painted_than_flat() {
        let map = ZoneMap { width: 60, height: 40, labels: vec![1; 2400] };
        let run = |from: Lab, to: Lab| BTreeMap::from([(1, Fill { lab: from, to: Some((to, 90.0)) })]);
        for (from, to) in
            [(Lab::new(85.0, 0.0, -10.0), Lab::new(30.0, 5.0, -30.0)), (Lab::new(70.0, 20.0, 40.0), Lab::new(45.0, 30.0, 20.0))]
        {
            let ground = Lab::new(92.0, 0.0, 4.0);
            let flat = crate::paint::paint(&map, &run(from, to), ground, 5);
            for hand in HANDS {
                let picture = painted(&map, &run(from, to), ground, 300, Painting { hand, brush: 10.0, seed: 3 });
                let (seen, wanted) = (mean(&picture, |_, _| true), mean(&flat, |_, _| true));
                assert!((seen.l - wanted.l).abs() < 1.0, "{hand:?}: {seen:?} for {wanted:?}");
            }
        }
    }

    #[test]
    fn hands_leave_as_much_bare_as_they_say() {
        for hand in [Hand::Pastel, Hand::Pencil] {
            let painting = Painting { hand, brush: 12.0, seed: 5 };
            let marks = (0..300).flat_map(|x| (0..300).map(move |y| hand.mark((x as f32, y as f32), painting, 1, 1.0)));
            let (mut cover, mut bare, mut n) = (0.0, 0.0, 0.0);
            marks.for_each(|m| {
                cover += m.cover;
                bare += m.bare;
                n += 1.0;
            });
            assert!((cover / n - (1.0 - bare / n)).abs() < 0.04, "{hand:?}: covers {} and leaves {} bare", cover / n, bare / n);
        }
    }

    #[test]
    fn what_has_no_fill_stays_bare_and_a_graded_zone_runs() {
        let (dark, light) = (Lab::new(25.0, 0.0, 0.0), Lab::new(85.0, 0.0, 0.0));
        let fills = BTreeMap::from([(1, Fill { lab: dark, to: Some((light, 0.0)) })]);
        let painting = Painting { hand: Hand::Wash, brush: 8.0, seed: 1 };
        let picture = painted(&map(), &fills, Lab::new(95.0, 0.0, 0.0), 240, painting);
        let (left, right) = (mean(&picture, |x, y| x < 15 && y < 50), mean(&picture, |x, y| (90..105).contains(&x) && y < 50));
        assert!(left.l < 45.0 && right.l > 70.0, "{left:?} {right:?}");
        assert!(mean(&picture, |x, _| x > 200).l > 94.0);
    }
}
