"""The latest of many things, by key; safe from several threads."""

from collections import OrderedDict
from threading import Lock
from typing import Generic, TypeVar

Key = TypeVar("Key")
Value = TypeVar("Value")


class Kept(Generic[Key, Value]):
    """At most ``most`` values; the one that was put or asked for longest ago goes first."""

    def __init__(self, most: int) -> None:
        self._most = most
        self._values: OrderedDict[Key, Value] = OrderedDict()
        self._lock = Lock()

    def get(self, key: Key) -> Value | None:
        """The value, if it is still kept."""
        with self._lock:
            if key not in self._values:
                return None
            self._values.move_to_end(key)
            return self._values[key]

    def put(self, key: Key, value: Value) -> Value:
        """Keep a value, and give it back."""
        with self._lock:
            self._values[key] = value
            self._values.move_to_end(key)
            while len(self._values) > self._most:
                self._values.popitem(last=False)
        return value

    def clear(self) -> None:
        """Forget everything."""
        with self._lock:
            self._values.clear()
