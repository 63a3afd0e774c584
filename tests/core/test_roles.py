"""What a line is there for, and which swaps that opens."""

from __future__ import annotations

import pytest

from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.catalogue.roles import role_sentence, roles_of
from fresh_ladle.core.foods.pantry import Pantry
from fresh_ladle.core.page.recipe_text import read_recipe
from fresh_ladle.core.recipes.aside import Aside
from fresh_ladle.core.recipes.recipe import Line
from fresh_ladle.core.swaps.apply import swaps_for
from fresh_ladle.core.whole.appraisal import appraise

OIL = "olive-oil-refined"


@pytest.mark.parametrize(
    ("line", "kind", "roles"),
    [
        (Line("a", "3 tbsp oil", "3 tbsp", OIL), "vinaigrette", {"carrier", "cling"}),
        (Line("a", "3 tbsp oil", "3 tbsp", OIL), "legume-dip", {"richness"}),
        (Line("a", "3 tbsp oil", "3 tbsp", OIL), "creamy-dressing", {"cling", "richness"}),
        (Line("a", "3 tbsp oil", "3 tbsp", OIL), "leafy-salad", {"carrier"}),
        (Line("a", "3 tbsp oil", "3 tbsp", OIL, "Dressing"), "leafy-salad", {"carrier", "cling"}),
        (Line("a", "1 tbsp oil, for roasting", "1 tbsp", OIL, preparations=("tray-oil",)),
        "legume-dip", {"roasting"}),
        (Line("a", "1 tbsp oil", "1 tbsp", OIL, "Roasted vegetables"), "grain-salad", {"roasting"}),
        (Line("a", "1 tsp oil", "1 tsp", OIL, asides=frozenset({Aside.GARNISH})), "legume-dip",
        {"finishing"}),
        (Line("a", "1 tsp salt", "1 tsp", "table-salt"), "slaw", {"seasoning"}),
        (Line("a", "1 tsp salt", "1 tsp", "table-salt", preparations=("drawn-salt",)), "slaw",
        {"drawing"}),
        (Line("a", "1 tsp salt", "1 tsp", "table-salt", preparations=("cooking-water",)), "slaw",
        {"cooking-water"}),
        (Line("a", "1 tsp mustard", "1 tsp", "mustard-dijon"), "vinaigrette", set()),
        (Line("a", "1 tbsp miso", "1 tbsp", "miso"), "vinaigrette", set()),
    ],
)  # fmt: skip
def test_roles(line: Line, kind: str, roles: set[str], pantry: Pantry) -> None:
    assert roles_of(line, pantry[line.food or ""], kind) == roles


def test_four_oils_in_one_dish_have_four_sets_of_swaps(
    reader: Reader, knowledge: Knowledge
) -> None:
    text = (
        "Roasted roots with bean cream\nServes 6\n1 lb carrots, roasted\n1 Tbsp olive oil, for"
        " roasting\n## Dressing\n3 Tbsp olive oil\n1 Tbsp lemon juice\n## Top\n1 tsp olive oil, to"
        " drizzle\n1 tsp salt, to draw out water\n"
    )
    now = appraise(read_recipe(text, reader, kind="leafy-salad").recipe, knowledge)
    by_line = {
        p.line.text: {s.id for s in swaps_for(p.line, now.recipe, knowledge)} for p in now.portions
    }
    tray, dressing, drizzle = (ids for text, ids in by_line.items() if "olive oil" in text)
    assert "tray-oil-to-stock" in tray
    assert "oil-to-water-dilution" in dressing
    assert "drizzle-to-zest" in drizzle
    assert not tray & dressing & drizzle
    drawn = next(ids for text, ids in by_line.items() if "draw out" in text)
    assert "drawing-salt-to-pressing" in drawn
    assert "salt-halved-lemon-up" not in drawn


def test_a_role_is_said_in_a_sentence() -> None:
    assert (
        role_sentence("oil", frozenset({"cling", "carrier"}))
        == "Here the oil carries aroma over the leaves and makes the dressing cling."
    )
    assert role_sentence("oil", frozenset()) == ""
