"""What leaves a service as a file: the day as a calendar, the shopping list as a sheet, labels as a
PDF."""

from __future__ import annotations

from datetime import timedelta
from typing import Annotated, Any

from fastapi import Form, Request
from fastapi.responses import HTMLResponse, Response

from fresh_ladle.core.hold.keeping import checked_days
from fresh_ladle.core.recipes.region import Region
from fresh_ladle.core.service.day import DishPlan, Service
from fresh_ladle.core.service.scaling import weight_words
from fresh_ladle.core.words.sentences import listed
from fresh_ladle.formats.calendar import calendar_of
from fresh_ladle.formats.labels import (
    MOST_LABELS,
    Label,
    LabelGrid,
    checked_counts,
    grid_of,
    labels_pdf,
    single_labels_pdf,
)
from fresh_ladle.formats.paper import paper_pdf
from fresh_ladle.formats.shopping_list import shopping_csv, shopping_xlsx
from fresh_ladle.store.services.services import KeptService
from fresh_ladle.store.settings import save_label_grid, settings
from fresh_ladle.web.door.guarded import guarded_router
from fresh_ladle.web.places.service.paper import service_tables
from fresh_ladle.web.places.service.routes import (
    bought_for,
    gates_of,
    loaded,
    loaded_whole,
    service_page,
)
from fresh_ladle.web.shared.gate import let_through
from fresh_ladle.web.shared.typed import whole_number
from fresh_ladle.web.state import workbench_of
from fresh_ladle.web.work.papers import pdf_of

router = guarded_router("/services/{service_id}")
MOST_DAYS_TYPED = 9999
FOOT = "Times, keep times and figures are estimates. Local food codes and licensed practice decide."
PAPER = {Region.US: "us-letter", Region.METRIC: "a4", Region.IMPERIAL: "a4"}
_XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"


def _file(content: bytes | str, media_type: str, name: str) -> Response:
    headers = {"Content-Disposition": f'attachment; filename="{name}"'}
    return Response(content, media_type=media_type, headers=headers)


@router.get("/day.ics")
def calendar(request: Request, service_id: int) -> Response:
    kept, found = loaded_whole(request, service_id)
    return _file(
        calendar_of(found, kept.name, kept.id),
        "text/calendar; charset=utf-8",
        f"service-{service_id}.ics",
    )


@router.get("/shopping.csv")
def shopping_as_csv(request: Request, service_id: int, week: bool = False) -> Response:
    _, bought = bought_for(request, service_id, week)
    return _file(shopping_csv(bought), "text/csv; charset=utf-8", f"to-buy-{service_id}.csv")


@router.get("/shopping.xlsx")
def shopping_as_xlsx(request: Request, service_id: int, week: bool = False) -> Response:
    _, bought = bought_for(request, service_id, week)
    return _file(shopping_xlsx(bought), _XLSX, f"to-buy-{service_id}.xlsx")


@router.get("/day.pdf")
def day_as_pdf(request: Request, service_id: int) -> Response:
    """The day on paper: what is done when and by whom, amounts, what is bought, how long it
    keeps."""
    kept, found = loaded_whole(request, service_id)
    tables = service_tables(found, kept)
    under = f"eaten {found.ask.eaten:%A %d %B %Y, %H:%M}{f', {kept.place}' if kept.place else ''}"
    pdf = pdf_of(
        workbench_of(request), paper_pdf, kept.name, under, tables, FOOT, PAPER[found.ask.region]
    )
    return _file(pdf, "application/pdf", f"service-{service_id}.pdf")


@router.get("/labels", response_class=HTMLResponse)
def labels(request: Request, service_id: int) -> HTMLResponse:
    """What is printed on tubs, and how many."""
    kept, found = loaded(request, service_id)
    return _labels_page(request, kept, found)


def _labels_page(
    request: Request,
    kept: KeptService,
    found: Service,
    error: str = "",
    typed: dict[str, Any] | None = None,
) -> HTMLResponse:
    with workbench_of(request).store() as connection:
        custom = settings(connection)
    grid = grid_of(custom.label_grid) if custom.label_grid else LabelGrid()
    shown = [_label(found, plan, plan.keeping.days, custom.practice) for plan in found.plans]
    usual = {
        "counts": [f"{plan.dish.servings:g}" for plan in found.plans],
        "grid": grid.written,
        "skip": "0",
    }
    days = [str(plan.keeping.days) for plan in found.plans]
    return service_page(
        request,
        "places/service/labels.html",
        kept,
        found,
        "labels",
        422 if error else 200,
        labels=shown,
        typed={"days": days, **usual, **(typed or {})},
        error=error,
    )


def _label(found: Service, plan: DishPlan, days: int, practice: str) -> Label:
    """What stands on a tub of one dish that keeps so many days."""
    made = found.made_on(plan)
    appraisal = plan.dish.appraisal
    named = [a.name for a in appraisal.allergens]
    perhaps = [a.name for a in appraisal.may_contain]
    contains = f"Contains {listed(named)}." if named else "None of the listed allergens."
    if perhaps:
        contains += f" Perhaps {listed(perhaps)}: see the packs."
    if unchecked := appraisal.allergens_unchecked:
        contains += f" Not checked: {listed(unchecked)}."
    by = made + timedelta(days=max(0, days - 1))
    grams = sum(p.in_bowl.value for p in appraisal.portions) * plan.dish.factor / plan.dish.servings
    return Label(
        appraisal.recipe.title,
        f"{made:%d %b}".lstrip("0"),
        f"{by:%a %d %b %Y}".replace(" 0", " ") if days else "the same meal",
        contains,
        "Keep at 5 °C (41 °F) or below",
        f"1 serving, about {weight_words(grams)}",
        practice,
    )


@router.post("/labels.pdf")
def labels_as_pdf(
    request: Request,
    service_id: int,
    counts: Annotated[list[str] | None, Form(max_length=12)] = None,
    days: Annotated[list[str] | None, Form(max_length=12)] = None,
    grid: Annotated[str, Form(max_length=80)] = "",
    skip: Annotated[str, Form(max_length=8)] = "0",
    each: Annotated[bool, Form()] = False,
) -> Response:
    """The labels as a PDF: on sheets, or the first of each dish on a page of its own. A keep time
    longer than the rule is refused with the reason, and nothing is printed."""
    kept, found = loaded_whole(request, service_id)
    typed = {"counts": counts or [], "days": days or [], "grid": grid, "skip": skip}
    try:
        for gate in gates_of(request, kept):
            let_through(gate)
        wanted = grid_of(grid)
        with workbench_of(request).store() as connection:
            practice = settings(connection).practice
        numbers = checked_counts(
            [whole_number(count, "labels", 0, MOST_LABELS) for count in counts or []]
        )
        made: list[Label] = []
        for plan, number, keeps in zip(found.plans, numbers, days or [], strict=True):
            kept_days = checked_days(whole_number(keeps, "days", 0, MOST_DAYS_TYPED), plan.keeping)
            made += [_label(found, plan, kept_days, practice)] * (
                min(1, number) if each else number
            )
        if each:
            pdf = pdf_of(workbench_of(request), single_labels_pdf, made, wanted)
        else:
            free = whole_number(skip, "places left free", 0, wanted.columns * wanted.rows - 1)
            pdf = pdf_of(workbench_of(request), labels_pdf, made, wanted, free)
    except ValueError as problem:
        return _labels_page(request, kept, found, str(problem), typed)
    with workbench_of(request).store() as connection:
        save_label_grid(connection, wanted.written)
    return _file(pdf, "application/pdf", f"labels-{service_id}.pdf")
