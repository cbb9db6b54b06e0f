"""Long walks at random through the bench in the browser; each must end with page, store and history in agreement.

python -m bench.walks [walks] [first seed] [steps]
"""

import sys
from functools import partial
from pathlib import Path
from tempfile import TemporaryDirectory

from playwright.sync_api import Error, Response, sync_playwright
from tests.serving import CHROMIUM_ARGUMENTS, chromium_path, demo_server
from tests.walking import Walk

WALKS, STEPS = 20, 300
CRASHED = 500


def _complain(said: list[str], error: Error) -> None:
    said.append(f"page error: {error}")


def _complain_of_a_crash(said: list[str], response: Response) -> None:
    if response.status >= CRASHED:
        said.append(f"{response.status} from {response.request.method} {response.url}")


def main(walks: int = WALKS, first: int = 10, steps: int = STEPS) -> None:
    """Walk, and print whatever did not agree."""
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=chromium_path(), args=CHROMIUM_ARGUMENTS)
        for seed in range(first, first + walks):
            complaints: list[str] = []
            # What is still being solved when the walk ends may write once more.
            gone = TemporaryDirectory(ignore_cleanup_errors=True)
            with gone as folder, demo_server(Path(folder)) as (address, shelf):
                page = browser.new_page(viewport={"width": 1280, "height": 800})
                page.on("pageerror", partial(_complain, complaints))
                page.on("response", partial(_complain_of_a_crash, complaints))
                faults = list(Walk(page, address, shelf, seed).steps(steps))
                page.close()
            print(f"seed {seed}: {steps} steps, {len(faults) + len(complaints)} faults", flush=True)
            for fault in (*faults, *complaints):
                print(f"  {fault}", flush=True)


if __name__ == "__main__":
    main(*(int(text) for text in sys.argv[1:4]))
