"""Light, IR-A, IR-B and IR-C as one bar."""

from markupsafe import Markup

from mitten.core.physics.radiation.spectrum import Bands
from mitten.draw.svg import element, rect, text

WIDTH, HEIGHT = 220.0, 12.0
BESIDE = 12.0
"""Room for a label under a narrow share at an end."""

LEAST_LABELLED = 0.07
COLOURS = {"light": "#E3D6A0", "A": "#D58A46", "B": "#B25A34", "C": "#7C2E26"}


def shares_bar(bands: Bands) -> Markup:
    """The bar with its letters under it; shares too small for a letter have none."""
    shares = {"light": bands.visible, "A": bands.ir_a, "B": bands.ir_b, "C": bands.ir_c}
    parts, left = [], 0.0
    for name, share in shares.items():
        width = share * WIDTH
        parts.append(rect(left, 0, width, HEIGHT, "share", fill=COLOURS[name]))
        if share >= LEAST_LABELLED:
            parts.append(text(left + width / 2, HEIGHT + 14, f"{name} {share:.0%}", "tick", "middle"))
        left += width
    described = ", ".join(f"{name} {share:.0%}" for name, share in shares.items())
    return element(
        "svg", *parts, viewBox=f"{-BESIDE:g} 0 {WIDTH + 2 * BESIDE:g} {HEIGHT + 18:g}", class_="shares", role="img",
        aria_label=f"Shares of what arrives: {described}",
    )  # fmt: skip
