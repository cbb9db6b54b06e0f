"""The animal's targets as fields: their words, quantities and limits."""

from mitten.core.design.units import HOURS, IRRADIANCE, PLAIN, SHARE, TEMPERATURE, Quantity

RANGES = {
    "basking_surface_c": "Basking surface", "basking_operative_c": "Basking body", "basking_air_c": "Basking air",
    "warm_air_c": "Warm side air", "cool_air_c": "Cool side air", "night_c": "Night air", "humidity": "Humidity",
    "uvi": "UV index", "irradiance_w_m2": "Irradiance", "day_hours": "Day length",
}  # fmt: skip
BEARABLE = "bearable."
"""Begins the key of what is borne of a target."""

DANGERS = {
    "danger_contact_c": "Surface that burns", "danger_body_c": "Body in danger", "danger_air_c": "Air it cannot bear",
}  # fmt: skip
QUANTITIES: dict[str, Quantity] = {
    "humidity": SHARE, "uvi": PLAIN, "irradiance_w_m2": IRRADIANCE, "day_hours": HOURS,
}  # fmt: skip
LIMITS = {
    "humidity": (0.0, 1.0), "uvi": (0.0, 15.0), "irradiance_w_m2": (0.0, 1500.0), "day_hours": (0.0, 24.0),
}  # fmt: skip
TEMPERATURES_C = (-5.0, 70.0)


def target_quantity(key: str) -> Quantity:
    """What kind of number a target is."""
    return QUANTITIES.get(key, TEMPERATURE)


def target_limits(key: str) -> tuple[float, float]:
    """What may be typed for a target, in stored units."""
    return LIMITS.get(key, TEMPERATURES_C)
