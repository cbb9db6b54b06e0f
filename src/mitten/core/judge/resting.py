"""Whether an animal may rest in the cold as the keeper plans it: by its species and its age, never by the calendar."""

from mitten.core.catalogue import Catalogue, Species
from mitten.core.design import Cooling, Design, Stage
from mitten.core.design.amounts import celsius

CAUTIONS = (
    "Only an adult in good condition that a veterinarian has looked at; its gut empty before it cools, water always "
    "there; weigh it every other week, and end the rest at once if it loses a tenth of its weight or looks ill"
)


def why_no_rest(species: Species, stage: Stage, cooling: Cooling) -> str:
    """Why a cool rest is refused, in a sentence; nothing where it may be."""
    if species.cool_rest is None:
        return f"{species.label}: this species does not rest in the cold, and is harmed by it."
    if stage != "adult":
        return f"Only adults rest in the cold, and this is {species.at_stage(stage)}."
    for time, at_c, (low_c, _) in (
        ("by day", cooling.day_c, species.cool_rest.day_c), ("by night", cooling.night_c, species.cool_rest.night_c),
    ):  # fmt: skip
        if at_c < low_c:
            return (
                f"{celsius(at_c)} {time} is colder than {species.with_article} may rest at: {celsius(low_c)} or more."
            )
    return ""


def what_is_odd_of_a_rest(species: Species, cooling: Cooling) -> str:
    """What is unusual about a rest that may be; nothing where nothing is."""
    usual = species.cool_rest
    if usual is None:
        return ""
    if cooling.weeks > usual.weeks[1]:
        return f"{cooling.weeks} weeks are longer than the {usual.weeks[1]} that are usual for {species.with_article}."
    for time, at_c, (_, high_c) in (
        ("by day", cooling.day_c, usual.day_c),
        ("by night", cooling.night_c, usual.night_c),
    ):
        if at_c > high_c:
            said = f"{celsius(at_c)} {time} is too warm to rest and too cold to feed"
            return f"{said}: a rest is at {celsius(high_c)} or less."
    return ""


def allowed_rest(design: Design, catalogue: Catalogue) -> Cooling | None:
    """The cool rest that is planned, where it may be."""
    cooling = design.schedule.cooling if design.schedule else None
    species = catalogue.species[design.animal.species]
    return None if cooling is None or why_no_rest(species, design.animal.stage, cooling) else cooling
