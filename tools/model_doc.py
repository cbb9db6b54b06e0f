"""Fill in the tables of docs/model.md from the code. ``python -m tools.model_doc``."""

import re
from collections.abc import Callable, Iterable, Sequence
from pathlib import Path

from tests.validation import validations

from mitten.core.catalogue import SourceKind, shipped_catalogue
from mitten.core.physics.constants import CONSTANTS
from mitten.core.physics.correlations import CORRELATIONS
from mitten.core.physics.uncertainty import (
    PRIORS,
    PROBE_PLACE_SIGMA_M,
    PROBE_SIGMA_K,
    output_prior,
    thermostat_prior,
)

DOCUMENT = Path(__file__).resolve().parents[1] / "docs" / "model.md"


def table(head: Sequence[str], rows: Iterable[Sequence[object]]) -> str:
    """A Markdown table."""
    lines = [f"| {' | '.join(head)} |", "|" + "---|" * len(head)]
    lines += [f"| {' | '.join(str(cell) for cell in row)} |" for row in rows]
    return "\n".join(lines)


def constants() -> str:
    """The one table of constants."""
    return table(
        ("constant", "value", "unit", "1 sigma", "origin"),
        (
            (f"`{name}`", f"{c.value:.6g}", c.unit, f"{c.uncertainty:.0%}" if c.uncertainty else "exact", c.origin)
            for name, c in CONSTANTS.items()
        ),
    )


def panels() -> str:
    """Panel materials."""
    return table(
        ("panel", "k W/mK", "rho c MJ/m³K", "reflects", "transmits", "emissivity", "bears °C"),
        (
            (
                m.label, f"{m.conductivity_w_mk:g}", f"{m.heat_capacity_mj_m3k:g}",
                m.short_reflectance, m.short_transmittance, m.emissivity, f"{m.service_c:g}",
            )
            for m in shipped_catalogue().panels.values()
        ),
    )  # fmt: skip


def grounds() -> str:
    """Substrates."""
    return table(
        ("ground", "k dry / damp / wet", "rho c dry / wet", "absorbs short", "emissivity", "bears °C"),
        (
            (
                m.label,
                f"{m.conductivity_dry_w_mk:g} / {m.conductivity_damp_w_mk:g} / {m.conductivity_wet_w_mk:g}",
                f"{m.heat_capacity_dry_mj_m3k:g} / {m.heat_capacity_wet_mj_m3k:g}",
                m.short_absorptance, m.emissivity, f"{m.service_c:g}",
            )
            for m in shipped_catalogue().grounds.values()
        ),
    )  # fmt: skip


def slabs() -> str:
    """What sites are made of."""
    return table(
        ("slab", "k W/mK", "rho c MJ/m³K", "absorbs short", "emissivity", "bears °C"),
        (
            (
                m.label, f"{m.conductivity_w_mk:g}", f"{m.heat_capacity_mj_m3k:g}",
                m.short_absorptance, m.emissivity, f"{m.service_c:g}",
            )
            for m in shipped_catalogue().site_materials.values()
        ),
    )  # fmt: skip


def _emitter(kind: SourceKind) -> str:
    if kind.emitter_k:
        return f"{kind.emitter_k:g} K, {kind.envelope}"
    return "own balance" if kind.radiant_share else "-"


def sources() -> str:
    """Heat sources by construction."""
    return table(
        ("source", "eta", "half angle", "beam share", "emitter", "places"),
        (
            (
                kind.label,
                f"{kind.radiant_share:g}" if kind.radiant_share else "contact",
                f"{kind.half_angle_deg:g}°" if kind.family == "lamp" else "-",
                f"{kind.beam_share:g}" if kind.family == "lamp" else "-",
                _emitter(kind),
                ", ".join(kind.places),
            )
            for kind in shipped_catalogue().sources.values()
        ),
    )  # fmt: skip


def priors() -> str:
    """What is uncertain, and by how much."""
    own = (
        *((prior.label, prior.words) for prior in (output_prior(""), thermostat_prior(""))),
        ("what its probe reads", f"{PROBE_SIGMA_K:g} K"),
        ("where its probe lies, along each axis", f"{PROBE_PLACE_SIGMA_M * 100:g} cm"),
    )
    return table(("parameter", "1 sigma"), [*own, *((prior.label, prior.words) for prior in PRIORS.values())])


def reached() -> str:
    """Every validation with the figure reached."""
    return table(("check", "wanted", "reached"), ((v.what, v.wanted, v.reached()) for v in validations()))


def correlations() -> str:
    """What was borrowed, and where it was found to hold."""
    return table(
        ("correlation", "equation", "holds for", "source"),
        ((c.name, f"`{c.equation}`", f"{c.symbol} {c.low:.3g} to {c.high:.3g}", c.source) for c in CORRELATIONS),
    )


BLOCKS: dict[str, Callable[[], str]] = {
    "constants": constants,
    "panels": panels,
    "grounds": grounds,
    "slabs": slabs,
    "sources": sources,
    "correlations": correlations,
    "priors": priors,
    "validations": reached,
}


def block_of(text: str, name: str) -> str:
    """What stands in a document between the marks of a block.

    Raises:
        ValueError: the document has no such block.
    """
    found = re.search(rf"<!-- {name} -->\n(.*?)\n<!-- /{name} -->", text, re.DOTALL)
    if found is None:
        raise ValueError(f"docs/model.md has no block '{name}'")
    return found[1]


def filled(text: str) -> str:
    """The document with every block made again."""
    for name, make in BLOCKS.items():
        text = text.replace(f"<!-- {name} -->\n{block_of(text, name)}\n", f"<!-- {name} -->\n{make()}\n")
    return text


if __name__ == "__main__":
    DOCUMENT.write_text(filled(DOCUMENT.read_text(encoding="utf-8")), encoding="utf-8")
