"""What to change: single changes that mend a missed target; and what a design costs to run."""

from mitten.core.plan.alternatives import over_materials
from mitten.core.plan.changing import Change, ChangeKind, apply_change
from mitten.core.plan.cost import DailyUse, daily_use, running_w
from mitten.core.plan.fixes import Fix, Mending, OvertakenError, fixes_for, why_none
from mitten.core.plan.hides import hide_fixes, to_be_covered
from mitten.core.plan.mains import OutletLoad, outlet_loads

__all__ = [
    "Change",
    "ChangeKind",
    "DailyUse",
    "Fix",
    "Mending",
    "OutletLoad",
    "OvertakenError",
    "apply_change",
    "daily_use",
    "fixes_for",
    "hide_fixes",
    "outlet_loads",
    "over_materials",
    "running_w",
    "to_be_covered",
    "why_none",
]
