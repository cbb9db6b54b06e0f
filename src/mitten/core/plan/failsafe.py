"""What makes a failure harmless: a source weak enough to stick on, a cut-out in line, and what keeps a box warm in a
power cut.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import inf

import numpy as np

from mitten.core.catalogue import Catalogue
from mitten.core.catalogue.materials import MeshType
from mitten.core.design import FACES, Control, Design, Heater
from mitten.core.judge import assess
from mitten.core.judge.days import Failure, Through, fail_from, of_season, temperatures_kept
from mitten.core.judge.outcomes import GOES_ON_MIN, Outcome, lamps_go_off_min, outcome_of
from mitten.core.judge.outlooks import Outlook
from mitten.core.judge.rules.gear import fixture_rating_w
from mitten.core.physics.running import make_ready
from mitten.core.physics.transient.channels import MINUTE_S
from mitten.core.plan.changing.added import free_name
from mitten.core.plan.offering import why_not_offered
from mitten.core.plan.setpoints import cut_out_setting_c

STUCK = "stuck-on"
HOTTEST_SEASON, COLDEST_SEASON = "summer", "winter"

BLANKET_M, BLANKET_W_MK, FILM_W_M2K = 0.02, 0.04, 8.0
"""A folded blanket round the box, what it conducts, and the film outside without it; starting points to verify."""

COVER = MeshType(
    label="covered mesh", open_share=0.03, wire_short_absorptance=0.7, wire_emissivity=0.9, service_c=60.0
)  # fmt: skip

BOTTLE_AREA_M2_L23, BOTTLE_FILM_W_M2K = 0.065, 9.0
"""The surface of a drinks bottle of one litre, which grows as the two-thirds power of what it holds, and what it gives
off through its cloth by air and radiation, a square metre and kelvin; starting points to verify.
"""

WATER_J_LK = 4180.0
A_COLD_BOX_C = 20.0
"""About how warm it is where a bottle is put: of the catalogue's entry alone, which wants a power."""

BOTTLE_ABOVE_M, BOTTLE_STEP_M, FROM_A_WALL_M, CLEAR_M = 0.1, 0.05, 0.1, 0.02
"""The height of a bottle's middle above the ground, the steps in which a place for it is looked for, how far that is
from an end, and how far it stays clear of what it lies on or under.
"""

CLEAR_OF_CLOTH_M = 0.3
"""A lamp is at least so far from a cloth; a starting point to verify."""

BOTTLE, LIKE = "warm-bottle", "ceramic-emitter"
"""A bottle radiates and warms the air as such an emitter does: to all sides, without light."""


@dataclass(frozen=True)
class Bottle:
    """A closed bottle of hot water in a cloth: how much it holds, and how warm it is when it is put in."""

    litres: float = 1.5
    water_c: float = 55.0

    @property
    def given_w_k(self) -> float:
        """What it gives off for each kelvin above what is around it."""
        return float(BOTTLE_FILM_W_M2K * BOTTLE_AREA_M2_L23 * self.litres ** (2 / 3))

    @property
    def lag_min(self) -> float:
        """The time constant with which it cools."""
        return self.litres * WATER_J_LK / self.given_w_k / MINUTE_S

    def gives_w(self, around_c: float) -> float:
        """What it gives off at first."""
        return max(self.given_w_k * (self.water_c - around_c), 0.0)


USUAL_BOTTLE = Bottle()


@dataclass(frozen=True)
class Survivable:
    """The largest wattage sold of a control's sources with which nothing is in danger when it sticks on, without any
    cut-out and within every rating; None where even the least is too much. ``tried`` are the wattages, each with the
    minutes to the first danger; ``rating_w`` is what fixture and thermostat let through. ``against`` is why the change
    to it is not offered, ``relies_on_cut_out`` whether the box has one that this leaves out.
    """

    control: str
    heater: str
    kind: str
    now_w: float
    largest_w: float | None
    tried: tuple[tuple[float, float | None], ...]
    rating_w: float
    against: str = ""
    relies_on_cut_out: bool = False


def survivable(design: Design, catalogue: Catalogue, control: str) -> Survivable | None:
    """Try the wattages sold that every rating bears, in the hottest season, with one failure more than the thermostat's
    own: no cut-out acts. None where nothing of the control can be exchanged.

    What is dangerous at one wattage is at every larger one: the wattages are halved, not gone through.

    Raises:
        UnsolvedError: the design finds no rest.
    """
    heaters = [one for one in design.heaters if one.control == control]
    if not heaters:
        return None
    heater = max(heaters, key=lambda one: one.watts)
    bare, rating_w = without_cut_outs(design), rated_w(design, catalogue, heater, heaters)
    sold = sorted({*(watts for watts in catalogue.sources[heater.kind].watts_sold if watts <= rating_w), heater.watts})
    tried: dict[float, float | None] = {}

    def is_safe(place: int) -> bool:
        watts = sold[place]
        tried[watts] = _stuck(_with_watts(bare, heaters, heater, watts), catalogue, control).first_danger_min
        return tried[watts] is None

    low, high = -1, len(sold)
    place = sold.index(heater.watts)
    while high - low > 1:
        low, high = (place, high) if is_safe(place) else (low, place)
        place = (low + high) // 2
    largest_w = sold[low] if low >= 0 else None
    return Survivable(
        control, heater.name, heater.kind, heater.watts, largest_w, tuple(sorted(tried.items())), rating_w,
        _against(design, catalogue, heaters, heater, largest_w), bare != design,
    )  # fmt: skip


def without_cut_outs(design: Design) -> Design:
    """The same with every cut-out failed as well."""
    controls = tuple(
        one if one.cut_out_c is None else one.model_copy(update={"cut_out_c": None}) for one in design.controls
    )
    return design if controls == design.controls else design.model_copy(update={"controls": controls})


def rated_w(design: Design, catalogue: Catalogue, heater: Heater, heaters: Sequence[Heater]) -> float:
    """The most watts that one of a control's sources may have: by its fixture, and by what its thermostat bears."""
    alike = [one for one in heaters if (one.kind, one.watts) == (heater.kind, heater.watts)]
    found = [inf]
    if catalogue.sources[heater.kind].needs_fixture:
        found += [fixture_rating_w(one.fixture, catalogue) for one in alike]
    held = design.control_of(heater)
    if held is not None and held.max_watts is not None:
        others_w = sum(one.watts for one in heaters if one not in alike)
        found.append((held.max_watts - others_w) / len(alike))
    return min(found)


def _against(
    design: Design, catalogue: Catalogue, heaters: Sequence[Heater], heater: Heater, largest_w: float | None
) -> str:
    """Why the change to the largest wattage is not offered, or why what there is cannot stay."""
    if largest_w is None:
        return ""
    before = assess(design, catalogue)
    if largest_w == heater.watts:
        named = [one for one in before.stops if f"'{heater.name}'" in f"{one.title} {one.reason}"]
        return named[0].title if named else ""
    return why_not_offered(before, _with_watts(design, heaters, heater, largest_w)) or ""


def _with_watts(design: Design, heaters: Sequence[Heater], like: Heater, watts: float) -> Design:
    """All of a control's sources of one kind and power at another power."""
    names = {one.name for one in heaters if (one.kind, one.watts) == (like.kind, like.watts)}
    changed = tuple(
        one.model_copy(update={"watts": watts}) if one.name in names else one for one in design.heaters
    )  # fmt: skip
    return design.model_copy(update={"heaters": changed})


def _stuck(design: Design, catalogue: Catalogue, control: str) -> Outcome:
    through = of_season(design, catalogue, HOTTEST_SEASON)
    day = through.moving.repeating_day(through.happening)
    return outcome_of(through, day, Failure(STUCK, control))


@dataclass(frozen=True)
class CutOut:
    """A second thermostat in line: what it is set to in °C, and what then comes of the first one sticking on, and of
    its probe fallen out of the box. ``against`` is why it is not offered.
    """

    control: str
    set_c: float
    without: Outlook
    with_it: Outlook
    probe_out: Outlook
    against: str = ""

    @property
    def is_enough(self) -> bool:
        """Whether nothing is in danger with it, whichever of both fails."""
        return all(after is None for one in (self.with_it, self.probe_out) for _, after in one.minutes_to_danger)


def cut_out(design: Design, catalogue: Catalogue, control: str) -> CutOut | None:
    """A cut-out where it never acts on a usual day, as everywhere else, and what comes of failures with it.

    Raises:
        UnsolvedError: the design finds no rest.
    """
    held = next((one for one in design.controls if one.name == control and one.is_thermostat), None)
    set_c = None if held is None else cut_out_setting_c(held)
    if set_c is None:
        return None
    with_it = _with_control(design, control, {"cut_out_c": set_c})
    without = _with_control(design, control, {"cut_out_c": None})
    through = of_season(with_it, catalogue, HOTTEST_SEASON)
    day = through.moving.repeating_day(through.happening)
    stuck, out = (
        Outlook.of(HOTTEST_SEASON, outcome_of(through, day, Failure(kind, control))) for kind in (STUCK, "probe-out")
    )
    against = why_not_offered(assess(design, catalogue), with_it) or ""
    return CutOut(control, set_c, Outlook.of(HOTTEST_SEASON, _stuck(without, catalogue, control)), stuck, out, against)


def _with_control(design: Design, name: str, changes: dict[str, float | None]) -> Design:
    controls: tuple[Control, ...] = tuple(
        one.model_copy(update=changes) if one.name == name else one for one in design.controls
    )
    return design.model_copy(update={"controls": controls})


@dataclass(frozen=True)
class Help:
    """Something done at the beginning of a power cut: what, how many hours then are left until the warm end is colder
    than is borne by night (None: longer than was gone through), and what it falls to in °C.
    """

    key: str
    hours: float | None
    coldest_c: float
    bottle: Bottle = USUAL_BOTTLE


HELPS = ("", "blanket", "cover", "bottle", "everything")
"""Nothing, a blanket round the box, vents and mesh covered, a warm bottle, and all three."""


def in_a_cut(design: Design, catalogue: Catalogue, key: str, bottle: Bottle = USUAL_BOTTLE) -> Help:
    """A power cut in winter as the lamps go off, as the list of failures has it, with one thing done about it.

    Raises:
        UnsolvedError: the design finds no rest.
    """
    has_bottle = key in ("bottle", "everything")
    boxed, catalogue = _with_bottle(design, catalogue, bottle) if has_bottle else (design, catalogue)
    through = _without_power(of_season(boxed, catalogue, COLDEST_SEASON), bottle_name(design) if has_bottle else "")
    day = through.moving.repeating_day(through.happening)
    failure = Failure("power-cut")
    begins_min = lamps_go_off_min(day, through.happening.clock)
    start = day.trace.places[day.row_at(begins_min)].copy()
    changed = done_about_cold(through, key)
    if changed is not through:
        start = temperatures_kept(through.moving, changed.moving, start)
    if has_bottle:
        # From there on it cools as a lump does.
        start[_of_the_bottle(changed, design)] = bottle.gives_w(float(day.warm_c[day.row_at(begins_min)]))
    course = fail_from(changed, start, GOES_ON_MIN, begins_min, failure)
    outcome = Outcome(failure, begins_min, course)
    return Help(key, outcome.hours_to_cold, outcome.coldest.celsius, bottle)


def _without_power(through: Through, name: str) -> Through:
    """The day in which what has that name is fed nothing: a bottle is only put in at the cut."""
    dead = through.happening.dead | ({name} if name else set())
    return replace(through, happening=replace(through.happening, dead=dead))


def done_about_cold(through: Through, key: str) -> Through:
    """The box with a blanket round its sides, or with its openings covered; nothing over a lid, where lamps are hot."""
    if key not in ("blanket", "cover", "everything"):
        return through
    moving, design, catalogue = through.moving, through.moving.design, through.moving.catalogue
    day, night = moving.day.situation, moving.night.situation
    if key in ("blanket", "everything"):
        film = 1.0 / (1.0 / FILM_W_M2K + BLANKET_M / BLANKET_W_MK)
        wrapped = tuple((face, film) for face in FACES if face not in ("floor", "top"))
        day, night = replace(day, wrapped=wrapped), replace(night, wrapped=wrapped)
    if key in ("cover", "everything"):
        design, catalogue = _with_cover(design, catalogue)
    return replace(through, moving=make_ready(design, catalogue, day, night))


def may_be_covered(design: Design) -> bool:
    """Whether a cloth may lie on the mesh: no lamp stands on it, or hangs so near under it that it would scorch."""
    lid_m = design.enclosure.height_m
    hot = (one for one in design.heaters if one.above_mesh or lid_m - one.z_m < CLEAR_OF_CLOTH_M)
    return design.enclosure.lid_mesh is not None and not any(hot)


def _with_cover(design: Design, catalogue: Catalogue) -> tuple[Design, Catalogue]:
    """The vents shut, and a cloth over the mesh where no lamp is on it or near under it; an open top stays open."""
    box = design.enclosure
    if box.lid_mesh is not None and may_be_covered(design):
        catalogue = catalogue.with_entry("meshes", box.lid_mesh.mesh, COVER)
    closed = box.model_copy(update={"vents": (), "fan_l_s": 0.0})
    return design.model_copy(update={"enclosure": closed}), catalogue


def _with_bottle(design: Design, catalogue: Catalogue, bottle: Bottle) -> tuple[Design, Catalogue]:
    """The design with a place for a bottle, on the ground at the warm end, and a catalogue that has bottles."""
    x_m, y_m, z_m = _where_a_bottle_lies(design)
    name, power_w = bottle_name(design), bottle.gives_w(A_COLD_BOX_C)
    heater = Heater(name=name, kind=BOTTLE, watts=power_w, on="always", x_m=x_m, y_m=y_m, z_m=z_m)
    kind = catalogue.sources[LIKE].model_copy(update={"warm_up_min": bottle.lag_min})
    boxed = design.model_copy(update={"heaters": (*design.heaters, heater)})
    return boxed, catalogue.with_entry("sources", BOTTLE, kind)


def _where_a_bottle_lies(design: Design) -> tuple[float, float, float]:
    """Under what heats, on the ground or on what stands there; where that leaves no room for it, as near as it fits."""
    box = design.enclosure
    weight_w = sum(one.watts for one in design.heaters)
    warm_x_m = sum(one.x_m * one.watts for one in design.heaters) / weight_w if weight_w else box.length_m / 2
    from_m, to_m = FROM_A_WALL_M, box.length_m - FROM_A_WALL_M
    steps = np.linspace(from_m, to_m, 1 + round((to_m - from_m) / BOTTLE_STEP_M))
    places = [min(max(warm_x_m, from_m), to_m), *sorted(steps.tolist(), key=lambda x_m: abs(x_m - warm_x_m))]
    found = [(x_m, box.depth_m / 2, _lies_at(design, x_m, box.depth_m / 2)) for x_m in places]
    return next((one for one in found if one[2] <= box.height_m - CLEAR_M), found[0])


def _lies_at(design: Design, x_m: float, y_m: float) -> float:
    """The height of a bottle's middle there."""
    ground_m = design.substrate.depth_m
    z_m = min(ground_m + BOTTLE_ABOVE_M, (ground_m + design.enclosure.height_m) / 2)
    for site in sorted(design.sites, key=lambda one: one.top_m(ground_m)):
        over = site.is_under(x_m, y_m)
        if over and site.underside_m(ground_m) <= z_m < site.top_m(ground_m) + CLEAR_M:
            z_m = site.top_m(ground_m) + BOTTLE_ABOVE_M / 2
    return z_m


def bottle_name(design: Design) -> str:
    """What the bottle is called among a design's parts."""
    return free_name("Warm bottle", {part.name for part in design.powered})


def _of_the_bottle(through: Through, design: Design) -> int:
    """Which unknown of a box is what the bottle gives off."""
    box, name = through.moving.box, bottle_name(design)
    return int(box.place.powers.start) + next(n for n, channel in enumerate(box.channels) if channel.name == name)
