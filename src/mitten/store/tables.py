"""Peewee's view of the tables that the migrations make."""

from peewee import AutoField, ForeignKeyField, IntegerField, Model, TextField


class EnclosureRow(Model):  # type: ignore[misc]
    """An enclosure and its revision in force."""

    id = AutoField()
    made_at = TextField()
    current_id = IntegerField(null=True)

    class Meta:
        """Table name."""

        table_name = "enclosure"


class RevisionRow(Model):  # type: ignore[misc]
    """One state of a design; ``parent`` is the state it was made from."""

    id = AutoField()
    enclosure = ForeignKeyField(EnclosureRow, column_name="enclosure_id", backref="revisions")
    parent_id = IntegerField(null=True)
    number = IntegerField()
    made_at = TextField()
    summary = TextField()
    design = TextField()

    class Meta:
        """Table name."""

        table_name = "revision"


TABLES = (EnclosureRow, RevisionRow)
