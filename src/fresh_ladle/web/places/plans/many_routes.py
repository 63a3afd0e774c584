"""One target for many recipes: the closest plan of each is set aside for review, and nothing else
changes."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from fastapi import Form, Request
from fastapi.responses import HTMLResponse

from fresh_ladle.core.foods.nutrient import BY_ID as NUTRIENT
from fresh_ladle.core.nutrients.targets import target_status
from fresh_ladle.core.nutrients.wording import nutrient_amount
from fresh_ladle.core.plans.parsing import target_of
from fresh_ladle.core.plans.request import PlanRequest
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.core.whole.appraisal import Appraisal
from fresh_ladle.store.people.acting import initials_acting
from fresh_ladle.store.recipes.drafts import draft
from fresh_ladle.store.recipes.saved_plans import PlanMissing, save_plan, saved_plans
from fresh_ladle.store.recipes.shelf import shelf_page
from fresh_ladle.web.door.guarded import guarded_router
from fresh_ladle.web.shared.page import Work, load_work, page
from fresh_ladle.web.shared.shelf_query import Asked
from fresh_ladle.web.state import Workbench, workbench_of
from fresh_ladle.web.work.jobs import Job
from fresh_ladle.web.work.processes import SEARCHES
from fresh_ladle.web.work.searching import search_closest

router = guarded_router()
SECONDS_FOR_MANY = 6.0
MAX_AT_ONCE = 200
"""Recipes that are planned for in one go."""


@dataclass
class ManyRow:
    """One recipe in a search over many."""

    recipe_id: int
    title: str
    now: str
    outcome: str = "waiting"
    then: str = ""
    plan_id: int | None = None


@dataclass
class ManyRun:
    target: str
    rows: list[ManyRow]
    done: int = 0


@router.get("/plan-many", response_class=HTMLResponse)
def ask_many(request: Request, asked: Asked) -> HTMLResponse:
    """The recipes that the same words find on the Shelf, to be ticked."""
    workbench = workbench_of(request)
    workbench.refresh_shelf()
    with workbench.store() as connection:
        answer = shelf_page(connection, asked, 0, MAX_AT_ONCE)
    return _many_page(
        request,
        workbench,
        [(row.recipe_id, row.title) for row in answer.rows],
        left=answer.total - len(answer.rows),
    )


def _many_page(
    request: Request,
    workbench: Workbench,
    recipes: list[tuple[int, str]],
    job: Job | None = None,
    run: ManyRun | None = None,
    error: str = "",
    left: int = 0,
) -> HTMLResponse:
    with workbench.store() as connection:
        kept = (
            []
            if job
            else [(k, draft(connection, k.recipe_id).recipe.title) for k in saved_plans(connection)]
        )
    return page(
        request,
        "places/plans/many.html",
        422 if error else 200,
        recipes=recipes,
        left=left,
        schools=workbench.schools.values(),
        job=job,
        run=run,
        error=error,
        place="plans",
        kept=kept,
    )


@router.post("/plan-many", response_class=HTMLResponse)
def look_many(
    request: Request,
    target: Annotated[str, Form(max_length=200)] = "",
    school: Annotated[str, Form(max_length=40)] = "",
    max_changes: Annotated[int, Form(ge=1, le=12)] = 3,
    recipe: Annotated[list[int] | None, Form()] = None,
) -> HTMLResponse:
    """Looks for the closest plan of each chosen recipe; each is set aside for review, and nothing
    else changes."""
    workbench = workbench_of(request)
    with workbench.store() as connection:
        works = {r: load_work(workbench, connection, r) for r in (recipe or [])[:MAX_AT_ONCE]}
    names = {r: work.draft.recipe.title for r, work in works.items()}
    try:
        targets = tuple(target_of(t) for t in target.replace(";", ",").split(",") if t.strip())
        if not targets or not works:
            raise RecipeError("give a target such as sodium_mg<=140, and tick the recipes")
        asked = PlanRequest(
            targets,
            workbench.schools.get(school),
            max_changes=max_changes,
            seconds=SECONDS_FOR_MANY,
        )
    except RecipeError as error:
        return _many_page(request, workbench, list(names.items()), error=str(error))
    nutrient = targets[0].nutrient
    rows = [
        ManyRow(r, names[r], _figure(workbench.appraise(works[r].draft.recipe), nutrient))
        for r in works
    ]
    run = ManyRun(target, rows)

    def search(job: Job) -> object:
        for row in rows:
            if job.stop_asked.is_set():
                row.outcome = "not looked at"
                continue
            job.progress = f"{run.done} of {len(rows)} done; now {row.title}"
            _look_at(workbench, row, works[row.recipe_id], asked, job)
            run.done += 1
        return run

    job = workbench.jobs.start(search, run, in_line=True, of=initials_acting())
    return _many_page(request, workbench, list(names.items()), job, run)


def _figure(version: Appraisal, nutrient: str) -> str:
    return (
        f"{nutrient_amount(nutrient, version.totals.serving[nutrient].value)}"
        f" {NUTRIENT[nutrient].unit}"
    )


def _look_at(workbench: Workbench, row: ManyRow, work: Work, asked: PlanRequest, job: Job) -> None:
    """The closest plan of one recipe, set aside; or the words that say why there is none."""
    now = workbench.appraise(work.draft.recipe)
    if all(
        target_status(now.figure_for(t), t).probability >= asked.chance for t in asked.hard_targets
    ):
        row.outcome = "meets it already"
        return
    plan = SEARCHES.run(
        search_closest,
        workbench.stock_mark,
        now,
        work.original,
        asked,
        stop_asked=job.stop_asked.is_set,
    )
    if isinstance(plan, str):
        row.outcome = plan
        return
    nutrient = asked.targets[0].nutrient
    row.then, row.outcome = (
        _figure(plan.after, nutrient),
        f"{plan.why} {plan.drift.total:.1f} steps in all.",
    )
    with workbench.store() as connection:
        row.plan_id = save_plan(
            connection,
            row.recipe_id,
            work.draft.revision,
            plan.name,
            plan.why,
            plan.steps,
            asked.targets,
        )


@router.get("/plan-many/{job_id}", response_class=HTMLResponse)
def many_state(request: Request, job_id: int) -> HTMLResponse:
    job = workbench_of(request).jobs.get(job_id)
    if job is None or not isinstance(job.result, ManyRun):
        raise PlanMissing("that search is gone since the workbench was started again")
    return page(request, "places/plans/many_state.html", job=job, run=job.result)


@router.post("/plan-many/{job_id}/stop", response_class=HTMLResponse)
def stop_many(request: Request, job_id: int) -> HTMLResponse:
    job = workbench_of(request).jobs.get(job_id)
    if job is not None:
        job.stop_asked.set()
    return many_state(request, job_id)
