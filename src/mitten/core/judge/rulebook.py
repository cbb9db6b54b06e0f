"""The rule book in words: every rule by name, what it catches, and the figure that shows it."""

from dataclasses import dataclass


@dataclass(frozen=True)
class RuleEntry:
    """One rule."""

    name: str
    catches: str
    shown_by: str


@dataclass(frozen=True)
class Chapter:
    """Rules of one kind."""

    title: str
    rules: tuple[RuleEntry, ...]


RULE_BOOK: tuple[Chapter, ...] = (
    Chapter("Heat", (
        RuleEntry("no-retreat-from-heat", "Air too hot everywhere: nowhere to go.", "coolest air, limit"),
        RuleEntry("burning-surface", "A surface that burns what lies on it.", "hottest surface, limit"),
        RuleEntry("material-too-hot", "A material hotter than it is made for.", "temperature, limit"),
        RuleEntry("lamp-in-the-middle", "A lamp in the middle: no slope, no cool end.", "warm end over cool end"),
        RuleEntry("too-strong-when-stuck", "Power that a thermostat hides until it sticks.", "full power, minutes"),
        RuleEntry("right-in-summer-only", "A lamp right in summer and wrong in winter.", "both surfaces"),
        RuleEntry("spot-right-air-cold", "A warm basking place under cold air.", "air, wanted air"),
        RuleEntry("perch-too-near", "A perch, ledge or hide too near under a lamp.", "gap"),
        RuleEntry("body-too-hot", "A place where the body gets too hot.", "body, limit"),
        RuleEntry("patch-smaller-than-animal", "A warm patch smaller than the animal.", "patch and animal"),
        RuleEntry("water-under-the-lamp", "A water dish in the beam, by accident or on purpose.", "irradiance, litres"),
        RuleEntry("plant-in-the-beam", "A plant in the beam.", "irradiance"),
    )),
    Chapter("Gear", (
        RuleEntry("fixture-rating", "A lamp stronger than its fixture is rated for.", "watts, rating"),
        RuleEntry("fixture-rating-unknown", "A fixture whose label was not read.", "watts assumed"),
        RuleEntry("socket-material", "A plastic socket on a heat source.", "watts"),
        RuleEntry("unvented-dome", "A ceramic or mercury lamp in a dome without vents.", "watts"),
        RuleEntry("within-reach", "A heat source without a guard that the animal reaches.", "gap, reach"),
        RuleEntry("climber-under-open-lamp", "A climbing animal under an open lamp.", "gap"),
        RuleEntry("hot-to-touch", "A guard too small, or a panel, too hot and within reach.", "its outside, limit"),
        RuleEntry("hot-mesh-over-climber", "Hot wires that a climbing animal hangs on.", "wires, limit"),
        RuleEntry("light-at-night", "Light at night, whatever its colour.", "watts of light"),
        RuleEntry("coloured-lamp", "A red, blue or black lamp.", "watts"),
        RuleEntry("hot-rock", "A hot rock.", "its surface"),
    )),
    Chapter("Warmth from below", (
        RuleEntry("needs-a-thermostat", "A contact or lightless source without a thermostat.", "hottest, limit"),
        RuleEntry("mat-inside", "A mat or cable inside the box.", "watts, depth"),
        RuleEntry("tape-inside", "Heat tape inside the box.", "watts, depth"),
        RuleEntry("mat-over-half-the-floor", "A mat under more than half of the floor.", "share of the floor"),
        RuleEntry("mat-without-gap", "A box flat on its mat: trapped heat, crushed lead.", "under the box"),
        RuleEntry("thick-substrate-over-mat", "Deep ground over a mat: only the top reads right.", "base and top"),
        RuleEntry("base-too-hot", "A base under the ground that burns what digs to it.", "base, limit"),
        RuleEntry("mat-alone-in-a-cool-box", "A mat alone under cold air.", "air, wanted air"),
    )),
    Chapter("Control", (
        RuleEntry("cannot-be-dimmed", "A mercury lamp on a thermostat or dimmer.", "watts"),
        RuleEntry("control-overload", "A load above the thermostat's rating.", "load, rating"),
        RuleEntry("cannot-reach", "A setpoint that full power does not reach: too little power.", "probe, setpoint"),
        RuleEntry("lamp-on-an-on-off-thermostat", "A lamp that is switched on and off.", "watts"),
        RuleEntry("only-light-switched", "A thermostat that switches the only light through the day.", "share lit"),
        RuleEntry("probe-in-the-beam", "A probe in the beam, which reads high.", "how much too high it reads"),
        RuleEntry("probe-on-the-basking-place", "A probe where the animal basks.", "surface there"),
        RuleEntry("probe-at-the-cool-end", "A probe at the other end than its source.", "distance"),
        RuleEntry("no-light-by-day", "A day animal without any light.", "watts of light"),
        RuleEntry("probe-in-water", "A probe in the water.", "temperature there"),
    )),
    Chapter("Ultraviolet", (
        RuleEntry("uv-too-near", "A UV lamp too near.", "UV index, wanted"),
        RuleEntry("uv-too-far", "A UV lamp too far or too weak.", "UV index, wanted"),
        RuleEntry("uv-at-the-wrong-end", "UV at the cool end.", "where it ends"),
        RuleEntry("uv-through-mesh", "UV through a mesh that nobody allowed for.", "share lost"),
        RuleEntry("uv-lamp-old", "A UV lamp past its life though still bright.", "days, share left"),
    )),
    Chapter("Fit", (
        RuleEntry("no-room-under-the-lamp", "A lamp where the animal's back is.", "room, the back's height"),
        RuleEntry("lamp-does-not-fit", "A lamp without room under the top.", "room, need"),
        RuleEntry("shelf-above-the-lamp", "A lamp on the lid under a shelf.", "watts"),
        RuleEntry("lamp-beside-the-mesh", "A lamp on the solid part of the lid.", "place"),
        RuleEntry("tube-does-not-fit", "A tube longer than the box.", "length, room"),
        RuleEntry("parts-overlap", "Two parts in the same place.", "which"),
    )),
    Chapter("The box as a home", (
        RuleEntry("box-too-small", "A box too small for the species and stage.", "size, least size"),
        RuleEntry("box-too-big-and-bare", "A box too big and bare for a hatchling.", "times the least size"),
        RuleEntry("no-cover-warm", "No hide where it is warm.", "nearest hide, wanted"),
        RuleEntry("no-cover-cool", "No hide where it is cool.", "nearest hide, wanted"),
        RuleEntry("hide-too-low", "A hide that is too low for the animal.", "room, the back's height"),
        RuleEntry("out-of-reach", "A place that the animal cannot get up to.", "height"),
        RuleEntry("too-still-and-damp", "Air too still and damp.", "humidity, air changes"),
        RuleEntry("too-dry", "Air too dry, and no humid hide.", "humidity, wanted"),
        RuleEntry("not-the-approach", "Heat that is not of the approach that was chosen.", "what departs"),
    )),
)  # fmt: skip

RULE_NAMES = frozenset(rule.name for chapter in RULE_BOOK for rule in chapter.rules)
