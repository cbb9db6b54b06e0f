"""Rays in a box with blocks in it."""

import numpy as np

from mitten.core.physics.arrays import Array, Counts, Mask
from mitten.core.physics.kernels.compiled import compiled


@compiled
def span_in_block(low: Array, high: Array, starts: Array, directions: Array) -> tuple[Array, Array]:
    """Entry and exit (m,) of rays from (m, 3) along (m, 3) in a block between two corners (3,), in multiples of the
    direction; entry >= exit is a miss.
    """
    near, far = np.full(len(starts), -np.inf), np.full(len(starts), np.inf)
    for ray in range(len(starts)):
        for axis in range(3):
            to_low = (low[axis] - starts[ray, axis]) / directions[ray, axis]
            to_high = (high[axis] - starts[ray, axis]) / directions[ray, axis]
            if np.isnan(to_low) or np.isnan(to_high):
                # Along an edge zero is divided by zero, which says nothing.
                continue
            near[ray] = max(near[ray], min(to_low, to_high))
            far[ray] = min(far[ray], max(to_low, to_high))
    return near, far


@compiled
def exit_of_box(low: Array, high: Array, starts: Array, directions: Array) -> tuple[Array, Counts, Counts]:
    """Where rays from (m, 3) along (m, 3) leave a box between two corners (3,): at how many multiples of the direction,
    and the axis and sense of the face (m,).
    """
    distance = np.full(len(starts), np.inf)
    axes, facing = np.zeros(len(starts), np.intp), np.ones(len(starts), np.intp)
    for ray in range(len(starts)):
        for axis in range(3):
            along = directions[ray, axis]
            if abs(along) < 1e-12:
                continue
            end = high[axis] if along > 0 else low[axis]
            to_end = max((end - starts[ray, axis]) / along, 0.0)
            if to_end < distance[ray]:
                distance[ray], axes[ray] = to_end, axis
        facing[ray] = -1 if directions[ray, axes[ray]] > 0 else 1
    return distance, axes, facing


@compiled
def seen_past(lows: Array, highs: Array, points: Array, source: Array, just_off: float) -> Mask:
    """Which points (m, 3) see a source (3,) past every block between corners (blocks, 3)."""
    seen = np.ones(len(points), np.bool_)
    for point in range(len(points)):
        for block in range(len(lows)):
            near, far = -np.inf, np.inf
            for axis in range(3):
                reach = source[axis] - points[point, axis]
                to_low = (lows[block, axis] - points[point, axis]) / reach
                to_high = (highs[block, axis] - points[point, axis]) / reach
                if np.isnan(to_low) or np.isnan(to_high):
                    continue
                near, far = max(near, min(to_low, to_high)), min(far, max(to_low, to_high))
            if near < far and far > just_off and near < 1.0 - just_off:
                seen[point] = False
                break
    return seen


@compiled
def land_on(
    hits: Counts, points: Array, axes: Counts, facing: Counts, face: tuple[int, int], in_plane: tuple[int, int],
    origin: tuple[float, float], step: tuple[float, float], counts: tuple[int, int], begins: int,
) -> None:  # fmt: skip
    """Fill in, in place, the patches (m,) of one surface on which points (m, 3) lie that are on its ``face``, an axis
    and a sense: ``counts`` of them from ``origin``, each as large as ``step``, numbered from ``begins``.
    """
    for point in range(len(points)):
        if axes[point] == face[0] and facing[point] == face[1]:
            along = int((points[point, in_plane[0]] - origin[0]) / step[0])
            up = int((points[point, in_plane[1]] - origin[1]) / step[1])
            along, up = min(max(along, 0), counts[0] - 1), min(max(up, 0), counts[1] - 1)
            hits[point] = begins + up * counts[0] + along


@compiled
def count_hits(senders: Counts, hits: Counts, behind: Counts, count: Mask, patches: int) -> tuple[Array, Array]:
    """Rays (n, n) from each patch that hit each patch, and those behind which it stands, of the rays that count."""
    visible, through = np.zeros((patches, patches)), np.zeros((patches, patches))
    for ray in range(len(senders)):
        if count[ray]:
            visible[senders[ray], hits[ray]] += 1.0
            through[senders[ray], behind[ray]] += 1.0
    return visible, through
