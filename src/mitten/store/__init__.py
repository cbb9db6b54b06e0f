"""The keeper's enclosures on disk: SQLite, every edit a revision; the keeper's own library entries and settings."""

from mitten.store.database import StoreError, close_database, exclusive_lock, open_database, resolved
from mitten.store.library import OwnLibrary, SetAside
from mitten.store.settings import Settings
from mitten.store.shelf import Revision, Shelf, Shelved, UnknownEnclosureError, Unreadable, Variant

__all__ = [
    "OwnLibrary",
    "Revision",
    "SetAside",
    "Settings",
    "Shelf",
    "Shelved",
    "StoreError",
    "UnknownEnclosureError",
    "Unreadable",
    "Variant",
    "close_database",
    "exclusive_lock",
    "open_database",
    "resolved",
]
