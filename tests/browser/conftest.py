"""The real interface in Chromium; whatever the browser complains of fails the test."""

from collections.abc import Iterator
from pathlib import Path
from socket import socket
from typing import Any

import pytest
from playwright.sync_api import Browser, ConsoleMessage, Error, Page, Response, ViewportSize

from mitten.store import Shelf
from mitten.web.assessments import Assessments
from mitten.web.views.verdict import Fixes
from tests.serving import CHROMIUM_ARGUMENTS, chromium_path, demo_server_on, free_port

WINDOW: ViewportSize = {"width": 1280, "height": 800}
TELLS_OF_POLICY = (
    "document.addEventListener('securitypolicyviolation',"
    " e => console.error('policy violation: ' + e.violatedDirective + ' ' + e.blockedURI))"
)
OVERTAKEN = ("htmx:afterRequest", "htmx:sendAbort", "htmx:abort")


@pytest.fixture(scope="session")
def browser_type_launch_args() -> dict[str, Any]:
    return {"executable_path": chromium_path(), "args": CHROMIUM_ARGUMENTS}


@pytest.fixture(scope="session")
def browser_context_args() -> dict[str, Any]:
    return {"viewport": WINDOW, "reduced_motion": "reduce"}


@pytest.fixture(scope="session")
def port() -> Iterator[socket]:
    """The port of all servers of a run, one after the other: the browser keeps their scripts, read and compiled."""
    with free_port() as found:
        yield found


@pytest.fixture
def served(tmp_path: Path, port: socket) -> Iterator[tuple[str, Shelf]]:
    with demo_server_on(port, tmp_path) as found:
        yield found


@pytest.fixture
def address(served: tuple[str, Shelf]) -> str:
    return served[0]


@pytest.fixture
def shelf(served: tuple[str, Shelf]) -> Shelf:
    return served[1]


@pytest.fixture(scope="session")
def tab(browser: Browser, browser_context_args: dict[str, Any]) -> Iterator[Page]:
    """The tab of all tests of a run: opening another takes as long as a short journey."""
    context = browser.new_context(**browser_context_args)
    context.add_init_script(TELLS_OF_POLICY)
    yield context.new_page()
    context.close()


@pytest.fixture
def page(tab: Page, address: str) -> Iterator[Page]:
    """The tab, as new to a test: with nothing stored, in the usual window."""
    yield tab
    for other in tab.context.pages:
        if other != tab:
            other.close()
    tab.context.unroute_all(behavior="ignoreErrors")
    tab.unroute_all(behavior="ignoreErrors")
    tab.mouse.move(0, 0)
    tab.emulate_media(media="null")
    tab.set_viewport_size(WINDOW)
    # A page without scripts: what the one before still asks for is asked while its server is there.
    tab.goto(f"{address}/static/mark.svg")
    tab.context.clear_cookies()
    tab.evaluate("localStorage.clear(); sessionStorage.clear()")


@pytest.fixture
def nothing_mends(monkeypatch: pytest.MonkeyPatch) -> None:
    """No change is looked for that would mend a target, which takes a second after every edit: for tests of others."""
    # Not what is looked through and then kept: that is every test's.
    monkeypatch.setattr(Assessments, "fixes_of", lambda *_, **__: Fixes({}))


@pytest.fixture
def expected_statuses() -> set[int]:
    """Error statuses that a test provokes on purpose; it adds them itself."""
    return set()


@pytest.fixture(autouse=True)
def _no_complaints(page: Page, expected_statuses: set[int]) -> Iterator[None]:
    # It looks before the server is stopped in the middle of an answer, on which the page depends.
    complaints: list[str] = []
    refused: list[tuple[int, str]] = []

    def on_error(error: Error) -> None:
        complaints.append(f"page error: {error}")

    def on_console(message: ConsoleMessage) -> None:
        # A refused edit is logged by the browser as a failed request; its status is checked below instead. An edit
        # that a quicker one overtakes is given up, which htmx logs as the end of its request.
        expected = "status of" in message.text or message.text.startswith(OVERTAKEN)
        if message.type in ("error", "warning") and not expected:
            complaints.append(f"console {message.type}: {message.text}")

    def on_response(response: Response) -> None:
        if response.status >= 400:
            refused.append((response.status, response.url))

    page.on("pageerror", on_error)
    page.on("console", on_console)
    page.on("response", on_response)
    yield
    page.remove_listener("pageerror", on_error)
    page.remove_listener("console", on_console)
    page.remove_listener("response", on_response)
    assert complaints == []
    said = page.locator(".fault").all_inner_texts() if refused else []
    assert [(status, url, said) for status, url in refused if status not in expected_statuses] == []
