"""The shipped figures hold together."""

from __future__ import annotations

from typing import get_args

import pytest

from fresh_ladle.core.foods.nutrient import HEADLINE, NUTRIENT_IDS
from fresh_ladle.core.foods.pantry import Pantry
from fresh_ladle.core.nutrients.energy import energy_disagreement
from fresh_ladle.data import foods, measures, tables
from fresh_ladle.data.load import load_starting_points
from fresh_ladle.data.tables import DataError
from fresh_ladle.web.places.targets.profile_form import EatenAs

# Energy that the general factors cannot reach: acids, polyols and rare sugars, glutamate, alcohol,
# gums, and three spices whose carbohydrate the table counts at a lower factor.
EXPLAINED_ENERGY = {
    "citric-acid",
    "msg",
    "erythritol",
    "xylitol",
    "allulose",
    "stevia-blend-spoonable",
    "monk-fruit-erythritol-blend",
    "dill-dried",
    "allspice",
    "cloves",
    "vanilla-extract",
    "mirin",
    "kombu",
    "wine-white",
    "guar-gum",
}


def test_everything_is_there(pantry: Pantry) -> None:
    assert len(pantry.stocked) >= 750
    assert len(pantry) >= 4500
    for food in pantry.stocked:
        for nutrient in HEADLINE:
            assert food.per_100_g[nutrient] is not None, f"{food.key} lacks {nutrient}"
            assert food.figure_source(nutrient).label
        assert food.measures, f"{food.key} has no measure"


def test_energy_agrees_with_macronutrients_or_is_explained(pantry: Pantry) -> None:
    assert {f.key for f in pantry.stocked if energy_disagreement(f)} == EXPLAINED_ENERGY


def test_parts_are_not_larger_than_the_whole(pantry: Pantry) -> None:
    for food in pantry.stocked:
        figures = {n: v for n, v in food.per_100_g.items() if v is not None}
        assert figures.get("saturated_fat_g", 0) <= figures["fat_g"] + 0.1, food.key
        assert figures.get("fiber_g", 0) <= figures.get("carbohydrate_g", 100) + 0.5, food.key
        assert figures.get("sugars_g", 0) <= figures.get("carbohydrate_g", 100) * 1.08 + 0.5, (
            food.key
        )
        assert figures["protein_g"] + figures["fat_g"] + figures.get("carbohydrate_g", 0) <= 103, (
            food.key
        )


def test_spoons_and_cups_of_a_food_agree(pantry: Pantry) -> None:
    for food in pantry.stocked:
        tsp, tbsp, cup = (food.measure(u) for u in ("tsp", "tbsp", "cup"))
        if tsp and tbsp:
            assert 2.4 <= tbsp.grams / tsp.grams <= 3.6, food.key
        if tbsp and cup and food.key != "alfalfa-sprouts":
            assert 11 <= cup.grams / tbsp.grams <= 20.5, food.key


# Sodium of their own, or of an additive or a mineral, without any salt put in.
SODIUM_OF_ITS_OWN = {
    "milk-powder-nonfat",
    "egg-white-raw",
    "egg-white-cooked",
    "stock-powder-no-salt",
    "swiss-chard",
    "beet-greens",
    "parsley-dried",
    "dill-dried",
    "mint-dried",
    "cumin",
    "cloves",
    "celery-seed",
    "garam-masala",
    "mango-dried",
    "goji-berries",
    "nori",
    "kombu",
    "kelp-raw",
    "wakame-dried",
    "wakame-soaked",
    "dulse",
    "baking-soda",
    "xanthan-gum",
    "gelatin",
    "pectin",
    "bonito-flakes",
}


def test_what_holds_much_sodium_is_known_to_be_salted_and_what_says_unsalted_is_not(
    pantry: Pantry,
) -> None:
    salty = {
        f.key
        for f in pantry.stocked
        if (f.per_100_g["sodium_mg"] or 0) >= 150 and not f.traits.added_salt
    }
    assert salty == SODIUM_OF_ITS_OWN
    unsalted = [f for f in pantry.stocked if "unsalted" in f.key or "no-salt" in f.key]
    assert len(unsalted) > 30
    assert not [f.key for f in unsalted if f.traits.added_salt]


def test_fat_and_sugar_that_were_added_are_known(pantry: Pantry) -> None:
    for key in (
        "sardines-canned-oil",
        "tuna-canned-oil",
        "tomato-sun-dried-oil",
        "croutons-plain",
        "pita-chips-salted",
    ):
        assert pantry[key].traits.added_fat, key
    for key in ("tahini", "walnuts", "avocado", "tuna-canned-water", "mayonnaise-fat-free"):
        assert not pantry[key].traits.added_fat, key
    for food in pantry.stocked:
        assert (
            food.traits.added_fat or food.group != "fat-oil" or food.key == "mayonnaise-fat-free"
        ), food.key
        assert 0 <= food.traits.added_sugar <= 1, food.key


def test_what_sold_kinds_differ_in_is_a_range_that_holds_the_usual_figure(pantry: Pantry) -> None:
    ranged = [food for food in pantry.stocked if food.ranges]
    assert {"sumac", "mozzarella-fresh"} <= {food.key for food in ranged}
    for food in ranged:
        for nutrient, (low, high) in food.ranges.items():
            figure = food.per_100_g[nutrient]
            assert figure is not None
            assert low <= figure <= high, food.key


def test_a_blank_stays_unknown(pantry: Pantry) -> None:
    assert any(f.per_100_g["vitamin_k_ug"] is None for f in pantry)
    bare = next(f for f in pantry if not f.in_pantry)
    assert bare.per_100_g["added_sugars_g"] is None


PACK = {
    "key": "corn",
    "pack": "can",
    "size": "15 oz",
    "region": "us",
    "net_g": "425",
    "grams": "285",
    "low": "245",
    "high": "310",
    "usual": "1",
    "grade": "B",
}
LOOSE = {
    "word": "glug",
    "class": "pouring oil",
    "basis": "per piece",
    "role": "",
    "grams": "14",
    "low": "8",
    "high": "25",
    "grade": "C",
}


@pytest.mark.parametrize(
    ("file", "row", "says"),
    [
        (
            "measures.csv",
            {
                "key": "tahini",
                "unit": "tsp",
                "grams": "5",
                "low": "6",
                "high": "7",
                "grade": "B",
                "note": "",
            },
            "tahini, tsp",
        ),
        (
            "taste.csv",
            {
                "key": "x",
                "acid_pct": "-1",
                "sweet_pct": "0",
                "glutamate_mg": "0",
                "nucleotide_mg": "0",
                "bitter": "0",
                "heat": "0",
                "aroma": "0",
                "body": "0",
                "grade": "C",
                "note": "",
            },
            "acid_pct",
        ),
        (
            "taste.csv",
            {
                "key": "x",
                "acid_pct": "1",
                "sweet_pct": "0",
                "glutamate_mg": "0",
                "nucleotide_mg": "0",
                "bitter": "11",
                "heat": "0",
                "aroma": "0",
                "body": "0",
                "grade": "C",
                "note": "",
            },
            "bitter",
        ),
        ("packs.csv", {**PACK, "low": "300"}, "corn, 15 oz"),
        ("packs.csv", {**PACK, "net_g": "a lot"}, "corn, 15 oz.*not a number"),
        ("packs.csv", {**PACK, "region": "moon"}, "no region is called 'moon'"),
        ("loose.csv", {**LOOSE, "high": "2"}, "glug, pouring oil"),
        ("loose.csv", {**LOOSE, "grade": "A"}, "is an estimate, grade C"),
        ("loose_classes.csv", {"match": "fat-oil", "class": "paint"}, "no class 'paint'"),
    ],
)
def test_a_wrong_row_is_refused_by_name(
    file: str, row: dict[str, str], says: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    real = tables.rows
    for module in (foods, measures):
        monkeypatch.setattr(module, "rows", lambda name: [row] if name == file else real(name))
    with pytest.raises(DataError, match=says):
        foods.load_pantry.__wrapped__()


def test_starting_points_are_sourced_and_shares_of_the_day_are_all_the_same_share() -> None:
    day = {
        "energy_kcal": 2000,
        "sodium_mg": 2300,
        "saturated_fat_g": 20,
        "fiber_g": 28,
        "protein_g": 50,
        "added_sugars_g": 50,
    }
    shares = {"a tenth": 10, "a quarter": 4, "a twentieth": 20}
    for point in load_starting_points():
        assert len(point.source) > 20
        assert point.eaten_as in get_args(EatenAs)
        assert {t.nutrient for t in point.targets} <= set(NUTRIENT_IDS)
        for words, parts in shares.items():
            if f", {words} of the day" in point.name:
                assert {t.nutrient: t.limit * parts for t in point.targets} == pytest.approx(
                    {t.nutrient: day[t.nutrient] for t in point.targets}
                )
