//! Rows that come from elsewhere, put into a new data file: each once, what they draw on beside them, and what could not be taken in told.

use super::unfinished_file::UnfinishedFile;
use crate::sound::{self, RowProof, SummedTable};
use crate::{Store, StoreError, migrations, now};
use lean_media::Medium;
use lean_picture::KeptMap;
use lean_piece::paint_box::{BoxId, PaintBox};
use lean_piece::{KeptText, Piece};
use rusqlite::types::Value;
use rusqlite::{Connection, OptionalExtension, params, params_from_iter};
use std::collections::{BTreeMap, HashMap};

/// Tables of records and of what they name, in the order in which they are put in.
pub(crate) const TABLES: [&str; 11] =
    ["pictures", "maps", "boxes", "pieces", "log", "field_notes", "readings", "grounds", "drills", "devices", "sqlite_sequence"];

/// The painter's word for a row of a table.
pub(crate) fn noun(table: &str) -> &'static str {
    match table {
        "pictures" => "picture",
        "maps" => "map of zones",
        "boxes" => "Box",
        "pieces" => "piece",
        "log" => "step",
        "field_notes" => "field note",
        "readings" => "reading",
        "grounds" => "ground",
        "drills" => "answer of a drill",
        "devices" => "paired device",
        _ => "number",
    }
}

/// A row of a table.
#[derive(Clone, Debug)]
pub(crate) struct Row {
    /// Name of the table.
    pub table: String,
    /// Its values by the name of their column.
    pub values: BTreeMap<String, Value>,
}

impl Row {
    /// A value; none where there is no such column.
    pub(crate) fn value(&self, column: &str) -> Value {
        self.values.get(column).cloned().unwrap_or(Value::Null)
    }

    /// What tells it from others of its table, as words.
    pub(crate) fn key(&self) -> String {
        let word = |column: &str| match self.value(column) {
            Value::Text(t) => t,
            Value::Integer(n) => n.to_string(),
            other => format!("{other:?}"),
        };
        match self.table.as_str() {
            "log" => format!("{} of the piece {}", word("seq"), word("piece")),
            "pictures" | "maps" => word("digest"),
            "sqlite_sequence" => word("name"),
            _ => word("id"),
        }
    }
}

/// A table as a file of some shape has it.
pub(crate) struct Table {
    /// Its name.
    pub name: String,
    /// Its columns, and what stands where a row was written before there was one.
    columns: Vec<(String, Value)>,
    /// The column that is the number of the row.
    numbered: Option<usize>,
}

impl Table {
    /// The tables of a data file.
    ///
    /// # Errors
    /// When it cannot be read.
    pub(crate) fn all(c: &Connection) -> Result<Vec<Self>, StoreError> {
        let mut found = Vec::new();
        for name in TABLES {
            let mut rows = c.prepare("SELECT name, dflt_value, pk, type FROM pragma_table_info(?1) ORDER BY cid")?;
            let read = |r: &rusqlite::Row| {
                Ok((r.get::<_, String>(0)?, r.get::<_, Option<String>>(1)?, r.get::<_, i64>(2)?, r.get::<_, String>(3)?))
            };
            let rows: Vec<(String, Option<String>, i64, String)> = rows.query_map([name], read)?.collect::<Result<_, _>>()?;
            if rows.is_empty() {
                continue;
            }
            let numbered = rows.iter().position(|(_, _, pk, kind)| *pk > 0 && kind == "INTEGER").filter(|_| name != "log");
            let column = |(name, default, ..): (String, Option<String>, i64, String)| {
                let default = default.and_then(|d| d.parse().ok()).map_or(Value::Null, Value::Integer);
                (name, default)
            };
            found.push(Self { name: name.into(), columns: rows.into_iter().map(column).collect(), numbered });
        }
        Ok(found)
    }

    /// The row that some values are, if there are not more of them than columns. `number` is that of the row.
    pub(crate) fn row(&self, values: &[Value], number: Option<i64>) -> Option<Row> {
        if values.is_empty() || values.len() > self.columns.len() || (self.numbered.is_some() && number.is_none()) {
            return None;
        }
        let value = |(n, (name, default)): (usize, &(String, Value))| {
            let value = match number.filter(|_| self.numbered == Some(n)) {
                Some(number) => Value::Integer(number),
                None => values.get(n).cloned().unwrap_or_else(|| default.clone()),
            };
            (name.clone(), value)
        };
        Some(Row { table: self.name.clone(), values: self.columns.iter().enumerate().map(value).collect() })
    }

    /// Names of its columns.
    pub(crate) fn columns(&self) -> impl Iterator<Item = &str> {
        self.columns.iter().map(|(name, _)| name.as_str())
    }
}

/// What a row says of itself: by its sum, or by the digest it is named by.
pub(crate) fn own_proof(row: &Row, shape: usize) -> RowProof {
    let said = |ok: bool| if ok { RowProof::Sound } else { RowProof::Not };
    match (row.table.as_str(), row.value("digest")) {
        ("pictures", Value::Text(digest)) => match (row.value("original"), row.value("working"), row.value("sum")) {
            (Value::Blob(original), Value::Blob(working), Value::Text(sum)) => {
                said(Store::digest_of(&original) == digest && Store::digest_of(&working) == sum)
            }
            (Value::Blob(original), Value::Blob(_), Value::Null) if shape < sound::SINCE => said(Store::digest_of(&original) == digest),
            _ => RowProof::Not,
        },
        ("maps", Value::Text(digest)) => match row.value("body") {
            Value::Blob(body) => said(KeptMap::unpacked(&body).is_ok_and(|m| m.digest() == digest)),
            _ => RowProof::Not,
        },
        ("sqlite_sequence", _) => match (row.values.len(), row.value("name"), row.value("seq")) {
            // It has no sum: only names of tables that number their rows are believed.
            (2, Value::Text(name), Value::Integer(_)) => {
                if TABLES.contains(&name.as_str()) {
                    RowProof::NoSum
                } else {
                    RowProof::Not
                }
            }
            _ => RowProof::Not,
        },
        _ => match sealed_of(&row.table).map_or(RowProof::Not, |s| s.vouches(|column| row.value(column), shape)) {
            RowProof::NoSum if shape >= sound::SINCE => RowProof::Not,
            vouched => vouched,
        },
    }
}

fn sealed_of(table: &str) -> Option<SummedTable> {
    sound::ALL.into_iter().find(|s| s.table == table)
}

/// A new data file that rows are put into.
pub(crate) struct Intake {
    c: Connection,
    /// Rows that are in it: whether each is what was written, and its revision.
    known: HashMap<(String, String), (bool, i64)>,
    told: Vec<String>,
    taken: usize,
}

impl Intake {
    /// A data file of a shape, still empty, at the place of a file that is being made.
    ///
    /// # Errors
    /// When it cannot be written.
    pub(crate) fn begun(at: &UnfinishedFile, shape: usize) -> Result<Self, StoreError> {
        Self::begun_at(at.path(), shape)
    }

    /// The same at any place.
    ///
    /// # Errors
    /// As [`Intake::begun`].
    pub(crate) fn begun_at(path: &std::path::Path, shape: usize) -> Result<Self, StoreError> {
        let mut c = Connection::open(path)?;
        sound::know(&c)?;
        c.pragma_update(None, "foreign_keys", "OFF")?;
        // Nobody looks at half of it, so that no journal is needed, and none is left beside it.
        c.pragma_update(None, "journal_mode", "OFF")?;
        migrations::bring_to(&mut c, shape)?;
        c.execute_batch("BEGIN")?;
        Ok(Self { c, known: HashMap::new(), told: Vec::new(), taken: 0 })
    }

    /// Its tables.
    ///
    /// # Errors
    /// When it cannot be read.
    pub(crate) fn tables(&self) -> Result<Vec<Table>, StoreError> {
        Table::all(&self.c)
    }

    /// Says what could not be taken in.
    pub(crate) fn tell(&mut self, words: String) {
        self.told.push(words);
    }

    /// Puts a row in. Of two that are the same record the one that is what was written stays, and of two of those the newer one.
    ///
    /// # Errors
    /// In words why the table does not take it.
    pub(crate) fn put(&mut self, row: &Row, vouched: RowProof) -> Result<(), String> {
        let sound = vouched != RowProof::Not;
        let revision = if let Value::Integer(n) = row.value("revision") { n } else { 0 };
        let key = (row.table.clone(), row.key());
        if let Some(&(was_sound, was)) = self.known.get(&key)
            && (was_sound, was) >= (sound, revision)
        {
            return Ok(());
        }
        if row.table == "sqlite_sequence" {
            // Rows of it came by themselves with what was put in; the numbers given last are those that are told.
            self.c.execute("DELETE FROM sqlite_sequence WHERE name = ?1", [row.value("name")]).map_err(|e| e.to_string())?;
        }
        let names: Vec<&str> = row.values.keys().map(String::as_str).collect();
        // Text that is no text any more stays what it is, byte for byte.
        let as_text = |name: &&str| matches!((*name, row.value(name)), ("snapshot" | "body" | "command" | "undo", Value::Blob(_)) if row.table != "maps");
        let places: Vec<String> = names
            .iter()
            .enumerate()
            .map(|(n, name)| if as_text(name) { format!("CAST(?{} AS TEXT)", n + 1) } else { format!("?{}", n + 1) })
            .collect();
        let sql = format!("INSERT OR REPLACE INTO {} ({}) VALUES ({})", row.table, names.join(", "), places.join(", "));
        self.c.prepare_cached(&sql).and_then(|mut s| s.execute(params_from_iter(row.values.values()))).map_err(|e| e.to_string())?;
        self.known.insert(key, (sound, revision));
        self.taken += 1;
        Ok(())
    }

    /// Brings it to the shape of today and makes good what rows draw on that is not there. Gives how many rows were taken in, and what is told.
    ///
    /// # Errors
    /// When it cannot be written.
    pub(crate) fn finished(mut self) -> Result<(usize, Vec<String>), StoreError> {
        self.c.execute_batch("COMMIT")?;
        migrations::bring_up_to_date(&mut self.c)?;
        let t = self.c.unchecked_transaction()?;
        stand_in_boxes(&t, &mut self.told)?;
        stand_in_pictures(&t, &mut self.told)?;
        steps_of_nothing(&t, &mut self.told)?;
        trials_of_nothing(&t)?;
        for table in TABLES {
            // A number is never given twice, whatever was lost.
            let numbered = format!(
                "INSERT INTO sqlite_sequence (name, seq) SELECT ?1, max(id) FROM {table} WHERE ?1 NOT IN (SELECT name FROM sqlite_sequence) HAVING count(*) > 0"
            );
            let raised = format!("UPDATE sqlite_sequence SET seq = max(seq, (SELECT coalesce(max(id), 0) FROM {table})) WHERE name = ?1");
            if matches!(table, "pieces" | "field_notes" | "readings" | "grounds" | "drills") {
                t.execute(&numbered, [table])?;
                t.execute(&raised, [table])?;
            }
        }
        t.commit()?;
        super::guarded(&self.c)?;
        Ok((self.taken, self.told))
    }
}

fn texts(c: &Connection, sql: &str) -> Result<Vec<String>, StoreError> {
    let mut rows = c.prepare(sql)?;
    Ok(rows.query_map([], |r| r.get(0))?.collect::<Result<_, _>>()?)
}

/// An empty Box where one is drawn on that is not there.
fn stand_in_boxes(c: &Connection, told: &mut Vec<String>) -> Result<(), StoreError> {
    const MISSING: &str = "SELECT box FROM pieces WHERE box IS NOT NULL UNION SELECT box FROM readings EXCEPT SELECT id FROM boxes";
    for id in texts(c, MISSING)? {
        let piece: Option<Vec<u8>> =
            c.query_row("SELECT CAST(snapshot AS BLOB) FROM pieces WHERE box = ?1", [&id], |r| r.get(0)).optional()?;
        let medium = piece.and_then(|text| Piece::from_text(&text).ok()).map_or(Medium::Oil, |p| p.brief.medium);
        let stand_in = PaintBox { name: format!("Lost Box {id}"), medium, pigments: Vec::new() };
        crate::boxes::write(c, &BoxId(id.clone()), &stand_in)?;
        told.push(format!("The Box {id} is missing: an empty one, \"Lost Box {id}\", stands in its place."));
    }
    Ok(())
}

/// An empty picture where one is named that is not there: dropped again, the file takes its place.
fn stand_in_pictures(c: &Connection, told: &mut Vec<String>) -> Result<(), StoreError> {
    const MISSING: &str = "SELECT picture FROM pieces WHERE picture IS NOT NULL EXCEPT SELECT digest FROM pictures";
    for digest in texts(c, MISSING)? {
        c.execute(
            "INSERT INTO pictures (digest, original, working, added, sum) VALUES (?1, x'', x'', ?2, digest_of(x''))",
            params![digest, now()],
        )?;
        told.push(format!("The picture {} is missing: drop the file on its piece again.", digest.get(..12).unwrap_or(&digest)));
    }
    Ok(())
}

fn steps_of_nothing(c: &Connection, told: &mut Vec<String>) -> Result<(), StoreError> {
    let mut rows = c.prepare("SELECT piece, count(*) FROM log WHERE piece NOT IN (SELECT id FROM pieces) GROUP BY piece")?;
    let gone: Vec<(i64, i64)> = rows.query_map([], |r| Ok((r.get(0)?, r.get(1)?)))?.collect::<Result<_, _>>()?;
    for (piece, steps) in gone {
        c.execute("DELETE FROM log WHERE piece = ?1", [piece])?;
        told.push(format!("The piece {piece} is missing; {steps} steps of it were left out."));
    }
    Ok(())
}

/// Readings that were trials for a piece that is not there are readings of their Box still.
fn trials_of_nothing(c: &Connection) -> Result<(), StoreError> {
    let mut rows =
        c.prepare(&format!("SELECT id FROM readings WHERE piece NOT IN (SELECT id FROM pieces) AND {}", sound::READINGS.is_sound()))?;
    let all: Vec<i64> = rows.query_map([], |r| r.get(0))?.collect::<Result<_, _>>()?;
    c.execute("UPDATE readings SET piece = NULL WHERE piece NOT IN (SELECT id FROM pieces)", [])?;
    for id in all {
        sound::READINGS.seal(c, "id = ?1", [id])?;
    }
    Ok(())
}
