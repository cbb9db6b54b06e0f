"""Peewee's view of the tables that the migrations make."""

from dataclasses import dataclass
from typing import Any

from peewee import AutoField, ForeignKeyField, IntegerField, Model, SqliteDatabase, TextField

Row = Any
Table = Any
"""A row and a table: peewee makes their attributes as it goes, so that a type checker sees none."""


@dataclass(frozen=True)
class Tables:
    """The table classes of one database."""

    enclosure: Table
    revision: Table


def tables_of(database: SqliteDatabase) -> Tables:
    """Table classes bound to a database; bound once, so that threads and databases do not disturb each other."""

    class EnclosureRow(Model):
        """An enclosure and its revision in force."""

        id = AutoField()
        made_at = TextField()
        current_id = IntegerField(null=True)

        class Meta:
            """Where it is kept."""

            table_name = "enclosure"

    class RevisionRow(Model):
        """One state of a design; ``parent_id`` is the state it was made from."""

        id = AutoField()
        enclosure = ForeignKeyField(EnclosureRow, column_name="enclosure_id", backref="revisions")
        parent_id = IntegerField(null=True)
        number = IntegerField()
        made_at = TextField()
        summary = TextField()
        design = TextField()

        class Meta:
            """Where it is kept."""

            table_name = "revision"

    database.bind([EnclosureRow, RevisionRow], bind_refs=False, bind_backrefs=False)
    return Tables(EnclosureRow, RevisionRow)
