"""The Counter drawn again after an edit: what every route that changes a draft answers with."""

from __future__ import annotations

import sqlite3
from collections.abc import Callable
from functools import lru_cache
from typing import Annotated

from fastapi import Form, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response
from markupsafe import Markup

from fresh_ladle.core.errors import Refused
from fresh_ladle.core.recipes.edits import Edit, edits_words
from fresh_ladle.core.recipes.recipe import Recipe
from fresh_ladle.store.database import writing
from fresh_ladle.store.recipes.drafts import (
    Clash,
    Draft,
    StaleEdit,
    draft,
    edit,
    edits_since_version,
    recipe_at,
)
from fresh_ladle.store.recipes.profiles import profile_names
from fresh_ladle.store.recipes.recipes import set_profile
from fresh_ladle.store.recipes.waiting_edits import keep_waiting, waiting_edits
from fresh_ladle.store.settings import settings
from fresh_ladle.web.places.counter.merge_view import changes_words, merge_view
from fresh_ladle.web.places.counter.view import LineView, counter_view
from fresh_ladle.web.shared.page import (
    LENS_COOKIE,
    Work,
    lens_of,
    load_work,
    page,
    templates,
    tour_of_draft,
    wants_part,
)
from fresh_ladle.web.shared.recipe_band import recipe_band
from fresh_ladle.web.state import Workbench, workbench_of

Revision = Annotated[int, Form()]


def counter_response(
    request: Request,
    workbench: Workbench,
    work: Work,
    announcement: str = "",
    error: str = "",
    status: int = 200,
    late: int | None = None,
    keeping: dict[str, str] | None = None,
) -> HTMLResponse:
    """The whole Counter, or for htmx the part that changes.

    `announcement` is told to screen readers, `error` says what was not done, `late` is the edit
    that came too late and waits now, `keeping` the words of a version that was not saved."""
    lens, recipe_id = lens_of(request), work.draft.recipe_id
    open_line = request.query_params.get("open", "")
    with workbench.store() as connection:
        edits = edits_since_version(connection, recipe_id)
        view = counter_view(
            workbench,
            work.draft,
            work.original,
            work.profile,
            lens,
            open_line,
            settings(connection).weights,
            edits,
        )
        profiles = profile_names(connection)
        tour = tour_of_draft(connection, work.draft, lens, edits)
        merging = merge_view(waiting_edits(connection, recipe_id), work.draft.recipe, late)
        band = recipe_band(
            workbench, connection, work.draft, len(view.questions) + view.more_questions, edits
        )
    part = wants_part(request)
    response = page(
        request,
        "places/counter/body.html" if part else "places/counter/page.html",
        status,
        v=view,
        announcement=announcement,
        error=error,
        profiles=profiles,
        merging=merging,
        keeping=keeping,
        tour=tour,
        band=band,
        drawn_line=_drawn_line,
        band_again=part,
        place="counter",
        recipe_id=recipe_id,
    )
    response.set_cookie(LENS_COOKIE, lens, max_age=31_536_000, httponly=True, samesite="strict")
    return response


@lru_cache(maxsize=2048)
def _drawn_line(line: LineView, recipe_id: int) -> Markup:
    """A line of the Counter as HTML. Most lines stay as they are when one is edited."""
    return Markup(
        templates.get_template("places/counter/line.html").render(
            line=line, here=f"/recipes/{recipe_id}"
        )
    )


def edit_response(
    request: Request,
    recipe_id: int,
    revision: int,
    change: Callable[[Recipe], Recipe],
    named: Edit | None = None,
    profile: tuple[int | None, ...] = (),
    also: Callable[[sqlite3.Connection], None] = lambda _: None,
) -> Response:
    """Makes one edit and draws the Counter again. A bad edit changes nothing and says why; one made
    on a page that another tab has overtaken is put together with what came between, and waits for
    somebody's choice where both changed the same. Without htmx, a good edit leads to the Counter.

    `profile` are the targets chosen in the same act, `also` what else belongs to it: all of it is
    kept, or nothing."""
    workbench = workbench_of(request)
    with workbench.store() as connection:
        announcement, error, late = "", "", None
        try:
            with writing(connection):
                before = draft(connection, recipe_id)
                made = edit(connection, recipe_id, revision, change, named)
                for chosen in profile:
                    set_profile(connection, recipe_id, chosen)
                also(connection)
            announcement = _announced(connection, before, made, revision)
        except Clash as clash:
            late = keep_waiting(connection, recipe_id, revision, clash.mine, profile)
        except StaleEdit:
            error = (
                "this page is older than anything the workbench knows of this recipe: make the edit"
                " again"
            )
        except Refused as problem:
            error = str(problem)
        work = load_work(workbench, connection, recipe_id)
    if error == "" and late is None and not request.headers.get("HX-Request"):
        return RedirectResponse(f"/recipes/{recipe_id}", status_code=303)
    status = (
        200
        if request.headers.get("HX-Request")
        else 409
        if late is not None
        else 422
        if error
        else 200
    )
    return counter_response(
        request,
        workbench,
        work,
        announcement,
        f"Nothing was changed: {error}." if error else "",
        status,
        late,
    )


def _announced(connection: sqlite3.Connection, before: Draft, made: Draft, revision: int) -> str:
    """What an edit did, and what it was put together with."""
    if made.revision == before.revision:
        return ""
    said, seen = edits_words(made.undo or ()), recipe_at(connection, before.recipe_id, revision)
    meanwhile = changes_words(seen, before.recipe) if seen is not None else []
    return (
        f"{said}; put together with what was changed elsewhere: {'; '.join(meanwhile)}"
        if meanwhile
        else said
    )
