"""Who waits for whom: searches for their turn, edits for one another, the library for edits."""

from threading import Event, Thread

import pytest

from mitten.web import editing as editing_module
from mitten.web.editing import Editing
from mitten.web.searches import Turns

AT_ONCE_S, SOON_S = 0.15, 10.0
"""Long enough to see that something waits, and for it to come once it may."""


class Worker:
    """Something that waits for its turn."""

    def __init__(self) -> None:
        self.stop = Event()


def waits(thread: Thread) -> bool:
    thread.join(AT_ONCE_S)
    return thread.is_alive()


def comes(thread: Thread) -> bool:
    thread.join(SOON_S)
    return not thread.is_alive()


def in_line(turns: Turns, count: int) -> list[Worker]:
    """So many that stand in a line, the first of them first."""
    workers = [Worker() for _ in range(count)]
    for worker in workers:
        turns.join(worker)
    return workers


def waiting(turns: Turns, worker: Worker) -> tuple[Thread, list[bool]]:
    """One that waits for its turn, and what it is told when it comes."""
    came = list[bool]()
    thread = Thread(target=lambda: came.append(turns.wait(worker)), daemon=True)
    thread.start()
    assert waits(thread)
    return thread, came


def test_as_many_work_as_may_at_once_and_the_next_comes_when_one_leaves() -> None:
    turns = Turns(2)
    workers = in_line(turns, 4)
    assert [turns.before(worker) for worker in workers] == [0, 0, 1, 2]
    assert turns.wait(workers[0])
    assert turns.wait(workers[1])
    third, came = waiting(turns, workers[2])
    turns.leave(workers[0])
    assert comes(third)
    assert came == [True]
    assert [turns.before(worker) for worker in workers] == [0, 0, 0, 1]


def test_who_is_stopped_while_it_waits_comes_at_once_and_does_not_work() -> None:
    turns = Turns(1)
    workers = in_line(turns, 2)
    second, came = waiting(turns, workers[1])
    turns.stop(workers[1])
    assert comes(second)
    assert came == [False]


def edit(editing: Editing, enclosure_id: int, begun: Event, ends: Event) -> Thread:
    """An edit that goes on until it is told to end."""

    def hold() -> None:
        with editing.of(enclosure_id):
            begun.set()
            ends.wait(SOON_S)

    thread = Thread(target=hold, daemon=True)
    thread.start()
    return thread


def test_edits_of_one_enclosure_follow_one_another_and_those_of_others_do_not_wait() -> None:
    editing, ends = Editing(), Event()
    first, second, other = Event(), Event(), Event()
    edit(editing, 1, first, ends)
    assert first.wait(SOON_S)
    later = edit(editing, 1, second, ends)
    edit(editing, 2, other, ends)
    assert other.wait(SOON_S)
    assert waits(later)
    assert not second.is_set()
    ends.set()
    assert second.wait(SOON_S)


def test_the_library_is_changed_when_no_edit_goes_on_and_edits_wait_for_it() -> None:
    editing, ends, begun, changed, library_ends = Editing(), Event(), Event(), Event(), Event()
    edit(editing, 1, begun, ends)
    assert begun.wait(SOON_S)

    def change() -> None:
        with editing.library():
            changed.set()
            library_ends.wait(SOON_S)

    changing = Thread(target=change, daemon=True)
    changing.start()
    assert waits(changing)
    assert not changed.is_set(), "an edit is judged by one library from its begin to its end"
    ends.set()
    assert changed.wait(SOON_S)
    during = Event()
    late = edit(editing, 2, during, ends)
    assert waits(late)
    assert not during.is_set()
    library_ends.set()
    assert during.wait(SOON_S)


def test_a_page_waits_for_edits_that_were_asked_for_and_not_where_there_are_none(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    monkeypatch.setattr(editing_module, "MOST_WAIT_S", 100 * SOON_S)
    editing, ends, begun = Editing(), Event(), Event()
    thread = edit(editing, 1, begun, ends)
    assert begun.wait(SOON_S)
    looking = Thread(target=editing.wait_for, args=(1,), daemon=True)
    looking.start()
    assert waits(looking)
    ends.set()
    assert comes(looking)
    assert comes(thread)
    for nobody_edits in (1, 7):
        looking = Thread(target=editing.wait_for, args=(nobody_edits,), daemon=True)
        looking.start()
        assert comes(looking)
