"""Cans, jars and packs whose size the cook did not give: the one usually sold, by food and by
region."""

from __future__ import annotations

import re

from fresh_ladle.core.foods.food import Food, Pack
from fresh_ladle.core.recipes.region import Region

_WORDS = {
    "can": ("can", "tin"),
    "jar": ("jar", "bottle"),
    "package": ("packet", "bag", "box", "carton", "tub", "tube"),
    "block": ("block", "packet"),
}
_NEAREST_REGIONS = {
    Region.US: ("us", "uk", "eu"),
    Region.METRIC: ("eu", "uk", "us"),
    Region.IMPERIAL: ("uk", "eu", "us"),
}


def usual_pack(food: Food, unit: str, text: str, size: str | None, region: Region) -> Pack | None:
    """The pack meant by "1 can", "a small jar" or "a bag"; None when the food is not sold so.

    The cook's own word ("a tub") goes before others of its kind, the region of the recipe before
    its neighbours."""
    said = set(re.findall(r"[a-z]+", text.lower()))
    kinds = _WORDS.get(unit, ())
    packs = [p for p in food.packs if p.pack in kinds]
    named = [p for p in packs if {p.pack, f"{p.pack}s"} & said]
    for region_name in _NEAREST_REGIONS[region]:
        here = [p for p in named or packs if p.region == region_name]
        sized = [p for p in here if size is not None and any(size in name for name in p.sizes)]
        if sized:
            return sized[0]
        if here:
            return max(here, key=lambda p: p.usual)
    return None
