"""A climate in, SVG out; and drawings of what a keeper sets."""

from mitten.draw.box import box_drawing, box_words
from mitten.draw.needs import needs, sizes
from mitten.draw.sheet import heat_sheet, thumbnail
from mitten.draw.target_bar import target_bar
from mitten.draw.wash import colour_of, legend
from mitten.draw.year import year_strip

__all__ = [
    "box_drawing",
    "box_words",
    "colour_of",
    "heat_sheet",
    "legend",
    "needs",
    "sizes",
    "target_bar",
    "thumbnail",
    "year_strip",
]
