//! Patches found and read on made-up photos of sheets: tilted, under uneven and tinted light, with pencil notes, grain and gaps.

use lean_colour::Lab;
use lean_colour::difference::ciede2000;
use lean_colour::screen::{linear_of_xyz, xyz_of_linear};
use lean_picture::Picture;
use lean_picture::loose_sheet::{self, Unread};
use lean_picture::spot::Spot;

const WIDE: u32 = 1400;
const HIGH: u32 = 1050;
/// Linear light of the table under the sheet.
const TABLE: [f64; 3] = [0.11, 0.07, 0.04];

/// Numbers that are the same every time, 0..1.
struct Chance(u64);

impl Chance {
    fn next(&mut self) -> f64 {
        self.0 = self.0.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        (self.0 >> 33) as f64 / (1u64 << 31) as f64
    }

    fn in_range(&mut self, from: f64, to: f64) -> f64 {
        from + (to - from) * self.next()
    }
}

/// A sheet of `across` by `down` patches as a camera sees it.
struct Made {
    photo: Picture,
    /// Middle and colour of every patch.
    truth: Vec<(Spot, Lab)>,
    /// Middle of the grey card.
    card: Spot,
}

fn made(seed: u64, across: usize, down: usize, gap_at: Option<usize>) -> Made {
    let mut chance = Chance(seed);
    let tilt = chance.in_range(-0.09, 0.09);
    let (falls_x, falls_y) = (chance.in_range(-0.5, 0.5), chance.in_range(-0.4, 0.4));
    let tint = [chance.in_range(0.92, 1.0), 0.92, chance.in_range(0.74, 0.95)];
    let paper = chance.in_range(0.84, 0.89);
    let mut colours: Vec<Lab> = (0..across * down)
        .map(|_| Lab::from_lch(chance.in_range(16.0, 84.0), chance.in_range(0.0, 55.0), chance.in_range(0.0, 360.0)))
        .map(lean_colour::real::toward_real)
        .collect();
    // One has the colour of the table.
    colours[1] = xyz_of_linear(TABLE).lab();
    let light: Vec<[f64; 3]> = colours.iter().map(|c| linear_of_xyz(c.xyz()).map(|v| v.clamp(0.0, 1.0))).collect();
    let (cell_w, cell_h) = (1.0 / across as f64, 0.86 / down as f64);
    let (sin, cos) = tilt.sin_cos();
    let (w, h) = (f64::from(WIDE), f64::from(HIGH));
    let mut rgb = Vec::with_capacity((WIDE * HIGH * 3) as usize);
    for y in 0..HIGH {
        for x in 0..WIDE {
            // Place on the sheet: shares of it, after the tilt.
            let (dx, dy) = (f64::from(x) - w / 2.0, f64::from(y) - h / 2.0);
            let (sx, sy) = ((dx * cos + dy * sin) / (0.88 * w) + 0.5, (dy * cos - dx * sin) / (0.88 * h) + 0.5);
            let on_sheet = (0.0..1.0).contains(&sx) && (0.0..1.0).contains(&sy);
            let (column, row) = ((sx / cell_w) as usize, (sy / cell_h) as usize);
            let (ix, iy) = (sx / cell_w - column as f64, sy / cell_h - row as f64);
            let n = row * across + column;
            let in_patch = (0.17..0.83).contains(&ix) && (0.15..0.7).contains(&iy) && column < across && row < down;
            let noted = (0.2..0.7).contains(&ix) && (0.78..0.86).contains(&iy) && ((ix * 61.0).sin() * 0.04 + 0.82 - iy).abs() < 0.006;
            let in_card = (0.8..0.9).contains(&sx) && (0.9..0.97).contains(&sy);
            let seen = match () {
                () if !on_sheet => TABLE,
                () if in_card => [0.18; 3],
                () if in_patch && gap_at != Some(n) => {
                    let grain = 1.0 + 0.12 * (chance.next() - 0.5);
                    light[n].map(|c| c * grain)
                }
                () if noted => [0.2; 3],
                () => [paper; 3],
            };
            let falls = 1.0 + falls_x * (f64::from(x) / w - 0.5) + falls_y * (f64::from(y) / h - 0.5);
            let lit: [f64; 3] = std::array::from_fn(|c| seen[c] * tint[c] * falls * 0.8 + 0.004 * (chance.next() - 0.5));
            rgb.extend(lit.map(encoded));
        }
    }
    let middle = |column: f64, row: f64| {
        let (sx, sy) = ((column * cell_w - 0.5) * 0.88 * w, (row * cell_h - 0.5) * 0.88 * h);
        Spot { x: (sx * cos - sy * sin) / w + 0.5, y: (sy * cos + sx * sin) / h + 0.5 }
    };
    let truth = (0..across * down)
        .filter(|n| gap_at != Some(*n))
        .map(|n| (middle((n % across) as f64 + 0.5, (n / across) as f64 + 0.425), xyz_of_linear(light[n]).lab()))
        .collect();
    Made { photo: Picture { width: WIDE, height: HIGH, rgb }, truth, card: middle(0.85 / cell_w, 0.935 / cell_h) }
}

fn encoded(linear: f64) -> u8 {
    let c = linear.clamp(0.0, 1.0);
    let coded = if c <= 0.003_130_8 { 12.92 * c } else { 1.055 * c.powf(1.0 / 2.4) - 0.055 };
    (255.0 * coded).round() as u8
}

/// Number of patches found, number found where none is, and the error of each found one.
fn judged(made: &Made, found: &[loose_sheet::Patch]) -> (usize, usize, Vec<f64>) {
    let holds = |p: &loose_sheet::Patch, at: &Spot| {
        (p.place.x..p.place.x + p.place.width).contains(&at.x) && (p.place.y..p.place.y + p.place.height).contains(&at.y)
    };
    let seen: Vec<&loose_sheet::Patch> = found.iter().filter(|p| !p.guessed).collect();
    let off: Vec<f64> = made.truth.iter().filter_map(|(at, lab)| Some(ciede2000(*lab, seen.iter().find(|p| holds(p, at))?.lab))).collect();
    let stray = seen.iter().filter(|p| !made.truth.iter().any(|(at, _)| holds(p, at))).count();
    (off.len(), stray, off)
}

#[test]
fn nearly_all_patches_are_found_and_read_within_their_doubt() {
    let (mut patches, mut found, mut stray, mut off, mut within) = (0, 0, 0, Vec::new(), 0);
    for (seed, across, down) in [(1, 10, 6), (2, 6, 4), (3, 12, 5), (4, 4, 3), (5, 8, 6), (6, 15, 4), (7, 5, 5), (8, 9, 7)] {
        let made = made(seed, across, down, None);
        let read = loose_sheet::find(&made.photo, None).unwrap();
        let (n, s, o) = judged(&made, &read);
        println!("sheet {seed}: {n} of {} found, {s} stray, median {:.1}", made.truth.len(), median(o.clone()));
        (patches, found, stray) = (patches + made.truth.len(), found + n, stray + s);
        let doubt = median(read.iter().map(|p| p.doubt).collect());
        within += o.iter().filter(|o| **o < 2.0 * doubt).count();
        off.extend(o);
    }
    assert!(found as f64 >= 0.95 * patches as f64, "{found} of {patches} found");
    // The grey card is one patch more of every sheet.
    assert!(stray as f64 <= 8.0 + 0.02 * patches as f64, "{stray} where none is");
    assert!(median(off.clone()) < 3.0, "median {:.2}", median(off));
    assert!(within as f64 >= 0.9 * found as f64, "{within} of {found} within twice their doubt");
}

#[test]
fn a_grey_card_makes_it_surer_and_is_no_patch() {
    let made = made(11, 8, 5, None);
    let by_paper = loose_sheet::find(&made.photo, None).unwrap();
    let by_card = loose_sheet::find(&made.photo, Some(made.card)).unwrap();
    assert!(by_card.iter().all(|p| p.doubt < by_paper[0].doubt));
    let (_, stray, off) = judged(&made, &by_card);
    assert_eq!(stray, 0, "the card is left out");
    assert!(median(off.clone()) < 2.0, "{:.2}", median(off));
    // A patch of colour is no grey card.
    let strongest = made.truth.iter().max_by(|a, b| a.1.chroma().total_cmp(&b.1.chroma())).unwrap().0;
    assert_eq!(loose_sheet::find(&made.photo, Some(strongest)).err(), Some(Unread::Grey));
}

#[test]
fn a_gap_is_guessed_and_can_be_read_where_it_is_put() {
    let made = made(21, 8, 5, Some(19));
    let found = loose_sheet::find(&made.photo, Some(made.card)).unwrap();
    let guessed: Vec<&loose_sheet::Patch> = found.iter().filter(|p| p.guessed).collect();
    assert_eq!(guessed.len(), 1);
    assert!(guessed[0].lab.l > 90.0, "there is paper");
    let (at, lab) = made.truth[0];
    let place = loose_sheet::PhotoRect { x: at.x - 0.02, y: at.y - 0.02, width: 0.04, height: 0.04 };
    let read = loose_sheet::read(&made.photo, Some(made.card), &[place]).unwrap();
    assert!(ciede2000(read[0].lab, lab) < 3.0);
}

#[test]
fn photos_that_cannot_be_read_are_said() {
    let flat = |rgb: [u8; 3]| Picture { width: 400, height: 300, rgb: rgb.repeat(400 * 300) };
    assert_eq!(loose_sheet::find(&flat([2, 2, 2]), None).err(), Some(Unread::Exposure));
    assert_eq!(loose_sheet::find(&flat([210, 205, 200]), None).err(), Some(Unread::Nothing));
    assert_eq!(loose_sheet::find(&flat([255, 255, 255]), None).err(), Some(Unread::Exposure));
}

fn median(mut of: Vec<f64>) -> f64 {
    of.sort_by(f64::total_cmp);
    of[of.len() / 2]
}
