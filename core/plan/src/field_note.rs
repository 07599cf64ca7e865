//! Quick notes in the field: marks with a few words on a photo or an outline, and how they become the zones of a piece.

use crate::zones::PictureFile;
use crate::zones::found::{cut, put};
use crate::zones::{COLOURS, Surveyed};
use lean_colour::moves::{with_temperature, with_value};
use lean_colour::{Lab, Temperature, Value};
use lean_picture::places::Survey;
use lean_picture::spot::Spot;
use lean_picture::{Picture, ZoneMap};
use lean_piece::change::{LayZones, SetReference};
use lean_piece::intent::occasion::Occasion;
use lean_piece::{Command, Cut, MOST_NAME, Zone, ZoneId, kept_as_text};
use serde::{Deserialize, Serialize};

/// Most marks on one note: as many as there are zones at most.
pub const MOST_MARKS: usize = 24;

/// Warm or cool to the eye.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Side {
    /// Warm.
    Warm,
    /// Neither.
    Neutral,
    /// Cool.
    Cool,
}

lean_piece::worded! { Side { Warm: "warm", Neutral: "neutral", Cool: "cool" } }

/// A place with what was seen there.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FieldMark {
    /// Where.
    pub place: Spot,
    /// A colour word: "dull red".
    pub word: String,
    /// Its value as judged, 0..=10.
    #[cfg_attr(feature = "schema", schema(minimum = 0, maximum = 10))]
    pub value: Option<f64>,
    /// Warm or cool as judged.
    pub side: Option<Side>,
    /// The pigment it may be.
    pub pigment: String,
}

/// A note made in the field.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FieldNote {
    /// A line that brings the moment back.
    pub words: String,
    /// Date and time as the painter's own clock had it, `2026-11-25T08:10`.
    pub at: String,
    /// The light, in words.
    pub light: String,
    /// The weather, in words.
    pub weather: String,
    /// SHA-256 of a photo, if there is one.
    pub photo: Option<String>,
    /// Name of the photo's file.
    pub file_name: String,
    /// Width by height of the frame.
    #[cfg_attr(feature = "schema", schema(minimum = 0.2, maximum = 5))]
    pub proportion: f64,
    /// Lines of an outline drawn with a finger.
    pub outline: Vec<Vec<Spot>>,
    /// Places with what was seen there.
    pub marks: Vec<FieldMark>,
}

kept_as_text!(FieldNote);

/// Lines an outline may have.
const MOST_LINES: usize = 2000;

/// Letters of a digest, SHA-256 in hexadecimal.
const MOST_DIGEST: usize = 64;

impl FieldNote {
    /// Says what is out of range.
    ///
    /// # Errors
    /// Names what is wrong and what to do.
    pub fn check(&self) -> Result<(), String> {
        for (what, text, most) in [
            ("line of words", &self.words, 300),
            ("light", &self.light, 80),
            ("weather", &self.weather, 80),
            ("time", &self.at, 40),
            ("file name", &self.file_name, MOST_NAME),
        ] {
            let n = text.chars().count();
            if n > most {
                return Err(format!("The {what} has {n} characters; {most} fit."));
            }
        }
        if !(0.2..=5.0).contains(&self.proportion) {
            return Err(format!("A frame {} times as wide as high is out of range; it may be 0.2 to 5.", self.proportion));
        }
        if self.marks.len() > MOST_MARKS {
            return Err(format!("{MOST_MARKS} marks fit on one note. Start another."));
        }
        if self.photo.as_ref().is_some_and(|digest| digest.len() > MOST_DIGEST) {
            return Err("That names no photo. Take the photo again.".into());
        }
        if self.outline.len() > MOST_LINES || self.outline.iter().map(Vec::len).sum::<usize>() > 20_000 {
            return Err("That outline has too many points. Draw fewer, longer lines.".into());
        }
        for p in self.outline.iter().flatten().chain(self.marks.iter().map(|m| &m.place)) {
            p.checked().map_err(|_| "A line or a mark lies outside the frame. Put it inside.")?;
        }
        for m in &self.marks {
            if m.value.is_some_and(|v| !(0.0..=10.0).contains(&v)) {
                return Err("A value runs from 0 to 10.".into());
            }
            if m.word.chars().count() > 60 || m.pigment.chars().count() > 60 {
                return Err("A colour word and a pigment have 60 characters at most.".into());
            }
        }
        Ok(())
    }
}

/// The command that makes a note's photo the reference and its marks the zones: every mark gets its zone, what was judged on the spot becomes its target.
///
/// # Errors
/// When there is no mark.
pub fn with_photo(note: &FieldNote, working: &Picture, file: PictureFile) -> Result<Command, String> {
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
        Some(map) => noted(note, map, zones),
        None => zones,
    };
    Ok(Command::SetReference(SetReference { reference, zone_map, zones, cut, masses, mass_map }))
}

/// Zones around the marks of a note without a photo: every place belongs to the nearest mark that no line of the outline parts it from.
///
/// # Errors
/// When there is no mark.
pub fn without_photo(note: &FieldNote) -> Result<Command, String> {
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
    let zones = noted(note, &map, zones.collect());
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

fn noted(note: &FieldNote, map: &ZoneMap, mut zones: Vec<Zone>) -> Vec<Zone> {
    for mark in &note.marks {
        let id = map.labels[cell(mark.place, map.width as usize, map.height as usize)];
        let Some(zone) = zones.iter_mut().find(|z| z.id.0 == id) else { continue };
        let name = if mark.pigment.is_empty() { mark.word.clone() } else { format!("{} ({}?)", mark.word, mark.pigment) };
        zone.name = name.trim().chars().take(80).collect();
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

/// When and in what light and weather a note was made. A time that was not written as one is left out.
pub fn occasion(note: &FieldNote) -> Occasion {
    let noted = Occasion {
        subject: String::new(),
        at: Some(note.at.clone()).filter(|at| !at.is_empty()),
        weather: note.weather.clone(),
        light: note.light.clone(),
    };
    if noted.check().is_ok() { noted } else { Occasion { at: None, ..noted } }
}

/// What a piece made of a note is called: its words, or when it was.
pub fn title(note: &FieldNote) -> String {
    let words: String = note.words.trim().chars().take(60).collect();
    if words.is_empty() { format!("Field note, {}", note.at.replace('T', " ")) } else { words }
}

#[cfg(test)]
mod tests {
    use super::*;

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
        let Ok(Command::LayZones(LayZones { zone_map: Some(map), zones, .. })) = without_photo(&n) else { panic!("zones") };
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
            with_photo(&n, &photo, PictureFile::of("d".into(), "p.png".into(), &photo))
        else {
            panic!("zones")
        };
        let names: Vec<&str> = zones.iter().map(|z| z.name.as_str()).collect();
        assert!(["sky", "haze", "bank"].iter().all(|w| names.contains(w)), "{names:?}");
    }

    #[test]
    fn a_note_without_marks_or_photo_makes_no_piece_and_limits_are_named() {
        assert!(without_photo(&note(vec![])).unwrap_err().contains("mark"));
        assert!(note(vec![mark(1.4, 0.2, "x", 5.0, Side::Warm)]).check().unwrap_err().contains("outside"));
        assert!(note(vec![mark(0.4, 0.2, "x", 15.0, Side::Warm)]).check().is_err());
        assert!(FieldNote { proportion: 9.0, ..note(vec![]) }.check().is_err());
    }
}
