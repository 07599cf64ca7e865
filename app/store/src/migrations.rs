//! The shape of the data file, step by step. Steps are only ever added.

use crate::errors::StoreError;
use rusqlite::Connection;
use rusqlite_migration::{M, Migrations};

const STEPS: &[M<'static>] = &[
    M::up(
        "CREATE TABLE pictures (
        digest    TEXT PRIMARY KEY,
        original  BLOB NOT NULL,
        working   BLOB NOT NULL,
        added     TEXT NOT NULL
    ) STRICT;
    CREATE TABLE boxes (
        id        TEXT PRIMARY KEY,
        body      TEXT NOT NULL,
        changed   TEXT NOT NULL
    ) STRICT;
    CREATE TABLE pieces (
        id        INTEGER PRIMARY KEY AUTOINCREMENT,
        revision  INTEGER NOT NULL,
        snapshot  TEXT NOT NULL,
        done      INTEGER NOT NULL,
        box       TEXT REFERENCES boxes(id),
        picture   TEXT REFERENCES pictures(digest),
        changed   TEXT NOT NULL
    ) STRICT;
    CREATE TABLE log (
        piece     INTEGER NOT NULL REFERENCES pieces(id) ON DELETE CASCADE,
        seq       INTEGER NOT NULL,
        command   TEXT NOT NULL,
        undo      TEXT NOT NULL,
        what      TEXT NOT NULL,
        at        TEXT NOT NULL,
        PRIMARY KEY (piece, seq)
    ) STRICT, WITHOUT ROWID;",
    ),
    M::up(
        "CREATE TABLE field_notes (
        id        INTEGER PRIMARY KEY AUTOINCREMENT,
        body      TEXT NOT NULL,
        changed   TEXT NOT NULL
    ) STRICT;",
    ),
];

const MIGRATIONS: Migrations<'static> = Migrations::from_slice(STEPS);

/// Takes a data file of any earlier version to today's shape.
pub fn bring_up_to_date(connection: &mut Connection) -> Result<(), StoreError> {
    use rusqlite_migration::{Error, MigrationDefinitionError};
    MIGRATIONS.to_latest(connection).map_err(|e| match e {
        Error::RusqliteError { err, .. } => err.into(),
        Error::MigrationDefinition(MigrationDefinitionError::DatabaseTooFarAhead) => StoreError::Newer,
        other => StoreError::Damaged(other.to_string()),
    })
}

#[cfg(test)]
mod tests {
    #[test]
    fn the_steps_are_sound() {
        super::MIGRATIONS.validate().unwrap();
    }
}
