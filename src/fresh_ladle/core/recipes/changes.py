"""What differs between two states of a recipe, as the edits that lead from one to the other."""

from __future__ import annotations

from fresh_ladle.core.recipes.edits import Edit, EditKind
from fresh_ladle.core.recipes.recipe import Line, Recipe
from fresh_ladle.core.words.sentences import capitalized

MAX_TEXT = 60
"""Characters of an added line that its edit keeps."""


def name_of(line: Line) -> str:
    """What the cook calls the line, with a capital."""
    return capitalized(line.named or line.text)


def changes_between(before: Recipe, after: Recipe) -> list[Edit]:
    """Each difference, the dish first and then its lines."""
    had, has = {line.id: line for line in before.lines}, {line.id: line for line in after.lines}
    found = _dish_changes(before, after)
    for line in before.lines:
        if line.id not in has:
            found.append(Edit(EditKind.LEFT_OUT, {"line": line.id, "name": name_of(line)}))
        elif has[line.id] != line:
            found += line_changes(line, has[line.id])
    for line in after.lines:
        if line.id not in had:
            found.append(
                Edit(EditKind.ADDED, {"line": line.id, "text": line.text.strip()[:MAX_TEXT]})
            )
    common = [line.id for line in after.lines if line.id in had]
    if common != [line.id for line in before.lines if line.id in has]:
        found.append(Edit(EditKind.ORDER))
    return found


def _dish_changes(before: Recipe, after: Recipe) -> list[Edit]:
    found = []
    if before.title != after.title:
        found.append(Edit(EditKind.TITLE, {"after": after.title}))
    if before.kind != after.kind:
        found.append(Edit(EditKind.DISH_KIND, {"before": before.kind, "after": after.kind}))
    served, serves = _serving(before, "before"), _serving(after, "after")
    if list(served.values()) != list(serves.values()):
        found.append(Edit(EditKind.SERVING, {**served, **serves}))
    if before.yield_grams != after.yield_grams:
        found.append(Edit(EditKind.YIELD, {"grams": after.yield_grams}))
    if before.served_celsius != after.served_celsius:
        found.append(Edit(EditKind.TEMPERATURE, {"celsius": after.served_celsius}))
    if before.method != after.method:
        found.append(Edit(EditKind.METHOD))
    elif before.rulings != after.rulings:
        found.append(Edit(EditKind.STEP_SET_RIGHT))
    if before.region != after.region:
        found.append(Edit(EditKind.REGION, {"region": after.region.value}))
    return found


def _serving(recipe: Recipe, when: str) -> dict[str, float | None]:
    """What a serving is: its size where that is fixed, else how many there are."""
    fixed = recipe.serving_grams is not None or recipe.serving_ml is not None
    return {
        f"{when}_grams": recipe.serving_grams,
        f"{when}_ml": recipe.serving_ml,
        f"{when}_count": None if fixed else recipe.servings,
    }


def line_changes(before: Line, after: Line) -> list[Edit]:
    """What changed on one line; a doubt answered or set aside counts too."""
    of_line = {"line": before.id, "name": name_of(before)}
    found = []
    if name_of(after) != name_of(before) or before.food != after.food:
        now = name_of(after) if name_of(after) != name_of(before) else ""
        found.append(Edit(EditKind.FOOD, {**of_line, "now": now}))
    if before.amount != after.amount:
        found.append(
            Edit(EditKind.AMOUNT, {**of_line, "before": before.amount, "after": after.amount})
        )
    if before.preparations != after.preparations:
        on = ", ".join(p for p in after.preparations if p not in before.preparations)
        off = ", ".join(p for p in before.preparations if p not in after.preparations)
        found.append(Edit(EditKind.PREPARATION, {**of_line, "on": on, "off": off}))
    if before.eaten != after.eaten:
        found.append(Edit(EditKind.EATEN, {**of_line, "share": after.eaten}))
    if before.component != after.component:
        found.append(Edit(EditKind.COMPONENT, {**of_line, "component": after.component}))
    if before.batch != after.batch:
        found.append(Edit(EditKind.BATCH, of_line))
    kind = EditKind.SETTLED if before.settled != after.settled else EditKind.REWORDED
    return found or [Edit(kind, of_line)]


def former_names(original: Recipe, now: Recipe) -> dict[str, str]:
    """What lines were called in the original, by id, where their food is another now or they are
    gone: the words of the method may still use it."""
    foods = {line.id: line.food for line in now.lines}
    return {
        line.id: line.named or line.text
        for line in original.lines
        if line.id not in foods or foods[line.id] != line.food
    }
