"""Write docs/plans.md: thirty briefs, ten species in three boxes, and the plans that are found for each.

It is there to be read: a plan that a keeper would shake the head at shows that something in the model or in the search
is wrong.
"""

from collections.abc import Iterator
from pathlib import Path

from mitten.core.catalogue import load_presets, shipped_catalogue
from mitten.core.design import Control, Design, Room, RoomSeason
from mitten.core.design.amounts import plain
from mitten.core.physics.threads import use_one_thread
from mitten.core.plan.search import (
    Brief,
    Plan,
    asked_of_the_box,
    chance_words,
    distinct,
    find_plans,
    night_words,
    obstacles,
    source_words,
)
from mitten.web.edits.sheets import apply_preset
from mitten.web.new import new_design

DOCUMENT = Path(__file__).parent.parent / "docs" / "plans.md"
ROOM = Room(winter=RoomSeason(day_c=20.0, night_c=17.5), summer=RoomSeason(day_c=25.0, night_c=22.5))
SPECIES = (
    "collared-lizard", "rosy-boa", "gargoyle-gecko", "kenyan-sand-boa", "hermanns-tortoise", "common-chuckwalla",
    "milksnake", "western-hognose-snake", "african-fat-tailed-gecko", "steppe-tortoise",
)  # fmt: skip
BOXES = ("tank-90", "plywood-120", "foam-pvc-120")
MOST = 3
HEAD = """# Plans for thirty briefs

Ten species as adults, each in three boxes, in a room of {winter.day_c:g} °C by day and {winter.night_c:g} °C by night
in winter, {summer.day_c:g} and {summer.night_c:g} °C in summer. The boxes are empty: the search puts in a basking place
and hides, raises it or moves it, and asks for changes of the box where they help. "Sure" is the share of what may be in
which nothing goes beyond what the animal bears in any season, before anything is measured. Targets are those of the
library: starting points to verify. Written by `make plans-doc`.

| Animal | Box | Plan | By night | Sure | kWh a year |
|---|---|---|---|---|---|
"""


def main() -> None:
    """Find the plans and write the table."""
    use_one_thread()
    lines = [line for species in SPECIES for box in BOXES for line in _rows(species, box)]
    text = HEAD.format(winter=ROOM.winter, summer=ROOM.summer) + "\n".join(lines) + "\n"
    DOCUMENT.write_text(plain(text), encoding="utf-8")


def _rows(species: str, box: str) -> Iterator[str]:
    design: Design = apply_preset(
        new_design(species, shipped_catalogue()).model_copy(update={"room": ROOM}), shipped_catalogue(), box
    )
    progress = find_plans(Brief(design, shipped_catalogue()))
    animal, label = shipped_catalogue().species[species].label, load_presets().boxes[box].label
    plans = distinct(progress.plans, shipped_catalogue())[:MOST]
    if not plans:
        yield f"| {animal} | {label} | none: {' '.join(obstacles(progress, shipped_catalogue()))} | | | |"
    for number, plan in enumerate(plans):
        first = f"{animal} | {label}" if number == 0 else " | "
        yield f"| {first} | {_plan(plan)} | {night_words(plan)} | {chance_words(plan.chance)} | {plan.kwh_year:.0f} |"


def _plan(plan: Plan) -> str:
    held = f", {_held(plan.design.controls[0])}" if plan.candidate.held else ", no thermostat"
    lamps = plan.assessment.catalogue.uvb
    ultraviolet = "".join(f", {lamps[lamp.lamp].label} {lamp.watts:g} W" for lamp in plan.design.uvb)
    asks = asked_of_the_box(plan)
    also = f"; {'; '.join(asks)}" if asks else ""
    return f"{plan.approach}: {source_words(plan.candidate, plan.assessment.catalogue)}{held}{ultraviolet}{also}"


def _held(control: Control) -> str:
    summer = control.summer.day_c if control.summer else None
    in_summer = "" if summer is None else f" ({summer:g} °C in summer)"
    cut_out = "" if control.cut_out_c is None else f", cut-out at {control.cut_out_c:g} °C"
    return f"{control.kind} thermostat at {control.day_c:g} °C{in_summer}{cut_out}"


main()
