"""How far things are apart."""

from mitten.core.physics.arrays import Array, Single
from mitten.core.physics.kernels.compiled import compiled


@compiled
def most_apart(one: Array | Single, other: Array | Single) -> float:
    """The largest difference between two rows (n,), up or down."""
    most = 0.0
    for place in range(len(one)):
        apart = abs(one[place] - other[place])
        if apart > most:
            most = apart
    return most
