"""What routes have in common: templates, the recipe and its original, the lens that follows the user."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from fastapi import Request
from fastapi.responses import HTMLResponse
from fastapi.templating import Jinja2Templates

from fresh_ladle.core.appraisal import Appraisal
from fresh_ladle.core.people.role import Role
from fresh_ladle.core.sentences import capitalized
from fresh_ladle.core.wording import three_figures
from fresh_ladle.store.drafts import Draft, draft
from fresh_ladle.store.profiles import Profile, profile
from fresh_ladle.store.progress import done_places, next_place
from fresh_ladle.store.recipes import version
from fresh_ladle.web.guarded import person_of
from fresh_ladle.web.offered import only_offered
from fresh_ladle.web.state import Workbench, workbench_of
from fresh_ladle.web.views.lens import known_lens

HERE = Path(__file__).parent.parent
templates = Jinja2Templates(directory=HERE / "templates")
templates.env.filters["capitalized"] = capitalized
templates.env.filters["said"] = three_figures
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


def lens_of(request: Request) -> str:
    return known_lens(request.query_params.get("lens") or request.cookies.get(LENS_COOKIE))


def wants_part(request: Request) -> bool:
    """Whether htmx asks for a part of a page; going back in history asks for the whole of it."""
    return "HX-Request" in request.headers and "HX-History-Restore-Request" not in request.headers


def page(request: Request, template: str, status: int = 200, **context: Any) -> HTMLResponse:
    """One template filled with its context, offering what the person who asks may do; a whole page of a recipe says
    how far that has come."""
    if "recipe_id" in context and not wants_part(request):
        with workbench_of(request).store() as connection:
            done = done_places(connection, context["recipe_id"])
        context |= {"done_places": done, "next_place": next_place(done)}
    person = person_of(request)
    may_set_targets = person is not None and person.role.may(Role.DIETITIAN)
    look = request.cookies.get(LOOK_COOKIE, "")
    shown = {"look": look, "person": person, "may_set_targets": may_set_targets, **context}
    html = templates.get_template(template).render({"request": request, **shown})
    role = person.role if person else Role.READER
    return HTMLResponse(html if role is Role.OWNER else only_offered(html, role), status)
