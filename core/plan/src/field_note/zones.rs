//! Zones of a piece made of a note: their places, and the colours they begin with.

use super::{FieldMark, FieldNote, SaidColour, Side, colour_said};
use crate::zones::PictureFile;
use crate::zones::found::{cut, put};
use crate::zones::{COLOURS, Surveyed};
use lean_colour::moves::{with_temperature, with_value};
use lean_colour::{Lab, Temperature, Value};
use lean_picture::places::Survey;
use lean_picture::spot::Spot;
use lean_picture::{Picture, ZoneMap};
use lean_piece::change::{LayZones, SetReference};
use lean_piece::paint_box::PaintBox;
use lean_piece::{Command, Cut, Zone, ZoneId};

/// The command that makes a note's photo the reference and its marks the zones: every mark gets its zone, what was judged on the spot becomes its target.
///
/// # Errors
/// When there is no mark.
pub fn with_photo(note: &FieldNote, paint_box: Option<&PaintBox>, working: &Picture, file: PictureFile) -> Result<Command, String> {
    let survey = Survey::of(working);
    let look = Surveyed { working, survey: &survey };
    let reference = file.reference(working);
    let cut = cut(&survey, note.marks.len().max(COLOURS));
    let found = look.laid(&cut);
    let map = split_by_marks(&found, &note.marks);
    // A zone shared out among marks is laid by hand.
    let hand: Vec<u16> = map.labels.iter().zip(&found.labels).map(|(now, was)| if now == was { 0 } else { *now }).collect();
    let hand = hand.iter().any(|h| *h > 0).then(|| ZoneMap { labels: hand, ..map }.into());
    let Command::SetReference(SetReference { reference, zone_map, zones, cut, masses, mass_map }) =
        put(look, reference, Cut { hand, ..cut })
    else {
        return Err("That photo makes no zones. Try another.".into());
    };
    let zones = match zone_map.as_ref().and_then(|m| m.map()) {
        Some(map) => noted(note, paint_box, Some(PHOTO), map, zones),
        None => zones,
    };
    Ok(Command::SetReference(SetReference { reference, zone_map, zones, cut, masses, mass_map }))
}

/// Zones around the marks of a note without a photo: every place belongs to the nearest mark that no line of the outline parts it from.
///
/// # Errors
/// When there is no mark.
pub fn without_photo(note: &FieldNote, paint_box: Option<&PaintBox>) -> Result<Command, String> {
    if note.marks.is_empty() {
        return Err("A note without a photo needs a mark for every zone. Put some on it first.".into());
    }
    let longer = 400.0;
    let (w, h) = if note.proportion >= 1.0 { (longer, longer / note.proportion) } else { (longer * note.proportion, longer) };
    let (w, h) = ((w.round() as usize).max(8), (h.round() as usize).max(8));
    let fence = fence(note, w, h);
    let mut labels = vec![0u16; w * h];
    let seeds = note.marks.iter().enumerate().map(|(i, m)| (cell(m.place, w, h), i as u16 + 1));
    flood(w, &fence, &mut labels, seeds.collect());
    // The lines themselves, and what no mark reaches, go to the nearest.
    let open = vec![false; w * h];
    let edge: Vec<(usize, u16)> = labels.iter().enumerate().filter(|(_, l)| **l > 0).map(|(i, l)| (i, *l)).collect();
    labels.fill(0);
    flood(w, &open, &mut labels, edge);
    let map = ZoneMap { width: w as u32, height: h as u32, labels };
    let cells = (w * h) as f64;
    let zones = map.areas().into_iter().map(|(id, n)| {
        let value = Value(5.0);
        let lab = Lab::new(value.lightness(), 0.0, 0.0);
        Zone::read(ZoneId(id), lean_picture::Reading { area: n as f64 / cells, value, lab })
    });
    let zones = noted(note, paint_box, None, &map, zones.collect());
    // Nothing was measured: what was judged on the spot is the reading too.
    let zones = zones.into_iter().map(|z| {
        let reading = lean_picture::Reading { value: z.target.value(), lab: z.target, ..z.reading.clone() };
        Zone { reading, ..z }
    });
    Ok(Command::LayZones(LayZones {
        zones: zones.collect(),
        zone_map: Some(map.into()),
        cut: None,
        what: "the zones of a field note".into(),
    }))
}

fn cell(p: Spot, w: usize, h: usize) -> usize {
    let at = |share: f64, n: usize| ((share * n as f64) as usize).min(n - 1);
    at(p.y, h) * w + at(p.x, w)
}

fn fence(note: &FieldNote, w: usize, h: usize) -> Vec<bool> {
    let mut fence = vec![false; w * h];
    for line in &note.outline {
        for pair in line.windows(2) {
            let steps =
                (((pair[1].x - pair[0].x) * w as f64).abs().max(((pair[1].y - pair[0].y) * h as f64).abs()) * 2.0).ceil().max(1.0) as usize;
            for s in 0..=steps {
                let t = s as f64 / steps as f64;
                let p = Spot { x: pair[0].x + (pair[1].x - pair[0].x) * t, y: pair[0].y + (pair[1].y - pair[0].y) * t };
                if (0.0..=1.0).contains(&p.x) && (0.0..=1.0).contains(&p.y) {
                    let i = cell(p, w, h);
                    fence[i] = true;
                    // Two cells wide, so that a slanted line does not leak.
                    if i % w + 1 < w {
                        fence[i + 1] = true;
                    }
                }
            }
        }
    }
    fence
}

fn flood(w: usize, fence: &[bool], labels: &mut [u16], seeds: Vec<(usize, u16)>) {
    let n = labels.len();
    let mut queue = std::collections::VecDeque::new();
    for (i, l) in seeds {
        if labels[i] == 0 {
            labels[i] = l;
            queue.push_back(i);
        }
    }
    while let Some(i) = queue.pop_front() {
        let x = i % w;
        let around = [(x > 0).then(|| i - 1), (x + 1 < w).then(|| i + 1), (i >= w).then(|| i - w), (i + w < n).then(|| i + w)];
        for j in around.into_iter().flatten() {
            if labels[j] == 0 && !fence[j] {
                labels[j] = labels[i];
                queue.push_back(j);
            }
        }
    }
}

/// Where several marks lie in one zone, it is shared out: every cell to the nearest of them.
fn split_by_marks(found: &ZoneMap, marks: &[FieldMark]) -> ZoneMap {
    let (w, h) = (found.width as usize, found.height as usize);
    let at: Vec<usize> = marks.iter().map(|m| cell(m.place, w, h)).collect();
    let mut next = found.zones().into_iter().max().unwrap_or(0);
    let mut labels = found.labels.clone();
    for zone in found.zones() {
        let inside: Vec<usize> = at.iter().copied().filter(|i| found.labels[*i] == zone).collect();
        if inside.len() < 2 {
            continue;
        }
        let names: Vec<u16> = std::iter::once(zone).chain((1..inside.len()).map(|i| next + i as u16)).collect();
        next += inside.len() as u16 - 1;
        for (i, l) in labels.iter_mut().enumerate().filter(|(i, _)| found.labels[*i] == zone) {
            let far = |j: usize| ((i % w) as f64 - (j % w) as f64).hypot((i / w) as f64 - (j / w) as f64);
            let nearest = inside.iter().enumerate().min_by(|a, b| far(*a.1).total_cmp(&far(*b.1))).map_or(0, |(n, _)| n);
            *l = names[nearest];
        }
    }
    ZoneMap { labels, ..*found }
}

/// Units of temperature that "warm" and "cool" mean when nothing was measured. A choice.
const SIDE: f64 = 9.0;
/// Expected errors of what a photo shows of a place seen by eye: of L*, and of a* and b*. Choices: cameras lift shadows and shift whites.
const PHOTO: (f64, f64) = (8.0, 10.0);

/// The zones with what was noted of them: named by their words, coloured by them, and what was judged by hand overrules both. `read` has the expected
/// errors of what the zones read now, where they were read from a photo.
fn noted(note: &FieldNote, paint_box: Option<&PaintBox>, read: Option<(f64, f64)>, map: &ZoneMap, mut zones: Vec<Zone>) -> Vec<Zone> {
    for mark in &note.marks {
        let id = map.labels[cell(mark.place, map.width as usize, map.height as usize)];
        let Some(zone) = zones.iter_mut().find(|z| z.id.0 == id) else { continue };
        let name = if mark.pigment.is_empty() { mark.word.clone() } else { format!("{} ({}?)", mark.word, mark.pigment) };
        zone.name = name.trim().chars().take(80).collect();
        if let Some(said) = colour_said(mark, paint_box) {
            let with_photo = read.map(|(value_error, colour_error)| SaidColour { lab: zone.target, value_error, colour_error }.and(said));
            zone.target = with_photo.unwrap_or(said).lab;
        }
        if let Some(v) = mark.value {
            zone.target = with_value(zone.target, Value(v));
        }
        let now = zone.target.temperature().0;
        let side = match mark.side {
            Some(Side::Warm) => now.max(SIDE),
            Some(Side::Cool) => now.min(-SIDE),
            Some(Side::Neutral) => now.clamp(-2.0, 2.0),
            None => now,
        };
        zone.target = with_temperature(zone.target, Temperature(side));
    }
    zones
}

#[cfg(test)]
mod tests {
    use super::*;
    use lean_colour::HueAngle;

    fn mark(x: f64, y: f64, word: &str, value: f64, side: Side) -> FieldMark {
        FieldMark { place: Spot { x, y }, word: word.into(), value: Some(value), side: Some(side), pigment: String::new() }
    }

    fn note(marks: Vec<FieldMark>) -> FieldNote {
        FieldNote {
            words: "weir at first light".into(),
            at: "2026-11-20T07:50".into(),
            light: "low, warm".into(),
            weather: "still".into(),
            photo: None,
            file_name: String::new(),
            proportion: 4.0 / 3.0,
            outline: Vec::new(),
            marks,
        }
    }

    #[test]
    fn marks_and_outline_become_zones_with_what_was_judged() {
        let mut n = note(vec![mark(0.5, 0.2, "pale sky", 8.0, Side::Cool), mark(0.5, 0.8, "wet bank", 3.5, Side::Warm)]);
        n.outline = vec![vec![Spot { x: 0.0, y: 0.4 }, Spot { x: 1.0, y: 0.4 }]];
        let Ok(Command::LayZones(LayZones { zone_map: Some(map), zones, .. })) = without_photo(&n, None) else { panic!("zones") };
        let map = map.map().unwrap();
        assert_eq!(map.zones(), [1, 2]);
        assert_ne!(map.at(10, 100), map.at(10, 140), "the line parts them");
        assert_eq!(zones[0].name, "pale sky");
        assert!((zones[0].target.value().0 - 8.0).abs() < 0.05 && zones[0].target.temperature().0 < -5.0);
        assert!(zones[1].target.temperature().0 > 5.0);
    }

    #[test]
    fn every_mark_on_a_photo_gets_its_own_zone() {
        let rgb = (0..160 * 120).flat_map(|i| if i / 160 < 60 { [190, 200, 215] } else { [80, 70, 60] }).collect();
        let photo = Picture { width: 160, height: 120, rgb };
        let n = note(vec![
            mark(0.2, 0.2, "sky", 8.0, Side::Cool),
            mark(0.8, 0.2, "haze", 8.5, Side::Neutral),
            mark(0.5, 0.8, "bank", 3.0, Side::Warm),
        ]);
        let Ok(Command::SetReference(SetReference { zones, .. })) =
            with_photo(&n, None, &photo, PictureFile::of("d".into(), "p.png".into(), &photo))
        else {
            panic!("zones")
        };
        let names: Vec<&str> = zones.iter().map(|z| z.name.as_str()).collect();
        assert!(["sky", "haze", "bank"].iter().all(|w| names.contains(w)), "{names:?}");
    }

    #[test]
    fn words_give_a_zone_its_colour_and_what_was_judged_by_hand_overrules_them() {
        let words = |word: &str, value: Option<f64>, side| FieldMark { value, side, ..mark(0.5, 0.5, word, 5.0, Side::Neutral) };
        let target = |m: FieldMark| match without_photo(&note(vec![m]), None) {
            Ok(Command::LayZones(LayZones { zones, .. })) => (zones[0].name.clone(), zones[0].target),
            other => panic!("{other:?}"),
        };
        let (name, shed) = target(words("turquoise shed", None, None));
        assert_eq!(name, "turquoise shed");
        assert!(shed.hue().apart(HueAngle(196.0)) < 12.0 && shed.chroma() > 20.0, "{shed:?}");
        let (_, dark) = target(words("turquoise shed", Some(2.0), Some(Side::Warm)));
        assert!((dark.value().0 - 2.0).abs() < 0.05 && dark.temperature().0 > 5.0, "{dark:?}");
    }

    #[test]
    fn on_a_photo_the_word_and_the_reading_meet_between() {
        let photo = Picture { width: 160, height: 120, rgb: [128u8; 3].repeat(160 * 120) };
        let n = note(vec![FieldMark { value: None, side: None, ..mark(0.5, 0.5, "dull red", 5.0, Side::Warm) }]);
        let Ok(Command::SetReference(SetReference { zones, .. })) =
            with_photo(&n, None, &photo, PictureFile::of("d".into(), "p.png".into(), &photo))
        else {
            panic!("zones")
        };
        let red = colour_said(&n.marks[0], None).unwrap().lab;
        let target = zones.iter().find(|z| z.name == "dull red").unwrap().target;
        assert!(target.chroma() > 5.0 && target.chroma() < red.chroma(), "{target:?} between grey and {red:?}");
    }

    #[test]
    fn a_note_without_marks_or_photo_makes_no_piece() {
        assert!(without_photo(&note(vec![]), None).unwrap_err().contains("mark"));
    }
}
