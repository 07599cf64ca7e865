//! Asking the journal.

use super::{KeptEntry, Source};
use crate::StoreError;
use lean_colour::Lab;
use lean_colour::difference::ciede2000;
use lean_journal::{ALIKE, EntryKind, JournalEntry, Search, VALUE_WITHIN, reach};
use lean_media::PigmentId;
use lean_piece::paint_box::BoxId;
use rusqlite::types::Value;
use rusqlite::{Connection, params_from_iter};
use std::collections::HashMap;

/// What fits a search.
#[derive(Clone, Debug, PartialEq)]
pub struct Found {
    /// The entries asked for.
    pub entries: Vec<KeptEntry>,
    /// How many fit in all.
    pub all: usize,
    /// Pieces and readings that are still to be read: until then some entries may be missing.
    pub left: usize,
}

/// What there is to choose from in a search, most common first.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Choices {
    /// Kinds of weather.
    pub weather: Vec<String>,
    /// Kinds of light.
    pub light: Vec<String>,
    /// Subjects.
    pub subject: Vec<String>,
    /// Grounds by name.
    pub ground: Vec<String>,
    /// Schemes in words.
    pub scheme: Vec<String>,
    /// Pigments with what they are called.
    pub pigment: Vec<(PigmentId, String)>,
    /// How many entries of each kind there are.
    pub kinds: Vec<(EntryKind, usize)>,
}

/// Conditions that all must hold, with what they are held against.
#[derive(Default)]
struct Where {
    conditions: Vec<String>,
    values: Vec<Value>,
}

impl Where {
    fn and(&mut self, condition: &str, value: impl Into<Value>) {
        self.values.push(value.into());
        self.conditions.push(condition.replace("?", &format!("?{}", self.values.len())));
    }

    fn is(&mut self, column: &str, wanted: Option<String>) {
        if let Some(w) = wanted {
            self.and(&format!("j.{column} = ?"), w);
        }
    }

    fn sql(&self) -> String {
        if self.conditions.is_empty() { "1".into() } else { self.conditions.join(" AND ") }
    }
}

fn plain<T: serde::Serialize>(of: T) -> Result<String, StoreError> {
    Ok(serde_json::to_string(&of)?.trim_matches('"').to_owned())
}

fn conditions(s: &Search) -> Result<Where, StoreError> {
    let mut w = Where::default();
    let terms = s.terms();
    if !terms.is_empty() {
        // Quoted, so that no word of the painter's is taken for a command of the index.
        let asked: Vec<String> = terms.iter().map(|t| format!("\"{t}\"*")).collect();
        w.and("j.id IN (SELECT rowid FROM journal_words WHERE journal_words MATCH ?)", asked.join(" AND "));
    }
    if !s.kinds.is_empty() {
        let kinds: Vec<&str> = s.kinds.iter().map(|k| k.key()).collect();
        w.and("j.kind IN (SELECT value FROM json_each(?))", serde_json::to_string(&kinds)?);
    }
    if let Some(season) = s.season {
        w.and("j.month IN (SELECT value FROM json_each(?))", serde_json::to_string(&season.months(s.southern).to_vec())?);
    }
    if let Some(time) = s.day_time {
        let (from, to) = time.hours();
        // Night runs over midnight.
        let hours: Vec<u8> = if from < to { (from..to).collect() } else { (from..24).chain(0..to).collect() };
        w.and("j.hour IN (SELECT value FROM json_each(?))", serde_json::to_string(&hours)?);
    }
    w.is("weather", s.weather.clone());
    w.is("light", s.light.clone());
    w.is("subject", s.subject.clone());
    w.is("ground", s.ground.clone());
    w.is("scheme", s.scheme.clone());
    w.is("medium", s.medium.map(plain).transpose()?);
    w.is("outcome", s.outcome.map(plain).transpose()?);
    if let Some(p) = &s.pigment {
        w.and("j.id IN (SELECT entry FROM journal_pigments WHERE pigment = ?)", p.0.clone());
    }
    if let Some(from) = &s.from {
        w.and("j.day >= ?", from.clone());
    }
    if let Some(to) = &s.to {
        w.and("j.day <= ?", to.clone());
    }
    if let Some(v) = s.value {
        w.and("j.value >= ?", v.0 - VALUE_WITHIN);
        w.and("j.value <= ?", v.0 + VALUE_WITHIN);
    }
    Ok(w)
}

/// Entries with a colour alike, each with how near its nearest comes.
fn alike(c: &Connection, wanted: Lab) -> Result<HashMap<i64, f64>, StoreError> {
    let [l, a, b] = reach(wanted);
    let mut rows = c.prepare_cached(
        "SELECT entry, l0, a0, b0 FROM journal_colours WHERE l1 >= ?1 AND l0 <= ?2 AND a1 >= ?3 AND a0 <= ?4 AND b1 >= ?5 AND b0 <= ?6",
    )?;
    let bounds = [wanted.l - l, wanted.l + l, wanted.a - a, wanted.a + a, wanted.b - b, wanted.b + b];
    let rows = rows.query_map(params_from_iter(bounds), |r| Ok((r.get::<_, i64>(0)?, Lab::new(r.get(1)?, r.get(2)?, r.get(3)?))))?;
    let mut nearest: HashMap<i64, f64> = HashMap::new();
    for row in rows {
        let (entry, lab) = row?;
        let d = ciede2000(lab, wanted);
        if d <= ALIKE {
            nearest.entry(entry).and_modify(|n| *n = n.min(d)).or_insert(d);
        }
    }
    Ok(nearest)
}

/// See [`crate::Store::journal`].
pub(super) fn find(c: &Connection, search: &Search, skipped: usize, most: usize) -> Result<Found, StoreError> {
    let mut w = conditions(search)?;
    let nearest = match search.colour {
        Some(lab) => {
            let found = alike(c, lab)?;
            let ids: Vec<i64> = found.keys().copied().collect();
            w.and("j.id IN (SELECT value FROM json_each(?))", serde_json::to_string(&ids)?);
            Some(found)
        }
        None => None,
    };
    let mut rows = c.prepare_cached(&format!("SELECT j.id FROM journal j WHERE {} ORDER BY j.day DESC, j.id DESC", w.sql()))?;
    let mut ids: Vec<i64> = rows.query_map(params_from_iter(w.values.iter()), |r| r.get(0))?.collect::<Result<_, _>>()?;
    if let Some(nearest) = nearest {
        let far = |id: &i64| nearest.get(id).copied().unwrap_or(f64::INFINITY);
        ids.sort_by(|a, b| far(a).total_cmp(&far(b)));
    }
    let all = ids.len();
    let entries = ids.into_iter().skip(skipped).take(most).map(|id| one(c, id)).collect::<Result<Vec<_>, _>>()?;
    Ok(Found { entries: entries.into_iter().flatten().collect(), all, left: 0 })
}

fn one(c: &Connection, id: i64) -> Result<Option<KeptEntry>, StoreError> {
    let mut row = c.prepare_cached(
        "SELECT j.source, j.of, j.body, r.box FROM journal j LEFT JOIN readings r ON j.source = 'reading' AND r.id = j.of WHERE j.id = ?1",
    )?;
    let (source, of, body, paint_box): (String, i64, String, Option<String>) =
        row.query_row([id], |r| Ok((r.get(0)?, r.get(1)?, r.get(2)?, r.get(3)?)))?;
    let source = match source.as_str() {
        "piece" => Source::Piece(of),
        "reading" => Source::Reading(BoxId(paint_box.unwrap_or_default()), of),
        _ => Source::Note(of),
    };
    // Of an earlier shape: it is made anew when its source changes.
    Ok(serde_json::from_str(&body).ok().map(|entry| KeptEntry { id, source, entry }))
}

/// See [`crate::Store::journal_entries`].
pub(super) fn all(c: &Connection, kinds: &[EntryKind]) -> Result<Vec<JournalEntry>, StoreError> {
    let keys: Vec<&str> = kinds.iter().map(|k| k.key()).collect();
    let mut rows = c.prepare_cached("SELECT body FROM journal WHERE kind IN (SELECT value FROM json_each(?1)) ORDER BY day, id")?;
    let rows: Vec<String> = rows.query_map([serde_json::to_string(&keys)?], |r| r.get(0))?.collect::<Result<_, _>>()?;
    Ok(rows.iter().filter_map(|body| serde_json::from_str(body).ok()).collect())
}

/// See [`crate::Store::journal_choices`].
pub(super) fn choices(c: &Connection) -> Result<Choices, StoreError> {
    let texts = |column: &str| -> Result<Vec<String>, StoreError> {
        let sql = format!("SELECT {column} FROM journal WHERE {column} <> '' GROUP BY {column} ORDER BY count(*) DESC, {column} LIMIT 60");
        Ok(c.prepare_cached(&sql)?.query_map([], |r| r.get(0))?.collect::<Result<_, _>>()?)
    };
    let mut pigments = c.prepare_cached(
        "SELECT p.pigment, (SELECT json_extract(u.value, '$.name') FROM json_each(j.body, '$.pigments') u
            WHERE json_extract(u.value, '$.pigment') = p.pigment)
         FROM (SELECT pigment, max(entry) AS entry, count(*) AS n FROM journal_pigments GROUP BY pigment) p
         JOIN journal j ON j.id = p.entry ORDER BY p.n DESC, p.pigment LIMIT 200",
    )?;
    let pigment = pigments.query_map([], |r| Ok((PigmentId(r.get(0)?), r.get::<_, Option<String>>(1)?)))?;
    let pigment: Vec<(PigmentId, Option<String>)> = pigment.collect::<Result<_, _>>()?;
    let counted = |k: EntryKind| -> Result<(EntryKind, usize), StoreError> {
        let n: i64 = c.prepare_cached("SELECT count(*) FROM journal WHERE kind = ?1")?.query_row([k.key()], |r| r.get(0))?;
        Ok((k, n as usize))
    };
    Ok(Choices {
        weather: texts("weather")?,
        light: texts("light")?,
        subject: texts("subject")?,
        ground: texts("ground")?,
        scheme: texts("scheme")?,
        pigment: pigment.into_iter().map(|(id, name)| (id.clone(), name.unwrap_or(id.0))).collect(),
        kinds: EntryKind::ALL.iter().copied().map(counted).collect::<Result<_, _>>()?,
    })
}
