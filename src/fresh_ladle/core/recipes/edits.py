"""What was done to a recipe, as kinds with their details. Sentences are made of them when they are
shown."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from enum import StrEnum

from fresh_ladle.core.recipes.dishes import BY_ID as KINDS

MAX_NAMED = 3
"""Edits that a short account names before it only counts."""
BY = "by"
"""The detail that holds the initials of who made an edit, where people sign in."""
Detail = str | float | None
Details = Mapping[str, Detail]


class EditKind(StrEnum):
    """What an edit is about. Edits of a line carry its id as `line` and the cook's name for it as
    `name`."""

    AMOUNT = "amount"
    FOOD = "food"
    PREPARATION = "preparation"
    EATEN = "eaten"
    COMPONENT = "component"
    BATCH = "batch"
    SETTLED = "settled"
    REWORDED = "reworded"
    LEFT_OUT = "left out"
    ADDED = "added"
    ORDER = "order"
    TITLE = "title"
    DISH_KIND = "dish kind"
    SERVING = "serving"
    YIELD = "yield"
    TEMPERATURE = "temperature"
    METHOD = "method"
    STEP_SET_RIGHT = "step set right"
    REGION = "region"
    SWAP = "swap"
    REPAIR = "repair"
    PLAN = "plan"
    ANSWER = "answer"
    SET_ASIDE = "set aside"
    RESTORED = "restored"
    BENCH = "bench"
    EARLIER = "earlier"
    """An edit from a time when only its words were kept, as `text`."""


OF_A_LINE = frozenset(
    {
        EditKind.AMOUNT,
        EditKind.FOOD,
        EditKind.PREPARATION,
        EditKind.EATEN,
        EditKind.COMPONENT,
        EditKind.BATCH,
        EditKind.SETTLED,
        EditKind.REWORDED,
    }
)
"""Edits that are told as the name of the line and what was done to it."""

ADAPTING = frozenset(
    {
        EditKind.AMOUNT,
        EditKind.BATCH,
        EditKind.LEFT_OUT,
        EditKind.ADDED,
        EditKind.SWAP,
        EditKind.REPAIR,
        EditKind.PLAN,
        EditKind.RESTORED,
        EditKind.BENCH,
        EditKind.EARLIER,
    }
)
"""Edits that make another dish of it; the others say what it is."""


@dataclass(frozen=True, slots=True)
class Edit:
    """One thing that was done."""

    kind: EditKind
    details: Details = field(default_factory=dict)


def _food(d: Details) -> str:
    return f"now {d['now']}" if d["now"] else "taken as another food"


def _preparation(d: Details) -> str:
    off = [f"not {p}" for p in str(d["off"]).split(", ") if p]
    on = [p for p in str(d["on"]).split(", ") if p]
    return ", ".join([*on, *off]) or "preparation in another order"


def _serving(d: Details) -> str:
    return f"{_serving_words(d, 'before')} → {_serving_words(d, 'after')}"


def _serving_words(d: Details, when: str) -> str:
    grams, ml, count = (d[f"{when}_{size}"] for size in ("grams", "ml", "count"))
    if grams is not None:
        return f"servings of {grams:g} g"
    if ml is not None:
        return f"servings of {ml:g} ml"
    return f"{count:g} {'serving' if count == 1 else 'servings'}"


def _plan(d: Details) -> str:
    part = "" if d["taken"] == d["steps"] else f", {d['taken']:g} of its {d['steps']:g} steps"
    return f"plan: “{str(d['name']).lower()}”{part}"


_WORDS: dict[EditKind, Callable[[Details], str]] = {
    EditKind.AMOUNT: lambda d: f"{d['before'] or 'to taste'} → {d['after'] or 'to taste'}",
    EditKind.FOOD: _food,
    EditKind.PREPARATION: _preparation,
    EditKind.EATEN: lambda d: f"{float(d['share'] or 0) * 100:.0f}% eaten",
    EditKind.COMPONENT: lambda d: (
        f"moved to {d['component']}" if d["component"] else "no part of its own any more"
    ),
    EditKind.BATCH: lambda d: "another part of a batch",
    EditKind.SETTLED: lambda d: "a question answered",
    EditKind.REWORDED: lambda d: "reworded",
    EditKind.LEFT_OUT: lambda d: f"{d['name']} left out",
    EditKind.ADDED: lambda d: f"added {d['text']}",
    EditKind.ORDER: lambda d: "lines put in another order",
    EditKind.TITLE: lambda d: f"called {d['after']}",
    EditKind.DISH_KIND: lambda d: (
        f"kind: {KINDS[str(d['before'])].name} → {KINDS[str(d['after'])].name}"
    ),
    EditKind.SERVING: _serving,
    EditKind.YIELD: lambda d: (
        f"batch weighed: {d['grams']:g} g" if d["grams"] else "batch weight taken back"
    ),
    EditKind.TEMPERATURE: lambda d: (
        "served as usual" if d["celsius"] is None else f"served at {d['celsius']:g} °C"
    ),
    EditKind.METHOD: lambda d: "method changed",
    EditKind.STEP_SET_RIGHT: lambda d: "a step of the method set right",
    EditKind.REGION: lambda d: f"cups and spoons: {d['region']}",
    EditKind.SWAP: lambda d: f"swap: {str(d['title']).lower()}",
    EditKind.REPAIR: lambda d: f"repair: {str(d['title']).lower()}",
    EditKind.PLAN: _plan,
    EditKind.ANSWER: lambda d: f"answered: {d['answer']}",
    EditKind.SET_ASIDE: lambda d: "question set aside",
    EditKind.RESTORED: lambda d: f"version {d['number']:g} brought back",
    EditKind.BENCH: lambda d: (
        f"seasoned at the bench, {d['count']:g} {'addition' if d['count'] == 1 else 'additions'}"
    ),
    EditKind.EARLIER: lambda d: str(d["text"]),
}


def edit_words(edit: Edit, named: bool = True) -> str:
    """An edit in a cook's words: `Salt: 1 tsp → 1/2 tsp`, or without the name of the line `1 tsp →
    1/2 tsp`."""
    words = _WORDS[edit.kind](edit.details)
    return f"{edit.details['name']}: {words}" if named and edit.kind in OF_A_LINE else words


def edits_words(edits: Sequence[Edit]) -> str:
    """Edits made at once as one short phrase; more than three are counted."""
    more = f" and {len(edits) - MAX_NAMED} more" if len(edits) > MAX_NAMED else ""
    return "; ".join(edit_words(edit) for edit in edits[:MAX_NAMED]) + more


def condensed(edits: Iterable[Edit]) -> list[Edit]:
    """The same edits, with steps of one amount in a row taken as one: 1 tsp → 3/4 → 1/2 is 1 tsp →
    1/2; there and back is nothing."""
    found: list[Edit] = []
    for edit in edits:
        last = found[-1] if found else None
        if last is None or not _goes_on(last, edit):
            found.append(edit)
            continue
        found.pop()
        if last.details["before"] != edit.details["after"]:
            found.append(Edit(EditKind.AMOUNT, {**edit.details, "before": last.details["before"]}))
    return found


def _goes_on(last: Edit, edit: Edit) -> bool:
    """Whether an edit changes the amount of the same line that the last one changed, from where
    that left it, and is by the same person."""
    return (
        last.kind is edit.kind is EditKind.AMOUNT
        and last.details.get(BY) == edit.details.get(BY)
        and all(last.details[key] == edit.details[key] for key in ("line", "name"))
        and last.details["after"] == edit.details["before"]
    )
