"""A bare can, jar or pack is the one usually sold: of that food, in that region, drained unless the
cook says not."""

from __future__ import annotations

import pytest

from fresh_ladle.core.amounts.amount import parse_amount
from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.amounts.weigh import weigh
from fresh_ladle.core.foods.pantry import Pantry
from fresh_ladle.core.recipes.region import Region


@pytest.mark.parametrize(
    ("text", "region", "food", "grams"),
    [
        ("1 can tuna in water, drained", Region.US, "tuna-canned-water", 113),
        ("1 tin tuna in water", Region.IMPERIAL, "tuna-canned-water", 102),
        ("1 can sardines", Region.US, "sardines-canned-oil", 92),
        ("2 cans sardines", Region.US, "sardines-canned-oil", 184),
        ("half a tin of anchovies", Region.IMPERIAL, "anchovy-canned", 15),
        ("1 can corn, drained", Region.US, "corn-canned", 285),
        ("1 small can corn", Region.US, "corn-canned", 150),
        ("1 can corn, drained and rinsed", Region.US, "corn-canned-rinsed", 285),
        ("1 can beets, drained", Region.US, "beet-canned", 246),
        ("1 jar capers", Region.US, "capers", 95),
        ("1 jar capers", Region.IMPERIAL, "capers", 110),
        ("1 can chickpeas", Region.US, "chickpeas-canned-drained", 253),
        ("1 can chickpeas, not drained", Region.US, "chickpeas-canned-drained", 425),
        ("1 (15 oz) can chickpeas, drained", Region.US, "chickpeas-canned-drained", 253),
        ("2 cups corn", Region.US, "corn-raw", 300),
        ("1 beet", Region.US, "beet-raw", 82),
    ],
)
def test_what_a_pack_holds(
    text: str, region: Region, food: str, grams: float, reader: Reader, pantry: Pantry
) -> None:
    line = reader.read_line(text, region=region)[0].line
    assert line.food == food
    found = weigh(parse_amount(line.amount), pantry[food], (line.text, *line.remarks), region).grams
    assert found.value == pytest.approx(grams, rel=0.01)
    assert found.low <= grams <= found.high


def test_a_pack_that_is_not_sold_is_asked_for(reader: Reader) -> None:
    reading = reader.read_line("1 jar salt")[0]
    assert reading.problem is not None
    assert "size of the jar is not known" in reading.problem
    assert reading.line.confidence <= 0.3


def test_every_pack_holds_no_more_than_its_net_weight_unless_it_swells(pantry: Pantry) -> None:
    """Salt-packed capers take up water, a dry pack is given cooked; all else is at most what the
    label says."""
    for food in pantry.stocked:
        for pack in food.packs:
            if food.key != "capers-salt-packed" and "cooked" not in food.key:
                assert pack.grams <= pack.net_g * 1.02, (food.key, pack)
