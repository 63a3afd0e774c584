"""What a practice's own eaters have shown, and the switch that lets it move where dishes are
liked."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated

from fastapi import Form, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from fresh_ladle.core.tasting.eaters import borne_out_sentence
from fresh_ladle.data.load import load_knowledge
from fresh_ladle.store.settings import KEPT_OUT, USED, save_settings, settings
from fresh_ladle.store.tastings.tastings import tastings
from fresh_ladle.web.door.guarded import guarded_router
from fresh_ladle.web.places.tasting.eaters_view import foretold_rows, leaning_rows
from fresh_ladle.web.places.tasting.foretold_chart import foretold_chart
from fresh_ladle.web.shared.page import page
from fresh_ladle.web.state import workbench_of
from fresh_ladle.web.work.learning import foretold, learned_from

router = guarded_router("/eaters")


@router.get("", response_class=HTMLResponse)
def show(request: Request) -> HTMLResponse:
    """By how much windows were moved, by how many tasters, and how well the model foretold what
    they noticed."""
    workbench = workbench_of(request)
    with workbench.store() as connection:
        rounds, used = tastings(connection), settings(connection).eaters == USED
    compared = foretold(rounds, workbench.appraise)
    said = borne_out_sentence(compared) if compared else ""
    return page(
        request,
        "places/tasting/eaters.html",
        leanings=leaning_rows(workbench.eaters, load_knowledge().windows),
        used=used,
        closed=len(learned_from(rounds)),
        compared=foretold_rows(compared, {t.id: t.samples[0].recipe.title for t in rounds}),
        said=said,
        chart=foretold_chart(compared, said) if compared else "",
        place="settings",
    )


@router.post("")
def switch(request: Request, use: Annotated[bool, Form()]) -> Response:
    """Lets the practice's tastings move the windows, or takes that back."""
    workbench = workbench_of(request)
    with workbench.store() as connection:
        save_settings(connection, replace(settings(connection), eaters=USED if use else KEPT_OUT))
        workbench.learn_from_eaters(connection)
    return RedirectResponse("/eaters", status_code=303)
