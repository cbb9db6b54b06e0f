"""Filling templates."""

from functools import cache
from hashlib import sha256
from pathlib import Path
from typing import Any
from urllib.parse import quote

from fastapi import Request
from fastapi.responses import HTMLResponse
from fastapi.templating import Jinja2Templates
from jinja2 import Environment, FileSystemLoader, StrictUndefined

from mitten import __version__
from mitten.core.design.amounts import centimetres
from mitten.core.design.units import METRIC, Units

TEMPLATES = Path(__file__).parent / "templates"
STATIC = Path(__file__).parent / "static"


@cache
def templates() -> Jinja2Templates:
    """The templates, strict about names that are missing; they are compiled once in a process, when asked for."""
    environment = Environment(
        loader=FileSystemLoader(TEMPLATES),
        autoescape=True,
        undefined=StrictUndefined,
        trim_blocks=True,
        lstrip_blocks=True,
    )
    environment.globals["version"] = __version__
    environment.globals["static_url"] = static_url
    environment.filters["degrees"] = degrees
    environment.filters["plain"] = plain
    environment.filters["segment"] = segment
    environment.filters["say"] = lambda sentence, units: units.say(sentence)
    environment.filters["centimetres"] = centimetres
    return Jinja2Templates(env=environment)


class Pages:
    """Templates, filled."""

    def answer(self, request: Request, name: str, context: dict[str, Any], status: int = 200) -> HTMLResponse:
        """A filled template as an answer; what amounts it has are in the keeper's units, where it says which."""
        filled = templates().get_template(name).render({"request": request, **context})
        units: Units = context.get("units", METRIC)
        return HTMLResponse(units.say(filled), status)


@cache
def static_url(name: str) -> str:
    """The address of a file that ships, which changes with what is in it."""
    return f"/static/{name}?v={sha256((STATIC / name).read_bytes()).hexdigest()[:16]}"


def segment(words: str) -> str:
    """Words as one step of an address, slashes and all: a name must never lead elsewhere."""
    return quote(words, safe="")


def plain(value: float) -> str:
    """A number without needless decimals."""
    return f"{value:g}"


def degrees(celsius: float) -> str:
    """A temperature with one decimal; a figure that would read -0.0 reads 0.0."""
    return f"{round(celsius, 1) + 0.0:.1f}"
