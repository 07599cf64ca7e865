//! Records known by a sum of their text: what is not as it was written is not read as if it were.

use crate::Store;
use rusqlite::Connection;
use rusqlite::functions::FunctionFlags;
use rusqlite::types::ValueRef;

/// The sum a record is known by: half a SHA-256 of its text.
pub fn sum_of(body: &str) -> String {
    of(body.as_bytes())
}

fn of(body: &[u8]) -> String {
    let mut digest = Store::digest_of(body);
    digest.truncate(32);
    digest
}

/// Makes `sound(body, sum)` known to SQL: the text of a record as bytes, or no bytes at all where it is not what was summed. Records of earlier
/// versions have no sum and are taken as they are. No record is empty, so that what is not sound cannot be read, and is told with the damaged.
///
/// # Errors
/// When the connection takes no function.
pub fn know(connection: &Connection) -> rusqlite::Result<()> {
    let flags = FunctionFlags::SQLITE_UTF8 | FunctionFlags::SQLITE_DETERMINISTIC;
    connection.create_scalar_function("sound", 2, flags, |c| {
        let body = match c.get_raw(0) {
            ValueRef::Text(b) | ValueRef::Blob(b) => b,
            _ => &[],
        };
        let as_written = match c.get_raw(1) {
            ValueRef::Null => true,
            ValueRef::Text(sum) => of(body).as_bytes() == sum,
            _ => false,
        };
        Ok(if as_written { body.to_vec() } else { Vec::new() })
    })
}
