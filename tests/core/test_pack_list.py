"""The ingredient list of a pack: added sugar under all its names, salt, oil, allergens, and the
order of weight."""

from __future__ import annotations

import pytest

from fresh_ladle.core.cautions.allergens import ALLERGENS, allergen_group
from fresh_ladle.core.foods.pack_list import MAX_CHARACTERS, read_pack_list

HUMMUS = (
    "Ingredients: cooked chickpeas (60%), rapeseed oil, sesame seed paste (tahini) 13%, water,"
    " lemon juice from concentrate, salt, garlic purée. May contain traces of nuts, milk and egg."
)


def test_a_list_is_read_in_the_order_of_weight() -> None:
    found = read_pack_list(HUMMUS)
    assert found.ingredients[:3] == (
        "cooked chickpeas (60%)",
        "rapeseed oil",
        "sesame seed paste (tahini) 13%",
    )
    assert len(found.ingredients) == 7
    assert found.place_of("oil") == 2
    assert found.place_of("salt") == 6
    assert found.place_of("sugar") == 0
    assert (found.added_oils, found.added_salts) == (("oil",), ("salt",))
    assert found.allergens == {"sesame"}
    assert found.may_contain == {"tree-nut", "milk", "egg"}


def test_brackets_hold_together_what_is_in_them() -> None:
    found = read_pack_list(
        "Dressing (oil, water, egg yolk (free range), salt), mustard [water, mustard seed]; sugar"
    )
    assert [i.split(" ")[0] for i in found.ingredients] == ["Dressing", "mustard", "sugar"]
    assert found.allergens == {"egg", "mustard"}


@pytest.mark.parametrize(
    "sugar",
    [
        "sugar",
        "cane sugar",
        "glucose-fructose syrup",
        "high fructose corn syrup",
        "dextrose",
        "honey",
        "agave syrup",
        "apple juice concentrate",
        "concentrated grape juice",
        "barley malt extract",
        "brown rice syrup",
        "molasses",
        "caramel",
        "evaporated cane juice",
        "date paste",
        "lactose",
    ],
)
def test_sugar_is_known_under_its_names(sugar: str) -> None:
    assert read_pack_list(f"peanuts, {sugar}, salt").added_sugars


@pytest.mark.parametrize(
    "none",
    [
        "no added sugar",
        "unsweetened",
        "sugar-free",
        "caramel color",
        "maltodextrin",
        "sugar snap peas",
        "lemon juice",
    ],
)
def test_what_only_sounds_like_sugar_is_none(none: str) -> None:
    assert read_pack_list(f"peanuts, {none}, water").added_sugars == ()


@pytest.mark.parametrize(
    ("text", "salt", "oil"),
    [
        ("peanuts", False, False),
        ("peanuts, sea salt", True, False),
        ("unsalted peanuts", False, False),
        ("soybeans, water, nigari", False, False),
        ("tomatoes, olive oil, basil", False, True),
        ("cocoa mass, cocoa butter", False, False),
        ("olives, brine", True, False),
        ("flour, butter, milk", False, True),
        ("butter beans, water", False, False),
        ("tea, lemon oil", False, False),
        ("water, soy sauce, palm fat", True, True),
    ],
)
def test_added_salt_and_oil(text: str, salt: bool, oil: bool) -> None:
    found = read_pack_list(text)
    assert (bool(found.added_salts), bool(found.added_oils)) == (salt, oil)


def test_sodium_that_is_not_salt_is_told_apart() -> None:
    found = read_pack_list("stock powder: maltodextrin, monosodium glutamate, yeast extract")
    assert found.added_salts == ()
    assert "monosodium glutamate" in found.other_sodium


@pytest.mark.parametrize(
    ("text", "allergens"),
    [
        ("wheat flour, water", {"wheat", "gluten"}),
        ("rice flour, buckwheat", set()),
        ("oats", {"gluten"}),
        ("maltodextrin, maltitol", set()),
        ("whey powder", {"milk"}),
        ("coconut milk, almond milk", {"tree-nut:almond"}),
        ("cocoa butter, peanut butter", {"peanut"}),
        ("eggplant", set()),
        ("egg yolk", {"egg"}),
        ("tofu", {"soy"}),
        ("tahini", {"sesame"}),
        ("nutmeg, coconut, chestnuts", set()),
        ("cashews, walnuts", {"tree-nut:cashew", "tree-nut:walnut"}),
        ("tree nuts (pecans)", {"tree-nut:pecan"}),
        ("celeriac, mustard seed", {"celery", "mustard"}),
        ("anchovies", {"fish"}),
        ("shrimp paste, oyster extract", {"crustacean", "mollusc"}),
        ("sodium metabisulphite", {"sulphite"}),
        ("E223", {"sulphite"}),
        ("gluten-free oats", {"gluten"}),
        ("dairy-free spread: sunflower oil", set()),
        ("Contains: soybean, wheat.", {"soy", "wheat", "gluten"}),
    ],
)
def test_allergens_on_both_sides_of_their_words(text: str, allergens: set[str]) -> None:
    assert read_pack_list(text).allergens == allergens


def test_every_allergen_it_names_belongs_to_a_group_that_can_be_left_out() -> None:
    from fresh_ladle.core.foods import pack_list

    assert {allergen_group(a) for a, _ in pack_list._ALLERGENS} == set(ALLERGENS)


@pytest.mark.parametrize("text", ["", "   \n ", "x" * (MAX_CHARACTERS + 1)])
def test_an_empty_list_or_a_book_is_refused(text: str) -> None:
    with pytest.raises(ValueError, match="ingredient list"):
        read_pack_list(text)
