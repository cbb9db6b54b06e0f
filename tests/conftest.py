"""Settings that all tests share."""

import gc

from hypothesis import HealthCheck, Phase, settings

from mitten.core.physics.threads import use_one_thread

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


def pytest_collection_finish() -> None:
    """What is loaded by now stays to the end: looking through it for rubbish again and again finds none."""
    gc.collect()
    gc.freeze()
    gc.set_threshold(100_000, 50, 1000)
