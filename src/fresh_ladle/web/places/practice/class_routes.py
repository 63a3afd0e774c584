"""Practice of a class: a page to project, a page for each seat, the same question on every table,
no names."""

from __future__ import annotations

from secrets import randbelow
from typing import Annotated, Any

from fastapi import Form, Query, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from fresh_ladle.core.practice.exercise import NoExercise
from fresh_ladle.core.practice.making import KINDS, exercise
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.core.words.sentences import capitalized
from fresh_ladle.store.practice.rounds import (
    MOST_SEATS,
    PracticeRound,
    answer_seat,
    begin_round,
    go_on,
    practice_round,
    reveal,
    round_of_key,
)
from fresh_ladle.store.short_links import class_code
from fresh_ladle.web.door.guarded import guarded_router
from fresh_ladle.web.places.practice.form import given_by
from fresh_ladle.web.places.practice.ground import ground_of
from fresh_ladle.web.places.practice.pictures import drawing_of, ranges_picture
from fresh_ladle.web.shared.page import page, wants_part
from fresh_ladle.web.shared.phone import phone_link
from fresh_ladle.web.state import workbench_of


def _is_a_class(request: Request) -> None:
    """Raises RoundMissing for an address of no class, before anything is read of what is sent
    there."""
    if (key := request.path_params.get("key")) is not None:
        with workbench_of(request).store() as connection:
            round_of_key(connection, key)


router = guarded_router(first=_is_a_class)
MOST_QUESTIONS, SEEDS = 20, 1_000_000
Typed = Annotated[str, Form(max_length=20)]


@router.post("/practice-class")
def begin(
    request: Request,
    seats: Annotated[int, Form(ge=1, le=MOST_SEATS)],
    questions: Annotated[int, Form(ge=1, le=MOST_QUESTIONS)] = 6,
    kind: Annotated[list[str] | None, Form(max_length=20)] = None,
) -> Response:
    """A class with so many seats and questions, of the kinds that are ticked, or of all."""
    workbench = workbench_of(request)
    wanted = [name for name in kind or [] if name in KINDS] or list(KINDS)
    asked, ground = [], ground_of(workbench)
    for place in range(questions):
        try:
            asked.append(exercise(wanted[place % len(wanted)], randbelow(SEEDS), ground))
        except NoExercise:
            continue
    if not asked:
        raise RecipeError("nothing of these kinds can be asked with these recipes: choose others")
    try:
        with workbench.store() as connection:
            round_id = begin_round(connection, seats, asked)
    except ValueError as error:
        raise RecipeError(str(error)) from None
    return RedirectResponse(f"/practice-class/{round_id}", status_code=303)


@router.get("/practice-class/{round_id}", response_class=HTMLResponse)
def projected(
    request: Request, round_id: int, since: Annotated[str, Query(max_length=40)] = ""
) -> Response:
    """What everybody sees: the question, how many have answered, then the answer and how all
    answered. A page that shows how it stands already is left alone, so that nothing moves under a
    finger."""
    with workbench_of(request).store() as connection:
        now = practice_round(connection, round_id)
    stands = f"{now.question}-{len(now.answers)}-{now.revealed:d}"
    if wants_part(request) and since == stands:
        return Response(status_code=204)
    name = "places/practice/projected.html" if wants_part(request) else "places/practice/class.html"
    link = phone_link(request, class_code(now.key))
    return page(request, name, now=now, **_shown(now), link=link, place="practice", stands=stands)


def _shown(now: PracticeRound) -> dict[str, Any]:
    ranges = [given.answered for given in now.answers.values() if given.answered is not None]
    made = now.made
    counts = [
        sum(given.choice == n for given in now.answers.values())
        for n in range(len(made.choices) if made else 0)
    ]
    return {
        "e": made,
        "drawing": drawing_of(made) if made else None,
        "picture": ranges_picture(ranges) if ranges and now.revealed else "",
        "held": sum(given.right_for(made) for given in now.answers.values()) if made else 0,
        "counts": counts,
    }


@router.post("/practice-class/{round_id}/{step}")
def step(
    request: Request, round_id: int, step: str, number: Annotated[int, Form(ge=1)]
) -> Response:
    """Shows the answer, or asks the next question."""
    with workbench_of(request).store() as connection:
        practice_round(connection, round_id)
        if step == "show":
            reveal(connection, round_id, number)
        elif step == "next":
            go_on(connection, round_id, number)
    return RedirectResponse(f"/practice-class/{round_id}", status_code=303)


@router.get("/practice-seat/{key}", response_class=HTMLResponse)
def seat_page(
    request: Request, key: str, seat: Annotated[int, Query(ge=0, le=99)] = 0
) -> HTMLResponse:
    """A table's own page: first its number, then the question that is asked."""
    with workbench_of(request).store() as connection:
        now = round_of_key(connection, key)
    name = "places/practice/seat_state.html" if wants_part(request) else "places/practice/seat.html"
    return _seat_page(request, name, now, seat)


def _seat_page(
    request: Request,
    name: str,
    now: PracticeRound,
    seat: int,
    error: str = "",
    typed: tuple[str, str] = ("", ""),
) -> HTMLResponse:
    chosen = seat if 1 <= seat <= now.seats else 0
    return page(
        request,
        name,
        422 if error else 200,
        now=now,
        seat=chosen,
        e=now.made,
        drawing=drawing_of(now.made) if now.made else None,
        given=now.answers.get(chosen),
        error=error,
        typed=typed,
        place="",
        person=None,  # A table's page leads nowhere else.
    )


@router.post("/practice-seat/{key}/{seat}", response_class=HTMLResponse)
def answer(
    request: Request,
    key: str,
    seat: int,
    number: Annotated[int, Form(ge=1)],
    low: Typed = "",
    high: Typed = "",
    choice: Annotated[int | None, Form(ge=0, le=9)] = None,
) -> Response:
    """The answer of a seat to the question it saw; the first counts."""
    with workbench_of(request).store() as connection:
        now = round_of_key(connection, key)
        try:
            if now.made is not None and now.question == number:
                answer_seat(connection, key, seat, number, given_by(now.made, low, high, choice))
        except ValueError as error:
            said = f"{capitalized(str(error))}. Nothing was counted."
            return _seat_page(request, "places/practice/seat.html", now, seat, said, (low, high))
    return RedirectResponse(f"/practice-seat/{key}?seat={seat}", status_code=303)
