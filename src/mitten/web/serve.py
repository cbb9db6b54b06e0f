"""Starting the server: on this machine only, with the demo data or the keeper's."""

import socket
from pathlib import Path
from tempfile import TemporaryDirectory

import uvicorn
from platformdirs import user_data_path

from mitten.core.plan.search import make_ready, two_processes
from mitten.demo import demo_designs
from mitten.store import Shelf, open_database
from mitten.web.app import create_app
from mitten.web.searches import Searches

ADDRESS = "127.0.0.1"
DATABASE_NAME = "mitten.sqlite3"


def serve_demo(port: int) -> None:
    """Serve invented enclosures from a folder that goes when the server stops."""
    with TemporaryDirectory(prefix="mitten-demo-") as folder:
        shelf = Shelf(open_database(Path(folder) / DATABASE_NAME))
        for design in demo_designs():
            shelf.add(design, "Demo")
        _serve(shelf, port, "Demo data: what you change is gone when this stops.")


def serve_keepers(port: int, database: Path | None) -> None:
    """Serve the keeper's own enclosures.

    Raises:
        StoreError: the database cannot be used.
    """
    path = database or user_data_path("mitten", appauthor=False) / DATABASE_NAME
    _serve(Shelf(open_database(path)), port, f"Your data: {path}")


def listening_socket() -> socket.socket:
    """A TCP socket that says so: asyncio switches Nagle's delay of 40 ms off only where the protocol is named."""
    return socket.socket(socket.AF_INET, socket.SOCK_STREAM, socket.IPPROTO_TCP)


def _serve(shelf: Shelf, port: int, about: str) -> None:
    listening = listening_socket()
    listening.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    listening.bind((ADDRESS, port))
    print(f"Mitten is at http://{ADDRESS}:{listening.getsockname()[1]}/  (Ctrl+C stops it)\n{about}", flush=True)
    make_ready()
    app = create_app(shelf, searches=Searches(two_processes))
    config = uvicorn.Config(app, log_level="warning", timeout_graceful_shutdown=1)
    uvicorn.Server(config).run(sockets=[listening])
