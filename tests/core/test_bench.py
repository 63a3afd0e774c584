"""The bench: what goes in is weighed, what is struck out counts for nothing, and the bowl is the
recipe it makes."""

from __future__ import annotations

from dataclasses import replace

import pytest

from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.bench.addition import read_addition, weighed_addition
from fresh_ladle.core.bench.log import BenchEvent, BenchLog, amount_of, folded, totals_of
from fresh_ladle.core.bench.next import TRIFLE, rooms, what_next, with_addition, words
from fresh_ladle.core.catalogue.answer import Answer
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.catalogue.school import BY_ID as SCHOOLS
from fresh_ladle.core.flavor.parameters import Setting
from fresh_ladle.core.foods.nutrient import HEADLINE
from fresh_ladle.core.nutrients.targets import Side, Target
from fresh_ladle.core.page.recipe_text import read_recipe
from fresh_ladle.core.plans.ladder import rungs_of_food
from fresh_ladle.core.recipes.recipe import Recipe, RecipeError
from fresh_ladle.core.whole.appraisal import Appraisal, appraise
from fresh_ladle.core.whole.balance import drift_between

TEXT = """Bean dip
Serves 6
2 cups cooked white beans
3 Tbsp tahini
2 Tbsp lemon juice
1/4 tsp salt
black pepper to taste
1 Tbsp parsley, chopped
"""


@pytest.fixture(scope="module")
def base(reader: Reader) -> Recipe:
    return read_recipe(TEXT, reader, kind="legume-dip").recipe


def logged(
    base: Recipe,
    reader: Reader,
    *said: str,
    full: bool = True,
    struck: frozenset[int] = frozenset(),
) -> BenchLog:
    events = tuple(
        BenchEvent(
            n,
            "2026-01-01T10:00:00+00:00",
            text,
            read_addition(text, reader, base).line,
            n in struck,
        )
        for n, text in enumerate(said, start=1)
    )
    return BenchLog(base, full, events)


SAID = [
    ("another squeeze of lime", "lime-juice-fresh", "1 squeeze", False),
    ("2 pinches salt", "table-salt", "2 pinches", False),
    ("another pinch of salt", "table-salt", "1 pinch", False),
    ("2 more drops hot sauce", "hot-sauce", "2 drops", False),
    ("add 1 Tbsp water", "water", "1 Tbsp", False),
    ("a bit more salt", "table-salt", "a little", False),
    ("keep back 1 Tbsp parsley for the top", "parsley", "1 Tbsp", True),
    ("1 tsp lemon juice on top", "lemon-juice-fresh", "1 tsp", True),
    ("5 g olive oil", "olive-oil-refined", "5 g", False),
]


@pytest.mark.parametrize(
    ("text", "food", "amount", "on_top"), SAID, ids=[text for text, *_ in SAID]
)
def test_what_a_cook_says_goes_in(
    text: str, food: str, amount: str, on_top: bool, base: Recipe, reader: Reader
) -> None:
    addition = read_addition(text, reader, base)
    assert (addition.line.food, addition.line.amount, addition.on_top) == (food, amount, on_top)


NOT_SAID = [
    ("", "say what goes in"),
    ("salt", "how much salt"),
    ("1 tsp wumpus", "is not understood"),
    ("1 tsp salt and 1 tsp sugar", "one thing at a time"),
]


@pytest.mark.parametrize(("text", "words_"), NOT_SAID)
def test_what_cannot_go_in_is_asked_for(
    text: str, words_: str, base: Recipe, reader: Reader
) -> None:
    with pytest.raises(RecipeError, match=words_):
        read_addition(text, reader, base)


def test_two_weighings_of_the_salt_cellar_are_an_amount_with_the_doubt_of_both(
    base: Recipe, reader: Reader, knowledge: Knowledge
) -> None:
    addition = weighed_addition("salt", 212, 209, reader, base)
    (portion,) = appraise(
        replace(base, lines=(replace(addition.line, id="l1"),), method=()), knowledge
    ).portions
    assert portion.measured.value == pytest.approx(3.0, abs=0.1)
    assert portion.measured.low == pytest.approx(1.6, abs=0.2)
    assert portion.measured.high == pytest.approx(4.4, abs=0.2)
    with pytest.raises(RecipeError, match="nothing left the vessel"):
        weighed_addition("salt", 209, 212, reader, base)


def test_a_full_bowl_holds_what_is_measured_and_not_what_is_to_taste(
    base: Recipe, reader: Reader
) -> None:
    assert [x.named for x in logged(base, reader).start.lines] == [
        "cooked white beans",
        "tahini",
        "lemon juice",
        "salt",
        "parsley",
    ]
    assert logged(base, reader, full=False).start.lines == ()


def test_the_recipe_it_makes_is_the_bowl(
    base: Recipe, reader: Reader, knowledge: Knowledge
) -> None:
    log = logged(
        base, reader, "1/4 tsp salt", "1 Tbsp lemon juice", "2 Tbsp water", "1/8 tsp black pepper"
    )
    made, bowl = appraise(folded(log, knowledge), knowledge), appraise(log.bowl(), knowledge)
    for nutrient in HEADLINE:
        assert made.totals.serving[nutrient].value == pytest.approx(
            bowl.totals.serving[nutrient].value, rel=0.02
        )
    amounts = {x.named: x.amount for x in made.recipe.lines}
    assert amounts["salt"] == "½ tsp"
    assert amounts["lemon juice"] == "3 Tbsp"
    assert amounts["water"] == "2 Tbsp"
    assert amounts["black pepper"] == "1/8 tsp"
    assert len({x.id for x in made.recipe.lines}) == len(made.recipe.lines)


def test_what_is_struck_out_counts_for_nothing_and_stays_readable(
    base: Recipe, reader: Reader, knowledge: Knowledge
) -> None:
    log = logged(base, reader, "1/4 tsp salt", "2 tsp salt", struck=frozenset({2}))
    assert [e.text for e in log.events] == ["1/4 tsp salt", "2 tsp salt"]
    assert {x.named: x.amount for x in folded(log, knowledge).lines}["salt"] == "½ tsp"
    assert totals_of(log, knowledge) == {"table-salt": pytest.approx(1.5, abs=0.1)}


def test_what_is_kept_for_the_top_keeps_a_line_of_its_own(
    base: Recipe, reader: Reader, knowledge: Knowledge
) -> None:
    made = folded(logged(base, reader, "1 tsp lemon juice on top"), knowledge)
    lemons = [x for x in made.lines if x.food == "lemon-juice-fresh"]
    assert [(x.amount, "on top" in x.remarks) for x in lemons] == [
        ("2 Tbsp", False),
        ("1 tsp", True),
    ]


def test_a_bowl_that_began_empty_is_only_what_went_in(
    base: Recipe, reader: Reader, knowledge: Knowledge
) -> None:
    log = logged(base, reader, "1 cup cooked white beans", "1 tsp salt", "1 tsp salt", full=False)
    made = folded(log, knowledge)
    assert [(x.named, x.amount) for x in made.lines] == [
        ("cooked white beans", "1 cup"),
        ("salt", "2 tsp"),
    ]
    assert not any(x.named in ("tahini", "parsley") for x in made.lines)
    assert appraise(made, knowledge).totals.batch_grams.value == pytest.approx(
        appraise(log.bowl(), knowledge).totals.batch_grams.value, rel=0.03
    )


AMOUNTS = [
    ("table-salt", 3.0, "½ tsp"),
    ("lemon-juice-fresh", 51.0, "3 Tbsp plus 1 tsp"),
    ("water", 30.0, "2 Tbsp"),
]


@pytest.mark.parametrize(("food", "grams", "amount"), AMOUNTS)
def test_grams_become_what_a_cook_would_measure(
    food: str, grams: float, amount: str, knowledge: Knowledge
) -> None:
    assert amount_of(food, grams, knowledge) == amount


def test_every_word_is_answered_by_the_smallest_addition_that_is_noticed(
    base: Recipe, reader: Reader, knowledge: Knowledge
) -> None:
    now = appraise(logged(base, reader).bowl(), knowledge)
    assert set(words(knowledge)) >= {
        "flat",
        "sharp",
        "sweet",
        "thin in flavor",
        "bitter",
        "hot",
        "heavy",
        "thick",
    }
    answers = {a.food: a for a in knowledge.answers if a.word == "flat"}
    found = what_next("flat", now, (), knowledge)
    assert found
    for one in found:
        answer = answers[one.food.key]
        assert (one.steps.steps[answer.axis] if answer.up else -one.steps.steps[answer.axis]) >= 1.0
    assert what_next("purple", now, (), knowledge) == []


def test_what_next_keeps_to_the_targets_the_school_and_what_is_left_out(
    base: Recipe, reader: Reader, knowledge: Knowledge
) -> None:
    now = appraise(logged(base, reader).bowl(), knowledge)
    sodium = now.totals.serving["sodium_mg"].value
    tight = (Target("sodium_mg", Side.AT_MOST, sodium + 5),)
    (room,) = rooms(now, tight)
    assert room.left == pytest.approx(5)
    found = what_next("flat", now, tight, knowledge)
    assert [s.within for s in found] == sorted((s.within for s in found), reverse=True)
    assert not next(s for s in found if s.food.key == "table-salt").within
    assert next(s for s in found if s.food.key == "lemon-juice-fresh").within
    oil_free = what_next("sharp", now, (), knowledge, SCHOOLS["no-added-oil-salt-sugar"])
    assert not {"honey", "olive-oil-extra-virgin"} & {s.food.key for s in oil_free}
    assert not any(
        s.food.key == "greek-yogurt-whole"
        for s in what_next("sharp", now, (), knowledge, exclude={"milk"})
    )


def test_an_empty_bowl_has_no_next(base: Recipe, reader: Reader, knowledge: Knowledge) -> None:
    assert (
        what_next(
            "flat", appraise(logged(base, reader, full=False).bowl(), knowledge), (), knowledge
        )
        == []
    )


def test_every_step_of_the_bowl_is_what_the_counter_makes_of_the_same_lines(
    base: Recipe, reader: Reader, knowledge: Knowledge
) -> None:
    log = logged(
        base,
        reader,
        "another squeeze of lemon",
        "2 pinches salt",
        "3.4 to 4.2 g salt",
        "1 Tbsp water",
    )
    for seq in range(len(log.events) + 1):
        bowl = log.bowl(seq)
        typed = read_recipe(
            "\n".join([bowl.title, *(x.text for x in bowl.lines)]),
            reader,
            bowl.servings,
            kind=bowl.kind,
        )
        at_bench, at_counter = appraise(bowl, knowledge), appraise(typed.recipe, knowledge)
        assert len(typed.recipe.lines) == len(bowl.lines)
        for nutrient, figure in at_bench.totals.serving.items():
            other = at_counter.totals.serving[nutrient]
            assert (figure.value, figure.low, figure.high) == pytest.approx(
                (other.value, other.low, other.high)
            )


def test_what_was_weighed_stays_as_it_was_weighed(
    base: Recipe, reader: Reader, knowledge: Knowledge
) -> None:
    made = folded(logged(base, reader, "1.1 to 1.3 g salt", "0.5 g salt"), knowledge)
    spooned = folded(logged(base, reader, "1/8 tsp salt", "1/8 tsp salt"), knowledge)
    salt, other = (next(x for x in r.lines if x.food == "table-salt") for r in (made, spooned))
    assert salt.amount == "3.2 g"
    assert "tsp" in other.amount


def test_within_is_said_of_just_what_passes_no_target_that_held(
    base: Recipe, reader: Reader, knowledge: Knowledge
) -> None:
    """Checked target by target on the bowl as it would be; one that was passed before may not be
    passed further."""
    now = appraise(logged(base, reader).bowl(), knowledge)
    figure = {n: now.totals.serving[n].value for n in ("sodium_mg", "energy_kcal", "sugars_g")}
    targets = (
        Target("sodium_mg", Side.AT_MOST, figure["sodium_mg"] + 20),
        Target("energy_kcal", Side.AT_MOST, figure["energy_kcal"] - 10),
        Target("sugars_g", Side.AT_MOST, figure["sugars_g"] + 0.4),
    )
    seen = set()
    for word in words(knowledge):
        for one in what_next(word, now, targets, knowledge):
            after = appraise(with_addition(now, one.food, one.rung), knowledge).totals.serving
            room = {t.nutrient: t.limit - after[t.nutrient].value for t in targets}
            least = {
                t.nutrient: min(0.0, t.limit - figure[t.nutrient]) - TRIFLE * t.limit
                for t in targets
            }
            assert one.within == all(room[n] >= least[n] for n in room), (word, one.food.key)
            seen.add(one.within)
    assert seen == {True, False}


def test_no_more_than_a_quarter_of_the_bowl_is_ever_added(
    base: Recipe, reader: Reader, knowledge: Knowledge
) -> None:
    now = appraise(logged(base, reader).bowl(), knowledge)
    most = now.totals.batch_grams.value / 4
    found = [(w, s) for w in words(knowledge) for s in what_next(w, now, (), knowledge)]
    assert found
    assert all(one.rung.grams <= most for _, one in found)
    shares = [one.rung.grams / (4 * most) for _, one in found]
    assert max(shares) > 0.05, "and not a fraction of that"
    answered = {(w, s.food.key) for w, s in found}
    weak = [a for a in knowledge.answers if (a.word, a.food) not in answered]
    assert weak, "what would take more than that is no answer"
    assert [a.food for a in weak if _least_share(a, now, knowledge) <= 0.25] == []


def _least_share(answer: Answer, now: Appraisal, knowledge: Knowledge) -> float:
    """The least of a food that answers, as a share of the bowl: looked for rung by rung; 9 where
    none does."""
    food, bowl = knowledge.pantry[answer.food], now.totals.batch_grams.value
    for rung in rungs_of_food(food):
        if rung.odd or rung.grams > bowl:
            continue
        step = drift_between(
            appraise(with_addition(now, food, rung), knowledge), now, Setting.SIDE_BY_SIDE
        )
        if (step.steps[answer.axis] if answer.up else -step.steps[answer.axis]) >= 1.0:
            return rung.grams / bowl
    return 9.0
