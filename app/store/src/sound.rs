//! Rows known by a sum of everything in them: what is not as it was written is not read as if it were.

use crate::Store;
use rusqlite::functions::FunctionFlags;
use rusqlite::types::{Value, ValueRef};
use rusqlite::{Connection, Params};
use std::collections::BTreeMap;

/// What stands before the sum of a whole row with the name of its table.
const SEALED: &str = "=";
/// What stood before the sum of some values of a row, up to shape 13.
const SUMMED: &str = "+";

/// A table whose rows carry a sum, and what it is made of.
#[derive(Clone, Copy, Debug)]
pub(crate) struct SummedTable {
    /// Name of the table.
    pub table: &'static str,
    /// Every column but the sum itself, in the order in which they are summed.
    pub columns: &'static [&'static str],
    /// Columns whose sum it was up to shape 13, the text of the record first; none where there was no sum.
    pub before: &'static [&'static str],
}

/// Pieces.
pub(crate) const PIECES: SummedTable = SummedTable {
    table: "pieces",
    columns: &["id", "revision", "snapshot", "done", "box", "picture", "changed", "aside"],
    before: &["snapshot", "revision", "done", "box", "picture", "changed"],
};
/// Boxes.
pub(crate) const BOXES: SummedTable =
    SummedTable { table: "boxes", columns: &["id", "body", "changed", "aside"], before: &["body", "changed"] };
/// Field notes.
pub(crate) const FIELD_NOTES: SummedTable = SummedTable {
    table: "field_notes",
    columns: &["id", "body", "changed", "revision", "aside", "sent_as"],
    before: &["body", "revision", "changed", "sent_as"],
};
/// Readings of swatches.
pub(crate) const READINGS: SummedTable =
    SummedTable { table: "readings", columns: &["id", "box", "piece", "body", "changed", "aside"], before: &["body", "box", "changed"] };
/// Grounds of one's own.
pub(crate) const GROUNDS: SummedTable =
    SummedTable { table: "grounds", columns: &["id", "body", "changed", "aside"], before: &["body", "changed"] };
/// Answers given in drills.
pub(crate) const DRILLS: SummedTable =
    SummedTable { table: "drills", columns: &["id", "body", "changed", "aside"], before: &["body", "changed"] };
/// Paired devices.
pub(crate) const DEVICES: SummedTable =
    SummedTable { table: "devices", columns: &["id", "name", "carries", "paired", "seen", "aside"], before: &[] };
/// Steps of pieces.
pub(crate) const LOG: SummedTable = SummedTable {
    table: "log",
    columns: &["piece", "seq", "command", "undo", "what", "at"],
    before: &["piece", "seq", "command", "undo", "what", "at"],
};
/// All of them. Pictures and maps are known by digests of their own.
pub(crate) const ALL: [SummedTable; 8] = [PIECES, BOXES, FIELD_NOTES, READINGS, GROUNDS, DRILLS, DEVICES, LOG];

impl SummedTable {
    /// The columns for SQL, each of the table called `name`.
    fn of(&self, name: &str) -> String {
        let columns: Vec<String> = self.columns.iter().map(|c| format!("{name}.{c}")).collect();
        format!("'{}', {}", self.table, columns.join(", "))
    }

    /// SQL for the bytes of a column, or no bytes at all where the row is not what was written. No record is empty, so that what is not sound cannot
    /// be read.
    pub(crate) fn sound(&self, column: &str) -> String {
        self.sound_as(column, self.table)
    }

    /// The same where the table is called otherwise in the question.
    pub(crate) fn sound_as(&self, column: &str, name: &str) -> String {
        format!("sound({name}.{column}, {name}.sum, {})", self.of(name))
    }

    /// SQL that says whether a row is what was written.
    pub(crate) fn is_sound(&self) -> String {
        format!("{0}.sum IS sealed({1})", self.table, self.of(self.table))
    }

    /// Writes the sum of the rows a condition chooses.
    ///
    /// # Errors
    /// When the file cannot be written.
    pub(crate) fn seal(&self, c: &Connection, condition: &str, params: impl Params) -> rusqlite::Result<()> {
        let sql = format!("UPDATE {0} SET sum = sealed({1}) WHERE {condition}", self.table, self.of(self.table));
        c.prepare_cached(&sql)?.execute(params).map(|_| ())
    }

    /// Writes the sums of an earlier version anew, of the rows that are what was written then; those without a sum are taken as they are.
    ///
    /// # Errors
    /// When the file cannot be written.
    pub(crate) fn seal_as_found(&self, c: &Connection) -> rusqlite::Result<()> {
        match self.before {
            [] => self.seal(c, "true", []),
            [text, ..] => {
                let before = self.before.join(", ");
                self.seal(c, &format!("sum IS NULL OR sum = summed({before}) OR sum = digested({text})"), [])
            }
        }
    }

    /// The values of a row with the sum that belongs to them.
    pub(crate) fn sealed(&self, mut values: BTreeMap<String, Value>) -> BTreeMap<String, Value> {
        let sum = self.sum_of(|column| values.get(column).cloned().unwrap_or(Value::Null));
        values.insert("sum".into(), Value::Text(format!("{SEALED}{sum}")));
        values
    }

    fn sum_of(&self, value: impl Fn(&str) -> Value) -> String {
        let mut all = vec![Value::Text(self.table.into())];
        all.extend(self.columns.iter().map(|c| value(c)));
        of_row(all.iter().map(ValueRef::from))
    }

    /// Whether a row is what was written, by its sum. `value` gives the value of a column; a file of a `shape` before 14 has sums of the older kinds.
    pub(crate) fn vouches(&self, value: impl Fn(&str) -> Value, shape: usize) -> RowProof {
        let Value::Text(sum) = value("sum") else { return RowProof::NoSum };
        let as_written = if let Some(sum) = sum.strip_prefix(SEALED) {
            self.sum_of(&value) == sum
        } else if shape >= SINCE {
            false
        } else if let Some(sum) = sum.strip_prefix(SUMMED) {
            let all: Vec<Value> = self.before.iter().map(|c| value(c)).collect();
            of_row(all.iter().map(ValueRef::from)) == sum
        } else {
            self.before.first().is_some_and(|text| digested(bytes(ValueRef::from(&value(text)))) == sum)
        };
        if as_written { RowProof::Sound } else { RowProof::Not }
    }
}

/// Shape since which every row has the sum of all of it.
pub(crate) const SINCE: usize = 14;

/// What the sum of a row says of it.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum RowProof {
    /// It is what was written.
    Sound,
    /// It is not.
    Not,
    /// There is none.
    NoSum,
}

/// Half a SHA-256.
fn digested(bytes: &[u8]) -> String {
    let mut digest = Store::digest_of(bytes);
    digest.truncate(32);
    digest
}

fn bytes<'v>(value: ValueRef<'v>) -> &'v [u8] {
    match value {
        ValueRef::Text(b) | ValueRef::Blob(b) => b,
        _ => &[],
    }
}

/// Half a SHA-256 of some values, each told apart from the next.
fn of_row<'a>(values: impl Iterator<Item = ValueRef<'a>>) -> String {
    const NEXT: u8 = 0x1f;
    let mut all = Vec::new();
    for value in values {
        match value {
            ValueRef::Null => {}
            ValueRef::Integer(n) => all.extend(n.to_string().bytes()),
            ValueRef::Real(n) => all.extend(n.to_bits().to_string().bytes()),
            ValueRef::Text(b) | ValueRef::Blob(b) => all.extend_from_slice(b),
        }
        all.push(NEXT);
    }
    digested(&all)
}

/// Makes known to SQL: `sealed(table, …)`, the sum of a row; `sound(text, sum, table, …)`, the text as bytes or no bytes at all; and, for files of
/// earlier versions, `summed(…)` and `digested(text)`, the sums as they were.
///
/// # Errors
/// When the connection takes no function.
pub(crate) fn know(connection: &Connection) -> rusqlite::Result<()> {
    let flags = FunctionFlags::SQLITE_UTF8 | FunctionFlags::SQLITE_DETERMINISTIC;
    let all = |c: &rusqlite::functions::Context, from: usize| of_row((from..c.len()).map(|n| c.get_raw(n)));
    connection.create_scalar_function("sealed", -1, flags, move |c| Ok(format!("{SEALED}{}", all(c, 0))))?;
    connection.create_scalar_function("summed", -1, flags, move |c| Ok(format!("{SUMMED}{}", all(c, 0))))?;
    connection.create_scalar_function("digested", 1, flags, |c| Ok(digested(bytes(c.get_raw(0)))))?;
    connection.create_scalar_function("digest_of", 1, flags, |c| Ok(Store::digest_of(bytes(c.get_raw(0)))))?;
    connection.create_scalar_function("sound", -1, flags, move |c| {
        let sum = bytes(c.get_raw(1));
        let as_written = sum.strip_prefix(SEALED.as_bytes()).is_some_and(|sum| sum == all(c, 2).as_bytes());
        Ok(if as_written { bytes(c.get_raw(0)).to_vec() } else { Vec::new() })
    })
}
