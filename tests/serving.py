"""A real server on a free port, for browser tests, the browser bench and the pictures."""

import shutil
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from functools import cache
from pathlib import Path
from socket import socket
from threading import Thread
from time import monotonic

import uvicorn
from fastapi import FastAPI

from mitten.core.physics.threads import use_one_thread
from mitten.demo import demo_designs
from mitten.store import Shelf, open_database
from mitten.web.app import without_shelf
from mitten.web.routes.common import Workings, begin_services
from mitten.web.serve import listening_socket
from mitten.web.trust import HOST_NAMES
from tests.catalogue import CATALOGUE

use_one_thread()

CHROMIUM_ARGUMENTS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--no-first-run",
]
START_LIMIT_S = 20.0
TEST_HOSTS = HOST_NAMES | {"testserver"}
"""The names that the application answers to in tests: that of the test client too."""

WORKED_OUT = Workings(CATALOGUE)
"""Shared by the servers of one run: each begins with the demo enclosures, which need be worked out only once."""


def fresh_workings() -> Workings:
    """With no card drawn and no heat of a shelf known yet, as a server begins; assessments and days are shared."""
    workings = Workings(CATALOGUE)
    workings.assessments, workings.days = WORKED_OUT.assessments, WORKED_OUT.days
    return workings


@cache
def _addresses() -> FastAPI:
    return without_shelf(TEST_HOSTS)


def app_over(shelf: Shelf) -> FastAPI:
    """The application over a shelf. There is one in a process, since its addresses take longer to set up than most
    tests: the shelf before has to be done with.
    """
    app = _addresses()
    app.state.services = begin_services(shelf, fresh_workings())
    return app


def chromium_path() -> str:
    """Debian's Chromium; its shell without windows where it is installed, which is twice as fast.

    Raises:
        FileNotFoundError: it is not installed.
    """
    path = shutil.which("chromium-headless-shell") or shutil.which("chromium")
    if path is None:
        raise FileNotFoundError("Chromium is not installed; install your system's 'chromium' package.")
    return path


@contextmanager
def free_port() -> Iterator[socket]:
    """A port on which servers can listen, one after the other."""
    with listening_socket() as port:
        port.bind(("127.0.0.1", 0))
        port.listen()
        yield port


@contextmanager
def demo_server(folder: Path) -> Iterator[tuple[str, Shelf]]:
    """Serve a fresh shelf of demo enclosures; yields its address and the shelf behind it."""
    with free_port() as port, demo_server_on(port, folder) as found:
        yield found


@contextmanager
def demo_server_on(port: socket, folder: Path) -> Iterator[tuple[str, Shelf]]:
    """Serve a fresh shelf of demo enclosures on a port, which is free again for another afterwards."""
    database = open_database(folder / "mitten.sqlite3")
    shelf = Shelf(database)
    for design in demo_designs():
        shelf.add(design, "Demo")
    listening = port.dup()
    server = uvicorn.Server(uvicorn.Config(app_over(shelf), log_level="critical", timeout_graceful_shutdown=1))
    thread = Thread(target=server.run, kwargs={"sockets": [listening]}, daemon=True)
    thread.start()
    deadline = monotonic() + START_LIMIT_S
    while not server.started:
        if not thread.is_alive() or monotonic() > deadline:
            raise RuntimeError("the server did not start")
        thread.join(0.02)
    try:
        yield f"http://127.0.0.1:{listening.getsockname()[1]}", shelf
    finally:
        server.should_exit = True
        thread.join()
        _turn_away(port)
        database.close()


def _turn_away(port: socket) -> None:
    """Refuse what was asked too late for a server, so that the next one does not answer it."""
    port.setblocking(False)
    with suppress(BlockingIOError):
        while True:
            port.accept()[0].close()
