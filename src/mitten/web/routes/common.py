"""What routes share: the shelf, the pages, and assessments that are kept while the design stays the same."""

from functools import lru_cache
from typing import Annotated

from fastapi import Depends, Path, Request

from mitten.core.design import Design
from mitten.core.judge import Assessment, assess
from mitten.store import Shelf
from mitten.web.pages import Pages

KEPT_ASSESSMENTS = 64


def shelf_of(request: Request) -> Shelf:
    """The keeper's shelf."""
    shelf: Shelf = request.app.state.shelf
    return shelf


def pages_of(request: Request) -> Pages:
    """The templates."""
    pages: Pages = request.app.state.pages
    return pages


@lru_cache(maxsize=KEPT_ASSESSMENTS)
def assessed(design: Design) -> Assessment:
    """The assessment of a design. A design is a value, so its assessment can be kept.

    Raises:
        NotSettledError: a condition has no steady state.
    """
    return assess(design)


TheShelf = Annotated[Shelf, Depends(shelf_of)]
ThePages = Annotated[Pages, Depends(pages_of)]
EnclosureId = Annotated[int, Path(ge=1, le=2**53)]
