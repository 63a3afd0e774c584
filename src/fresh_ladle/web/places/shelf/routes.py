"""The Shelf: which recipes there are, in which state, and which meet the targets in mind; and
finding one by name."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated, Any

from fastapi import Query, Request
from fastapi.responses import HTMLResponse, JSONResponse, RedirectResponse, Response

from fresh_ladle.core.cautions.allergens import ALLERGENS, allergen_name
from fresh_ladle.core.recipes import dishes
from fresh_ladle.store.foods.foods import search_foods
from fresh_ladle.store.recipes.profiles import all_profiles
from fresh_ladle.store.recipes.recipes import any_recipes
from fresh_ladle.store.recipes.shelf import STATES, Meeting, Order, recipes_called, shelf_page
from fresh_ladle.store.recipes.waiting_edits import recipes_waiting
from fresh_ladle.store.settings import tour_of
from fresh_ladle.web.door.guarded import guarded_router
from fresh_ladle.web.places.shelf.view import shelf_cards
from fresh_ladle.web.shared.page import page, wants_part
from fresh_ladle.web.shared.shelf_query import Asked, address
from fresh_ladle.web.state import workbench_of

router = guarded_router()
CARDS = 24
"""Cards on one page of the Shelf; more come as they are asked for."""
ORDERS = (
    (Order.WORKED_LAST, "latest first"),
    (Order.NAME, "by name"),
    (Order.MOST_TO_DO, "most to do"),
    (Order.LEAST_SODIUM, "least sodium"),
)
MEETINGS = (
    (Meeting.MEETS, "meets it"),
    (Meeting.MISSES, "misses it"),
    (Meeting.CLOSE, "too close to call"),
)


@router.get("/", response_class=HTMLResponse)
def shelf(request: Request, asked: Asked, start: Annotated[int, Query(ge=0)] = 0) -> Response:
    """All of the Shelf, what the filters leave of it, or for htmx the next cards. An empty practice
    begins with the tour."""
    workbench = workbench_of(request)
    to_work_out = workbench.refresh_shelf()
    with workbench.store() as connection:
        empty = not any_recipes(connection)
        if empty and not tour_of(connection):
            return RedirectResponse("/first", status_code=303)
        profiles = {p.id: p for p in all_profiles(connection)}
        question = asked if asked.profile_id in profiles else replace(asked, profile_id=None)
        answer = shelf_page(connection, question, start, CARDS)
        waiting = recipes_waiting(connection)
    shown = start + len(answer.rows)
    context: dict[str, Any] = {
        "cards": shelf_cards(
            answer.rows,
            profiles,
            question.profile_id,
            {w.recipe_id: w.count for w in waiting},
            workbench.knowledge.pantry,
        ),
        "waiting": waiting,
        "total": answer.total,
        "unsure": answer.unsure,
        "empty": empty,
        "more": address("/", question, shown) if shown < answer.total else "",
        "left": answer.total - shown,
        "to_work_out": to_work_out,
        "start": start,
        "free_from": [allergen_name(a) for a in question.free_from],
        "plans": address("/plan-many", question),
    }
    if wants_part(request):
        return page(
            request, "places/shelf/cards.html" if start else "places/shelf/found.html", **context
        )
    return page(
        request,
        "places/shelf/page.html",
        **context,
        question=question,
        kinds=dishes.KINDS,
        states=STATES,
        profiles=profiles.values(),
        meetings=MEETINGS,
        orders=ORDERS,
        schools=workbench.schools.values(),
        allergens=sorted((a, allergen_name(a)) for a in ALLERGENS),
        place="shelf",
    )


@router.get("/find")
def find(request: Request, q: Annotated[str, Query(max_length=200)] = "") -> JSONResponse:
    """Foods and recipes for the search field, as typed."""
    workbench = workbench_of(request)
    workbench.refresh_shelf()
    with workbench.store() as connection:
        foods = search_foods(connection, q, 8)
        recipes = recipes_called(connection, q, 6)
    found = [
        {"name": title, "kind": "recipe", "url": f"/recipes/{recipe_id}"}
        for recipe_id, title in recipes
    ]
    if not foods:
        near = workbench.reader.find(q, 5)
        found += [
            {"name": c.food.name, "kind": "food", "url": f"/foods/{c.food.key}"} for c in near
        ]
    found += [
        {"name": f.name, "kind": f.matched or "food", "url": f"/foods/{f.key}"} for f in foods
    ]
    return JSONResponse(found[:12])
