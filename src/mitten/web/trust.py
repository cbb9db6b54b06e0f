"""Who may ask for what: writes from our own pages only, of a length that is said, and a strict content policy.

Which host names are answered to is Starlette's to check; see ``app``.
"""

from starlette.datastructures import Headers, MutableHeaders
from starlette.responses import PlainTextResponse, RedirectResponse, Response
from starlette.types import ASGIApp, Message, Receive, Scope, Send

HOST_NAMES = frozenset({"127.0.0.1", "localhost"})
SAFE_METHODS = frozenset({"GET", "HEAD", "OPTIONS"})
MOST_BODY_BYTES = 1_200_000
"""A design file and the form around it."""

MOST_DISCARDED_BYTES = 500_000_000
UPLOAD_PATH = "/designs"
LONGEST_LENGTH = 15
"""Digits of a body's length, at most."""

POLICY = "; ".join(
    (
        "default-src 'self'",
        "img-src 'self' data:",
        "style-src 'self'",
        "script-src 'self'",
        "object-src 'none'",
        "base-uri 'none'",
        "form-action 'self'",
        "frame-ancestors 'none'",
    )
)
HEADERS = {
    "content-security-policy": POLICY,
    "x-content-type-options": "nosniff",
    "referrer-policy": "same-origin",
    "cross-origin-opener-policy": "same-origin",
    "cross-origin-resource-policy": "same-origin",
    # One address answers with a page or with a part of it.
    "vary": "HX-Request, HX-History-Restore-Request",
}
SHIPPED, FOREIGN = "/static/", "/static/vendor/"
NEVER, A_DAY, FOR_GOOD = "no-store", "max-age=86400", "max-age=31536000, immutable"
"""A page is never shown again from a browser's cache: what it showed may have been changed since. Files that ship are
kept for good under an address that says what is in them, and those of others, such as fonts, for a day.
"""


def _cache_of(scope: Scope) -> str:
    if not scope["path"].startswith(SHIPPED):
        return NEVER
    if scope["query_string"].startswith(b"v="):
        return FOR_GOOD
    return A_DAY if scope["path"].startswith(FOREIGN) else "no-cache"


class TrustMiddleware:
    """Refuses strangers' requests before any route sees them, and adds the policy to every answer."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer or pass on one request."""
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        send = _with_policy(scope, send)
        headers = Headers(scope=scope)
        refusal = _refusal(scope["method"], headers)
        if refusal is None and int(headers.get("content-length") or "0") > MOST_BODY_BYTES:
            # Taken off the line before it is refused: a browser that is cut short shows no answer at all.
            await _discard(receive)
            refusal = _too_large(scope["path"])
        if refusal is not None:
            await refusal(scope, receive, send)
            return
        await self.app(scope, receive, send)


def _with_policy(scope: Scope, send: Send) -> Send:
    """Sends every answer with the policy, refusals too."""

    async def send_with_policy(message: Message) -> None:
        if message["type"] == "http.response.start":
            own = MutableHeaders(scope=message)
            own.update(HEADERS)
            own["cache-control"] = _cache_of(scope)
        await send(message)

    return send_with_policy


def _refusal(method: str, headers: Headers) -> Response | None:
    if method not in SAFE_METHODS and not _from_our_own_page(headers):
        return PlainTextResponse("Changes are taken only from Mitten's own pages.", 403)
    length = headers.get("content-length") or "0"
    if not (length.isascii() and length.isdecimal() and len(length) <= LONGEST_LENGTH):
        return PlainTextResponse("The length of the body is no number; nothing was stored.", 400)
    if "chunked" in headers.get("transfer-encoding", ""):
        return PlainTextResponse("Say how long the body is; nothing was stored.", 411)
    return None


async def _discard(receive: Receive) -> None:
    """Read a body to its end, or to where patience ends, and keep nothing of it."""
    taken = 0
    while taken < MOST_DISCARDED_BYTES:
        message = await receive()
        taken += len(message.get("body", b""))
        if not message.get("more_body", False):
            return


def _too_large(path: str) -> Response:
    """Back to the shelf, which says beside the field what was wrong; elsewhere a plain refusal."""
    if path == UPLOAD_PATH:
        return RedirectResponse("/?refused=too-large", 303)
    return PlainTextResponse("That is far larger than any design; nothing was stored.", 413)


def _from_our_own_page(headers: Headers) -> bool:
    site = headers.get("sec-fetch-site")
    if site is not None:
        return site in ("same-origin", "none")
    origin = headers.get("origin")
    return origin is None or origin.partition("://")[2] == headers.get("host", "")
