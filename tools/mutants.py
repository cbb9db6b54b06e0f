"""Put small faults into the code, one at a time, and see whether a test notices. ``python -m tools.mutants --help``.

A sample of ``tools/faults.py`` is drawn, seeded. For each a process is forked that loads the code with it and runs
the tests that come through the function it is in, the quickest first, as long as they took no more than a budget
together. Which tests come through which function is noted in a run of its own (``--note``), as long as the tests take.
"""

import importlib.abc
import importlib.util
import json
import os
import random
import shutil
import signal
import sys
import time
from collections import Counter, defaultdict
from collections.abc import Mapping, Sequence
from concurrent.futures import ThreadPoolExecutor
from itertools import accumulate
from pathlib import Path
from tempfile import TemporaryDirectory
from types import CodeType, FrameType, ModuleType
from typing import Annotated

import numba
import typer
from tests.holding import HOLDING

from tools.faults import ROOT, Fault, faults_in, with_fault

SOURCE = ROOT / "src"
NOTES = ROOT / ".mutants" / "notes.json"
CORE, ELSEWHERE = "src/mitten/core", "elsewhere"
NOT_JUDGED = ("/data/", "/static/", "mitten/__main__.py", "demo/", "web/serve.py")
"""What is no logic, or runs in processes of its own, which the fault would not reach."""

QUIETLY = ("-q", "-x", "--no-header", "-p", "no:xdist", "-W", "ignore::pytest.PytestAssertRewriteWarning")
CONTROLS = 12
"""Sets of tests that are first run without a fault: they have to pass, or nothing that follows means anything."""

AT_RANDOM = "tests/web/test_fuzz.py"
"""What its requests come through differs from run to run, and how long they take."""

BUDGET_S, HOLDING_S, MOST_TESTS = 25.0, 15.0, 40
"""Seconds that the tests of a fault may take, and how many of them those that hold values."""

COMPILED = "@compiled"

LIMIT_S = 150.0
AT_ONCE = 2
ALWAYS = ("tests/core/test_golden.py",)
"""Beside those noted for a function of the model: what is cached comes through it in another test's name."""


def drawn(part: str, count: int, seed: int) -> list[Fault]:
    """A sample of the faults of the core, or of all else."""
    core = ROOT / CORE
    files = sorted(
        path for path in (SOURCE / "mitten").rglob("*.py") if not any(one in str(path) for one in NOT_JUDGED)
    )
    chosen = [path for path in files if path.is_relative_to(core) == (part == CORE)]
    everything = [fault for path in chosen for fault in faults_in(path)]
    return random.Random(seed).sample(everything, min(count, len(everything)))  # noqa: S311, no secret


class _Faulty(importlib.abc.MetaPathFinder, importlib.abc.Loader):
    """Loads one module with its fault."""

    def __init__(self, fault: Fault) -> None:
        parts = Path(fault.path).relative_to("src").with_suffix("").parts
        self.name = ".".join(parts[:-1] if parts[-1] == "__init__" else parts)
        self.path, self.code = ROOT / fault.path, with_fault(fault)

    def find_spec(
        self, fullname: str, path: object = None, target: object = None
    ) -> importlib.machinery.ModuleSpec | None:
        if fullname != self.name:
            return None
        is_package = self.path.name == "__init__.py"
        return importlib.util.spec_from_file_location(
            fullname, self.path, loader=self, submodule_search_locations=[str(self.path.parent)] if is_package else None
        )  # fmt: skip

    def exec_module(self, module: ModuleType) -> None:
        exec(compile(self.code, str(self.path), "exec"), module.__dict__)  # noqa: S102, that is what it is for


def _tests_for(fault: Fault, notes: Mapping[str, list[tuple[float, str]]]) -> list[str]:
    """Those that hold values first, for they notice most; then the quickest of all others."""
    noted = _through_callers(fault, notes) if _is_compiled(fault) else notes.get(f"{fault.path}:{fault.function}", [])
    known = [one for one in sorted(noted) if not one[1].startswith(AT_RANDOM)]
    holding = [one for one in known if one[1].startswith(HOLDING)]
    found = _within(holding, HOLDING_S) + _within([one for one in known if one not in holding], BUDGET_S - HOLDING_S)
    return found + (list(ALWAYS) if fault.path.startswith(f"{CORE}/physics") else [])


def _is_compiled(fault: Fault) -> bool:
    """Whether a fault is in a file of compiled loops: what comes through those is not seen."""
    return COMPILED in (ROOT / fault.path).read_text(encoding="utf-8")


def _through_callers(fault: Fault, notes: Mapping[str, list[tuple[float, str]]]) -> list[tuple[float, str]]:
    """Tests that come through any function of the files that import the one with the fault."""
    path = Path(fault.path)
    imports = f"{path.parent.name} import {path.stem}", f"{path.parent.name}.{path.stem} import"
    files = [one for one in (ROOT / CORE).rglob("*.py") if any(words in one.read_text("utf-8") for words in imports)]
    callers = tuple(f"{one.relative_to(ROOT)}:" for one in files)
    found = (test for function, tests in notes.items() if function.startswith(callers) for test in tests)
    return list({(took_s, name) for took_s, name in found})


def _within(known: Sequence[tuple[float, str]], budget_s: float) -> list[str]:
    """The first of some tests, as long as they take no more together."""
    ends_s = accumulate(seconds for seconds, _ in known)
    return [test for (_, test), until_s in zip(known, ends_s, strict=True) if until_s <= budget_s][:MOST_TESTS]


def _is_noticed(fault: Fault | None, tests: Sequence[str]) -> bool:
    """Whether a test fails with it, or the tests do not come to their end."""
    if not tests:
        return False
    child = os.fork()
    if child == 0:
        _run_faulty(fault, tests)
    ends_s = time.monotonic() + LIMIT_S
    while time.monotonic() < ends_s:
        done, status = os.waitpid(child, os.WNOHANG)
        if done:
            return status != 0
        time.sleep(0.05)
    os.killpg(child, signal.SIGKILL)
    os.waitpid(child, 0)
    return True


def _run_faulty(fault: Fault | None, tests: Sequence[str]) -> None:
    import pytest

    os.setpgrp()
    nowhere = os.open(os.devnull, os.O_WRONLY)
    os.dup2(nowhere, 1)
    os.dup2(nowhere, 2)
    if fault is not None:
        sys.meta_path.insert(0, _Faulty(fault))
    code = 3
    with TemporaryDirectory() as folder:
        try:
            if fault is not None and _is_compiled(fault):
                # What is kept of a kernel does not know that another, which it calls, has a fault.
                numba.config.CACHE_DIR = folder  # type: ignore[attr-defined]
            code = int(pytest.main([*QUIETLY, *tests]))
        finally:
            shutil.rmtree(folder, ignore_errors=True)
            os._exit(code)


def _load_what_others_made() -> None:
    """What every process needs and no fault is put into, so that it is there when they are forked."""
    for name in (
        "fastapi.testclient", "hypothesis", "jinja2", "numpy", "peewee", "pint", "psychrolib", "pydantic", "pytest",
        "scipy.fft", "scipy.interpolate", "scipy.ndimage", "scipy.optimize", "scipy.sparse.linalg", "scipy.special",
    ):  # fmt: skip
        importlib.import_module(name)


class _Noter:
    """A plugin of pytest that notes which functions each test comes through, and how long it takes."""

    def __init__(self) -> None:
        self.by_function: dict[str, list[tuple[float, str]]] = defaultdict(list)
        self._seen: set[CodeType] = set()
        self._begun_s = 0.0

    def pytest_runtest_setup(self, item: object) -> None:
        import threading

        self._seen, self._begun_s = set(), time.monotonic()
        sys.settrace(self._note)
        threading.settrace(self._note)

    def pytest_runtest_teardown(self, item: object) -> None:
        import threading

        sys.settrace(None)
        threading.settrace(None)
        took_s = time.monotonic() - self._begun_s
        for code in self._seen:
            if "/src/mitten/" in code.co_filename:
                function = f"src{code.co_filename.partition('/src')[2]}:{code.co_firstlineno}"
                self.by_function[function].append((round(took_s, 3), item.nodeid))  # type: ignore[attr-defined]

    def _note(self, frame: FrameType, event: str, arg: object) -> None:
        # Nothing is returned, so that no line within is traced: only that a function is begun.
        self._seen.add(frame.f_code)


def note(tests: Sequence[str]) -> None:
    """Run tests and note what they come through."""
    import pytest

    noter = _Noter()
    pytest.main(["-q", "-p", "no:xdist", "-m", "not sweep", *tests], plugins=[noter])
    NOTES.parent.mkdir(exist_ok=True)
    known = json.loads(NOTES.read_text()) if NOTES.exists() else {}
    # What was noted of the same files before goes: tests and functions may have other names and places now.
    again = {test.partition("::")[0] for found in noter.by_function.values() for _, test in found}
    for function in {*known, *noter.by_function}:
        others = [one for one in known.get(function, []) if one[1].partition("::")[0] not in again]
        known[function] = others + noter.by_function.get(function, [])
    NOTES.write_text(json.dumps(known), encoding="utf-8")


def judge(faults: Sequence[Fault]) -> None:
    """Print what was not noticed, and the share that was."""
    notes = json.loads(NOTES.read_text())
    _load_what_others_made()
    with ThreadPoolExecutor(AT_ONCE) as pool:
        if any(pool.map(lambda fault: _is_noticed(None, _tests_for(fault, notes)), faults[:CONTROLS])):
            raise SystemExit("Tests fail without any fault.")
        verdicts = list(
            pool.map(lambda fault: _is_noticed(fault, tests) if (tests := _tests_for(fault, notes)) else False, faults)
        )
    rooms: dict[str, Counter[bool]] = defaultdict(Counter)
    for fault, noticed in zip(faults, verdicts, strict=True):
        rooms[str(Path(fault.path).parent)][noticed] += 1
        if not noticed:
            said = "" if _tests_for(fault, notes) else " (no test comes through it)"
            print(f"{fault.path}:{fault.line}: {fault.words}{said}")
    for room, counted in sorted(rooms.items()):
        print(f"{room}: {counted[True]} of {counted.total()}")
    print(f"{sum(verdicts)} of {len(verdicts)} noticed, {sum(verdicts) / len(verdicts):.0%}")


def main(
    count: Annotated[int, typer.Option(help="How many faults.")] = 200,
    seed: Annotated[int, typer.Option(help="Which sample.")] = 1,
    elsewhere: Annotated[bool, typer.Option(help="In all but the core.")] = False,
    notes: Annotated[bool, typer.Option("--note", help="Note first what each test comes through.")] = False,
    only: Annotated[list[str] | None, typer.Argument(help="Tests that are noted; those of the part if none.")] = None,
) -> None:
    """Put faults into the code and see whether a test notices."""
    if notes:
        usual = ["tests/web", "tests/draw", "tests/store", "tests/test_cli.py"] if elsewhere else ["tests/core"]
        note(only or usual)
        return
    begun_s = time.monotonic()
    judge(drawn(ELSEWHERE if elsewhere else CORE, count, seed))
    print(f"{(time.monotonic() - begun_s) / 60:.1f} minutes")


if __name__ == "__main__":
    typer.run(main)
