"""The fields of the Animal and the Box & room sheets; keys are paths from the top of the design's data."""

from collections.abc import Callable, Iterator, Mapping

from mitten.core.catalogue import Catalogue
from mitten.core.design import (
    FACES,
    MONTHS,
    Design,
    Enclosure,
    LidMesh,
    Panel,
    Room,
    RoomSeason,
    Substrate,
    SubstrateLayer,
)
from mitten.core.design.units import (
    ALTITUDE,
    DEGREES_NORTH,
    HOURS,
    LENGTH,
    LITRES_A_SECOND,
    MILLILITRES,
    MINUTES,
    SHARE,
    TEMPERATURE,
    THICKNESS,
)
from mitten.core.design.year import MONTH_NAMES
from mitten.web.edits.fields import NO, YES, Option, Spec, noun_limits
from mitten.web.edits.part_specs import FACE_WORDS, options_of, options_of_table

STAGE_WORDS = {"hatchling": "hatchling", "juvenile": "juvenile", "adult": "adult"}
APPROACH_WORDS = {
    "any": "any that works", "sunlit": "Sunlit: bright lamps by day", "lightless": "Lightless: no light, day and night",
    "ground": "Ground: warmth from below", "one-lamp": "One lamp for everything",
}  # fmt: skip
DECIDE_WORDS = {"surface": "the temperature of the basking surface", "irradiance": "the irradiance on it"}
METER_WORDS = {"silicon": "a silicon meter", "thermopile": "a thermopile meter", "true": "no meter: the true figure"}
MOISTURE_WORDS = {"dry": "dry", "damp": "damp", "wet": "wet"}
GROUP_WORDS = {
    "lizard": "Lizards", "gecko": "Geckos", "snake": "Snakes", "tortoise": "Tortoises", "turtle": "Turtles, on land",
}  # fmt: skip
LID_WORDS = {
    "solid": "solid", "mesh": "mesh all over", "part-mesh": "solid with a mesh area", "open": "open, no lid",
}  # fmt: skip
YES_NO = [Option(NO, "no"), Option(YES, "yes")]
DAY_LENGTH_WORDS = {
    "fixed": "the day is always as long", "seasons": "shorter in winter, longer in summer",
    "latitude": "as long as outdoors, at the room's latitude",
}  # fmt: skip
SEASONS = ("winter", "summer")
TIMES = ("day", "night")


def animal_specs(design: Design, catalogue: Catalogue) -> Iterator[Spec]:
    """Which animal, and how the keeper aims."""
    species = sorted(
        catalogue.species.items(), key=lambda item: (list(GROUP_WORDS).index(item[1].group), item[1].label)
    )
    yield Spec("animal.species", "Species", "choice",
               options=[Option(key, one.label, group=GROUP_WORDS[one.group]) for key, one in species])  # fmt: skip
    yield Spec("animal.stage", "Life stage", "choice", options=options_of(STAGE_WORDS))
    yield Spec("approach", "Approach", "choice", options=options_of(APPROACH_WORDS))
    yield Spec("decide_by", "Aim at", "choice", options=options_of(DECIDE_WORDS))
    if design.decide_by == "irradiance":
        yield Spec("irradiance_meter", "as read by", "choice", options=options_of(METER_WORDS))


def name_specs(_: Design, _catalogue: Catalogue) -> Iterator[Spec]:
    """What the enclosure is called."""
    yield Spec("name", "Name", "text")


def day_specs(_: Design, _catalogue: Catalogue) -> Iterator[Spec]:
    """When it is day in the enclosure."""
    yield Spec("schedule.day_start", "Lamps on at", "time", usual="08:00", placeholder="08:00")
    yield Spec("schedule.day_hours", "Day length", "number", HOURS, limits=(0.0, 24.0), placeholder="not set")
    yield Spec("schedule.ramp_min", "Lamps come up in", "number", MINUTES, limits=(0.0, 240.0), usual=0.0)


def year_specs(_: Design, _catalogue: Catalogue) -> Iterator[Spec]:
    """How the day changes through the year, and the cool rest before breeding."""
    yield Spec("schedule.day_length", "Through the year", "choice", options=options_of(DAY_LENGTH_WORDS), usual="fixed")
    for season, words in (("winter", "Shortest day"), ("summer", "Longest day")):
        yield Spec(f"schedule.{season}_hours", words, "number", HOURS, limits=(0.0, 24.0), optional=True,
                   placeholder="not set")  # fmt: skip


def cooling_specs(_: Design, _catalogue: Catalogue) -> Iterator[Spec]:
    """The cool rest before breeding; without a day on which it begins there is none."""
    path = "schedule.cooling"
    yield Spec(f"{path}.starts", "Begins on", "month-day", optional=True, placeholder="15 November")
    yield Spec(f"{path}.ramp_weeks", "Weeks down, and up", "whole", placeholder="2")
    yield Spec(f"{path}.weeks", "Weeks of rest", "whole", placeholder="8")
    for time in TIMES:
        yield Spec(f"{path}.{time}_c", f"Warm end by {time}", "number", TEMPERATURE, limits=(0.0, 40.0),
                   placeholder="not set")  # fmt: skip


def room_specs(_: Design, _catalogue: Catalogue) -> Iterator[Spec]:
    """The room in winter and summer; the rest is seldom touched."""
    for season in SEASONS:
        for time in TIMES:
            yield Spec(f"room.{season}.{time}_c", f"{season.capitalize()} {time}", "number", TEMPERATURE,
                       limits=noun_limits(RoomSeason, "day_c") or (-10.0, 50.0))  # fmt: skip


def month_specs() -> Iterator[Spec]:
    """Day and night of every month."""
    limits = noun_limits(RoomSeason, "day_c") or (-10.0, 50.0)
    for index in range(MONTHS):
        for time in TIMES:
            path = f"room.months[{index}].{time}_c"
            yield Spec(path, f"{MONTH_NAMES[index]} {time}", "number", TEMPERATURE, limits=limits)


def place_specs(_: Design, _catalogue: Catalogue) -> Iterator[Spec]:
    """Humidity, altitude, latitude, and what power costs."""
    for season in SEASONS:
        yield Spec(f"room.{season}.rh", f"Humidity in {season}", "number", SHARE, limits=(0.0, 1.0), optional=True,
                   placeholder="50")  # fmt: skip
    yield Spec("room.heated_without_power", "Heating goes on in a power cut", "flag", options=YES_NO)
    yield Spec("room.altitude_m", "Altitude", "number", ALTITUDE, limits=noun_limits(Room, "altitude_m"))
    yield Spec("room.latitude", "Latitude, north", "number", DEGREES_NORTH, limits=(-90.0, 90.0), optional=True,
               placeholder="not set")  # fmt: skip
    yield Spec("room.tariff_per_kwh", "A kWh costs", "number", limits=(0.0, 100.0), optional=True,
               placeholder="not set")  # fmt: skip
    yield Spec("room.currency", "Currency", "text", optional=True, placeholder="not set")


def box_specs(_: Design, _catalogue: Catalogue) -> Iterator[Spec]:
    """Inside size, and what the box stands on."""
    for key, label in (("length_m", "Length inside"), ("depth_m", "Depth inside"), ("height_m", "Height inside")):
        yield Spec(f"enclosure.{key}", label, "number", LENGTH, limits=noun_limits(Enclosure, key))
    yield Spec("enclosure.door_gap_mm", "Gap round the doors", "number", THICKNESS,
               limits=noun_limits(Enclosure, "door_gap_mm"))  # fmt: skip
    yield Spec("enclosure.fan_l_s", "Fan blows", "number", LITRES_A_SECOND, limits=noun_limits(Enclosure, "fan_l_s"))
    yield Spec("enclosure.underside.raised", "Stands on feet", "flag", options=YES_NO)
    yield Spec("enclosure.underside.insulated", "Board under it", "flag", options=YES_NO)


def panel_specs(_: Design, catalogue: Catalogue) -> Iterator[Spec]:
    """Material, thickness and insulation of every face."""
    for face in FACES:
        path = f"enclosure.panels.{face}"
        yield Spec(
            f"{path}.material",
            f"{FACE_WORDS[face].capitalize()}, material",
            "choice",
            options=options_of_table("panels", catalogue),
        )
        yield Spec(f"{path}.thickness_mm", f"{FACE_WORDS[face].capitalize()}, thickness", "number", THICKNESS,
                   limits=noun_limits(Panel, "thickness_mm"))  # fmt: skip
        yield Spec(f"{path}.insulation_mm", f"{FACE_WORDS[face].capitalize()}, insulation", "number", THICKNESS,
                   limits=noun_limits(Panel, "insulation_mm"))  # fmt: skip


def lid_kind(design: Design) -> str:
    """Which of the kinds of lid a box has."""
    box = design.enclosure
    if box.open_top:
        return "open"
    if box.lid_mesh is None:
        return "solid"
    return "mesh" if box.lid_mesh.length_m is None else "part-mesh"


def lid_specs(design: Design, catalogue: Catalogue) -> Iterator[Spec]:
    """The lid: its kind is no value of the design's but decides which it has."""
    kind = lid_kind(design)
    yield Spec("lid", "Lid", "choice", options=options_of(LID_WORDS), usual=kind)
    if kind in ("mesh", "part-mesh"):
        yield Spec("enclosure.lid_mesh.mesh", "Mesh", "choice", options=options_of_table("meshes", catalogue))
    if kind == "part-mesh":
        box = design.enclosure
        for key, label, limit_m in (
            ("x_m", "Middle from left", box.length_m), ("y_m", "Middle from front", box.depth_m),
            ("length_m", "Length of the mesh", box.length_m), ("depth_m", "Depth of the mesh", box.depth_m),
        ):  # fmt: skip
            low_m = 0.01 if key in ("length_m", "depth_m") else 0.0
            yield Spec(f"enclosure.lid_mesh.{key}", label, "number", LENGTH, limits=(low_m, limit_m))


def ground_specs(design: Design, catalogue: Catalogue) -> Iterator[Spec]:
    """What lies on the floor, and the layers under it from the bottom up."""
    yield from _layer("substrate", "Ground", Substrate, usual="dry", catalogue=catalogue)
    yield Spec("substrate.misting_ml_day", "Misted a day", "number", MILLILITRES,
               limits=noun_limits(Substrate, "misting_ml_day"))  # fmt: skip
    for index in range(len(design.substrate.layers)):
        yield from _layer(
            f"substrate.layers[{index}]", f"Layer {index + 1} from the bottom", SubstrateLayer, "dry", catalogue
        )


def _layer(
    path: str, words: str, noun: type[Substrate] | type[SubstrateLayer], usual: str, catalogue: Catalogue
) -> Iterator[Spec]:
    yield Spec(f"{path}.material", words, "choice", options=options_of_table("grounds", catalogue))
    yield Spec(f"{path}.depth_mm", f"{words}, depth", "number", THICKNESS, limits=noun_limits(noun, "depth_mm"))
    yield Spec(f"{path}.moisture", f"{words}, is", "choice", options=options_of(MOISTURE_WORDS), usual=usual)


SHEET_FORMS: Mapping[str, Callable[[Design, Catalogue], Iterator[Spec]]] = {
    "animal": animal_specs,
    "name": name_specs,
    "day": day_specs,
    "room": room_specs,
    "place": place_specs,
    "box": box_specs,
    "panels": panel_specs,
    "lid": lid_specs,
    "ground": ground_specs,
}
"""Forms that are nothing but fields of the design."""

USUAL_MESH_SHARE = 0.5
USUAL_MESH = LidMesh(mesh="mesh-standard")
