"""Tasting: a round planned, served blind, answered by seat, closed, and read. A ballot page never learns the key."""

from __future__ import annotations

from secrets import randbelow
from typing import Annotated

from fastapi import APIRouter, Form, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from fresh_ladle.core.balance import drift_between
from fresh_ladle.core.cautions.allergens import allergens, may_contain
from fresh_ladle.core.flavor.parameters import Setting
from fresh_ladle.core.recipes.dishes import BY_ID as KINDS
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.core.tasting.difference import Question
from fresh_ladle.core.tasting.liking import JAR_WORDS, LIKING_WORDS, checked_scores
from fresh_ladle.core.tasting.round import SAMPLES, served, simulated_answers
from fresh_ladle.store.drafts import draft
from fresh_ladle.store.recipes import versions
from fresh_ladle.store.tastings import (
    Sample,
    Tasting,
    add_ballot,
    add_scores,
    add_simulated,
    agree,
    close_round,
    open_round,
    plan_tasting,
    seat_of_key,
    tasting,
    tastings,
)
from fresh_ladle.web.forms.typed import number_typed
from fresh_ladle.web.routes.common import load_work, page
from fresh_ladle.web.state import Workbench, workbench_of
from fresh_ladle.web.views.tastings import (
    ATTRIBUTES,
    ResultView,
    ballot_words,
    foretold_words,
    poured,
    question_words,
    result_view,
    standing_words,
)

router = APIRouter()
DRAFT = "draft"
USUAL_TASTERS, MOST_ASKED = "12", 6


@router.get("/recipes/{recipe_id}/tastings", response_class=HTMLResponse)
def of_recipe(request: Request, recipe_id: int) -> HTMLResponse:
    """The tastings of a recipe, and the next one to plan."""
    return _list_page(request, workbench_of(request), recipe_id)


def _list_page(
    request: Request, workbench: Workbench, recipe_id: int, error: str = "", typed: dict[str, str] | None = None
) -> HTMLResponse:
    with workbench.store() as connection:
        work = load_work(workbench, connection, recipe_id)
        kept, found = versions(connection, recipe_id), tastings(connection, recipe_id)
    choices = [(f"{v.number}", f"version {v.number}, {v.name}") for v in kept]
    choices += [(DRAFT, "the draft as it stands")] if work.draft.changed else []
    last = choices[-1][0] if len(choices) > 1 else ""
    usual = {
        "a": "1",
        "b": last,
        "question": "TRIANGLE",
        "attribute": "salt",
        "tasters": USUAL_TASTERS,
        "expected": "A",
    }
    typed = {**usual, **(typed or {})}
    return page(
        request,
        "tastings.html",
        422 if error else 200,
        recipe=work.draft.recipe,
        recipe_id=recipe_id,
        choices=choices,
        typed=typed,
        attributes=ATTRIBUTES,
        found=[(t, question_words(t), standing_words(t)) for t in found],
        shows=_foretold(typed["question"], typed["tasters"]),
        error=error,
        place="tastings",
    )


def _foretold(question: str, tasters: str) -> list[str]:
    """What a panel can show, as far as the form says how large it is."""
    try:
        count = int(number_typed(tasters, "tasters"))
    except ValueError:
        return []
    return foretold_words(Question[question], count) if 1 <= count <= 300 and question in Question.__members__ else []


@router.post("/recipes/{recipe_id}/tastings/foretell", response_class=HTMLResponse)
def foretell(
    request: Request,
    recipe_id: int,
    question: Annotated[str, Form(max_length=20)] = "TRIANGLE",
    tasters: Annotated[str, Form(max_length=20)] = "",
) -> HTMLResponse:
    """Says what this panel can show, before anyone tastes."""
    return page(request, "tasting_foretold.html", shows=_foretold(question, tasters))


@router.post("/recipes/{recipe_id}/tastings")
def plan(
    request: Request,
    recipe_id: int,
    a: Annotated[str, Form(max_length=20)] = "",
    b: Annotated[str, Form(max_length=20)] = "",
    question: Annotated[str, Form(max_length=20)] = "TRIANGLE",
    attribute: Annotated[str, Form(max_length=20)] = "salt",
    asked: Annotated[list[str] | None, Form(max_length=12)] = None,
    expected: Annotated[str, Form(max_length=1)] = "A",
    tasters: Annotated[str, Form(max_length=20)] = USUAL_TASTERS,
    note: Annotated[str, Form(max_length=300)] = "",
) -> Response:
    """Plans a round of two versions: codes, orders and seats are drawn now and kept."""
    workbench = workbench_of(request)
    typed = {"a": a, "b": b, "question": question, "attribute": attribute, "tasters": tasters, "expected": expected}
    try:
        if question not in Question.__members__ or attribute not in ATTRIBUTES or expected not in SAMPLES:
            raise RecipeError("choose a question from the list")
        about = [x for x in ATTRIBUTES if x in (asked or ())]
        if len(about) > MOST_ASKED:
            raise RecipeError(f"at most {MOST_ASKED} tastes can be asked about: more would tire the panel")
        samples = [
            _sample(workbench, recipe_id, letter, typed_) for letter, typed_ in zip(SAMPLES, (a, b), strict=True)
        ]
        if samples[0].recipe == samples[1].recipe:
            raise RecipeError("both are the same version: choose two that differ")
        count = int(number_typed(tasters, "tasters"))
        cups = served(Question[question], count, randbelow(2**31))
    except ValueError as error:
        return _list_page(request, workbench, recipe_id, str(error), typed)
    with workbench.store() as connection:
        said = ",".join(about) if Question[question] is Question.LIKING else attribute
        planned = plan_tasting(connection, Question[question], said, expected, samples, cups, note.strip())
    return RedirectResponse(f"/tastings/{planned}", status_code=303)


def _sample(workbench: Workbench, recipe_id: int, letter: str, typed: str) -> Sample:
    with workbench.store() as connection:
        if typed == DRAFT:
            return Sample(letter, recipe_id, None, "the draft", draft(connection, recipe_id).recipe)
        chosen = next((v for v in versions(connection, recipe_id) if f"{v.number}" == typed), None)
    if chosen is None:
        raise RecipeError("choose two versions: keep one at the Counter first where there is only the original")
    return Sample(letter, recipe_id, chosen.number, f"version {chosen.number}, {chosen.name}", chosen.recipe)


@router.get("/tastings/{tasting_id}", response_class=HTMLResponse)
def round_page(request: Request, tasting_id: int) -> HTMLResponse:
    """What is poured for whom, how many ballots are in, and after it is closed what they say."""
    return _round_page(request, workbench_of(request), tasting_id)


def _round_page(request: Request, workbench: Workbench, tasting_id: int, error: str = "") -> HTMLResponse:
    with workbench.store() as connection:
        now = tasting(connection, tasting_id)
    return page(
        request,
        "tasting.html",
        422 if error else 200,
        t=now,
        asks=question_words(now),
        standing=standing_words(now),
        seats=poured(now),
        shows=foretold_words(now.question, len(now.seats)),
        contains=_contains(workbench, now),
        result=_result(now),
        recipe_id=now.samples[0].recipe_id,
        error=error,
        place="tastings",
    )


def _result(now: Tasting) -> ResultView | None:
    """What a closed round says; None while it is not closed, or where too little came in to be read."""
    if now.state != "closed":
        return None
    try:
        return result_view(now)
    except ValueError:
        return None


def _contains(workbench: Workbench, now: Tasting) -> list[str]:
    """Allergens of all samples together: what a taster agrees to before the first cup."""
    foods = [
        p.food
        for s in now.samples
        for p in workbench.appraise(s.recipe).portions
        if p.food is not None and p.line.eaten > 0
    ]
    return [*(a.name for a in allergens(foods)), *(f"perhaps {a.name}" for a in may_contain(foods))]


@router.get("/tastings/{tasting_id}/ballots", response_class=HTMLResponse)
def printed_ballots(request: Request, tasting_id: int) -> HTMLResponse:
    """A ballot for each seat to print, and nothing on it of what is in the cups."""
    workbench = workbench_of(request)
    with workbench.store() as connection:
        now = tasting(connection, tasting_id)
    codes = [(s.number, [c.code for c in s.cups]) for s in now.seats]
    return page(
        request,
        "tasting_ballots.html",
        asks=ballot_words(now),
        kind=KINDS[now.samples[0].recipe.kind].name,
        codes=codes,
        contains=_contains(workbench, now),
        tasting_id=tasting_id,
    )


@router.post("/tastings/{tasting_id}/{step}")
def move_on(request: Request, tasting_id: int, step: str) -> Response:
    """Opens or closes the round, or fills it by a made-up panel for practice."""
    workbench = workbench_of(request)
    try:
        with workbench.store() as connection:
            if step == "open":
                open_round(connection, tasting_id)
            elif step == "close":
                close_round(connection, tasting_id)
            elif step == "simulate":
                now = tasting(connection, tasting_id)
                add_simulated(connection, tasting_id, _simulated(workbench, now))
            else:
                raise RecipeError("a round is opened, closed or simulated")
    except RecipeError as error:
        return _round_page(request, workbench, tasting_id, str(error))
    return RedirectResponse(f"/tastings/{tasting_id}", status_code=303)


def _simulated(workbench: Workbench, now: Tasting) -> dict[int, int]:
    """Answers of a made-up panel, from how far apart the flavor model holds the samples."""
    if not now.question.forced:
        raise RecipeError("a made-up panel answers questions of difference and preference; liking is for people")
    a, b = (workbench.appraise(s.recipe) for s in now.samples)
    drift = drift_between(b, a, Setting.SIDE_BY_SIDE)
    steps = drift.steps[now.attribute] if now.question is Question.PAIR else drift.total
    return simulated_answers(now.question, {s.number: s.cups for s in now.seats}, steps, randbelow(2**31))


@router.post("/tastings/{tasting_id}/enter/{seat}")
def enter(request: Request, tasting_id: int, seat: int, code: Annotated[str, Form(max_length=6)] = "") -> Response:
    """A printed ballot is typed in by its seat and the code that was marked."""
    workbench = workbench_of(request)
    try:
        with workbench.store() as connection:
            new = add_ballot(connection, tasting_id, seat, int(number_typed(code, "code")))
    except ValueError as error:
        return _round_page(request, workbench, tasting_id, str(error))
    if not new:
        return _round_page(request, workbench, tasting_id, f"seat {seat} has answered already: the first ballot counts")
    return RedirectResponse(f"/tastings/{tasting_id}", status_code=303)


@router.get("/ballot/{key}", response_class=HTMLResponse)
def ballot(request: Request, key: str) -> HTMLResponse:
    """One seat's page at the table: codes alone."""
    return _ballot_page(request, workbench_of(request), key)


def _ballot_page(request: Request, workbench: Workbench, key: str, error: str = "") -> HTMLResponse:
    with workbench.store() as connection:
        now, seat = seat_of_key(connection, key)
    return page(
        request,
        "ballot.html",
        422 if error else 200,
        key=key,
        seat=seat.number,
        state=now.state,
        agreed=seat.agreed,
        done=seat.done,
        codes=[c.code for c in seat.cups],
        scored=not now.question.forced,
        cup=seat.next_cup,
        liking_words=LIKING_WORDS,
        attributes=now.attributes,
        jar_words=JAR_WORDS,
        asks=ballot_words(now),
        contains=_contains(workbench, now),
        error=error,
    )


@router.post("/ballot/{key}/agree")
def agree_to_taste(request: Request, key: str) -> Response:
    with workbench_of(request).store() as connection:
        now, seat = seat_of_key(connection, key)
        agree(connection, now.id, seat.number)
    return RedirectResponse(f"/ballot/{key}", status_code=303)


@router.post("/ballot/{key}/score")
async def score(request: Request, key: str) -> Response:
    """What the seat says of one cup; then the next cup, or thanks."""
    form = await request.form(max_fields=20)
    workbench = workbench_of(request)
    said = {name: int(value) for name, value in form.items() if isinstance(value, str) and value.isdecimal()}
    try:
        with workbench.store() as connection:
            now, seat = seat_of_key(connection, key)
            scores = checked_scores(said, now.attributes)
            add_scores(connection, now.id, seat.number, said.get("cup", 0), scores)
    except ValueError as error:
        return _ballot_page(request, workbench, key, str(error))
    return RedirectResponse(f"/ballot/{key}", status_code=303)


@router.post("/ballot/{key}")
def answer(request: Request, key: str, code: Annotated[int, Form()]) -> Response:
    """The seat's answer; the first one counts, and a form sent twice changes nothing."""
    workbench = workbench_of(request)
    try:
        with workbench.store() as connection:
            now, seat = seat_of_key(connection, key)
            add_ballot(connection, now.id, seat.number, code)
    except RecipeError as error:
        return _ballot_page(request, workbench, key, str(error))
    return RedirectResponse(f"/ballot/{key}", status_code=303)
