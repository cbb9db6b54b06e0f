"""What the keeper has set once for all, as text by name."""

from mitten.store.connection import Connection


class Settings:
    """Settings of one database."""

    def __init__(self, connection: Connection) -> None:
        self._connection = connection

    def get(self, name: str, usual: str) -> str:
        """A setting, or what is usual."""
        with self._connection.reading() as tables:
            row = tables.setting.get_or_none(tables.setting.name == name)
            return usual if row is None else str(row.content)

    def put(self, name: str, content: str) -> None:
        """Keep a setting."""
        with self._connection.writing() as tables:
            tables.setting.delete().where(tables.setting.name == name).execute()
            tables.setting.create(name=name, content=content)
