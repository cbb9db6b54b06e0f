"""The command that serves, as a process: told to end or killed in the middle, silent clients, a second one."""

import os
import re
import signal
import socket
import sqlite3
import subprocess
import sys
from collections.abc import Iterator
from contextlib import closing, contextmanager, suppress
from pathlib import Path
from time import monotonic, sleep
from urllib.parse import urlencode

import httpx2
import pytest

from mitten.demo import demo_designs
from mitten.store import Shelf, StoreError, close_database, exclusive_lock, open_database
from tests.sweeping import sliced

LONG_S = 60.0
SEARCHING = 5
"""Processes of a server that searches: itself, what looks after its memory, what forks, and the two that search."""


@contextmanager
def serving(*arguments: str) -> Iterator[tuple[subprocess.Popen[str], str]]:
    """A server of its own process group, and its address."""
    command = [sys.executable, "-m", "mitten", *arguments, "--port", "0"]
    process = subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True, process_group=0)
    assert process.stdout is not None
    try:
        found = re.search(r"http://\S+?(?=/ )", process.stdout.readline())
        assert found, process.communicate()[1]
        yield process, found.group()
    finally:
        # With all that it began: what is left of it would hold its output open.
        with suppress(ProcessLookupError):
            os.killpg(process.pid, signal.SIGKILL)
        process.communicate()


def post(address: str, path: str, **values: str) -> int:
    return httpx2.post(f"{address}{path}", data=values, timeout=LONG_S).status_code


def left_of(group: int) -> list[str]:
    """Names of the processes of a group that still run."""
    found = []
    for stat in Path("/proc").glob("[0-9]*/stat"):
        with suppress(OSError):
            name, _, rest = stat.read_text().partition("(")[2].rpartition(")")
            state, _, its_group = rest.split()[:3]
            found += [name] if int(its_group) == group and state != "Z" else []
    return found


def comes_within(seconds: float, group: int, count: int) -> bool:
    until = monotonic() + seconds
    while len(left_of(group)) < count and monotonic() < until:
        sleep(0.1)
    return len(left_of(group)) >= count


def goes_within(seconds: float, group: int) -> bool:
    until = monotonic() + seconds
    while left_of(group) and monotonic() < until:
        sleep(0.1)
    return not left_of(group)


def with_an_enclosure(folder: Path) -> Path:
    path = folder / "mitten.sqlite3"
    database = open_database(path)
    Shelf(database).add(demo_designs()[0])
    close_database(database)
    return path


@pytest.fixture
def path(tmp_path: Path) -> Path:
    return with_an_enclosure(tmp_path)


@pytest.fixture(scope="module")
def running(tmp_path_factory: pytest.TempPathFactory) -> Iterator[tuple[Path, str]]:
    """The database and the address of a server that goes on."""
    path = with_an_enclosure(tmp_path_factory.mktemp("running"))
    with serving("serve", "--data", str(path)) as (_, address):
        yield path, address


@pytest.mark.slow
@pytest.mark.parametrize("how", sliced([signal.SIGTERM, signal.SIGINT, signal.SIGKILL, signal.SIGHUP], 2))
def test_a_search_leaves_no_process_behind_however_the_server_ends(path: Path, how: signal.Signals) -> None:
    with serving("serve", "--data", str(path)) as (process, address):
        assert post(address, "/enclosures/1/plans/look") == 303
        assert comes_within(LONG_S, process.pid, SEARCHING)
        sleep(0.5)
        process.send_signal(how)
        process.wait(20)
        assert goes_within(20, process.pid)
        if how != signal.SIGKILL:
            assert process.stderr is not None
            assert "Traceback" not in process.stderr.read()
            assert [one.name for one in path.parent.iterdir() if "wal" in one.name or "shm" in one.name] == []
    with closing(sqlite3.connect(path)) as raw:
        assert raw.execute("PRAGMA integrity_check").fetchone() == ("ok",)


@pytest.mark.slow
def test_an_edit_that_was_begun_is_answered_and_stored_before_the_server_ends(path: Path) -> None:
    with serving("serve", "--data", str(path)) as (process, address):
        host, port = address.removeprefix("http://").split(":")
        body = urlencode({"x_m": "0.8000"}).encode()
        head = f"POST /enclosures/1/move/heaters%3AMain%20lamp HTTP/1.1\r\nHost: {host}:{port}\r\nHX-Request: true\r\n"
        head += f"Content-Type: application/x-www-form-urlencoded\r\nContent-Length: {len(body)}\r\n\r\n"
        with socket.create_connection((host, int(port))) as client:
            client.sendall(head.encode() + body)
            sleep(0.15)
            process.send_signal(signal.SIGINT)
            client.settimeout(LONG_S)
            said = b""
            # On a busy machine it may not have been begun: then nothing is said, and nothing may be stored.
            with suppress(ConnectionResetError):
                said = client.recv(200)
        process.wait(LONG_S)
    database = open_database(path)
    stored = Shelf(database).open(1).design.heaters[0].x_m == pytest.approx(0.8)
    close_database(database)
    assert said.startswith(b"HTTP/1.1 200") == stored


@pytest.mark.slow
def test_a_second_server_on_the_same_file_and_a_port_that_is_taken_are_said_in_a_sentence(
    running: tuple[Path, str],
) -> None:
    path, address = running
    for arguments, sentence in (
        (["--data", str(path), "--port", "0"], "Another Mitten is running"),
        (["--data", str(path.with_name("other")), "--port", address.rpartition(":")[2]], "is not free"),
    ):
        command = [sys.executable, "-m", "mitten", "serve", *arguments]
        second = subprocess.run(command, capture_output=True, text=True, timeout=LONG_S, check=False)
        assert second.returncode == 2
        assert sentence in second.stderr
        assert "Traceback" not in second.stderr


@pytest.mark.slow
def test_who_says_nothing_or_never_finishes_is_not_waited_for(running: tuple[Path, str]) -> None:
    host, port = running[1].removeprefix("http://").split(":")
    begun = monotonic()
    clients = [socket.create_connection((host, int(port))) for _ in range(2)]
    clients[1].sendall(b"POST /units HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 50\r\n\r\nsys")
    for client in clients:
        client.settimeout(40)
        while client.recv(4096):
            pass
        client.close()
    assert monotonic() - begun < 30


GONE = """
import multiprocessing, os, socket
from multiprocessing import forkserver
from mitten.core.plan.search.crew import make_ready
make_ready()
asked = socket.socket(socket.AF_UNIX)
asked.connect(forkserver._forkserver._forkserver_address)
asked.close()
os.waitpid(forkserver._forkserver._forkserver_pid, 0)
"""
"""Asks for a process of a crew and has gone before it is there."""


def test_who_has_gone_before_a_process_was_there_leaves_no_trace() -> None:
    ended = subprocess.run([sys.executable, "-c", GONE], capture_output=True, text=True, timeout=60, check=True)
    assert ended.stderr == ""


@pytest.mark.slow
def test_the_same_file_by_another_name_is_not_opened_twice(path: Path) -> None:
    other = path.parent / "elsewhere"
    other.mkdir()
    by_link = other / "link.sqlite3"
    by_link.symlink_to(path)
    with serving("serve", "--data", str(path)):
        second = subprocess.run(
            [sys.executable, "-m", "mitten", "serve", "--port", "0", "--data", str(by_link)],
            capture_output=True, text=True, timeout=LONG_S,
        )  # fmt: skip
        assert (second.returncode, second.stderr.count("\n")) == (2, 1)
        assert "Another Mitten is running" in second.stderr
    by_second_name = other / "hard.sqlite3"
    by_second_name.hardlink_to(path)
    for name in (path, by_second_name):
        with pytest.raises(StoreError, match="second name"), exclusive_lock(name):
            pass


@pytest.mark.slow
def test_a_file_without_enclosures_that_was_there_already_is_said(tmp_path: Path) -> None:
    """A copy that was made of a running server's file has no tables yet: all of it is in the log beside it."""
    path, copied = tmp_path / "mitten.sqlite3", tmp_path / "copy.sqlite3"
    with serving("serve", "--data", str(path)) as (_, address):
        assert "was there already" not in httpx2.get(address, timeout=LONG_S).text
        assert post(address, "/enclosures", species="rosy-boa") == 303
        copied.write_bytes(path.read_bytes())
    with serving("serve", "--data", str(copied)) as (_, address):
        said = "was there already and holds no enclosure"
        assert said in httpx2.get(address, timeout=LONG_S).text
        assert post(address, "/enclosures", species="rosy-boa") == 303
        assert said not in httpx2.get(address, timeout=LONG_S).text
