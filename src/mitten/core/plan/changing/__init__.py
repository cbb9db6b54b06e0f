"""Single changes of a design: what one is, what it does to the data, and which ones may be offered."""

from mitten.core.plan.changing.change import Change, ChangeKind, Way
from mitten.core.plan.changing.making import apply_change
from mitten.core.plan.changing.offers import candidates, day_of

__all__ = ["Change", "ChangeKind", "Way", "apply_change", "candidates", "day_of"]
