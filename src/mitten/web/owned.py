"""The keeper's shelf of gear, kept with the settings."""

from dataclasses import asdict, astuple

from pydantic import BaseModel, ConfigDict, TypeAdapter, ValidationError

from mitten.core.catalogue import load_catalogue
from mitten.core.plan.search import Owned
from mitten.store import Settings

NAME = "owned-gear"
MOST_OWNED = 60


class _Gear(BaseModel):
    model_config = ConfigDict(extra="forbid")

    kind: str
    watts: float
    fixture_w: float | None = None
    hours: float | None = None


_MANY = TypeAdapter(list[_Gear])


def owned_gear(settings: Settings) -> tuple[Owned, ...]:
    """What the keeper owns, of kinds that the library still has."""
    try:
        gear = _MANY.validate_json(settings.get(NAME, "[]"))
    except ValidationError:
        return ()
    return tuple(Owned(**one.model_dump()) for one in gear if known_kind(one.kind))


def known_kind(kind: str) -> bool:
    """Whether the library has a source or UV lamp of that key."""
    catalogue = load_catalogue()
    return kind in catalogue.sources or kind in catalogue.uvb


def add_gear(settings: Settings, gear: Owned) -> None:
    """One more piece on the shelf."""
    _keep(settings, (*owned_gear(settings), gear)[:MOST_OWNED])


def gear_key(gear: Owned) -> str:
    """What tells a piece from others; two that are alike are alike in everything."""
    return ":".join(str(figure) for figure in astuple(gear))


def remove_gear(settings: Settings, key: str) -> None:
    """One piece of that key less; without one, nothing changes."""
    gear = list(owned_gear(settings))
    found = next((one for one in gear if gear_key(one) == key), None)
    if found is not None:
        gear.remove(found)
        _keep(settings, tuple(gear))


def _keep(settings: Settings, gear: tuple[Owned, ...]) -> None:
    content = [_Gear(**asdict(one)) for one in gear]
    settings.put(NAME, _MANY.dump_json(content).decode())
