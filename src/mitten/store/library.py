"""The keeper's own entries of the library: new ones, and shipped ones with the keeper's figures."""

import json
from collections.abc import Mapping
from typing import Any

from mitten.store.connection import Connection, now

Content = Mapping[str, Any]


class OwnLibrary:
    """Own entries by table of the catalogue and key, as data that the catalogue checks."""

    def __init__(self, connection: Connection) -> None:
        self._connection = connection

    def entries(self) -> dict[str, dict[str, Content]]:
        """Every own entry: table, key, content."""
        found: dict[str, dict[str, Content]] = {}
        with self._connection.reading() as tables:
            for row in tables.own_entry.select().order_by(tables.own_entry.id):
                found.setdefault(row.collection, {})[row.name] = json.loads(row.content)
        return found

    def save(self, table: str, key: str, content: Content) -> None:
        """Keep an entry in the place of one of the same key."""
        with self._connection.writing() as tables:
            self._delete(tables, table, key)
            text = json.dumps(content, ensure_ascii=False)
            tables.own_entry.create(collection=table, name=key, made_at=now(), content=text)

    def remove(self, table: str, key: str) -> None:
        """Forget an entry; a shipped one of the same key is in force again."""
        with self._connection.writing() as tables:
            self._delete(tables, table, key)

    @staticmethod
    def _delete(tables: Any, table: str, key: str) -> None:
        row = tables.own_entry
        row.delete().where(row.collection == table, row.name == key).execute()
