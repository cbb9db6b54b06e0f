"""How many threads the linear algebra takes."""

# Both are imported so that their libraries are loaded before they are limited.
import numpy as np  # noqa: F401
import scipy.linalg  # noqa: F401
from threadpoolctl import threadpool_limits


def use_one_thread() -> None:
    """Keep NumPy's and SciPy's linear algebra to one thread each, for the whole process.

    They come with a library each, whose waiting threads take the cores from one another: with matrices of a few
    hundred rows a solve takes half as long on one thread as on two.
    """
    threadpool_limits(limits=1, user_api="blas")
