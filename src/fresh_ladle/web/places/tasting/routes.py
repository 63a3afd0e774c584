"""Tasting: a round planned, served blind, answered by seat, closed, and read. A ballot page never
learns the key."""

from __future__ import annotations

from itertools import combinations
from secrets import randbelow
from typing import Annotated

from fastapi import Form, Request, UploadFile
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.core.tasting.designs import MAX_TASTERS
from fresh_ladle.core.tasting.difference import Question
from fresh_ladle.core.tasting.liking import JAR_WORDS, LIKED, RANK, checked_ranks
from fresh_ladle.core.tasting.round import SAMPLES, served
from fresh_ladle.formats.ballot_sheet import ballots_csv, read_marked
from fresh_ladle.formats.limits import MAX_FILE_BYTES
from fresh_ladle.store.recipes.drafts import draft
from fresh_ladle.store.recipes.recipes import versions
from fresh_ladle.store.short_links import ballot_code
from fresh_ladle.store.tastings.tastings import (
    Sample,
    Tasting,
    add_ballot,
    add_sheet,
    add_simulated,
    close_round,
    open_round,
    plan_tasting,
    see_pouring,
    take_seat,
    tasting,
    tastings,
    who_saw_pouring,
)
from fresh_ladle.web.door.guarded import guarded_router
from fresh_ladle.web.places.tasting.view import (
    ATTRIBUTES,
    ResultView,
    answer_rows,
    columns_of,
    compared_words,
    contains,
    foretold_words,
    lettered_words,
    poured,
    pouring_words,
    question_words,
    result_view,
    seat_states,
    simulated_panel,
    standing_words,
)
from fresh_ladle.web.shared.page import load_work, page
from fresh_ladle.web.shared.phone import phone_link
from fresh_ladle.web.shared.typed import whole_number
from fresh_ladle.web.state import Workbench, workbench_of

router = guarded_router()
DRAFT = "draft"
MOST_CODE = 999
USUAL_TASTERS, MOST_ASKED = "12", 6
HOT_CELSIUS, MOST_HOT = 45, 3


@router.get("/recipes/{recipe_id}/tastings", response_class=HTMLResponse)
def of_recipe(request: Request, recipe_id: int) -> HTMLResponse:
    """The tastings of a recipe, and the next one to plan; what an address chooses is chosen
    already."""
    chosen = {
        name: request.query_params[name]
        for name in ("a", "b", "c", "question")
        if name in request.query_params
    }
    return _list_page(request, workbench_of(request), recipe_id, typed=chosen)


def _list_page(
    request: Request,
    workbench: Workbench,
    recipe_id: int,
    error: str = "",
    typed: dict[str, str] | None = None,
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
        "c": "",
        "d": "",
        "question": "TRIANGLE",
        "attribute": "salt",
        "tasters": USUAL_TASTERS,
        "expected": "A",
    }
    typed = {**usual, **(typed or {})}
    return page(
        request,
        "places/tasting/page.html",
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
        count = whole_number(tasters, "tasters", 1, MAX_TASTERS)
    except ValueError:
        return []
    return foretold_words(Question[question], count) if question in Question.__members__ else []


@router.post("/recipes/{recipe_id}/tastings/foretell", response_class=HTMLResponse)
def foretell(
    request: Request,
    recipe_id: int,
    question: Annotated[str, Form(max_length=20)] = "TRIANGLE",
    tasters: Annotated[str, Form(max_length=20)] = "",
) -> HTMLResponse:
    """Says what this panel can show, before anyone tastes."""
    return page(request, "places/tasting/foretold.html", shows=_foretold(question, tasters))


@router.post("/recipes/{recipe_id}/tastings")
def plan(
    request: Request,
    recipe_id: int,
    a: Annotated[str, Form(max_length=20)] = "",
    b: Annotated[str, Form(max_length=20)] = "",
    c: Annotated[str, Form(max_length=20)] = "",
    d: Annotated[str, Form(max_length=20)] = "",
    question: Annotated[str, Form(max_length=20)] = "TRIANGLE",
    attribute: Annotated[str, Form(max_length=20)] = "salt",
    asked: Annotated[list[str] | None, Form(max_length=12)] = None,
    expected: Annotated[str, Form(max_length=1)] = "A",
    tasters: Annotated[str, Form(max_length=20)] = USUAL_TASTERS,
    note: Annotated[str, Form(max_length=300)] = "",
) -> Response:
    """Plans a round of two to four versions: codes, orders and seats are drawn now and kept."""
    workbench = workbench_of(request)
    chosen = [a, b, *(x for x in (c, d) if x)]
    typed = {"a": a, "b": b, "c": c, "d": d, "question": question, "attribute": attribute}
    typed |= {"tasters": tasters, "expected": expected}
    try:
        if (
            question not in Question.__members__
            or attribute not in ATTRIBUTES
            or expected not in SAMPLES
        ):
            raise RecipeError("choose a question from the list")
        about = [x for x in ATTRIBUTES if x in (asked or ())]
        if len(about) > MOST_ASKED:
            raise RecipeError(
                f"at most {MOST_ASKED} tastes can be asked about: more would tire the panel"
            )
        samples = [
            _sample(workbench, recipe_id, *one) for one in zip(SAMPLES, chosen, strict=False)
        ]
        if any(x.recipe == y.recipe for x, y in combinations(samples, 2)):
            raise RecipeError("the same version stands there twice: choose versions that differ")
        if sum((s.recipe.served_celsius or 0) >= HOT_CELSIUS for s in samples) > MOST_HOT:
            raise RecipeError(
                f"at most {MOST_HOT} hot samples: they cool while the others are tasted"
            )
        count = whole_number(tasters, "tasters", 1, MAX_TASTERS)
        cups = served(Question[question], count, randbelow(2**31), len(samples))
    except ValueError as error:
        return _list_page(request, workbench, recipe_id, str(error), typed)
    with workbench.store() as connection:
        said = ",".join(about) if Question[question] is Question.LIKING else attribute
        planned = plan_tasting(
            connection, Question[question], said, expected, samples, cups, note.strip()
        )
    return RedirectResponse(f"/tastings/{planned}", status_code=303)


def _sample(workbench: Workbench, recipe_id: int, letter: str, typed: str) -> Sample:
    with workbench.store() as connection:
        if typed == DRAFT:
            return Sample(letter, recipe_id, None, "the draft", draft(connection, recipe_id).recipe)
        chosen = next((v for v in versions(connection, recipe_id) if f"{v.number}" == typed), None)
    if chosen is None:
        raise RecipeError(
            "choose two versions: keep one at the Counter first where there is only the original"
        )
    return Sample(
        letter, recipe_id, chosen.number, f"version {chosen.number}, {chosen.name}", chosen.recipe
    )


@router.get("/tastings/{tasting_id}", response_class=HTMLResponse)
def round_page(request: Request, tasting_id: int) -> HTMLResponse:
    """What is poured for whom, how many ballots are in, and after it is closed what they say."""
    return _round_page(request, workbench_of(request), tasting_id)


def _round_page(
    request: Request, workbench: Workbench, tasting_id: int, error: str = ""
) -> HTMLResponse:
    with workbench.store() as connection:
        now = tasting(connection, tasting_id)
    return page(
        request,
        "places/tasting/tasting.html",
        422 if error else 200,
        t=now,
        asks=question_words(now),
        compared=compared_words(now),
        standing=standing_words(now),
        seats=seat_states(now),
        poured=poured(now) if now.state == "closed" else [],
        shows=foretold_words(now.question, len(now.seats)),
        contains=contains(workbench, now),
        sheet_heads=",".join(("seat", "cup", *columns_of(now))),
        result=_result(now),
        recipe_id=now.samples[0].recipe_id,
        error=error,
        place="tastings",
    )


@router.get("/tastings/{tasting_id}/pouring", response_class=HTMLResponse)
def pouring(request: Request, tasting_id: int) -> HTMLResponse:
    """What is poured for whom, and the link of each seat: for whoever pours, who does not taste. It
    is noted who has seen it."""
    workbench = workbench_of(request)
    try:
        with workbench.store() as connection:
            now = see_pouring(connection, tasting_id)
            seen = who_saw_pouring(connection, tasting_id)
            seats = poured(now)
            links = {s.key: phone_link(request, ballot_code(s.key)) for s in seats if s.key}
    except RecipeError as error:
        return _round_page(request, workbench, tasting_id, str(error))
    return page(
        request,
        "places/tasting/pouring.html",
        t=now,
        asks=question_words(now),
        lettered=lettered_words(now),
        seats=seats,
        links=links,
        unreached=next((link for link in links.values() if not link.reached), None),
        here=f"/tastings/{tasting_id}/pouring",
        contains=contains(workbench, now),
        pours=pouring_words(workbench, now),
        seen=[initials for initials in seen if initials],
        recipe_id=now.samples[0].recipe_id,
        place="tastings",
    )


@router.post("/tastings/{tasting_id}/seat")
def sit_down(request: Request, tasting_id: int) -> Response:
    """A seat for somebody of the practice, who then tastes as blind as everybody else."""
    workbench = workbench_of(request)
    try:
        with workbench.store() as connection:
            seat = take_seat(connection, tasting_id)
    except RecipeError as error:
        return _round_page(request, workbench, tasting_id, str(error))
    return RedirectResponse(f"/ballot/{seat.key}", status_code=303)


def _result(now: Tasting) -> ResultView | None:
    """What a closed round says; None while it is not closed, or where too little came in to be
    read."""
    if now.state != "closed":
        return None
    try:
        return result_view(now)
    except ValueError:
        return None


@router.post("/tastings/{tasting_id}/sheet")
def take_sheet(request: Request, tasting_id: int, sheet: UploadFile) -> Response:
    """Printed ballots typed into a CSV, taken in whole or not at all."""
    workbench = workbench_of(request)
    data = sheet.file.read(MAX_FILE_BYTES + 1)
    try:
        with workbench.store() as connection:
            now = tasting(connection, tasting_id)
            add_sheet(connection, tasting_id, *_answers_of(now, data))
    except ValueError as error:
        return _round_page(
            request, workbench, tasting_id, f"{error}. Nothing of the sheet was kept"
        )
    return RedirectResponse(f"/tastings/{tasting_id}", status_code=303)


def _answers_of(
    now: Tasting, data: bytes
) -> tuple[dict[int, int], dict[int, dict[int, dict[str, int]]]]:
    """The codes that were chosen by seat, or the scores by seat and code. Raises ValueError naming
    a row or seat."""
    said = read_marked(data, columns_of(now))
    if now.question.forced:
        if (
            twice := next((seat for seat, cups in said.items() if len(cups) > 1), None)
        ) is not None:
            raise RecipeError(f"seat {twice} marked more than one cup")
        return {seat: next(iter(cups)) for seat, cups in said.items()}, {}
    if now.question is Question.RANKING:
        try:
            return {}, {
                seat: checked_ranks({code: s[RANK] for code, s in cups.items()})
                for seat, cups in said.items()
            }
        except ValueError as error:
            raise RecipeError(f"a seat's ranks are not whole: {error}") from None
    middle = (1 + len(JAR_WORDS)) // 2
    return {}, {
        seat: {
            c: {n: v if n == LIKED else v + middle for n, v in s.items()} for c, s in cups.items()
        }
        for seat, cups in said.items()
    }


@router.get("/tastings/{tasting_id}/answers.csv")
def answers_csv(request: Request, tasting_id: int, cup: str = "") -> Response:
    """The ballots of a closed round, as the command line reads them; with `cup` what was just right
    in one sample."""
    with workbench_of(request).store() as connection:
        now = tasting(connection, tasting_id)
    if now.state != "closed":
        raise RecipeError("the answers stay closed until the round is")
    return Response(
        ballots_csv(*answer_rows(now, cup)),
        media_type="text/csv; charset=utf-8",
        headers={"Content-Disposition": f'attachment; filename="tasting-{tasting_id}.csv"'},
    )


@router.post("/tastings/{tasting_id}/enter/{seat}")
def enter(
    request: Request, tasting_id: int, seat: int, code: Annotated[str, Form(max_length=6)] = ""
) -> Response:
    """A printed ballot is typed in by its seat and the code that was marked."""
    workbench = workbench_of(request)
    try:
        with workbench.store() as connection:
            new = add_ballot(
                connection,
                tasting_id,
                seat,
                whole_number(code, "code", 0, MOST_CODE),
                on_paper=True,
            )
    except ValueError as error:
        return _round_page(request, workbench, tasting_id, str(error))
    if not new:
        return _round_page(
            request,
            workbench,
            tasting_id,
            f"seat {seat} has answered already: the first ballot counts",
        )
    return RedirectResponse(f"/tastings/{tasting_id}", status_code=303)


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
                workbench.learn_from_eaters(connection)
            elif step == "simulate":
                now = tasting(connection, tasting_id)
                add_simulated(
                    connection, tasting_id, *simulated_panel(workbench, now, randbelow(2**31))
                )
            else:
                raise RecipeError("a round is opened, closed or simulated")
    except RecipeError as error:
        return _round_page(request, workbench, tasting_id, str(error))
    return RedirectResponse(f"/tastings/{tasting_id}", status_code=303)
