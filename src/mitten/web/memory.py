"""What memory the process keeps that it does not use."""

import ctypes
from contextlib import suppress

M_MMAP_THRESHOLD = -3
"""The GNU C library's name for the size from which an allocation is a mapping of its own."""

A_MAPPING_BYTES = 2**20


def give_large_pieces_back() -> None:
    """Have every large array given back to the system as soon as it is let go of; without effect on other C libraries.

    Else the library takes ever larger pieces from its heap, where what is kept among them holds on to what is not:
    after 500 edits of all kinds that was 150 MB.
    """
    with suppress(OSError, AttributeError):
        ctypes.CDLL(None).mallopt(M_MMAP_THRESHOLD, A_MAPPING_BYTES)
