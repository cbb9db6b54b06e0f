"""Starting the server: on this machine only, with the demo data or the keeper's."""

import gc
import logging
import os
import signal
import socket
import sys
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Literal

import uvicorn
from platformdirs import user_data_path

from mitten.core.design import MittenError
from mitten.core.plan.search import make_ready, two_processes
from mitten.demo import demo_designs
from mitten.store import Shelf, close_database, exclusive_lock, open_database, resolved
from mitten.web.app import create_app
from mitten.web.memory import give_large_pieces_back
from mitten.web.patient import Patient
from mitten.web.searches import Searches

ADDRESS = "127.0.0.1"
DATABASE_NAME = "mitten.sqlite3"

LogLevel = Literal["debug", "info", "warning", "error"]
DEFAULT_LOG_LEVEL: LogLevel = "warning"
LOG_LINE = "%(asctime)s %(levelname)s %(name)s: %(message)s"

NO_ENCLOSURES = (
    "Note: {path} was there already and holds no enclosure. If it should hold some, it may be a copy that was made "
    "while Mitten was running: such a copy lacks what was not yet folded into the file. Stop Mitten where the original "
    "is, copy the file again, and open that copy."
)

COMMAND = "mitten.cli"
"""The module of the command that begins the server."""

MOST_WAIT_S = 15
"""An edit that was begun is answered before the server ends, unless it takes longer than that."""


class ServeError(MittenError):
    """The server cannot be started like that."""


def serve_demo(port: int, log_level: LogLevel = DEFAULT_LOG_LEVEL) -> None:
    """Serve invented enclosures from a folder that goes when the server stops.

    Raises:
        ServeError: the port is not free.
    """
    with TemporaryDirectory(prefix="mitten-demo-") as folder, _database(Path(folder) / DATABASE_NAME) as shelf:
        for design in demo_designs():
            shelf.add(design, "Demo")
        _serve(shelf, port, "Demo data: what you change is gone when this stops.", log_level)


def serve_keepers(port: int, database: Path | None, log_level: LogLevel = DEFAULT_LOG_LEVEL) -> None:
    """Serve the keeper's own enclosures.

    Raises:
        ServeError: the port is not free.
        StoreError: the database cannot be used, or another server uses it.
    """
    path = resolved(database or user_data_path("mitten", appauthor=False) / DATABASE_NAME)
    with exclusive_lock(path):
        was_there = path.exists()
        with _database(path) as shelf:
            notice = NO_ENCLOSURES.format(path=path) if was_there and shelf.is_empty() else ""
            about = f"Your data: {path}" + (f"\n{notice}" if notice else "")
            _serve(shelf, port, about, log_level, notice)


@contextmanager
def _database(path: Path) -> Iterator[Shelf]:
    """A shelf, and its database closed at the end, whatever ends it."""
    database = open_database(path)
    try:
        yield Shelf(database)
    finally:
        close_database(database)


def listening_socket() -> socket.socket:
    """A TCP socket that says so: asyncio switches Nagle's delay of 40 ms off only where the protocol is named."""
    return socket.socket(socket.AF_INET, socket.SOCK_STREAM, socket.IPPROTO_TCP)


def _serve(shelf: Shelf, port: int, about: str, log_level: LogLevel, notice: str = "") -> None:
    logging.basicConfig(level=log_level.upper(), format=LOG_LINE, force=True)
    _end_in_order()
    give_large_pieces_back()
    with listening_socket() as listening:
        listening.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        _bind(listening, port)
        print(f"Mitten is at http://{ADDRESS}:{listening.getsockname()[1]}/  (Ctrl+C stops it)\n{about}", flush=True)
        make_ready(COMMAND)
        app = create_app(shelf, searches=Searches(two_processes), notice=notice)
        # What is loaded by now stays: looking through it for what may be freed would hold pages up.
        gc.freeze()
        config = uvicorn.Config(
            app, http=Patient, log_level=log_level, log_config=None, timeout_graceful_shutdown=MOST_WAIT_S
        )
        # Ctrl+C has done its work once the server has ended.
        with suppress(KeyboardInterrupt):
            uvicorn.Server(config).run(sockets=[listening])


def _bind(listening: socket.socket, port: int) -> None:
    try:
        listening.bind((ADDRESS, port))
        # Whoever reads the address may use it at once, and is answered as soon as everything is loaded.
        listening.listen()
    except (OSError, OverflowError) as error:
        why = getattr(error, "strerror", error)
        raise ServeError(
            f"Port {port} is not free ({why}). Is Mitten running already? Else choose another with --port."
        ) from error


def _end_in_order() -> None:
    """Being told to end, or losing the terminal, ends as Ctrl+C does: log folded in, demo folder gone."""
    signal.signal(signal.SIGTERM, lambda *_: sys.exit(0))
    if hasattr(signal, "SIGHUP"):
        signal.signal(signal.SIGHUP, lambda *_: os.kill(os.getpid(), signal.SIGTERM))
