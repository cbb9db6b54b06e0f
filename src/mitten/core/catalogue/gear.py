"""Heat sources, ultraviolet lamps, and the fixtures that hold lamps."""

from collections.abc import Mapping
from typing import Annotated, Literal, Self

from pydantic import AfterValidator, Field, model_validator

from mitten.core.catalogue.entry import (
    Entry,
    FaceM,
    HalfAngleDeg,
    ServiceCelsius,
    Share,
    SizeM,
    UvIndex,
    Watts,
    odd,
    with_article,
)
from mitten.core.design import ControlKind, Heater, MountingPlace, SocketMaterial
from mitten.core.design.amounts import capital

Family = Literal["lamp", "panel", "contact", "rock"]
PLACES_OF: Mapping[Family, tuple[MountingPlace, ...]] = {
    "lamp": ("air",), "panel": ("ceiling",), "contact": ("under-floor", "on-floor", "wall", "hide-roof"),
    "rock": ("on-floor",),
}  # fmt: skip
RADIATES = ("emitter_k", "radiating_area_m2", "family")
WattsSold = Annotated[tuple[Watts, ...], Field(min_length=1, max_length=40)]


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
    places: Annotated[tuple[MountingPlace, ...], Field(min_length=1)]
    radiant_share: Share = 0.0
    half_angle_deg: HalfAngleDeg = 60.0
    beam_share: Share = 0.0
    isotropic_when_bare: bool = False
    emitter_k: Annotated[float, Field(ge=500.0, le=6000.0)] | None = None
    radiating_area_m2: Annotated[float, Field(ge=0.0005, le=1.0)] | None = None
    face_m: FaceM = 0.0
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

    service_c: ServiceCelsius | None = None
    """Highest temperature of its own that it is made to bear, where a keeper can make it exceed that."""

    service_note: str = ""
    usual_size_m: tuple[SizeM, SizeM] | None = None
    watts_sold: Annotated[WattsSold, AfterValidator(_ascending)]

    @model_validator(mode="after")
    def _shines_and_lies_as_its_family_does(self) -> Self:
        if self.family == "lamp" and self.emitter_k is None and self.radiating_area_m2 is None:
            raise odd("emitter_k", "Give the emitter's temperature, or the area that it radiates from.", RADIATES)
        strange = [place for place in self.places if place not in PLACES_OF[self.family]]
        if strange:
            goes = " or ".join(PLACES_OF[self.family])
            raise odd(
                "places", f"{capital(with_article(self.family))} source goes {goes}, not {strange[0]}.", ("family",)
            )
        return self

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
    half_angle_deg: HalfAngleDeg
    face_m: FaceM = 0.0
    uvi_at_30cm: Annotated[UvIndex, Field(gt=0.0)]
    watts_sold: WattsSold
    lengths_m: tuple[SizeM, ...] = ()
    """Of a tube, its length at each of the watts sold."""

    @model_validator(mode="after")
    def _as_many_lengths(self) -> Self:
        if len(self.lengths_m) not in (0, len(self.watts_sold)):
            raise ValueError("give one length for each of the watts sold, or none.")
        return self


class FixtureType(Entry):
    """A construction of fixture and what one usually is rated for and has."""

    usual_max_watts: Watts
    usual_socket: SocketMaterial
    has_guard: bool
    encloses: bool
    """A dome around the lamp: its body heat mostly stays above the lid."""
    vented: bool
    shell_area_m2: Annotated[float, Field(ge=0.001, le=1.0)] | None = None
    """Outer area of a dome, which warms."""


class ControlType(Entry):
    """A construction of control, and what one is usually rated for."""

    kind: ControlKind
    usual_max_watts: Watts
    note: str = ""
