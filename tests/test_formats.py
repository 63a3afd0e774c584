"""Open formats: recipes in from JSON-LD, web pages and sheets; out again; and files that must be
refused."""

from __future__ import annotations

import csv
import io
import json
import zipfile
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st
from openpyxl import Workbook, load_workbook

from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.page.recipe_text import read_recipe
from fresh_ladle.core.whole.appraisal import Appraisal, appraise
from fresh_ladle.formats.any_recipe import recipe_text_from_file, recipe_text_from_paste
from fresh_ladle.formats.json_ld import json_ld
from fresh_ladle.formats.limits import FileError
from fresh_ladle.formats.sheet import csv_of, xlsx_of
from tests.conftest import Kitchen

RECIPE = {
    "@context": "https://schema.org",
    "@type": "Recipe",
    "name": "Bean &amp; lemon dip",
    "recipeYield": ["6", "6 servings"],
    "recipeIngredient": [
        "1 (15 oz) can white beans, drained",
        "2 Tbsp tahini<br>1 tsp cumin",
        {"name": "juice of 1 lemon"},
    ],
    "recipeInstructions": [
        {
            "@type": "HowToSection",
            "itemListElement": [{"@type": "HowToStep", "text": "Blend <b>all</b>."}],
        },
        "Chill.",
    ],
}
EXPECTED = (
    "Bean & lemon dip\nServes 6\n1 (15 oz) can white beans, drained\n2 Tbsp tahini\n1 tsp"
    " cumin\njuice of 1 lemon\nMethod:\nBlend all .\nChill."
)
BARE = json.dumps(RECIPE)


@pytest.mark.parametrize(
    "text",
    [
        BARE,
        json.dumps([{"@type": "WebPage"}, RECIPE]),
        json.dumps(
            {"@graph": [{"@type": "Organization"}, {**RECIPE, "@type": ["Thing", "Recipe"]}]}
        ),
        json.dumps(
            {"@type": "WebPage", "mainEntity": {**RECIPE, "@type": "http://schema.org/Recipe"}}
        ),
        (
            '<html><script type="application/ld+json">not json</script><script'
            f' type="application/ld+json">\n<!-- {BARE} -->\n</script></html>'
        ),
    ],
    ids=["bare", "list", "graph", "nested", "in a page"],
)
def test_json_ld_in_its_usual_shapes(text: str) -> None:
    assert recipe_text_from_paste(text) == EXPECTED


@pytest.mark.parametrize(
    ("text", "says"),
    [('{"@type": "Person"}', "no recipe"), ("{broken", "not valid JSON"), ("[" * 5000, "JSON")],
)
def test_json_that_is_no_recipe_is_refused(text: str, says: str) -> None:
    with pytest.raises(FileError, match=says):
        recipe_text_from_paste(text)


def sheet(rows: list[list[object]]) -> bytes:
    book = Workbook()
    for row in rows:
        assert book.active is not None
        book.active.append(row)
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


ROWS: list[list[object]] = [
    ["Component", "Amount", "Unit", "Food", "Prep"],
    ["Base", 2, "tbsp", "tahini", ""],
    ["Base", 1, "can", "chickpeas", "drained"],
    ["Top", "", "", "salt to taste", ""],
]
AS_TEXT = "Two bean dip\n## Base\n2 tbsp tahini\n1 can chickpeas, drained\n## Top\nsalt to taste"


def test_sheets_of_lines() -> None:
    assert recipe_text_from_file(sheet(ROWS), "two-bean_dip.xlsx") == AS_TEXT
    out = io.StringIO()
    csv.writer(out, delimiter=";").writerows(ROWS)
    assert recipe_text_from_file(out.getvalue().encode("cp1252"), "two bean dip.csv") == AS_TEXT
    assert recipe_text_from_file(b"ingredient\n1 cup tahini\n", "x.csv") == "X\n1 cup tahini"


def bomb() -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("xl/workbook.xml", b"0" * 80_000_000)
    return out.getvalue()


@pytest.mark.parametrize(
    ("data", "name", "says"),
    [
        (bomb(), "bomb.xlsx", "unpacks to"),
        (b"PK\x03\x04 not really", "broken.xlsx", "not a readable archive"),
        (sheet([["a", "b"], [1, 2]]), "odd.xlsx", "no column is called"),
        (sheet([[]]), "empty.xlsx", "empty"),
        (b"x" * 9_000_000, "huge.txt", "MB"),
        (b"\x89PNG\x00\x00", "picture.txt", "not text"),
        (b"a,b\n" + b"1,2\n" * 3000, "long.csv", "rows"),
    ],
)
def test_files_that_must_be_refused(data: bytes, name: str, says: str) -> None:
    with pytest.raises(FileError, match=says):
        recipe_text_from_file(data, name)


@given(st.binary(max_size=400), st.sampled_from(["a.txt", "a.csv", "a.xlsx", "a.json"]))
def test_any_bytes_are_read_or_refused_in_words(data: bytes, name: str) -> None:
    said = "read"
    try:
        recipe_text_from_file(data, name)
    except FileError as error:
        said = str(error)
    assert said


@pytest.fixture
def appraisal(reader: Reader, knowledge: Knowledge) -> Appraisal:
    reading = read_recipe(
        "=Dip\nServes 4\n1 cup tahini\n2 tbsp lemon juice\n1 tbsp nonesuch wumpus\nMethod\nStir.",
        reader,
    )
    return appraise(reading.recipe, knowledge)


def test_json_ld_goes_out_with_nutrition_and_comes_back(
    appraisal: Appraisal, reader: Reader
) -> None:
    document = json.loads(json_ld(appraisal))
    assert "calories" not in document["nutrition"], (
        "a figure that is not complete is left out, never written as 0"
    )
    back = read_recipe(recipe_text_from_paste(json_ld(appraisal)), reader).recipe
    assert [line.food for line in back.lines] == [line.food for line in appraisal.recipe.lines]
    assert (back.servings, back.method) == (4, ("Stir.",))


def test_sheets_go_out_with_figures_and_no_formula(appraisal: Appraisal) -> None:
    rows = list(csv.DictReader(io.StringIO(csv_of(appraisal))))
    assert float(rows[0]["grams"]) == pytest.approx(appraisal.portions[0].in_bowl.value)
    assert rows[2]["energy_kcal"] == ""
    assert float(rows[-1]["sodium_mg"]) == pytest.approx(
        appraisal.totals.serving["sodium_mg"].value
    )
    book = load_workbook(io.BytesIO(xlsx_of(appraisal)))
    cells = [c.value for row in book.worksheets[0].iter_rows() for c in row]
    assert not any(isinstance(c, str) and c.startswith("=") for c in cells)


def test_what_no_sheet_can_hold_and_what_it_would_take_for_a_formula_is_written_as_text(
    kitchen: Kitchen,
) -> None:
    recipe = kitchen.recipe({"tahini": "30 g", "table-salt": "1 g"})
    odd = replace(recipe.lines[0], text="tahini \x0b\x01", component="=1+1")
    worse = replace(recipe.lines[1], text="-2+3", component="\tsum")
    version = kitchen.work_out(replace(recipe, lines=(odd, worse)))
    rows = list(load_workbook(io.BytesIO(xlsx_of(version))).active.values)  # type: ignore[union-attr]
    assert [row[:2] for row in rows[1:3]] == [("'=1+1", "tahini "), ("'\tsum", "'-2+3")]
    assert [row[:2] for row in csv.reader(io.StringIO(csv_of(version)))][1] == ["'=1+1", "tahini "]


@pytest.mark.parametrize(
    "first", ["[draft] Bean dip", "{draft} Bean dip", "[1] Bean dip", "(new) Bean dip"]
)
def test_a_text_that_begins_with_a_bracket_is_still_a_text(first: str) -> None:
    text = f"{first}\n1 can white beans\n"
    assert recipe_text_from_paste(text) == text
