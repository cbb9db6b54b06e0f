"""Heat sources, ultraviolet lamps, and the fixtures that hold lamps."""

from typing import Annotated, Literal, Self

from pydantic import AfterValidator, Field, model_validator

from mitten.core.catalogue.entry import Entry, Positive, Share
from mitten.core.design import ControlKind, Heater, MountingPlace, SocketMaterial

Family = Literal["lamp", "panel", "contact", "rock"]
WattsSold = Annotated[tuple[Positive, ...], Field(min_length=1, max_length=40)]


def _ascending(watts: tuple[float, ...]) -> tuple[float, ...]:
    """In order, each once, however they were typed: the next size is the next one up."""
    return tuple(sorted(set(watts)))


class SourceKind(Entry):
    """A construction of heat source, and the wattages it is sold in.

    A ``lamp`` sends ``beam_share`` of its radiant power as a beam, the rest evenly over the half space;
    ``isotropic_when_bare`` marks globes, which shine all round without a reflector or dome. A ``panel`` radiates
    evenly from its area, a ``contact`` source (mat, tape, cable) gives all its heat to what it touches, a ``rock``
    is a site that is heated from within. ``places`` begin with the usual one.
    """

    family: Family
    places: tuple[MountingPlace, ...]
    radiant_share: Share = 0.0
    half_angle_deg: Positive = 60.0
    beam_share: Share = 0.0
    isotropic_when_bare: bool = False
    emitter_k: Positive | None = None
    radiating_area_m2: Positive | None = None
    face_m: Annotated[float, Field(ge=0.0, le=0.5)] = 0.0
    """Width of the face that a lamp shines from."""

    arc_share: Share = 0.0
    """Part of the radiant power that an arc gives as light, beside the filament."""

    envelope: Literal["quartz", "glass", "none"] = "none"
    light: bool = False
    coloured: bool = False
    dims: bool = True
    """Whether it may be dimmed or switched by a thermostat."""

    warm_up_min: Annotated[float, Field(ge=0.0, le=120.0)] = 0.0
    """Time constant with which what it gives off follows what it is fed."""

    restrike_min: Annotated[float, Field(ge=0.0, le=60.0)] = 0.0
    """How long it has to cool before it lights again."""

    burns_on_touch: bool = True
    live_terminals: bool = False
    """Whether its ends are live and uncovered, as those of tape that is cut to length."""

    service_c: float | None = None
    """Highest temperature of its own that it is made to bear, where a keeper can make it exceed that."""

    service_note: str = ""
    usual_size_m: tuple[Positive, Positive] | None = None
    watts_sold: Annotated[WattsSold, AfterValidator(_ascending)]

    @property
    def has_area(self) -> bool:
        """Whether it covers a length and a depth."""
        return self.family in ("panel", "contact")

    @property
    def needs_fixture(self) -> bool:
        """Whether it screws into a socket."""
        return self.family == "lamp"

    def place_of(self, heater: Heater) -> MountingPlace:
        """Where a heater of this kind is: what its design says, else the usual place."""
        return heater.place or self.places[0]


class UvKind(Entry):
    """A construction of ultraviolet lamp; ``uvi_at_30cm`` is a usual reading of a new one."""

    tube: bool
    radiant_share: Share
    half_angle_deg: Positive
    face_m: Annotated[float, Field(ge=0.0, le=0.5)] = 0.0
    uvi_at_30cm: Positive
    watts_sold: WattsSold
    lengths_m: tuple[Positive, ...] = ()
    """Of a tube, its length at each of the watts sold."""

    @model_validator(mode="after")
    def _as_many_lengths(self) -> Self:
        if len(self.lengths_m) not in (0, len(self.watts_sold)):
            raise ValueError("give one length for each of the watts sold, or none.")
        return self


class FixtureType(Entry):
    """A construction of fixture and what one usually is rated for and has."""

    usual_max_watts: Positive
    usual_socket: SocketMaterial
    has_guard: bool
    encloses: bool
    """A dome around the lamp: its body heat mostly stays above the lid."""
    vented: bool
    shell_area_m2: Positive | None = None
    """Outer area of a dome, which warms."""


class ControlType(Entry):
    """A construction of control, and what one is usually rated for."""

    kind: ControlKind
    usual_max_watts: Positive
    note: str = ""
