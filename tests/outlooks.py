"""What came of failures, as made up for tests of what is said of it."""

from mitten.core.judge.days import Failure
from mitten.core.judge.exposed import Harm
from mitten.core.judge.outlooks import Outlook


def stuck_on(hottest_c: float, body_min: float | None) -> Outlook:
    """What came of a thermostat that stuck on."""
    dangers = (("body", body_min), ("contact", None), ("air", None))
    harms = () if body_min is None else (Harm("heat", "body", body_min, 46.0),)
    return Outlook("summer", Failure("stuck-on", "Pulse"), 0.0, hottest_c, "the ground", 60.0, 20.0, 0.0, 38.0,
                   dangers, None, True, (0.0, 0.0, 0.0), harms)  # fmt: skip
