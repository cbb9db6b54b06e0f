"""The wheel: everything is in it, and it starts the demo where nothing of the project is installed."""

import ast
import re
import subprocess
import sys
import tomllib
import venv
from collections.abc import Iterator
from importlib.metadata import Distribution, distribution, distributions, packages_distributions
from pathlib import Path
from tempfile import gettempdir
from urllib.request import urlopen

import pytest
from packaging.requirements import Requirement

from mitten import __version__

ROOT = Path(__file__).parents[1]
PROJECT = tomllib.loads((ROOT / "pyproject.toml").read_text())["project"]


def run(*command: str | Path) -> str:
    return subprocess.run([str(one) for one in command], check=True, capture_output=True, text=True).stdout


def demo_folders() -> set[Path]:
    return set(Path(gettempdir()).glob("mitten-demo-*"))


@pytest.fixture(scope="module", autouse=True)
def _with_no_path_of_its_own() -> Iterator[None]:
    """Where the tests were told to look for the project, a command of the wheel would find it too."""
    with pytest.MonkeyPatch.context() as patch:
        patch.delenv("PYTHONPATH", raising=False)
        yield


def asked_for_by(home: Path) -> list[Distribution]:
    """What the installed wheel depends on by its metadata, and what that depends on in turn."""
    (own,) = distributions(name="mitten", path=[str(home)])
    found, waiting = dict[str, Distribution](), list(own.requires or [])
    while waiting:
        wanted = Requirement(waiting.pop())
        if wanted.name.lower() in found or (wanted.marker and not wanted.marker.evaluate({"extra": ""})):
            continue
        found[wanted.name.lower()] = distribution(wanted.name)
        assert wanted.specifier.contains(found[wanted.name.lower()].version), wanted
        waiting += found[wanted.name.lower()].requires or []
    return list(found.values())


def lend(lent: list[Distribution], home: Path) -> None:
    for one in lent:
        for top in {file.parts[0] for file in one.files or [] if file.parts[0] != ".."}:
            if not (home / top).exists():
                (home / top).symlink_to(Path(str(one.locate_file(top))))


def test_everything_that_is_imported_is_asked_for() -> None:
    asked = {Requirement(one).name.lower().replace("_", "-") for one in PROJECT["dependencies"]}
    imported = {
        name
        for file in (ROOT / "src").rglob("*.py")
        for node in ast.walk(ast.parse(file.read_text()))
        for name in (
            [one.name.partition(".")[0] for one in node.names]
            if isinstance(node, ast.Import)
            else [(node.module or "").partition(".")[0]]
            if isinstance(node, ast.ImportFrom)
            else []
        )
    }
    foreign = imported - set(sys.stdlib_module_names) - {"mitten"}
    came_from = packages_distributions()
    assert {name for name in foreign if not {one.lower().replace("_", "-") for one in came_from[name]} & asked} == set()


@pytest.fixture(scope="module")
def mitten(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """The command, installed from the wheel, with what its own metadata asks for and nothing else: that is lent by this
    environment, so that nothing is fetched.
    """
    folder = tmp_path_factory.mktemp("wheel")
    run(sys.executable, "-m", "pip", "wheel", "-q", "--no-deps", "--no-build-isolation", "-w", folder, ROOT)
    (wheel,) = folder.glob("mitten-*.whl")
    venv.create(folder / "empty")
    python = folder / "empty" / "bin" / "python"
    run(
        sys.executable,
        "-m",
        "pip",
        "--python",
        python,
        "install",
        "-q",
        "--no-compile",
        "--no-deps",
        "--no-index",
        wheel,
    )
    home = Path(run(python, "-c", "import sysconfig; print(sysconfig.get_path('purelib'))").strip())
    lend(asked_for_by(home), home)
    assert run(python, "-c", "import mitten; print(mitten.__file__)").startswith(str(home))
    return folder / "empty" / "bin" / "mitten"


@pytest.mark.slow
def test_one_version_is_told_everywhere(mitten: Path) -> None:
    assert run(mitten, "--version") == f"mitten {__version__}\n"
    assert PROJECT["version"] == __version__


@pytest.mark.slow
def test_the_demo_starts_from_the_wheel_with_its_pages_scripts_and_fonts_and_takes_its_folder_with_it(
    mitten: Path,
) -> None:
    before = demo_folders()
    with subprocess.Popen([mitten, "demo", "--log-level", "error"], stdout=subprocess.PIPE, text=True) as server:
        try:
            assert server.stdout is not None
            address = re.search(r"http://[^ ]+?/", server.stdout.readline())
            assert address is not None
            made = demo_folders() - before
            assert made
            page = urlopen(address[0], timeout=60).read().decode()  # noqa: S310
            assert "Quarry ledge" in page
            shipped = re.findall(r'(?:src|href)="/(static/[^"]+)"', page)
            assert len(shipped) >= 4
            for one in (*shipped, "static/bench/drag.js"):
                assert urlopen(address[0] + one, timeout=60).status == 200  # noqa: S310
        finally:
            server.terminate()
    assert not made & demo_folders()
