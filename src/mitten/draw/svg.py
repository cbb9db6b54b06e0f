"""Writing SVG elements: escaped, with numbers short enough to send."""

from collections.abc import Iterable
from functools import cache

from markupsafe import Markup, escape

Number = float | int


def number(value: Number) -> str:
    """A coordinate with one decimal at most."""
    text = f"{value:.1f}"
    return text.removesuffix(".0")


def element(name: str, *content: str | Markup, **attributes: str | Number | None) -> Markup:
    """One element. Attribute names write ``_`` for ``-`` and ``class_`` for ``class``; None leaves one out."""
    written = "".join(
        f' {_attribute(key)}="{escape(value) if isinstance(value, str) else number(value)}"'
        for key, value in attributes.items()
        if value is not None
    )
    inside = "".join(escape(piece) for piece in content)
    return Markup(f"<{name}{written}>{inside}</{name}>" if inside else f"<{name}{written}/>")  # noqa: S704


@cache
def _attribute(key: str) -> str:
    return key.rstrip("_").replace("_", "-")


def group(*content: str | Markup, **attributes: str | Number | None) -> Markup:
    """A ``g`` element."""
    return element("g", *content, **attributes)


def text(x: Number, y: Number, words: str, class_: str = "", anchor: str = "start") -> Markup:
    """A line of text."""
    return element("text", words, x=x, y=y, class_=class_ or None, text_anchor=anchor)


def line(x1: Number, y1: Number, x2: Number, y2: Number, class_: str) -> Markup:
    """A straight line."""
    return element("line", x1=x1, y1=y1, x2=x2, y2=y2, class_=class_)


def rect(x: Number, y: Number, width: Number, height: Number, class_: str, **more: str | Number | None) -> Markup:
    """A rectangle."""
    return element("rect", x=x, y=y, width=max(width, 0), height=max(height, 0), class_=class_, **more)


def polyline(points: Iterable[tuple[Number, Number]], class_: str) -> Markup:
    """An open line through points."""
    return element("polyline", points=" ".join(f"{number(x)},{number(y)}" for x, y in points), class_=class_)
