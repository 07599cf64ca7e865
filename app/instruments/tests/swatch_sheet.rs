//! A sheet of swatches photographed with tilt, uneven and coloured light, and one smeared cell: all but that cell are read.

use lean_colour::difference::ciede2000;
use lean_colour::inferred::reflectance_of;
use lean_colour::{Lab, Reflectance, screen};
use lean_instruments::{Camera, Picture, Shot, SimulatedCamera, painted_sheet};
use lean_picture::swatch_sheet::{GREY_CARD, Layout, Rect, Unread, read};

fn layout() -> Layout {
    let mut cells = Vec::new();
    let mut bare = Vec::new();
    for row in 0..6 {
        for column in 0..5 {
            let (x, y) = (16.0 + 36.0 * f64::from(column), 62.0 + 34.0 * f64::from(row));
            cells.push([x, y, 30.0, 26.0]);
            bare.push([x + 31.0, y + 8.0, 4.0, 8.0]);
        }
    }
    Layout {
        size: (210.0, 297.0),
        marks: [(12.0, 12.0), (198.0, 12.0), (198.0, 285.0), (12.0, 285.0)],
        mark: 8.0,
        first: (26.0, 12.0),
        grey: [80.0, 18.0, 50.0, 30.0],
        bare,
        cells,
    }
}

/// The sheet painted flat, with a card of some grey on it.
fn sheet(layout: &Layout, colours: &[Lab], card: f64) -> Picture {
    let painted: Vec<Reflectance> = colours.iter().map(|lab| reflectance_of(lab.xyz()).reflectance).collect();
    let mut page = painted_sheet(layout, &painted);
    filled(&mut page, layout.grey, [screen::grey_byte(card); 3]);
    page
}

fn filled(page: &mut Picture, r: Rect, rgb: [u8; 3]) {
    let fine = f64::from(page.width) / 210.0;
    for y in (r[1] * fine) as u32..((r[1] + r[3]) * fine) as u32 {
        for x in (r[0] * fine) as u32..((r[0] + r[2]) * fine) as u32 {
            let at = ((y * page.width + x) * 3) as usize;
            page.rgb[at..at + 3].copy_from_slice(&rgb);
        }
    }
}

/// Colours a screen can show: what the camera sees is that.
fn colours() -> Vec<Lab> {
    let of = |i: i32| Lab::from_lch(22.0 + 2.2 * f64::from(i), 4.0 + f64::from(i % 6) * 6.0, f64::from(i) * 47.0).xyz().srgb();
    (0..30).map(of).map(|c| screen::lab_of_srgb([c.r, c.g, c.b])).collect()
}

fn shot() -> Shot {
    Shot {
        corners: [(0.11, 0.07), (0.86, 0.1), (0.93, 0.94), (0.06, 0.9)],
        falls: (0.25, -0.2),
        tint: [0.92, 0.85, 0.7],
        noise: 1.2,
        width: 1400,
        height: 1820,
    }
}

#[test]
fn all_but_the_smeared_cell_are_read_within_a_shade() {
    let layout = layout();
    let mut page = sheet(&layout, &colours(), GREY_CARD);
    // Cell 13 is smeared: half of it is another colour.
    let r = layout.cells[13];
    filled(&mut page, [r[0], r[1], 0.45 * r[2], r[3]], [240, 235, 220]);
    for seed in 0..3 {
        let photo = SimulatedCamera::seeded(seed).take(&page, &shot());
        let cells = read(&photo, &layout).unwrap();
        for (i, (cell, lab)) in cells.iter().zip(colours()).enumerate() {
            let off = ciede2000(cell.lab, lab);
            assert!(i == 13 || off <= 1.5, "cell {i}: {:?} for {lab:?}, {off:.2}", cell.lab);
            assert_eq!(cell.doubtful, i == 13, "cell {i}: {cell:?}");
        }
    }
}

#[test]
fn any_way_round_will_do() {
    let layout = layout();
    let page = sheet(&layout, &colours(), GREY_CARD);
    let c = shot().corners;
    for turn in 1..4 {
        let turned = Shot { corners: std::array::from_fn(|i| c[(i + turn) % 4]), ..shot() };
        let cells = read(&SimulatedCamera::seeded(2).take(&page, &turned), &layout).unwrap();
        let worst = cells.iter().zip(colours()).map(|(cell, lab)| ciede2000(cell.lab, lab)).fold(0.0, f64::max);
        assert!(worst <= 2.0, "turned by {turn}: {worst:.2}");
    }
}

#[test]
fn what_cannot_be_read_is_said() {
    let layout = layout();
    let page = sheet(&layout, &colours(), GREY_CARD);
    let take = |page: &Picture, shot: &Shot| read(&SimulatedCamera::seeded(1).take(page, shot), &layout);
    let half = Shot { corners: [(0.1, 0.3), (0.9, 0.3), (0.9, 1.6), (0.1, 1.6)], ..shot() };
    assert_eq!(take(&page, &half), Err(Unread::Marks), "half a sheet");
    assert_eq!(take(&sheet(&layout, &colours(), 0.86), &shot()), Err(Unread::Grey), "no grey card");
    let night = Shot { tint: [0.012, 0.012, 0.012], noise: 0.5, ..shot() };
    assert!(take(&page, &night).is_err(), "too dark");
    let other = Picture { width: 900, height: 700, rgb: [120, 90, 60].repeat(900 * 700) };
    assert_eq!(read(&other, &layout), Err(Unread::Marks), "another picture");
    for e in [Unread::Marks, Unread::Grey, Unread::Exposure] {
        assert!(e.to_string().contains("hotograph the"), "it says what to do: {e}");
    }
}
