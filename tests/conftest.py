"""Settings that all tests share."""

from hypothesis import HealthCheck, settings

# Solves take tens of milliseconds on a noisy machine; examples are the same in every run, so that a failure is ours.
settings.register_profile(
    "mitten", deadline=None, derandomize=True, database=None, suppress_health_check=[HealthCheck.too_slow]
)
settings.load_profile("mitten")
