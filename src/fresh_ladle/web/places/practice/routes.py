"""Practice for the eye and the judgement: one question at a time, its working, and how ranges hold.
Changes nothing."""

from __future__ import annotations

from secrets import randbelow, token_urlsafe
from typing import Annotated

from fastapi import Form, Query, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from fresh_ladle.core.people.role import Role
from fresh_ladle.core.practice.exercise import Exercise, NoExercise
from fresh_ladle.core.practice.making import KINDS, exercise
from fresh_ladle.core.practice.scoring import calibration, eyes
from fresh_ladle.core.words.sentences import capitalized
from fresh_ladle.store.people.acting import initials_acting
from fresh_ladle.store.practice.practice import (
    Given,
    add_answer,
    choices_right,
    due_exercise,
    ranges_given,
)
from fresh_ladle.web.door.guarded import guarded_router, person_of
from fresh_ladle.web.places.practice.form import given_by
from fresh_ladle.web.places.practice.ground import ground_of
from fresh_ladle.web.places.practice.pictures import drawing_of, ranges_picture
from fresh_ladle.web.shared.page import page
from fresh_ladle.web.state import Workbench, workbench_of

router = guarded_router("/practice")
SEEDS, MOST_ASKED, LAST = 1_000_000, 400, 20
"""Exercises of a kind, those held while they are looked at, and ranges that are drawn."""
JUDGED = 60
"""Ranges by which it is said how well they are set."""
Typed = Annotated[str, Form(max_length=20)]


@router.get("")
def go_on(request: Request, kind: Annotated[str, Query(max_length=20)] = "") -> Response:
    """What is due first, else something new."""
    workbench = workbench_of(request)
    chosen = kind if kind in KINDS else ""
    with workbench.store() as connection:
        due = due_exercise(connection, initials_acting(), chosen)
    next_kind, seed = due or (chosen or list(KINDS)[randbelow(len(KINDS))], randbelow(SEEDS))
    return RedirectResponse(
        f"/practice/{next_kind}/{seed}{'?only=1' if chosen else ''}", status_code=303
    )


@router.get("/{kind}/{seed}", response_class=HTMLResponse)
def ask(request: Request, kind: str, seed: int, only: bool = False) -> HTMLResponse:
    workbench = workbench_of(request)
    asked = token_urlsafe(9)
    try:
        made = exercise(kind, seed, ground_of(workbench))
    except NoExercise as error:
        return _page(request, workbench, kind, seed, only, error=f"{capitalized(str(error))}.")
    if len(workbench.asked) >= MOST_ASKED:
        workbench.asked.clear()
    workbench.asked[asked] = made
    return _page(request, workbench, kind, seed, only, made, asked)


def _page(
    request: Request,
    workbench: Workbench,
    kind: str,
    seed: int,
    only: bool,
    made: Exercise | None = None,
    asked: str = "",
    given: Given | None = None,
    error: str = "",
    typed: tuple[str, str] = ("", ""),
) -> HTMLResponse:
    with workbench.store() as connection:
        ranges = ranges_given(connection, initials_acting(), JUDGED)
        right, chosen = choices_right(connection, initials_acting())
    return page(
        request,
        "places/practice/page.html",
        404 if made is None else 422 if error else 200,
        kinds=[(name, about) for name, (about, _) in KINDS.items()],
        kind=kind,
        seed=seed,
        only=only,
        e=made,
        asked=asked,
        given=given,
        was_right=given.right_for(made) if given and made else False,
        error=error,
        typed=typed,
        drawing=drawing_of(made) if made else None,
        calibration=calibration(ranges).words if ranges else "",
        picture=ranges_picture(ranges[:LAST]) if ranges else "",
        eyes=[capitalized(eye.words) for eye in eyes(ranges) if eye.off],
        right=right,
        chosen=chosen,
        may_lead=(person := person_of(request)) is not None and person.role.may(Role.COOK),
        place="practice",
    )


@router.post("/{kind}/{seed}", response_class=HTMLResponse)
def answer(
    request: Request,
    kind: str,
    seed: int,
    asked: Annotated[str, Form(max_length=40)],
    low: Typed = "",
    high: Typed = "",
    choice: Annotated[int | None, Form(ge=0, le=9)] = None,
    only: Annotated[bool, Form()] = False,
) -> HTMLResponse:
    """Keeps the answer, once, and shows how it comes about."""
    workbench = workbench_of(request)
    # A question that was asked stays as it was, whatever has changed since; after a restart it is
    # made anew.
    try:
        made = workbench.asked.get(asked) or exercise(kind, seed, ground_of(workbench))
        given = given_by(made, low, high, choice)
    except NoExercise as error:
        return _page(request, workbench, kind, seed, only, error=f"{capitalized(str(error))}.")
    except ValueError as error:
        said = f"{capitalized(str(error))}. Nothing was counted."
        return _page(
            request, workbench, kind, seed, only, made, asked, error=said, typed=(low, high)
        )
    with workbench.store() as connection:
        add_answer(connection, initials_acting(), asked, seed, made, given)
    return _page(request, workbench, kind, seed, only, made, asked, given)
