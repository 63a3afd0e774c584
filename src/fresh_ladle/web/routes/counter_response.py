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
from fresh_ladle.store.drafts import StaleEdit, edit, edits_since_version, recipe_at
from fresh_ladle.store.profiles import profile_names
from fresh_ladle.store.settings import settings
from fresh_ladle.web.routes.common import (
    LENS_COOKIE,
    Work,
    lens_of,
    load_work,
    page,
    templates,
    tour_of_draft,
    wants_part,
)
from fresh_ladle.web.state import Workbench, workbench_of
from fresh_ladle.web.views.counter import LineView, counter_view
from fresh_ladle.web.views.merge import MergeView, merge_view
from fresh_ladle.web.views.recipe_band import recipe_band

Revision = Annotated[int, Form()]


def counter_response(
    request: Request,
    workbench: Workbench,
    work: Work,
    announcement: str = "",
    error: str = "",
    status: int = 200,
    merging: MergeView | None = None,
    keeping: dict[str, str] | None = None,
) -> HTMLResponse:
    """The whole Counter, or for htmx the part that changes.

    `announcement` is told to screen readers, `error` says what was not done, `merging` is an edit that came too late,
    `keeping` the words of a version that was not saved.
    """
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
        band = recipe_band(workbench, connection, work.draft, len(view.questions) + view.more_questions, edits)
    part = wants_part(request)
    response = page(
        request,
        "counter_body.html" if part else "counter.html",
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
    return Markup(templates.get_template("counter_line.html").render(line=line, here=f"/recipes/{recipe_id}"))


def edit_response(
    request: Request, recipe_id: int, revision: int, change: Callable[[Recipe], Recipe], named: Edit | None = None
) -> Response:
    """Makes one edit and draws the Counter again. A bad edit changes nothing and says why; one made on a page that
    another tab has overtaken is offered for merging. Without htmx, a good edit leads to the Counter."""
    workbench = workbench_of(request)
    with workbench.store() as connection:
        announcement, error, merging = "", "", None
        try:
            made = edit(connection, recipe_id, revision, change, named)
            announcement = edits_words(made.undo or ()) if made.revision != revision else ""
        except StaleEdit:
            try:
                merging = _late_edit_merge(connection, recipe_id, revision, change)
            except ValueError as problem:
                error = str(problem)
        except ValueError as problem:
            error = str(problem)
        work = load_work(workbench, connection, recipe_id)
    if not (error or merging or request.headers.get("HX-Request")):
        return RedirectResponse(f"/recipes/{recipe_id}", status_code=303)
    status = 200 if request.headers.get("HX-Request") else 409 if merging else 422 if error else 200
    return counter_response(
        request, workbench, work, announcement, f"Nothing was changed: {error}." if error else "", status, merging
    )


def _late_edit_merge(
    connection: sqlite3.Connection, recipe_id: int, revision: int, change: Callable[[Recipe], Recipe]
) -> MergeView:
    """An edit made on an older revision beside what came between. Raises ValueError when it cannot be made at all."""
    base = recipe_at(connection, recipe_id, revision)
    if base is None:
        raise Refused("this page is older than anything the workbench knows of this recipe: make the edit again")
    return merge_view(connection, recipe_id, revision, base, change(base))
