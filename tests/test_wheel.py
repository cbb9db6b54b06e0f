"""The wheel: everything is in it, and it starts the demo where nothing of the project is installed."""

import re
import subprocess
import sys
import sysconfig
import tomllib
import venv
from collections.abc import Iterator
from pathlib import Path
from tempfile import gettempdir
from urllib.request import urlopen

import pytest

from mitten import __version__

ROOT = Path(__file__).parents[1]


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


@pytest.fixture(scope="module")
def mitten(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """The command, installed from the wheel; what it depends on is lent by this environment, the project is not."""
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
    (home / "lent.pth").write_text(sysconfig.get_path("purelib") + "\n")
    assert run(python, "-c", "import mitten; print(mitten.__file__)").startswith(str(home))
    return folder / "empty" / "bin" / "mitten"


@pytest.mark.slow
def test_one_version_is_told_everywhere(mitten: Path) -> None:
    assert run(mitten, "--version") == f"mitten {__version__}\n"
    assert tomllib.loads((ROOT / "pyproject.toml").read_text())["project"]["version"] == __version__


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
