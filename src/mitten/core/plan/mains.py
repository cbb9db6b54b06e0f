"""What hangs on each outlet of the room, and what it bears for hours."""

from collections.abc import Iterable
from dataclasses import dataclass

CONTINUOUS_SHARE = 0.8
"""A load that runs for three hours or more is kept to this share of what a circuit is rated for: a usual caution; the
local code and a licensed electrician decide."""


@dataclass(frozen=True)
class OutletLoad:
    """One outlet: its watts at most, the current that they draw, and whether that is too much for hours on end."""

    outlet: str
    watts: float
    amperes: float
    continuous_limit_a: float

    @property
    def too_much(self) -> bool:
        """Whether the current is above what the circuit should carry for hours."""
        return self.amperes > self.continuous_limit_a


def outlet_loads(loads: Iterable[tuple[str, float]], volts: float, rated_a: float) -> list[OutletLoad]:
    """Loads by outlet, from pairs of an outlet and watts, by the outlet's name."""
    watts: dict[str, float] = {}
    for outlet, load_w in loads:
        watts[outlet] = watts.get(outlet, 0.0) + load_w
    limit_a = CONTINUOUS_SHARE * rated_a
    return [OutletLoad(outlet, total, total / volts, limit_a) for outlet, total in sorted(watts.items())]
