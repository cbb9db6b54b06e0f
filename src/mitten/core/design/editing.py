"""One way to edit: a design is a value, so that an edit takes its data, changes that, and has the whole read again.

What reads it, ``core.catalogue.read_data``, checks it as if it came from a file: nothing half-right is let in.
"""

from copy import deepcopy
from typing import Any

from mitten.core.design.design import Design

Data = dict[str, Any]
"""A design, or a part of one, as the plain data that a design file holds."""


def data_of(design: Design) -> Data:
    """A design's data, to be changed and read again; what has its default and may be left out is in it too."""
    return design.model_dump(mode="json", exclude_none=True)


def copy_of(data: Data) -> Data:
    """The same data, to be changed beside the first."""
    return deepcopy(data)
