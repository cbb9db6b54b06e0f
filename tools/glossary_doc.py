"""Write docs/glossary.md: the terms of the pages, as Help has them, and the nouns of the code."""

from pathlib import Path

from mitten.web.views.glossary import CHAPTERS

DOCUMENT = Path(__file__).parent.parent / "docs" / "glossary.md"
HEAD = """# Glossary

The terms of the pages are those of the page "Terms" in Help; the code uses the same words. Written by
`make glossary-doc` from `web/views/glossary.py` and `tools/glossary_doc.py`.
"""
CODE = {
    "adopt": "to take up a plan: a new revision of the enclosure with the plan's sources in it.",
    "approach": "a school of heating: sunlit, lightless, ground, one lamp.",
    "assessment": "a design judged: its climates, a verdict for every target, its findings.",
    "brief": "what a search is given: a design without sources, and what may be used.",
    "candidate": "one combination of sources that the screening found good, not worked out in full yet.",
    "case": "what the rules of the rule book look at: a design, its climates, its targets.",
    "catalogue": "species, gear and materials with their figures; shipped, and the keeper's own beside them.",
    "climate": "one design in one condition: temperatures, humidity and radiation, by the names that people use.",
    "condition": "a season and time of day, a room of the keeper's own, or a failure.",
    "control": "a thermostat, dimmer or timer with its probe.",
    "coarse grid": "half as many patches along each side: for what is compared, never for what is shown as a result.",
    "deposit": "where the radiation of one lamp falls, patch by patch.",
    "design": "everything that a design file holds; a value that is never changed.",
    "duty": "the share of its full power that a source gives on average.",
    "effect": "what a whole duty of one thermostat adds, to its own probe and everywhere.",
    "exposure": "what an animal meets at a place: air, radiation, the surface under it.",
    "factors": "the LU factors of the linear system of a round.",
    "finding": "a danger that a rule found, with its figure and its remedy.",
    "fineness": "how finely surfaces are divided: 1 is usual, 0.5 the coarse grid.",
    "fix": "a change that mends a missed target, worked out in all seasons.",
    "interior": "the patches of a box and what is in it.",
    "layout": "one or more sources of a kind in their places, without a wattage.",
    "loop": "something that is held at a temperature by the duty of one control.",
    "operative": "of a temperature: what a body comes to there, from air, radiation and the ground together.",
    "part": "anything in an enclosure that can be chosen: a source, a lamp, a control, furniture, a vent.",
    "patch": "the smallest piece of a surface; it has one temperature in the balance.",
    "plan": "a whole design that a search found, with what the full model says of it.",
    "prepared": "of an enclosure: everything that its sources and its room do not change.",
    "regulate": "of a thermostat: to hold its probe at the setpoint, between no power and all of it.",
    "residual": "of a patch or zone: gain less loss; nought in a steady state.",
    "response": "what one layout does to an enclosure on its own.",
    "revision": "one stored state of an enclosure; every edit makes one.",
    "services": "what the routes work with: shelf, library, assessments, searches, pages.",
    "situation": "a condition as the physics sees it: room, day or night, what is dead, what is stuck.",
    "site": "a piece of furniture, in the design file and in the code.",
    "status": "of a verdict: meets, near, misses; of a control: regulates, cannot reach, room alone exceeds.",
    "surroundings": "the room as the balance sees it: temperature, humidity, pressure.",
    "target": "a figure with the range that an animal wants and the one that it bears.",
    "tweak": "to move uncertain parameters a little and follow the solution.",
    "variant": "a named design beside the current one of an enclosure.",
    "verdict": "one target, judged where it is worst.",
    "view factor": "the share of the radiation that leaves one patch and meets another.",
    "wishes": "of a search: the targets that sources decide, and the rooms they are to be reached in.",
    "zone": "a piece of the air, one of eight columns by six layers; it has one temperature.",
}


def document() -> str:
    """The whole glossary."""
    lines = [HEAD, "## On the pages", ""]
    for chapter in CHAPTERS:
        lines += [f"### {chapter.title}", "", *(f"- **{term.name}**: {term.words}" for term in chapter.terms), ""]
    lines += ["## In the code", "", *(f"- **{name}**: {words}" for name, words in sorted(CODE.items()))]
    return "\n".join(lines) + "\n"


if __name__ == "__main__":
    DOCUMENT.write_text(document(), encoding="utf-8")
