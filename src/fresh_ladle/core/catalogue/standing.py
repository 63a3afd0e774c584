"""What thickens a blend while it stands, and by how much water."""

from __future__ import annotations

from dataclasses import dataclass

from fresh_ladle.core.foods.food import Food, Grade


@dataclass(frozen=True, slots=True)
class Standing:
    """Blends of these foods or groups take up so much water overnight, g per 100 g of blend,
    between `low_g` and `high_g`."""

    id: str
    name: str
    keys: frozenset[str]
    groups: frozenset[str]
    water_g: float
    low_g: float
    high_g: float
    grade: Grade
    source: str

    def is_of(self, food: Food) -> bool:
        return food.key in self.keys or food.group in self.groups
