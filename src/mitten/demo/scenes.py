"""The demo enclosures: design files that ship with the program."""

from importlib.resources import files

from mitten.core.catalogue import read_checked_design, shipped_catalogue
from mitten.core.design import Design

SCENES = (
    "quarry-ledge", "glass-canyon", "attic-terrarium", "sand-tub", "olive-table", "coast-box",
)  # fmt: skip


def demo_designs() -> tuple[Design, ...]:
    """The demo designs, read as any design file is."""
    catalogue = shipped_catalogue()
    folder = files("mitten.demo").joinpath("designs")
    return tuple(read_checked_design(folder.joinpath(f"{name}.mitten.json").read_bytes(), catalogue) for name in SCENES)
