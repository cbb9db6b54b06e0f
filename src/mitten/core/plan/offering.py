"""The one filter that every offer passes: fixes, plans, Check, Control, the year and a front offer nothing that makes a
danger or a warning which was not there, in any season, by the rule book and its ratings, or at full power.
"""

import re
from collections.abc import Iterator

from mitten.core.design import BadDesignError, Design
from mitten.core.judge import Assessment, assess
from mitten.core.judge.finding import SEVERITIES, Finding
from mitten.core.physics.balance.steady import UnsolvedError

GRAVE = ("stop", "warn")
STUCK = "too-strong-when-stuck"
STANDING_RULES = ("no-retreat-from-heat", "burning-surface", "base-too-hot", "body-too-hot")
"""What the rule book calls a box that is dangerous before anything fails."""

TARGETS_AGAIN = ("right-in-summer-only",)
"""What only says again, of the year, that a target is missed: that is counted where targets are."""

_NAMED = re.compile(r"'([^']+)'")


def new_dangers(before: Assessment, after: Assessment) -> tuple[Finding, ...]:
    """Stops and warnings of a changed design that the one before did not have, or not so gravely, or not of that
    part.
    """
    known = {finding.rule: finding for finding in before.findings}
    if any(finding.rule in STANDING_RULES for finding in before.stops):
        # What a thermostat that sticks would do is what happens every day without one.
        known.setdefault(STUCK, before.stops[0])
    grave = (one for one in after.findings if one.severity in GRAVE and one.rule not in TARGETS_AGAIN)
    return tuple(one for one in grave if _is_new(one, known.get(one.rule)))


def _is_new(finding: Finding, known: Finding | None) -> bool:
    if known is None or SEVERITIES.index(finding.severity) < SEVERITIES.index(known.severity):
        return True
    return finding.severity == "stop" and not set(_names_in(finding)) <= set(_names_in(known))


def _names_in(finding: Finding) -> Iterator[str]:
    """Parts that a finding names."""
    yield from finding.parts
    yield from _NAMED.findall(f"{finding.title} {finding.reason}")


def judged(before: Assessment, design: Design) -> Assessment | None:
    """A changed design in all seasons; None where it cannot be worked out."""
    try:
        return assess(design, before.catalogue, before.climates, before.today)
    except (BadDesignError, UnsolvedError):
        return None


def why_not_offered(before: Assessment, design: Design) -> str | None:
    """Why a changed design is not offered: the title of the gravest new danger; None where nothing is against it."""
    after = judged(before, design)
    if after is None:
        return "what it does cannot be worked out"
    found = new_dangers(before, after)
    return found[0].title if found else None
