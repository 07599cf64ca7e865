//! Cells of a page and the values in them. Nothing is believed: what does not fit is left out.
//! Source: the published description of SQLite's file format, versions 3.

use super::image::{Image, PAGE, u32_at};
use rusqlite::types::Value;

/// Bytes before the first page begins.
const FILE_HEAD: usize = 100;

/// A page that is part of a tree.
pub(super) struct Node {
    /// What it holds.
    pub cells: Vec<Cell>,
    /// Pages below it.
    pub below: Vec<u32>,
    /// Cells that could not be read.
    pub broken: usize,
}

/// One row as it lies in a page.
pub(super) struct Cell {
    /// Its number, in tables that number their rows.
    pub row: Option<i64>,
    /// Its values.
    pub values: Vec<Value>,
    /// Pages that hold the rest of it.
    pub rest: Vec<u32>,
}

/// Reads a page as part of a tree; `None` where it is no such page.
pub(crate) fn node(image: &Image, number: u32) -> Option<Node> {
    let page = image.page(number)?;
    let head = if number == 1 { FILE_HEAD } else { 0 };
    let (inner, table) = match page[head] {
        0x02 => (true, false),
        0x05 => (true, true),
        0x0a => (false, false),
        0x0d => (false, true),
        _ => return None,
    };
    let count = usize::from(u16::from_be_bytes([page[head + 3], page[head + 4]]));
    let first = head + if inner { 12 } else { 8 };
    if first + 2 * count > PAGE {
        return None;
    }
    let mut node = Node { cells: Vec::new(), below: Vec::new(), broken: 0 };
    for n in 0..count {
        let at = usize::from(u16::from_be_bytes([page[first + 2 * n], page[first + 2 * n + 1]]));
        let mut at = at;
        if inner {
            node.below.extend(u32_at(&page, at));
            at += 4;
        }
        if inner && table {
            continue;
        }
        match cell(image, &page, at, table) {
            Some(cell) => node.cells.push(cell),
            None => node.broken += 1,
        }
    }
    if inner {
        node.below.extend(u32_at(&page, head + 8));
    }
    Some(node)
}

fn cell(image: &Image, page: &[u8], at: usize, table: bool) -> Option<Cell> {
    let (length, at) = varint(page, at)?;
    let (row, at) = if table { varint(page, at).map(|(n, at)| (Some(n), at))? } else { (None, at) };
    let length = usize::try_from(length).ok()?;
    let here = here(length, table);
    let mut bytes = page.get(at..at + here)?.to_vec();
    let mut rest = Vec::new();
    let mut next = if here < length { u32_at(page, at + here)? } else { 0 };
    while bytes.len() < length {
        if rest.len() > image.pages() as usize {
            return None;
        }
        let more = image.page(next)?;
        rest.push(next);
        let take = (length - bytes.len()).min(PAGE - 4);
        bytes.extend_from_slice(&more[4..4 + take]);
        next = u32_at(&more, 0)?;
    }
    Some(Cell { row, values: values(&bytes)?, rest })
}

/// How many bytes of a row of so many lie in its own page.
fn here(length: usize, table: bool) -> usize {
    let most = if table { PAGE - 35 } else { (PAGE - 12) * 64 / 255 - 23 };
    if length <= most {
        return length;
    }
    let least = (PAGE - 12) * 32 / 255 - 23;
    let fits = least + (length - least) % (PAGE - 4);
    if fits <= most { fits } else { least }
}

/// A number of one to nine bytes, and where it ends.
fn varint(bytes: &[u8], at: usize) -> Option<(i64, usize)> {
    let mut number: u64 = 0;
    for n in 0..9 {
        let byte = *bytes.get(at + n)?;
        if n == 8 {
            return Some(((number << 8 | u64::from(byte)) as i64, at + 9));
        }
        number = number << 7 | u64::from(byte & 0x7f);
        if byte < 0x80 {
            return Some((number as i64, at + n + 1));
        }
    }
    None
}

/// The values of a row.
fn values(bytes: &[u8]) -> Option<Vec<Value>> {
    let (head, mut at) = varint(bytes, 0)?;
    let head = usize::try_from(head).ok().filter(|h| *h <= bytes.len())?;
    let mut body = head;
    let mut found = Vec::new();
    while at < head {
        let (kind, next) = varint(bytes, at)?;
        at = next;
        let (value, length) = value(kind, bytes, body)?;
        body += length;
        found.push(value);
    }
    Some(found)
}

fn value(kind: i64, bytes: &[u8], at: usize) -> Option<(Value, usize)> {
    let whole = |length: usize| -> Option<i64> {
        let bytes = bytes.get(at..at + length)?;
        let sign = if bytes.first().is_some_and(|b| *b >= 0x80) { -1 } else { 0 };
        Some(bytes.iter().fold(sign, |n: i64, b| n << 8 | i64::from(*b)))
    };
    Some(match kind {
        0 => (Value::Null, 0),
        1..=4 => (Value::Integer(whole(kind as usize)?), kind as usize),
        5 => (Value::Integer(whole(6)?), 6),
        6 => (Value::Integer(whole(8)?), 8),
        7 => (Value::Real(f64::from_bits(whole(8)? as u64)), 8),
        8 => (Value::Integer(0), 0),
        9 => (Value::Integer(1), 0),
        10 | 11 => return None,
        _ => {
            let length = usize::try_from((kind - 12) / 2).ok()?;
            let bytes = bytes.get(at..at.checked_add(length)?)?.to_vec();
            let text = kind % 2 == 1;
            let value =
                if text { String::from_utf8(bytes).map_or_else(|e| Value::Blob(e.into_bytes()), Value::Text) } else { Value::Blob(bytes) };
            (value, length)
        }
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn numbers_of_every_length_are_read_with_their_sign() {
        let row = |kind: u8, body: &[u8]| [&[2, kind][..], body].concat();
        let read = |kind, body: &[u8]| values(&row(kind, body)).unwrap().remove(0);
        assert_eq!(read(1, &[0xff]), Value::Integer(-1));
        assert_eq!(read(2, &[0x01, 0x00]), Value::Integer(256));
        assert_eq!(read(5, &[0xff, 0xff, 0xff, 0xff, 0xff, 0xfe]), Value::Integer(-2));
        assert_eq!(read(9, &[]), Value::Integer(1));
        assert_eq!(read(7, &1.5f64.to_be_bytes()), Value::Real(1.5));
        assert_eq!(read(17, b"oz"), Value::Text("oz".into()));
        assert_eq!(values(&[9, 1]), None, "a head longer than the row");
    }
}
