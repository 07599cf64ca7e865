//! What happened with a piece.

use super::used;
use crate::entry::{EntryColour, EntryKind, JournalEntry, PigmentUse};
use lean_media::PigmentId;
use lean_piece::easel::{Departure, DepartureKind, Ending};
use lean_piece::paint_box::PaintBox;
use lean_piece::{Piece, Session, Study};
use lean_plan::studies::scheme;
use lean_recipes::Mix;

/// Every entry of a piece. `changed` is the day its record changed last: the day of what carries none of its own.
pub fn of_piece(piece: &Piece, paint_box: Option<&PaintBox>, changed: &str) -> Vec<JournalEntry> {
    let of = Of { piece, paint_box, changed };
    let mut all: Vec<JournalEntry> = piece.studies.iter().map(|s| of.study(s)).collect();
    all.extend(of.set());
    all.extend(piece.sessions.iter().zip(1..).map(|(s, n)| of.session(s, n)));
    all.extend(piece.easel.departures.iter().zip(1..).map(|(d, n)| of.departure(d, n)));
    all.extend(piece.easel.ending.as_ref().map(|e| of.ending(e)));
    all
}

struct Of<'a> {
    piece: &'a Piece,
    paint_box: Option<&'a PaintBox>,
    changed: &'a str,
}

impl Of<'_> {
    fn blank(&self, kind: EntryKind, number: u32, title: String, on: &str) -> JournalEntry {
        JournalEntry {
            kind,
            number,
            of: self.piece.brief.title.clone(),
            title,
            words: String::new(),
            on: on.to_owned(),
            occasion: self.piece.intent.occasion.clone(),
            medium: Some(self.piece.brief.medium),
            ground: self.piece.ground().name,
            scheme: String::new(),
            outcome: None,
            pigments: Vec::new(),
            colours: Vec::new(),
            read: None,
            miss: None,
            attempt: None,
            minutes: None,
            photos: self.piece.easel.photos.len(),
            photo: None,
        }
    }

    fn area(&self, zone: lean_piece::ZoneId) -> f64 {
        self.piece.zone(zone).map_or(0.0, |z| z.reading.area)
    }

    fn study(&self, study: &Study) -> JournalEntry {
        let scheme = scheme::describe(&study.scheme);
        let on = study.made.as_deref().unwrap_or(self.changed);
        let chosen = self.piece.chosen_study == Some(study.number);
        let share = |id: &PigmentId| study.mixes.iter().filter(|m| holds(&m.mix, id)).map(|m| self.area(m.zone)).sum();
        JournalEntry {
            words: study.reason.clone(),
            // The study that went on came out as its piece did.
            outcome: self.piece.easel.ending.as_ref().filter(|_| chosen).map(|e| e.outcome),
            pigments: study.pigments.iter().map(|id| used(self.paint_box, id, Some(share(id)))).collect(),
            colours: study.mixes.iter().map(|m| EntryColour { lab: m.mix.lab, share: self.area(m.zone) }).collect(),
            minutes: (study.minutes > 0).then_some(study.minutes),
            scheme: scheme.clone(),
            ..self.blank(EntryKind::Study, u32::from(study.number.0), format!("Study {}: {scheme}", study.number), on)
        }
    }

    /// The set in use, with what each pigment does in it as far as the last search knows.
    fn set(&self) -> Option<JournalEntry> {
        let chosen = &self.piece.chosen.pigments;
        if chosen.is_empty() {
            return None;
        }
        let search = self.piece.search.as_ref();
        let found = search.and_then(|s| s.sizes.iter().find(|f| same(&f.pigments, chosen)));
        let zones = search.map(|s| s.zones.as_slice()).unwrap_or_default();
        let one = |id: &PigmentId| {
            let at = found.and_then(|f| f.pigments.iter().position(|p| p == id));
            let served = found.zip(at).and_then(|(f, at)| f.serves.get(at));
            let share = served.map(|places| {
                let mut served: Vec<_> = places.iter().filter_map(|p| zones.get(*p)).collect();
                served.sort();
                served.dedup();
                served.into_iter().map(|z| self.area(*z)).sum()
            });
            PigmentUse { price: found.zip(at).and_then(|(f, at)| f.price_of_dropping.get(at).copied()), ..used(self.paint_box, id, share) }
        };
        let title = format!("A set of {}", chosen.len());
        Some(JournalEntry {
            pigments: chosen.iter().map(one).collect(),
            colours: self.planned(),
            ..self.blank(EntryKind::Set, 1, title, self.last_day())
        })
    }

    /// What the zones should be.
    fn planned(&self) -> Vec<EntryColour> {
        self.piece.zones.iter().map(|z| EntryColour { lab: self.piece.wanted(z), share: z.reading.area }).collect()
    }

    /// The day its studies were made, or else the day its record changed last.
    fn last_day(&self) -> &str {
        self.piece.studies.iter().filter_map(|s| s.made.as_deref()).max().unwrap_or(self.changed)
    }

    fn session(&self, session: &Session, number: u32) -> JournalEntry {
        let at = session.zones.iter().filter_map(|z| self.piece.zone(*z));
        JournalEntry {
            words: session.did.clone(),
            minutes: Some(session.minutes),
            colours: at.map(|z| EntryColour { lab: self.piece.wanted(z), share: z.reading.area }).collect(),
            ..self.blank(EntryKind::Session, number, format!("Session {number}"), &session.on)
        }
    }

    fn departure(&self, departure: &Departure, number: u32) -> JournalEntry {
        let (title, colours) = match &departure.change {
            DepartureKind::LeftOut { zone } => (format!("Left out: {}", self.piece.zone_label(*zone)), self.colour_of(*zone)),
            DepartureKind::Moved { zone, .. } => (format!("Moved: {}", self.piece.zone_label(*zone)), self.colour_of(*zone)),
            DepartureKind::Added { name, lab, size, .. } => {
                (format!("Added: {name}"), vec![EntryColour { lab: *lab, share: size.across * size.down }])
            }
        };
        let on = self.piece.sessions.last().map_or(self.changed, |s| s.on.as_str());
        JournalEntry { words: departure.reason.clone(), colours, ..self.blank(EntryKind::Departure, number, title, on) }
    }

    fn colour_of(&self, zone: lean_piece::ZoneId) -> Vec<EntryColour> {
        self.piece.zone(zone).map(|z| EntryColour { lab: self.piece.wanted(z), share: z.reading.area }).into_iter().collect()
    }

    fn ending(&self, ending: &Ending) -> JournalEntry {
        let minutes: u32 = self.piece.sessions.iter().map(|s| s.minutes).sum();
        JournalEntry {
            words: ending.words.clone(),
            outcome: Some(ending.outcome),
            pigments: self.set().map(|s| s.pigments).unwrap_or_default(),
            colours: self.planned(),
            scheme: self.piece.scheme.as_ref().map(scheme::describe).unwrap_or_default(),
            minutes: (minutes > 0).then_some(minutes),
            ..self.blank(EntryKind::Piece, 1, ending.outcome.words().to_owned(), &ending.on)
        }
    }
}

fn holds(mix: &Mix, id: &PigmentId) -> bool {
    mix.amounts().iter().any(|(p, n)| *p == id && *n > 0.0)
}

fn same(a: &[PigmentId], b: &[PigmentId]) -> bool {
    a.len() == b.len() && a.iter().all(|p| b.contains(p))
}
