"""The order of lines: by component, and within each as the cook puts them."""

from __future__ import annotations

from dataclasses import replace

from fresh_ladle.core.recipes.recipe import Line, Recipe


def in_groups(recipe: Recipe) -> dict[str, list[Line]]:
    """Lines by component, components in the order in which they first appear."""
    groups: dict[str, list[Line]] = {name: [] for name in recipe.components}
    for line in recipe.lines:
        groups[line.component].append(line)
    return groups


def moved(recipe: Recipe, line_id: str, by: int) -> Recipe:
    """The recipe with a line one place up (-1) or down (+1). At the edge of its component it joins
    the next one; at the end of the recipe nothing happens."""
    line, groups = recipe.line(line_id), in_groups(recipe)
    names, mine = list(groups), groups[line.component]
    place = mine.index(line)
    if 0 <= place + by < len(mine):
        mine[place], mine[place + by] = mine[place + by], mine[place]
    else:
        next_group = names.index(line.component) + by
        if not 0 <= next_group < len(names):
            return recipe
        mine.remove(line)
        joined = groups[names[next_group]]
        joined.insert(0 if by > 0 else len(joined), replace(line, component=names[next_group]))
    return _regrouped(recipe, groups)


def placed(recipe: Recipe, line_id: str, component: str, before: str | None = None) -> Recipe:
    """The recipe with a line in a component, before a line of it or at its end; a new component
    comes last."""
    line, groups = recipe.line(line_id), in_groups(recipe)
    groups[line.component].remove(line)
    group = groups.setdefault(component, [])
    ids = [other.id for other in group]
    group.insert(
        ids.index(before) if before in ids else len(group), replace(line, component=component)
    )
    return _regrouped(recipe, groups)


def _regrouped(recipe: Recipe, groups: dict[str, list[Line]]) -> Recipe:
    return replace(recipe, lines=tuple(line for group in groups.values() for line in group))
