//! The shape of the data file, step by step. Steps are only ever added.

use crate::errors::StoreError;
use crate::{maps, sound};
use rusqlite::Connection;
use rusqlite_migration::{HookError, M, Migrations};

fn steps() -> Vec<M<'static>> {
    vec![
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
        // Maps of zones lie beside the pieces, once each: until then every snapshot and every logged command carried its own.
        M::up_with_hook(
            "CREATE TABLE maps (
        digest    TEXT PRIMARY KEY,
        body      BLOB NOT NULL
    ) STRICT, WITHOUT ROWID;",
            |t| maps::taken_out(t).map_err(|e| HookError::Hook(e.to_string())),
        ),
        // A removed Box is kept aside, for steps of undo that draw on it, and so is a record that cannot be read; notes count their changes.
        M::up(
            "ALTER TABLE boxes ADD COLUMN aside INTEGER NOT NULL DEFAULT 0;
    ALTER TABLE field_notes ADD COLUMN revision INTEGER NOT NULL DEFAULT 1;
    ALTER TABLE field_notes ADD COLUMN aside INTEGER NOT NULL DEFAULT 0;
    ALTER TABLE pieces ADD COLUMN aside INTEGER NOT NULL DEFAULT 0;",
        ),
        // Readings of swatches: those of a Box, and of it those that were trials for a piece.
        M::up(
            "CREATE TABLE readings (
        id        INTEGER PRIMARY KEY AUTOINCREMENT,
        box       TEXT NOT NULL REFERENCES boxes(id),
        piece     INTEGER REFERENCES pieces(id) ON DELETE SET NULL,
        body      TEXT NOT NULL,
        changed   TEXT NOT NULL
    ) STRICT;
    CREATE INDEX readings_of_box ON readings (box);
    CREATE INDEX readings_of_piece ON readings (piece);",
        ),
        M::up(
            "CREATE TABLE grounds (
        id        INTEGER PRIMARY KEY AUTOINCREMENT,
        body      TEXT NOT NULL,
        changed   TEXT NOT NULL
    ) STRICT;",
        ),
        M::up(
            "CREATE TABLE drills (
        id        INTEGER PRIMARY KEY AUTOINCREMENT,
        body      TEXT NOT NULL,
        changed   TEXT NOT NULL
    ) STRICT;",
        ),
        // The journal is an index: all of it can be made again of what lies beside it.
        M::up(
            "CREATE TABLE journal_sources (
        source    TEXT NOT NULL,
        of        INTEGER NOT NULL,
        seen      TEXT NOT NULL,
        PRIMARY KEY (source, of)
    ) STRICT, WITHOUT ROWID;
    CREATE TABLE journal (
        id        INTEGER PRIMARY KEY,
        source    TEXT NOT NULL,
        of        INTEGER NOT NULL,
        kind      TEXT NOT NULL,
        number    INTEGER NOT NULL,
        day       TEXT NOT NULL,
        month     INTEGER,
        hour      INTEGER,
        medium    TEXT,
        ground    TEXT NOT NULL,
        scheme    TEXT NOT NULL,
        weather   TEXT NOT NULL,
        light     TEXT NOT NULL,
        subject   TEXT NOT NULL,
        outcome   TEXT,
        value     REAL,
        body      TEXT NOT NULL
    ) STRICT;
    CREATE INDEX journal_of_source ON journal (source, of);
    CREATE INDEX journal_by_day ON journal (day, id);
    CREATE INDEX journal_by_kind ON journal (kind, day);
    CREATE INDEX journal_by_value ON journal (value);
    CREATE VIRTUAL TABLE journal_words USING fts5 (words, content='', contentless_delete=1, tokenize='unicode61 remove_diacritics 2', prefix='2 3');
    CREATE VIRTUAL TABLE journal_colours USING rtree (id, l0, l1, a0, a1, b0, b1, +entry INTEGER);
    CREATE TABLE journal_colour_of (
        id        INTEGER PRIMARY KEY,
        entry     INTEGER NOT NULL
    ) STRICT;
    CREATE INDEX journal_colours_of_entry ON journal_colour_of (entry);
    CREATE TABLE journal_pigments (
        pigment   TEXT NOT NULL,
        entry     INTEGER NOT NULL,
        PRIMARY KEY (pigment, entry)
    ) STRICT, WITHOUT ROWID;
    CREATE INDEX journal_pigments_of_entry ON journal_pigments (entry);
    CREATE TABLE journal_measured (
        piece     INTEGER PRIMARY KEY REFERENCES pieces(id) ON DELETE CASCADE,
        revision  INTEGER NOT NULL,
        body      TEXT NOT NULL
    ) STRICT;
    CREATE INDEX pieces_seen ON pieces (aside, id, revision);",
        ),
        // The working copy has a digest of its own, as the original has in its name.
        M::up("ALTER TABLE pictures ADD COLUMN sum TEXT;"),
        // Devices at the easel, and notes they wrote while nobody answered: sent again, one is still one.
        M::up(
            "CREATE TABLE devices (
        id        INTEGER PRIMARY KEY,
        name      TEXT NOT NULL,
        carries   TEXT NOT NULL UNIQUE,
        paired    TEXT NOT NULL,
        seen      TEXT NOT NULL
    ) STRICT;
    ALTER TABLE field_notes ADD COLUMN sent_as TEXT;
    CREATE UNIQUE INDEX field_notes_sent_as ON field_notes (sent_as) WHERE sent_as IS NOT NULL;",
        ),
        // A record whose text is not what was written is known for it.
        M::up(
            "ALTER TABLE pieces ADD COLUMN sum TEXT;
    ALTER TABLE boxes ADD COLUMN sum TEXT;
    ALTER TABLE field_notes ADD COLUMN sum TEXT;
    ALTER TABLE readings ADD COLUMN sum TEXT;
    ALTER TABLE grounds ADD COLUMN sum TEXT;
    ALTER TABLE drills ADD COLUMN sum TEXT;",
        ),
        // So is a step that could be taken back.
        M::up("ALTER TABLE log ADD COLUMN sum TEXT;"),
        // A list of pieces is read from this alone: in its row a date stands behind the whole snapshot.
        M::up("CREATE INDEX pieces_listed ON pieces (aside, changed DESC, id DESC, revision);"),
        // Sums are made of whole rows now, and every row has one.
        M::up_with_hook(
            "ALTER TABLE readings ADD COLUMN aside INTEGER NOT NULL DEFAULT 0;
    ALTER TABLE grounds ADD COLUMN aside INTEGER NOT NULL DEFAULT 0;
    ALTER TABLE drills ADD COLUMN aside INTEGER NOT NULL DEFAULT 0;
    ALTER TABLE devices ADD COLUMN aside INTEGER NOT NULL DEFAULT 0;
    ALTER TABLE devices ADD COLUMN sum TEXT;",
            |t| {
                sound::know(t)?;
                sound::ALL.iter().try_for_each(|kind| kind.seal_as_found(t))?;
                t.execute("UPDATE pictures SET sum = digest_of(working) WHERE sum IS NULL", [])?;
                Ok(())
            },
        ),
        // The version that wrote the file last changed its shape: an earlier one that refuses the file can name it.
        M::up("CREATE TABLE shaped_by (version TEXT NOT NULL) STRICT;"),
    ]
}

/// How many steps there are: the shape of today.
pub(crate) const SHAPE: usize = 15;

/// Takes an empty data file to the shape of an earlier version.
pub(crate) fn bring_to(connection: &mut Connection, shape: usize) -> Result<(), StoreError> {
    Migrations::new(steps()).to_version(connection, shape).map_err(|e| StoreError::Damaged(e.to_string()))
}

/// Takes a data file of any earlier version to today's shape.
pub(crate) fn bring_up_to_date(connection: &mut Connection) -> Result<(), StoreError> {
    use rusqlite_migration::{Error, MigrationDefinitionError};
    Migrations::new(steps()).to_latest(connection).map_err(|e| match e {
        Error::RusqliteError { err, .. } => err.into(),
        Error::MigrationDefinition(MigrationDefinitionError::DatabaseTooFarAhead) => newer(connection),
        other => StoreError::Damaged(other.to_string()),
    })?;
    if shaped_by(connection).is_none() {
        connection.execute("INSERT INTO shaped_by (version) VALUES (?1)", [crate::errors::VERSION])?;
    }
    Ok(())
}

/// The refusal of a file that a later version wrote, with that version's name.
pub(crate) fn newer(connection: &Connection) -> StoreError {
    StoreError::newer(shaped_by(connection))
}

/// The version of the program that gave the file its shape; `None` where no version has said so.
fn shaped_by(connection: &Connection) -> Option<String> {
    connection.query_row("SELECT version FROM shaped_by", [], |r| r.get(0)).ok()
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::Store;
    use std::path::{Path, PathBuf};

    /// A studio that the second version wrote, with a piece, a Box and a picture in it.
    const SECOND: &str = concat!(env!("CARGO_MANIFEST_DIR"), "/tests/data/maps_inline.db");

    #[test]
    fn the_steps_are_sound() {
        Migrations::new(steps()).validate().unwrap();
        assert_eq!(steps().len(), SHAPE);
    }

    /// The studio of the second version as the version of a shape left it.
    fn of_shape(folder: &Path, shape: usize) -> PathBuf {
        let path = folder.join(format!("shape-{shape}.db"));
        std::fs::copy(SECOND, &path).unwrap();
        let mut c = Connection::open(&path).unwrap();
        sound::know(&c).unwrap();
        if shape == 1 {
            c.execute_batch("DROP TABLE field_notes; PRAGMA user_version = 1;").unwrap();
        } else {
            bring_to(&mut c, shape).unwrap();
        }
        path
    }

    fn titles(store: &Store) -> Vec<String> {
        store.pieces().unwrap().into_iter().map(|p| p.line.title).collect()
    }

    #[test]
    fn a_file_of_every_shape_since_the_first_is_kept_and_opened_whole() {
        let dir = tempfile::tempdir().unwrap();
        let today = dir.path().join("today.db");
        std::fs::copy(SECOND, &today).unwrap();
        let wanted = titles(&Store::open(&today).unwrap());
        assert!(!wanted.is_empty());
        for shape in 1..SHAPE {
            let path = of_shape(dir.path(), shape);
            let store = Store::open(&path).unwrap();
            assert_eq!(titles(&store), wanted, "shape {shape}");
            assert_eq!(store.check_all(&|_| {}).unwrap().problems, Vec::<String>::new(), "shape {shape}");
            let kept = Connection::open(&store.older_shape().unwrap().kept).unwrap();
            let kept_shape: i64 = kept.pragma_query_value(None, "user_version", |r| r.get(0)).unwrap();
            assert_eq!(kept_shape, shape as i64, "the copy is the file as it was");
            drop(store);
            assert!(Store::open(&path).unwrap().older_shape().is_none(), "shape {shape} is today's now");
        }
    }

    #[test]
    fn a_file_of_a_later_version_is_refused_by_its_number_and_left_as_it_is() {
        let dir = tempfile::tempdir().unwrap();
        let path = dir.path().join("studio.db");
        std::fs::copy(SECOND, &path).unwrap();
        drop(Store::open(&path).unwrap());
        let c = Connection::open(&path).unwrap();
        c.execute_batch(&format!("UPDATE shaped_by SET version = '9.8.7'; PRAGMA user_version = {};", SHAPE + 1)).unwrap();
        c.close().unwrap();
        let before = std::fs::read(&path).unwrap();
        let problem = Store::open(&path).err().expect("it is refused").to_string();
        assert!(problem.contains("version 9.8.7") && problem.contains(crate::errors::VERSION), "{problem}");
        assert_eq!(std::fs::read(&path).unwrap(), before);
    }
}
