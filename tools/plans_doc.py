"""Write docs/plans.md: thirty briefs, ten species in three boxes, and the plans that are found for each.

It is there to be read: a plan that a keeper would shake the head at shows that something in the model or in the search
is wrong.
"""

from collections.abc import Iterator
from pathlib import Path

from mitten.core.catalogue import load_catalogue, load_presets
from mitten.core.design import Design, Room, RoomSeason
from mitten.core.physics.threads import use_one_thread
from mitten.core.plan.search import Brief, Plan, distinct, find_plans, night_words, obstacles, source_words
from mitten.web.edits.sheets import apply_preset
from mitten.web.new import new_design

DOCUMENT = Path(__file__).parent.parent / "docs" / "plans.md"
ROOM = Room(winter=RoomSeason(day_c=20.0, night_c=17.0), summer=RoomSeason(day_c=24.0, night_c=20.0))
SPECIES = (
    "collared-lizard", "rosy-boa", "gargoyle-gecko", "kenyan-sand-boa", "hermanns-tortoise", "common-chuckwalla",
    "milksnake", "western-hognose-snake", "african-fat-tailed-gecko", "steppe-tortoise",
)  # fmt: skip
BOXES = ("tank-90", "plywood-120", "foam-pvc-120")
MOST = 3
HEAD = """# Plans for thirty briefs

Ten species as adults, each in three boxes, in a room of {winter.day_c:g} °C by day and {winter.night_c:g} °C by night
in winter, {summer.day_c:g} and {summer.night_c:g} °C in summer. The boxes are empty: the search puts in a basking place
and hides, and looks in three places for the basking place. "Sure" is the share of what may be in which no target of
warmth and light is missed by more than a kelvin in any season, before anything is measured. Targets are those of the
library: starting points to verify. Written by `make plans-doc`.

| Animal | Box | Plan | By night | Sure | kWh a year |
|---|---|---|---|---|---|
"""


def main() -> None:
    """Find the plans and write the table."""
    use_one_thread()
    lines = [line for species in SPECIES for box in BOXES for line in _rows(species, box)]
    DOCUMENT.write_text(HEAD.format(winter=ROOM.winter, summer=ROOM.summer) + "\n".join(lines) + "\n", encoding="utf-8")


def _rows(species: str, box: str) -> Iterator[str]:
    design: Design = apply_preset(new_design(species).model_copy(update={"room": ROOM}), box)
    progress = find_plans(Brief(design))
    animal, label = load_catalogue().species[species].label, load_presets().boxes[box].label
    plans = distinct(progress.plans)[:MOST]
    if not plans:
        yield f"| {animal} | {label} | none: {' '.join(obstacles(progress))} | | | |"
    for number, plan in enumerate(plans):
        first = f"{animal} | {label}" if number == 0 else " | "
        yield f"| {first} | {_plan(plan)} | {night_words(plan)} | {plan.chance:.0%} | {plan.kwh_year:.0f} |"


def _plan(plan: Plan) -> str:
    held = f", {plan.design.controls[0].kind} thermostat at {plan.design.controls[0].day_c:g} °C" if (
        plan.candidate.held
    ) else ", no thermostat"  # fmt: skip
    ultraviolet = ", UV lamp" if plan.design.uvb else ""
    but_for = "; ".join(f"{one.label[:1].lower()}{one.label[1:]}" for one in plan.works_but_for)
    room = f" (the room alone makes too warm: {but_for})" if but_for else ""
    return f"{plan.approach}: {source_words(plan.candidate)}{held}{ultraviolet}{room}"


main()
