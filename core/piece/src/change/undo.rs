//! How a piece gets back to what it was.
//!
//! What a change altered is kept as it was before, part by part: whatever a command touches can be put back, without asking whether it would be
//! allowed today. Nothing that once held can be refused on the way back.

use super::Command;
use crate::{KeptText, Piece};
use lean_picture::KeptMap;
use serde::{Deserialize, Serialize};
use serde_json::Value;
use std::collections::BTreeMap;

/// What takes a change back. Small enough to be kept in the log for good.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[serde(untagged)]
pub enum Undo {
    /// The parts that were changed, as they were.
    Was(Was),
    /// Commands, first to last, as earlier versions kept them.
    Commands(Vec<Command>),
}

/// Parts of a piece as they were before a change.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct Was {
    was: Old,
    /// The maps the piece had, as long as it was not written out: afterwards their digests are enough.
    #[serde(skip)]
    maps: Vec<KeptMap>,
}

/// A part of a record as it was.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
enum Old {
    /// All of it.
    Whole(Value),
    /// It was not there.
    Gone,
    /// Some of its fields, or of its entries by number, the others unchanged.
    At(BTreeMap<String, Old>),
}

impl KeptText for Undo {
    #[inline(never)]
    fn from_text(text: &[u8]) -> Result<Self, serde_json::Error> {
        match text.trim_ascii_start().first() {
            Some(b'[') => Vec::from_text(text).map(Self::Commands),
            _ => serde_json::from_slice(text).map(Self::Was),
        }
    }

    #[inline(never)]
    fn to_text(&self) -> Result<String, serde_json::Error> {
        serde_json::to_string(self)
    }
}

impl Undo {
    /// What leads from `next` back to `before`; both written out.
    pub(super) fn between(before: &Piece, before_written: &Value, next_written: &Value) -> Self {
        let was = difference(before_written, next_written).unwrap_or(Old::At(BTreeMap::new()));
        let maps = before.clone().maps_mut().map(|m| m.clone()).collect();
        Self::Was(Was { was, maps })
    }

    /// Every map it names that may have to be found again.
    pub fn maps_mut(&mut self) -> Vec<&mut KeptMap> {
        match self {
            Self::Was(_) => Vec::new(),
            Self::Commands(commands) => commands.iter_mut().flat_map(Command::maps_mut).collect(),
        }
    }
}

impl Piece {
    /// The piece before a change that was made to it. Never refused by the rules of the piece: it was so once. Maps that are neither in this
    /// piece nor in `undo` are only named; whoever keeps maps fills them in ([`Piece::maps_mut`]).
    ///
    /// # Errors
    /// When the record of the change cannot be read.
    pub fn take_back(&self, undo: Undo) -> Result<Self, String> {
        match undo {
            Undo::Commands(commands) => {
                let mut piece = self.clone();
                commands.into_iter().for_each(|c| c.apply(&mut piece));
                Ok(piece)
            }
            Undo::Was(Was { was, maps }) => {
                let unread = |e: serde_json::Error| format!("what was changed cannot be read: {e}");
                let mut written = serde_json::to_value(self).map_err(unread)?;
                put_back(&mut written, was);
                let mut piece = Self::from_text(written.to_string().as_bytes()).map_err(unread)?;
                let known: Vec<KeptMap> = self.clone().maps_mut().map(|m| m.clone()).chain(maps).collect();
                for map in piece.maps_mut() {
                    if let Some(found) = known.iter().find(|k| *k == map && k.map().is_some()) {
                        map.found(found);
                    }
                }
                Ok(piece)
            }
        }
    }
}

/// What of `before` is not in `next`; `None` when they are the same.
fn difference(before: &Value, next: &Value) -> Option<Old> {
    match (before, next) {
        _ if before == next => None,
        (Value::Object(old), Value::Object(new)) => {
            let keys: std::collections::BTreeSet<&String> = old.keys().chain(new.keys()).collect();
            let part = |k: &&String| match (old.get(*k), new.get(*k)) {
                (Some(o), Some(n)) => difference(o, n),
                (Some(o), None) => Some(Old::Whole(o.clone())),
                (None, _) => Some(Old::Gone),
            };
            Some(Old::At(keys.into_iter().filter_map(|k| Some((k.clone(), part(&k)?))).collect()))
        }
        (Value::Array(old), Value::Array(new)) if old.len() == new.len() => {
            let parts = old.iter().zip(new).enumerate();
            Some(Old::At(parts.filter_map(|(i, (o, n))| Some((i.to_string(), difference(o, n)?))).collect()))
        }
        _ => Some(Old::Whole(before.clone())),
    }
}

fn put_back(value: &mut Value, old: Old) {
    match old {
        Old::Whole(whole) => *value = whole,
        Old::Gone => *value = Value::Null,
        Old::At(parts) => {
            for (key, part) in parts {
                match (&mut *value, part) {
                    (Value::Object(fields), Old::Gone) => {
                        fields.remove(&key);
                    }
                    (Value::Object(fields), part) => put_back(fields.entry(key).or_insert(Value::Null), part),
                    (Value::Array(entries), part) => {
                        if let Some(entry) = key.parse::<usize>().ok().and_then(|i| entries.get_mut(i)) {
                            put_back(entry, part);
                        }
                    }
                    _ => {}
                }
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use serde_json::json;

    #[test]
    fn only_what_changed_is_kept_and_it_is_put_back() {
        let before = json!({ "a": 1.5, "list": [{ "x": 1 }, { "x": 2 }], "gone": null, "was": { "deep": [1, 2] } });
        let next = json!({ "a": 2.5, "list": [{ "x": 1 }, { "x": 9 }], "gone": null, "was": { "deep": [1, 2, 3] }, "new": 7 });
        let old = difference(&before, &next).unwrap();
        assert!(serde_json::to_string(&old).unwrap().len() < 160);
        let mut value = next;
        put_back(&mut value, old);
        assert_eq!(value, before);
        assert_eq!(difference(&before, &before), None);
    }

    #[test]
    fn both_forms_are_told_apart_when_read() {
        let commands = Undo::from_text(b"[]").unwrap();
        assert_eq!(commands, Undo::Commands(Vec::new()));
        let was = Undo::from_text(b"{\"was\":{\"at\":{\"a\":{\"whole\":1}}}}").unwrap();
        assert!(matches!(was, Undo::Was(_)));
    }
}
