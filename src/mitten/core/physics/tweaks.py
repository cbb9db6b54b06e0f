"""Factors on the model's uncertain parameters: all 1 as given, moved one at a time to see what they do."""

from collections.abc import Mapping
from dataclasses import dataclass

Pairs = tuple[tuple[str, float], ...]


@dataclass(frozen=True)
class Tweaks:
    """Factors, ``room_k`` in kelvin and ``room_rh`` added to the room. ``outputs`` are (heater, factor) pairs,
    ``setpoints`` (control, kelvin) pairs: where a thermostat holds its probe beside what it is set to.
    """

    outputs: Pairs = ()
    setpoints: Pairs = ()
    beam: float = 1.0
    mesh: float = 1.0
    outside_film: float = 1.0
    ventilation: float = 1.0
    ground: float = 1.0
    absorptance: float = 1.0
    ultraviolet: float = 1.0
    room_k: float = 0.0
    room_rh: float = 0.0

    def output_of(self, heater: str) -> float:
        """Factor on a heater's output."""
        return dict(self.outputs).get(heater, 1.0)

    def setpoint_k(self, control: str) -> float:
        """By how much a thermostat holds its probe warmer than it is set to."""
        return dict(self.setpoints).get(control, 0.0)

    def then(self, more: "Tweaks") -> "Tweaks":
        """Both together: factors multiplied, kelvins and humidity added."""
        outputs, setpoints = dict(self.outputs), dict(self.setpoints)
        outputs |= {name: self.output_of(name) * factor for name, factor in more.outputs}
        setpoints |= {name: self.setpoint_k(name) + kelvin for name, kelvin in more.setpoints}
        return Tweaks(
            outputs=_pairs(outputs),
            setpoints=_pairs(setpoints),
            beam=self.beam * more.beam,
            mesh=self.mesh * more.mesh,
            outside_film=self.outside_film * more.outside_film,
            ventilation=self.ventilation * more.ventilation,
            ground=self.ground * more.ground,
            absorptance=self.absorptance * more.absorptance,
            ultraviolet=self.ultraviolet * more.ultraviolet,
            room_k=self.room_k + more.room_k,
            room_rh=self.room_rh + more.room_rh,
        )

    @property
    def of_enclosure(self) -> "Tweaks":
        """Those that change the prepared enclosure, alone."""
        return Tweaks(
            mesh=self.mesh, outside_film=self.outside_film, ventilation=self.ventilation,
            ground=self.ground, absorptance=self.absorptance,
        )  # fmt: skip


def _pairs(named: Mapping[str, float]) -> Pairs:
    return tuple(sorted(named.items()))


NOMINAL = Tweaks()
