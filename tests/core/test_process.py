"""Methods are read into what is done to food: its order, its waits, what reaches the bowl. 105
recipes by one hand."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.method.clauses import Sort
from fresh_ladle.core.method.lexicon import VerbClass
from fresh_ladle.core.method.process import Fate, Operation, Process
from fresh_ladle.core.method.stretch import minutes_in
from fresh_ladle.core.method.tokens import sentences_of
from fresh_ladle.core.page.recipe_text import read_recipe
from fresh_ladle.core.recipes.ruling import ReadAs, Ruling, still_said, with_ruling, without_ruling
from fresh_ladle.core.whole.appraisal import Appraisal, appraise
from tests.methods import Case, cases

ALL = [*cases("sixty"), *cases("thirty"), *cases("fifteen")]
MISSED = {
    "Poached pears with walnuts: bowl pears=360-520",
    "Fruit plate with yogurt sauce: order segment < stir",
    "Panzanella: order shake < toss",
    "Panzanella: eaten 1 tsp salt",
    "Smoky baba with reserve: bowl lemon=10-50",
    "Beans by pressure: eaten 1 onion",
    "Peppers marinated and kept: bowl olive oil=10-60",
    "Peppers marinated and kept: eaten 2 cloves garlic",
    "Peppers marinated and kept: eaten 1 tbsp vinegar",
    "Peppers marinated and kept: eaten 1/2 tsp salt",
    "Nut cheese, cultured: eaten 1/4 cup water",
    "Oat and seed crackers dip plate: eaten 1 tbsp oil",
}
"""What is read otherwise than was written of it beforehand: known, and not more."""


@dataclass(frozen=True)
class Checked:
    dish: Appraisal
    case: Case

    @property
    def process(self) -> Process:
        return self.dish.process

    def operation(self, words: str) -> Operation | None:
        """The operation whose words these are, or begin with these."""
        wanted = words.strip().lower()
        found = [o for o in self.process.operations if wanted in o.text.lower()]
        begins = [o for o in found if o.text.lower().startswith(wanted)]
        return next(iter(begins or found), None)


@pytest.fixture(scope="module")
def read(knowledge: Knowledge):  # type: ignore[no-untyped-def]
    reader = Reader(knowledge.pantry, knowledge.preparations)

    def reading(case: Case) -> Checked:
        recipe = read_recipe("\n".join((case.name, *case.lines)) + "\n", reader, 4).recipe
        return Checked(appraise(replace(recipe, method=case.method), knowledge), case)

    return reading


def misses(checked: Checked) -> Iterator[str]:
    """What is said of a case and does not hold."""
    said = checked.case.said
    for pair in said.get("order", ()):
        if not _in_order(checked, pair):
            yield f"order {pair}"
    for one in said.get("wait", ()):
        if not _waits(checked, one):
            yield f"wait {one}"
    yield from _bowl_misses(checked)
    for one in said.get("not", ()):
        words, _, sort = one.partition("=")
        if next(s.sort.value for s in checked.process.said if words in s.text.lower()) != sort:
            yield f"not {one}"


def _bowl_misses(checked: Checked) -> Iterator[str]:
    named = set()
    for one in checked.case.said.get("bowl", ()):
        words, _, grams = one.partition("=")
        low, high = map(float, grams.split("-"))
        line = next(line for line in checked.dish.recipe.lines if words in line.text.lower())
        named.add(line.id)
        if not low - 0.01 <= checked.dish.portion(line.id).in_bowl.value <= high + 0.01:
            yield f"bowl {one}"
    for line in checked.dish.recipe.lines:
        if line.id not in named and checked.process.outcomes[line.id].eaten.value < 0.97:
            yield f"eaten {line.text}"


def _in_order(checked: Checked, pair: str) -> bool:
    mark = "<" if "<" in pair else "|"
    first, second = (checked.operation(words) for words in pair.split(mark))
    if first is None or second is None or first.id == second.id:
        return False
    before, after = (checked.process.before(o.id) for o in (second, first))
    return first.id in before if mark == "<" else first.id not in before and second.id not in after


def _waits(checked: Checked, one: str) -> bool:
    words, _, minutes = one.partition("=")
    low, _, high = minutes.partition("-")
    operation = checked.operation(words)
    if operation is None or operation.minutes is None:
        return False
    return operation.minutes.low == float(low) and (
        not high or operation.minutes.high == float(high)
    )


@pytest.mark.parametrize("case", ALL, ids=[case.name for case in ALL])
def test_a_method_is_read_for_what_it_does(case: Case, read) -> None:  # type: ignore[no-untyped-def]
    found = {f"{case.name}: {miss}" for miss in misses(read(case))}
    assert found == {miss for miss in MISSED if miss.startswith(f"{case.name}: ")}


@pytest.mark.parametrize("case", ALL, ids=[case.name for case in ALL])
def test_nothing_is_lost_and_nothing_comes_before_what_it_needs(case: Case, read) -> None:  # type: ignore[no-untyped-def]
    checked = read(case)
    said = " ".join(s.text.lower() for s in checked.process.said)
    for sentence in (s for step in case.method for s in sentences_of(step)):
        first = sentence.lower().split()[0].strip(",.:")
        assert first in said, sentence
    for operation in checked.process.operations:
        assert all(before < operation.id for before in operation.after)
        assert operation.id not in checked.process.before(operation.id)
    for outcome in checked.process.outcomes.values():
        gone = sum(
            share.value for fate, share in outcome.fates.items() if fate is not Fate.TAKEN_UP
        )
        assert outcome.eaten.value + gone == pytest.approx(1.0, abs=0.02)
        assert outcome.weight.value <= outcome.eaten.value + 1e-9


BY_HEAT = {"raw-egg", "raw-fish"}
"""Cautions that heat answers."""


@pytest.mark.parametrize("case", [c for c in ALL if "caution" in c.said], ids=lambda c: c.name)
def test_heat_answers_a_caution_and_acid_does_not(case: Case, read) -> None:  # type: ignore[no-untyped-def]
    said = {one.strip() for group in case.said["caution"] for one in group.split(",")}
    raised = {c.caution.id for c in read(case).dish.cautions}
    assert {one[1:] for one in said if one[0] == "+" and one[1:] in BY_HEAT} <= raised
    assert not {one[1:] for one in said if one[0] == "-" and one[1:] in BY_HEAT} & raised


def test_what_is_cut_comes_out_of_what_it_cooked_in(knowledge: Knowledge) -> None:
    """The stock of a chicken that is shredded stays behind; boneless breasts lose water, and no
    bones."""
    reader = Reader(knowledge.pantry, knowledge.preparations)
    recipe = read_recipe(
        "Salad\n2 chicken breasts\n1 liter chicken stock\n1 carrot\n", reader, 4
    ).recipe
    method = (
        (
            "Poach the chicken in the stock for 20 minutes and shred it. Grate the carrot and toss"
            " it with the chicken."
        ),
    )
    chicken, stock, _ = appraise(replace(recipe, method=method), knowledge).portions
    assert chicken.in_bowl.value == pytest.approx(chicken.measured.value * 0.75)
    assert stock.in_bowl.value == 0
    assert stock.counted.value == 0


NOT_COOKED = (
    ("1 egg", "raw-egg", "Simmer the quinoa in water for 15 minutes. Cool it. Stir in the egg."),
    ("1 egg", "raw-egg", "Simmer the quinoa in water for 15 minutes. Stir in the egg."),
    ("1 egg", "raw-egg", "Boil the egg for 6 minutes."),
    ("200 g tuna steak", "raw-fish", "Grill the tuna for a minute on each side, still red inside."),
    ("200 g tuna steak", "raw-fish", "Blanch the tuna for 10 seconds."),
)
COOKED = (
    (
        "1 egg",
        "raw-egg",
        "Simmer the quinoa in water for 15 minutes, and put the egg in for the last 9.",
    ),
    ("1 egg", "raw-egg", "Boil the egg for 10 minutes."),
    ("200 g tuna steak", "raw-fish", "Grill the tuna for 5 minutes on each side."),
)


@pytest.mark.parametrize(("line", "caution", "method", "raised"), [
    *((*case, True) for case in NOT_COOKED), *((*case, False) for case in COOKED)
])  # fmt: skip
def test_what_only_touches_heat_is_not_cooked(
    line: str, caution: str, method: str, raised: bool, knowledge: Knowledge
) -> None:
    reader = Reader(knowledge.pantry, knowledge.preparations)
    recipe = read_recipe(f"Bowl\n1 cup quinoa\n{line}\n", reader, 4).recipe
    found = {c.caution.id for c in appraise(replace(recipe, method=(method,)), knowledge).cautions}
    assert (caution in found) == raised


WORKED = cases("sixty")[0]


def test_the_worked_example_step_by_step(read) -> None:  # type: ignore[no-untyped-def]
    checked = read(WORKED)
    lines = {line.named: line.id for line in checked.dish.recipe.lines}
    peel, cut, toss, roast, whisk, put, top = checked.process.operations
    assert [o.verb for o in checked.process.operations] == [
        "peel", "quarter", "toss", "roast", "whisk", "plate", "top",
    ]  # fmt: skip
    assert (peel.after, cut.after, toss.after, roast.after) == ((), (0,), (1,), (2,))
    assert toss.lines[lines["olive oil"]].value == pytest.approx(0.5)
    assert set(toss.lines) == {lines["beets"], lines["olive oil"], lines["salt"]}
    assert (roast.celsius, roast.sign) == (200, "until a fork slides in")
    assert (whisk.after, set(whisk.lines)) == ((), {lines["red wine vinegar"], lines["olive oil"]})
    assert put.after == ()
    assert set(top.after) == {roast.id, put.id}
    assert checked.process.unused == (whisk.id,)
    assert [s.sort for s in checked.process.said][-1] is Sort.ADVICE
    oil = checked.process.outcomes[lines["olive oil"]]
    assert oil.fates[Fate.LEFT_ON_METAL].value == pytest.approx(0.5 * 0.15)
    assert oil.eaten.value == pytest.approx(1 - 0.075)


LINE_SAYS = [
    ("1 lb eggplant, roasted", "1 lb eggplant", "Cube the eggplant and roast it for 30 minutes."),
    ("500 g beets, peeled", "500 g beets", "Peel the beets."),
    ("1 cup walnuts, toasted", "1 cup walnuts", "Toast the walnuts in a dry pan."),
    ("2 tbsp olive oil for the tray", "2 tbsp olive oil", ""),
]


@pytest.mark.parametrize(
    ("line", "bare", "step"), LINE_SAYS, ids=[line for line, _, _ in LINE_SAYS]
)
def test_a_loss_is_one_loss_whoever_says_it(
    line: str, bare: str, step: str, knowledge: Knowledge
) -> None:
    """By the line, by the method, or by both."""
    reader = Reader(knowledge.pantry, knowledge.preparations)
    recipes = [read_recipe(f"Dish\n{text}\n", reader, 4).recipe for text in (line, bare, line)]
    method = (step,) if step else ("Toss with the oil and roast.",)
    tried = [recipes[0], replace(recipes[1], method=method), replace(recipes[2], method=method)]
    by_line, by_method, by_both = (appraise(recipe, knowledge).portions[0] for recipe in tried)
    assert by_both.in_bowl.value == pytest.approx((by_method if step else by_line).in_bowl.value)
    if step:
        assert by_line.in_bowl.low <= by_method.in_bowl.value <= by_line.in_bowl.high


def test_without_a_method_a_dish_is_as_its_lines_say(knowledge: Knowledge, read) -> None:  # type: ignore[no-untyped-def]
    for case in ALL[:10]:
        recipe = replace(read(case).dish.recipe, method=())
        plain = replace(recipe, lines=tuple(replace(line, reached=None) for line in recipe.lines))
        assert appraise(recipe, knowledge).portions == appraise(plain, knowledge).portions


SCRAPS = (
    "peel the beets and cut them toss with half oil . , ; until soft when cold if drain rinse it"
    " everything rest of 2 tbsp salt discard keep another day pour over roast at 200 °C for 30"
    " minutes"
)


@given(st.lists(st.sampled_from(SCRAPS.split(" ")), max_size=40))
def test_any_words_are_a_method(words: list[str]) -> None:
    from fresh_ladle.data.load import load_knowledge, load_reader

    text = " ".join(words)
    recipe = read_recipe("Beets\n" + "\n".join(WORKED.lines) + "\n", load_reader(), 4).recipe
    dish = appraise(replace(recipe, method=(text,)), load_knowledge())
    assert len(dish.process.said) >= len(sentences_of(text))
    for outcome in dish.process.outcomes.values():
        assert 0 <= outcome.eaten.low <= outcome.eaten.value <= outcome.eaten.high <= 1


OPEN = """Beans and greens
Serves 4
1 can white beans
100 g arugula
1/2 tsp salt
2 tbsp olive oil

Drain the beans. Frobnicate gently. Toss the beans with the salt. Let it all sit about.
Chill. Chill. Top with the arugula.
"""


@pytest.fixture
def ruled(reader: Reader, knowledge: Knowledge) -> Callable[..., Process]:
    recipe = read_recipe(OPEN, reader).recipe

    def reading(*rulings: Ruling) -> Process:
        return appraise(replace(recipe, rulings=rulings), knowledge).process

    return reading


def said_of(process: Process, words: str) -> list[Sort]:
    return [said.sort for said in process.said if said.text == words]


def test_a_step_told_to_be_advice_or_no_work_is_none_and_stays_said(
    ruled: Callable[..., Process],
) -> None:
    count = len(ruled().operations)
    for read_as, sort in ((ReadAs.ADVICE, Sort.ADVICE), (ReadAs.NO_WORK, Sort.NOTE)):
        process = ruled(Ruling("Frobnicate gently.", 0, read_as))
        assert said_of(process, "Frobnicate gently.") == [sort]
        assert len(process.operations) == count - 1
        assert len(process.said) == len(ruled().said)


def test_a_step_told_to_be_work_is_done_to_the_lines_that_are_named(
    ruled: Callable[..., Process],
) -> None:
    process = ruled(Ruling("Frobnicate gently.", 0, ReadAs.WORK, ("l2", "l4")))
    (operation,) = [o for o in process.operations if o.text == "Frobnicate gently."]
    assert (set(operation.lines), set(operation.named)) == ({"l2", "l4"}, {"l2", "l4"})
    assert operation.kind is VerbClass.PREPARE
    (top,) = [o for o in process.operations if o.verb == "top"]
    assert operation.id in process.before(top.id)


def test_a_step_told_to_be_a_wait_is_one_on_what_stands_at_hand(
    ruled: Callable[..., Process],
) -> None:
    process = ruled(Ruling("Toss the beans with the salt", 0, ReadAs.WAIT))
    (operation,) = [o for o in process.operations if o.text == "Toss the beans with the salt"]
    assert operation.kind is VerbClass.WAIT
    assert "l1" in operation.lines


def test_of_two_steps_with_the_same_words_only_the_one_that_is_meant_is_set_right(
    ruled: Callable[..., Process],
) -> None:
    assert said_of(ruled(Ruling("Chill", 1, ReadAs.NO_WORK)), "Chill") == [Sort.WORK, Sort.NOTE]
    assert said_of(ruled(Ruling("Chill", 2, ReadAs.NO_WORK)), "Chill") == [Sort.WORK, Sort.WORK]


def test_rulings_replace_each_other_are_taken_back_and_go_with_their_words() -> None:
    first, other = Ruling("Chill", 0, ReadAs.WORK), Ruling("Chill", 1, ReadAs.WORK)
    changed = Ruling("Chill", 0, ReadAs.ADVICE)
    assert with_ruling((first, other), changed) == (other, changed)
    assert without_ruling((first, other), "Chill", 0) == (other,)
    assert still_said((first, Ruling("Toss well", 0, ReadAs.WAIT)), ["Chill it.", "Serve."]) == (
        first,
    )


KEPT_HALF = """Leaves with half a dressing
Serves 2
100 g arugula
1/4 cup yogurt
2 tbsp lemon juice
1 tsp honey
1 cup quinoa
2 cups water
2 tbsp pumpkin seeds

Boil the quinoa in the water 15 minutes.
Whisk the yogurt, lemon juice and honey to a dressing.
Toss everything with half the dressing; keep the rest for another day.
Scatter the pumpkin seeds over.
"""


def test_everything_is_tossed_with_half_the_dressing_and_the_other_half_is_kept(
    reader: Reader, knowledge: Knowledge
) -> None:
    dish = appraise(read_recipe(KEPT_HALF, reader).recipe, knowledge)
    eaten = {
        dish.recipe.line(line).named: outcome.eaten.value
        for line, outcome in dish.process.outcomes.items()
    }
    assert {n: eaten[n] for n in ("yogurt", "lemon juice", "honey")} == dict.fromkeys(
        ("yogurt", "lemon juice", "honey"), pytest.approx(0.5)
    )
    assert eaten["quinoa"] == eaten["arugula"] == eaten["pumpkin seeds"] == 1
    toss = next(o for o in dish.process.operations if o.verb == "toss")
    seeds = next(line.id for line in dish.recipe.lines if line.named == "pumpkin seeds")
    assert seeds not in toss.lines
    keep = next(o for o in dish.process.operations if o.verb == "reserve")
    assert keep.minutes is None
    assert set(keep.lines) == {
        line.id for line in dish.recipe.lines if line.named in ("yogurt", "lemon juice", "honey")
    }


@pytest.mark.parametrize(
    ("words", "low", "high"),
    [
        ("Simmer for 1 hour 15 minutes, until soft", 75, 75),
        ("Roast an hour and a half", 90, 90),
        ("Cook 2 hours and 10 mins", 130, 130),
        ("Rest 1 h 30", 90, 90),
        ("Rest 1 h 30 g", 60, 60),
        ("Soak one and a half hours", 90, 90),
        ("Soak two and a half to three hours", 150, 180),
        ("Stand 2 hours and 3 cups", 120, 120),
        ("Bake 10 minutes and 2 eggs", 10, 10),
        ("Chill for 1 hour, 15 g", 60, 60),
    ],
)
def test_a_stretch_of_time_is_read_to_its_end(words: str, low: float, high: float) -> None:
    found = minutes_in(words)
    assert found is not None
    assert (found.low, found.high) == (low, high)


def test_another_day_is_no_stretch_of_time() -> None:
    assert minutes_in("Keep the rest for another day") is None
    assert minutes_in("Chill for another hour") is not None
