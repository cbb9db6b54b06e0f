"""A drawing as a file of its own: with its size, its namespace and the styles that it needs."""

import re

from markupsafe import Markup

STYLE = """
text { font-family: 'Atkinson Hyperlegible Next', Verdana, sans-serif; font-size: 11px; fill: #1F2B2E; }
svg { background: #FBFAF6; }
"""


def standalone(drawing: Markup, styles: str = "") -> str:
    """The drawing with what a viewer needs that knows nothing of the page; ``styles`` are the page's for drawings."""
    text = str(drawing)
    box = re.search(r'viewBox="([\d. -]+)"', text)
    _, _, width, height = (float(part) for part in box[1].split()) if box else (0.0, 0.0, 640.0, 480.0)
    head = f'<svg xmlns="http://www.w3.org/2000/svg" width="{2 * width:g}" height="{2 * height:g}" '
    inside = text.removeprefix("<svg ")
    first = inside.index(">") + 1
    return f"{head}{inside[:first]}<style>{STYLE}{styles}</style>{inside[first:]}"
