"""Questions: only what changes the answer, most important first, and each answer narrows the
range."""

from __future__ import annotations

from collections.abc import Sequence

import pytest

from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.nutrients.targets import Basis, Side, Target
from fresh_ladle.core.page.recipe_text import read_recipe
from fresh_ladle.core.whole.appraisal import Appraisal, appraise
from fresh_ladle.core.whole.questions import Question, questions, watched_figures

VAGUE = (
    "Vague salad\nServes 4\n1 can chickpeas\na handful of olives\n2 oz feta\n1 tbsp soy sauce\nsalt"
    " to taste\njuice of 1 lemon"
)


def asked(
    appraisal: Appraisal,
    knowledge: Knowledge,
    nutrient: str = "sodium_mg",
    targets: Sequence[Target] = (),
) -> list[Question]:
    watched = watched_figures(appraisal.totals, nutrient, targets)
    return questions(
        appraisal.portions, appraisal.totals, watched, knowledge.pantry, knowledge.ambiguities
    )


def read(text: str, reader: Reader, knowledge: Knowledge) -> Appraisal:
    return appraise(read_recipe(text, reader).recipe, knowledge)


def width(appraisal: Appraisal) -> float:
    figure = appraisal.totals.serving["sodium_mg"]
    return figure.high - figure.low


@pytest.mark.parametrize("choose", [0, -1])
def test_three_answers_halve_the_range_of_a_vague_recipe(
    choose: int, reader: Reader, knowledge: Knowledge
) -> None:
    now = read(VAGUE, reader, knowledge)
    before = width(now)
    for _ in range(3):
        now = appraise(
            now.recipe.with_line(asked(now, knowledge)[0].answers[choose].line), knowledge
        )
    assert width(now) <= before / 2


def test_the_question_that_moves_the_figure_furthest_comes_first(
    reader: Reader, knowledge: Knowledge
) -> None:
    stakes = [q.stake for q in asked(read(VAGUE, reader, knowledge), knowledge)]
    assert stakes == sorted(stakes, reverse=True)
    assert asked(read(VAGUE, reader, knowledge), knowledge)[0].text.startswith("Salt")


def test_nothing_is_asked_of_a_clear_recipe(reader: Reader, knowledge: Knowledge) -> None:
    clear = (
        "Clear\n250 g canned chickpeas, drained and rinsed\n60 g tahini\n30 g lemon juice\n2 g salt"
    )
    assert asked(read(clear, reader, knowledge), knowledge) == []


@pytest.mark.parametrize(
    ("line", "question"),
    [
        ("1 can chickpeas, drained", "rinsed"),
        ("2 Tbsp soy sauce", "reduced-sodium"),
        ("1 tsp kosher salt", "kosher"),
        ("2 cups plain yogurt", "yogurt"),
    ],
)
def test_a_bare_word_is_asked_about_and_a_telling_one_is_not(
    line: str, question: str, reader: Reader, knowledge: Knowledge
) -> None:
    nutrient = "fat_g" if "yogurt" in line else "sodium_mg"
    assert any(
        question in q.text
        for q in asked(read("Dish\n" + line, reader, knowledge), knowledge, nutrient)
    )
    told = {
        "1 can": "1 can no-salt-added",
        "2 Tbsp": "2 Tbsp reduced-sodium",
        "1 tsp": "1 tsp light flaky",
        "2 cups": "2 cups nonfat",
    }
    start = next(k for k in told if line.startswith(k))
    clear = line.replace(start, told[start])
    assert not any(
        q.about == "food"
        for q in asked(read("Dish\n" + clear, reader, knowledge), knowledge, nutrient)
    ), clear


def test_a_skipped_question_stays_in_the_range_and_is_not_asked_again(
    reader: Reader, knowledge: Knowledge
) -> None:
    from dataclasses import replace

    now = read("Dish\n1 can chickpeas, drained", reader, knowledge)
    line = now.recipe.lines[0]
    skipped = appraise(
        now.recipe.with_line(replace(line, settled=frozenset({"food skipped"}))), knowledge
    )
    assert width(skipped) == pytest.approx(width(now))
    assert not any(q.about == "food" for q in asked(skipped, knowledge))


def test_the_grain_question_changes_weight_and_preparation_together(
    reader: Reader, knowledge: Knowledge
) -> None:
    now = read("Dish\n1 cup quinoa", reader, knowledge)
    (question,) = [q for q in asked(now, knowledge, "energy_kcal") if q.about == "food"]
    lines = {a.label: a.line for a in question.answers}
    assert lines["dry, then boiled"].preparations == ("boil",)
    assert (lines["after cooking"].food, lines["after cooking"].preparations) == (
        "quinoa-cooked",
        (),
    )


def test_what_decides_an_open_target_is_asked_even_under_another_lens(
    reader: Reader, knowledge: Knowledge
) -> None:
    now = read(
        "Dish\nServes 4\n2 cups plain yogurt\n1 handful walnuts\n1/2 tsp salt", reader, knowledge
    )
    assert all(q.nutrient == "sodium_mg" for q in asked(now, knowledge))
    fat = now.totals.serving["fat_g"].value
    close = Target("fat_g", Side.AT_MOST, fat * 1.02)
    first = asked(now, knowledge, "sodium_mg", (close,))[0]
    assert first.nutrient == "fat_g"
    assert first.stake > 0
    stakes = [q.worth for q in asked(now, knowledge, "sodium_mg", (close,))]
    assert stakes == sorted(stakes, reverse=True)


def test_a_target_that_is_surely_met_or_by_weight_asks_nothing(
    reader: Reader, knowledge: Knowledge
) -> None:
    now = read(
        "Dish\nServes 4\n2 cups plain yogurt\n1 handful walnuts\n1/2 tsp salt", reader, knowledge
    )
    met = Target("fat_g", Side.AT_MOST, 500)
    assert set(watched_figures(now.totals, "sodium_mg", (met,))) == {"sodium_mg"}
    by_weight = Target("fat_g", Side.AT_MOST, 1, Basis.HUNDRED_GRAMS)
    assert set(watched_figures(now.totals, "sodium_mg", (by_weight,))) == {"sodium_mg"}
    missed = Target("fat_g", Side.AT_MOST, 1)
    assert set(watched_figures(now.totals, "sodium_mg", (missed,))) == {"sodium_mg", "fat_g"}


def test_the_nearer_the_limit_the_more_an_answer_is_worth(
    reader: Reader, knowledge: Knowledge
) -> None:
    now = read(VAGUE, reader, knowledge)
    sodium = now.totals.serving["sodium_mg"].value
    far, near = (Target("sodium_mg", Side.AT_MOST, sodium * share) for share in (0.2, 0.95))
    assert watched_figures(now.totals, "sodium_mg", (near,))["sodium_mg"] == pytest.approx(
        0.1 * sodium
    )
    assert watched_figures(now.totals, "sodium_mg", (far,))["sodium_mg"] == pytest.approx(
        0.8 * sodium
    )


def test_three_answers_halve_the_range_of_what_was_poured_by_eye(
    reader: Reader, knowledge: Knowledge
) -> None:
    text = (
        "Eyed\nServes 4\n1/2 to 1 cup olive oil\na little honey\nsalt to taste\na splash of soy"
        " sauce\n2 cucumbers"
    )
    now = read(text, reader, knowledge)
    before = width(now)
    for _ in range(3):
        now = appraise(now.recipe.with_line(asked(now, knowledge)[0].answers[1].line), knowledge)
        assert width(now) < before
    assert width(now) <= before / 2


@pytest.mark.parametrize(
    ("line", "about"),
    [
        ("1 tsp kosher salt", ["food"]),
        ("a few glugs of soy sauce", ["amount", "food"]),
        ("a handful of salted peanuts", ["amount"]),
    ],
)
def test_an_amount_is_not_asked_for_where_only_the_kind_is_open(
    line: str, about: list[str], reader: Reader, knowledge: Knowledge
) -> None:
    now = read(
        f"Bean salad\nServes 6\n3 cups white beans, cooked without salt\n{line}", reader, knowledge
    )
    assert sorted(q.about for q in asked(now, knowledge) if q.line_id == "l2") == about


@pytest.mark.parametrize(("amount", "is_asked"), [("8.4-11.6 g", True), ("8.7-11.3 g", False)])
def test_an_amount_is_asked_for_from_fifteen_hundredths_of_doubt_on(
    amount: str, is_asked: bool, reader: Reader, knowledge: Knowledge
) -> None:
    found = asked(
        read(f"Brine\nServes 4\n{amount} table salt\n200 g cucumber", reader, knowledge), knowledge
    )
    assert any(q.about == "amount" for q in found) is is_asked


def test_what_stays_of_a_salt_that_is_poured_off_is_asked_and_taken_as_told(
    reader: Reader, knowledge: Knowledge
) -> None:
    text = (
        "Dish\nServes 4\n2 cucumbers\n1 tsp salt\n\nSlice the cucumbers, salt them and let stand 20"
        " min. Squeeze."
    )
    now = read(text, reader, knowledge)
    salt = now.recipe.lines[1]
    (question,) = [q for q in asked(now, knowledge) if q.line_id == salt.id]
    assert (question.about, question.text) == (
        "eaten",
        "Salt: how much of it stays, once the method is done?",
    )
    assert question.answers[-1].label == "all of it"
    told = appraise(now.recipe.with_line(question.answers[-1].line), knowledge)
    assert told.portion(salt.id).counted.value == pytest.approx(
        told.portion(salt.id).measured.value
    )
    assert not any(q.about == "eaten" for q in asked(told, knowledge))


def test_what_a_line_itself_says_of_its_water_is_not_asked(
    reader: Reader, knowledge: Knowledge
) -> None:
    text = (
        "Dish\nServes 4\n300 g orzo\n2 tbsp salt, for the pasta water\n\nBoil the orzo in salted"
        " water 9 min. Drain."
    )
    found = asked(read(text, reader, knowledge), knowledge)
    assert not any(q.about == "eaten" for q in found)
    assert not any("measured dry" in q.text for q in found)


def test_dry_or_cooked_is_asked_only_where_no_step_boils_it(
    reader: Reader, knowledge: Knowledge
) -> None:
    for method, open_ in (("Stir everything.", True), ("Boil the quinoa 15 min. Drain.", False)):
        now = read(f"Dish\nServes 4\n1 cup quinoa\n1 tomato\n\n{method}", reader, knowledge)
        assert any(q.about == "food" for q in asked(now, knowledge, "energy_kcal")) == open_
