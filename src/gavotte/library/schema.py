"""The database's shape, as a chain of migrations. A migration is never changed once it has been released."""

from __future__ import annotations

MIGRATIONS: tuple[str, ...] = (
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
)
"""``MIGRATIONS[n]`` leads from version n to n + 1."""

VERSION = len(MIGRATIONS)
