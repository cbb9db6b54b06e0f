"""The keeper's own entries of the library: new ones, and shipped ones with the keeper's figures."""

import json
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from pydantic import ValidationError

from mitten.core.catalogue import TABLES, check_entry
from mitten.store.connection import Connection, now

Content = Mapping[str, Any]


@dataclass(frozen=True)
class SetAside:
    """An own entry that cannot be read: it is kept as it is, and not used."""

    table: str
    key: str
    why: str


class OwnLibrary:
    """Own entries by table of the catalogue and key, as data that the catalogue checks."""

    def __init__(self, connection: Connection) -> None:
        self._connection = connection

    def entries(self) -> dict[str, dict[str, Content]]:
        """Every own entry that can be read: table, key, content."""
        return self._read()[0]

    def set_aside(self) -> list[SetAside]:
        """Own entries that cannot be read."""
        return self._read()[1]

    def _read(self) -> tuple[dict[str, dict[str, Content]], list[SetAside]]:
        found, aside = dict[str, dict[str, Content]](), list[SetAside]()
        with self._connection.reading() as tables:
            rows = list(tables.own_entry.select().order_by(tables.own_entry.id).dicts())
        for row in rows:
            table, key = str(row["collection"]), str(row["name"])
            content, why = _content_of(table, row["content"])
            if content is None:
                aside.append(SetAside(table, key, why))
            else:
                found.setdefault(table, {})[key] = content
        return found, aside

    def take_in(self, entries: Mapping[str, Mapping[str, Content]]) -> None:
        """Keep many entries at once, or none."""
        with self._connection.writing() as tables:
            for table, named in entries.items():
                for key, content in named.items():
                    self._put(tables, table, key, content)

    def save(self, table: str, key: str, content: Content) -> None:
        """Keep an entry in the place of one of the same key."""
        with self._connection.writing() as tables:
            self._put(tables, table, key, content)

    def remove(self, table: str, key: str) -> None:
        """Forget an entry; a shipped one of the same key is in force again."""
        with self._connection.writing() as tables:
            self._delete(tables, table, key)

    @classmethod
    def _put(cls, tables: Any, table: str, key: str, content: Content) -> None:
        cls._delete(tables, table, key)
        text = json.dumps(content, ensure_ascii=False)
        tables.own_entry.create(collection=table, name=key, made_at=now(), content=text)

    @staticmethod
    def _delete(tables: Any, table: str, key: str) -> None:
        row = tables.own_entry
        row.delete().where(row.collection == table, row.name == key).execute()


def _content_of(table: str, text: Any) -> tuple[Content | None, str]:
    """What a row holds; nothing, and why, where that is no entry."""
    if table not in TABLES:
        return None, "the library has no such table"
    try:
        content: Content = json.loads(text)
        check_entry(table, content)
    except ValidationError as error:
        detail = error.errors()[0]
        return None, f"{'.'.join(str(step) for step in detail['loc'])}: {detail['msg']}"
    except (ValueError, TypeError):
        return None, "its figures cannot be read"
    return content, ""
