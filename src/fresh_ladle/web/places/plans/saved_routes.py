"""Plans set aside for review: worked out anew on the draft as it stands, taken or dropped."""

from __future__ import annotations

from fastapi import Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from fresh_ladle.core.plans.worked_out import plan_of_steps
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.store.foods.own_foods import prices_per_100_g
from fresh_ladle.store.recipes.saved_plans import delete_plan, saved_plan
from fresh_ladle.web.door.guarded import guarded_router
from fresh_ladle.web.places.counter.response import Revision
from fresh_ladle.web.places.plans.routes import Ticked, take_steps
from fresh_ladle.web.places.plans.view import plan_view
from fresh_ladle.web.shared.page import load_work, page
from fresh_ladle.web.state import workbench_of

router = guarded_router()


@router.get("/saved-plans/{plan_id}", response_class=HTMLResponse)
def review(request: Request, plan_id: int) -> HTMLResponse:
    """A plan that was set aside, worked out on the draft as it stands."""
    workbench = workbench_of(request)
    with workbench.store() as connection:
        kept = saved_plan(connection, plan_id)
        work = load_work(workbench, connection, kept.recipe_id)
        prices = prices_per_100_g(connection)
    now = workbench.appraise(work.draft.recipe)
    stale = work.draft.revision != kept.revision
    try:
        plan = plan_of_steps(
            kept.name, kept.why, kept.steps, now, work.original, kept.targets, workbench.knowledge
        )
    except RecipeError:
        return page(
            request,
            "places/plans/saved.html",
            kept=kept,
            plan=None,
            stale=True,
            recipe=now.recipe,
            recipe_id=kept.recipe_id,
            place="plans",
        )
    exclusions = work.profile.exclusions if work.profile else frozenset[str]()
    view = plan_view(plan, 0, "", now, work.original, workbench.knowledge, prices, exclusions)
    return page(
        request,
        "places/plans/saved.html",
        kept=kept,
        plan=view,
        stale=stale,
        recipe=now.recipe,
        recipe_id=kept.recipe_id,
        place="plans",
        revision=work.draft.revision,
    )


@router.post("/saved-plans/{plan_id}/take")
def take_kept(request: Request, plan_id: int, revision: Revision, step: Ticked = None) -> Response:
    workbench = workbench_of(request)
    with workbench.store() as connection:
        kept = saved_plan(connection, plan_id)
    return take_steps(
        request,
        kept.recipe_id,
        revision,
        kept.name,
        kept.steps,
        step or [],
        also=lambda connection: delete_plan(connection, plan_id),
    )


@router.post("/saved-plans/{plan_id}/drop")
def drop(request: Request, plan_id: int) -> Response:
    with workbench_of(request).store() as connection:
        kept = saved_plan(connection, plan_id)
        delete_plan(connection, plan_id)
    return RedirectResponse(f"/recipes/{kept.recipe_id}/plans", status_code=303)
