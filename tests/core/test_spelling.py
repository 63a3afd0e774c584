"""British spelling: what is said changes, what is typed, named in the markup or called so everywhere does not."""

from __future__ import annotations

from dataclasses import dataclass

import pytest

from fresh_ladle.core.spelling import british, british_page, british_value


@pytest.mark.parametrize(
    ("us", "told"),
    [
        ("Fiber, flavor and color", "Fibre, flavour and colour"),
        ("more savory, unpasteurized", "more savoury, unpasteurised"),
        ("flavored, fibers", "flavoured, fibres"),
        ("summer savory", "summer savory"),
        ("gather, colander, moderate", "gather, colander, moderate"),
        ("2 liters", "2 litres"),
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


def test_sheets_are_spelled_all_the_way_down() -> None:
    @dataclass(frozen=True)
    class Table:
        title: str
        rows: tuple[tuple[str, ...], ...]
        width: int = 3

    made = british_value(["Fiber", Table("Color", (("flavor", "1"),)), {"fiber_g": "mold"}])
    assert made == ["Fibre", Table("Colour", (("flavour", "1"),)), {"fiber_g": "mould"}]
