"""What a plan may do: nothing forbidden, every line down or out, and swaps that help, in kitchen
measures."""

from __future__ import annotations

from dataclasses import replace

import pytest

from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.catalogue.school import BY_ID as SCHOOLS
from fresh_ladle.core.catalogue.school import SALT_BY_ID, School, allows
from fresh_ladle.core.nutrients.targets import Side, Target
from fresh_ladle.core.plans.move import Move, Moves
from fresh_ladle.core.plans.moves import SHARES_LEFT, SHARES_MORE, moves_for
from fresh_ladle.core.plans.plan import steps_of, with_steps
from fresh_ladle.core.plans.request import PlanRequest
from fresh_ladle.core.plans.slots import IDENTITY_KEPT, identity_lines
from fresh_ladle.core.plans.sums import Bowl
from fresh_ladle.core.recipes.recipe import Line
from fresh_ladle.core.whole.appraisal import Appraisal, appraise
from tests.conftest import Kitchen

DIP = {
    "chickpeas-canned-drained": "2 cup",
    "tahini": "1/4 cup",
    "lemon-juice-fresh": "3 tbsp",
    "garlic": "2 clove",
    "olive-oil-refined": "2 tbsp",
    "table-salt": "1/2 tsp",
    "parmesan": "1/4 cup",
}
LESS_SODIUM = Target("sodium_mg", Side.AT_MOST, 100)
LESS_FAT = Target("fat_g", Side.AT_MOST, 4)


@pytest.fixture
def dip(kitchen: Kitchen) -> Appraisal:
    return kitchen.appraise(DIP, "legume-dip", 8)


def moves_of(now: Appraisal, request: PlanRequest, knowledge: Knowledge) -> Moves:
    return moves_for(now, request, knowledge, Bowl(now, now, request.targets, request.chance))


def kinds(move: Move) -> set[str]:
    return {way.kind for way in move.ways}


def swapped_lines(moves: Moves) -> set[str]:
    return {m.slot for m in moves.moves if "swap" in kinds(m)}


def test_what_brings_the_figure_may_come_down_and_only_a_swap_that_helps_comes_in(
    dip: Appraisal, knowledge: Knowledge
) -> None:
    moves = moves_of(dip, PlanRequest((LESS_SODIUM,)), knowledge)
    assert {m.slot for m in moves.moves if kinds(m) == {"cut"}} == {"l1", "l6", "l7"}, (
        "no pinch of cumin"
    )
    assert {"l1", "l6", "l7"} <= swapped_lines(moves)
    assert "l5" not in swapped_lines(moves), "oil holds no salt"
    for_fat = swapped_lines(moves_of(dip, PlanRequest((LESS_FAT,)), knowledge))
    assert {"l2", "l5"} <= for_fat
    assert "l6" not in for_fat


def test_a_line_changes_by_shares_that_are_said(dip: Appraisal, knowledge: Knowledge) -> None:
    moves = moves_of(dip, PlanRequest((LESS_SODIUM, LESS_FAT)), knowledge)
    for move in (m for m in moves.moves if kinds(m) <= {"cut", "raise"}):
        assert move.gone == 1 or any(
            abs(1 - move.gone - s) <= 0.15 * s for s in (*SHARES_LEFT, *SHARES_MORE)
        ), move
    swaps = [m for m in moves.moves if kinds(m) == {"swap"}]
    assert any(0.4 < m.gone < 0.6 for m in swaps)
    assert not [m for m in swaps if m.gone < 0.25], "nothing is exchanged by a pinch"


def test_least_amounts_diets_and_homes_are_kept(kitchen: Kitchen, knowledge: Knowledge) -> None:
    vegan = kitchen.appraise(
        {"chickpeas-canned-drained": "300 g", "lemon-juice-fresh": "30 g", "table-salt": "3 g"},
        "legume-dip",
        6,
    )
    found = moves_of(vegan, PlanRequest((LESS_SODIUM,)), knowledge)
    brought = {part.food for move in found.moves for part, _ in move.added}
    assert brought
    assert not [food.key for food in brought if food.traits.animal != "none"]
    assert not {"soy-sauce", "fish-sauce", "miso"} & {food.key for food in brought}
    for move in found.moves:
        for part, rung in move.added:
            assert rung.grams >= 0.98 * knowledge.sense.least(part.food.key), (
                part.food.key,
                rung.text,
            )


def test_what_gives_the_dish_its_name_keeps_its_half(dip: Appraisal, knowledge: Knowledge) -> None:
    assert identity_lines(dip) == {"l1"}
    for free, least in ((False, IDENTITY_KEPT), (True, 0.0)):
        request = PlanRequest((LESS_SODIUM,), identity_free=free)
        gone = [m.gone for m in moves_of(dip, request, knowledge).moves if m.slot == "l1"]
        assert max(gone) <= 1 - least + 1e-6
        assert max(gone) > 0.45
    assert any(
        m.gone == 1.0
        for m in moves_of(dip, PlanRequest((LESS_SODIUM,), identity_free=True), knowledge).moves
    )


def test_the_title_and_the_heaviest_line_make_the_dish(kitchen: Kitchen) -> None:
    dish = kitchen.appraise(
        {"water": "500 g", "feta": "50 g", "olives-kalamata": "20 g"}, "leafy-salad"
    )
    assert identity_lines(dish) == {"l1"}


@pytest.mark.parametrize("school", SCHOOLS.values(), ids=lambda s: s.id)
def test_a_school_takes_out_what_it_would_not_have_and_brings_none_in(
    school: School, dip: Appraisal, knowledge: Knowledge
) -> None:
    moves = moves_of(dip, PlanRequest((LESS_SODIUM, LESS_FAT), school=school), knowledge)
    unwanted = {p.line.id for p in dip.portions if p.food and not allows(school, p.food)}
    assert {s.id for s in moves.lines if s.must_go} == unwanted
    assert all(m.left is None for m in moves.moves if m.slot in unwanted)
    assert all(allows(school, part.food) for m in moves.moves for part, _ in m.added)
    towards = moves_of(
        dip, PlanRequest((LESS_SODIUM, LESS_FAT), school=school, towards=True), knowledge
    )
    assert not towards.must
    assert all(allows(school, part.food) for m in towards.moves for part, _ in m.added)


def test_what_is_locked_stays_and_what_is_excluded_must_go(
    dip: Appraisal, knowledge: Knowledge
) -> None:
    request = PlanRequest(
        (LESS_SODIUM,), locked=frozenset({"l6"}), exclude=frozenset({"sesame", "milk"})
    )
    moves = moves_of(dip, request, knowledge)
    assert "l6" not in {m.slot for m in moves.moves}
    assert {s.id for s in moves.lines if s.must_go} == {"l2", "l7"}
    for move in moves.moves:
        for part, _ in move.added:
            assert not {"sesame", "milk"} & {
                a.partition(":")[0] for a in part.food.traits.allergens
            }
    stuck = moves_of(
        dip, PlanRequest((), exclude=frozenset({"milk"}), locked=frozenset({"l7"})), knowledge
    ).stuck
    assert stuck == ("parmesan",)


def test_salt_substitutes_are_never_taken_by_a_plan(dip: Appraisal, knowledge: Knowledge) -> None:
    foods = {
        p.food.key
        for m in moves_of(dip, PlanRequest((LESS_SODIUM,)), knowledge).moves
        for p, _ in m.added
    }
    assert foods
    assert not {"potassium-chloride-salt", "half-sodium-salt"} & foods


def test_salty_things_come_in_for_salt_unless_the_school_of_salt_refuses(
    kitchen: Kitchen, knowledge: Knowledge
) -> None:
    dressing = kitchen.appraise(
        {"soy-sauce": "2 tbsp", "olive-oil-refined": "1/4 cup", "vinegar-rice": "2 tbsp"}
    )
    salty = {"soy-sauce-reduced-sodium", "coconut-aminos"}
    for school, comes in (
        (None, True),
        ("season-early", True),
        ("powders-and-acid", False),
        ("none-added", False),
    ):
        request = PlanRequest((LESS_SODIUM,), salt_school=SALT_BY_ID[school] if school else None)
        brought = {
            p.food.key for m in moves_of(dressing, request, knowledge).moves for p, _ in m.added
        }
        assert bool(brought & salty) is comes, school


def test_more_is_made_of_what_is_light_but_never_of_what_has_to_go(
    kitchen: Kitchen, knowledge: Knowledge
) -> None:
    now = kitchen.appraise(
        {"cucumber-peeled": "200 g", "feta": "60 g", "table-salt": "2 g"}, "slaw"
    )
    wanted = (Target("fiber_g", Side.AT_LEAST, 3), Target("sodium_mg", Side.AT_MOST, 100))
    raised = {
        m.slot for m in moves_of(now, PlanRequest(wanted), knowledge).moves if "raise" in kinds(m)
    }
    assert raised == {"l1"}
    without = PlanRequest(wanted, exclude=frozenset({"cucumber-peeled"}))
    assert not {m.slot for m in moves_of(now, without, knowledge).moves if "raise" in kinds(m)}


def test_a_swap_stops_where_it_fails_and_costs_from_where_it_is_noticed(
    dip: Appraisal, knowledge: Knowledge
) -> None:
    moves = moves_of(dip, PlanRequest((LESS_FAT,)), knowledge)
    for move in moves.moves:
        (way,) = move.ways if len(move.ways) == 1 else (move.ways[0],)
        if way.kind == "swap" and len(move.ways) == 1:
            assert move.gone <= way.fails_at + 1e-6
    by_way: dict[str, list[Move]] = {}
    for move in moves.moves:
        if len(move.ways) == 1 and move.ways[0].kind == "swap":
            by_way.setdefault(move.ways[0].id, []).append(move)
    past = [
        (m, below)
        for group in by_way.values()
        for m in group
        for below in group
        if below.gone <= m.ways[0].noticed_at < m.gone
    ]
    assert past
    assert all(m.cost > below.cost for m, below in past if not any(r.odd for _, r in below.added))


def test_a_swap_at_its_end_says_so_and_one_well_within_does_not(
    dip: Appraisal, knowledge: Knowledge
) -> None:
    swaps = [
        m
        for m in moves_of(dip, PlanRequest((LESS_FAT,)), knowledge).moves
        if len(m.ways) == 1 and m.ways[0].kind == "swap" and m.ways[0].fails_at < 1
    ]
    said = {m.gone / m.ways[0].fails_at: steps_of(dip.recipe, [m])[0].reason for m in swaps}
    assert {share >= 0.9 for share in said} == {True, False}
    assert all(("as far as it goes" in reason) == (share >= 0.9) for share, reason in said.items())


def test_less_of_a_component_leaves_its_lines_alone(kitchen: Kitchen, knowledge: Knowledge) -> None:
    lines = (
        Line("l1", "1 head romaine", "1 head", "romaine", "Salad"),
        Line("l2", "1/4 cup olive oil", "1/4 cup", "olive-oil-refined", "Dressing"),
        Line("l3", "2 tbsp lemon juice", "2 tbsp", "lemon-juice-fresh", "Dressing"),
        Line("l4", "1/2 tsp salt", "1/2 tsp", "table-salt", "Dressing"),
    )
    now = kitchen.work_out(replace(kitchen.recipe({"water": "1 g"}, "leafy-salad"), lines=lines))
    moves = moves_of(now, PlanRequest((LESS_FAT, LESS_SODIUM)), knowledge)
    parts = [m for m in moves.moves if m.slot == "part:Dressing"]
    assert [m.left for m in parts] == ["¾", "⅔", "½"]
    half = steps_of(now.recipe, [parts[-1]])
    assert half[0].text == "Dressing: use ½ of it"
    after = appraise(with_steps(now.recipe, half), knowledge)
    assert after.totals.batch["fat_g"].value == pytest.approx(
        now.totals.batch["fat_g"].value / 2 + now.totals.per_line["l1"]["fat_g"] / 2  # type: ignore[operator]
    )
    assert [x.amount for x in after.recipe.lines] == [x.amount for x in lines]
    inside = {m.slot: int(moves.slot_of[n]) for n, m in enumerate(moves.moves)}
    assert inside["l4"] in moves.apart[inside["part:Dressing"]]
    assert inside["l1"] not in moves.apart[inside["part:Dressing"]]


def test_what_is_in_the_dish_is_raised_and_never_added_beside_itself(
    dip: Appraisal, knowledge: Knowledge
) -> None:
    moves = moves_of(dip, PlanRequest((LESS_SODIUM,)), knowledge)
    there = {p.food.key for p in dip.portions if p.food}
    brought = {p.food.key for m in moves.moves if m.ways[0].line is None for p, _ in m.added}
    assert brought
    assert not brought & there
    assert "more:l3" in {m.ways[0].id for m in moves.moves}
