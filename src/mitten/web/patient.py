"""The protocol of the server, which does not wait for ever for those who say nothing, or never finish what they say."""

from asyncio import TimerHandle, Transport
from typing import Any

import h11
from uvicorn.protocols.http.h11_impl import H11Protocol

REQUEST_S = 10.0
"""A request is there as a whole within this time, or its connection is closed: everything here is on one machine."""

UNFINISHED = (h11.IDLE, h11.SEND_BODY)
"""States of a client from which more is to come."""


class Patient(H11Protocol):
    """HTTP/1.1 that closes a connection whose request does not come, or does not end, in time."""

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self._deadline: TimerHandle | None = None

    def connection_made(self, transport: Transport) -> None:  # type: ignore[override]
        """Begin to wait for a request."""
        super().connection_made(transport)
        self._wait()

    def data_received(self, data: bytes) -> None:
        """Take what came, and wait for the rest, if there is any: not longer for one that comes in drops."""
        super().data_received(data)
        if self.conn.their_state in UNFINISHED:
            self._wait()
        else:
            self._come()

    def connection_lost(self, exc: Exception | None) -> None:
        """Wait no longer."""
        self._come()
        super().connection_lost(exc)

    def _wait(self) -> None:
        if self._deadline is None:
            self._deadline = self.loop.call_later(REQUEST_S, self.transport.close)

    def _come(self) -> None:
        if self._deadline is not None:
            self._deadline.cancel()
            self._deadline = None
