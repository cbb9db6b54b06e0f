"""Factors on the model's uncertain parameters: all 1 as given, moved one at a time to see what they do."""

from collections.abc import Collection, Mapping
from dataclasses import dataclass, replace

Pairs = tuple[tuple[str, float], ...]


@dataclass(frozen=True)
class Tweaks:
    """Factors, ``room_k`` in kelvin and ``room_rh`` added to the room. ``outputs`` are (heater, factor) pairs,
    ``setpoints`` (control, kelvin) pairs: where a thermostat holds its probe beside what it is set to. ``skin`` is what
    the animal takes of a beam and ``belly`` how well it touches what it lies on; they move nothing but its body.
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
    skin: float = 1.0
    belly: float = 1.0
    room_k: float = 0.0
    room_rh: float = 0.0

    def output_of(self, heater: str) -> float:
        """Factor on a heater's output."""
        return dict(self.outputs).get(heater, 1.0)

    def setpoint_k(self, control: str) -> float:
        """By how much a thermostat holds its probe warmer than it is set to."""
        return dict(self.setpoints).get(control, 0.0)

    def must_name(self, outputs: Collection[str] | None = None, setpoints: Collection[str] | None = None) -> None:
        """See that every pair names something that there is: one that nothing reads would do nothing in silence.

        Raises:
            KeyError: there is none of that name.
        """
        for pairs, known in ((self.outputs, outputs), (self.setpoints, setpoints)):
            unknown = {name for name, _ in pairs} - set(known) if known is not None else set()
            if unknown:
                raise KeyError(f"no part is called {sorted(unknown)}")

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
            skin=self.skin * more.skin,
            belly=self.belly * more.belly,
            room_k=self.room_k + more.room_k,
            room_rh=self.room_rh + more.room_rh,
        )

    @property
    def is_of_the_body_alone(self) -> bool:
        """Whether the box itself stays as it is."""
        return replace(self, skin=1.0, belly=1.0, ultraviolet=1.0) == NOMINAL

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
