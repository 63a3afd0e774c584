"""Ratios: every step of the slider is the recipe typed with those amounts, and what is said of them
holds."""

from __future__ import annotations

import pytest

from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.compose.ratio import MAX_POINTS, TOGETHER, Ratio, how_far, ratio, side_called
from fresh_ladle.core.foods.nutrient import HEADLINE
from fresh_ladle.core.nutrients.targets import Side, Target
from fresh_ladle.core.page.recipe_text import read_recipe
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.core.whole.appraisal import Appraisal, appraise
from fresh_ladle.data.tables import toml_of

DEMO = toml_of("demo.toml")["recipe"]
DIP, NOODLES, DRESSING = (
    "Artichoke and white-bean dip",
    "Peanut-lime noodle salad",
    "Tarragon-buttermilk dressing",
)


def demo(title: str, knowledge: Knowledge, reader: Reader) -> Appraisal:
    entry = next(e for e in DEMO if e["text"].strip().startswith(title))
    return appraise(read_recipe(entry["text"], reader, kind=entry["kind"]).recipe, knowledge)


def walked(
    title: str,
    names: list[str],
    knowledge: Knowledge,
    reader: Reader,
    targets: tuple[Target, ...] = (),
) -> Ratio:
    now = demo(title, knowledge, reader)
    first, *rest = (side_called(name, now, reader) for name in names)
    return ratio(now, first, rest[0] if rest else None, knowledge, targets)


WALKS = [
    (DIP, ["white beans", "artichoke"]),
    (DIP, ["white beans", "celery root"]),
    (DIP, ["1/4 to 1 tsp salt"]),
    (DIP, ["lemon juice"]),
    (NOODLES, ["noodles", "red cabbage"]),
]


@pytest.mark.parametrize(("title", "names"), WALKS, ids=[", ".join(names) for _, names in WALKS])
def test_every_step_is_the_recipe_typed_with_those_amounts_to_the_digit(
    title: str, names: list[str], knowledge: Knowledge, reader: Reader
) -> None:
    found = walked(title, names, knowledge, reader)
    assert 3 <= len(found.points) <= MAX_POINTS
    for point in found.points:
        components = point.recipe.components
        typed = [title, f"Serves {point.recipe.servings:g}"]
        for component in components:
            typed += [f"## {component}"] if component else []
            typed += [x.text for x in point.recipe.lines if x.component == component]
        again = appraise(
            read_recipe("\n".join(typed), reader, kind=point.recipe.kind).recipe, knowledge
        )
        for nutrient in HEADLINE:
            one, other = point.after.totals.serving[nutrient], again.totals.serving[nutrient]
            assert (one.value, one.low, one.high) == pytest.approx(
                (other.value, other.low, other.high), abs=1e-9
            )
        assert {a: s.value for a, s in point.after.flavor.items()} == pytest.approx(
            {a: s.value for a, s in again.flavor.items()}, abs=1e-9
        )


def test_it_goes_from_all_of_one_to_all_of_the_other_and_passes_the_recipe_as_it_stands(
    knowledge: Knowledge, reader: Reader
) -> None:
    found = walked(DIP, ["white beans", "artichoke"], knowledge, reader)
    first, last = found.points[0], found.points[-1]
    assert (first.share, last.share) == (0.0, 1.0)
    assert not any("artichoke" in x.text for x in first.recipe.lines)
    assert not any("cannellini" in x.text for x in last.recipe.lines)
    now = found.points[found.now]
    assert now.now
    assert now.recipe == demo(DIP, knowledge, reader).recipe
    shares = [p.share for p in found.points]
    assert shares == sorted(shares)
    weights = [p.after.totals.batch_grams.value for p in found.points]
    assert max(weights) / min(weights) < 1 + 2 * TOGETHER


def test_more_artichoke_is_less_energy_and_more_bitter(
    knowledge: Knowledge, reader: Reader
) -> None:
    found = walked(DIP, ["white beans", "artichoke"], knowledge, reader)
    energy = [p.after.totals.serving["energy_kcal"].value for p in found.points]
    assert energy == sorted(energy, reverse=True)
    assert found.points[-1].steps.steps["bitter"] > 0.5
    assert found.points[0].steps.steps["bitter"] < -0.5


def test_one_line_alone_is_walked_from_none_to_thrice_or_as_far_as_was_said(
    knowledge: Knowledge, reader: Reader
) -> None:
    alone = walked(DIP, ["cayenne"], knowledge, reader)
    assert alone.points[0].said == ("no cayenne",)
    assert alone.points[-1].share == 1.0
    said = walked(DIP, ["1/4 to 1 tsp salt"], knowledge, reader)
    assert [x.amount for p in said.points for x in p.recipe.lines if x.id == "l7"] == [
        "¼ tsp",
        "¼ tsp plus ⅛ tsp",
        "1/2 tsp",
        "½ tsp plus ⅛ tsp",
        "¾ tsp",
        "1 tsp",
    ]


def test_a_component_goes_up_and_down_as_a_whole(knowledge: Knowledge, reader: Reader) -> None:
    now = demo(DRESSING, knowledge, reader)
    name = next(c for c in now.recipe.components if c)
    found = ratio(now, side_called(name, now, reader), None, knowledge)
    ids = [x.id for x in now.recipe.lines if x.component == name]
    assert len(ids) > 1
    assert not any(line.id in ids for line in found.points[0].recipe.lines)
    grams = [
        sum(p.in_bowl.value for p in x.after.portions if p.line.id in ids) for x in found.points
    ]
    assert grams == sorted(grams)
    assert grams[1] < 0.5 * grams[found.now] < grams[-1]


def test_what_is_said_of_how_far_it_goes_is_so_and_ends_where_it_ends(
    knowledge: Knowledge, reader: Reader
) -> None:
    targets = (Target("energy_kcal", Side.AT_MOST, 112), Target("protein_g", Side.AT_LEAST, 3.0))
    found = walked(DIP, ["white beans", "artichoke"], knowledge, reader, targets)
    ((low, high),) = found.stretches(0.8)
    assert 0 < low < high < len(found.points) - 1
    for place, point in enumerate(found.points):
        assert point.holds(0.8) is (low <= place <= high)
    said = how_far(found, 0.8)
    assert said.startswith("Every target is met from ")
    assert all(
        amount in said
        for p in (found.points[low], found.points[high])
        for amount in [p.recipe.lines[0].amount]
    )


def test_a_target_that_no_step_meets_is_named_and_the_others_are_told(
    knowledge: Knowledge, reader: Reader
) -> None:
    targets = (Target("sodium_mg", Side.AT_MOST, 20), Target("energy_kcal", Side.AT_MOST, 105))
    found = walked(DIP, ["white beans", "artichoke"], knowledge, reader, targets)
    assert found.never_met(0.8) == [targets[0]]
    said = how_far(found, 0.8)
    assert "None of the" in said
    assert "sodium at most 20 mg" in said
    assert "The other targets are met from" in said


def test_without_targets_it_speaks_of_taste_alone(knowledge: Knowledge, reader: Reader) -> None:
    assert "taste the same to most" in how_far(
        walked(DIP, ["white beans", "artichoke"], knowledge, reader), 0.8
    )


BAD = [
    (["quicksilver"], "no line or part of"),
    (["garlic", "garlic"], "the same line"),
    (["celery root", "white beans"], "is not in"),
    (["a"], "could be any of these lines"),
]


@pytest.mark.parametrize(("names", "words"), BAD, ids=[words for _, words in BAD])
def test_what_cannot_be_walked_is_said(
    names: list[str], words: str, knowledge: Knowledge, reader: Reader
) -> None:
    with pytest.raises(RecipeError, match=words):
        walked(DIP, names, knowledge, reader)
