"""Numbered migrations; the number of the last one applied is SQLite's ``user_version``.

Once released, an entry is never changed: a correction is a further entry.
"""

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
)
