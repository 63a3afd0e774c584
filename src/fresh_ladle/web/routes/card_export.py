"""What leaves the workbench: the card to print, and a recipe as a file."""

from __future__ import annotations

from collections.abc import Callable

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, Response

from fresh_ladle.core.appraisal import Appraisal
from fresh_ladle.core.cautions.caution import STANDING_NOTE
from fresh_ladle.core.foods.nutrient import BY_ID
from fresh_ladle.core.nutrients.declaration import Regime, declared_figures
from fresh_ladle.core.recipes import dishes
from fresh_ladle.core.recipes.changes import name_of
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.data.load import slug
from fresh_ladle.formats.json_ld import json_ld
from fresh_ladle.formats.sheet import csv_of, xlsx_of
from fresh_ladle.store.recipes import version, versions
from fresh_ladle.store.settings import settings
from fresh_ladle.web.routes.common import load_work, page
from fresh_ladle.web.state import workbench_of
from fresh_ladle.web.wording import display_amount, nutrient_amount, weight_text

router = APIRouter(prefix="/recipes/{recipe_id}")
_WRITERS: dict[str, tuple[str, Callable[[Appraisal], str | bytes]]] = {
    "jsonld": ("application/ld+json", json_ld),
    "csv": ("text/csv; charset=utf-8", csv_of),
    "xlsx": ("application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", xlsx_of),
}


@router.get("/export/{form}")
def export(request: Request, recipe_id: int, form: str) -> Response:
    """The draft as schema.org JSON-LD, CSV or XLSX."""
    workbench = workbench_of(request)
    with workbench.store() as connection:
        work = load_work(workbench, connection, recipe_id)
    now = workbench.appraise(work.draft.recipe)
    name = slug(work.draft.recipe.title) or "recipe"
    if form not in _WRITERS:
        raise RecipeError(f"a recipe cannot be written as {form!r}: choose jsonld, csv or xlsx")
    kind, write = _WRITERS[form]
    return Response(
        write(now), media_type=kind, headers={"Content-Disposition": f'attachment; filename="{name}.{form}"'}
    )


@router.get("/card", response_class=HTMLResponse)
def card(request: Request, recipe_id: int, version_number: int | None = None, label: str = "") -> HTMLResponse:
    """The sheet to hand out, for one accepted version; figures rounded as the chosen label rules say."""
    workbench = workbench_of(request)
    with workbench.store() as connection:
        work = load_work(workbench, connection, recipe_id)
        kept = versions(connection, recipe_id)
        chosen = version(connection, recipe_id, version_number or kept[-1].number)
        custom = settings(connection)
    now = workbench.appraise_version(chosen)
    regime = Regime(label if label in set(Regime) else custom.label)
    parts = {line.component: display_amount(line.amount) for line in chosen.recipe.lines if line.batch}
    groups = {name: [p for p in now.portions if p.line.component == name] for name in chosen.recipe.components}
    return page(
        request,
        "card.html",
        recipe=chosen.recipe,
        version=chosen,
        kept=kept,
        kind=dishes.BY_ID[chosen.recipe.kind].name,
        groups=groups,
        figures=[
            (f.name, f.declared, f"{nutrient_amount(f.nutrient, f.value)} {BY_ID[f.nutrient].unit}")
            for f in declared_figures(now.totals, regime)
        ],
        label=regime.value,
        both=custom.rounding == "both",
        practice=custom.practice,
        weights=custom.weights,
        weight_text=weight_text,
        name_of=name_of,
        servings=f"{now.totals.servings:.3g}",
        serving_grams=f"{now.totals.serving_grams:,.0f} g",
        allergens=now.allergens,
        may_contain=now.may_contain,
        allergens_unchecked=now.allergens_unchecked,
        cautions=[c for c in now.cautions if c.caution.on_card],
        newer=[f.name for f in workbench.newer_figures(chosen)],
        parts=parts,
        note=STANDING_NOTE,
        place="card",
        recipe_id=recipe_id,
        display_amount=display_amount,
        changed=work.draft.changed,
        missing=[p.line.text for p in now.problems],
    )
