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
    variant: Table
    tick: Table
    own_entry: Table
    setting: Table


def tables_of(database: SqliteDatabase) -> Tables:
    """Table classes bound to a database; bound once, so that threads and databases do not disturb each other."""

    class EnclosureRow(Model):
        """An enclosure, its revision in force and its outlet; ``removed_at`` once it is off the shelf."""

        id = AutoField()
        made_at = TextField()
        current_id = IntegerField(null=True)
        removed_at = TextField(null=True)
        outlet = TextField(default="Outlet 1")

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

    class VariantRow(Model):
        """A state of a design that the keeper has named."""

        id = AutoField()
        enclosure = ForeignKeyField(EnclosureRow, column_name="enclosure_id", backref="variants")
        name = TextField()
        revision_id = IntegerField()
        made_at = TextField()

        class Meta:
            """Where it is kept."""

            table_name = "variant"

    class TickRow(Model):
        """One item of the checklist that the keeper has seen to."""

        id = AutoField()
        enclosure = ForeignKeyField(EnclosureRow, column_name="enclosure_id", backref="ticks")
        item = TextField()
        made_at = TextField()

        class Meta:
            """Where it is kept."""

            table_name = "tick"

    class OwnEntryRow(Model):
        """An entry of the library that the keeper has made or changed, as JSON."""

        id = AutoField()
        collection = TextField()
        name = TextField()
        made_at = TextField()
        content = TextField()

        class Meta:
            """Where it is kept."""

            table_name = "own_entry"

    class SettingRow(Model):
        """Something that the keeper has set once for all."""

        name = TextField(primary_key=True)
        content = TextField()

        class Meta:
            """Where it is kept."""

            table_name = "setting"

    rows = [EnclosureRow, RevisionRow, VariantRow, TickRow, OwnEntryRow, SettingRow]
    database.bind(rows, bind_refs=False, bind_backrefs=False)
    return Tables(*rows)
