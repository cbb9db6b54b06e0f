"""Settings that all tests share."""

import sys
from importlib import import_module

from hypothesis import HealthCheck, Phase, settings

from mitten.core.physics.threads import use_one_thread

# PsychroLib compiles itself with Numba wherever it finds it: here it comes along with a test's package, and costs
# seconds at every start. The application runs without it.
sys.modules["numba"] = None  # type: ignore[assignment]
import_module("psychrolib")
del sys.modules["numba"]

use_one_thread()

# Solves take tens of milliseconds on a noisy machine; examples are the same in every run, so that a failure is ours.
settings.register_profile(
    "mitten",
    deadline=None,
    derandomize=True,
    database=None,
    # Without shrinking: a failing solve would be repeated for minutes.
    phases=[Phase.explicit, Phase.generate],
    suppress_health_check=[HealthCheck.too_slow],
)
settings.load_profile("mitten")
