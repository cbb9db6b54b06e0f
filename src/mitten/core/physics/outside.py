"""What is outside a face of the box, where that is not the room: another box, a cold wall, a heated rack."""

from dataclasses import dataclass

from mitten.core.physics.constants import value


@dataclass(frozen=True)
class FaceSurroundings:
    """What the outside of one face looks at.

    ``air_c`` is the air along it; ``radiant_c`` what the surfaces opposite send, as the temperature of an even
    surrounding (the air's where None); ``film_w_m2k`` convection and longwave together (what the enclosure's place
    makes of it where None).
    """

    air_c: float
    radiant_c: float | None = None
    film_w_m2k: float | None = None

    @property
    def seen_c(self) -> float:
        """Radiant temperature of what is opposite."""
        return self.air_c if self.radiant_c is None else self.radiant_c

    @property
    def together_c(self) -> float:
        """The one temperature to which the film as a whole leads: air and radiant by their shares of it."""
        radiant = value("outside_longwave_share")
        return radiant * self.seen_c + (1.0 - radiant) * self.air_c
