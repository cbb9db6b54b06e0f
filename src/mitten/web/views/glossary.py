"""Every term of the pages once, in plain words; terms on the pages lead here."""

from collections.abc import Sequence
from dataclasses import dataclass


@dataclass(frozen=True)
class Term:
    """A term, where it stands on the page, and what it means."""

    key: str
    name: str
    words: str


@dataclass(frozen=True)
class Chapter:
    """Terms that belong together."""

    title: str
    terms: Sequence[Term]


CHAPTERS = (
    Chapter("What is judged", (
        Term("basking_surface_c", "Basking surface", "Temperature of what the animal lies on to warm itself, at its "
             "hottest: what an infrared thermometer shows there."),
        Term("basking_operative_c", "Basking body", "Temperature that an animal's body comes to if it stays at the "
             "basking place: of its back under the lamp, its belly on the surface, and the air around it together."),
        Term("basking_air_c", "Basking air", "Air just over the basking place, shaded from the lamp."),
        Term("warm_air_c", "Warm side air", "Air a hand's breadth over the ground of the warm end."),
        Term("cool_air_c", "Cool side air", "Air a hand's breadth over the ground of the other end: where the animal "
             "goes to cool down."),
        Term("night_c", "Night air", "Air of the cool side by night, the coldest that the animal can find."),
        Term("humidity", "Humidity", "Relative humidity, as a mean of the box: how much of the water that air could "
             "hold it does hold. Warmer air with the same water is drier."),
        Term("uvi", "UV index", "Strength of ultraviolet at the animal's back, as a UV index meter shows it."),
        Term("irradiance_w_m2", "Irradiance", "Power of all light and radiant warmth that arrives on a square metre. "
             "Meters differ: a silicon one sees light and near-infrared alone, a thermopile behind glass what glass "
             "lets through. Both are nearly blind to sources without light."),
        Term("day_hours", "Day length", "Hours between lights-on and lights-out."),
    )),
    Chapter("How it is judged", (
        Term("wants", "Wants", "The range to live in. A usual day is judged by it."),
        Term("bears", "Bears", "The range that does no harm for some days. The coldest of winter and the warmest of "
             "summer are judged by it."),
        Term("meets", "Meets, near, misses", "Within what is wanted; outside it but borne; beyond what is borne."),
        Term("likely", "Likely", "Where the figure would lie in nine of ten such enclosures: lamps, boards and rooms "
             "differ from what is printed on them."),
        Term("severity", "Stop, warn, note", "Of dangers: forbids the design; is to be mended; is to be known."),
        Term("usual-day", "Usual day", "The room halfway between winter and summer."),
        Term("sure", "How sure a plan is", "The share of what may be in which nothing goes beyond what is borne."),
        Term("danger", "Danger", "The temperature above which a body, a skin or breathed air is harmed."),
    )),
    Chapter("The box", (
        Term("ground", "Ground", "What lies on the floor of the box; keepers also say substrate."),
        Term("furniture", "Furniture", "Slabs, ledges, branches, hides and dishes: places that the animal uses."),
        Term("basking-place", "Basking place", "The piece of furniture that the animal warms itself on."),
        Term("hide", "Hide", "A place with a roof: warm, cool or humid."),
        Term("base", "Base", "The bottom of the ground, which a mat warms and a burrowing animal reaches."),
        Term("gradient", "Gradient", "Warm at one end and cool at the other, so that the animal can choose."),
        Term("free-area", "Free area of a vent", "What is open of it: holes, not the plate that they are in."),
    )),
    Chapter("Heat and control", (
        Term("lightless", "Source without light", "Ceramic emitter, carbon projector, panel, mat, tape, cable."),
        Term("probe", "Probe", "The part of a thermostat that feels. It knows only the place where it lies."),
        Term("setpoint", "Setpoint", "The temperature at the probe that a thermostat holds."),
        Term("duty", "Share of full power", "How much of what a source can give the thermostat lets it give."),
        Term("cut-out", "Cut-out", "A second thermostat in line, set higher, that opens where the first one sticks."),
        Term("stuck-on", "Stuck on", "A thermostat that gives full power whatever its probe feels."),
    )),
)  # fmt: skip
