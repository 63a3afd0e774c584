"""The Counter drawn again after an edit: what every route that changes a draft answers with."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Annotated

from fastapi import Form, Request
from fastapi.responses import HTMLResponse

from fresh_ladle.core.recipe import Recipe
from fresh_ladle.store.profiles import all_profiles
from fresh_ladle.store.recipes import edit, plans_taken, titles, versions
from fresh_ladle.web.routes.common import LENS_COOKIE, Work, lens_of, load_work, page
from fresh_ladle.web.state import Workbench, workbench
from fresh_ladle.web.views.counter import counter_view

Revision = Annotated[int, Form()]


def bench_page(
    request: Request, bench: Workbench, work: Work, said: str = "", error: str = "", status: int = 200
) -> HTMLResponse:
    """The whole Counter, or for htmx the part that changes. `said` is announced, `error` says what was not done."""
    lens = lens_of(request)
    view = counter_view(bench, work.draft, work.original, work.profile, lens)
    name = "counter_bench.html" if request.headers.get("HX-Request") else "counter.html"
    with bench.store() as connection:
        profiles = all_profiles(connection)
        kept = versions(connection, work.draft.recipe_id)
        taken = [what.removeprefix("plan: ") for what in plans_taken(connection, work.draft.recipe_id)]
        others = [(i, t) for i, t in titles(connection) if i != work.draft.recipe_id]
    view = replace(view, plans_taken=f"From the plan {' and '.join(taken)}." if taken else "")
    response = page(
        request,
        name,
        status,
        v=view,
        said=said,
        error=error,
        profiles=profiles,
        kept=kept,
        others=others,
        place="counter",
        recipe_id=view.recipe_id,
    )
    response.set_cookie(LENS_COOKIE, lens, max_age=31_536_000, httponly=True, samesite="strict")
    return response


def edited(
    request: Request, recipe_id: int, revision: int, what: str, change: Callable[[Recipe], Recipe]
) -> HTMLResponse:
    """Makes one edit and draws the Counter again; a bad edit changes nothing and says why."""
    bench = workbench(request)
    with bench.store() as connection:
        try:
            edit(connection, recipe_id, revision, what, change)
            said, error = what, ""
        except ValueError as problem:
            said, error = "", str(problem)
        work = load_work(bench, connection, recipe_id)
    return bench_page(request, bench, work, said, f"Nothing was changed: {error}." if error else "")
