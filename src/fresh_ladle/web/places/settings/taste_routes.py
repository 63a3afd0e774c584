"""How taste is reckoned: every number of the flavor model, with its grade and source."""

from __future__ import annotations

from fastapi import Request
from fastapi.responses import HTMLResponse

from fresh_ladle.core.flavor.parameters import (
    AXES,
    BY_ID,
    INTERACTIONS,
    MAX_SALT_LIFT,
    MAY_NOT_NOTICE,
)
from fresh_ladle.core.recipes.dishes import KINDS
from fresh_ladle.web.door.guarded import guarded_router
from fresh_ladle.web.shared.page import page
from fresh_ladle.web.state import workbench_of

router = guarded_router()


@router.get("/taste", response_class=HTMLResponse)
def taste(request: Request) -> HTMLResponse:
    knowledge = workbench_of(request).knowledge
    windows = [(kind.name, list(knowledge.windows[kind.id].values())) for kind in KINDS]
    return page(
        request,
        "places/settings/taste.html",
        axes=AXES,
        by_id=BY_ID,
        interactions=INTERACTIONS,
        windows=windows,
        place="taste",
        may_not_notice=MAY_NOT_NOTICE,
        most_lift=MAX_SALT_LIFT,
    )
