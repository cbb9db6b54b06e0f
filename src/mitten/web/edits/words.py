"""What changed between two designs, in words for the history."""

from collections.abc import Iterator, Sequence
from typing import Any

from mitten.core.catalogue import load_catalogue
from mitten.core.design import Control, Design, Heater

HEATER_LENGTHS = (
    ("x_m", "from left"),
    ("y_m", "from front"),
    ("length_m", "length"),
    ("depth_m", "depth"),
)


def summary_of(before: Design, after: Design) -> str:
    """What changed, all in one line."""
    said = [
        *_parts_changed(before, after),
        *_both(before.heaters, after.heaters, lambda old, new: _heater_changes(old, new, before.substrate.depth_m)),
        *_both(before.controls, after.controls, _control_changes),
        *_both((*before.uvb, *before.lights), (*after.uvb, *after.lights), _light_changes),
        *_room_changes(before, after),
    ]
    return "; ".join(said) or "Changed"


def _parts_changed(before: Design, after: Design) -> Iterator[str]:
    for key in ("heaters", "controls", "uvb", "lights"):
        old, new = ([part.name for part in getattr(design, key)] for design in (before, after))
        yield from (f"{name} added" for name in new if name not in old)
        yield from (f"{name} removed" for name in old if name not in new)


def _both(before: Sequence[Any], after: Sequence[Any], words: Any) -> Iterator[str]:
    """Changes of the parts that are in both, each with its name."""
    old = {part.name: part for part in before}
    for part in after:
        if part.name in old and old[part.name] != part:
            yield from (f"{part.name}: {word}" for word in words(old[part.name], part))


def _heater_changes(old: Heater, new: Heater, ground_m: float) -> Iterator[str]:
    kinds = load_catalogue().sources
    said = {
        "kind": f"{kinds[old.kind].label} to {kinds[new.kind].label}",
        "watts": f"{old.watts:g} to {new.watts:g} W",
        "z_m": f"height {(old.z_m - ground_m) * 100:.4g} to {(new.z_m - ground_m) * 100:.4g} cm",
        "above_mesh": "moved above the mesh" if new.above_mesh else "moved inside",
        "place": f"placed {(new.place or 'as usual').replace('-', ' ')}",
        "on": f"runs {old.on} to {new.on}",
        "control": f"regulated by {old.control or 'nothing'} to {new.control or 'nothing'}",
        "site": f"site {old.site or 'none'} to {new.site or 'none'}",
        "tilt_deg": f"tilt {old.tilt_deg:g} to {new.tilt_deg:g}°",
        "dim": f"dimmed {old.dim:.0%} to {new.dim:.0%}",
    }
    changed = {key for key in said if getattr(old, key) != getattr(new, key)}
    yield from (said[key] for key in ("kind", "watts") if key in changed)
    yield from _lengths(old, new, HEATER_LENGTHS)
    yield from (words for key, words in said.items() if key in changed - {"kind", "watts"})


def _lengths(old: Any, new: Any, keys: Sequence[tuple[str, str]]) -> Iterator[str]:
    for key, words in keys:
        before, after = getattr(old, key, None), getattr(new, key, None)
        if before != after and after is not None:
            yield f"{words} {'nothing' if before is None else f'{before * 100:.4g}'} to {after * 100:.4g} cm"


def _control_changes(old: Control, new: Control) -> Iterator[str]:
    if old.kind != new.kind:
        yield f"{old.kind} to {new.kind}"
    for key, words in (("day_c", "by day"), ("night_c", "by night")):
        before, after = getattr(old, key), getattr(new, key)
        if before != after:
            yield f"{words} {_setpoint(before)} to {_setpoint(after)}"
    if old.probe != new.probe and new.probe is not None:
        where = f"{new.probe.x_m * 100:.4g} cm from left, {new.probe.z_m * 100:.4g} cm above the floor"
        yield f"probe reads {new.probe.reads}, {where}{', shaded' if new.probe.shaded else ''}"


def _setpoint(celsius: float | None) -> str:
    return "off" if celsius is None else f"{celsius:g} °C"


def _light_changes(old: Any, new: Any) -> Iterator[str]:
    if old.watts != new.watts:
        yield f"{old.watts:g} to {new.watts:g} W"
    if getattr(old, "uvi_at_30cm", None) != getattr(new, "uvi_at_30cm", None):
        yield f"UV index at 30 cm to {new.uvi_at_30cm:g}"
    yield from _lengths(old, new, (*HEATER_LENGTHS, ("z_m", "height above the floor")))


def _room_changes(before: Design, after: Design) -> Iterator[str]:
    for season in ("winter", "summer"):
        for time in ("day", "night"):
            old_c = getattr(getattr(before.room, season), f"{time}_c")
            new_c = getattr(getattr(after.room, season), f"{time}_c")
            if old_c != new_c:
                yield f"Room, {season} {time}: {old_c:g} to {new_c:g} °C"
