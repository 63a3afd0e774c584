"""Edits as they are kept: a JSON list of objects, each with its kind and its details."""

from __future__ import annotations

import json
from collections.abc import Iterable
from functools import lru_cache

from fresh_ladle.core.recipes.edits import Edit, EditKind


def edits_to_json(edits: Iterable[Edit]) -> str:
    return json.dumps(
        [{"kind": edit.kind.value, **edit.details} for edit in edits], ensure_ascii=False
    )


@lru_cache(maxsize=2048)
def edits_from_json(text: str) -> tuple[Edit, ...]:
    """The edits a JSON list holds. Raises ValueError for a kind that is not known."""
    return tuple(
        Edit(EditKind(row["kind"]), {name: value for name, value in row.items() if name != "kind"})
        for row in json.loads(text)
    )
