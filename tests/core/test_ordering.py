"""Lines moved by hand: within their component, to the next one, and to a place that is named."""

from __future__ import annotations

import pytest

from fresh_ladle.core.recipes.ordering import in_groups, moved, placed
from fresh_ladle.core.recipes.recipe import Line, Recipe

RECIPE = Recipe(
    "t",
    tuple(
        Line(i, i, "1 g", "water", component)
        for i, component in zip("abcde", ("one", "one", "two", "two", "three"), strict=True)
    ),
    "vinaigrette",
    4,
)


def order(recipe: Recipe) -> str:
    return " ".join(
        f"{name}:{''.join(line.id for line in lines)}" for name, lines in in_groups(recipe).items()
    )


@pytest.mark.parametrize(
    ("line", "by", "after"),
    [
        ("a", 1, "one:ba two:cd three:e"),
        ("b", -1, "one:ba two:cd three:e"),
        ("b", 1, "one:a two:bcd three:e"),
        ("c", -1, "one:abc two:d three:e"),
        ("d", 1, "one:ab two:c three:de"),
        ("e", -1, "one:ab two:cde"),
        ("a", -1, "one:ab two:cd three:e"),
        ("e", 1, "one:ab two:cd three:e"),
    ],
)
def test_a_line_moves_one_place_and_at_the_edge_into_the_next_component(
    line: str, by: int, after: str
) -> None:
    assert order(moved(RECIPE, line, by)) == after


def test_a_lone_line_at_the_end_stays_and_keeps_the_recipe_as_it_is() -> None:
    assert moved(RECIPE, "a", -1) is RECIPE
    assert moved(RECIPE, "e", 1) is RECIPE


@pytest.mark.parametrize(
    ("component", "before", "after"),
    [
        ("two", "c", "one:b two:acd three:e"),
        ("two", "d", "one:b two:cad three:e"),
        ("two", None, "one:b two:cda three:e"),
        ("two", "b", "one:b two:cda three:e"),
        ("new", None, "one:b two:cd three:e new:a"),
        ("one", None, "one:ba two:cd three:e"),
    ],
)
def test_a_line_is_put_where_it_is_dropped(component: str, before: str | None, after: str) -> None:
    assert order(placed(RECIPE, "a", component, before)) == after
