"""Ballots at the table: a page for each seat, printed slips. No page here is ever given what is in
a cup."""

from __future__ import annotations

import re
from typing import Annotated

from fastapi import Form, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response
from pydantic import BaseModel, ConfigDict

from fresh_ladle.core.errors import Refused
from fresh_ladle.core.recipes.dishes import BY_ID as KINDS
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.core.tasting.difference import Question
from fresh_ladle.core.tasting.liking import (
    JAR_WORDS,
    LIKED,
    LIKING_WORDS,
    checked_ranks,
    checked_scores,
)
from fresh_ladle.store.people.acting import say_about
from fresh_ladle.store.tastings.tastings import (
    add_ballot,
    add_scores,
    agree,
    check_key,
    seat_of_key,
    tasting,
)
from fresh_ladle.web.door.guarded import guarded_router
from fresh_ladle.web.places.tasting.view import ballot_words, columns_of, contains
from fresh_ladle.web.shared.page import page
from fresh_ladle.web.state import Workbench, workbench_of


def _is_a_seat(request: Request) -> None:
    """Raises RecipeMissing for an address of no seat: of what such a one sends nothing is read."""
    if (key := request.path_params.get("key")) is not None:
        with workbench_of(request).store() as connection:
            check_key(connection, key)


router = guarded_router(first=_is_a_seat)
TASTE_WORDS = {
    "sour": "sourness", "sweet": "sweetness", "rich": "richness", "savory": "savoriness",
    "bitter": "bitterness",
    "hot": "heat", "body": "thickness",
}  # fmt: skip
"""Attributes as a taster would call them, where their name is no noun of the table."""
MOST_CODE = 9999
PRINTED_SCALE = (
    "Liking: from 9, like extremely, by 5, neither, to 1, dislike extremely. The others: −2 much"
    " too little, −1 too little, 0 just right, 1 too much, 2 much too much."
)


@router.get("/tastings/{tasting_id}/ballots", response_class=HTMLResponse)
def printed_ballots(request: Request, tasting_id: int) -> HTMLResponse:
    """A ballot for each seat to print, and nothing on it of what is in the cups."""
    workbench = workbench_of(request)
    with workbench.store() as connection:
        now = tasting(connection, tasting_id)
    codes = [(s.number, [c.code for c in s.cups]) for s in now.seats]
    return page(
        request,
        "places/tasting/ballots.html",
        asks=ballot_words(now),
        kind=KINDS[now.samples[0].recipe.kind].name,
        codes=codes,
        contains=contains(workbench, now),
        written=[TASTE_WORDS.get(name, name) for name in columns_of(now)],
        scale=PRINTED_SCALE if now.question is Question.LIKING else "",
        tasting_id=tasting_id,
    )


@router.get("/ballot/{key}", response_class=HTMLResponse)
def ballot(request: Request, key: str) -> HTMLResponse:
    """One seat's page at the table: codes alone."""
    return _ballot_page(request, workbench_of(request), key)


def _ballot_page(request: Request, workbench: Workbench, key: str, error: str = "") -> HTMLResponse:
    with workbench.store() as connection:
        now, seat = seat_of_key(connection, key)
    return page(
        request,
        "places/tasting/ballot.html",
        422 if error else 200,
        key=key,
        seat=seat.number,
        state=now.state,
        agreed=seat.agreed,
        done=seat.done,
        codes=[c.code for c in seat.cups],
        scored=now.question is Question.LIKING,
        ranked=now.question is Question.RANKING,
        cup=seat.next_cup,
        liking_words=LIKING_WORDS,
        attributes=[(a, TASTE_WORDS.get(a, a)) for a in now.attributes],
        jar_words=JAR_WORDS,
        asks=ballot_words(now),
        contains=contains(workbench, now),
        error=error,
    )


@router.post("/ballot/{key}/agree")
def agree_to_taste(request: Request, key: str) -> Response:
    with workbench_of(request).store() as connection:
        now, seat = seat_of_key(connection, key)
        say_about(f"/tastings/{now.id}, seat {seat.number}")
        agree(connection, now.id, seat.number)
    return RedirectResponse(f"/ballot/{key}", status_code=303)


class Marks(BaseModel):
    """The radio buttons and hidden numbers of a ballot, by the names they have there."""

    model_config = ConfigDict(extra="allow")

    def mark(self, name: str) -> int:
        """What stands under a name; 0 for nothing, and for what is no such number."""
        said = (self.model_extra or {}).get(name)
        return int(said) if isinstance(said, str) and re.fullmatch(r"[0-9]{1,4}", said) else 0


@router.post("/ballot/{key}/score")
def score(request: Request, key: str, form: Annotated[Marks, Form()]) -> Response:
    """What the seat says of one cup; then the next cup, or thanks."""
    workbench = workbench_of(request)
    try:
        with workbench.store() as connection:
            now, seat = seat_of_key(connection, key)
            say_about(f"/tastings/{now.id}, seat {seat.number}")
            said = {name: form.mark(name) for name in (LIKED, *now.attributes)}
            scores = checked_scores(said, now.attributes)
            add_scores(connection, now.id, seat.number, {form.mark("cup"): scores})
    except Refused as error:
        return _ballot_page(request, workbench, key, str(error))
    return RedirectResponse(f"/ballot/{key}", status_code=303)


@router.post("/ballot/{key}/rank")
def rank(request: Request, key: str, form: Annotated[Marks, Form()]) -> Response:
    """The order a seat gives its cups, all at once."""
    workbench = workbench_of(request)
    try:
        with workbench.store() as connection:
            now, seat = seat_of_key(connection, key)
            say_about(f"/tastings/{now.id}, seat {seat.number}")
            ranked = checked_ranks({c.code: form.mark(f"rank-{c.code}") for c in seat.cups})
            add_scores(connection, now.id, seat.number, ranked)
    except Refused as error:
        return _ballot_page(request, workbench, key, str(error))
    return RedirectResponse(f"/ballot/{key}", status_code=303)


@router.post("/ballot/{key}")
def answer(request: Request, key: str, code: Annotated[int, Form(ge=0, le=MOST_CODE)]) -> Response:
    """The seat's answer; the first one counts, and a form sent twice changes nothing."""
    workbench = workbench_of(request)
    try:
        with workbench.store() as connection:
            now, seat = seat_of_key(connection, key)
            say_about(f"/tastings/{now.id}, seat {seat.number}")
            add_ballot(connection, now.id, seat.number, code)
    except RecipeError as error:
        return _ballot_page(request, workbench, key, str(error))
    return RedirectResponse(f"/ballot/{key}", status_code=303)
