"""A shopping list as a sheet: CSV or XLSX, by part of the store."""

from __future__ import annotations

from collections.abc import Sequence

from fresh_ladle.core.service.buying import Purchase
from fresh_ladle.formats.sheet import csv_text, xlsx_bytes

HEADS = (
    "part of the store",
    "food",
    "to buy",
    "grams",
    "packs",
    "grams in a pack",
    "left over, g",
    "cost",
)


def _rows(purchases: Sequence[Purchase]) -> list[list[object]]:
    return [
        [
            p.section,
            p.food.kitchen_name,
            p.words,
            round(p.grams.value, 1),
            p.packs or "",
            p.pack_grams or "",
            round(p.left_over, 1) if p.packs else "",
            "" if p.cost is None else round(p.cost, 2),
        ]
        for p in purchases
        if p.grams.value > 0
    ]


def shopping_csv(purchases: Sequence[Purchase]) -> str:
    return csv_text(HEADS, _rows(purchases))


def shopping_xlsx(purchases: Sequence[Purchase]) -> bytes:
    return xlsx_bytes(HEADS, _rows(purchases), "To buy")
