//! The whole studio as one JSON text with its pictures, and back, bit for bit. docs/ARCHIVE.md describes it.

use super::intake::{Intake, Row, Table, noun, own_proof};
use super::meaning::{compact, meaning, tidied};
use super::unfinished_file::UnfinishedFile;
use crate::sound::{self, RowProof, SummedTable};
use crate::{Store, StoreError, migrations};
use base64::Engine;
use base64::prelude::BASE64_STANDARD;
use base64::write::EncoderWriter;
use rusqlite::blob::Blob;
use rusqlite::types::{Value, ValueRef};
use rusqlite::{Connection, MAIN_DB, OpenFlags};
use serde::{Deserialize, Serialize};
use serde_json::value::RawValue;
use std::collections::BTreeMap;
use std::io::{ErrorKind, Read, Write};
use std::path::Path;

/// What an archive is called on the wire.
pub const MEDIA_TYPE: &str = "application/json";
/// The first words of every archive.
const FORMAT: &str = "lean-swatch studio";
/// Version of the way archives are written.
const VERSION: u32 = 2;

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
    tables: BTreeMap<String, Vec<Fields>>,
}

/// A row of an archive: what stands under each name, as it was written.
type Fields = BTreeMap<String, Box<RawValue>>;

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

    /// Makes a new data file of an archive. Nobody ever sees half of it there. Gives what was left out because it is not what was written, or is
    /// missing, in sentences.
    ///
    /// # Errors
    /// [`StoreError::There`] when there is a file already, [`StoreError::NoArchive`] with what is wrong, [`StoreError::Newer`].
    pub fn import(from: impl Read, to: &Path) -> Result<Vec<String>, StoreError> {
        let half = UnfinishedFile::begun(to)?;
        let left_out = read_into(from, half.path())?;
        half.finished()?;
        Ok(left_out)
    }

    /// Puts a studio that was read from an archive in the place of this one, which must have nothing in it. Gives what was left out.
    ///
    /// # Errors
    /// [`StoreError::InUse`] when there is something here, and as [`Store::import`].
    pub fn import_here(&self, from: impl Read) -> Result<Vec<String>, StoreError> {
        self.expect_empty()?;
        let folder = match self.path() {
            Some(path) => tempfile::tempdir_in(super::unfinished_file::folder_of(path)),
            None => tempfile::tempdir(),
        };
        let folder = folder.map_err(broken)?;
        let path = folder.path().join("imported.db");
        let left_out = read_into(from, &path)?;
        let source = Connection::open_with_flags(&path, OpenFlags::SQLITE_OPEN_READ_ONLY)?;
        let mut c = self.lock();
        expect_empty(&c)?;
        rusqlite::backup::Backup::new(&source, &mut c)?.run_to_completion(i32::MAX, std::time::Duration::ZERO, None)?;
        c.pragma_update(None, "journal_mode", "WAL")?;
        drop(c);
        *self.journal_stand() = None;
        self.recent.forget();
        Ok(left_out)
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

fn failed(e: std::io::Error) -> StoreError {
    if e.kind() == ErrorKind::StorageFull { StoreError::Full } else { broken(e) }
}

fn written(c: &Connection, out: &mut dyn Write) -> Result<(), StoreError> {
    let shape: i64 = c.pragma_query_value(None, "user_version", |r| r.get(0))?;
    // One look at the whole: what is written meanwhile is not in it.
    let t = c.unchecked_transaction()?;
    write!(out, "{{\"format\":\"{FORMAT}\",\"version\":{VERSION},\"shape\":{shape},\n\"tables\":{{").map_err(failed)?;
    for (i, (table, order)) in TABLES.iter().enumerate() {
        write!(out, "{}\n\"{table}\":[", if i > 0 { "," } else { "" }).map_err(failed)?;
        match *table {
            "pictures" => pictures_written(&t, out)?,
            _ => rows_written(&t, table, order, out)?,
        }
        write!(out, "]").map_err(failed)?;
    }
    writeln!(out, "\n}}}}").map_err(failed)
}

/// Pictures, however large, a little at a time.
fn pictures_written(c: &Connection, out: &mut dyn Write) -> Result<(), StoreError> {
    let mut rows = c.prepare("SELECT rowid, digest, added, sum FROM pictures ORDER BY digest")?;
    let mut rows = rows.query([])?;
    let mut first = true;
    while let Some(row) = rows.next()? {
        let id: i64 = row.get(0)?;
        let rest = [field("digest", row.get_ref(1)?)?, field("added", row.get_ref(2)?)?, field("sum", row.get_ref(3)?)?];
        write!(out, "{}\n{{\"digest\":{},\"original\":", if first { "" } else { "," }, rest[0]).map_err(failed)?;
        first = false;
        bytes_written(c.blob_open(MAIN_DB, "pictures", "original", id, true)?, out)?;
        write!(out, ",\"working\":").map_err(failed)?;
        bytes_written(c.blob_open(MAIN_DB, "pictures", "working", id, true)?, out)?;
        write!(out, ",\"added\":{},\"sum\":{}}}", rest[1], rest[2]).map_err(failed)?;
    }
    Ok(())
}

fn bytes_written(mut blob: Blob, out: &mut dyn Write) -> Result<(), StoreError> {
    write!(out, "{{\"base64\":\"").map_err(failed)?;
    let mut encoder = EncoderWriter::new(&mut *out, &BASE64_STANDARD);
    std::io::copy(&mut blob, &mut encoder).map_err(failed)?;
    encoder.finish().map_err(failed)?;
    drop(encoder);
    write!(out, "\"}}").map_err(failed)
}

fn rows_written(c: &Connection, table: &str, order: &str, out: &mut dyn Write) -> Result<(), StoreError> {
    let sealed = sealed_of(table);
    let sound = sealed.map_or_else(|| "NULL".to_owned(), |s| s.is_sound());
    let mut rows = c.prepare(&format!("SELECT {table}.*, {sound} FROM {table} ORDER BY {order}"))?;
    let names: Vec<String> = rows.column_names().into_iter().map(str::to_owned).collect();
    let (names, of_row) = (&names[..names.len() - 1], names.len() - 1);
    let mut rows = rows.query([])?;
    let mut first = true;
    while let Some(row) = rows.next()? {
        let mut fields = BTreeMap::new();
        write!(out, "{}\n{{", if first { "" } else { "," }).map_err(failed)?;
        first = false;
        for (n, name) in names.iter().enumerate() {
            let field = field(name, row.get_ref(n)?)?;
            write!(out, "{}\"{name}\":{field}", if n > 0 { "," } else { "" }).map_err(failed)?;
            fields.insert(name.as_str(), field);
        }
        if sealed.is_some() {
            // A row that is damaged has no meaning that could be told: it goes along as it is.
            let meaning = if row.get(of_row)? { format!("\"{}\"", meaning(&fields)) } else { "null".into() };
            write!(out, ",\"meaning\":{meaning}").map_err(failed)?;
        }
        write!(out, "}}").map_err(failed)?;
    }
    Ok(())
}

fn sealed_of(table: &str) -> Option<SummedTable> {
    sound::ALL.into_iter().find(|s| s.table == table)
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

/// Reads an archive into a new data file; gives what was left out.
fn read_into(from: impl Read, path: &Path) -> Result<Vec<String>, StoreError> {
    let archive: Archive = serde_json::from_reader(std::io::BufReader::new(from)).map_err(broken)?;
    if archive.format != FORMAT {
        return Err(StoreError::NoArchive(format!("it says it is \"{}\"", archive.format.chars().take(60).collect::<String>())));
    }
    if archive.version > VERSION || archive.shape > migrations::SHAPE {
        return Err(StoreError::newer(None));
    }
    if let Some(unknown) = archive.tables.keys().find(|name| !TABLES.iter().any(|(t, _)| t == name)) {
        return Err(StoreError::NoArchive(format!("nothing is called \"{unknown}\" here")));
    }
    let mut intake = Intake::begun_at(path, archive.shape)?;
    for table in intake.tables()? {
        for (nth, fields) in archive.tables.get(&table.name).into_iter().flatten().enumerate() {
            let wrong = |e: String| StoreError::NoArchive(format!("row {} of \"{}\": {e}", nth + 1, table.name));
            let row = row(&table, fields).map_err(wrong)?;
            match judged(row, fields, archive.shape) {
                Some((row, vouched)) => intake.put(&row, vouched).map_err(wrong)?,
                None => intake.tell(format!(
                    "The {} in row {} of \"{}\" is not what was written and was left out.",
                    noun(&table.name),
                    nth + 1,
                    table.name
                )),
            }
        }
    }
    let (_, mut left_out) = intake.finished()?;
    left_out.extend(Store::open_only(path)?.check_all(&|_| {})?.problems);
    Ok(left_out)
}

/// A row as it is to be put in, and what is known of it; `None` where it was changed since it was written.
fn judged(row: Row, fields: &Fields, shape: usize) -> Option<(Row, RowProof)> {
    let proof = own_proof(&row, shape);
    let Some(sealed) = sealed_of(&row.table) else {
        return (proof != RowProof::Not).then_some((row, proof));
    };
    if proof != RowProof::Not {
        return Some((row, proof));
    }
    let raw: BTreeMap<&str, String> =
        fields.iter().filter(|(name, _)| *name != "meaning").map(|(name, raw)| (name.as_str(), raw.get().to_owned())).collect();
    match fields.get("meaning").map(|m| m.get()) {
        // It was damaged when it was written, and goes along as it is.
        Some("null") => Some((row, RowProof::Not)),
        // Another program wrote the same in other letters.
        Some(said) => (said.trim_matches('"') == meaning(&raw)).then(|| {
            let row = with_texts(row, &tidied);
            (Row { values: sealed.sealed(row.values), ..row }, RowProof::Sound)
        }),
        None if raw.values().any(|f| f.contains("\"damaged\"") && wrapped(f).is_some()) => Some((row, RowProof::Not)),
        None => {
            let row = with_texts(row, &compact);
            (own_proof(&row, shape) == RowProof::Sound).then_some((row, RowProof::Sound))
        }
    }
}

/// The same row, its JSON written otherwise.
fn with_texts(mut row: Row, written: &dyn Fn(&str) -> String) -> Row {
    for (name, value) in &mut row.values {
        if let (true, Value::Text(text)) = (JSON.contains(&name.as_str()), &value) {
            *value = Value::Text(written(text));
        }
    }
    row
}

fn row(table: &Table, fields: &Fields) -> Result<Row, String> {
    let columns: Vec<&str> = table.columns().collect();
    if let Some(unknown) = fields.keys().find(|k| *k != "meaning" && !columns.contains(&k.as_str())) {
        return Err(format!("it has no \"{unknown}\""));
    }
    let value = |name: &&str| {
        let raw = fields.get(*name).ok_or_else(|| format!("\"{name}\" is missing"))?;
        Ok((name.to_string(), value(name, raw.get())?))
    };
    Ok(Row { table: table.name.clone(), values: columns.iter().map(value).collect::<Result<_, String>>()? })
}

fn wrapped(raw: &str) -> Option<Wrapped> {
    serde_json::from_str::<Wrapped>(raw).ok().filter(|w| w.base64.is_some() != w.damaged.is_some())
}

fn value(name: &str, raw: &str) -> Result<Value, String> {
    let bytes = |text: &str| BASE64_STANDARD.decode(text).map_err(|e| format!("\"{name}\" is no base64: {e}"));
    match wrapped(raw) {
        Some(Wrapped { base64: Some(b), .. }) => return Ok(Value::Blob(bytes(&b)?)),
        Some(Wrapped { damaged: Some(d), .. }) => {
            let bytes = bytes(&d)?;
            return Ok(String::from_utf8(bytes).map_or_else(|e| Value::Blob(e.into_bytes()), Value::Text));
        }
        _ if JSON.contains(&name) => return Ok(Value::Text(raw.to_owned())),
        _ => {}
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
