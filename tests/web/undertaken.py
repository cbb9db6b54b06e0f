"""What is worked out beside the pages: begun, and waited for."""

from time import monotonic, sleep

from starlette.testclient import TestClient

PATIENCE_S = 120.0


def whole(client: TestClient, path: str, query: str = "") -> str:
    """The fragment at a path once it is worked out."""
    text = client.post(f"{path}/begin{query}").text
    until = monotonic() + PATIENCE_S
    while "<progress" in text and monotonic() < until:
        sleep(0.05)
        text = client.get(f"{path}{query}").text
    assert "<progress" not in text, "it took too long"
    return text
