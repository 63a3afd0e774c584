"""Pouring by a word and weighing it; what trained eyes pour, offered as the practice's own
measure."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass
from secrets import randbelow, token_urlsafe
from typing import Annotated

from fastapi import Form, Query, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from fresh_ladle.core.amounts.loose import loose_piece
from fresh_ladle.core.errors import Refused
from fresh_ladle.core.people.role import Role
from fresh_ladle.core.practice.pours import (
    MOST_GRAMS,
    POURED,
    OwnMeasure,
    Pour,
    is_trained,
    own_measure,
)
from fresh_ladle.core.practice.scoring import calibration
from fresh_ladle.core.ranges import Range
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.core.words.sentences import capitalized
from fresh_ladle.data.load import load_knowledge
from fresh_ladle.store.people.acting import initials_acting
from fresh_ladle.store.practice.pours import add_pour, leave_pour, own_pours, pours_of, take_pour
from fresh_ladle.store.practice.practice import ranges_given
from fresh_ladle.web.door.guarded import guarded_router, person_of
from fresh_ladle.web.shared.page import page
from fresh_ladle.web.shared.typed import number_typed
from fresh_ladle.web.state import workbench_of

router = guarded_router("/practice-pour")
JUDGED = 60
Place = Annotated[int, Form(ge=0, lt=len(POURED))]


@dataclass(frozen=True, slots=True)
class PourRow:
    """One word: what the table has, what trained eyes pour where there are enough, and what was
    taken over."""

    place: int
    pour: Pour
    table: Range
    offered: OwnMeasure | None
    taken: OwnMeasure | None
    weighed: int


@router.get("", response_class=HTMLResponse)
def ask(request: Request, n: Annotated[int, Query(ge=0, lt=len(POURED))] = -1) -> HTMLResponse:
    """What to pour, and what was found so far."""
    return _page(request, n if n >= 0 else randbelow(len(POURED)))


def _page(
    request: Request, place: int, error: str = "", poured: float | None = None
) -> HTMLResponse:
    with workbench_of(request).store() as connection:
        rows = _rows(connection)
    person = person_of(request)
    return page(
        request,
        "places/practice/pour.html",
        422 if error else 200,
        rows=rows,
        now=rows[place],
        next_place=(place + 1) % len(rows),
        asked=token_urlsafe(9),
        error=error,
        poured=poured,
        may_take=person is not None and person.role.may(Role.DIETITIAN),
        place="practice",
    )


def _rows(connection: sqlite3.Connection) -> list[PourRow]:
    taken = {(m.word, m.group): m for m in own_pours(connection)}
    trained: dict[str, bool] = {}
    found = []
    for place, pour in enumerate(POURED):
        weighed = pours_of(connection, pour.word, pour.group)
        for learner in {who for who, _ in weighed} - set(trained):
            trained[learner] = is_trained(calibration(ranges_given(connection, learner, JUDGED)))
        offered = own_measure(
            pour.word, pour.group, [grams for who, grams in weighed if trained[who]]
        )
        found.append(
            PourRow(
                place,
                pour,
                _of_the_table(pour),
                offered,
                taken.get((pour.word, pour.group)),
                len(weighed),
            )
        )
    return found


def _of_the_table(pour: Pour) -> Range:
    """What ships, whatever the practice has taken over."""
    grams = loose_piece(load_knowledge().pantry[pour.food], pour.word, None)
    assert grams is not None
    return grams


@router.post("", response_class=HTMLResponse)
def weighed(
    request: Request,
    n: Place,
    asked: Annotated[str, Form(max_length=40)],
    grams: Annotated[str, Form(max_length=12)] = "",
) -> HTMLResponse:
    """Keeps what was poured."""
    try:
        value = number_typed(grams, "grams")
        if not 0 < value <= MOST_GRAMS:
            raise Refused(f"a pour weighs more than 0 and at most {MOST_GRAMS:g} g")
    except ValueError as error:
        return _page(request, n, f"{capitalized(str(error))}. Nothing was counted.")
    with workbench_of(request).store() as connection:
        add_pour(connection, initials_acting(), asked, POURED[n].word, POURED[n].group, value)
    return _page(request, n, poured=value)


@router.post("/take")
def take(request: Request, n: Place) -> Response:
    """Makes what trained eyes pour the practice's own measure: recipes that say the word weigh so
    from now on."""
    workbench = workbench_of(request)
    with workbench.store() as connection:
        offered = _rows(connection)[n].offered
        if offered is None:
            raise RecipeError("too few pours of trained eyes were weighed: nothing is offered yet")
        take_pour(connection, offered)
        workbench.stock_own_foods(connection)
    return RedirectResponse("/practice-pour", status_code=303)


@router.post("/back")
def go_back(request: Request, n: Place) -> Response:
    """The measure of the table counts again."""
    workbench = workbench_of(request)
    with workbench.store() as connection:
        leave_pour(connection, POURED[n].word, POURED[n].group)
        workbench.stock_own_foods(connection)
    return RedirectResponse("/practice-pour", status_code=303)
