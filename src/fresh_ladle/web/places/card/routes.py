"""What leaves the workbench: the card on screen and on paper, alone or many, and a recipe as a
file."""

from __future__ import annotations

import sqlite3
from collections.abc import Callable, Sequence
from typing import Annotated, Any

from fastapi import Form, Query, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response
from markupsafe import Markup

from fresh_ladle.core.card.audience import Audience
from fresh_ladle.core.card.content import MOST_NOTE, CardChoices
from fresh_ladle.core.card.facts import MOST_FACTS
from fresh_ladle.core.card.variations import MOST_CHOSEN
from fresh_ladle.core.claims.dish_figures import reference_amount
from fresh_ladle.core.errors import Refused
from fresh_ladle.core.nutrients.declaration import Regime, declared_figures
from fresh_ladle.core.nutrients.wording import nutrient_amount
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.core.whole.appraisal import Appraisal
from fresh_ladle.data.foods import slug
from fresh_ladle.formats.card_sheet import BY_ID as FORMS
from fresh_ladle.formats.card_sheet import FORMS as ALL_FORMS
from fresh_ladle.formats.card_sheet import MOST_CARDS, CardForm, booklet_pdf, card_pdf, card_png
from fresh_ladle.formats.json_ld import json_ld
from fresh_ladle.formats.sheet import csv_of, xlsx_of
from fresh_ladle.store.recipes.cards import (
    KeptChoices,
    hand_out_all_the_same,
    let_word_stand,
    save_card_choices,
    words_let_stand,
)
from fresh_ladle.store.recipes.drafts import draft
from fresh_ladle.store.recipes.recipes import ids_by_title, versions
from fresh_ladle.store.settings import settings
from fresh_ladle.store.short_links import card_code, card_of_code
from fresh_ladle.web.door.guarded import guarded_router
from fresh_ladle.web.places.card.made_card import made_card, marks_of, sheet_of
from fresh_ladle.web.shared.gate import MOST_REASON, gate_of, let_through
from fresh_ladle.web.shared.page import load_work, page
from fresh_ladle.web.shared.phone import phone_link
from fresh_ladle.web.state import Workbench, workbench_of
from fresh_ladle.web.work.papers import pdf_of, spelled

router = guarded_router()
_WRITERS: dict[str, tuple[str, Callable[[Appraisal], str | bytes]]] = {
    "jsonld": ("application/ld+json", json_ld),
    "csv": ("text/csv; charset=utf-8", csv_of),
    "xlsx": ("application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", xlsx_of),
}
_HOLDS = {"hold": True, "cannot be said": None, "do not hold": False}
Picked = Annotated[list[str] | None, Form(max_length=200)]


@router.get("/recipes/{recipe_id}/export/{form}")
def export(request: Request, recipe_id: int, form: str) -> Response:
    """The draft as schema.org JSON-LD, CSV or XLSX."""
    workbench = workbench_of(request)
    with workbench.store() as connection:
        work = load_work(workbench, connection, recipe_id)
        now = workbench.appraise(work.draft.recipe)
        let_through(gate_of(connection, recipe_id, versions(connection, recipe_id)[-1].number, now))
    name = slug(work.draft.recipe.title) or "recipe"
    if form not in _WRITERS:
        raise RecipeError(f"a recipe cannot be written as {form!r}: choose jsonld, csv or xlsx")
    kind, write = _WRITERS[form]
    return _file(write(now), kind, f"{name}.{form}")


def _file(content: bytes | str, kind: str, name: str) -> Response:
    return Response(
        content, media_type=kind, headers={"Content-Disposition": f'attachment; filename="{name}"'}
    )


@router.get("/recipes/{recipe_id}/card", response_class=HTMLResponse)
def card(
    request: Request, recipe_id: int, version_number: int | None = None, label: str = ""
) -> HTMLResponse:
    """The sheet to hand out, for one accepted version; figures rounded as the chosen label rules
    say."""
    workbench = workbench_of(request)
    with workbench.store() as connection:
        work = load_work(workbench, connection, recipe_id)
        made = made_card(workbench, connection, recipe_id, version_number, label)
        kept, custom = versions(connection, recipe_id), settings(connection)
        let_stand = words_let_stand(connection, recipe_id)
        gate = gate_of(connection, recipe_id, made.version.number, made.dish)
        code = card_code(connection, recipe_id, made.version.number)
        link = None if gate.shut else phone_link(request, code)
    claims = made.claims
    return page(
        request,
        "places/card/page.html",
        card=made.card,
        picture=Markup(sheet_of(made.card, workbench.knowledge)["picture"]),
        version=made.version,
        kept=kept,
        label=made.choices.regime.value,
        choices=made.choices,
        chosen=[v.key for v in made.card.variations],
        claims={word: [c for c in claims if c.holds is holds] for word, holds in _HOLDS.items()},
        reference=reference_amount(made.dish).words,
        marks=marks_of(made, claims, workbench.knowledge),
        let_stand=let_stand,
        audiences=list(Audience),
        forms=ALL_FORMS,
        most_chosen=MOST_CHOSEN,
        most_facts=MOST_FACTS,
        exact=_exact(made.dish, made.choices) if custom.rounding == "both" else [],
        newer=[f.name for f in workbench.newer_figures(made.version)],
        changed=work.draft.changed,
        most_note=MOST_NOTE,
        gate=gate,
        link=link,
        most_reason=MOST_REASON,
        place="card",
        recipe_id=recipe_id,
    )


@router.get("/handout/{code}", response_class=HTMLResponse)
def handed_out(request: Request, code: str) -> HTMLResponse:
    """A card as whoever has its link sees it. Raises RecipeMissing for a link to none, Refused where
    it is not to go out."""
    workbench = workbench_of(request)
    with workbench.store() as connection:
        recipe_id, number = card_of_code(connection, code)
        made = made_card(workbench, connection, recipe_id, number)
        gate = gate_of(connection, recipe_id, number, made.dish)
    if gate.shut:
        # Who asks is nobody of the practice: for whom it was made is not told.
        raise Refused("this card is not handed out just now: ask whoever gave you its link")
    return page(
        request,
        "places/card/handed.html",
        card=made.card,
        picture=Markup(sheet_of(made.card, workbench.knowledge)["picture"]),
        gate=gate,
        exact=[],
    )


def _exact(dish: Appraisal, choices: CardChoices) -> list[tuple[str, str]]:
    """The figures as they were worked out, before rounding."""
    return [
        (f.name, nutrient_amount(f.nutrient, f.value))
        for f in declared_figures(dish.totals, Regime(choices.regime))
    ]


@router.post("/recipes/{recipe_id}/card")
def choose(
    request: Request,
    recipe_id: int,
    version_number: Annotated[int, Form()],
    audience: Picked = None,
    variation: Picked = None,
    fact: Picked = None,
    note: Annotated[str, Form(max_length=MOST_NOTE)] = "",
    label: Annotated[str, Form(max_length=4)] = "",
) -> Response:
    """Keeps what stands on the card of a recipe: for whom, which variations and facts, and words of
    one's own."""
    with workbench_of(request).store() as connection:
        load_work(workbench_of(request), connection, recipe_id)
        chosen = KeptChoices(
            tuple(a for a in audience or () if a in set(Audience)),
            tuple(variation or ())[:MOST_CHOSEN],
            tuple(fact or ())[:MOST_FACTS],
            note.strip(),
        )
        save_card_choices(connection, recipe_id, chosen)
    return RedirectResponse(
        f"/recipes/{recipe_id}/card?version_number={version_number}&label={label}", status_code=303
    )


@router.post("/recipes/{recipe_id}/card/let-stand")
def let_stand(
    request: Request,
    recipe_id: int,
    rule: Annotated[str, Form(max_length=40)],
    words: Annotated[str, Form(max_length=200)],
    version_number: Annotated[int, Form()],
) -> Response:
    """The educator decides: marked words stay, and the record says since when. The card says
    nothing of it."""
    workbench = workbench_of(request)
    if rule not in [r.id for r in workbench.knowledge.handouts.word_rules]:
        raise RecipeError(f"no rule is called {rule!r}")
    with workbench.store() as connection:
        load_work(workbench, connection, recipe_id)
        let_word_stand(connection, recipe_id, rule, words)
    return RedirectResponse(
        f"/recipes/{recipe_id}/card?version_number={version_number}", status_code=303
    )


@router.post("/recipes/{recipe_id}/card/all-the-same")
def all_the_same(
    request: Request,
    recipe_id: int,
    reason: Annotated[str, Form(max_length=MOST_REASON)],
    version_number: Annotated[int, Form()],
) -> Response:
    """Opens the gate for what this version breaks now, with the reason, which is kept."""
    if not reason.strip():
        raise RecipeError("say in a word why it is handed out all the same; nothing was changed")
    workbench = workbench_of(request)
    with workbench.store() as connection:
        made = made_card(workbench, connection, recipe_id, version_number)
        gate = gate_of(connection, recipe_id, version_number, made.dish)
        hand_out_all_the_same(connection, recipe_id, version_number, gate.words, reason.strip())
    return RedirectResponse(
        f"/recipes/{recipe_id}/card?version_number={version_number}", status_code=303
    )


@router.get("/recipes/{recipe_id}/card.{kind}")
def printed(
    request: Request,
    recipe_id: int,
    kind: str,
    form: str = "letter",
    version_number: int | None = None,
    label: str = "",
    two: bool = False,
) -> Response:
    """The card as PDF in one of its forms, or as PNG."""
    workbench = workbench_of(request)
    with workbench.store() as connection:
        made = made_card(workbench, connection, recipe_id, version_number, label)
        let_through(gate_of(connection, recipe_id, made.version.number, made.dish))
    sheet, name = sheet_of(made.card, workbench.knowledge), slug(made.card.title) or "card"
    if kind == "png":
        return _file(card_png(spelled(workbench, sheet), _form(form)), "image/png", f"{name}.png")
    if kind != "pdf":
        raise RecipeError(f"a card cannot be written as {kind!r}: choose pdf or png")
    return _file(
        pdf_of(workbench, card_pdf, [sheet, sheet] if two else [sheet], _form(form), two),
        "application/pdf",
        f"{name}.pdf",
    )


def _form(form: str) -> CardForm:
    if form not in FORMS:
        raise RecipeError(f"a card is one of {', '.join(FORMS)}; {form[:20]!r} was asked for")
    return FORMS[form]


@router.get("/cards.pdf")
def many(
    request: Request,
    form: str = "letter",
    two: bool = False,
    recipe: Annotated[Sequence[int] | None, Query(max_length=MOST_CARDS)] = None,
) -> Response:
    """The cards of many recipes in one booklet: those that are named, or all on the shelf by
    title."""
    workbench = workbench_of(request)
    with workbench.store() as connection:
        ids = list(recipe or ()) or ids_by_title(connection, MOST_CARDS + 1)
        made, left_out = _sheets(workbench, connection, ids)
    pdf = pdf_of(workbench, booklet_pdf, made, left_out, _form(form), two)
    return _file(pdf, "application/pdf", "cards.pdf")


def _sheets(
    workbench: Workbench, connection: sqlite3.Connection, ids: Sequence[int]
) -> tuple[list[dict[str, Any]], list[tuple[str, str]]]:
    """The sheets of recipes, and by title, with the reason, those that have none. Raises
    RecipeMissing."""
    made, left_out = [], []
    for recipe_id in ids:
        try:
            found = made_card(workbench, connection, recipe_id)
            let_through(gate_of(connection, recipe_id, found.version.number, found.dish))
            made.append(sheet_of(found.card, workbench.knowledge))
        except Refused as refusal:
            left_out.append((draft(connection, recipe_id).recipe.title, str(refusal)))
    return made, left_out
