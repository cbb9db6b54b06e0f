"""Numbered migrations; the number of the last one applied is SQLite's ``user_version``.

Once released, an entry is never changed: a correction is a further entry.
"""

APPLICATION_ID = 0x4D69546E
"""What tells a file of Mitten's from those of other programs, as SQLite provides for it ("MiTn")."""

FIRST_WITH_APPLICATION_ID = 3
OLDEST_TABLES = frozenset({"enclosure", "revision"})
"""What tells those that were written before there was such a mark."""

MIGRATIONS: tuple[tuple[str, ...], ...] = (
    (
        """CREATE TABLE enclosure (
            id INTEGER PRIMARY KEY,
            made_at TEXT NOT NULL,
            current_id INTEGER REFERENCES revision(id) DEFERRABLE INITIALLY DEFERRED
        )""",
        """CREATE TABLE revision (
            id INTEGER PRIMARY KEY,
            enclosure_id INTEGER NOT NULL REFERENCES enclosure(id) ON DELETE CASCADE,
            parent_id INTEGER REFERENCES revision(id),
            number INTEGER NOT NULL,
            made_at TEXT NOT NULL,
            summary TEXT NOT NULL,
            design TEXT NOT NULL,
            UNIQUE (enclosure_id, number)
        )""",
        "CREATE INDEX revision_parent ON revision(parent_id)",
    ),
    (
        "ALTER TABLE enclosure ADD COLUMN removed_at TEXT",
        "ALTER TABLE enclosure ADD COLUMN outlet TEXT NOT NULL DEFAULT 'Outlet 1'",
        """CREATE TABLE variant (
            id INTEGER PRIMARY KEY,
            enclosure_id INTEGER NOT NULL REFERENCES enclosure(id) ON DELETE CASCADE,
            name TEXT NOT NULL,
            revision_id INTEGER NOT NULL REFERENCES revision(id),
            made_at TEXT NOT NULL,
            UNIQUE (enclosure_id, name)
        )""",
        """CREATE TABLE tick (
            id INTEGER PRIMARY KEY,
            enclosure_id INTEGER NOT NULL REFERENCES enclosure(id) ON DELETE CASCADE,
            item TEXT NOT NULL,
            made_at TEXT NOT NULL,
            UNIQUE (enclosure_id, item)
        )""",
        """CREATE TABLE own_entry (
            id INTEGER PRIMARY KEY,
            collection TEXT NOT NULL,
            name TEXT NOT NULL,
            made_at TEXT NOT NULL,
            content TEXT NOT NULL,
            UNIQUE (collection, name)
        )""",
        "CREATE TABLE setting (name TEXT PRIMARY KEY, content TEXT NOT NULL)",
    ),
    (f"PRAGMA application_id = {APPLICATION_ID}",),
)
