"""The types of the model's arrays."""

import numpy as np
import numpy.typing as npt

Array = npt.NDArray[np.float64]
Mask = npt.NDArray[np.bool_]
Counts = npt.NDArray[np.intp]
Single = npt.NDArray[np.float32]
