"""Label rounding: one function per regime, as the published rules have it."""

from __future__ import annotations

import pytest

from fresh_ladle.core.foods.nutrient import NUTRIENT_IDS
from fresh_ladle.core.nutrients.declaration import Regime, declared_figures
from fresh_ladle.core.nutrients.labels import KJ_PER_KCAL, eu_label, us_label
from fresh_ladle.core.nutrients.totals import Figure, Totals
from fresh_ladle.core.ranges import Range


@pytest.mark.parametrize(
    ("nutrient", "value", "shown"),
    [
        ("energy_kcal", 4.9, "0"),
        ("energy_kcal", 5, "5"),
        ("energy_kcal", 50, "50"),
        ("energy_kcal", 54.9, "50"),
        ("energy_kcal", 47.5, "50"),
        ("energy_kcal", 52, "50"),
        ("energy_kcal", 55, "60"),
        ("fat_g", 0.49, "0"),
        ("fat_g", 0.5, "0.5"),
        ("fat_g", 4.9, "5"),
        ("fat_g", 5, "5"),
        ("fat_g", 2.3, "2.5"),
        ("fat_g", 4.74, "4.5"),
        ("fat_g", 5.5, "6"),
        ("sodium_mg", 4.9, "0"),
        ("sodium_mg", 137, "135"),
        ("sodium_mg", 141, "140"),
        ("sodium_mg", 166, "170"),
        ("sodium_mg", 5, "5"),
        ("sodium_mg", 140, "140"),
        ("fiber_g", 0.4, "0"),
        ("fiber_g", 0.5, "less than 1"),
        ("fiber_g", 1, "1"),
        ("fiber_g", 0.9, "less than 1"),
        ("fiber_g", 1.5, "2"),
        ("protein_g", 2.4, "2"),
        ("cholesterol_mg", 1.9, "0"),
        ("cholesterol_mg", 2, "less than 5"),
        ("cholesterol_mg", 4, "less than 5"),
        ("cholesterol_mg", 5, "less than 5"),
        ("cholesterol_mg", 7, "5"),
        ("cholesterol_mg", 7.5, "10"),
        ("potassium_mg", 94, "90"),
        ("iron_mg", 0.34, "0.3"),
    ],
)
def test_us_rounding(nutrient: str, value: float, shown: str) -> None:
    assert us_label(nutrient, value) == shown


@pytest.mark.parametrize(
    ("nutrient", "value", "shown"),
    [
        ("energy_kcal", 47.5, "48"),
        ("fat_g", 0.4, "<0.5"),
        ("fat_g", 0.5, "<0.5"),
        ("fat_g", 0.6, "0.6"),
        ("fat_g", 9.96, "10"),
        ("fat_g", 10, "10"),
        ("fat_g", 10.4, "10"),
        ("saturated_fat_g", 0.1, "<0.1"),
        ("fat_g", 3.14, "3.1"),
        ("fat_g", 12.4, "12"),
        ("saturated_fat_g", 0.08, "<0.1"),
        ("saturated_fat_g", 0.34, "0.3"),
        ("sodium_mg", 400, "1"),
        ("sodium_mg", 130, "0.33"),
        ("sodium_mg", 4, "<0.01"),
        ("sodium_mg", 5, "<0.01"),
        ("sodium_mg", 5.1, "0.01"),
        ("sodium_mg", 0, "0"),
        ("sodium_mg", 396, "0.99"),
        ("fiber_g", 0, "0"),
    ],
)
def test_eu_rounding_with_salt_for_sodium(nutrient: str, value: float, shown: str) -> None:
    assert eu_label(nutrient, value) == shown


@pytest.mark.parametrize("label", [us_label, eu_label])
def test_a_negative_figure_is_refused(label) -> None:  # type: ignore[no-untyped-def]
    with pytest.raises(ValueError, match="negative"):
        label("fat_g", -1)


def totals_of(serving_grams: float, **figures: float) -> Totals:
    """Totals of a batch of one serving, complete unless a figure is negative: then a line is
    missing from it."""
    serving = {n: Figure(0.0, 0.0, 0.0) for n in NUTRIENT_IDS}
    for nutrient, value in figures.items():
        serving[nutrient] = Figure(abs(value), 0.0, 0.0, () if value >= 0 else ("lost line",))
    return Totals(Range.exact(serving_grams), serving_grams, 1.0, {}, serving, serving, 1.0)


def test_kilojoules_round_half_up_like_everything_else() -> None:
    """2.5 kJ is 3 kJ: a figure halfway goes up, where plain formatting would go to the even one."""
    halfway = totals_of(100, energy_kcal=2.5 / KJ_PER_KCAL)
    assert declared_figures(halfway, Regime.EU)[0].declared == "3 kJ, 1 kcal"
    assert KJ_PER_KCAL == 4.184
    assert (
        declared_figures(totals_of(100, energy_kcal=100), Regime.EU)[0].declared
        == "418 kJ, 100 kcal"
    )


def test_a_serving_and_100_g_are_declared_from_the_same_totals() -> None:
    totals = totals_of(
        60, energy_kcal=90.4, sodium_mg=141.0, fat_g=4.74, sugars_g=-0.2, fiber_g=-2.6
    )
    us = {f.nutrient: f.declared for f in declared_figures(totals, Regime.US)}
    eu = {f.nutrient: f.declared for f in declared_figures(totals, Regime.EU)}
    assert (us["energy_kcal"], us["sodium_mg"], us["fat_g"]) == ("90 kcal", "140 mg", "4.5 g")
    assert (us["sugars_g"], us["fiber_g"]) == ("at least 0 g", "at least 3 g")
    assert (eu["energy_kcal"], eu["sodium_mg"], eu["fat_g"]) == (
        "630 kJ, 151 kcal",
        "0.59 g",
        "7.9 g",
    )
    assert eu["sugars_g"] == "at least 0 g"
    assert [f.value for f in declared_figures(totals, Regime.EU) if f.nutrient == "sodium_mg"] == [
        pytest.approx(235)
    ]
    assert all(f.declared.startswith("0") for f in declared_figures(totals_of(0), Regime.EU))


@pytest.mark.parametrize("value", [139.9, 140.0, 140.1, 142.4, 142.5, 147.5])
def test_sodium_rounds_to_five_up_to_140_and_to_ten_above(value: float) -> None:
    step = 5 if value <= 140 else 10
    assert us_label("sodium_mg", value) == str(int((value + step / 2) // step * step))
