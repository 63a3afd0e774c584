"""What differs between two states of a recipe, in the words a cook would use."""

from __future__ import annotations

from collections.abc import Iterable

from fresh_ladle.core.recipes.dishes import BY_ID as KINDS
from fresh_ladle.core.recipes.recipe import Line, Recipe
from fresh_ladle.core.sentences import capitalized

MAX_NAMED = 3
"""Changes that a short account names before it only counts."""


def name_of(line: Line) -> str:
    """What the cook calls the line, with a capital."""
    name = line.named or line.text
    return capitalized(name)


def changes_between(before: Recipe, after: Recipe) -> list[str]:
    """Each difference in a few words, the dish first and then its lines: `Salt: 1 tsp → 1/2 tsp`, `Parsley left
    out`."""
    had, has = {line.id: line for line in before.lines}, {line.id: line for line in after.lines}
    said = _dish_changes(before, after)
    for line in before.lines:
        if line.id not in has:
            said.append(f"{name_of(line)} left out")
        elif has[line.id] != line:
            said += line_changes(line, has[line.id])
    said += [f"added {line.text.strip()[:60]}" for line in after.lines if line.id not in had]
    common = [line.id for line in after.lines if line.id in had]
    if common != [line.id for line in before.lines if line.id in has]:
        said.append("lines put in another order")
    return said


def words_of_changes(before: Recipe, after: Recipe) -> str:
    """All differences as one short phrase; more than three are counted."""
    said = changes_between(before, after)
    more = f" and {len(said) - MAX_NAMED} more" if len(said) > MAX_NAMED else ""
    return "; ".join(said[:MAX_NAMED]) + more


def _dish_changes(before: Recipe, after: Recipe) -> list[str]:
    said = []
    if before.title != after.title:
        said.append(f"called {after.title}")
    if before.kind != after.kind:
        said.append(f"kind: {KINDS[before.kind].name} → {KINDS[after.kind].name}")
    if _serving_words(before) != _serving_words(after):
        said.append(f"{_serving_words(before)} → {_serving_words(after)}")
    if before.yield_grams != after.yield_grams:
        said.append(f"batch weighed: {after.yield_grams:g} g" if after.yield_grams else "batch weight taken back")
    if before.served_celsius != after.served_celsius:
        said.append("served as usual" if after.served_celsius is None else f"served at {after.served_celsius:g} °C")
    if before.method != after.method:
        said.append("method changed")
    if before.region != after.region:
        said.append(f"cups and spoons: {after.region.value}")
    return said


def _serving_words(recipe: Recipe) -> str:
    if recipe.serving_grams is not None:
        return f"servings of {recipe.serving_grams:g} g"
    if recipe.serving_ml is not None:
        return f"servings of {recipe.serving_ml:g} ml"
    return f"{recipe.servings:g} {'serving' if recipe.servings == 1 else 'servings'}"


def line_changes(before: Line, after: Line) -> list[str]:
    """What changed on one line; a doubt answered or set aside counts too."""
    name, said = name_of(before), []
    if name_of(after) != name or before.food != after.food:
        said.append(f"{name}: now {name_of(after)}" if name_of(after) != name else f"{name}: taken as another food")
    if before.amount != after.amount:
        said.append(f"{name}: {before.amount or 'to taste'} → {after.amount or 'to taste'}")
    if before.preparations != after.preparations:
        on = [p for p in after.preparations if p not in before.preparations]
        off = [p for p in before.preparations if p not in after.preparations]
        said.append(f"{name}: {', '.join([*on, *(f'not {p}' for p in off)]) or 'preparation in another order'}")
    if before.eaten != after.eaten:
        said.append(f"{name}: {after.eaten * 100:.0f}% eaten")
    if before.component != after.component:
        said.append(
            f"{name}: moved to {after.component}" if after.component else f"{name}: no part of its own any more"
        )
    if before.batch != after.batch:
        said.append(f"{name}: another part of a batch")
    return said or ([f"{name}: a question answered"] if before.settled != after.settled else [f"{name}: reworded"])


def condensed(edits: Iterable[str]) -> list[str]:
    """Edits as they were named, with steps of one amount in a row told as one: 1 tsp → 3/4 → 1/2 is 1 tsp → 1/2."""
    told: list[str] = []
    for edit in edits:
        name, _, step = edit.partition(": ")
        start, arrow, end = step.partition(" → ")
        if arrow and told and told[-1].startswith(f"{name}: ") and told[-1].endswith(f" → {start}"):
            first = told.pop().partition(": ")[2].partition(" → ")[0]
            if first != end:
                told.append(f"{name}: {first} → {end}")
        else:
            told.append(edit)
    return told
