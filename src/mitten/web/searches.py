"""Searches for plans that run beside the pages, one an enclosure, shown as far as they have come."""

import logging
from collections.abc import Callable, Mapping
from contextlib import AbstractContextManager, nullcontext
from dataclasses import dataclass, replace
from threading import Event, Lock, Thread

from mitten.core.design import MittenError
from mitten.core.plan.search import ALONE, Brief, Crew, Near, Progress, nearest, obstacles, search

MOST_KEPT = 12
BROKE_OFF = "The search broke off, for a reason that nobody foresaw. Look again, or change something."
MOST_WAIT_S = 20.0


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


class Searches:
    """The latest search of each enclosure."""

    def __init__(self, crew: Callable[[], AbstractContextManager[Crew]] = lambda: nullcontext(ALONE)) -> None:
        """``crew`` makes who works for a search, from its begin to its end: this process alone, if nothing is said."""
        self._crew = crew
        self._by_enclosure: dict[int, Searching] = {}
        self._begun: list[Thread] = []
        self._lock = Lock()

    def of(self, enclosure_id: int, brief: Brief) -> Searching:
        """The search for a brief, begun now if the enclosure's latest was for another."""
        with self._lock:
            known = self._by_enclosure.get(enclosure_id)
            if known is not None and known.brief == brief and not known.trouble:
                return known
            if known is not None:
                known.stop.set()
            begun = Searching(brief, Event(), Progress())
            self._by_enclosure.pop(enclosure_id, None)
            self._by_enclosure[enclosure_id] = begun
            while len(self._by_enclosure) > MOST_KEPT:
                self._by_enclosure.pop(next(iter(self._by_enclosure))).stop.set()
            thread = Thread(target=self._run, args=(begun,), name=f"search-{enclosure_id}", daemon=True)
            self._begun = [one for one in self._begun if one.is_alive()] + [thread]
            thread.start()
        return begun

    def latest(self, enclosure_id: int) -> Searching | None:
        """The enclosure's latest search."""
        with self._lock:
            return self._by_enclosure.get(enclosure_id)

    def stop(self, enclosure_id: int) -> None:
        """Let the enclosure's search end with what it has."""
        searching = self.latest(enclosure_id)
        if searching is not None:
            searching.stop.set()

    def close(self) -> None:
        """Stop all of them and wait until they have: a process must not end in the middle of one."""
        self.forget()
        for thread in self._begun:
            thread.join(MOST_WAIT_S)

    def forget(self) -> None:
        """Stop and forget all of them: the catalogue has changed."""
        with self._lock:
            found: Mapping[int, Searching] = dict(self._by_enclosure)
            self._by_enclosure.clear()
        for searching in found.values():
            searching.stop.set()

    def _run(self, searching: Searching) -> None:
        try:
            with self._crew() as crew:
                for progress in search(searching.brief, lambda: not searching.stop.is_set(), crew):
                    # A page may be filled from it at any time: it gets lists that are not sorted meanwhile.
                    searching.progress = replace(progress, plans=list(progress.plans), rejected=list(progress.rejected))
                _say(searching, crew)
        except MittenError as error:
            searching.trouble = str(error)
        except Exception:
            # A search that fails is said to have failed; it never looks like one that found nothing.
            logging.getLogger(__name__).exception("a search broke off")
            searching.trouble = BROKE_OFF
        finally:
            searching.running = False


def _say(searching: Searching, crew: Crew) -> None:
    """Work out what to say where nothing works, unless the search was stopped."""
    progress = searching.progress
    if progress.plans:
        return
    searching.said = tuple(obstacles(progress))
    if not searching.stop.is_set():
        searching.progress = replace(progress, step="Looking for the one change that would mend the nearest")
        searching.nearest = tuple(nearest(searching.brief, progress, crew))
