"""A climate in, SVG out."""

from mitten.draw.sheet import heat_sheet, thumbnail
from mitten.draw.target_bar import target_bar
from mitten.draw.wash import colour_of, legend

__all__ = ["colour_of", "heat_sheet", "legend", "target_bar", "thumbnail"]
