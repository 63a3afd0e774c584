"""Compose: a dish from roles or from what is in the house, searched off the request, taken as a
recipe."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from typing import Annotated, Any

from fastapi import Form, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response
from pydantic import ValidationError

from fresh_ladle.core.amounts.batches import share_of
from fresh_ladle.core.amounts.quantity import BadQuantity
from fresh_ladle.core.compose.compose import Composition
from fresh_ladle.core.compose.house import Held, House
from fresh_ladle.core.compose.leftover import leftover
from fresh_ladle.core.compose.options import kinds_possible
from fresh_ladle.core.compose.proposal import Proposal, role_words
from fresh_ladle.core.compose.request import ComposeRequest
from fresh_ladle.core.recipes.dishes import BY_ID as KIND_BY_ID
from fresh_ladle.core.recipes.dishes import KINDS
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.core.whole.appraisal import check_known
from fresh_ladle.store.clean_rows import clean_column
from fresh_ladle.store.foods.own_foods import prices_per_100_g
from fresh_ladle.store.people.acting import initials_acting
from fresh_ladle.store.recipes.document import from_document
from fresh_ladle.store.recipes.drafts import create_recipe
from fresh_ladle.store.recipes.profiles import all_profiles, profile
from fresh_ladle.store.recipes.recipes import versions
from fresh_ladle.store.recipes.shelf import Order, ShelfQuery, shelf_page
from fresh_ladle.store.settings import settings
from fresh_ladle.web.door.guarded import guarded_router
from fresh_ladle.web.places.compose.form import ComposeFields, ComposeForm
from fresh_ladle.web.places.compose.view import proposal_view, role_fields, unmet_words
from fresh_ladle.web.shared.limits import limit_rows
from fresh_ladle.web.shared.page import chosen_targets, page
from fresh_ladle.web.shared.typed import row_id
from fresh_ladle.web.state import Workbench, workbench_of
from fresh_ladle.web.work.jobs import Job
from fresh_ladle.web.work.processes import SEARCHES
from fresh_ladle.web.work.searching import search_dishes

router = guarded_router("/compose")
SAMPLE = (
    "2 leeks, 1 can white beans, some chicory, the end of a Parmesan (must go today), olive oil,"
    " cider vinegar"
)
MAX_DOCUMENT = 60_000
MAX_DISHES = 200
"""Dishes of which something may be left, offered by name."""


@dataclass
class ComposeRun:
    """One search under way; `listed` grows as proposals are found."""

    form: ComposeFields
    house: House
    request: ComposeRequest
    listed: list[Proposal] = field(default_factory=list)
    composition: Composition | None = None


@router.get("", response_class=HTMLResponse)
def ask(request: Request, kind: str = "", sample: bool = False, profile: str = "") -> HTMLResponse:
    """The form, empty, for a kind of dish, with the limits of a profile where one is named, or
    filled with a sample."""
    fields = ComposeFields(kind=kind if kind in KIND_BY_ID else "vinaigrette")
    if sample:
        fields = ComposeFields(kind="bean-salad", house=SAMPLE)
    return _ask_page(request, _with_profile(request, fields, profile))


def _with_profile(request: Request, fields: ComposeFields, profile_id: str) -> ComposeFields:
    with workbench_of(request).store() as connection:
        chosen = profile(connection, row_id(profile_id))
    if chosen is None:
        return fields
    return ComposeFields(
        fields.kind,
        fields.servings,
        house=fields.house,
        limits=limit_rows(chosen.targets)[0],
        school=chosen.school,
    )


def _ask_page(
    request: Request,
    fields: ComposeFields,
    house: House | None = None,
    job: Job | None = None,
    error: str = "",
) -> HTMLResponse:
    workbench = workbench_of(request)
    with workbench.store() as connection:
        profiles = all_profiles(connection)
        dishes = shelf_page(connection, ShelfQuery(order=Order.NAME), 0, MAX_DISHES).rows
    formula = workbench.knowledge.composing.formulas.get(fields.kind)
    return page(
        request,
        "places/compose/page.html",
        422 if error else 200,
        error=error,
        wanted=fields,
        kinds=KINDS,
        schools=workbench.schools.values(),
        profiles=profiles,
        dishes=[(row.recipe_id, row.title) for row in dishes],
        roles=role_fields(formula, dict(fields.roles), workbench.knowledge) if formula else [],
        place="compose",
        **_house_context(workbench, house, fields),
        **(_run_context(job) if job else {"job": None, "run": None}),
    )


def _house_context(
    workbench: Workbench, house: House | None, fields: ComposeFields
) -> dict[str, Any]:
    return {
        "house": house,
        "possible": (
            [(k, KIND_BY_ID[k].name) for k in kinds_possible(house, workbench.knowledge)]
            if house
            else []
        ),
        "kind": fields.kind,
    }


@router.post("/read", response_class=HTMLResponse)
def read(request: Request, form: Annotated[ComposeForm, Form()]) -> HTMLResponse:
    """What was understood of the list while it is typed."""
    workbench = workbench_of(request)
    house = form.read_house(workbench.reader, _region(workbench))
    return page(
        request, "places/compose/house.html", **_house_context(workbench, house, form.shown())
    )


@router.post("/roles", response_class=HTMLResponse)
def roles(request: Request, form: Annotated[ComposeForm, Form()]) -> HTMLResponse:
    """The roles of another kind, with what was typed on those that it shares."""
    workbench, fields = workbench_of(request), form.shown()
    formula = workbench.knowledge.composing.formulas.get(fields.kind)
    if formula is None:
        raise RecipeError(f"no kind of dish is called {fields.kind!r}")
    shown = role_fields(formula, dict(fields.roles), workbench.knowledge)
    return page(request, "places/compose/roles.html", roles=shown)


@router.post("", response_class=HTMLResponse)
def look(request: Request, form: Annotated[ComposeForm, Form()]) -> Response:
    """Starts the search; the page it leads to shows proposals as they are found."""
    workbench = workbench_of(request)
    with workbench.store() as connection:
        region, prices = settings(connection).region, prices_per_100_g(connection)
    house: House | None = None
    try:
        house = form.read_house(workbench.reader, region)
        house = replace(house, held=(*_left(workbench, form), *house.held))
        wanted = form.request(workbench.schools, workbench.knowledge.pantry, region)
    except (RecipeError, BadQuantity) as error:
        return _ask_page(request, form.shown(), house, error=str(error))
    run = ComposeRun(form.shown(), house, wanted)

    def search(job: Job) -> object:
        job.progress = "looking for what goes together"

        def found(proposal: Proposal) -> None:
            run.listed.append(proposal)
            job.progress = f"{len(run.listed)} found; looking for others"

        run.composition = SEARCHES.run(
            search_dishes,
            workbench.stock_mark,
            wanted,
            run.house,
            dict(prices),
            said=found,
            stop_asked=job.stop_asked.is_set,
        )
        return run

    job = workbench.jobs.start(search, run, in_line=True, of=initials_acting())
    return RedirectResponse(f"/compose/{job.id}", status_code=303)


def _left(workbench: Workbench, form: ComposeForm) -> list[Held]:
    """What is left of dishes, each as its newest version stands. Raises BadQuantity and
    RecipeError."""
    found = []
    for recipe_id, part in form.left:
        with workbench.store() as connection:
            newest = versions(connection, recipe_id)
        if not newest:
            raise RecipeError("choose the dish that is left from the list")
        version = workbench.appraise(newest[-1].recipe)
        share = share_of(part, version.totals.batch_grams.value)
        found.append(leftover(version, f"{recipe_id}@{newest[-1].number}", share))
    return found


@router.get("/{job_id}", response_class=HTMLResponse)
def state(request: Request, job_id: int) -> HTMLResponse:
    """The form as it was sent, beside the proposals as far as they are found."""
    workbench = workbench_of(request)
    job = workbench.jobs.get(job_id)
    if job is None or not isinstance(job.result, ComposeRun):
        return _ask_page(
            request,
            ComposeFields(),
            error="these proposals are gone since the workbench was started again",
        )
    if request.headers.get("HX-Request"):
        return page(request, "places/compose/state.html", **_run_context(job))
    return _ask_page(request, job.result.form, job.result.house, job)


@router.post("/{job_id}/stop", response_class=HTMLResponse)
def stop(request: Request, job_id: int) -> HTMLResponse:
    if (job := workbench_of(request).jobs.get(job_id)) is not None:
        job.stop_asked.set()
    return state(request, job_id)


def _run_context(job: Job) -> dict[str, Any]:
    # Asked before the list is read: what is called done is then all there.
    done, run = job.done, job.result
    assert isinstance(run, ComposeRun)
    found = run.composition
    chance = run.request.chance
    listed = list(run.listed)
    extra = found.would_do if found else None
    return {
        "job": job,
        "done": done,
        "run": run,
        "shown": [proposal_view(p, n, chance) for n, p in enumerate(listed)],
        "would_do": proposal_view(extra, len(listed), chance) if extra else None,
        "servings_made": found.request.servings if found else run.request.servings,
        "open_roles": [role_words(r) for r in found.open_roles] if found else [],
        "unmet": (
            unmet_words(listed, run.request.targets)
            if found and not found.proposals and listed
            else ""
        ),
    }


@router.post("/take")
def take(
    request: Request,
    document: Annotated[str, Form(max_length=MAX_DOCUMENT)],
    profile_id: Annotated[str, Form(max_length=20)] = "",
) -> Response:
    """A proposal becomes a recipe like any other."""
    workbench = workbench_of(request)
    try:
        recipe = from_document(str(clean_column(document)))
        check_known(recipe, workbench.knowledge)
    except ValidationError:
        raise RecipeError("the proposal did not arrive whole: look for it once more") from None
    with workbench.store() as connection:
        chosen = chosen_targets(request, connection, profile_id)
        recipe_id = create_recipe(connection, recipe, chosen, "as composed", workbench.pin(recipe))
    return RedirectResponse(f"/recipes/{recipe_id}", status_code=303)


def _region(workbench: Workbench) -> Any:
    with workbench.store() as connection:
        return settings(connection).region
