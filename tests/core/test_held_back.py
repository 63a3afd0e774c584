"""Lines as hurried cooks write them, with the food meant and what it weighed; figures of each set
may not fall."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import pytest
from scripts.measure_reading import measure_bowl

from fresh_ladle.core.amounts.bowl import portions
from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.recipes.recipe import Recipe

SETS = sorted((Path(__file__).parent.parent / "lines").glob("*.tsv"))


@pytest.mark.parametrize("path", SETS, ids=lambda p: p.stem)
def test_held_back_lines(path: Path, reader: Reader, knowledge: Knowledge) -> None:
    wrong, outside, overconfident, total, weighed = [], [], [], 0, 0
    for row in path.read_text(encoding="utf-8").splitlines():
        text, foods, grams = row.split("\t")
        line = reader.read_line(text)[0].line
        total += 1
        if line.food not in foods.split(";"):
            wrong.append(text)
            if line.confidence > 0.9:
                overconfident.append(text)
        elif grams:
            weighed += 1
            one = Recipe("line", (replace(line, id="l"),), "vinaigrette", 1)
            found = portions(one, knowledge.pantry, knowledge.preparations)[0]
            if not any(r.low <= float(grams) <= r.high for r in (found.measured, found.counted)):
                outside.append(text)
    assert not overconfident
    assert len(wrong) / total <= 0.05, wrong
    assert len(outside) / weighed <= 0.07, outside


SPOKEN = sorted((Path(__file__).parent.parent / "lines").glob("*.txt"))


@pytest.mark.parametrize("path", SPOKEN, ids=lambda p: p.stem)
def test_what_hurried_cooks_say_reaches_the_bowl(
    path: Path, reader: Reader, knowledge: Knowledge
) -> None:
    foods, in_bounds, overconfident = measure_bowl(path, reader, knowledge)
    assert foods >= 0.95
    assert in_bounds >= 0.92
    assert overconfident == 0


SAME_DISH = {
    "us": (
        "1 cup canned chickpeas, drained\n2 cups arugula\n1/4 cup crumbled feta\n3 tablespoons"
        " olive oil\n1 zucchini\n2 tsp sugar"
    ),
    "metric": (
        "160 g tinned chickpeas, drained\n40 g rocket\n40 g feta\n45 ml olive oil\n1 courgette\n10"
        " g caster sugar"
    ),
    "imperial": (
        "160 g tinned chick peas, drained\n2 handfuls rocket\n1 1/2 oz feta\n3 tbsp olive oil\n1"
        " courgette\n2 tsp caster sugar"
    ),
}


def test_the_same_dish_in_three_wordings_gives_the_same_figures_within_its_range(
    reader: Reader, knowledge: Knowledge
) -> None:
    from fresh_ladle.core.page.recipe_text import read_recipe
    from fresh_ladle.core.recipes.region import Region
    from fresh_ladle.core.whole.appraisal import appraise

    worked = [
        appraise(
            read_recipe(f"Dish\nServes 4\n{text}", reader, region=Region(region)).recipe, knowledge
        )
        for region, text in SAME_DISH.items()
    ]
    for nutrient in ("energy_kcal", "sodium_mg", "fat_g", "fiber_g", "protein_g"):
        first, *others = (a.totals.serving[nutrient] for a in worked)
        for other in others:
            assert first.low <= other.high, nutrient
            assert other.low <= first.high, nutrient
            assert other.value == pytest.approx(first.value, rel=0.1), nutrient
