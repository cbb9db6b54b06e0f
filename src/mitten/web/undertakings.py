"""What takes long, is made of many steps and is not a search: failures of every season, the months of a year.

They are worked out beside the pages by the crew that searches use, in turn with them, and shown as far as they are.
"""

import logging
from collections import deque
from collections.abc import Callable, Hashable, Sequence
from concurrent.futures import Future
from dataclasses import dataclass, field
from threading import Event, Lock, Thread
from typing import Any

from mitten.core.design import MittenError
from mitten.core.plan.search import Crew
from mitten.web.searches import Searches, Turns

_LOG = logging.getLogger(__name__)

MOST_KEPT = 40
MOST_WAIT_S = 20.0
BROKE_OFF = "This broke off, for a reason that nobody foresaw. Try again, or change something."

Step = Callable[[], Any]
"""One step of the work; another process can be given it."""


@dataclass(frozen=True)
class Undertaking:
    """One piece of work as it was when it was asked for: how many steps it has, the results of those that were done in
    their order, whether it went on, what broke it off, and how many had their turn before it.
    """

    total: int
    results: tuple[Any, ...]
    running: bool
    trouble: str
    before: int

    @property
    def is_whole(self) -> bool:
        """Whether every step is done."""
        return len(self.results) == self.total


@dataclass
class _Work:
    """One piece of work while it goes on: what it is about, its steps and the results of those that are done."""

    subject: Hashable
    steps: Sequence[Step]
    stop: Event = field(default_factory=Event)
    results: list[Any] = field(default_factory=list)
    running: bool = True
    trouble: str = ""

    @property
    def is_left(self) -> bool:
        """Whether it has ended with steps undone."""
        return not self.running and len(self.results) < len(self.steps)

    def seen(self, turns: Turns) -> Undertaking:
        """What it is now. Whether it goes on is asked first: what is told to be at rest comes with all that it found,
        and a page does not take some of the results and then no more.
        """
        running = self.running
        return Undertaking(len(self.steps), tuple(self.results), running, self.trouble, turns.before(self))


class Undertakings:
    """The latest pieces of work, one of a kind for each enclosure."""

    def __init__(self, searches: Searches) -> None:
        self._crew, self._turns = searches.crew, searches.turns
        self._by_key: dict[Hashable, _Work] = {}
        self._threads: list[Thread] = []
        self._lock = Lock()

    def of(
        self, key: Hashable, subject: Hashable, steps: Callable[[], Sequence[Step]], *, goes_on: bool = False
    ) -> Undertaking:
        """The work of that key on a subject, begun now if the latest was on another; with ``goes_on`` one that was
        stopped is taken up again.
        """
        with self._lock:
            known = self._by_key.get(key)
            if known is not None and known.subject != subject:
                self._turns.stop(known)
                known = None
            if known is not None and not (goes_on and known.is_left):
                return known.seen(self._turns)
            begun = _Work(subject, known.steps, results=list(known.results)) if known else _Work(subject, steps())
            self._by_key.pop(key, None)
            self._by_key[key] = begun
            while len(self._by_key) > MOST_KEPT:
                self._turns.stop(self._by_key.pop(next(iter(self._by_key))))
            self._turns.join(begun)
            thread = Thread(target=self._run, args=(begun,), name="undertaking", daemon=True)
            self._threads = [one for one in self._threads if one.is_alive()] + [thread]
            thread.start()
        return begun.seen(self._turns)

    def known(self, key: Hashable, subject: Hashable) -> Undertaking | None:
        """The latest work of that key, if it is on this subject."""
        with self._lock:
            known = self._by_key.get(key)
        return known.seen(self._turns) if known is not None and known.subject == subject else None

    def results_about(self, is_it: Callable[[Hashable], bool]) -> tuple[Any, ...]:
        """What every piece of work on a subject has found by now, whoever asked for it: it is worked out once."""
        with self._lock:
            works = [one for one in self._by_key.values() if is_it(one.subject)]
        return tuple(result for work in works for result in tuple(work.results))

    def stop(self, key: Hashable) -> None:
        """Let the work of that key end with what it has."""
        with self._lock:
            known = self._by_key.get(key)
        if known is not None:
            self._turns.stop(known)

    def forget(self) -> None:
        """Stop and forget all of them."""
        with self._lock:
            found = list(self._by_key.values())
            self._by_key.clear()
        for undertaking in found:
            self._turns.stop(undertaking)

    def close(self) -> None:
        """Stop all of them, and wait until the threads have noticed."""
        self.forget()
        for thread in self._threads:
            thread.join(MOST_WAIT_S)

    def _run(self, undertaking: _Work) -> None:
        try:
            if self._turns.wait(undertaking):
                with self._crew() as crew:
                    _work(undertaking, crew)
        except MittenError as error:
            undertaking.trouble = str(error)
        except Exception:
            # One that was to stop may lose its processes.
            if not undertaking.stop.is_set():
                _LOG.exception("an undertaking broke off")
                undertaking.trouble = BROKE_OFF
        finally:
            undertaking.running = False
            self._turns.leave(undertaking)


def _work(undertaking: _Work, crew: Crew) -> None:
    """Do the steps, as many at once as the crew has hands; results come in the order of the steps."""
    left, pending = deque(undertaking.steps[len(undertaking.results) :]), deque[Future[Any]]()
    while (left or pending) and not undertaking.stop.is_set():
        while left and len(pending) < crew.hands:
            pending.append(crew.executor.submit(left.popleft()))
        undertaking.results.append(pending.popleft().result())
