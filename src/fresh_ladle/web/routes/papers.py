"""What leaves the bench: two versions side by side, and the card to print."""

from __future__ import annotations

from collections.abc import Callable

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, Response

from fresh_ladle.core import dishes
from fresh_ladle.core.appraisal import Appraisal
from fresh_ladle.core.cautions.caution import STANDING_NOTE
from fresh_ladle.core.nutrients.labels import SALT_PER_SODIUM, eu_label, us_label
from fresh_ladle.core.nutrients.nutrient import BY_ID
from fresh_ladle.core.nutrients.totals import Figure, Totals
from fresh_ladle.core.recipe import RecipeError
from fresh_ladle.data.load import slug
from fresh_ladle.formats.json_ld import json_ld
from fresh_ladle.formats.sheet import csv_of, xlsx_of
from fresh_ladle.store.recipes import Version, version, versions
from fresh_ladle.web.routes.common import load_work, page
from fresh_ladle.web.state import workbench
from fresh_ladle.web.views.beside import beside_view
from fresh_ladle.web.wording import display_amount

router = APIRouter(prefix="/recipes/{recipe_id}")
CARD_FIGURES = (
    "energy_kcal",
    "fat_g",
    "saturated_fat_g",
    "sodium_mg",
    "carbohydrate_g",
    "fiber_g",
    "sugars_g",
    "protein_g",
)


_WRITERS: dict[str, tuple[str, Callable[[Appraisal], str | bytes]]] = {
    "jsonld": ("application/ld+json", json_ld),
    "csv": ("text/csv; charset=utf-8", csv_of),
    "xlsx": ("application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", xlsx_of),
}


def _chosen(kept: list[Version], number: int | None, otherwise: Version) -> Version:
    return next((v for v in kept if v.number == number), otherwise)


@router.get("/beside", response_class=HTMLResponse)
def beside(request: Request, recipe_id: int, a: int | None = None, b: int | None = None) -> HTMLResponse:
    """Two accepted versions, or an accepted version and the draft (b left out while the draft differs)."""
    bench = workbench(request)
    with bench.store() as connection:
        work = load_work(bench, connection, recipe_id)
        kept = versions(connection, recipe_id)
    first = _chosen(kept, a, kept[0])
    second = next((v for v in kept if v.number == b), None)
    use_draft = second is None and (work.draft.changed or len(kept) == 1)
    if second is None and not use_draft:
        second = kept[-1]
    after = bench.appraise_version(second) if second else bench.appraise(work.draft.recipe)
    targets = work.profile.targets if work.profile else ()
    view = beside_view(bench.appraise_version(first), after, targets)
    return page(
        request, "beside.html", v=view, first=first, second=second, kept=kept, draft=work.draft, profile=work.profile,
        place="beside", recipe_id=recipe_id, note=STANDING_NOTE,
        newer=[f.name for v in (first, second) if v for f in bench.newer_figures(v)], title=work.draft.recipe.title,
    )  # fmt: skip


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
def card(request: Request, recipe_id: int, version_number: int | None = None, label: str = "us") -> HTMLResponse:
    """The sheet to hand out, for one accepted version; figures rounded as the chosen label rules say."""
    bench = workbench(request)
    with bench.store() as connection:
        work = load_work(bench, connection, recipe_id)
        kept = versions(connection, recipe_id)
        chosen = version(connection, recipe_id, version_number or kept[-1].number)
    now = bench.appraise_version(chosen)
    label = label if label in ("us", "eu") else "us"
    parts = {line.component: display_amount(line.amount) for line in chosen.recipe.lines if line.batch}
    groups = {name: [p for p in now.portions if p.line.component == name] for name in chosen.recipe.components}
    return page(
        request, "card.html", recipe=chosen.recipe, version=chosen, kept=kept, kind=dishes.BY_ID[chosen.recipe.kind].name,
        groups=groups, figures=_card_figures(now.totals, label), label=label, servings=f"{now.totals.servings:.3g}",
        serving_grams=f"{now.totals.serving_grams:,.0f} g", allergens=now.allergens, allergens_unchecked=now.allergens_unchecked, cautions=[c for c in now.cautions if c.caution.on_card],
        newer=[f.name for f in bench.newer_figures(chosen)], parts=parts, note=STANDING_NOTE, place="card", recipe_id=recipe_id, display_amount=display_amount, changed=work.draft.changed,
        missing=[p.line.text for p in now.problems],
    )  # fmt: skip


def _card_figures(totals: Totals, label: str) -> list[tuple[str, str]]:
    """Name and rounded figure: per serving in the US manner, per 100 g in the EU manner with salt for sodium."""
    rows = []
    for nutrient in CARD_FIGURES:
        figure, meta = totals.serving[nutrient], BY_ID[nutrient]
        if label == "us":
            rows.append((meta.name, f"{_said(us_label(nutrient, figure.value), figure)} {meta.unit}"))
            continue
        per_100_g = figure.value / totals.serving_grams * 100 if totals.serving_grams else 0.0
        salt = nutrient == "sodium_mg"
        rows.append(
            (
                f"Salt (sodium × {SALT_PER_SODIUM:g})" if salt else meta.name,
                f"{_said(eu_label(nutrient, per_100_g), figure)} {'g' if salt else meta.unit}",
            )
        )
    return rows


def _said(rounded: str, figure: Figure) -> str:
    """A label figure, or the least it is when a line is missing from it; less than something is then at least nothing."""
    if figure.complete:
        return rounded
    return "at least 0" if rounded.startswith(("less than", "<")) else f"at least {rounded}"
