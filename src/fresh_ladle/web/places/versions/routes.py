"""The versions of a recipe with their story: what was done, why, which plan, which tasting; and
bringing one back."""

from __future__ import annotations

from typing import Annotated

from fastapi import Form, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from fresh_ladle.core.nutrients.wording import story
from fresh_ladle.store.people.acting import initials_acting
from fresh_ladle.store.recipes.drafts import draft, restore_version
from fresh_ladle.store.recipes.marks import MarkKind, mark_version, marks
from fresh_ladle.store.recipes.recipes import is_put_away, put_away, versions
from fresh_ladle.store.tastings.tastings import tastings
from fresh_ladle.web.door.guarded import guarded_router
from fresh_ladle.web.places.counter.response import counter_response
from fresh_ladle.web.places.tasting.view import finding_words, served_in
from fresh_ladle.web.shared.page import load_work, page
from fresh_ladle.web.state import workbench_of

router = guarded_router("/recipes/{recipe_id}")


@router.get("/versions", response_class=HTMLResponse)
def version_stories(request: Request, recipe_id: int) -> HTMLResponse:
    """A drawer of all versions, the newest first."""
    with workbench_of(request).store() as connection:
        work, kept, marked = (
            draft(connection, recipe_id),
            versions(connection, recipe_id),
            marks(connection, recipe_id),
        )
        away = is_put_away(connection, recipe_id)
        rounds = [t for t in tastings(connection, recipe_id) if t.state == "closed"]
    told = [
        (
            v,
            story(v.edits),
            [m for m in marked if m.number == v.number],
            [(t, finding_words(t)) for t in rounds if (recipe_id, v.number) in served_in(t)],
        )
        for v in reversed(kept)
    ]
    return page(
        request,
        "places/versions/drawer.html",
        told=told,
        recipe_id=recipe_id,
        title=work.recipe.title,
        away=away,
    )


@router.post("/versions/{number}/back", response_class=HTMLResponse)
def bring_back(request: Request, recipe_id: int, number: int) -> Response:
    """Brings a version back into the draft, as an edit that can be undone."""
    workbench = workbench_of(request)
    with workbench.store() as connection:
        restore_version(connection, recipe_id, number)
        work = load_work(workbench, connection, recipe_id)
    if request.headers.get("HX-Request"):
        return counter_response(request, workbench, work, f"version {number} brought back")
    return RedirectResponse(f"/recipes/{recipe_id}", status_code=303)


@router.post("/put-away")
def put_recipe_away(request: Request, recipe_id: int, away: Annotated[bool, Form()]) -> Response:
    """Takes the recipe off the shelf, or puts it back there."""
    with workbench_of(request).store() as connection:
        put_away(connection, recipe_id, away)
    return RedirectResponse("/" if away else f"/recipes/{recipe_id}", status_code=303)


@router.post("/versions/{number}/mark", response_class=HTMLResponse)
def mark(
    request: Request,
    recipe_id: int,
    number: int,
    kind: Annotated[MarkKind, Form()],
    by: Annotated[str, Form(max_length=20)] = "",
    remark: Annotated[str, Form(max_length=300)] = "",
) -> HTMLResponse:
    """Notes that a version was tasted or approved, by whom as a code, and what was said. Whoever
    signed in cannot note it for another."""
    signed_in = initials_acting()
    with workbench_of(request).store() as connection:
        mark_version(connection, recipe_id, number, kind, signed_in or by.strip(), remark.strip())
    return version_stories(request, recipe_id)
