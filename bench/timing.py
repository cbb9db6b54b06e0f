"""Measuring in rounds, so that a slow moment of the machine touches both sides of a ratio alike."""

from collections.abc import Callable, Sequence
from statistics import median
from time import perf_counter


def medians_s(works: Sequence[Callable[[], object]], rounds: int) -> list[float]:
    """Median seconds of each piece of work, all done in turn in every round."""
    times: list[list[float]] = [[] for _ in works]
    for _ in range(rounds):
        for taken, work in zip(times, works, strict=True):
            start = perf_counter()
            work()
            taken.append(perf_counter() - start)
    return [median(taken) for taken in times]
