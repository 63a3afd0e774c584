"""The kind of dish that is proposed from a title and from what is in the bowl."""

from __future__ import annotations

import pytest

from fresh_ladle.core.recipes.dishes import BY_ID, DEFAULT, SALADS, proposed_kind

OILY = {"fat-oil": 60.0, "acid": 20.0}


@pytest.mark.parametrize(
    ("title", "bowl", "kind"),
    [
        ("House vinaigrette", OILY, "vinaigrette"),
        ("Lentil salad", {"legume": 300.0}, "bean-salad"),
        ("White bean and kale salad", {"legume": 480.0, "leafy": 200.0}, "leafy-salad"),
        ("White bean and almond salad", {"legume": 480.0, "nut-seed": 50.0}, "bean-salad"),
        ("White-bean dip with a little salad", {"legume": 480.0}, "bean-salad"),
        ("Tahini dressing for salad", {"nut-seed-butter": 60.0}, "nut-dressing"),
        ("House salad dressing", OILY, "vinaigrette"),
        ("Avocado salad", {"leafy": 200.0, "fruit": 100.0}, "leafy-salad"),
        ("Lentil dip", {"legume": 300.0, "fat-oil": 30.0}, "legume-dip"),
        ("Noodle counter dressing", OILY, "vinaigrette"),
        ("Noodle salad with sesame dressing", {"grain-pasta": 300.0}, "pasta-potato-salad"),
        ("Coleslaw dressing on slaw", {"leafy": 300.0}, "slaw"),
        ("Sunday bowl", {"grain-pasta": 300.0, "leafy": 30.0}, "grain-salad"),
        ("Sunday bowl", {"leafy": 200.0, "fat-oil": 20.0}, "leafy-salad"),
        ("Dip", {"dairy": 200.0, "herb": 5.0}, "dairy-dip"),
        ("Green dip", {"fruit": 200.0, "herb": 5.0}, "avocado-dip"),
        ("Dressing", {"nut-seed-butter": 60.0, "liquid": 40.0}, "nut-dressing"),
        ("Dressing", {"dairy": 60.0, "fat-oil": 10.0}, "creamy-dressing"),
        ("Untitled recipe", OILY, "vinaigrette"),
        # Roots, leaves and olives weigh together as the vegetables of a dip: none of them alone
        # outweighs the yogurt.
        (
            "Dip",
            {
                "root-tuber": 50.0,
                "vegetable": 40.0,
                "pickle-olive": 20.0,
                "leafy": 20.0,
                "dairy": 120.0,
            },
            "vegetable-dip",
        ),
        (
            "Dip",
            {"root-tuber": 50.0, "vegetable": 40.0, "pickle-olive": 20.0, "dairy": 120.0},
            "dairy-dip",
        ),
    ],
)
def test_proposed_kind(title: str, bowl: dict[str, float], kind: str) -> None:
    assert proposed_kind(title, bowl).id == kind


def test_an_empty_bowl_without_a_title_still_has_a_kind() -> None:
    assert proposed_kind("", {}).id in BY_ID


def test_the_named_kinds_exist() -> None:
    assert set(BY_ID) >= SALADS
    assert DEFAULT.id in BY_ID
