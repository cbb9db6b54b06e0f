"""Factors on the model's uncertain parameters: all 1 as given, moved one at a time to see what they do."""

from dataclasses import dataclass


@dataclass(frozen=True)
class Tweaks:
    """Factors, ``room_k`` in kelvin and ``room_rh`` added to the room. ``outputs`` are (heater, factor) pairs,
    ``setpoints`` (control, kelvin) pairs: where a thermostat holds its probe beside what it is set to.
    """

    outputs: tuple[tuple[str, float], ...] = ()
    setpoints: tuple[tuple[str, float], ...] = ()
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

    @property
    def of_enclosure(self) -> "Tweaks":
        """Those that change the prepared enclosure, alone."""
        return Tweaks(
            mesh=self.mesh, outside_film=self.outside_film, ventilation=self.ventilation,
            ground=self.ground, absorptance=self.absorptance,
        )  # fmt: skip


NOMINAL = Tweaks()
