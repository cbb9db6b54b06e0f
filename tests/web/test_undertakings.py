"""Work beside the pages: in order, stopped, taken up again, begun anew for another subject, and failing aloud."""

from collections.abc import Callable, Hashable, Iterator
from functools import partial
from threading import Event
from time import monotonic, sleep
from typing import Any

from mitten.core.design import BadDesignError, Fault
from mitten.core.plan.search import Brief, Progress
from mitten.demo import demo_designs
from mitten.web.searches import Searches, Searching, Turns
from mitten.web.undertakings import BROKE_OFF, Undertaking, Undertakings, _Work
from tests.catalogue import CATALOGUE

WAIT_S = 5.0


def until(holds: Callable[[], bool]) -> None:
    end = monotonic() + WAIT_S
    while not holds() and monotonic() < end:
        sleep(0.005)
    assert holds()


def ended(all_of_them: Undertakings, subject: Hashable) -> Undertaking:
    """What the work of the key "a" was when it had ended."""

    def now() -> Undertaking:
        found = all_of_them.known("a", subject)
        assert found is not None
        return found

    until(lambda: not now().running)
    return now()


def numbers(count: int) -> list[Callable[[], int]]:
    return [partial(int, n) for n in range(count)]


def test_results_come_in_the_order_of_the_steps_and_are_kept() -> None:
    all_of_them = Undertakings(Searches())
    all_of_them.of("a", "design", lambda: numbers(4))
    one = ended(all_of_them, "design")
    assert (one.results, one.total, one.is_whole, one.trouble) == ((0, 1, 2, 3), 4, True, "")
    assert all_of_them.of("a", "design", lambda: numbers(9), goes_on=True) == one
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

    all_of_them.of("a", "design", lambda: [first, second, lambda: "third"])
    first_done.wait(WAIT_S)
    all_of_them.stop("a")
    held.set()
    one = ended(all_of_them, "design")
    assert one.results == ("first", "second")
    assert not one.is_whole
    assert all_of_them.of("a", "design", list) == one, "by itself it is not taken up"
    all_of_them.of("a", "design", list, goes_on=True)
    assert ended(all_of_them, "design").results == ("first", "second", "third")
    assert counted == [1], "what is done is not done twice"


def test_another_subject_stops_the_work_on_the_one_before() -> None:
    all_of_them, begun, held, late = Undertakings(Searches()), Event(), Event(), Event()

    def slow() -> None:
        begun.set()
        held.wait(WAIT_S)

    all_of_them.of("a", "before", lambda: [slow, late.set])
    begun.wait(WAIT_S)
    all_of_them.of("a", "after", lambda: numbers(2))
    held.set()
    assert ended(all_of_them, "after").is_whole
    assert all_of_them.known("a", "before") is None
    all_of_them.close()
    assert not late.is_set()


def test_what_breaks_off_says_so_and_can_be_tried_again() -> None:
    all_of_them, faults = Undertakings(Searches()), [ZeroDivisionError(), BadDesignError([Fault("x", "Not so.")])]

    def fails() -> None:
        raise faults.pop()

    all_of_them.of("a", 1, lambda: [fails])
    assert ended(all_of_them, 1).trouble.endswith("Not so.")
    all_of_them.of("a", 1, list, goes_on=True)
    assert ended(all_of_them, 1).trouble == BROKE_OFF
    all_of_them.forget()
    assert all_of_them.known("a", 1) is None


def test_work_that_ends_while_a_page_looks_at_it_is_asked_for_again() -> None:
    """A page that took eleven months and then "ended" would show a year of eleven months, and never ask again."""
    work = _Work("design", numbers(2))

    class EndsMeanwhile(list[int]):
        def __iter__(self) -> Iterator[int]:
            yield 0
            self.append(1)
            work.running = False

    work.results = EndsMeanwhile([0])
    seen = work.seen(Turns(1))
    assert (seen.results, seen.is_whole, seen.running) == ((0,), False, True)


def test_a_search_that_ends_while_a_page_looks_at_it_is_asked_for_again() -> None:
    class EndsMeanwhile(Searching):
        def __getattribute__(self, name: str) -> Any:
            found = super().__getattribute__(name)
            if name == "progress":
                self.running = False
            return found

    searching = EndsMeanwhile(Brief(demo_designs()[0], CATALOGUE), Event(), Progress())
    assert searching.seen().running
    assert not searching.running
