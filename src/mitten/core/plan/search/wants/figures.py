"""The figures that combinations are screened by, as places in an array (..., figures)."""

FIGURES = ("surface", "operative", "basking_air", "warm_air", "cool_air", "base", "uvi")
SURFACE, OPERATIVE, BASKING_AIR, WARM_AIR, COOL_AIR, BASE, UVI = range(len(FIGURES))
RISING = slice(0, UVI)
"""Figures that are the room's temperature and a rise."""

LEAST_RISE_K = 0.05
"""A rise that is divided by is at least this."""
