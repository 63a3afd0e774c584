"""What a serving costs, and what a change of it costs: by the practice's own prices, never by a
guess."""

from __future__ import annotations

import pytest

from fresh_ladle.core.recipes.recipe import Line
from fresh_ladle.core.whole.costs import SAME_GRAMS, change_of_cost, cost_of_serving
from tests.conftest import Kitchen

PRICES = {"feta": 1.5, "olive-oil-refined": 0.8}


def test_a_serving_costs_what_is_measured_times_its_price(kitchen: Kitchen) -> None:
    version = kitchen.appraise(
        {"feta": "200 g", "olive-oil-refined": "50 g", "water": "400 g"}, servings=4
    )
    cost = cost_of_serving(version, PRICES)
    assert cost.value == pytest.approx((200 * 1.5 / 100 + 50 * 0.8 / 100) / 4)
    assert cost.unpriced == (), "water is free"


def test_what_has_no_price_is_named_once_and_not_counted(kitchen: Kitchen) -> None:
    version = kitchen.appraise({"feta": "100 g", "walnuts": "30 g"}, servings=2)
    more = kitchen.work_out(
        version.recipe.with_added([Line("l9", "5 g walnuts", "5 g", "walnuts")])
    )
    assert cost_of_serving(more, PRICES).unpriced == (
        kitchen.knowledge.pantry["walnuts"].kitchen_name,
    )
    assert cost_of_serving(more, PRICES).value == pytest.approx(1.5 / 2)


@pytest.mark.parametrize(
    ("before", "after", "change"),
    [
        ({"feta": "200 g"}, {"feta": "100 g"}, -1.5 / 4),
        ({"feta": "100 g"}, {"feta": "200 g", "water": "90 g"}, 1.5 / 4),
        ({"feta": "100 g", "walnuts": "30 g"}, {"feta": "200 g", "walnuts": "30 g"}, 1.5 / 4),
        ({"feta": "100 g"}, {"feta": "100 g", "walnuts": "30 g"}, None),
        ({"feta": "100 g", "walnuts": "30 g"}, {"feta": "100 g"}, None),
        ({"feta": "100 g"}, {"feta": "100 g"}, 0.0),
    ],
)
def test_a_change_costs_what_changes_and_is_unknown_when_that_has_no_price(
    before: dict[str, str], after: dict[str, str], change: float | None, kitchen: Kitchen
) -> None:
    found = change_of_cost(kitchen.appraise(before), kitchen.appraise(after), PRICES)
    assert found == (None if change is None else pytest.approx(change))


def test_a_trace_of_difference_is_none(kitchen: Kitchen) -> None:
    before, after = (
        kitchen.appraise({"walnuts": "30 g"}),
        kitchen.appraise({"walnuts": f"{30 + SAME_GRAMS / 2} g"}),
    )
    assert change_of_cost(before, after, PRICES) == 0
    further = kitchen.appraise({"walnuts": f"{30 + 2 * SAME_GRAMS} g"})
    assert change_of_cost(before, further, PRICES) is None
