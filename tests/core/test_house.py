"""What is in the house: read from a cook's own words, with what must go and what there is not."""

from __future__ import annotations

import pytest

from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.compose.house import MAX_HOUSE_CHARACTERS, read_house
from fresh_ladle.core.recipes.recipe import RecipeError

READ = [
    ("2 leeks, 1 tin white beans", {"leek": 178.0, "great-northern-beans-canned-drained": 240.0}),
    ("salt and pepper", {"table-salt": None, "pepper-black": None}),
    ("some chicory; plenty of parsley", {"endive-belgian": None, "parsley": None}),
    ("the end of a parmesan", {"parmesan": 40.0}),
    ("1,5 kg potatoes\nhalf a cucumber", {"potato-boiled": 1500.0, "cucumber": 150.5}),
    ("leftover brown rice", {"rice-brown-cooked": None}),
    ("half and half", {"half-and-half": None}),
    ("1 lemon, 1 lemon", {"lemon-flesh": 168.0}),
]


@pytest.mark.parametrize(("text", "expected"), READ, ids=[text for text, _ in READ])
def test_foods_and_how_much_there_is(
    text: str, expected: dict[str, float | None], reader: Reader
) -> None:
    house = read_house(text, reader)
    assert not house.unread
    assert {h.food.key: h.grams and round(h.grams, 1) for h in house.held} == expected


TODAY = [
    ("2 leeks (must go today)", True),
    ("spinach!", True),
    ("spinach, for today", True),
    ("use up the buttermilk", True),
    ("2 leeks", False),
    ("first-press olive oil", False),
    ("yesterday's rice", False),
]


@pytest.mark.parametrize(("text", "today"), TODAY, ids=[text for text, _ in TODAY])
def test_what_must_go_today_is_said_in_words(text: str, today: bool, reader: Reader) -> None:
    assert any(h.today for h in read_house(text, reader).held) is today


def test_what_is_ticked_must_go_as_well(reader: Reader) -> None:
    (leek, chicory) = read_house("2 leeks, chicory", reader, today=["leek"]).held
    assert leek.today
    assert not chicory.today


WITHOUT = [
    ("no lemon", "lemon-juice-fresh", True),
    ("no lemons", "lemon-zest", True),
    ("without garlic", "garlic-roasted", True),
    ("out of soy sauce", "soy-sauce-reduced-sodium", True),
    ("no pepper", "pepper-black", True),
    ("no lemon", "lemongrass", False),
    ("no soy sauce", "fish-sauce", False),
    ("nori", "nori", False),
]


@pytest.mark.parametrize(
    ("text", "food", "lacks"), WITHOUT, ids=[f"{text}: {food}" for text, food, _ in WITHOUT]
)
def test_what_there_is_not(text: str, food: str, lacks: bool, reader: Reader) -> None:
    assert read_house(text, reader).lacks(reader.pantry[food]) is lacks


def test_a_line_may_put_foods_on_a_role(reader: Reader) -> None:
    house = read_house("fat: olive oil, walnut oil\nacid: lemon juice\nhoney", reader)
    assert [(h.food.key, h.role) for h in house.held] == [
        ("olive-oil-refined", "fat"),
        ("walnut-oil", "fat"),
        ("lemon-juice-fresh", "acid"),
        ("honey", None),
    ]


def test_what_is_not_understood_is_named_with_what_it_may_mean_and_is_not_taken(
    reader: Reader,
) -> None:
    house = read_house("wumpus juise, carrot tops, olive oil", reader)
    assert [h.food.key for h in house.held] == ["olive-oil-refined"]
    assert [text for text, _ in house.unread] == ["wumpus juise", "carrot tops"]
    assert dict(house.unread)["carrot tops"] == "carrot"


def test_too_much_text_is_refused_in_words(reader: Reader) -> None:
    with pytest.raises(RecipeError, match="characters long"):
        read_house("x" * (MAX_HOUSE_CHARACTERS + 1), reader)


def test_an_empty_house_is_empty(reader: Reader) -> None:
    house = read_house(" \n , ;", reader)
    assert not house.held
    assert not house.unread
