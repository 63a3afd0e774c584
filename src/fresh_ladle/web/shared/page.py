"""What routes have in common: templates, the recipe and its original, the lens that follows the
user."""

from __future__ import annotations

import re
import sqlite3
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any
from zoneinfo import ZoneInfo

from fastapi import Request
from fastapi.responses import HTMLResponse
from fastapi.templating import Jinja2Templates
from jinja2 import Environment, FileSystemLoader, select_autoescape

from fresh_ladle.core.nutrients.wording import three_figures
from fresh_ladle.core.people.role import Role
from fresh_ladle.core.recipes.edits import Edit
from fresh_ladle.core.recipes.recipe import Recipe
from fresh_ladle.core.whole.appraisal import Appraisal
from fresh_ladle.core.words.sentences import capitalized
from fresh_ladle.core.words.spelling import BRITISH, STEMS, Typed, british_page, typed_words
from fresh_ladle.data.zone_here import local_zone
from fresh_ladle.store.recipes.drafts import Draft, draft, edits_since_version
from fresh_ladle.store.recipes.profiles import Profile, profile
from fresh_ladle.store.recipes.recipes import version, versions
from fresh_ladle.store.recipes.typed_texts import typed_in, typed_names
from fresh_ladle.store.services.services import KeptService
from fresh_ladle.store.settings import tour_of
from fresh_ladle.web.door.guarded import person_of, require
from fresh_ladle.web.door.offered import only_offered
from fresh_ladle.web.shared.lens import known_lens
from fresh_ladle.web.shared.questions import open_questions
from fresh_ladle.web.shared.recipe_band import recipe_band
from fresh_ladle.web.shared.tour import TourView, tour_view
from fresh_ladle.web.shared.typed import row_id
from fresh_ladle.web.state import Workbench, workbench_of
from fresh_ladle.web.styles import styles_address

HERE = Path(__file__).parent.parent


class _Unindented(FileSystemLoader):
    """Templates without the indentation of their source, which is a quarter of what would be
    sent."""

    def get_source(
        self, environment: Environment, template: str
    ) -> tuple[str, str, Callable[[], bool]]:
        source, name, unchanged = super().get_source(environment, template)
        return re.sub(r"[ \t]*\n\s*", "\n", source), name, unchanged


templates = Jinja2Templates(
    env=Environment(loader=_Unindented(HERE), autoescape=select_autoescape())
)
templates.env.filters["capitalized"] = capitalized
templates.env.filters["said"] = three_figures
templates.env.globals["styles"] = styles_address()
LENS_COOKIE, LOOK_COOKIE = "lens", "look"
"""What one screen remembers: the lens it looks through, and whether it is dark."""


@dataclass(frozen=True, slots=True)
class Work:
    """A recipe being worked on, with the original it is measured against and its targets."""

    draft: Draft
    original: Appraisal
    profile: Profile | None


def load_work(workbench: Workbench, connection: sqlite3.Connection, recipe_id: int) -> Work:
    """Raises RecipeMissing when there is no such recipe."""
    work = draft(connection, recipe_id)
    original = workbench.appraise_version(version(connection, recipe_id, 1))
    return Work(work, original, profile(connection, work.profile_id))


def chosen_targets(request: Request, connection: sqlite3.Connection, typed: str) -> int | None:
    """The profile a form chose for a new recipe; None for none. Raises NotYours where who sent it
    sets no targets."""
    chosen = profile(connection, row_id(typed))
    if chosen is not None:
        require(request, Role.DIETITIAN)
    return chosen.id if chosen else None


def lens_of(request: Request) -> str:
    return known_lens(request.query_params.get("lens") or request.cookies.get(LENS_COOKIE))


def wants_part(request: Request) -> bool:
    """Whether htmx asks for a part of a page; going back in history asks for the whole of it."""
    return "HX-Request" in request.headers and "HX-History-Restore-Request" not in request.headers


def tour_of_draft(
    connection: sqlite3.Connection, work: Draft, lens: str, edits: Sequence[Edit]
) -> TourView | None:
    """The first tour, where it goes on with this recipe; `edits` are those since the last
    version."""
    newest = work.based_on.number if work.based_on else 0
    return tour_view(tour_of(connection), work.recipe_id, lens, newest, edits)


def _typed_on(workbench: Workbench, context: Mapping[str, Any]) -> Typed:
    """What people have typed that a page may show: names anywhere, and of the recipes it is about
    every word."""
    with workbench.store() as connection:
        texts = typed_names(connection, STEMS)
        if (recipe_id := context.get("recipe_id")) is not None:
            texts += typed_in(
                [
                    draft(connection, recipe_id).recipe,
                    *(v.recipe for v in versions(connection, recipe_id)),
                ]
            )
    texts += [context["paste"]] if "paste" in context else []
    shown = [value for value in context.values() if isinstance(value, Recipe)]
    served = [
        dish.recipe
        for value in context.values()
        if isinstance(value, KeptService)
        for dish in value.dishes
    ]
    return typed_words([*texts, *typed_in([*shown, *served])])


def page(request: Request, template: str, status: int = 200, **context: Any) -> HTMLResponse:
    """One template filled with its context, offering what the person who asks may do; a whole page
    of a recipe says how far that has come."""
    if "recipe_id" in context and "band" not in context and not wants_part(request):
        workbench = workbench_of(request)
        with workbench.store() as connection:
            work, lens = draft(connection, context["recipe_id"]), lens_of(request)
            chosen = profile(connection, work.profile_id)
            asked = open_questions(
                workbench, workbench.appraise(work.recipe), lens, chosen.targets if chosen else ()
            )
            edits = edits_since_version(connection, work.recipe_id)
            band = recipe_band(workbench, connection, work, len(asked), edits)
            context |= {"band": band, "tour": tour_of_draft(connection, work, lens, edits)}
    person = person_of(request)
    may_set_targets = person is not None and person.role.may(Role.DIETITIAN)
    look = request.cookies.get(LOOK_COOKIE, "")
    until = workbench_of(request).lane.until
    lane_until = until.astimezone(ZoneInfo(local_zone())).strftime("%H:%M") if until else ""
    shown = {
        "look": look,
        "lane_until": lane_until,
        "person": person,
        "may_set_targets": may_set_targets,
        **context,
    }
    html = templates.get_template(template).render({"request": request, **shown})
    if workbench_of(request).spelling == BRITISH:
        html = british_page(html, _typed_on(workbench_of(request), context))
    role = person.role if person else Role.READER
    return HTMLResponse(html if role is Role.OWNER else only_offered(html, role), status)
