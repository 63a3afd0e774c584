"""The Shelf: all recipes, how each stands against its targets, and finding one."""

from __future__ import annotations

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, JSONResponse

from fresh_ladle.core import dishes
from fresh_ladle.store.foods import search_foods
from fresh_ladle.store.recipes import recipe_ids, versions
from fresh_ladle.web.routes.common import load_work, page
from fresh_ladle.web.state import workbench
from fresh_ladle.web.views.standing import rung_views

router = APIRouter()


@router.get("/", response_class=HTMLResponse)
def shelf(request: Request, q: str = "") -> HTMLResponse:
    bench = workbench(request)
    cards = []
    with bench.store() as connection:
        for recipe_id in recipe_ids(connection):
            work = load_work(bench, connection, recipe_id)
            kept = versions(connection, recipe_id)
            now = bench.appraise(work.draft.recipe)
            names = [p.food.name.lower() for p in now.portions if p.food]
            if q and not any(q.lower() in text for text in (work.draft.recipe.title.lower(), *names)):
                continue
            targets = work.profile.targets if work.profile else ()
            rungs = rung_views(now, work.original, targets, small=True)
            cards.append(
                {
                    "id": recipe_id,
                    "title": work.draft.recipe.title,
                    "kind": dishes.BY_ID[work.draft.recipe.kind].name,
                    "servings": f"{now.totals.servings:.3g}",
                    "serving_grams": f"{now.totals.serving_grams:,.0f} g",
                    "profile": work.profile.name if work.profile else "no targets yet",
                    "state": "adapted" if len(kept) > 1 else "to adapt",
                    "draft": work.draft.changed,
                    "versions": len(kept),
                    "rungs": rungs,
                    "open": sum(r.tone == "misses" for r in rungs),
                    "unknown": len(now.problems),
                }
            )
    return page(request, "shelf.html", cards=cards, q=q, place="shelf")


@router.get("/find")
def find(request: Request, q: str = "") -> JSONResponse:
    """Foods and recipes for the search field, as typed."""
    bench = workbench(request)
    with bench.store() as connection:
        foods = search_foods(connection, q, 8)
        recipes = [load_work(bench, connection, i).draft for i in recipe_ids(connection)]
    found = [
        {"name": d.recipe.title, "kind": "recipe", "url": f"/recipes/{d.recipe_id}"}
        for d in recipes
        if q.lower() in d.recipe.title.lower()
    ]
    if not foods:
        near = bench.reader.find(q, 5)
        found += [{"name": c.food.name, "kind": "food", "url": f"/foods/{c.food.key}"} for c in near]
    found += [{"name": f.name, "kind": f.matched or "food", "url": f"/foods/{f.key}"} for f in foods]
    return JSONResponse(found[:12])
