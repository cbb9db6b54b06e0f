"""The keeper's enclosures on disk: SQLite, every edit a revision."""

from mitten.store.database import StoreError, open_database
from mitten.store.shelf import Revision, Shelf, Shelved, UnknownEnclosureError

__all__ = ["Revision", "Shelf", "Shelved", "StoreError", "UnknownEnclosureError", "open_database"]
