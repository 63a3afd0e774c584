"""The ways of lines through a method: nothing is lost, what is shared out is drawn apart, what is
kept ends."""

from __future__ import annotations

from dataclasses import replace
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.method.process import Fate
from fresh_ladle.core.method.ways import Way, leavings, ways_of
from fresh_ladle.core.page.recipe_text import read_recipe
from fresh_ladle.core.whole.appraisal import Appraisal, appraise
from tests.methods import Case, cases

ALL = [*cases("sixty"), *cases("thirty")]
BEETS = """Beets and leaves
Serves 4
500 g beets
4 tbsp olive oil
1/2 tsp salt
2 tbsp vinegar
100 g arugula
1 tsp cumin

Peel the beets and cut them into wedges. Toss with half the oil and the salt. Roast for 30 minutes at 200 °C.
Whisk the vinegar with the rest of the oil to a dressing. Keep half the dressing for another day.
Put the arugula on plates and top with the beets. Spoon the dressing over.
"""


def read(text: str, reader: Reader, knowledge: Knowledge) -> Appraisal:
    return appraise(read_recipe(text, reader).recipe, knowledge)


def named(dish: Appraisal) -> dict[str, list[Way]]:
    lines = [line.id for line in dish.recipe.lines]
    found: dict[str, list[Way]] = {}
    for way in ways_of(dish.process, lines):
        found.setdefault(dish.recipe.line(way.line).named, []).append(way)
    return found


@pytest.fixture(scope="module")
def beets(reader: Reader, knowledge: Knowledge) -> Appraisal:
    return read(BEETS, reader, knowledge)


def test_a_line_that_is_shared_out_has_a_way_for_each_share(beets: Appraisal) -> None:
    first, second, kept = named(beets)["olive oil"]
    assert (first.share, second.share, kept.share) == (0.5, pytest.approx(0.5), pytest.approx(0.25))
    assert (first.forks, second.forks, kept.forks) == (False, False, True) or kept.ends


def test_what_is_kept_ends_where_it_is_kept_and_the_rest_reaches_the_dish(beets: Appraisal) -> None:
    vinegar = named(beets)["vinegar"]
    assert sorted(way.ends for way in vinegar) == [False, True]
    (kept,) = [way for way in vinegar if way.ends]
    assert beets.process.operations[kept.operations[-1]].text.startswith("Keep half")
    (leaving,) = [one for one in leavings(beets.process) if one.line == kept.line]
    assert (leaving.fate, leaving.operation) == (Fate.KEPT, kept.operations[-1])
    assert leaving.share == pytest.approx(0.5)


def test_a_line_no_step_is_about_has_a_way_with_no_operation(beets: Appraisal) -> None:
    (cumin,) = named(beets)["cumin"]
    assert (cumin.operations, cumin.ends) == ((), False)


def test_what_comes_together_lies_together(beets: Appraisal) -> None:
    order = [way.line for way in ways_of(beets.process, [line.id for line in beets.recipe.lines])]
    names = [beets.recipe.line(line).named for line in order]
    assert abs(names.index("beets") - names.index("salt")) <= 2
    assert names.index("cumin") in (0, len(names) - 1)


@pytest.mark.parametrize("case", ALL, ids=[case.name for case in ALL])
def test_ways_go_through_every_operation_on_their_line_in_an_order_that_holds(
    case: Case, reader: Reader, knowledge: Knowledge
) -> None:
    recipe = read_recipe("\n".join((case.name, *case.lines)) + "\n", reader, 4).recipe
    dish = appraise(replace(recipe, method=case.method), knowledge)
    process = dish.process
    lines = [line.id for line in dish.recipe.lines]
    ways = ways_of(process, lines)
    assert {way.line for way in ways} == set(lines)
    for line in lines:
        own = [way for way in ways if way.line == line]
        assert {o for way in own for o in way.operations} == {
            o.id for o in process.operations if line in o.lines
        }
        for way in own:
            assert all(a in process.before(b) for a, b in pairwise(way.operations))
            assert 0 <= way.share <= 1


@given(
    order=st.permutations(
        ["Toss the beets with half the oil.", "Whisk the rest of the oil with the vinegar."]
    )
)
def test_shares_of_fresh_ways_make_the_whole(
    order: list[str], reader: Reader, knowledge: Knowledge
) -> None:
    text = BEETS.split("\n\n")[0] + "\n\n" + "\n".join(order)
    oil = named(read(text, reader, knowledge))["olive oil"]
    assert sum(way.share for way in oil) <= 1.0001
