//! The whole studio as one JSON text with its pictures, and back, bit for bit. docs/ARCHIVE.md describes it.

use super::half_made::HalfMade;
use crate::{Store, StoreError, migrations};
use base64::Engine;
use base64::prelude::BASE64_STANDARD;
use rusqlite::types::{Value, ValueRef};
use rusqlite::{Connection, OpenFlags, params_from_iter};
use serde::{Deserialize, Serialize};
use serde_json::value::RawValue;
use std::collections::BTreeMap;
use std::io::{Read, Write};
use std::path::Path;

/// What an archive is called on the wire.
pub const MEDIA_TYPE: &str = "application/json";
/// The first words of every archive.
const FORMAT: &str = "lean-swatch studio";
/// Version of the way archives are written.
const VERSION: u32 = 1;

/// Tables in the order in which they are written and read back, and what each is sorted by.
const TABLES: [(&str, &str); 10] = [
    ("pictures", "digest"),
    ("maps", "digest"),
    ("boxes", "id"),
    ("pieces", "id"),
    ("log", "piece, seq"),
    ("field_notes", "id"),
    ("readings", "id"),
    ("grounds", "id"),
    ("drills", "id"),
    ("sqlite_sequence", "name"),
];
/// Columns that hold JSON: written as such, their text as it was.
const JSON: [&str; 4] = ["body", "snapshot", "command", "undo"];

#[derive(Deserialize)]
struct Archive {
    format: String,
    version: u32,
    shape: usize,
    tables: BTreeMap<String, Vec<BTreeMap<String, Box<RawValue>>>>,
}

/// What stands for bytes, and for a record that is no JSON.
#[derive(Default, Serialize, Deserialize)]
struct Wrapped {
    #[serde(default, skip_serializing_if = "Option::is_none")]
    base64: Option<String>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    damaged: Option<String>,
}

fn broken(e: impl std::fmt::Display) -> StoreError {
    StoreError::NoArchive(e.to_string())
}

impl Store {
    /// Writes the whole studio. The same studio is always written the same.
    ///
    /// # Errors
    /// When the file cannot be read, or the archive not be written.
    pub fn export(&self, out: &mut dyn Write) -> Result<(), StoreError> {
        self.reading(|c| written(c, out))
    }

    /// Makes a new data file of an archive. Nobody ever sees half of it there.
    ///
    /// # Errors
    /// [`StoreError::There`] when there is a file already, [`StoreError::NoArchive`] with what is wrong, [`StoreError::Newer`].
    pub fn import(from: impl Read, to: &Path) -> Result<(), StoreError> {
        let half = HalfMade::begun(to)?;
        read_into(from, half.path())?;
        half.finished()
    }

    /// Puts a studio that was read from an archive in the place of this one, which must have nothing in it.
    ///
    /// # Errors
    /// [`StoreError::InUse`] when there is something here, and as [`Store::import`].
    pub fn import_here(&self, from: impl Read) -> Result<(), StoreError> {
        self.expect_empty()?;
        let folder = tempfile::tempdir().map_err(broken)?;
        let path = folder.path().join("imported.db");
        read_into(from, &path)?;
        let source = Connection::open_with_flags(&path, OpenFlags::SQLITE_OPEN_READ_ONLY)?;
        let mut c = self.lock();
        expect_empty(&c)?;
        rusqlite::backup::Backup::new(&source, &mut c)?.run_to_completion(i32::MAX, std::time::Duration::ZERO, None)?;
        c.pragma_update(None, "journal_mode", "WAL")?;
        drop(c);
        *self.journal_stand() = None;
        self.recent.forget();
        Ok(())
    }
}

impl Store {
    /// Whether there is nothing of anything here: no record, no picture, no paired device.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn is_empty(&self) -> Result<bool, StoreError> {
        nothing_in(&self.lock())
    }

    fn expect_empty(&self) -> Result<(), StoreError> {
        expect_empty(&self.lock())
    }
}

/// Refuses a studio that holds anything: an archive takes the place of all of it.
fn expect_empty(c: &Connection) -> Result<(), StoreError> {
    if nothing_in(c)? {
        return Ok(());
    }
    Err(StoreError::InUse(
        "There is something in this studio already (a piece, a Box, a note, a ground, a picture, a drill or a paired device), and an archive is never mixed into it. Read it into a file of its own: lean-swatch import ARCHIVE --data NEW-FILE.".into(),
    ))
}

fn nothing_in(c: &Connection) -> Result<bool, StoreError> {
    for table in TABLES.iter().map(|(table, _)| *table).filter(|t| *t != "sqlite_sequence").chain(["devices"]) {
        if c.prepare(&format!("SELECT 1 FROM {table}"))?.exists([])? {
            return Ok(false);
        }
    }
    Ok(true)
}

fn written(c: &Connection, out: &mut dyn Write) -> Result<(), StoreError> {
    let shape: i64 = c.pragma_query_value(None, "user_version", |r| r.get(0))?;
    let failed = |e: std::io::Error| if e.kind() == std::io::ErrorKind::StorageFull { StoreError::Full } else { broken(e) };
    // One look at the whole: what is written meanwhile is not in it.
    let t = c.unchecked_transaction()?;
    write!(out, "{{\"format\":\"{FORMAT}\",\"version\":{VERSION},\"shape\":{shape},\n\"tables\":{{").map_err(failed)?;
    for (i, (table, order)) in TABLES.iter().enumerate() {
        write!(out, "{}\n\"{table}\":[", if i > 0 { "," } else { "" }).map_err(failed)?;
        let mut rows = t.prepare(&format!("SELECT * FROM {table} ORDER BY {order}"))?;
        let names: Vec<String> = rows.column_names().into_iter().map(str::to_owned).collect();
        let mut rows = rows.query([])?;
        let mut first = true;
        while let Some(row) = rows.next()? {
            write!(out, "{}\n{{", if first { "" } else { "," }).map_err(failed)?;
            first = false;
            for (n, name) in names.iter().enumerate() {
                write!(out, "{}\"{name}\":{}", if n > 0 { "," } else { "" }, field(name, row.get_ref(n)?)?).map_err(failed)?;
            }
            write!(out, "}}").map_err(failed)?;
        }
        write!(out, "]").map_err(failed)?;
    }
    writeln!(out, "\n}}}}").map_err(failed)
}

fn field(name: &str, value: ValueRef) -> Result<String, StoreError> {
    let text = |t: &[u8]| {
        let json = JSON.contains(&name);
        match std::str::from_utf8(t) {
            Ok(t) if json && serde_json::from_str::<&RawValue>(t).is_ok() => Ok(t.to_owned()),
            Ok(t) if json => serde_json::to_string(&Wrapped { damaged: Some(BASE64_STANDARD.encode(t)), base64: None }),
            Ok(t) => serde_json::to_string(t),
            Err(_) => serde_json::to_string(&Wrapped { damaged: Some(BASE64_STANDARD.encode(t)), base64: None }),
        }
    };
    Ok(match value {
        ValueRef::Null => "null".into(),
        ValueRef::Integer(i) => i.to_string(),
        ValueRef::Real(x) => serde_json::to_string(&x)?,
        ValueRef::Text(t) => text(t)?,
        ValueRef::Blob(b) => serde_json::to_string(&Wrapped { base64: Some(BASE64_STANDARD.encode(b)), damaged: None })?,
    })
}

fn read_into(from: impl Read, path: &Path) -> Result<(), StoreError> {
    let archive: Archive = serde_json::from_reader(std::io::BufReader::new(from)).map_err(broken)?;
    if archive.format != FORMAT {
        return Err(StoreError::NoArchive(format!("it says it is \"{}\"", archive.format.chars().take(60).collect::<String>())));
    }
    if archive.version > VERSION || archive.shape > migrations::SHAPE {
        return Err(StoreError::Newer);
    }
    let mut c = Connection::open(path)?;
    c.pragma_update(None, "foreign_keys", "OFF")?;
    // Nobody looks at half of it, so that no journal is needed, and none is left beside it.
    c.pragma_update(None, "journal_mode", "OFF")?;
    migrations::bring_to(&mut c, archive.shape)?;
    let t = c.transaction()?;
    for (table, _) in TABLES {
        let columns = columns(&t, table)?;
        for (nth, row) in archive.tables.get(table).into_iter().flatten().enumerate() {
            put(&t, table, &columns, row).map_err(|e| StoreError::NoArchive(format!("row {} of \"{table}\": {e}", nth + 1)))?;
        }
    }
    if let Some(unknown) = archive.tables.keys().find(|name| !TABLES.iter().any(|(t, _)| t == name)) {
        return Err(StoreError::NoArchive(format!("nothing is called \"{unknown}\" here")));
    }
    t.commit()?;
    let astray: Option<String> =
        c.query_row("SELECT \"table\" FROM pragma_foreign_key_check LIMIT 1", [], |r| r.get(0)).map(Some).or_else(none)?;
    if let Some(table) = astray {
        return Err(StoreError::NoArchive(format!("something of \"{table}\" belongs to what is not in it")));
    }
    sound_pictures(&c)?;
    migrations::bring_up_to_date(&mut c)?;
    super::guarded(&c)
}

fn none<T>(e: rusqlite::Error) -> Result<Option<T>, rusqlite::Error> {
    if e == rusqlite::Error::QueryReturnedNoRows { Ok(None) } else { Err(e) }
}

fn sound_pictures(c: &Connection) -> Result<(), StoreError> {
    let mut rows = c.prepare("SELECT digest, original FROM pictures")?;
    let mut rows = rows.query([])?;
    while let Some(r) = rows.next()? {
        let (digest, original): (String, Vec<u8>) = (r.get(0)?, r.get(1)?);
        if Store::digest_of(&original) != digest {
            return Err(StoreError::NoArchive(format!("the picture {} is not what it was", digest.get(..12).unwrap_or(&digest))));
        }
    }
    Ok(())
}

/// Names of the columns of a table, and whether each holds bytes.
fn columns(c: &Connection, table: &str) -> Result<Vec<String>, StoreError> {
    let rows = c.prepare(&format!("SELECT * FROM {table} LIMIT 0"))?;
    Ok(rows.column_names().into_iter().map(str::to_owned).collect())
}

fn put(c: &Connection, table: &str, columns: &[String], row: &BTreeMap<String, Box<RawValue>>) -> Result<(), String> {
    if let Some(unknown) = row.keys().find(|k| !columns.contains(k)) {
        return Err(format!("it has no \"{unknown}\""));
    }
    let mut values = Vec::with_capacity(columns.len());
    for name in columns {
        let raw = row.get(name).ok_or_else(|| format!("\"{name}\" is missing"))?;
        values.push(value(name, raw.get())?);
    }
    if table == "sqlite_sequence" {
        // Rows of it came by themselves with what was put in; the numbers given last are those of the archive.
        c.execute("DELETE FROM sqlite_sequence WHERE name = ?1", [&values[0]]).map_err(|e| e.to_string())?;
    }
    let places: Vec<String> = (1..=columns.len()).map(|n| format!("?{n}")).collect();
    let sql = format!("INSERT INTO {table} ({}) VALUES ({})", columns.join(", "), places.join(", "));
    c.prepare_cached(&sql).and_then(|mut s| s.execute(params_from_iter(values))).map(|_| ()).map_err(|e| e.to_string())
}

fn value(name: &str, raw: &str) -> Result<Value, String> {
    let wrapped = || serde_json::from_str::<Wrapped>(raw).ok().filter(|w| w.base64.is_some() != w.damaged.is_some());
    let bytes = |text: &str| BASE64_STANDARD.decode(text).map_err(|e| format!("\"{name}\" is no base64: {e}"));
    if JSON.contains(&name) {
        return Ok(match wrapped() {
            Some(Wrapped { base64: Some(b), .. }) => Value::Blob(bytes(&b)?),
            Some(Wrapped { damaged: Some(d), .. }) => {
                Value::Text(String::from_utf8(bytes(&d)?).map_err(|_| format!("\"{name}\" is no text"))?)
            }
            _ => Value::Text(raw.to_owned()),
        });
    }
    if let Some(w) = wrapped() {
        return Ok(Value::Blob(bytes(&w.base64.or(w.damaged).unwrap_or_default())?));
    }
    let parsed: serde_json::Value = serde_json::from_str(raw).map_err(|e| e.to_string())?;
    match parsed {
        serde_json::Value::Null => Ok(Value::Null),
        serde_json::Value::String(s) => Ok(Value::Text(s)),
        serde_json::Value::Number(n) => {
            n.as_i64().map(Value::Integer).or(n.as_f64().map(Value::Real)).ok_or_else(|| format!("\"{name}\" is no number"))
        }
        _ => Err(format!("\"{name}\" is neither text nor number")),
    }
}
