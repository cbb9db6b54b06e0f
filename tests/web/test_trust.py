"""Who may ask: host names, origins, and the policy on every answer."""

import pytest
from starlette.testclient import TestClient

from mitten.web.trust import HEADERS

UNDO = "/enclosures/1/undo"


@pytest.mark.parametrize("host", ["127.0.0.1:8000", "localhost:8000", "testserver"])
def test_our_own_names_are_answered(client: TestClient, host: str) -> None:
    assert client.get("/static/mark.svg", headers={"host": host}).status_code == 200


@pytest.mark.parametrize("host", ["elsewhere.example", "127.0.0.1.elsewhere.example:80", ""])
def test_other_names_are_not_served(client: TestClient, host: str) -> None:
    assert client.get("/static/mark.svg", headers={"host": host}).status_code == 400


@pytest.mark.parametrize(
    ("headers", "status"),
    [
        ({"sec-fetch-site": "same-origin"}, 200),
        ({"sec-fetch-site": "cross-site"}, 403),
        ({"sec-fetch-site": "same-site"}, 403),
        ({"origin": "http://testserver"}, 200),
        ({"origin": "http://elsewhere.example"}, 403),
        ({"origin": "null"}, 403),
        ({}, 200),
    ],
)
def test_changes_are_taken_only_from_our_own_pages(client: TestClient, headers: dict[str, str], status: int) -> None:
    assert client.post(UNDO, headers=headers).status_code == status


def test_every_answer_carries_a_policy_without_inline_script(client: TestClient) -> None:
    policy = client.get("/").headers["content-security-policy"]
    assert "script-src 'self'" in policy
    assert "unsafe" not in policy
    assert client.get("/nowhere").headers["content-security-policy"] == policy


def test_pages_hold_no_inline_script_or_style(client: TestClient) -> None:
    page = client.get("/enclosures/1").text
    assert "<style" not in page
    assert " style=" not in page
    assert all('src="/static/' in tag for tag in page.split("<script")[1:])


def test_refusals_carry_the_same_headers_as_answers(client: TestClient) -> None:
    said = client.get("/").headers
    assert said["cross-origin-resource-policy"] == "same-origin"
    for refusal in (
        client.post(UNDO, headers={"sec-fetch-site": "cross-site"}),
        client.post(UNDO, headers={"content-length": "many"}),
        client.post(UNDO, headers={"content-length": str(10**9)}),
        client.get("/", headers={"host": "elsewhere.example"}),
        client.get("/nowhere"),
    ):
        assert refusal.status_code >= 400
        assert {name: refusal.headers.get(name) for name in HEADERS} == HEADERS
        assert refusal.headers["cache-control"] == said["cache-control"]


@pytest.mark.parametrize(
    "referer",
    ["http://[broken/", "http://x/%zz", "//elsewhere.example/", "http://x//e.example/a", "http://x/\\\\e.example"],
)
def test_units_lead_back_into_our_own_pages_whatever_is_said_of_where_one_was(client: TestClient, referer: str) -> None:
    answer = client.post("/units", data={"system": "us"}, headers={"referer": referer}, follow_redirects=False)
    assert answer.status_code == 303
    path = answer.headers["location"]
    assert path.startswith("/")
    assert not path.startswith(("//", "/\\"))
