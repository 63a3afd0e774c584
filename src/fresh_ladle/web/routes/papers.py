"""What leaves the bench: the card to print, and a recipe as a file."""

from __future__ import annotations

from collections.abc import Callable

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, Response

from fresh_ladle.core import dishes
from fresh_ladle.core.appraisal import Appraisal
from fresh_ladle.core.cautions.caution import STANDING_NOTE
from fresh_ladle.core.changes import name_of
from fresh_ladle.core.nutrients.labels import KJ_PER_KCAL, SALT_PER_SODIUM, eu_label, us_label
from fresh_ladle.core.nutrients.nutrient import BY_ID
from fresh_ladle.core.nutrients.totals import Figure, Totals
from fresh_ladle.core.recipe import RecipeError
from fresh_ladle.data.load import slug
from fresh_ladle.formats.json_ld import json_ld
from fresh_ladle.formats.sheet import csv_of, xlsx_of
from fresh_ladle.store.recipes import version, versions
from fresh_ladle.store.settings import LABELS, settings
from fresh_ladle.web.routes.common import load_work, page
from fresh_ladle.web.state import workbench
from fresh_ladle.web.wording import amount_of, display_amount, weight_text

router = APIRouter(prefix="/recipes/{recipe_id}")
CARD_FIGURES = {
    "us": (
        "energy_kcal",
        "fat_g",
        "saturated_fat_g",
        "sodium_mg",
        "carbohydrate_g",
        "fiber_g",
        "sugars_g",
        "protein_g",
    ),
    "eu": (
        "energy_kcal",
        "fat_g",
        "saturated_fat_g",
        "carbohydrate_g",
        "sugars_g",
        "fiber_g",
        "protein_g",
        "sodium_mg",
    ),
}
"""In the order in which each regime declares them."""

_WRITERS: dict[str, tuple[str, Callable[[Appraisal], str | bytes]]] = {
    "jsonld": ("application/ld+json", json_ld),
    "csv": ("text/csv; charset=utf-8", csv_of),
    "xlsx": ("application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", xlsx_of),
}


@router.get("/export/{form}")
def export(request: Request, recipe_id: int, form: str) -> Response:
    """The draft as schema.org JSON-LD, CSV or XLSX."""
    bench = workbench(request)
    with bench.store() as connection:
        work = load_work(bench, connection, recipe_id)
    now = bench.appraise(work.draft.recipe)
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
    bench = workbench(request)
    with bench.store() as connection:
        work = load_work(bench, connection, recipe_id)
        kept = versions(connection, recipe_id)
        chosen = version(connection, recipe_id, version_number or kept[-1].number)
        custom = settings(connection)
    now = bench.appraise_version(chosen)
    label = label if label in LABELS else custom.label
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
        figures=_card_figures(now.totals, label),
        label=label,
        both=custom.rounding == "both",
        practice=custom.practice,
        weights=custom.weights,
        weight_text=weight_text,
        name_of=name_of,
        servings=f"{now.totals.servings:.3g}",
        serving_grams=f"{now.totals.serving_grams:,.0f} g",
        allergens=now.allergens,
        allergens_unchecked=now.allergens_unchecked,
        cautions=[c for c in now.cautions if c.caution.on_card],
        newer=[f.name for f in bench.newer_figures(chosen)],
        parts=parts,
        note=STANDING_NOTE,
        place="card",
        recipe_id=recipe_id,
        display_amount=display_amount,
        changed=work.draft.changed,
        missing=[p.line.text for p in now.problems],
    )


def _card_figures(totals: Totals, label: str) -> list[tuple[str, str, str]]:
    """Name, rounded figure and figure as worked out: per serving in the US manner, per 100 g in the EU manner with salt
    for sodium and energy in both units."""
    rows = []
    for nutrient in CARD_FIGURES[label]:
        figure, meta = totals.serving[nutrient], BY_ID[nutrient]
        if label == "us":
            rows.append(
                (
                    meta.name,
                    f"{_said(us_label(nutrient, figure.value), figure)} {meta.unit}",
                    f"{amount_of(nutrient, figure.value)} {meta.unit}",
                )
            )
            continue
        value = figure.value / totals.serving_grams * 100 if totals.serving_grams else 0.0
        rounded, exact = _said(eu_label(nutrient, value), figure), f"{amount_of(nutrient, value)} {meta.unit}"
        if nutrient == "sodium_mg":
            rows.append((f"Salt (sodium × {SALT_PER_SODIUM:g})", f"{rounded} g", exact + " sodium"))
        elif nutrient == "energy_kcal":
            rows.append(("Energy", f"{_said(f'{value * KJ_PER_KCAL:,.0f}', figure)} kJ, {rounded} kcal", exact))
        else:
            rows.append((meta.name, f"{rounded} {meta.unit}", exact))
    return rows


def _said(rounded: str, figure: Figure) -> str:
    """A label figure, or the least it is when a line is missing from it; less than something is then at least
    nothing."""
    if figure.complete:
        return rounded
    return "at least 0" if rounded.startswith(("less than", "<")) else f"at least {rounded}"
