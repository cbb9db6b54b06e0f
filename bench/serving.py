"""The server under load, killed in the middle, and after hundreds of edits.

python -m bench.serving [load] [failures] [kills] [edits]

Prints how long pages and edits take with twenty clients while a search runs, and pages while failures are gone through,
whether any acknowledged change was lost when the server is killed, and what memory it has come to.
"""

import re
import subprocess
import sys
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from itertools import cycle, islice, product
from pathlib import Path
from random import Random
from tempfile import TemporaryDirectory
from threading import Thread
from time import monotonic, sleep

import httpx2
import numpy as np

from mitten.demo import demo_designs
from mitten.store import Shelf, close_database, open_database

CLIENTS, LOAD_S, COLD_S = 20, 90.0, 20.0
"""Clients, and seconds in all, of which the first are apart: every enclosure is then worked out for the first time."""

THINKS_S = (1.0, 3.0)
"""How long a keeper looks at an answer before the next thing is done."""

EDITED = 0.3
KILLS, WITHIN_S = 40, (1.0, 5.0)
SOME_MORE = 5
EDITS = 500
A_MIB = 1024
PAGES = ("/", "/enclosures/{n}", "/enclosures/{n}?sheet=animal", "/enclosures/{n}?sheet=box", "/library", "/help",
         "/enclosures/{n}/history", "/enclosures/{n}/shopping")  # fmt: skip
HX = {"HX-Request": "true"}
LONG_S = 120.0


@contextmanager
def _served(path: Path) -> Iterator[tuple[subprocess.Popen[str], str]]:
    command = [sys.executable, "-m", "mitten", "serve", "--data", str(path), "--port", "0"]
    process = subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, text=True)
    assert process.stdout is not None
    found = re.search(r"http://\S+?(?=/ )", process.stdout.readline())
    assert found is not None
    try:
        yield process, found.group()
    finally:
        process.terminate()
        process.wait(30)


@contextmanager
def _shelf_of(count: int) -> Iterator[Path]:
    """A database with so many enclosures, the demo's over and over."""
    with TemporaryDirectory() as folder:
        path = Path(folder) / "mitten.sqlite3"
        database = open_database(path)
        for number in range(count):
            design = demo_designs()[number % 6]
            Shelf(database).add(design.model_copy(update={"name": f"{design.name} {number}"}), "Bench")
        close_database(database)
        yield path


def load() -> Iterator[str]:
    """Twenty clients, each with an enclosure of its own, while a search, a Check and a Year are worked out."""
    with _shelf_of(CLIENTS + 1) as path, _served(path) as (_, address):
        httpx2.get(address, timeout=LONG_S)
        times: dict[str, list[float]] = {"pages": [], "edits": [], "cold pages": [], "cold edits": []}
        until = monotonic() + LOAD_S
        threads = [Thread(target=_client, args=(address, n, until, times)) for n in range(1, CLIENTS + 1)]
        for thread in threads:
            thread.start()
        while monotonic() < until:
            for work in ("plans/look", "failures/begin", "year/begin"):
                httpx2.post(f"{address}/enclosures/{CLIENTS + 1}/{work}", headers=HX, timeout=LONG_S)
            sleep(5)
        for thread in threads:
            thread.join()
    beside = f"{CLIENTS} clients for {LOAD_S:.0f} s, a search, a Check and a Year"
    yield f"Load: {beside} (95 %: pages under 1 s, edits under 2 s)"
    for what, found in times.items():
        late_s = np.percentile(found, 95)
        yield f"  {what}: {len(found)}, median {np.median(found):.2f} s, 95 % {late_s:.2f} s, most {max(found):.1f} s"


def _client(address: str, number: int, until: float, times: dict[str, list[float]]) -> None:
    """One keeper, who looks at pages and moves things."""
    random, place_m = Random(number), 0.2
    with httpx2.Client(base_url=address, timeout=LONG_S) as client:
        while monotonic() < until:
            sleep(random.uniform(*THINKS_S))
            begun, edits = monotonic(), random.random() < EDITED
            if edits:
                place_m = round(random.uniform(0.15, 0.3), 3)
                part = _first_lamp(number)
                answer = client.post(f"/enclosures/{number}/move/{part}", data={"x_m": f"{place_m}"}, headers=HX)
            else:
                answer = client.get(random.choice(PAGES).format(n=number))
            assert answer.status_code < 400, (answer.status_code, answer.url)
            cold = "cold " if begun < until - LOAD_S + COLD_S else ""
            times[f"{cold}{'edits' if edits else 'pages'}"].append(monotonic() - begun)


def failures() -> Iterator[str]:
    """Pages while every failure of every season of the largest box is gone through."""
    begun, times = monotonic(), list[float]()
    with _shelf_of(6) as path, _served(path) as (_, address), httpx2.Client(base_url=address, timeout=LONG_S) as client:
        for number, page in product(range(1, 7), PAGES):
            client.get(page.format(n=number))
        begun = monotonic()
        client.post("/enclosures/6/failures/begin", headers=HX)
        pages = cycle(page.format(n=number) for number in range(1, 7) for page in PAGES)
        while "load delay" in client.get("/enclosures/6/failures", headers=HX).text:
            asked = monotonic()
            client.get(next(pages))
            times.append(monotonic() - asked)
            sleep(0.1)
    yield (
        f"Pages while all failures are gone through in {monotonic() - begun:.1f} s (under 100 ms): {len(times)}, "
        f"median {1000 * np.median(times):.0f} ms, 95 % {1000 * np.percentile(times, 95):.0f} ms"
    )


def _first_lamp(number: int) -> str:
    return f"heaters:{demo_designs()[(number - 1) % 6].heaters[0].name}"


def kills() -> Iterator[str]:
    """Kill it in the middle of edits, again and again: what was acknowledged is there, and undo leads back."""
    random, lost, acknowledged = Random(1), 0, 0
    with _shelf_of(1) as path:
        for _ in range(KILLS):
            done: list[float] = []
            with _served(path) as (process, address):
                editor = Thread(target=_edit_until_it_ends, args=(address, random, done))
                editor.start()
                sleep(random.uniform(*WITHIN_S))
                process.kill()
                process.wait(10)
                editor.join()
            acknowledged += len(done)
            database = open_database(path)
            shelf = Shelf(database)
            stored = {
                round(shelf.design_at(1, one.number).heaters[0].x_m, 2)
                for one in islice(shelf.history(1), len(done) + SOME_MORE)
            }
            lost += sum(place_m not in stored for place_m in done)
            close_database(database)
    yield f"Kills: {KILLS}, {acknowledged} acknowledged edits, {lost} lost"


def _edit_until_it_ends(address: str, random: Random, done: list[float]) -> None:
    with suppress(httpx2.HTTPError), httpx2.Client(base_url=address, timeout=LONG_S) as client:
        while True:
            place_m = round(random.uniform(0.3, 0.95), 2)
            answer = client.post("/enclosures/1/move/heaters:Main lamp", data={"x_m": f"{place_m}"})
            if answer.status_code < 400:
                done.append(place_m)


def edits() -> Iterator[str]:
    """Hundreds of edits of all kinds, and the memory that the server has come to."""
    random = Random(2)
    with (
        _shelf_of(3) as path,
        _served(path) as (process, address),
        httpx2.Client(base_url=address, timeout=LONG_S) as client,
    ):
        yield f"Edits: {EDITS} of all kinds (under 600 MiB)"
        for number in range(1, EDITS + 1):
            path_, values = random.choice(KINDS)(random)
            client.post(path_, data=values, headers=HX)
            if number % 100 == 0:
                yield f"  after {number}: {_resident_mib(process.pid):.0f} MiB"


Edit = Callable[[Random], tuple[str, dict[str, str]]]
KINDS: tuple[Edit, ...] = (
    lambda r: ("/enclosures/1/move/heaters:Main lamp", {"x_m": f"{r.uniform(0.3, 0.95):.3f}"}),
    lambda r: ("/enclosures/1/move/sites:Ledge", {"x_m": f"{r.uniform(0.6, 1.0):.3f}"}),
    lambda r: ("/enclosures/1/sheet/box", {"enclosure.length_m": f"{r.uniform(110, 140):.0f}"}),
    lambda r: ("/enclosures/1/sheet/room", {"room.winter.day_c": f"{r.uniform(16, 23):.1f}"}),
    lambda r: ("/enclosures/2/sheet/box", {"enclosure.height_m": f"{r.uniform(40, 60):.0f}"}),
    lambda r: ("/enclosures/2/part/heaters:Dome lamp", {"watts": r.choice(["50", "60", "75", "90"])}),
    lambda r: ("/enclosures/3/move/sites:High branch", {"z_m": f"{r.uniform(0.2, 0.4):.3f}"}),
    lambda r: (f"/enclosures/{r.randint(1, 3)}/undo", {}),
    lambda r: (f"/enclosures/{r.randint(1, 3)}/add", {"what": r.choice(["halogen-flood", "cool-hide", "led"])}),
)  # fmt: skip


def _resident_mib(pid: int) -> float:
    found = re.search(r"VmRSS:\s+(\d+)", Path(f"/proc/{pid}/status").read_text())
    assert found is not None
    return int(found.group(1)) / A_MIB


PARTS = {"load": load, "failures": failures, "kills": kills, "edits": edits}

if __name__ == "__main__":
    for name in sys.argv[1:] or PARTS:
        for line in PARTS[name]():
            print(line, flush=True)
