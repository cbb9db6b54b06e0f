"""The types of the model's arrays, and the first place of what is highest in one."""

import numpy as np
import numpy.typing as npt

ALIKE = 1e-9
"""What differs by less is alike: rounding does not choose between places."""

Array = npt.NDArray[np.float64]
Mask = npt.NDArray[np.bool_]
Counts = npt.NDArray[np.intp]
Single = npt.NDArray[np.float32]


def highest_at(values: Array) -> int:
    """The first place, of the flat array, of what is highest."""
    return int((values >= values.max() - ALIKE).argmax())
