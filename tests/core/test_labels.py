"""Label rounding: one function per regime, as the published rules have it."""

from __future__ import annotations

import pytest

from fresh_ladle.core.nutrients.labels import eu_label, us_label


@pytest.mark.parametrize(
    ("nutrient", "value", "shown"),
    [
        ("energy_kcal", 4.9, "0"),
        ("energy_kcal", 47.5, "50"),
        ("energy_kcal", 52, "50"),
        ("energy_kcal", 55, "60"),
        ("fat_g", 0.49, "0"),
        ("fat_g", 2.3, "2.5"),
        ("fat_g", 4.74, "4.5"),
        ("fat_g", 5.5, "6"),
        ("sodium_mg", 4.9, "0"),
        ("sodium_mg", 137, "135"),
        ("sodium_mg", 141, "140"),
        ("sodium_mg", 166, "170"),
        ("fiber_g", 0.4, "0"),
        ("fiber_g", 0.9, "less than 1"),
        ("fiber_g", 1.5, "2"),
        ("protein_g", 2.4, "2"),
        ("cholesterol_mg", 1.9, "0"),
        ("cholesterol_mg", 4, "less than 5"),
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
        ("fat_g", 3.14, "3.1"),
        ("fat_g", 12.4, "12"),
        ("saturated_fat_g", 0.08, "<0.1"),
        ("saturated_fat_g", 0.34, "0.3"),
        ("sodium_mg", 400, "1"),
        ("sodium_mg", 130, "0.33"),
        ("sodium_mg", 4, "<0.01"),
        ("fiber_g", 0, "0"),
    ],
)
def test_eu_rounding_with_salt_for_sodium(nutrient: str, value: float, shown: str) -> None:
    assert eu_label(nutrient, value) == shown


@pytest.mark.parametrize("label", [us_label, eu_label])
def test_a_negative_figure_is_refused(label) -> None:  # type: ignore[no-untyped-def]
    with pytest.raises(ValueError, match="negative"):
        label("fat_g", -1)
