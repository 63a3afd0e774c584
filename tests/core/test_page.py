"""Whole pages: what each line is, what becomes of it, and that nothing measured is lost."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import pytest

from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.page.evidence import page_lines
from fresh_ladle.core.page.kinds import LineKind
from fresh_ladle.core.page.page import (
    amounts_in_step,
    item_text,
    kinds_of,
    part_name,
    read_page,
    step_text,
)
from fresh_ladle.core.page.recipe_text import RecipeReading, read_recipe, recipe_of
from fresh_ladle.core.page.rows import joined, one_row_each, page_text, parted, turned
from fresh_ladle.core.recipes.region import Region

FITTED = sorted((Path(__file__).parent.parent / "pages/fitted").glob("*.tsv"))


def test_the_pages_it_was_fitted_to_are_told_line_by_line(reader: Reader) -> None:
    """Of all lines 98 in 100, and of what is to be eaten 99 in 100."""
    wrong, count = [], 0
    for file in FITTED:
        rows = [row.partition("\t")[::2] for row in file.read_text(encoding="utf-8").splitlines()]
        lines = page_lines("\n".join(text for _, text in rows))
        found = [kind for kind, _ in kinds_of(lines, reader.knows)]
        marked = [LineKind(kind) for kind, _ in rows if kind]
        count += len(marked)
        wrong += [
            (file.stem, line.text, k, f)
            for line, k, f in zip(lines, marked, found, strict=True)
            if k is not f
        ]
    assert count > 1200
    assert len(wrong) <= 0.02 * count, wrong
    eaten = sum(
        row.startswith("item\t")
        for file in FITTED
        for row in file.read_text(encoding="utf-8").splitlines()
    )
    assert sum(LineKind.ITEM in row[2:] for row in wrong) <= 0.01 * eaten, wrong


@pytest.mark.parametrize(
    ("first", "title"),
    [
        ("Three bean salad", "Three bean salad"),
        ("5-bean chili salad", "5-bean chili salad"),
        ("Half and half dip", "Half and half dip"),
        ("Four Cheese Dip!", "Four Cheese Dip!"),
        ("1 batch lemon pesto", "Untitled recipe"),
        ("2 cups potato salad", "Untitled recipe"),
    ],
)
def test_a_number_in_a_name_is_no_amount(first: str, title: str, reader: Reader) -> None:
    recipe = read_recipe(
        f"{first}\nServes 8\n1 can (15 oz) kidney beans, drained\n1 tsp salt", reader
    ).recipe
    assert recipe.title == title
    assert len(recipe.lines) == (3 if title == "Untitled recipe" else 2)


PAGE = """
Home | Recipes
Bean and Squash Bowl
We had this in May and I liked it a lot.
Serves 3

Bowl
1 small squash
2 cups white beans
Dressing
about two tablespoons of olive oil
juice of half a lemon

Cut the squash into cubes and roast until soft, 25 minutes.
Toss with the beans and half a teaspoon of salt, and pour the dressing over.
Did you make this? Leave a comment!
"""


def test_a_page_becomes_a_recipe_with_parts_steps_and_what_was_left_out(reader: Reader) -> None:
    reading = read_recipe(PAGE, reader)
    recipe = reading.recipe
    assert (recipe.title, recipe.servings, reading.servings_given) == (
        "Bean and Squash Bowl",
        3,
        True,
    )
    assert [(line.component, line.food) for line in recipe.lines[:4]] == [
        ("Bowl", recipe.lines[0].food),
        ("Bowl", recipe.lines[1].food),
        ("Dressing", "olive-oil-refined"),
        ("Dressing", "lemon-juice-fresh"),
    ]
    assert [step.split()[0] for step in recipe.method] == ["Cut", "Toss"]
    assert [line.split()[0] for line in reading.left_out] == ["Home", "We", "Did"]
    salt = recipe.lines[4]
    assert (salt.food, salt.confidence <= 0.6) == (
        "table-salt",
        True,
    ), "measured in a step alone: not lost, checked"


def test_lines_broken_by_a_scan_are_whole_again(reader: Reader) -> None:
    text = (
        "Salad\n1 tablespoon white vine-\ngar\n3 medium cucumbers, peeled and\nthinly sliced\n1 tsp"
        " salt"
    )
    assert [line.text for line in read_page(text, reader.knows) if line.kind is LineKind.ITEM] == [
        "1 tablespoon white vinegar",
        "3 medium cucumbers, peeled and thinly sliced",
        "1 tsp salt",
    ]


@pytest.mark.parametrize(
    ("text", "region", "read"),
    [
        ("1 cup quinoa | 180 g quinoa", Region.US, "1 cup quinoa"),
        ("1 cup quinoa | 180 g quinoa", Region.METRIC, "180 g quinoa"),
        ("Cabbage, shredded\t8 kg\tas purchased 10 kg", Region.US, "8 kg Cabbage, shredded"),
        ("2 tbsp oil", Region.US, "2 tbsp oil"),
    ],
)
def test_columns(text: str, region: Region, read: str) -> None:
    assert item_text(text, region) == read


@pytest.mark.parametrize(
    ("step", "words"),
    [
        ("Step 2: Stir.", "Stir."),
        ("3) Stir.", "Stir."),
        ("1 Preheat it.", "Preheat it."),
        ("2", ""),
        ("STEP 1", ""),
        ("2 cups go in.", "2 cups go in."),
    ],
)
def test_the_number_of_a_step_is_none_of_its_words(step: str, words: str) -> None:
    assert step_text(step) == words


@pytest.mark.parametrize(
    ("heading", "name"),
    [
        ("For the dressing:", "dressing"),
        ("**Beans**", "Beans"),
        ("2. Croutons", "Croutons"),
        ("TO SERVE", "TO SERVE"),
    ],
)
def test_the_name_of_a_part_is_what_its_heading_says(heading: str, name: str) -> None:
    assert part_name(heading) == name


def test_amounts_within_a_step() -> None:
    assert amounts_in_step(
        "Stir 2 cups of yogurt with half a teaspoon of salt, then wait 10 minutes or 2 hours."
    ) == [
        "2 cups of yogurt",
        "half a teaspoon of salt",
    ]
    assert amounts_in_step("Roast at 400 F for 25 minutes in one pan.") == []


def test_a_bare_food_is_no_order_and_water_to_boil_in_is_not_eaten(reader: Reader) -> None:
    slaw = read_recipe(
        "Slaw\n1/2 cabbage\nsalt\nAdd 1 tablespoon of dressing at a time.\nChill 2 hours.", reader
    )
    assert [line.food for line in slaw.recipe.lines] == ["cabbage-green", "table-salt"]
    assert len(slaw.recipe.method) == 2
    text = (
        "Dip\n2 cups peas\nMethod\nBoil the peas in 4 cups water, drain.\nMash with half a teaspoon"
        " of salt."
    )
    assert [line.food for line in read_recipe(text, reader).recipe.lines] == [
        "green-peas-raw",
        "table-salt",
    ]


def of(reading: RecipeReading) -> tuple[object, ...]:
    """What is eaten, by the words it is known by."""
    recipe = reading.recipe
    lines = sorted(
        (line.component, line.text, str(line.food), line.amount, line.eaten)
        for line in recipe.lines
    )
    return recipe.title, recipe.servings, recipe.method, lines


@pytest.mark.parametrize("file", FITTED, ids=[file.stem for file in FITTED])
def test_rows_and_text_that_are_written_of_a_page_give_the_same_recipe(
    file: Path, reader: Reader
) -> None:
    text = "\n".join(
        row.partition("\t")[2] for row in file.read_text(encoding="utf-8").splitlines()
    )
    reading = read_recipe(text, reader)
    rows = one_row_each(reading)
    assert of(recipe_of(rows, reader, Region.US, steps_apart=True)) == of(reading)
    assert of(read_recipe(page_text(rows), reader)) == of(reading)


def test_a_row_is_told_otherwise_parted_and_joined(reader: Reader) -> None:
    page = one_row_each(
        read_recipe("Dip\nServes 4\n1 cup peas\n2 tbsp tahini\nDressing\n1 tsp salt", reader)
    )
    kinds = [line.kind.value for line in page]
    assert kinds == ["title", "yield", "item", "item", "heading", "item"]
    otherwise = turned(turned(page, 4, LineKind.AROUND), 3, LineKind.TITLE)
    assert [line.kind.value for line in otherwise] == [
        "around",
        "yield",
        "item",
        "title",
        "around",
        "item",
    ]
    assert not otherwise[4].unsure
    two = parted(page, 2, 5)
    assert [line.text for line in two[2:4]] == ["1 cup", "peas"]
    assert two[2].kind is two[3].kind is LineKind.ITEM
    assert parted(page, 2, 0) == parted(page, 2, 99) == page
    assert [line.text for line in joined(two, 3)] == [line.text for line in page]
    assert joined(page, 0) == page
    assert joined(page, 3)[2].rows == (2, 3)


def test_a_food_chosen_by_hand_stands_and_a_step_gives_nothing_where_rows_are_told(
    reader: Reader,
) -> None:
    page = read_page("Dip\n1 cup peas\nStir in 2 tbsp tahini.", reader.knows)
    assert [line.food for line in recipe_of(page, reader, Region.US).recipe.lines][1:] == ["tahini"]
    told = [page[0], replace(page[1], food="chickpeas-canned-drained"), page[2]]
    apart = recipe_of(told, reader, Region.US, steps_apart=True)
    assert [line.food for line in apart.recipe.lines] == ["chickpeas-canned-drained"]
    assert apart.places == (1,)


@pytest.mark.parametrize(
    ("said", "title", "servings"),
    [
        ("Pepper spread - serves 9ish", "Pepper spread", 9),
        ("Pepper spread — makes 9 portions", "Pepper spread", 9),
        ("Pepper spread, serves about 9", "Pepper spread", 9),
        ("Pepper spread (serves 9)", "Pepper spread", 9),
        ("Lentil dip, feeds 9 or so", "Lentil dip", 9),
        ("Slaw with apple, celery (raw)", "Slaw with apple, celery (raw)", None),
    ],
)
def test_a_title_may_say_what_it_makes(
    said: str, title: str, servings: float | None, reader: Reader
) -> None:
    pasted = f"{said}\n\n2 red peppers\n3/4 c walnuts\n2 tbl olive oil"
    read = read_recipe(pasted, reader)
    assert read.recipe.title == title
    assert servings is None or read.recipe.servings == servings
    again = read_recipe(page_text(read.page), reader).recipe
    assert (again.title, again.servings) == (title, read.recipe.servings)
