"""Who does the work of a search: this process alone, or two others, so that both cores of a small machine are used and
the pages of this one stay live.
"""

import multiprocessing
import os
import signal
from collections.abc import Iterator
from concurrent.futures import BrokenExecutor, Executor, Future, ProcessPoolExecutor
from contextlib import contextmanager
from dataclasses import dataclass
from threading import Thread
from typing import Any

from mitten.core.physics.threads import use_one_thread

HANDS = 2
METHOD = "forkserver"
"""Workers are forked off a process that has loaded everything and runs no threads: they are there in milliseconds."""

POLITE = 19
"""How much less of a busy processor a search gets than the pages, in Unix's steps, where nothing better is known."""

PRELOADED = "mitten.core.plan.search.warm"


class AtOnce(Executor):
    """Does everything in this process, when it is asked."""

    def submit(self, fn: Any, /, *args: Any, **kwargs: Any) -> Future[Any]:
        """The result of a call, or its exception."""
        future: Future[Any] = Future()
        try:
            future.set_result(fn(*args, **kwargs))
        except Exception as error:
            future.set_exception(error)
        return future


@dataclass(frozen=True)
class Crew:
    """An executor, and how many calls it works on at once."""

    executor: Executor
    hands: int = 1


ALONE = Crew(AtOnce())


def can_fork() -> bool:
    """Whether this system can run a crew of processes."""
    return METHOD in multiprocessing.get_all_start_methods()


def make_ready(*also: str) -> None:
    """Have the process started that crews are forked from, which takes a second or two in the background. ``also`` are
    modules that it loads besides: what the command that was given imports is asked for by every one that is forked.
    """
    if can_fork():
        from multiprocessing import forkserver

        multiprocessing.get_context(METHOD).set_forkserver_preload([PRELOADED, *also])
        forkserver.ensure_running()


@contextmanager
def two_processes() -> Iterator[Crew]:
    """A crew of two processes; this process alone where that cannot be."""
    if not can_fork():
        yield ALONE
        return
    context = multiprocessing.get_context(METHOD)
    context.set_forkserver_preload([PRELOADED])
    executor = ProcessPoolExecutor(HANDS, context, _begin)
    try:
        yield Crew(executor, HANDS) if _answers(executor) else ALONE
    finally:
        executor.shutdown(wait=False, cancel_futures=True)


def _answers(executor: Executor) -> bool:
    """Whether its processes come up at all: a system may forbid them."""
    try:
        return executor.submit(os.getpid).result() != os.getpid()
    except (BrokenExecutor, OSError):
        return False


def end_at_once() -> None:
    """End every process of every crew in the middle of what it does: this process is about to end."""
    for process in multiprocessing.active_children():
        process.terminate()


def _begin() -> None:
    # Ctrl+C reaches every process of a terminal: who began the work ends it.
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    Thread(target=_end_with_the_first, daemon=True).start()
    _give_way()
    use_one_thread()


def _give_way() -> None:
    """What a keeper does meanwhile goes first: the crew gets what is left of the processors, which is all of them while
    nobody edits.
    """
    try:
        os.sched_setscheduler(0, os.SCHED_IDLE, os.sched_param(0))
    except (AttributeError, OSError):
        if hasattr(os, "nice"):
            os.nice(POLITE)


def _end_with_the_first() -> None:
    """Nobody waits for the answers of a process whose first one has gone, however it went."""
    first = multiprocessing.parent_process()
    if first is not None:
        first.join()
        os._exit(1)
