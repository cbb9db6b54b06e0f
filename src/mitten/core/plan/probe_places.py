"""Where a thermostat's probe can lie, by names that a keeper would use, and what the one that it has is called."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from mitten.core.catalogue import Catalogue
from mitten.core.design import Control, Design, Heater, Probe, Site
from mitten.core.design.amounts import length

AIR_M = 0.05
"""How high over what it lies on a probe for the air hangs."""

BESIDE_M = 0.03
SAME_M = 0.006
"""Places that differ by less are the same one: fields show whole centimetres."""

HIDES = ("warm-hide", "cool-hide", "humid-hide")
COOL_PLACE = 0.2
"""Where along the length, from the cool end, the cool end's air is read."""


@dataclass(frozen=True)
class ProbePlace:
    """A place by name: ``key`` stands in forms, ``words`` are what the keeper reads."""

    key: str
    words: str
    probe: Probe


def probe_places(design: Design, catalogue: Catalogue, control: Control) -> list[ProbePlace]:
    """Every place with a name for the probe of a control, the usual ones first."""
    return [
        *(place for site in design.sites if site.role == "basking" for place in at_a_basking_place(design, site)),
        *_on_its_heaters(design, catalogue, control),
        *(place for site in design.sites if site.role in HIDES for place in _in_a_hide(site)),
        *in_the_air(design),
    ]


def place_of(design: Design, catalogue: Catalogue, control: Control) -> ProbePlace | None:
    """The named place where a control's probe is; none where it lies anywhere else."""
    probe = control.probe
    return (
        None
        if probe is None
        else next((p for p in probe_places(design, catalogue, control) if _same(p.probe, probe)), None)
    )


def probe_words(design: Design, catalogue: Catalogue, control: Control) -> str:
    """What a control's probe reads, and where: what it lies on, and never what it may have been meant for."""
    probe, named = control.probe, place_of(design, catalogue, control)
    if probe is None:
        return "has no probe"
    if named is not None:
        return named.words
    if probe.reads == "heater":
        return "on the source itself"
    if probe.reads == "base":
        return "under the ground, on the bottom"
    if probe.reads == "hide":
        return "in the air inside the nearest hide"
    above_m = probe.z_m - design.substrate.depth_m
    if probe.reads == "air":
        return f"in the air, {_cm(above_m)} above the ground, {_cm(probe.x_m)} from the left"
    return _surface_words(design, probe)


def _surface_words(design: Design, probe: Probe) -> str:
    """Which surface a probe touches: that of a site only where it is on it."""
    ground_m = design.substrate.depth_m
    over = [site for site in design.sites if site.is_under(probe.x_m, probe.y_m)]
    for site in sorted(over, key=lambda one: abs(one.top_m(ground_m) - probe.z_m)):
        middle_m = (site.top_m(ground_m) + site.underside_m(ground_m)) / 2
        if probe.z_m >= middle_m:
            return f"on the surface of '{site.name}'"
    if over:
        return f"on the ground under '{over[0].name}', not on it"
    return f"on the ground, {_cm(probe.x_m)} from the left"


def _cm(metres: float) -> str:
    return f"{length(metres)}"


def probe_beside(design: Design, catalogue: Catalogue, heater: Heater) -> Probe:
    """Where the probe of a new thermostat goes: low air under a lamp, shaded; of a contact source the source itself."""
    family = catalogue.sources[heater.kind].family
    reads: Literal["heater", "air"] = "heater" if family in ("contact", "rock") else "air"
    z_m = design.substrate.depth_m + AIR_M
    return Probe(x_m=heater.x_m, y_m=heater.y_m, z_m=round(z_m, 4), reads=reads, shaded=True)


def at_a_basking_place(design: Design, site: Site) -> Iterator[ProbePlace]:
    """In the air beside it, and on it."""
    top_m, middle_m = site.top_m(design.substrate.depth_m), design.enclosure.length_m / 2
    away_m = site.length_m / 2 + BESIDE_M
    beside_m = max(site.x_m - away_m, middle_m) if site.x_m > middle_m else min(site.x_m + away_m, middle_m)
    air = Probe(x_m=round(beside_m, 3), y_m=site.y_m, z_m=round(_below_top(design, top_m + AIR_M), 3), shaded=True)
    on_it = Probe(x_m=site.x_m, y_m=site.y_m, z_m=round(top_m, 4), reads="surface", shaded=True)
    yield ProbePlace(f"beside:{site.name}", f"in the air beside '{site.name}'", air)
    yield ProbePlace(f"on:{site.name}", f"on '{site.name}', covered", on_it)


def _on_its_heaters(design: Design, catalogue: Catalogue, control: Control) -> Iterator[ProbePlace]:
    kinds = catalogue.sources
    for heater in design.heaters_of(control):
        if kinds[heater.kind].family not in ("contact", "rock"):
            continue
        itself = Probe(x_m=heater.x_m, y_m=heater.y_m, z_m=0.0, reads="heater")
        yield ProbePlace(f"mat:{heater.name}", f"on '{heater.name}' itself", itself)
        if heater.place not in ("wall", "hide-roof"):
            words = f"over '{heater.name}', under the ground"
            yield ProbePlace(f"base:{heater.name}", words, itself.model_copy(update={"reads": "base"}))
        # Whichever of several is hottest is what the probe reads.
        return


def _in_a_hide(site: Site) -> Iterator[ProbePlace]:
    probe = Probe(x_m=site.x_m, y_m=site.y_m, z_m=site.z_m or 0.0, reads="hide")
    yield ProbePlace(f"in:{site.name}", f"in the air inside '{site.name}'", probe)


def in_the_air(design: Design) -> Iterator[ProbePlace]:
    """In low air, away from everything: in the middle, and at the cool end."""
    box, site = design.enclosure, design.basking_site
    warm_right = site is None or site.x_m >= box.length_m / 2
    z_m = round(_below_top(design, design.substrate.depth_m + AIR_M), 3)
    ends = {"middle": 0.5, "cool end": COOL_PLACE if warm_right else 1.0 - COOL_PLACE}
    for name, share in ends.items():
        probe = Probe(x_m=round(share * box.length_m, 3), y_m=round(box.depth_m / 2, 3), z_m=z_m, shaded=True)
        yield ProbePlace(name.replace(" ", "-"), f"in the air of the {name}", probe)


def _below_top(design: Design, z_m: float) -> float:
    return min(z_m, design.enclosure.height_m - 0.02)


def _same(one: Probe, other: Probe) -> bool:
    if one.reads != other.reads:
        return False
    if one.reads == "heater":
        return True
    apart_m = max(abs(one.x_m - other.x_m), abs(one.y_m - other.y_m))
    if one.reads in ("base", "hide"):
        return apart_m < SAME_M
    return max(apart_m, abs(one.z_m - other.z_m)) < SAME_M and (one.shaded == other.shaded)
