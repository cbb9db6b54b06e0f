"""The latest of many things, by key; safe from several threads."""

from collections import Counter, OrderedDict
from collections.abc import Callable, Iterable
from threading import Lock
from typing import Any, Generic, TypeVar

Key = TypeVar("Key")
Value = TypeVar("Value")


class LatestCache(Generic[Key, Value]):
    """At most ``most`` values; the one that was put or asked for longest ago goes first.

    ``heavy`` gives what a value holds that is large and may be shared with others, such as arrays: at most
    ``most_bytes`` of it in all are kept, each counted once, beside the latest value, which always stays.
    """

    def __init__(self, most: int, most_bytes: int = 0, heavy: Callable[[Value], Iterable[Any]] = lambda _: ()) -> None:
        self._most, self._most_bytes, self._heavy = most, most_bytes, heavy
        self._values: OrderedDict[Key, Value] = OrderedDict()
        self._holders: Counter[int] = Counter()
        self._bytes = 0
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
            if key in self._values:
                self._let_go(self._values.pop(key))
            self._values[key] = value
            self._take(value)
            while len(self._values) > self._most or (self._bytes > self._most_bytes > 0 and len(self._values) > 1):
                self._let_go(self._values.popitem(last=False)[1])
        return value

    def clear(self) -> None:
        """Forget everything."""
        with self._lock:
            self._values.clear()
            self._holders.clear()
            self._bytes = 0

    def _take(self, value: Value) -> None:
        for array in self._heavy(value):
            self._bytes += array.nbytes if not self._holders[id(array)] else 0
            self._holders[id(array)] += 1

    def _let_go(self, value: Value) -> None:
        for array in self._heavy(value):
            self._holders[id(array)] -= 1
            if not self._holders[id(array)]:
                del self._holders[id(array)]
                self._bytes -= array.nbytes
