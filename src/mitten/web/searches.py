"""Searches for plans that run beside the pages, one an enclosure, shown as far as they have come."""

import logging
from collections.abc import Callable, Mapping
from contextlib import AbstractContextManager, nullcontext
from dataclasses import dataclass, replace
from threading import Condition, Event, Lock, Thread
from time import monotonic
from typing import Protocol

from mitten.core.design import MittenError
from mitten.core.plan.search import ALONE, Brief, Crew, Near, Progress, end_at_once, nearest, obstacles, search

_LOG = logging.getLogger(__name__)

MOST_KEPT = 12
BROKE_OFF = "The search broke off, for a reason that nobody foresaw. Look again, or change something."
MOST_WAIT_S = 20.0
AT_ONCE = 2
"""Searches that work at the same time; the others wait for their turn."""


@dataclass
class Searching:
    """One search: what it looks for, how far it has come, and whether it goes on."""

    brief: Brief
    stop: Event
    progress: Progress
    running: bool = True
    said: tuple[str, ...] = ()
    """What stands in the way, where nothing works."""

    nearest: tuple[Near, ...] = ()
    """The plans that come nearest then, with what would mend them."""

    trouble: str = ""

    def seen(self) -> "Searching":
        """A copy of it as it is now. Whether it goes on is asked first: one that is told to be at rest comes with all
        that it found, and a page does not take some of the plans and then no more.
        """
        running = self.running
        return replace(self, running=running)


class Worker(Protocol):
    """Something that takes long, and can be stopped."""

    stop: Event


class Turns:
    """Who is at work and who waits, in the order in which they came."""

    def __init__(self, at_once: int) -> None:
        self._at_once = at_once
        self._line: list[Worker] = []
        self._moved = Condition()

    def join(self, worker: Worker) -> None:
        """Stand at the end of the line."""
        with self._moved:
            self._line.append(worker)

    def wait(self, worker: Worker) -> bool:
        """Wait for the turn; whether it came before the search was stopped."""
        with self._moved:
            self._moved.wait_for(lambda: worker.stop.is_set() or self._place(worker) <= 0)
            return not worker.stop.is_set()

    def leave(self, worker: Worker) -> None:
        """Make room for the next."""
        with self._moved:
            self._line.remove(worker)
            self._moved.notify_all()

    def stop(self, worker: Worker) -> None:
        """Have a worker end with what it has, also while it waits."""
        worker.stop.set()
        with self._moved:
            self._moved.notify_all()

    def before(self, worker: Worker) -> int:
        """How many have their turn before it; none once it is at work or has left."""
        with self._moved:
            return max(self._place(worker), 0) if any(one is worker for one in self._line) else 0

    def _place(self, worker: Worker) -> int:
        return next(place for place, one in enumerate(self._line) if one is worker) - self._at_once + 1


class Searches:
    """The latest search of each enclosure."""

    def __init__(self, crew: Callable[[], AbstractContextManager[Crew]] = lambda: nullcontext(ALONE)) -> None:
        """``crew`` makes who works for a search, from its begin to its end: this process alone, if nothing is said."""
        self.crew = crew
        self._by_enclosure: dict[int, Searching] = {}
        self._begun: list[Thread] = []
        self._lock = Lock()
        self.turns = Turns(AT_ONCE)

    def of(self, enclosure_id: int, brief: Brief) -> Searching:
        """The search for a brief, begun now if the enclosure's latest was for another."""
        with self._lock:
            known = self._by_enclosure.get(enclosure_id)
            if known is not None and known.brief == brief and not known.trouble:
                return known
            if known is not None:
                self.turns.stop(known)
            begun = Searching(brief, Event(), Progress())
            self._by_enclosure.pop(enclosure_id, None)
            self._by_enclosure[enclosure_id] = begun
            while len(self._by_enclosure) > MOST_KEPT:
                self.turns.stop(self._by_enclosure.pop(next(iter(self._by_enclosure))))
            self.turns.join(begun)
            thread = Thread(target=self._run, args=(begun,), name=f"search-{enclosure_id}", daemon=True)
            self._begun = [one for one in self._begun if one.is_alive()] + [thread]
            thread.start()
        return begun

    def known(self, enclosure_id: int, brief: Brief) -> Searching | None:
        """The enclosure's latest search, if it is for this brief."""
        latest = self.latest(enclosure_id)
        return latest if latest is not None and latest.brief == brief else None

    def latest(self, enclosure_id: int) -> Searching | None:
        """The enclosure's latest search."""
        with self._lock:
            return self._by_enclosure.get(enclosure_id)

    def stop(self, enclosure_id: int) -> None:
        """Let the enclosure's search end with what it has."""
        searching = self.latest(enclosure_id)
        if searching is not None:
            self.turns.stop(searching)

    def before(self, searching: Searching) -> int:
        """How many searches have their turn before one that waits."""
        return self.turns.before(searching)

    def close(self) -> None:
        """Stop all of them, end who works for them, and wait until the threads have noticed."""
        self.forget()
        end_at_once()
        for thread in self._begun:
            thread.join(MOST_WAIT_S)

    def forget(self) -> None:
        """Stop and forget all of them: the catalogue has changed."""
        with self._lock:
            found: Mapping[int, Searching] = dict(self._by_enclosure)
            self._by_enclosure.clear()
        for searching in found.values():
            self.turns.stop(searching)

    def _run(self, searching: Searching) -> None:
        begun_s = monotonic()
        try:
            if self.turns.wait(searching):
                self._work(searching)
                found = len(searching.progress.plans)
                _LOG.info(
                    "searched '%s': %d plans in %.1f s", searching.brief.design.name, found, monotonic() - begun_s
                )
        except MittenError as error:
            searching.trouble = str(error)
        except Exception:
            # A search that fails is said to have failed; it never looks like one that found nothing. One that was to
            # stop may lose its processes.
            if not searching.stop.is_set():
                _LOG.exception("a search broke off")
                searching.trouble = BROKE_OFF
        finally:
            searching.running = False
            self.turns.leave(searching)

    def _work(self, searching: Searching) -> None:
        with self.crew() as crew:
            for progress in search(searching.brief, lambda: not searching.stop.is_set(), crew):
                # A page may be filled from it at any time: it gets lists that are not sorted meanwhile.
                searching.progress = replace(progress, plans=list(progress.plans), rejected=list(progress.rejected))
            _say(searching, crew)


def _say(searching: Searching, crew: Crew) -> None:
    """Work out what to say where nothing works, unless the search was stopped."""
    progress = searching.progress
    if progress.plans:
        return
    searching.said = tuple(obstacles(progress, searching.brief.catalogue))
    if not searching.stop.is_set():
        searching.progress = replace(progress, step="Looking for the one change that would mend the nearest")
        searching.nearest = tuple(nearest(searching.brief, progress, crew))
