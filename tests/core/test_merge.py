"""Two edits of one recipe brought together, and what differs between two states in words."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fresh_ladle.core.recipes.changes import changes_between
from fresh_ladle.core.recipes.edits import (
    OF_A_LINE,
    Edit,
    EditKind,
    condensed,
    edit_words,
    edits_words,
)
from fresh_ladle.core.recipes.merge import DISH, merge
from fresh_ladle.core.recipes.ordering import in_groups, moved, placed
from fresh_ladle.core.recipes.recipe import Line, Recipe
from fresh_ladle.store.recipes.edit_document import edits_from_json, edits_to_json

BASE = Recipe(
    "Dip",
    (
        Line("l1", "1 cup tahini", "1 cup", "tahini", "Base", named="tahini"),
        Line("l2", "1 tsp salt", "1 tsp", "table-salt", "Base", named="salt"),
        Line("l3", "2 tbsp parsley", "2 tbsp", "parsley", "Top", named="parsley"),
        Line("l4", "1 tbsp sesame", "1 tbsp", "sesame-seeds", "Top", named="sesame"),
    ),
    "legume-dip",
    8,
)


def amount(recipe: Recipe, line_id: str, text: str) -> Recipe:
    return recipe.with_line(replace(recipe.line(line_id), amount=text))


edits = st.lists(
    st.one_of(
        st.tuples(
            st.just("amount"),
            st.sampled_from(["l1", "l2", "l3", "l4"]),
            st.sampled_from(["1 g", "2 g", "3 g"]),
        ),
        st.tuples(st.just("remove"), st.sampled_from(["l1", "l2", "l3", "l4"]), st.just("")),
        st.tuples(st.just("add"), st.sampled_from(["1 tbsp honey", "2 tsp cumin"]), st.just("")),
        st.tuples(
            st.just("move"), st.sampled_from(["l1", "l2", "l3", "l4"]), st.sampled_from(["-1", "1"])
        ),
        st.tuples(st.just("servings"), st.sampled_from(["4", "6"]), st.just("")),
    ),
    max_size=5,
)


def made(recipe: Recipe, steps: list[tuple[str, str, str]]) -> Recipe:
    """The recipe after some edits; one of a line that is gone is passed over."""
    for what, where, how in steps:
        here = {line.id for line in recipe.lines}
        if what == "add":
            recipe = recipe.with_added([Line(recipe.fresh_ids(1)[0], where, where, "honey", "Top")])
        elif what == "servings":
            recipe = replace(recipe, servings=float(where))
        elif where not in here:
            continue
        elif what == "amount":
            recipe = amount(recipe, where, how)
        elif what == "remove":
            recipe = recipe.without_line(where)
        else:
            recipe = moved(recipe, where, int(how))
    return recipe


@given(edits)
def test_an_edit_beside_none_is_that_edit(steps: list[tuple[str, str, str]]) -> None:
    after = made(BASE, steps)
    for merged in (merge(BASE, after, BASE), merge(BASE, BASE, after)):
        assert merged.conflicts == ()
        assert merged.recipe == after


@given(edits, edits)
def test_nothing_of_either_edit_is_lost(
    mine: list[tuple[str, str, str]], theirs: list[tuple[str, str, str]]
) -> None:
    """Every line that either changed stands as changed, or is named among the clashes."""
    own, other = made(BASE, mine), made(BASE, theirs)
    merged = merge(BASE, own, other)
    clashing = {c.id for c in merged.conflicts}
    result = {line.id: line for line in merged.recipe.lines}
    for version in (own, other):
        after = {line.id: line for line in version.lines}
        for line in BASE.lines:
            if line.id in clashing or after.get(line.id) == line:
                continue
            if line.id not in after:
                assert line.id not in result
            else:
                assert (
                    result[line.id].amount == after[line.id].amount
                    or after[line.id].amount == line.amount
                )
        for line in version.lines:
            if line.id not in {n.id for n in BASE.lines} | clashing:
                assert line.text in [n.text for n in merged.recipe.lines]
    settled = merge(BASE, own, other, clashing)
    for line in BASE.lines:
        if line.id in clashing:
            kept = {n.id: n for n in settled.recipe.lines}.get(line.id)
            assert kept == {n.id: n for n in own.lines}.get(line.id), (
                "a clash settled my way stands as I made it"
            )


def test_a_clash_says_what_each_made_of_it() -> None:
    mine, theirs = (
        amount(BASE, "l2", "1/2 tsp"),
        amount(amount(BASE, "l2", "1/4 tsp"), "l1", "1/2 cup"),
    )
    merged = merge(BASE, mine, theirs)
    (clash,) = merged.conflicts
    assert (clash.id, clash.name, clash.theirs, clash.mine) == (
        "l2",
        "Salt",
        "1 tsp → 1/4 tsp",
        "1 tsp → 1/2 tsp",
    )
    assert merged.recipe.line("l2").amount == "1/4 tsp", (
        "until somebody chooses, what is saved stands"
    )
    assert merge(BASE, mine, theirs, {"l2"}).recipe.line("l2").amount == "1/2 tsp"
    assert merged.recipe.line("l1").amount == "1/2 cup"


def test_two_fields_of_one_line_and_two_new_lines_do_not_clash() -> None:
    mine = BASE.with_line(replace(BASE.line("l3"), eaten=0.5)).with_added(
        [Line("l5", "1 tsp cumin", "1 tsp", "cumin")]
    )
    theirs = amount(BASE, "l3", "1/4 cup").with_added(
        [Line("l5", "2 tbsp honey", "2 tbsp", "honey")]
    )
    merged = merge(BASE, mine, theirs)
    assert merged.conflicts == ()
    assert (merged.recipe.line("l3").amount, merged.recipe.line("l3").eaten) == ("1/4 cup", 0.5)
    assert [line.text for line in merged.recipe.lines[4:]] == ["2 tbsp honey", "1 tsp cumin"]


def test_the_dish_itself_can_clash() -> None:
    merged = merge(BASE, replace(BASE, servings=4), replace(BASE, servings=12))
    (clash,) = merged.conflicts
    assert (clash.id, clash.theirs, clash.mine) == (
        DISH,
        "8 servings → 12 servings",
        "8 servings → 4 servings",
    )
    assert (
        merge(BASE, replace(BASE, servings=4), replace(BASE, servings=12), {DISH}).recipe.servings
        == 4
    )


@pytest.mark.parametrize(
    ("after", "said"),
    [
        (BASE, []),
        (amount(BASE, "l2", "1/2 tsp"), ["Salt: 1 tsp → 1/2 tsp"]),
        (BASE.without_line("l3"), ["Parsley left out"]),
        (BASE.with_added([Line("l9", "1 tsp cumin", "1 tsp", "cumin")]), ["added 1 tsp cumin"]),
        (BASE.with_line(replace(BASE.line("l1"), preparations=("rinse",))), ["Tahini: rinse"]),
        (BASE.with_line(replace(BASE.line("l1"), eaten=0.8)), ["Tahini: 80% eaten"]),
        (placed(BASE, "l4", ""), ["Sesame: no part of its own any more"]),
        (placed(BASE, "l2", "Top"), ["Salt: moved to Top", "lines put in another order"]),
        (
            replace(BASE, servings=4, served_celsius=20.0),
            ["8 servings → 4 servings", "served at 20 °C"],
        ),
        (
            replace(BASE, kind="slaw", serving_grams=50.0, yield_grams=400.0, title="Slaw"),
            [
                "called Slaw",
                "kind: legume dip → slaw",
                "8 servings → servings of 50 g",
                "batch weighed: 400 g",
            ],
        ),
    ],
)
def test_changes_are_told_in_a_cooks_words(after: Recipe, said: list[str]) -> None:
    assert [edit_words(edit) for edit in changes_between(BASE, after)] == said


def test_many_changes_are_counted_and_steps_of_one_amount_taken_as_one() -> None:
    after = amount(amount(amount(amount(BASE, "l1", "1 g"), "l2", "1 g"), "l3", "1 g"), "l4", "1 g")
    assert edits_words(changes_between(BASE, after)).endswith("and 1 more")

    def salt(before: str, after: str, line: str = "l2") -> Edit:
        return Edit(
            EditKind.AMOUNT, {"line": line, "name": "Salt", "before": before, "after": after}
        )

    swap = Edit(EditKind.SWAP, {"title": "Half the feta"})
    edits = [salt("1 tsp", "3/4 tsp"), salt("3/4 tsp", "1/2 tsp"), swap, salt("1/2 tsp", "1 tsp")]
    assert [edit_words(e) for e in condensed(edits[:3])] == [
        "Salt: 1 tsp → 1/2 tsp",
        "swap: half the feta",
    ]
    assert condensed([*edits[:2], edits[3]]) == [], "there and back is nothing"
    other = [salt("1 tsp", "1/2 tsp"), salt("1/2 tsp", "1/4 tsp", "l7")]
    assert condensed(other) == other, "two lines of one name are two lines"


EVERY_KIND = {
    EditKind.SWAP: {"title": "Salt halved"},
    EditKind.REPAIR: {"title": "More lemon"},
    EditKind.PLAN: {"name": "Closest in taste", "taken": 2, "steps": 3},
    EditKind.ANSWER: {"answer": "rinsed"},
    EditKind.SET_ASIDE: {},
    EditKind.RESTORED: {"number": 2},
    EditKind.BENCH: {"count": 3, "bench": 1},
    EditKind.EARLIER: {"text": "called Dip"},
    EditKind.METHOD: {},
    EditKind.STEP_SET_RIGHT: {},
    EditKind.REGION: {"region": "metric"},
    EditKind.ORDER: {},
    EditKind.TITLE: {"after": "Dip: the thick one → thin"},
    EditKind.DISH_KIND: {"before": "slaw", "after": "bean-salad"},
    EditKind.YIELD: {"grams": None},
    EditKind.TEMPERATURE: {"celsius": 4.0},
    EditKind.SERVING: {"before_grams": None, "before_ml": None, "before_count": 8.0}
    | {"after_grams": None, "after_ml": 60.0, "after_count": None},
    EditKind.ADDED: {"line": "l9", "text": "1 tsp cumin"},
    EditKind.LEFT_OUT: {"line": "l1", "name": "Tahini"},
} | {
    kind: {"line": "l1", "name": "Tahini", "before": "", "after": "1 g", "now": "", "on": "rinse",
        "off": "boil"}
    | {"share": 0.5, "component": "Top"}
    for kind in OF_A_LINE
}  # fmt: skip


@pytest.mark.parametrize("kind", list(EditKind))
def test_every_kind_of_edit_is_told_and_kept(kind: EditKind) -> None:
    edit = Edit(kind, EVERY_KIND[kind])
    words = edit_words(edit)
    assert words
    assert words.startswith("Tahini: ") == (kind in OF_A_LINE)
    assert edits_from_json(edits_to_json([edit])) == (edit,)


def test_a_plan_taken_in_part_says_so() -> None:
    plan = Edit(EditKind.PLAN, EVERY_KIND[EditKind.PLAN])
    assert edit_words(plan) == "plan: “closest in taste”, 2 of its 3 steps"
    assert (
        edit_words(Edit(EditKind.PLAN, {**plan.details, "taken": 3})) == "plan: “closest in taste”"
    )


def test_a_line_moves_within_its_component_and_past_its_edge() -> None:
    assert [line.id for line in moved(BASE, "l2", -1).lines] == ["l2", "l1", "l3", "l4"]
    down = moved(BASE, "l2", 1)
    assert [line.id for line in in_groups(down)["Top"]] == ["l2", "l3", "l4"]
    assert moved(BASE, "l1", -1) == BASE
    assert moved(BASE, "l4", 1) == BASE
    before = placed(BASE, "l1", "Top", before="l4")
    assert [line.id for line in in_groups(before)["Top"]] == ["l3", "l1", "l4"]
    assert placed(BASE, "l1", "Drizzle").components == ["Base", "Top", "Drizzle"]


@given(
    st.lists(
        st.tuples(st.sampled_from(["l1", "l2", "l3", "l4"]), st.sampled_from([-1, 1])), max_size=12
    )
)
def test_moving_never_loses_a_line(steps: list[tuple[str, int]]) -> None:
    recipe = BASE
    for line_id, by in steps:
        recipe = moved(recipe, line_id, by)
    assert sorted(line.id for line in recipe.lines) == ["l1", "l2", "l3", "l4"]
    assert set(recipe.components) <= {"Base", "Top"}
