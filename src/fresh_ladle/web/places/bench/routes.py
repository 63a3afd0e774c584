"""The bench: one cook, one bowl, now. What goes in is kept at once, and becomes the recipe in
kitchen measures."""

from __future__ import annotations

from secrets import token_hex
from typing import Annotated, Any

from fastapi import Form, Query, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from fresh_ladle.core.bench.addition import SCALE_DOUBT_G, Addition, read_addition, weighed_addition
from fresh_ladle.core.bench.log import BenchEvent, folded
from fresh_ladle.core.bench.next import what_next, words
from fresh_ladle.core.recipes.dishes import SALADS
from fresh_ladle.core.recipes.edits import Edit, EditKind
from fresh_ladle.core.recipes.recipe import Recipe, RecipeError
from fresh_ladle.store.people.acting import initials_acting
from fresh_ladle.store.recipes.bench import (
    Bench,
    add_event,
    benches,
    end_bench,
    open_bench,
    start_bench,
    strike_event,
)
from fresh_ladle.store.recipes.recipes import RecipeMissing
from fresh_ladle.store.recipes.thickness import readings_of
from fresh_ladle.web.door.guarded import guarded_router
from fresh_ladle.web.places.bench.scale_routes import scale_of
from fresh_ladle.web.places.bench.thickness_view import thickness_view
from fresh_ladle.web.places.bench.view import (
    bench_view,
    compared_logs,
    log_name,
    preview_words,
    suggestion_views,
)
from fresh_ladle.web.places.counter.response import edit_response
from fresh_ladle.web.shared.page import Work, load_work, page
from fresh_ladle.web.shared.typed import number_typed, optional_number
from fresh_ladle.web.state import Workbench, workbench_of

router = guarded_router("/recipes/{recipe_id}/bench")
Said = Annotated[str, Form(max_length=200)]
Typed = Annotated[str, Form(max_length=20)]
Token = Annotated[str, Form(max_length=40)]
FEWEST_COMPARED, MOST_COMPARED = 2, 4


@router.get("", response_class=HTMLResponse)
def bowl(
    request: Request,
    recipe_id: int,
    big: bool = False,
    log: Annotated[list[int] | None, Query(max_length=8)] = None,
) -> HTMLResponse:
    """The bowl that is open, or how to begin one; `big` is read from two meters, `log` names closed
    logs to compare."""
    return _bench_page(request, workbench_of(request), recipe_id, big=big, logs=log or [])


def _bench_page(
    request: Request,
    workbench: Workbench,
    recipe_id: int,
    error: str = "",
    typed: str = "",
    big: bool = False,
    logs: list[int] | None = None,
) -> HTMLResponse:
    with workbench.store() as connection:
        work = load_work(workbench, connection, recipe_id)
        now, former = open_bench(connection, recipe_id), benches(connection, recipe_id)
        readings = readings_of(connection, recipe_id) if now else []
    targets = work.profile.targets if work.profile else ()
    chosen = [b for b in former if b.id in (logs or [])][:MOST_COMPARED]
    context: dict[str, Any] = {
        "recipe": work.draft.recipe,
        "recipe_id": recipe_id,
        "b": bench_view(workbench, now, targets) if now else None,
        "t": thickness_view(workbench, now, readings) if now else None,
        "runs": work.draft.recipe.kind not in SALADS,
        "thick_token": token_hex(8),
        "words": words(workbench.knowledge),
        "token": token_hex(8),
        "scale": scale_of(workbench) is not None,
        "error": error,
        "typed": typed,
        "big": big,
        "has_targets": bool(targets),
        "former": [(b.id, log_name(b), b.id in (logs or [])) for b in former if b.ended_at],
        "compared": compared_logs(workbench, chosen) if len(chosen) >= FEWEST_COMPARED else [],
        "compared_names": [log_name(b) for b in chosen],
        "place": "bench",
    }
    name = (
        "places/bench/body.html" if request.headers.get("HX-Request") else "places/bench/page.html"
    )
    return page(
        request, name, 422 if error and name == "places/bench/page.html" else 200, **context
    )


@router.post("/start")
def start(
    request: Request,
    recipe_id: int,
    full: Annotated[bool, Form()] = True,
    by: Annotated[str, Form(max_length=12)] = "",
) -> Response:
    """Opens a bowl: with everything measured in it already, or empty."""
    with workbench_of(request).store() as connection:
        start_bench(connection, recipe_id, full, initials_acting() or by.strip())
    return RedirectResponse(f"/recipes/{recipe_id}/bench", status_code=303)


def _opened(workbench: Workbench, recipe_id: int) -> Bench:
    with workbench.store() as connection:
        found = open_bench(connection, recipe_id)
    if found is None:
        raise RecipeMissing("no bowl is open here: begin one")
    return found


@router.post("/add", response_class=HTMLResponse)
def add(
    request: Request, recipe_id: int, token: Token, text: Said = "", big: bool = False
) -> HTMLResponse:
    """What was typed or tapped goes into the log."""
    workbench = workbench_of(request)
    now = _opened(workbench, recipe_id)
    try:
        addition = read_addition(text, workbench.reader, now.log.base)
        return _added(request, workbench, now, addition, token, big)
    except RecipeError as error:
        return _bench_page(request, workbench, recipe_id, str(error), text, big)


@router.post("/line", response_class=HTMLResponse)
def add_line(
    request: Request,
    recipe_id: int,
    token: Token,
    line: Annotated[str, Form(max_length=20)],
    big: bool = False,
) -> HTMLResponse:
    """A line of the recipe goes in as it is written."""
    workbench = workbench_of(request)
    now = _opened(workbench, recipe_id)
    try:
        chosen = now.log.base.line(line)
        return _added(request, workbench, now, Addition(chosen.text, chosen, False), token, big)
    except RecipeError as error:
        return _bench_page(request, workbench, recipe_id, str(error), "", big)


@router.post("/weigh", response_class=HTMLResponse)
def weigh(
    request: Request,
    recipe_id: int,
    token: Token,
    thing: Said = "",
    other: Said = "",
    before: Typed = "",
    after: Typed = "",
    before_step: Typed = "",
    after_step: Typed = "",
    big: bool = False,
) -> HTMLResponse:
    """What left its vessel between two weighings."""
    workbench = workbench_of(request)
    now = _opened(workbench, recipe_id)
    try:
        weights = number_typed(before, "before"), number_typed(after, "after")
        doubt = _doubt_g(before_step, after_step)
        addition = weighed_addition(
            other.strip() or thing, *weights, workbench.reader, now.log.base, doubt
        )
        return _added(request, workbench, now, addition, token, big)
    except ValueError as error:
        return _bench_page(request, workbench, recipe_id, str(error), "", big)


def _doubt_g(*steps: str) -> float:
    """What a weighing may be off: the scale's own smallest step where it told one both times, else
    that of whole grams."""
    told = [optional_number(step, "the step") for step in steps]
    return min(SCALE_DOUBT_G, max(0.01, *(s for s in told if s))) if all(told) else SCALE_DOUBT_G


def _added(
    request: Request, workbench: Workbench, now: Bench, addition: Addition, token: str, big: bool
) -> HTMLResponse:
    with workbench.store() as connection:
        add_event(connection, now.id, addition.text, addition.line, token)
    return _bench_page(request, workbench, now.recipe_id, big=big)


@router.post("/preview", response_class=HTMLResponse)
def preview(request: Request, recipe_id: int, text: Said = "") -> HTMLResponse:
    """What would happen, before the spoon."""
    workbench = workbench_of(request)
    now = _opened(workbench, recipe_id)
    with workbench.store() as connection:
        targets = _targets(load_work(workbench, connection, recipe_id))
    try:
        addition = read_addition(text, workbench.reader, now.log.base)
    except RecipeError as error:
        return page(
            request,
            "places/bench/preview.html",
            said=[],
            problem=str(error) if text.strip() else "",
        )
    event = BenchEvent(max((e.seq for e in now.log.events), default=0) + 1, "", text, addition.line)
    before = workbench.appraise(now.log.bowl())
    with_it = type(now.log)(now.log.base, now.log.full, (*now.log.events, event))
    said = preview_words(workbench, before, workbench.appraise(with_it.bowl()), targets)
    return page(request, "places/bench/preview.html", said=said, problem="")


@router.get("/next", response_class=HTMLResponse)
def next_addition(
    request: Request, recipe_id: int, word: Annotated[str, Query(max_length=40)]
) -> HTMLResponse:
    """The smallest additions that answer a taster's word."""
    workbench = workbench_of(request)
    now = _opened(workbench, recipe_id)
    with workbench.store() as connection:
        work = load_work(workbench, connection, recipe_id)
    school = workbench.schools.get(work.profile.school) if work.profile else None
    exclude = work.profile.exclusions if work.profile else frozenset[str]()
    bowl_now = workbench.appraise(now.log.bowl())
    found = what_next(word, bowl_now, _targets(work), workbench.knowledge, school, exclude)
    return page(
        request,
        "places/bench/next.html",
        word=word,
        answers=suggestion_views(found),
        recipe_id=recipe_id,
        token=token_hex(8),
    )


def _targets(work: Work) -> tuple[Any, ...]:
    return work.profile.targets if work.profile else ()


@router.post("/strike", response_class=HTMLResponse)
def strike(
    request: Request,
    recipe_id: int,
    seq: Annotated[int, Form()],
    struck: Annotated[bool, Form()] = True,
    big: bool = False,
) -> HTMLResponse:
    """A mistake is struck out, or counts again; it stays readable."""
    workbench = workbench_of(request)
    now = _opened(workbench, recipe_id)
    with workbench.store() as connection:
        strike_event(connection, now.id, seq, struck)
    return _bench_page(request, workbench, recipe_id, big=big)


@router.post("/finish")
def finish(request: Request, recipe_id: int) -> Response:
    """The bowl becomes the draft, as an edit that can be undone; the log stays."""
    workbench = workbench_of(request)
    now = _opened(workbench, recipe_id)
    if not now.log.counted:
        return _bench_page(request, workbench, recipe_id, "nothing has gone in yet")
    made = folded(now.log, workbench.knowledge)
    named = Edit(EditKind.BENCH, {"count": len(now.log.counted), "bench": now.id})

    def change(_: Recipe) -> Recipe:
        return made

    return edit_response(
        request,
        recipe_id,
        now.base_revision,
        change,
        named,
        also=lambda connection: end_bench(connection, now.id, "recipe"),
    )


@router.post("/leave")
def leave(request: Request, recipe_id: int) -> Response:
    """The bowl is closed and changes nothing; its log stays to be compared."""
    workbench = workbench_of(request)
    now = _opened(workbench, recipe_id)
    with workbench.store() as connection:
        end_bench(connection, now.id, "left")
    return RedirectResponse(f"/recipes/{recipe_id}/bench", status_code=303)
