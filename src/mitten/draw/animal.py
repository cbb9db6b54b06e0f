"""The animal's outline to scale, seen from above."""

from markupsafe import Markup

from mitten.core.physics.reading.body import Body
from mitten.draw.svg import element, group, line

RINGS = (0.92, 0.6, 0.28)


def animal_outline(body: Body, x: float, y: float, per_m: float, upright: bool = False) -> Markup:
    """A snake coiled, others stretched out, with their tail, around a point of the drawing; along y if ``upright``."""
    along, across = (axis * per_m for axis in body.half_axes_m)
    if body.group == "snake":
        rings = [element("circle", cx=x, cy=y, r=along * share, class_="animal-line") for share in RINGS]
        return group(*rings, class_="animal")
    rx, ry = (across, along) if upright else (along, across)
    trunk = element("ellipse", cx=x, cy=y, rx=rx, ry=ry, class_="animal")
    tail = body.length_m * per_m - 2 * along
    if tail <= 1:
        return trunk
    ends = (x, y + along, x, y + along + tail) if upright else (x + along, y, x + along + tail, y)
    return group(trunk, line(*ends, "animal-line"))
