"""Who may change what, and when: edits of one enclosure one after the other, those of others beside them, and none
while the library is changed.
"""

from collections import Counter
from collections.abc import Iterator
from contextlib import contextmanager
from threading import Condition, Lock

MOST_WAIT_S = 5.0


class Editing:
    """Turns at changing things; whoever has one holds no other."""

    def __init__(self) -> None:
        self.settings = Lock()
        """What the keeper has set once for all, such as owned gear."""

        self._edited: set[int] = set()
        self._wanted: Counter[int] = Counter()
        self._library = False
        self._changed = Condition()

    @contextmanager
    def of(self, enclosure_id: int) -> Iterator[None]:
        """Held while a design is read, changed and stored, so that of two quick edits none undoes the other."""
        with self._changed:
            self._wanted[enclosure_id] += 1
            self._changed.wait_for(lambda: not self._library and enclosure_id not in self._edited)
            self._edited.add(enclosure_id)
        try:
            yield
        finally:
            with self._changed:
                self._edited.discard(enclosure_id)
                self._wanted -= Counter({enclosure_id: 1})
                self._changed.notify_all()

    def wait_for(self, enclosure_id: int) -> None:
        """Until every edit of an enclosure that was asked for by now is stored, so that a page that is opened shows
        it; not for ever, because a page that is behind is told when it edits.
        """
        with self._changed:
            self._changed.wait_for(lambda: not self._wanted[enclosure_id], MOST_WAIT_S)

    @contextmanager
    def library(self) -> Iterator[None]:
        """Held while the library is changed: an edit is judged by one library from its begin to its end."""
        with self._changed:
            self._changed.wait_for(lambda: not self._library)
            self._library = True
            self._changed.wait_for(lambda: not self._edited)
        try:
            yield
        finally:
            with self._changed:
                self._library = False
                self._changed.notify_all()
