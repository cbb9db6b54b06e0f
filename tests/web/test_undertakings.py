"""Work beside the pages: in order, stopped, taken up again, begun anew for another subject, and failing aloud."""

from collections.abc import Callable
from functools import partial
from threading import Event
from time import monotonic, sleep

from mitten.core.design import BadDesignError, Fault
from mitten.web.searches import Searches
from mitten.web.undertakings import BROKE_OFF, Undertaking, Undertakings

WAIT_S = 5.0


def until(holds: Callable[[], bool]) -> None:
    end = monotonic() + WAIT_S
    while not holds() and monotonic() < end:
        sleep(0.005)
    assert holds()


def ended(one: Undertaking) -> Undertaking:
    until(lambda: not one.running)
    return one


def numbers(count: int) -> list[Callable[[], int]]:
    return [partial(int, n) for n in range(count)]


def test_results_come_in_the_order_of_the_steps_and_are_kept() -> None:
    all_of_them = Undertakings(Searches())
    one = ended(all_of_them.of("a", "design", lambda: numbers(4)))
    assert (one.results, one.is_whole, one.trouble) == ([0, 1, 2, 3], True, "")
    assert all_of_them.of("a", "design", lambda: numbers(9), goes_on=True) is one
    assert all_of_them.known("a", "design") is one
    assert all_of_them.known("a", "another") is None
    assert all_of_them.known("b", "design") is None


def test_what_was_stopped_keeps_what_it_has_and_goes_on_from_there() -> None:
    all_of_them, first_done, held = Undertakings(Searches()), Event(), Event()
    counted: list[int] = []

    def first() -> str:
        counted.append(1)
        return "first"

    def second() -> str:
        first_done.set()
        held.wait(WAIT_S)
        return "second"

    one = all_of_them.of("a", "design", lambda: [first, second, lambda: "third"])
    first_done.wait(WAIT_S)
    all_of_them.stop("a")
    held.set()
    ended(one)
    assert one.results == ["first", "second"]
    assert not one.is_whole
    assert all_of_them.of("a", "design", list) is one, "by itself it is not taken up"
    again = ended(all_of_them.of("a", "design", list, goes_on=True))
    assert again.results == ["first", "second", "third"]
    assert counted == [1], "what is done is not done twice"


def test_another_subject_stops_the_work_on_the_one_before() -> None:
    all_of_them, held = Undertakings(Searches()), Event()
    old = all_of_them.of("a", "before", lambda: [lambda: held.wait(WAIT_S), lambda: 2])
    new = all_of_them.of("a", "after", lambda: numbers(2))
    held.set()
    assert ended(new).is_whole
    assert not ended(old).is_whole
    assert all_of_them.known("a", "before") is None


def test_what_breaks_off_says_so_and_can_be_tried_again() -> None:
    all_of_them, faults = Undertakings(Searches()), [ZeroDivisionError(), BadDesignError([Fault("x", "Not so.")])]

    def fails() -> None:
        raise faults.pop()

    refused = ended(all_of_them.of("a", 1, lambda: [fails]))
    assert refused.trouble.endswith("Not so.")
    broken = ended(all_of_them.of("a", 1, list, goes_on=True))
    assert broken.trouble == BROKE_OFF
    all_of_them.forget()
    assert all_of_them.known("a", 1) is None
