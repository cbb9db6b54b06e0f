"""What a drawing marks: the keeper's units, the part that is chosen, the parts that are in the way."""

from dataclasses import dataclass

from markupsafe import Markup

from mitten.core.design.units import LENGTH, METRIC, Units
from mitten.draw.scale import Scale
from mitten.draw.svg import element, group, rect, text

FINGER = 24.0
"""Least size of what a finger has to hit, in drawing units."""

Point = tuple[float, float, float]
Rect = tuple[float, float, float, float]
"""x, y, width, height in drawing units."""


@dataclass(frozen=True)
class Marks:
    """``selected`` is a part as ``collection:name``, ``troubled`` are names; without ``labels`` the drawing is mute."""

    units: Units = METRIC
    selected: str = ""
    troubled: frozenset[str] = frozenset()
    labels: bool = True
    movable: bool = True

    def degrees(self, celsius: float) -> str:
        """A temperature as it stands on a drawing."""
        return f"{self.units.degrees(celsius)}°"

    def length(self, metres: float) -> str:
        """A length as it stands on a drawing."""
        return self.units.say_with_unit(LENGTH, metres)

    def part(
        self, ref: str, at: Point, words: str, box: Rect, *content: str | Markup, from_above: bool = False
    ) -> Markup:
        """A part that can be chosen, dragged and moved by keys; ``box`` is where it is, ``words`` what it is.

        ``from_above`` says that it is drawn in the plan, not in the section.
        """
        if not self.labels:
            return group(*content)
        troubled = ref.partition(":")[2] in self.troubled
        classes = ["part", *(["chosen"] if ref == self.selected else []), *(["troubled"] if troubled else [])]
        frame = _grow(box)
        inside = [rect(*frame, "grasp"), *content]
        if ref == self.selected or troubled:
            inside.append(rect(*frame, "part-frame", rx=3))
        if troubled:
            inside.append(text(frame[0] + frame[2] / 2, frame[1] - 3, "! does not fit", "trouble", "middle"))
        if not self.movable:
            return group(*inside, class_=" ".join(classes))
        where = {f"data_{axis}": f"{value:.4f}" for axis, value in zip("xyz", at, strict=True)}
        label = f"{words}, {self._where(at, from_above)}" + (", does not fit" if troubled else "")
        return group(
            *inside, class_=" ".join(classes), data_part=ref, tabindex=0, role="button", aria_label=label, **where
        )

    def _where(self, at: Point, from_above: bool) -> str:
        """Where a part is in the view that it is drawn in, in words."""
        x_m, y_m, z_m = at
        if from_above:
            return f"in the plan {self.length(x_m)} from the left and {self.length(y_m)} from the front"
        return f"in the section {self.length(x_m)} from the left and {self.length(z_m)} above the floor"


def _grow(box: Rect) -> Rect:
    """At least as large as a finger, around the same middle."""
    x, y, width, height = box
    wide, high = max(width, FINGER), max(height, FINGER)
    return x - (wide - width) / 2, y - (high - height) / 2, wide, high


def view(name: str, scale: Scale, *content: str | Markup) -> Markup:
    """One of the drawings of a sheet, with what a pointer needs to know where it is."""
    return element(
        "g", *content, class_=name, data_view=name, data_left=f"{scale.left:.2f}", data_base=f"{scale.floor_y:.2f}",
        data_per_m=f"{scale.per_m:.3f}", data_length=f"{scale.length_m:.3f}", data_height=f"{scale.height_m:.3f}",
    )  # fmt: skip
