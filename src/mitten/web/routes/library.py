"""The library and the rule book: looking, comparing, and the keeper's own entries."""

from collections.abc import Sequence
from typing import Annotated, Literal
from urllib.parse import quote

from fastapi import APIRouter, Path, Query, Request, UploadFile
from fastapi.params import File
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from mitten.core.catalogue import (
    Catalogue,
    Entry,
    content_of,
    read_kept_design,
    read_library,
    shipped_catalogue,
    write_library,
)
from mitten.core.design import MAX_FILE_BYTES, BadDesignError, Fault
from mitten.core.design.units import Units
from mitten.core.judge.rulebook import rule_book
from mitten.web.edits import EditError
from mitten.web.edits.entries import SEEN, key_of, mark_of, read_entry
from mitten.web.edits.fields import Typed
from mitten.web.routes.common import Services, TheServices, TheTyped, TheUnits, wants_a_part
from mitten.web.views.glossary import CHAPTERS
from mitten.web.views.library import compare_entries, entry_form, entry_view, library_view

router = APIRouter()
TableName = Literal[
    "species", "sources", "uvb", "fixtures", "controls", "panels", "grounds", "site_materials", "meshes"
]
Key = Annotated[str, Path(max_length=60)]
Search = Annotated[str, Query(max_length=80)]
ENTRY = "/library/{table}/{key}"
CHANGED_ELSEWHERE = (
    "This entry was changed elsewhere since you opened it, so nothing was stored. What you typed is still in its "
    "field: save again if you want it in place of what is there now."
)


@router.get("/library", response_class=HTMLResponse)
def show_library(
    request: Request, services: TheServices, units: TheUnits, table: TableName = "species", search: Search = ""
) -> Response:
    """Species and gear, found by words; for htmx, the list alone."""
    return _library_page(request, services, units, table, search)


def _library_page(
    request: Request, services: Services, units: Units, table: TableName, search: str,
    faults: Sequence[Fault] = (), status: int = 200,
) -> Response:  # fmt: skip
    template = "_entries.html" if wants_a_part(request) else "library.html"
    context = {
        "view": library_view(table, search, units, services.catalogue), "units": units, "faults": faults,
        "set_aside": services.library.set_aside(),
    }  # fmt: skip
    return services.pages.answer(request, template, context, status)


@router.get("/library-file")
def save_library(services: TheServices) -> Response:
    """The keeper's own entries as a file."""
    return Response(
        write_library(services.library.entries()), media_type="application/json",
        headers={"content-disposition": 'attachment; filename="own.mitten-library.json"'},
    )  # fmt: skip


@router.post("/library-file", response_class=HTMLResponse, responses={303: {}, 422: {}})
def open_library(
    request: Request, services: TheServices, units: TheUnits, library_file: Annotated[UploadFile, File()]
) -> Response:
    """Take in the entries of such a file, or say everything that is wrong with it and store nothing."""
    try:
        content = library_file.file.read(MAX_FILE_BYTES + 1)
        with services.editing.library():
            arrived = read_library(content, services.now().catalogue)
            services.library.take_in(arrived.entries)
            services.use_library()
    except BadDesignError as error:
        return _library_page(request, services, units, "species", "", error.faults, 422)
    return RedirectResponse(f"/library?table={next(iter(arrived.entries), 'species')}", status_code=303)


@router.get("/rules", response_class=HTMLResponse)
def show_rules(request: Request, services: TheServices, units: TheUnits) -> Response:
    """Every rule that an enclosure is judged by."""
    return services.pages.answer(request, "rules.html", {"chapters": rule_book(), "units": units})


@router.get("/help", response_class=HTMLResponse)
def show_help(request: Request, services: TheServices, units: TheUnits) -> Response:
    """How to work with it, and every key."""
    return services.pages.answer(request, "help.html", {"units": units})


@router.get("/terms", response_class=HTMLResponse)
def show_terms(request: Request, services: TheServices, units: TheUnits) -> Response:
    """Every term in plain words."""
    return services.pages.answer(request, "glossary.html", {"chapters": CHAPTERS, "units": units})


@router.get("/library/{table}", response_class=HTMLResponse, responses={404: {}})
def show_comparison(
    request: Request, table: TableName, services: TheServices, units: TheUnits, one: Search, other: Search
) -> Response:
    """Two entries of a table side by side."""
    left, right = _entry(table, one, services.catalogue), _entry(table, other, services.catalogue)
    if left is None or right is None:
        return _not_there(request, services, units, f"{one} and {other}")
    context = {"table": table, "left": left, "right": right, "keys": (one, other), "units": units}
    return services.pages.answer(
        request, "compare_entries.html", {**context, "rows": compare_entries(table, left, right, units)}
    )


@router.get(ENTRY, response_class=HTMLResponse, responses={404: {}})
def show_entry(
    request: Request, table: TableName, key: Key, services: TheServices, units: TheUnits, refused: Search = ""
) -> Response:
    """One entry with every figure and where it comes from; ``refused`` names an enclosure that uses it."""
    entry = _entry(table, key, services.catalogue)
    if entry is None:
        return _not_there(request, services, units, key)
    context = {"view": entry_view(table, key, entry, units, services.catalogue), "units": units, "refused": refused}
    return services.pages.answer(request, "entry.html", context)


@router.get(ENTRY + "/edit", response_class=HTMLResponse, responses={404: {}})
def show_editor(
    request: Request, table: TableName, key: Key, services: TheServices, units: TheUnits, copy: bool = False
) -> Response:
    """The editor of an entry, or of a copy of it."""
    entry = _entry(table, key, services.catalogue)
    if entry is None:
        return _not_there(request, services, units, key)
    named = entry.model_copy(update={"label": f"{entry.label}, mine"}) if copy else entry
    context = {"form": entry_form(table, key, named, units, copy), "units": units}
    return services.pages.answer(request, "edit_entry.html", context)


@router.post(ENTRY, response_class=HTMLResponse, responses={303: {}, 404: {}, 422: {}})
def save_entry(
    request: Request,
    table: TableName,
    key: Key,
    typed: TheTyped,
    services: TheServices,
    units: TheUnits,
    copy: bool = False,
) -> Response:
    """Keep the keeper's own entry: in the place of the one it was made from, or as a copy beside it."""
    with services.editing.library():
        # What another kept while this one waited for its turn counts.
        services = services.now()
        before = _entry(table, key, services.catalogue)
        if before is None:
            return _not_there(request, services, units, key)
        try:
            saved_as = _keep(services, table, key, before, typed, units, copy)
        except EditError as error:
            context = {"form": entry_form(table, key, before, units, copy, error), "units": units}
            return services.pages.answer(request, "edit_entry.html", context, 422)
    return RedirectResponse(f"/library/{table}/{saved_as}", status_code=303)


def _keep(services: Services, table: str, key: str, before: Entry, typed: Typed, units: Units, copy: bool) -> str:
    """Keep what was typed as an entry, and give its key.

    Raises:
        EditError: nothing was stored.
    """
    if typed.get(SEEN, mark_of(before)) != mark_of(before) and not copy:
        raise EditError("entry", {"": CHANGED_ELSEWHERE}, typed)
    entry = read_entry(table, before, typed, units)
    user = None if copy else _user_spoiled(services, table, key, entry)
    if user is not None:
        said = f"'{user}' uses this entry, or did once, and would not fit any more. Nothing was stored: make a copy."
        raise EditError("entry", {"": said}, typed)
    saved_as = key_of(entry.label, getattr(services.catalogue, table)) if copy else key
    services.library.save(table, saved_as, content_of(entry))
    services.use_library()
    return saved_as


@router.post(ENTRY + "/remove", responses={303: {}, 422: {}})
def remove_entry(table: TableName, key: Key, services: TheServices) -> Response:
    """Forget an own entry; a shipped one comes back. One that an enclosure uses stays."""
    shipped = key in getattr(shipped_catalogue(), table)
    with services.editing.library():
        services = services.now()
        user = None if shipped else _user_of(services, key)
        if user is not None:
            return RedirectResponse(f"/library/{table}/{key}?refused={quote(user)}", status_code=303)
        services.library.remove(table, key)
        services.use_library()
    return RedirectResponse(f"/library/{table}/{key}" if shipped else f"/library?table={table}", status_code=303)


def _user_of(services: Services, key: str) -> str | None:
    """An enclosure whose design names a key, on the shelf or off it, now or in its history: undo leads back there."""
    return next((name for name, _ in services.shelf.mentioning(key)), None)


def _user_spoiled(services: Services, table: str, key: str, entry: Entry) -> str | None:
    """An enclosure that reads now, or did at some time, and would not any more if an entry became this one."""
    trial = services.catalogue.with_entry(table, key, entry)
    for name, content in services.shelf.mentioning(key):
        if _reads(content, services.catalogue) and not _reads(content, trial):
            return name
    return None


def _reads(content: str, catalogue: Catalogue) -> bool:
    try:
        read_kept_design(content, catalogue)
    except BadDesignError:
        return False
    return True


def _entry(table: str, key: str, catalogue: Catalogue) -> Entry | None:
    entry: Entry | None = getattr(catalogue, table).get(key)
    return entry


def _not_there(request: Request, services: Services, units: object, words: str) -> Response:
    context = {"sentence": f"The library has no '{words}'.", "units": units}
    return services.pages.answer(request, "trouble.html", context, 404)
