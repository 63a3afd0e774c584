"""What is asked of the Shelf, read from an address; the same words choose the recipes to plan
for."""

from __future__ import annotations

from typing import Annotated
from urllib.parse import urlencode

from fastapi import Depends, Query

from fresh_ladle.core.cautions.allergens import ALLERGENS
from fresh_ladle.core.recipes import dishes
from fresh_ladle.store.recipes.shelf import STATES, Meeting, Order, ShelfQuery
from fresh_ladle.web.shared.typed import row_id


def _asked(
    q: Annotated[str, Query(max_length=200)] = "",
    kind: str = "",
    state: str = "",
    against: str = "",
    meeting: str = "",
    school: Annotated[str, Query(max_length=80)] = "",
    free: Annotated[list[str] | None, Query()] = None,
    order: str = "",
) -> ShelfQuery:
    """The question of an address; a word that means nothing asks nothing."""
    return ShelfQuery(
        q.strip(),
        kind if kind in dishes.BY_ID else "",
        state if state in STATES else "",
        row_id(against),
        Meeting(meeting) if meeting in set(Meeting) else None,
        tuple(a for a in free or [] if a in ALLERGENS),
        school,
        Order(order) if order in set(Order) else Order.WORKED_LAST,
    )


Asked = Annotated[ShelfQuery, Depends(_asked)]


def address(path: str, question: ShelfQuery, start: int = 0) -> str:
    """Where the same question is asked, from the `start`th recipe on."""
    words = {
        "q": question.text,
        "kind": question.kind,
        "state": question.state,
        "against": question.profile_id or "",
        "meeting": question.meeting or "",
        "school": question.school,
        "free": list(question.free_from),
        "order": question.order.value,
        "start": start,
    }
    return f"{path}?" + urlencode(
        {name: value for name, value in words.items() if value}, doseq=True
    )
