"""British spelling: what is said changes, what is typed, named in the markup or called so
everywhere does not."""

from __future__ import annotations

from dataclasses import dataclass

import pytest

from fresh_ladle.core.words.spelling import british, british_page, british_value, typed_words


@pytest.mark.parametrize(
    ("us", "told"),
    [
        ("Fiber, flavor and color", "Fibre, flavour and colour"),
        ("more savory, unpasteurized", "more savoury, unpasteurised"),
        ("flavored, fibers", "flavoured, fibres"),
        ("summer savory", "summer savory"),
        ("gather, colander, moderate", "gather, colander, moderate"),
        ("2 liters", "2 litres"),
        ("Colorado bean dip, literally coloratura", "Colorado bean dip, literally coloratura"),
        ("molding, favorites, COLOR, gray-green", "molding, favourites, COLOUR, grey-green"),
    ],
)
def test_words(us: str, told: str) -> None:
    assert british(us) == told


def test_a_page_keeps_its_addresses_and_what_was_typed() -> None:
    page = (
        '<a href="/figures/fiber_g" title="Fiber, too"><svg class="color"></svg>fiber</a>'
        '<textarea name="a">my fiber salad</textarea><input value="fiber" placeholder="fiber">'
    )
    assert british_page(page) == (
        '<a href="/figures/fiber_g" title="Fibre, too"><svg class="color"></svg>fibre</a>'
        '<textarea name="a">my fiber salad</textarea><input value="fiber" placeholder="fibre">'
    )


def test_what_was_typed_stays_whole_in_part_and_in_a_sentence() -> None:
    typed = typed_words(["Flavor bomb", "add color, then stir", "Fiber"])
    assert british("Flavor bomb: more flavor; “add color” and the color", typed) == (
        "Flavor bomb: more flavour; “add color” and the colour"
    )
    assert british_page("<b>Fiber</b><i>of fiber</i>", typed) == "<b>Fiber</b><i>of fibre</i>"


def test_sheets_are_spelled_all_the_way_down() -> None:
    @dataclass(frozen=True)
    class Table:
        title: str
        rows: tuple[tuple[str, ...], ...]
        width: int = 3

    made = british_value(
        ["Fiber", Table("Color", (("flavor", "1"),)), {"fiber_g": "mold", "steps": ["add color"]}]
    )
    assert made == [
        "Fibre",
        Table("Color", (("flavour", "1"),)),
        {"fiber_g": "mould", "steps": ["add color"]},
    ]
