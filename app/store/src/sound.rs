//! Records known by a sum of their text: what is not as it was written is not read as if it were.

use crate::Store;
use rusqlite::Connection;
use rusqlite::functions::FunctionFlags;
use rusqlite::types::ValueRef;

/// What stands before the sum of a whole row; sums of an earlier version are those of the text alone.
const OF_ROW: char = '+';

/// Half a SHA-256.
fn of(bytes: &[u8]) -> String {
    let mut digest = Store::digest_of(bytes);
    digest.truncate(32);
    digest
}

/// Half a SHA-256 of some values of a row, each told apart from the next.
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
    format!("{OF_ROW}{}", of(&all))
}

/// Makes two functions known to SQL. `summed(body, …)` is the sum of a record and of what stands beside it. `sound(body, sum, …)` gives the text of
/// the record as bytes, or no bytes at all where it or what stands beside it is not what was summed. Records of the first versions have no sum and
/// are taken as they are. No record is empty, so that what is not sound cannot be read, and is told with the damaged.
///
/// # Errors
/// When the connection takes no function.
pub fn know(connection: &Connection) -> rusqlite::Result<()> {
    let flags = FunctionFlags::SQLITE_UTF8 | FunctionFlags::SQLITE_DETERMINISTIC;
    connection.create_scalar_function("summed", -1, flags, |c| Ok(of_row((0..c.len()).map(|n| c.get_raw(n)))))?;
    connection.create_scalar_function("sound", -1, flags, |c| {
        let body = match c.get_raw(0) {
            ValueRef::Text(b) | ValueRef::Blob(b) => b,
            _ => &[],
        };
        let as_written = match c.get_raw(1) {
            ValueRef::Null => true,
            ValueRef::Text(sum) if sum.starts_with(&[OF_ROW as u8]) => {
                of_row((0..c.len()).filter(|n| *n != 1).map(|n| c.get_raw(n))).as_bytes() == sum
            }
            ValueRef::Text(sum) => of(body).as_bytes() == sum,
            _ => false,
        };
        Ok(if as_written { body.to_vec() } else { Vec::new() })
    })
}
