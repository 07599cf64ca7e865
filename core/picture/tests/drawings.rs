//! Drawings of our own making, clean, scanned, photographed, broken and inverted: whether they are taken for drawings, and their shapes.

use lean_picture::Picture;
use lean_picture::line_drawing::{LineArt, Lines, is_drawing, zones};

const SIDE: u32 = 700;

/// Paper with outlines: a wall of twelve boxes and four rounds in them, so many pixels thick.
struct Sheet {
    paper: [f64; 3],
    ink: [f64; 3],
    thick: f64,
    /// Shade on the lower right corner of the paper, 0..=1.
    shade: f64,
    /// Share of every line that is left out, in short gaps.
    gaps: f64,
    /// Grain of the paper, in 1/255.
    grain: f64,
    /// Strokes of hatching in two of the boxes.
    hatched: bool,
}

const CLEAN: Sheet = Sheet { paper: [252.0; 3], ink: [20.0; 3], thick: 5.0, shade: 0.0, gaps: 0.0, grain: 0.0, hatched: false };

/// Boxes across and down, and the round things in four of them.
const BOXES: (u32, u32) = (4, 3);
/// Shapes by a hand count: the ground, twelve boxes, four rounds.
const SHAPES: usize = 1 + 12 + 4;

impl Sheet {
    fn drawn(&self) -> Picture {
        let (w, h) = (SIDE, SIDE * 3 / 4);
        let mut rgb = Vec::with_capacity((w * h * 3) as usize);
        let mut noise = 1u32;
        for y in 0..h {
            for x in 0..w {
                noise = noise.wrapping_mul(1_664_525).wrapping_add(1_013_904_223);
                let grain = self.grain * (f64::from(noise >> 16) / 65_535.0 - 0.5);
                let shade = 1.0 - self.shade * (f64::from(x) / f64::from(w) + f64::from(y) / f64::from(h)) / 2.0;
                let line = self.line_at(f64::from(x), f64::from(y), f64::from(w), f64::from(h));
                for c in 0..3 {
                    let colour = self.paper[c] + (self.ink[c] - self.paper[c]) * line;
                    rgb.push((colour * shade + grain).round().clamp(0.0, 255.0) as u8);
                }
            }
        }
        Picture { width: w, height: h, rgb }
    }

    /// Share of a pixel that is line.
    fn line_at(&self, x: f64, y: f64, w: f64, h: f64) -> f64 {
        let (left, top, right, bottom) = (0.1 * w, 0.12 * h, 0.9 * w, 0.88 * h);
        let (bw, bh) = ((right - left) / f64::from(BOXES.0), (bottom - top) / f64::from(BOXES.1));
        let mut near = f64::INFINITY;
        let mut along = 0.0;
        let mut consider = |distance: f64, at: f64| {
            if distance < near {
                (near, along) = (distance, at);
            }
        };
        if (left..=right).contains(&x) {
            (0..=BOXES.1).for_each(|i| consider((y - top - bh * f64::from(i)).abs(), (x - left) / bw));
        }
        if (top..=bottom).contains(&y) {
            (0..=BOXES.0).for_each(|i| consider((x - left - bw * f64::from(i)).abs(), (y - top) / bh));
        }
        for (column, row) in [(0, 0), (3, 0), (1, 1), (2, 2)] {
            let (cx, cy) = (left + bw * (f64::from(column) + 0.5), top + bh * (f64::from(row) + 0.5));
            let radius = 0.3 * bw.min(bh);
            let angle = (y - cy).atan2(x - cx);
            consider(((x - cx).hypot(y - cy) - radius).abs(), 10.0 + angle);
        }
        if self.hatched {
            let inside = |column: f64, row: f64| {
                (left + bw * column..left + bw * (column + 1.0)).contains(&x) && (top + bh * row..top + bh * (row + 1.0)).contains(&y)
            };
            // Strokes that begin and end short of the outline.
            let u = (x - left).rem_euclid(bw) / bw;
            if (inside(2.0, 0.0) || inside(0.0, 2.0)) && (0.2..0.8).contains(&u) {
                let (v, step) = ((y - top).rem_euclid(bh), bh / 6.0);
                let off = (v.rem_euclid(step) - step / 2.0).abs();
                if v > step && v < bh - step {
                    consider(off + self.thick / 4.0, -1.0);
                }
            }
        }
        // Three dashes to a box; lines meet in the middle of one.
        if self.gaps > 0.0 && along >= 0.0 && (3.0 * along + 0.5).rem_euclid(1.0) < self.gaps {
            return 0.0;
        }
        (self.thick / 2.0 + 0.5 - near).clamp(0.0, 1.0)
    }
}

fn sheets() -> Vec<(&'static str, Sheet)> {
    vec![
        ("clean", CLEAN),
        ("thin", Sheet { thick: 2.0, ..CLEAN }),
        ("thick", Sheet { thick: 9.0, ..CLEAN }),
        ("pencil on grey", Sheet { paper: [214.0, 212.0, 208.0], ink: [120.0; 3], grain: 10.0, thick: 3.5, ..CLEAN }),
        ("cream paper", Sheet { paper: [246.0, 236.0, 212.0], ink: [60.0, 50.0, 45.0], grain: 6.0, ..CLEAN }),
        ("photographed", Sheet { paper: [226.0, 222.0, 214.0], ink: [50.0; 3], shade: 0.35, grain: 10.0, ..CLEAN }),
        ("uneven light", Sheet { shade: 0.55, grain: 6.0, ..CLEAN }),
        ("broken lines", Sheet { gaps: 0.12, ..CLEAN }),
        ("dotted", Sheet { gaps: 0.2, thick: 4.0, ..CLEAN }),
        ("hatched", Sheet { hatched: true, ..CLEAN }),
        ("coloured lines", Sheet { ink: [150.0, 40.0, 30.0], ..CLEAN }),
        ("light on dark", Sheet { paper: [30.0, 32.0, 36.0], ink: [235.0; 3], ..CLEAN }),
    ]
}

#[test]
fn twelve_drawings_are_recognised() {
    let missed: Vec<&str> = sheets().iter().filter(|(_, sheet)| !is_drawing(&sheet.drawn())).map(|(name, _)| *name).collect();
    assert!(missed.is_empty(), "{missed:?}");
}

#[test]
fn their_shapes_are_those_of_a_hand_count_and_none_leaks() {
    let mut found = 0;
    for (name, sheet) in sheets() {
        let map = zones(&sheet.drawn(), Lines::Given).unwrap_or_else(|e| panic!("{name}: {e}"));
        let mut ids: Vec<u16> = map.labels.clone();
        ids.sort_unstable();
        ids.dedup();
        // A shape leaks when a box and the ground, or two boxes, are one.
        let at = |column: f64, row: f64| {
            let x = (0.1 + 0.8 * (column + 0.12) / 4.0) * f64::from(map.width);
            let y = (0.12 + 0.76 * (row + 0.12) / 3.0) * f64::from(map.height);
            map.at(x as u32, y as u32)
        };
        let mut boxes: Vec<u16> = (0..4).flat_map(|c| (0..3).map(move |r| (c, r))).map(|(c, r)| at(f64::from(c), f64::from(r))).collect();
        boxes.push(map.at(3, 3));
        let count = boxes.len();
        boxes.sort_unstable();
        boxes.dedup();
        assert_eq!(boxes.len(), count, "{name}: a shape leaks");
        let most = if sheet.hatched { SHAPES + 2 } else { SHAPES };
        assert!((SHAPES..=most).contains(&ids.len()), "{name}: {} shapes instead of {SHAPES}", ids.len());
        found += ids.len().min(SHAPES);
    }
    assert!(found as f64 >= 0.95 * (12 * SHAPES) as f64, "{found}");
}

#[test]
fn photographs_and_flat_things_are_no_drawings() {
    let picture = |colour: &dyn Fn(f64, f64) -> [f64; 3]| {
        let rgb = (0..300u32 * 400)
            .flat_map(|i| colour(f64::from(i % 400) / 400.0, f64::from(i / 400) / 300.0).map(|c| c.round().clamp(0.0, 255.0) as u8))
            .collect();
        Picture { width: 400, height: 300, rgb }
    };
    let sky = picture(&|x, y| [120.0 + 80.0 * y, 150.0 + 60.0 * y, 220.0 - 40.0 * x]);
    let blocks = picture(&|x, y| if (x * 3.0) as i32 % 2 == (y * 2.0) as i32 % 2 { [200.0, 60.0, 40.0] } else { [40.0, 60.0, 140.0] });
    let blank = picture(&|_, _| [240.0; 3]);
    let black = picture(&|_, _| [4.0; 3]);
    for (name, p) in [("sky", sky), ("blocks", blocks), ("blank paper", blank), ("black", black)] {
        assert!(!is_drawing(&p), "{name}");
    }
}

#[test]
fn lines_lie_over_a_plan_and_leave_the_rest_alone() {
    let drawing = CLEAN.drawn();
    let red = Picture { width: 350, height: 262, rgb: [180u8, 40, 30].repeat(350 * 262) };
    let over = LineArt::of(&drawing).over(red.clone());
    assert_eq!(over.at(3, 3), [180, 40, 30], "paper leaves what lies there");
    let line = over.at((0.1 * 350.0) as u32, 131);
    assert!(line.iter().all(|c| *c < 70), "{line:?}");
    let turned = Sheet { paper: [30.0; 3], ink: [235.0; 3], ..CLEAN }.drawn();
    assert!(LineArt::of(&turned).over(red).at((0.1 * 350.0) as u32, 131).iter().all(|c| *c < 70), "light lines become dark ones");
}
