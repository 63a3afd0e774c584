"""Plans for one recipe: asked for, searched off the request, shown as they are found, taken whole
or in part."""

from __future__ import annotations

import sqlite3
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from datetime import timedelta
from typing import Annotated, Any

from fastapi import Form, Query, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from fresh_ladle.core.catalogue.school import SALT_SCHOOLS
from fresh_ladle.core.cautions.allergens import allergen_group, allergen_name
from fresh_ladle.core.foods.nutrient import BY_ID as NUTRIENT
from fresh_ladle.core.nutrients.wording import target_text
from fresh_ladle.core.plans.parsing import typed_target
from fresh_ladle.core.plans.plan import Plan, PlanStep, with_steps
from fresh_ladle.core.plans.refusal import Refusal
from fresh_ladle.core.plans.request import PlanRequest
from fresh_ladle.core.plans.search import hardest, holds_already
from fresh_ladle.core.plans.worked_out import plan_of_steps
from fresh_ladle.core.recipes.edits import Edit, EditKind
from fresh_ladle.core.recipes.recipe import Recipe, RecipeError
from fresh_ladle.core.whole.appraisal import Appraisal
from fresh_ladle.store import clock
from fresh_ladle.store.foods.own_foods import prices_per_100_g
from fresh_ladle.store.people.acting import initials_acting
from fresh_ladle.store.recipes.saved_plans import PlanMissing, SavedPlan, save_plan, saved_plans
from fresh_ladle.store.settings import settings
from fresh_ladle.web.door.guarded import guarded_router
from fresh_ladle.web.places.counter.response import edit_response
from fresh_ladle.web.places.plans.form import PlanFields, PlanForm, asked_by
from fresh_ladle.web.places.plans.view import (
    Group,
    Listed,
    PlanView,
    letter_of,
    pareto_view,
    plan_fingerprint,
    plan_rows,
    plan_view,
)
from fresh_ladle.web.shared.page import Work, load_work, page
from fresh_ladle.web.state import Workbench, workbench_of
from fresh_ladle.web.work.jobs import Job, TooMuchWaiting
from fresh_ladle.web.work.processes import SEARCHES
from fresh_ladle.web.work.searching import search_plans

router = guarded_router()
Fingerprint = Annotated[str, Form(max_length=20_000)]
"""The steps of a plan as the page shows them: by these it is known again."""
DAYS_BETWEEN_STAGES = 7
TOO_MUCH = "several searches of yours are waiting: stop one, or come back when they are done"
Ticked = Annotated[list[str] | None, Form(max_length=40)]
Picked = Annotated[list[str] | None, Query(max_length=40)]


@dataclass
class PlanRun:
    """One search under way for one recipe; its list grows as versions are found."""

    recipe_id: int
    revision: int
    now: Appraisal
    original: Appraisal
    request: PlanRequest
    listed: list[Listed] = field(default_factory=list)
    refusal: Refusal | None = None
    stopped_early: bool = False
    nothing_holds: bool = False
    """Whether what is told from now on is only near."""


# ---------------------------------------------------------------- asking


@router.get("/recipes/{recipe_id}/plans", response_class=HTMLResponse)
def ask(request: Request, recipe_id: int) -> HTMLResponse:
    workbench = workbench_of(request)
    with workbench.store() as connection:
        work = load_work(workbench, connection, recipe_id)
        kept, prices = saved_plans(connection, recipe_id), prices_per_100_g(connection)
    own = _own_request(workbench, work)
    try:
        job = _search(workbench, work, own, prices) if own is not None else None
    except TooMuchWaiting:
        return _ask_page(request, workbench, work, None, kept, error=TOO_MUCH)
    return _ask_page(request, workbench, work, None, kept, job)


def _own_request(workbench: Workbench, work: Work) -> PlanRequest | None:
    """What the recipe's own profile asks for; None while it has no profile."""
    if work.profile is None or not (work.profile.targets or work.profile.exclusions):
        return None
    school = workbench.schools.get(work.profile.school)
    return PlanRequest(work.profile.targets, school, exclude=work.profile.exclusions)


def _ask_page(
    request: Request,
    workbench: Workbench,
    work: Work,
    wanted: PlanFields | None,
    kept: list[SavedPlan],
    job: Job | None = None,
    error: str = "",
) -> HTMLResponse:
    """The form beside what was found. `wanted` None fills it from the recipe's own targets."""
    now = workbench.appraise(work.draft.recipe)
    if wanted is None:
        with workbench.store() as connection:
            usual = settings(connection).school
        wanted = (
            asked_by(work.profile, workbench.knowledge.pantry)
            if work.profile
            else PlanFields(school=usual)
        )
    return page(
        request,
        "places/plans/page.html",
        422 if error else 200,
        error=error,
        wanted=wanted,
        recipe=work.draft.recipe,
        recipe_id=work.draft.recipe_id,
        place="plans",
        allergens=[
            (group, allergen_name(group))
            for group in sorted(
                {allergen_group(a.id) for a in (*now.allergens, *now.may_contain)}
                | set(wanted.exclude)
            )
        ],
        schools=workbench.schools.values(),
        salt_schools=SALT_SCHOOLS,
        lines=[p for p in now.portions if p.known and not p.batch_line],
        kept=kept,
        profile=work.profile,
        **(_run_context(workbench, job, 0) if job else {"job": None}),
    )


@router.post("/recipes/{recipe_id}/plans", response_class=HTMLResponse)
def look(request: Request, recipe_id: int, form: Annotated[PlanForm, Form()]) -> HTMLResponse:
    """Starts the search; the page shows plans as they are found."""
    workbench = workbench_of(request)
    with workbench.store() as connection:
        work = load_work(workbench, connection, recipe_id)
        kept, prices = saved_plans(connection, recipe_id), prices_per_100_g(connection)
    try:
        wanted = form.request(workbench.schools, workbench.knowledge.pantry)
        if not wanted.targets and not wanted.exclude and wanted.school is None:
            raise RecipeError(
                "a plan needs a target, a school or something to leave out: give one first"
            )
    except RecipeError as error:
        return _ask_page(request, workbench, work, form.shown(), kept, error=str(error))
    return _ask_page(
        request, workbench, work, form.shown(), kept, _search(workbench, work, wanted, prices)
    )


@router.post("/recipes/{recipe_id}/plans/over", response_class=HTMLResponse)
def look_over(request: Request, recipe_id: int, form: Annotated[PlanForm, Form()]) -> HTMLResponse:
    """The search sliding over the Counter: with the recipe's own targets, or with those of an
    easing that was taken."""
    workbench = workbench_of(request)
    with workbench.store() as connection:
        work = load_work(workbench, connection, recipe_id)
        prices = prices_per_100_g(connection)
    own = _own_request(workbench, work)
    if own is None:
        raise RecipeError("choose targets first, under Targets: a plan needs something to meet")
    wanted = form.request(workbench.schools, workbench.knowledge.pantry) if form.more else own
    asked = [f"{NUTRIENT[t.nutrient].said} {target_text(t)}" for t in wanted.targets]
    context = _run_context(workbench, _search(workbench, work, wanted, prices), 0, over=True)
    return page(
        request,
        "places/plans/drawer.html",
        profile=work.profile,
        asked=asked,
        recipe_id=recipe_id,
        over=True,
        **context,
    )


def _search(
    workbench: Workbench, work: Work, wanted: PlanRequest, prices: Mapping[str, float]
) -> Job:
    """The search under way, its run filling as plans are found."""
    run = PlanRun(
        work.draft.recipe_id,
        work.draft.revision,
        workbench.appraise(work.draft.recipe),
        work.original,
        wanted,
    )

    def search(job: Job) -> object:
        job.progress = "looking for the plan closest in taste"
        found = SEARCHES.run(
            search_plans,
            workbench.stock_mark,
            run.now,
            run.original,
            wanted,
            dict(prices),
            said=lambda what: _take_in(job, run, what),
            stop_asked=job.stop_asked.is_set,
        )
        run.listed = [
            *(Listed(plan, Group.HOLDS) for plan in found.plans),
            *(Listed(plan, Group.BETWEEN) for plan in found.between),
        ]
        if found.refusal is not None:
            run.refusal, run.listed = found.refusal, _listed_of(found.refusal, run.now)
        run.stopped_early = found.timed_out or job.stop_asked.is_set()
        return run

    return workbench.jobs.start(search, run, in_line=True, of=initials_acting())


def _take_in(job: Job, run: PlanRun, told: Plan | str) -> None:
    """What a search tells meanwhile: a plan, the nearest where there is none, or what it does
    next."""
    if isinstance(told, str):
        job.progress = told
        run.nothing_holds = told.startswith("nothing holds")
    elif run.nothing_holds:
        run.listed.append(Listed(told, Group.NEAREST))
    else:
        run.listed.append(Listed(told, Group.HOLDS))
        job.progress = f"{len(run.listed)} found; looking for others"


def _listed_of(told: Refusal, now: Appraisal) -> list[Listed]:
    """What a refusal has to show: the nearest versions, those under another request, and a road in
    weekly stages."""
    first = clock.now().astimezone().date()
    before = [now, *(stage.after for stage in told.stages)]
    return [
        *(Listed(plan, Group.OTHERWISE) for plan in told.otherwise),
        *(Listed(plan, Group.NEAREST) for plan in told.nearest),
        *(Listed(easing.plan, Group.WOULD_DO, easing) for easing in told.relaxations),
        *(
            Listed(
                stage,
                Group.STAGE,
                before=before[n],
                on=first + timedelta(days=DAYS_BETWEEN_STAGES * n),
            )
            for n, stage in enumerate(told.stages)
        ),
    ]


# ---------------------------------------------------------------- looking


def _run_of(workbench: Workbench, job_id: int) -> tuple[Job, PlanRun]:
    job = workbench.jobs.get(job_id)
    if job is None or not isinstance(job.result, PlanRun):
        raise PlanMissing(
            "these plans are gone since the workbench was started again: look for them once more"
        )
    return job, job.result


def _run_context(workbench: Workbench, job: Job, shown: int, over: bool = False) -> dict[str, Any]:
    # Asked before the list is read: what is called done is then all there.
    done, run = job.done, job.result
    assert isinstance(run, PlanRun)
    with workbench.store() as connection:
        prices = prices_per_100_g(connection)
    listed, targets = list(run.listed), run.request.targets
    view: PlanView | None = None
    one: Listed | None = None
    if listed:
        shown = min(shown, len(listed) - 1)
        one = listed[shown]
        view = plan_view(
            one.plan,
            shown,
            letter_of(listed, shown),
            one.before or run.now,
            one.before or run.original,
            workbench.knowledge,
            prices,
            run.request.exclude,
        )
    return {
        "job": job,
        "done": done,
        "run": run,
        "rows": plan_rows(listed, run.now, targets),
        "shown": view,
        "takeable": one is not None and (one.before is None or one.before is run.now),
        "picture": pareto_view(
            listed, run.now, run.original, targets, job.id, "&over=true" if over else ""
        ),
        "hard": _hard_name(run),
        "idle": holds_already(run.now, run.request),
        "typed_target": typed_target,
    }


def _hard_name(run: PlanRun) -> str:
    hard = hardest(run.now, run.request.targets)
    return NUTRIENT[hard.nutrient].said if hard else ""


@router.get("/plans/{job_id}", response_class=HTMLResponse)
def state(request: Request, job_id: int, shown: int = 0, over: bool = False) -> HTMLResponse:
    """The plans as far as they are found, one of them open; `over` when they slide over the
    Counter."""
    workbench = workbench_of(request)
    job, run = _run_of(workbench, job_id)
    return page(
        request,
        "places/plans/state.html",
        recipe_id=run.recipe_id,
        over=over,
        **_run_context(workbench, job, max(0, shown), over),
    )


@router.get("/plans/{job_id}/part", response_class=HTMLResponse)
def part(request: Request, job_id: int, fingerprint: str = "", step: Picked = None) -> HTMLResponse:
    """What the ticked steps of a plan do together: figures, taste, weight and limits."""
    workbench = workbench_of(request)
    _, run = _run_of(workbench, job_id)
    listed = next(
        (one for one in run.listed if plan_fingerprint(one.plan.steps) == fingerprint), None
    )
    if listed is None:
        raise PlanMissing("there is no such plan")
    whole, now, original = listed.plan, listed.before or run.now, listed.before or run.original
    some = plan_of_steps(
        whole.name,
        "",
        whole.steps,
        now,
        original,
        whole.meets,
        workbench.knowledge,
        whole.lever,
        step or (),
    )
    with workbench.store() as connection:
        prices = prices_per_100_g(connection)
    view = plan_view(some, 0, "", now, original, workbench.knowledge, prices, run.request.exclude)
    return page(request, "places/plans/plan_sum.html", p=view)


@router.post("/plans/{job_id}/stop", response_class=HTMLResponse)
def stop(request: Request, job_id: int, over: bool = False) -> HTMLResponse:
    job, _ = _run_of(workbench_of(request), job_id)
    job.stop_asked.set()
    return state(request, job_id, over=over)


@router.post("/plans/{job_id}/take")
def take(
    request: Request, job_id: int, fingerprint: Fingerprint = "", step: Ticked = None
) -> Response:
    """Takes a plan into the draft, or only the ticked steps of it, as one edit that can be
    undone."""
    _, run = _run_of(workbench_of(request), job_id)
    plan = _shown_plan(run, fingerprint)
    return take_steps(request, run.recipe_id, run.revision, plan.name, plan.steps, step or [])


def _shown_plan(run: PlanRun, fingerprint: str) -> Plan:
    """The plan a page shows, known by its steps: while others were still being found its place may
    have changed."""
    found = next(
        (one.plan for one in run.listed if plan_fingerprint(one.plan.steps) == fingerprint), None
    )
    if found is None:
        raise PlanMissing("there is no such plan")
    return found


def take_steps(
    request: Request,
    recipe_id: int,
    revision: int,
    name: str,
    steps: tuple[PlanStep, ...],
    only: list[str],
    also: Callable[[sqlite3.Connection], None] = lambda _: None,
) -> Response:
    """Steps of a plan taken into the draft as one edit; those of `only`, by their ids, with what
    `also` does."""
    known = {step.id for step in steps}
    named = Edit(EditKind.PLAN, {"name": name, "taken": len(set(only)), "steps": len(known)})

    def change(recipe: Recipe) -> Recipe:
        if not only or not set(only) <= known:
            raise RecipeError("tick at least one step of the plan")
        return with_steps(recipe, steps, only)

    return edit_response(request, recipe_id, revision, change, named, also=also)


@router.post("/plans/{job_id}/keep")
def save_for_review(request: Request, job_id: int, fingerprint: Fingerprint = "") -> Response:
    """Sets a plan aside for review."""
    workbench = workbench_of(request)
    _, run = _run_of(workbench, job_id)
    plan = _shown_plan(run, fingerprint)
    with workbench.store() as connection:
        save_plan(
            connection,
            run.recipe_id,
            run.revision,
            plan.name,
            plan.why,
            plan.steps,
            run.request.targets,
        )
    if request.headers.get("HX-Request"):
        return page(
            request,
            "shared/notice.html",
            title="Set aside",
            text="The plan waits for review under Plans.",
        )
    return RedirectResponse(f"/recipes/{run.recipe_id}/plans", status_code=303)
