"""The figures the workbench carries for every food, with their names, units and display
precision."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Nutrient:
    """One figure. `id` ends in its unit; `decimals` is for display only, sums are never rounded."""

    id: str
    name: str
    unit: str
    decimals: int

    @property
    def said(self) -> str:
        """Its name within a sentence: `total sugars`, `vitamin C`."""
        return self.name[:1].lower() + self.name[1:]


NUTRIENTS: tuple[Nutrient, ...] = (
    Nutrient("energy_kcal", "Calories", "kcal", 0),
    Nutrient("sodium_mg", "Sodium", "mg", 0),
    Nutrient("fat_g", "Fat", "g", 1),
    Nutrient("fiber_g", "Fiber", "g", 1),
    Nutrient("protein_g", "Protein", "g", 1),
    Nutrient("saturated_fat_g", "Saturated fat", "g", 1),
    Nutrient("carbohydrate_g", "Carbohydrate", "g", 1),
    Nutrient("sugars_g", "Total sugars", "g", 1),
    Nutrient("added_sugars_g", "Added sugars", "g", 1),
    Nutrient("potassium_mg", "Potassium", "mg", 0),
    Nutrient("calcium_mg", "Calcium", "mg", 0),
    Nutrient("iron_mg", "Iron", "mg", 1),
    Nutrient("magnesium_mg", "Magnesium", "mg", 0),
    Nutrient("phosphorus_mg", "Phosphorus", "mg", 0),
    Nutrient("vitamin_c_mg", "Vitamin C", "mg", 0),
    Nutrient("vitamin_a_rae_ug", "Vitamin A", "µg RAE", 0),
    Nutrient("vitamin_k_ug", "Vitamin K", "µg", 0),
    Nutrient("cholesterol_mg", "Cholesterol", "mg", 0),
)
NUTRIENT_IDS: tuple[str, ...] = tuple(n.id for n in NUTRIENTS)
BY_ID: dict[str, Nutrient] = {n.id: n for n in NUTRIENTS}
HEADLINE: tuple[str, ...] = NUTRIENT_IDS[:5]
CARRIED: tuple[str, ...] = NUTRIENT_IDS[5:]
