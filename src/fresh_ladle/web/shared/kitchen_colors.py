"""Which color of the kitchen an ingredient wears: fat lemon, salt beet, greens leek, grain and
sweet clay, the rest rim."""

from __future__ import annotations

from fresh_ladle.core.foods.food import Food

_BY_GROUP = {
    "fat-oil": "lemon",
    "nut-seed": "lemon",
    "nut-seed-butter": "lemon",
    "salt-salty": "beet",
    "pickle-olive": "beet",
    "cheese": "beet",
    "leafy": "leek",
    "herb": "leek",
    "vegetable": "leek",
    "allium": "leek",
    "root-tuber": "leek",
    "tomato": "leek",
    "fungus-sea": "leek",
    "grain-pasta": "clay",
    "bread-chip": "clay",
    "sweetener": "clay",
    "fruit": "clay",
    "dried-fruit": "clay",
    "spice": "clay",
}


def role_of(food: Food | None) -> str:
    return _BY_GROUP.get(food.group, "rim") if food else "rim"
