"""The database's shape, as a chain of migrations. A migration is never changed once it has been released.

A migration is SQL, or a function that is given the connection: such a one can fill a column from the documents.
"""

from __future__ import annotations

import sqlite3
from collections.abc import Callable

from gavotte.formats.errors import FormatError
from gavotte.library.tables import SOLOS

Migration = str | Callable[[sqlite3.Connection], None]


def _details_and_counts(db: sqlite3.Connection) -> None:
    """Solos are listed with year, album, tempo and meter, and with what is to be looked at in place of notes in doubt;
    schools and corrections are kept in the library.
    """
    for column in ("year INTEGER", "album TEXT NOT NULL DEFAULT ''", "tempo REAL", "meter TEXT NOT NULL DEFAULT ''"):
        db.execute(f"ALTER TABLE solos ADD COLUMN {column}")
    db.execute("ALTER TABLE solos ADD COLUMN to_look_at INTEGER")
    db.execute("ALTER TABLE solos DROP COLUMN in_doubt")
    db.execute("CREATE TABLE keepsakes (name TEXT PRIMARY KEY, document BLOB NOT NULL, modified TEXT NOT NULL) STRICT")
    for solo_id, document in db.execute("SELECT id, document FROM solos").fetchall():
        try:
            solo = SOLOS.kind.read(document)
        except FormatError:
            # A damaged document is told when it is opened; its row stays as it is.
            continue
        filled = {name: SOLOS.columns[name](solo) for name in ("year", "album", "tempo", "meter")}
        db.execute("UPDATE solos SET year=?, album=?, tempo=?, meter=? WHERE id=?", (*filled.values(), solo_id))


_VOCABULARY = """
    ALTER TABLE solos ADD COLUMN is_head INTEGER NOT NULL DEFAULT 0;
    ALTER TABLE licks ADD COLUMN contexts TEXT NOT NULL DEFAULT '';
    ALTER TABLE licks ADD COLUMN tags TEXT NOT NULL DEFAULT '';
    ALTER TABLE licks ADD COLUMN words TEXT NOT NULL DEFAULT '';
    ALTER TABLE licks ADD COLUMN status TEXT NOT NULL DEFAULT 'new';
    ALTER TABLE licks ADD COLUMN rating INTEGER NOT NULL DEFAULT 0;
    CREATE INDEX licks_there ON licks (
        created, id, solo_id, name, player, source, context, degrees, key, notes, contexts, tags, words, status, rating
    ) WHERE deleted IS NULL;
    CREATE INDEX solos_there ON solos (modified) WHERE deleted IS NULL;
    CREATE TABLE lines (owner TEXT PRIMARY KEY, modified TEXT NOT NULL, line BLOB NOT NULL) STRICT;

    CREATE VIRTUAL TABLE lick_words USING fts5 (
        name, player, source, tags, words, content='licks', content_rowid='rowid', tokenize='unicode61'
    );
    INSERT INTO lick_words (lick_words) VALUES ('rebuild');
    CREATE TRIGGER lick_words_new AFTER INSERT ON licks BEGIN
        INSERT INTO lick_words (rowid, name, player, source, tags, words)
            VALUES (new.rowid, new.name, new.player, new.source, new.tags, new.words);
    END;
    CREATE TRIGGER lick_words_gone AFTER DELETE ON licks BEGIN
        INSERT INTO lick_words (lick_words, rowid, name, player, source, tags, words)
            VALUES ('delete', old.rowid, old.name, old.player, old.source, old.tags, old.words);
    END;
    CREATE TRIGGER lick_words_changed AFTER UPDATE OF name, player, source, tags, words ON licks BEGIN
        INSERT INTO lick_words (lick_words, rowid, name, player, source, tags, words)
            VALUES ('delete', old.rowid, old.name, old.player, old.source, old.tags, old.words);
        INSERT INTO lick_words (rowid, name, player, source, tags, words)
            VALUES (new.rowid, new.name, new.player, new.source, new.tags, new.words);
    END;
"""
"""What is said of licks has columns and an index of words; ``lines`` holds every solo and lick as numbers (see
``library/lines.py``), by the moment it was changed: a row that is behind is made anew beside the work.
``licks_there`` has all that licks are listed by: without it every row would be read past its document.
"""

MIGRATIONS: tuple[Migration, ...] = (
    """
    CREATE TABLE solos (
        id TEXT PRIMARY KEY,
        title TEXT NOT NULL,
        player TEXT NOT NULL,
        style TEXT NOT NULL,
        key TEXT NOT NULL,
        bars INTEGER NOT NULL,
        notes INTEGER NOT NULL,
        in_doubt INTEGER NOT NULL,
        document BLOB NOT NULL,
        created TEXT NOT NULL,
        modified TEXT NOT NULL,
        deleted TEXT
    ) STRICT;
    CREATE INDEX solos_by_title ON solos (title);

    CREATE TABLE licks (
        id TEXT PRIMARY KEY,
        solo_id TEXT REFERENCES solos (id) ON DELETE SET NULL,
        name TEXT NOT NULL,
        player TEXT NOT NULL,
        source TEXT NOT NULL,
        context TEXT NOT NULL,
        degrees TEXT NOT NULL,
        key TEXT NOT NULL,
        notes INTEGER NOT NULL,
        document BLOB NOT NULL,
        created TEXT NOT NULL,
        modified TEXT NOT NULL,
        deleted TEXT
    ) STRICT;
    CREATE INDEX licks_by_context ON licks (context);
    CREATE INDEX licks_by_solo ON licks (solo_id);
    """,
    """
    CREATE TABLE recordings (
        solo_id TEXT PRIMARY KEY REFERENCES solos (id) ON DELETE CASCADE,
        document BLOB NOT NULL,
        modified TEXT NOT NULL
    ) STRICT;
    """,
    _details_and_counts,
    "CREATE TABLE days (day TEXT PRIMARY KEY) STRICT;",
    """
    CREATE TABLE drafts (
        solo_id TEXT PRIMARY KEY REFERENCES solos (id) ON DELETE CASCADE,
        document BLOB NOT NULL,
        modified TEXT NOT NULL
    ) STRICT;
    """,
    _VOCABULARY,
    "".join(
        f"""
    CREATE TABLE {table} (
        id TEXT PRIMARY KEY,
        owner TEXT NOT NULL,
        document BLOB NOT NULL,
        created TEXT NOT NULL,
        modified TEXT NOT NULL,
        deleted TEXT
    ) STRICT;
    CREATE INDEX {table}_by_owner ON {table} (owner);
    """
        for table in ("practice", "practice_log", "takes")
    ),
    """
    ALTER TABLE solos ADD COLUMN source TEXT NOT NULL DEFAULT '';
    ALTER TABLE solos ADD COLUMN tags TEXT NOT NULL DEFAULT '';
    """,
    """
    CREATE TABLE sheets (
        id TEXT PRIMARY KEY,
        title TEXT NOT NULL,
        pieces INTEGER NOT NULL,
        document BLOB NOT NULL,
        created TEXT NOT NULL,
        modified TEXT NOT NULL,
        deleted TEXT
    ) STRICT;
    """,
)
"""``MIGRATIONS[n]`` leads from version n to n + 1."""

VERSION = len(MIGRATIONS)
