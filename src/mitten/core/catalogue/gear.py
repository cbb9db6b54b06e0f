"""Lamps, emitters and the fixtures that hold them."""

from typing import Literal

from mitten.core.catalogue.entry import Entry, Positive, Share
from mitten.core.design import SocketMaterial


class LampKind(Entry):
    """A construction of lamp or emitter, and the wattages it is sold in.

    ``beam_share`` of the radiant power leaves as a beam, the rest evenly over the half space;
    ``isotropic_when_bare`` marks globes, which shine all round without a reflector or dome.
    """

    radiant_share: Share
    half_angle_deg: Positive
    beam_share: Share
    isotropic_when_bare: bool = False
    emitter_k: Positive | None = None
    radiating_area_m2: Positive | None = None
    envelope: Literal["quartz", "glass", "none"]
    light: bool
    coloured: bool = False
    service_note: str = ""
    watts_sold: tuple[float, ...]


class FixtureType(Entry):
    """A construction of fixture and what one usually is rated for and has."""

    usual_max_watts: Positive
    usual_socket: SocketMaterial
    has_guard: bool
    encloses: bool
    """A dome around the lamp: its body heat mostly stays above the lid."""
    vented: bool
