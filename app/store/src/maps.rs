//! Maps of zones and masses, kept once each under the digest of what they say.

use crate::{Store, StoreError};
use lean_picture::{KeptMap, ZoneMap};
use lru::LruCache;
use rusqlite::{Connection, OptionalExtension, Transaction, params};
use serde_json::Value;
use std::num::NonZeroUsize;
use std::sync::{Mutex, MutexGuard};

/// Maps read last; each is shared by everything that speaks of it.
pub(crate) struct Maps(Mutex<LruCache<String, KeptMap>>);

/// How many maps are kept ready.
const READY: NonZeroUsize = NonZeroUsize::new(24).expect("not zero");

impl Default for Maps {
    fn default() -> Self {
        Self(Mutex::new(LruCache::new(READY)))
    }
}

impl Maps {
    fn lock(&self) -> MutexGuard<'_, LruCache<String, KeptMap>> {
        self.0.lock().unwrap_or_else(|poisoned| poisoned.into_inner())
    }

    fn remember(&self, map: &KeptMap) {
        self.lock().put(map.digest().to_owned(), map.clone());
    }

    fn ready(&self, digest: &str) -> Option<KeptMap> {
        self.lock().get(digest).cloned()
    }

    /// The map with this digest.
    pub(crate) fn find(&self, c: &Connection, digest: &str) -> Result<KeptMap, StoreError> {
        if let Some(map) = self.ready(digest) {
            return Ok(map);
        }
        let body: Option<Vec<u8>> =
            c.prepare_cached("SELECT body FROM maps WHERE digest = ?1")?.query_row([digest], |r| r.get(0)).optional()?;
        let map = KeptMap::unpacked(&body.ok_or_else(|| StoreError::Damaged("a map of zones is missing".into()))?)
            .map_err(StoreError::Damaged)?;
        if map.digest() != digest {
            return Err(StoreError::Damaged("a map of zones does not say what it said".into()));
        }
        self.remember(&map);
        Ok(map)
    }

    /// Gives maps that were only named what they say.
    pub(crate) fn fill<'a>(&self, c: &Connection, named: impl IntoIterator<Item = &'a mut KeptMap>) -> Result<(), StoreError> {
        for map in named {
            if map.map().is_none() {
                let found = self.find(c, map.digest())?;
                map.found(&found);
            }
        }
        Ok(())
    }

    /// Holds maps ready that have just reached the file.
    pub(crate) fn reached(&self, maps: &[KeptMap]) {
        maps.iter().filter(|m| m.map().is_some()).for_each(|m| self.remember(m));
    }
}

/// Keeps maps that are not in the file yet; those that are only named are there.
pub(crate) fn keep<'a>(t: &Transaction, maps: impl IntoIterator<Item = &'a KeptMap>) -> Result<(), StoreError> {
    for map in maps {
        let known = t.prepare_cached("SELECT 1 FROM maps WHERE digest = ?1")?.exists([map.digest()])?;
        if let Some(body) = if known { None } else { map.packed() } {
            t.prepare_cached("INSERT INTO maps (digest, body) VALUES (?1, ?2)")?.execute(params![map.digest(), body])?;
        }
    }
    Ok(())
}

impl Store {
    /// A map by its digest.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub fn map(&self, digest: &str) -> Result<KeptMap, StoreError> {
        let known: bool =
            self.lock().query_row("SELECT count(*) FROM maps WHERE digest = ?1", [digest], |r| r.get::<_, i64>(0).map(|n| n > 0))?;
        if !known {
            return Err(StoreError::NotFound("map of zones".into()));
        }
        self.maps.find(&self.lock(), digest)
    }
}

/// Takes the maps out of snapshots and logged commands that carry them, and keeps each once.
pub(crate) fn taken_out(t: &Transaction) -> Result<(), StoreError> {
    for (table, column, key) in [("pieces", "snapshot", "id"), ("log", "command", "rowid"), ("log", "undo", "rowid")] {
        // The log has no row ids of its own: piece and number together are its key.
        let where_ = if key == "id" { "id = ?2" } else { "piece = ?2 AND seq = ?3" };
        let select =
            if key == "id" { format!("SELECT {column}, id, 0 FROM {table}") } else { format!("SELECT {column}, piece, seq FROM {table}") };
        let rows: Vec<(String, i64, i64)> =
            t.prepare(&select)?.query_map([], |r| Ok((r.get(0)?, r.get(1)?, r.get(2)?)))?.collect::<Result<_, _>>()?;
        for (text, one, two) in rows {
            let mut value: Value = serde_json::from_str(&text)?;
            let mut found = Vec::new();
            take_out(&mut value, &mut found);
            if found.is_empty() {
                continue;
            }
            keep(t, &found)?;
            let text = serde_json::to_string(&value)?;
            let update = format!("UPDATE {table} SET {column} = ?1 WHERE {where_}");
            if key == "id" {
                t.execute(&update, params![text, one])?
            } else {
                t.execute(&update, params![text, one, two])?
            };
        }
    }
    Ok(())
}

/// Puts the name of a map where the map was, wherever it was.
fn take_out(value: &mut Value, found: &mut Vec<KeptMap>) {
    match value {
        Value::Object(fields) if fields.len() == 3 && ["width", "height", "runs"].iter().all(|f| fields.contains_key(*f)) => {
            if let Ok(map) = serde_json::from_value::<ZoneMap>(value.clone()) {
                let map = KeptMap::from(map);
                *value = serde_json::to_value(&map).unwrap_or(Value::Null);
                found.push(map);
            }
        }
        Value::Object(fields) => fields.values_mut().for_each(|v| take_out(v, found)),
        Value::Array(all) => all.iter_mut().for_each(|v| take_out(v, found)),
        _ => {}
    }
}
