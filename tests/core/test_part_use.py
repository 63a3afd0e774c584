"""A recipe's own parts used in part, what it makes, and lines that may be left out or chosen
from."""

from __future__ import annotations

import pytest

from fresh_ladle.core.amounts.part_use import heading_share, part_use, share_of
from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.amounts.yields import read_yield
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.page.recipe_text import read_recipe
from fresh_ladle.core.ranges import Range
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.core.whole.appraisal import Appraisal, appraise
from fresh_ladle.core.whole.questions import questions, watched_figures

DRESSING = "## Dressing\n1/2 cup olive oil\n1 tsp salt\n1/4 cup lemon juice\n"


def worked_out(text: str, reader: Reader, knowledge: Knowledge) -> Appraisal:
    return appraise(read_recipe(text, reader).recipe, knowledge)


@pytest.mark.parametrize(
    ("words", "share"),
    [
        ("half", 0.5),
        ("two thirds", 2 / 3),
        ("three quarters", 0.75),
        ("1/3", 1 / 3),
        ("75%", 0.75),
        ("all", 1.0),
        ("most", 0.75),
        ("the rest", None),
        ("3/2", None),
    ],
)
def test_a_share_in_words(words: str, share: float | None) -> None:
    assert share_of(words) == (None if share is None else pytest.approx(share))


@pytest.mark.parametrize(
    ("text", "share"),
    [
        ("two thirds of the sauce below", 2 / 3),
        ("half the dressing", 0.5),
        ("1/4 of the dressing (see below)", 0.25),
        ("most of the vinaigrette from above", 0.75),
        ("the rest of the dressing, another day", 0.0),
        ("the remaining dressing", 1.0),
    ],
)
def test_a_line_about_a_part_of_the_recipe_is_no_ingredient(text: str, share: float) -> None:
    use = part_use(text, ["Salad", "Dressing"])
    assert use is not None
    assert (use.component, use.share) == ("Dressing", pytest.approx(share))


@pytest.mark.parametrize(
    "text",
    [
        "half an onion",
        "1/2 cup olive oil",
        "two thirds of a cup of sauce",
        "all-purpose flour",
        "half the feta",
    ],
)
def test_an_ingredient_is_no_part_of_the_recipe(text: str) -> None:
    assert part_use(text, ["Salad", "Dressing"]) is None


def test_the_figures_count_only_the_part_that_is_used(reader: Reader, knowledge: Knowledge) -> None:
    whole = worked_out("Dish\nServes 4\n1 kg cucumber\n" + DRESSING, reader, knowledge)
    for said, share in (
        ("half of the dressing below", 0.5),
        ("two thirds of the dressing below\n", 2 / 3),
        ("1/3 of the dressing below\n1/3 of the dressing below", 2 / 3),
    ):
        part = worked_out(f"Dish\nServes 4\n1 kg cucumber\n{said}\n{DRESSING}", reader, knowledge)
        for nutrient in ("sodium_mg", "fat_g"):
            of_cucumber = whole.totals.per_line["l1"][nutrient] or 0.0
            wanted = of_cucumber + share * (whole.totals.batch[nutrient].value - of_cucumber)
            assert part.totals.batch[nutrient].value == pytest.approx(wanted)


def test_so_many_spoons_of_the_dressing_are_a_share_of_what_it_weighs(
    reader: Reader, knowledge: Knowledge
) -> None:
    text = (
        "Dish\nServes 4\n1 kg cucumber\n1/4 cup of the sauce below\n## Sauce\n1 cup yogurt\n1/2 cup"
        " tahini"
    )
    lines = {line.text: line for line in read_recipe(text, reader).recipe.lines}
    assert len(lines) == 3
    assert lines["1 cup yogurt"].eaten == pytest.approx(59.1 / (245 + 120), rel=0.02)
    assert lines["1 kg cucumber"].eaten == 1


def test_a_heading_may_say_how_much_of_it_is_used(reader: Reader) -> None:
    assert heading_share("Dressing (you will need half)") == ("Dressing", 0.5)
    assert heading_share("Dressing (makes extra; use two thirds)") == (
        "Dressing",
        pytest.approx(2 / 3),
    )
    assert heading_share("Dressing (vegan)") == ("Dressing (vegan)", None)
    recipe = read_recipe(
        "Dish\n1 kg cucumber\n## Dressing (use half)\n1/2 cup olive oil", reader
    ).recipe
    assert [(line.component, line.eaten) for line in recipe.lines] == [("", 1.0), ("Dressing", 0.5)]


def test_of_variants_and_choices_one_is_counted_and_the_others_kept(reader: Reader) -> None:
    text = (
        "Dish\n1 cup yogurt\nChoose one:\n1/4 cup walnuts\n1/4 cup almonds\nVariation with"
        " cheese:\n50 g feta\n## Top\n1 tsp sumac"
    )
    eaten = {line.text: line.eaten for line in read_recipe(text, reader).recipe.lines}
    assert eaten == {
        "1 cup yogurt": 1,
        "1/4 cup walnuts": 1,
        "1/4 cup almonds": 0,
        "50 g feta": 0,
        "1 tsp sumac": 1,
    }


def test_a_choice_that_is_not_taken_brings_no_allergen_and_no_caution(
    reader: Reader, knowledge: Knowledge
) -> None:
    now = worked_out(
        "Dish\n1 kg cucumber\nChoose one:\n1 Tbsp sesame seeds\n1/4 cup almonds", reader, knowledge
    )
    assert [a.id for a in now.allergens] == ["sesame"]
    assert "choking-nuts" not in {c.caution.id for c in now.cautions}


def test_an_optional_line_is_counted_with_the_doubt_that_it_is_not_in(
    reader: Reader, knowledge: Knowledge
) -> None:
    text = "Dish\nServes 4\n500 g cucumber\n60 g feta{}"
    sure, perhaps = (worked_out(text.format(t), reader, knowledge) for t in ("", ", optional"))
    figure = perhaps.totals.serving["sodium_mg"]
    assert figure.value == pytest.approx(sure.totals.serving["sodium_mg"].value)
    assert figure.low < 0.4 * sure.totals.serving["sodium_mg"].low
    watched = watched_figures(perhaps.totals, "sodium_mg")
    first = questions(
        perhaps.portions, perhaps.totals, watched, knowledge.pantry, knowledge.ambiguities
    )[0]
    assert first.text == "Feta, optional: is it in?"
    in_it, left_out = (appraise(perhaps.recipe.with_line(a.line), knowledge) for a in first.answers)
    assert in_it.totals.serving["sodium_mg"].low == pytest.approx(
        sure.totals.serving["sodium_mg"].low
    )
    assert left_out.totals.serving["sodium_mg"].value < 5


@pytest.mark.parametrize(
    ("text", "servings"),
    [
        ("Serves 4", (4, 4)),
        ("Serves 2 to 4", (2, 4)),
        ("Servings: 4-6", (4, 6)),
        ("Yield: 8 servings", (8, 8)),
        ("Makes 4 generous salads", (4, 4)),
        ("Makes enough for 6", (6, 6)),
        ("Makes 12 (2 Tbsp) servings", (12, 12)),
        ("8 portions", (8, 8)),
        ("feeds six", (6, 6)),
    ],
)
def test_how_many_it_serves(text: str, servings: tuple[float, float]) -> None:
    found = read_yield(text)
    assert found is not None
    assert found.servings == Range(sum(servings) / 2, *servings)
    assert found.millilitres is None


@pytest.mark.parametrize(
    ("text", "millilitres"),
    [
        ("Makes 5 cups", 1183),
        ("makes about 2 quarts", 1893),
        ("Yields 1 1/2 cups dressing", 355),
        ("Makes 500 ml", 500),
        ("fills 6 jars", None),
        ("Makes 24 dumplings", None),
    ],
)
def test_a_yield_by_volume_or_by_the_jar_is_no_number_of_servings(
    text: str, millilitres: float | None
) -> None:
    found = read_yield(text)
    assert found is not None
    assert found.servings is None
    assert found.millilitres == (
        None if millilitres is None else pytest.approx(millilitres, rel=0.01)
    )


@pytest.mark.parametrize(
    "text",
    ["2 cups flour", "Serve with lemon", "feeds a crowd", "served cold", "6 servings spoons"],
)
def test_what_is_no_yield(text: str) -> None:
    assert read_yield(text) is None


def test_a_yield_by_volume_gives_its_density_and_asks_for_the_servings(
    reader: Reader, knowledge: Knowledge
) -> None:
    from dataclasses import replace

    reading = read_recipe("Dip\nMakes 2 cups\n400 g cooked chickpeas\n100 g tahini", reader)
    assert not reading.servings_given
    assert reading.recipe.yield_ml == pytest.approx(473, rel=0.01)
    by_volume = appraise(replace(reading.recipe, serving_ml=60.0), knowledge)
    assert by_volume.totals.serving_grams == pytest.approx(500 / 473 * 60, rel=0.02)
    assert by_volume.totals.servings == pytest.approx(473 / 60, rel=0.02)


def test_serves_two_to_four_is_a_range_in_every_figure(
    reader: Reader, knowledge: Knowledge
) -> None:
    three, range_ = (
        worked_out(f"D\nServes {n}\n300 g feta", reader, knowledge) for n in ("3", "2 to 4")
    )
    figure, sure = range_.totals.serving["sodium_mg"], three.totals.serving["sodium_mg"]
    assert figure.value == pytest.approx(sure.value)
    assert figure.low <= sure.value * 3 / 4 + 1
    assert figure.high >= sure.value * 3 / 2 - 1
    assert range_.totals.batch["sodium_mg"] == three.totals.batch["sodium_mg"]


def test_servings_outside_their_own_range_are_refused(reader: Reader) -> None:
    from dataclasses import replace

    recipe = read_recipe("D\nServes 2 to 4\n300 g feta", reader).recipe
    with pytest.raises(RecipeError, match="not in between"):
        replace(recipe, servings=5)
    with pytest.raises(RecipeError, match="yield by volume"):
        replace(recipe, yield_ml=0)
