"""What to change: single changes that mend a missed target."""

from mitten.core.plan.changes import Change, ChangeKind, changed
from mitten.core.plan.fixes import Fix, fixes_for

__all__ = ["Change", "ChangeKind", "Fix", "changed", "fixes_for"]
