"""Composed dishes: every promise of a proposal holds by the exact model, whatever there is in the
house."""

from __future__ import annotations

import pickle
import tomllib
from dataclasses import replace
from itertools import combinations
from pathlib import Path

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from fresh_ladle.core.amounts.amount import parse_amount
from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.catalogue.school import SCHOOLS
from fresh_ladle.core.cautions.allergens import may_come_in
from fresh_ladle.core.compose.compose import Composition, compose
from fresh_ladle.core.compose.house import House, read_house
from fresh_ladle.core.compose.options import counted, stocks
from fresh_ladle.core.compose.proposal import Part, Proposal, said_of
from fresh_ladle.core.compose.request import ComposeRequest
from fresh_ladle.core.nutrients.targets import Side, Target, target_status
from fresh_ladle.core.plans.ladder import rungs_of_food, rungs_of_line
from fresh_ladle.core.recipes.dishes import KINDS
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.core.recipes.region import Region
from fresh_ladle.core.whole.appraisal import appraise
from fresh_ladle.core.whole.school_standing import school_standing

HOUSES = tomllib.loads(
    (Path(__file__).parent.parent / "recipes" / "houses.toml").read_text(encoding="utf-8")
)["house"]
CASES = [
    (house["kind"], list_, house[list_]) for house in HOUSES for list_ in ("plain", "odd", "poor")
]


def promises_broken(
    proposal: Proposal, request: ComposeRequest, house: House, knowledge: Knowledge
) -> list[str]:
    """Everything a proposal promises and does not keep, looked at anew from its recipe."""
    after = appraise(proposal.recipe, knowledge)
    broken = [f"{p.line.text} not weighed" for p in after.portions if not p.known]
    if proposal.holds(request.chance):
        for axis, window in knowledge.windows[request.kind].items():
            if not window.low <= after.flavor[axis].value <= window.high:
                broken.append(f"{axis} {after.flavor[axis].value:.3f} outside its window")
        for target in request.targets:
            if target_status(after.figure_for(target), target).probability < request.chance:
                broken.append(f"{target.nutrient} not met")
    for part in proposal.parts:
        broken += part_broken(proposal, part, request, house)
    if request.school is not None and school_standing(after, request.school).against:
        broken.append(f"not within {request.school.name}")
    if len(proposal.buy) > request.most_to_buy:
        broken.append(f"{len(proposal.buy)} things to buy")
    return broken


def part_broken(proposal: Proposal, part: Part, request: ComposeRequest, house: House) -> list[str]:
    """The same for one line: what it is, how much there is of it, and how it is measured."""
    stock, line = part.option.stock, proposal.recipe.line(part.line_id)
    rungs = rungs_of_food(stock.food)
    if stock.words:
        rungs = [
            *rungs,
            *rungs_of_line(replace(line, amount=stock.words), stock.food, request.region),
        ]
    faults = {
        "is excluded": not may_come_in(stock.food, request.exclude),
        "is not there": house.lacks(stock.food) and stock.held is None,
        "is more than there is": (
            stock.grams is not None and part.option.rung.grams > stock.grams * 1.01
        ),
        "is both bought and held": (
            stock.bought == (stock.held is not None) and stock.food.key not in request.always
        ),
        "is there and would be bought": (
            stock.bought and stock.food.key in {h.food.key for h in house.held}
        ),
        "is no kitchen measure": line.amount not in {"¼ tsp plus ⅛ tsp", *(r.text for r in rungs)},
    }
    return [f"{line.text} {fault}" for fault, broken in faults.items() if broken]


@pytest.mark.slow
@pytest.mark.parametrize(
    ("kind", "list_", "text"), CASES, ids=[f"{kind}-{list_}" for kind, list_, _ in CASES]
)
def test_a_house_makes_a_dish_of_each_kind(
    kind: str, list_: str, text: str, knowledge: Knowledge, reader: Reader
) -> None:
    house = read_house(text, reader)
    request = ComposeRequest(kind, 8)
    found = compose(request, house, knowledge)
    assert found.proposals, [said_of(p) for p in found.nearest]
    for proposal in found.proposals:
        assert not promises_broken(proposal, found.request, house, knowledge)
        assert proposal.holds(request.chance)
        told = " ".join(proposal.recipe.method)
        assert "{" not in told
        for line in proposal.recipe.lines:
            assert line.named in told, f"{line.named} in {told}"
        formula = knowledge.composing.formulas[kind]
        for role, grams in proposal.role_grams():
            share = 100 * grams / found.request.batch_grams
            assert role.low * 0.99 <= share <= role.high * 1.01, f"{role.id} {share:.2f}%"
        assert not {r.id for r in formula.roles if r.needed} - {p.role.id for p in proposal.parts}
    if list_ == "plain":
        assert len(found.proposals[0].buy) <= 1


def test_every_kind_of_dish_is_among_the_houses() -> None:
    assert {house["kind"] for house in HOUSES} == {kind.id for kind in KINDS}


FOODS = [
    "olive oil", "sunflower oil", "lemon juice", "1 lemon", "cider vinegar", "rice vinegar",
    "soy sauce", "white miso",
    "garlic", "2 shallots", "ginger", "parsley", "mint", "dill", "honey", "Dijon mustard", "tahini",
    "peanut butter",
    "1 can chickpeas", "2 tins black beans", "cooked lentils", "quinoa", "soba noodles",
    "500 g potatoes", "romaine",
    "half a red cabbage", "3 carrots", "1 cucumber", "2 tomatoes", "feta", "Greek yogurt",
    "1 cup buttermilk",
    "walnuts",     "2 avocados", "orange juice", "cumin", "smoked paprika", "capers",
    "2 eggs, hard-boiled", "basil", "4 cooked beets",
]  # fmt: skip


@pytest.mark.slow
@settings(
    max_examples=8,
    deadline=None,
    suppress_health_check=[HealthCheck.function_scoped_fixture],
    derandomize=True,
)
@given(
    kind=st.sampled_from([k.id for k in KINDS]),
    foods=st.lists(st.sampled_from(FOODS), min_size=2, max_size=12, unique=True),
    exclude=st.sampled_from([(), ("milk",), ("sesame", "tree-nut"), ("gluten", "soy"), ("egg",)]),
    school=st.sampled_from([None, *SCHOOLS]),
    servings=st.sampled_from([1, 4, 12, 40]),
    limit=st.sampled_from([None, ("sodium_mg", 180.0), ("fat_g", 8.0), ("energy_kcal", 120.0)]),
)
def test_any_house_and_nothing_is_promised_that_is_not_kept(
    kind: str,
    foods: list[str],
    exclude: tuple[str, ...],
    school: object,
    servings: int,
    limit: tuple[str, float] | None,
    knowledge: Knowledge,
    reader: Reader,
) -> None:
    house = read_house(", ".join(foods), reader)
    targets = (Target(limit[0], Side.AT_MOST, limit[1]),) if limit else ()
    request = ComposeRequest(kind, servings, targets, school, frozenset(exclude))  # type: ignore[arg-type]
    found = compose(request, house, knowledge)
    for proposal in (*found.proposals, *found.nearest):
        assert not promises_broken(proposal, found.request, house, knowledge), proposal.recipe.lines
    for proposal in found.nearest:
        assert not proposal.holds(request.chance)
        assert said_of(proposal) or not proposal.meets_all(request.chance) or not proposal.as_asked


def test_the_same_house_makes_the_same_dishes(knowledge: Knowledge, reader: Reader) -> None:
    house = read_house(HOUSES[0]["plain"], reader)
    one, other = (compose(ComposeRequest("vinaigrette", 8), house, knowledge) for _ in range(2))
    assert [p.key for p in one.proposals] == [p.key for p in other.proposals]


def test_what_came_from_another_process_is_not_taken_for_rinsed(
    knowledge: Knowledge, reader: Reader
) -> None:
    house = read_house("1 can white beans, olive oil, feta, cider vinegar", reader)
    sent = replace(
        house, held=tuple(replace(h, food=pickle.loads(pickle.dumps(h.food))) for h in house.held)
    )
    named = {
        stock.named
        for stock in stocks(ComposeRequest("bean-salad", 4), sent, knowledge)
        if not stock.bought
    }
    assert [name for name in named if "rinsed" in name] == ["white beans, rinsed"]


def test_no_two_proposals_are_one_to_who_eats_them(knowledge: Knowledge, reader: Reader) -> None:
    house = read_house(HOUSES[0]["plain"], reader)
    proposals = compose(ComposeRequest("vinaigrette", 8), house, knowledge).proposals
    for one, other in combinations(proposals, 2):
        foods = [{part.option.stock.thing for part in p.parts} for p in (one, other)]
        kcal = [p.after.totals.serving["energy_kcal"].value for p in (one, other)]
        tastes = [abs(one.standings[a].steps - other.standings[a].steps) for a in one.standings]
        assert (
            foods[0] != foods[1] or abs(kcal[0] - kcal[1]) > 0.1 * max(kcal) or max(tastes) >= 0.5
        )


def test_proposals_are_what_they_are_called(knowledge: Knowledge, reader: Reader) -> None:
    prices = dict.fromkeys(
        ("olive-oil-refined", "vinegar-red-wine", "shallot", "honey", "thyme-fresh"), 1.0
    )
    prices |= {"mustard-dijon": 2.0, "table-salt": 0.1, "pepper-black": 4.0, "water": 0.0}
    house = read_house(HOUSES[0]["plain"], reader)
    first, *others = compose(ComposeRequest("vinaigrette", 8), house, knowledge, prices).proposals
    named = {p.name: p for p in others}
    assert len(others) >= 2
    if "Brighter" in named:
        assert named["Brighter"].standings["sour"].value > first.standings["sour"].value
    if "Leaner" in named:
        assert (
            named["Leaner"].after.totals.serving["fat_g"].value
            < first.after.totals.serving["fat_g"].value
        )
    if "Cheaper" in named:
        assert (named["Cheaper"].cost or 0) < (first.cost or 0)


def test_four_targets_hold_together(knowledge: Knowledge, reader: Reader) -> None:
    targets = tuple(
        Target(n, Side.AT_MOST, limit)
        for n, limit in (
            ("sodium_mg", 110),
            ("energy_kcal", 150),
            ("fat_g", 15),
            ("added_sugars_g", 2),
        )
    )
    house = read_house(
        "fat: walnut oil\nacid: grapefruit juice, sherry vinegar\nsweet: honey\nsalt: soy sauce",
        reader,
    )
    found = compose(ComposeRequest("vinaigrette", 8, targets), house, knowledge)
    assert found.proposals
    for proposal in found.proposals:
        assert all(chance >= 0.8 for chance in proposal.meets.values())
        assert {"walnut-oil", "grapefruit-juice", "vinegar-sherry", "honey", "soy-sauce"} <= {
            p.option.stock.food.key for p in proposal.parts
        }


def composed(
    kind: str, text: str, knowledge: Knowledge, reader: Reader, **asked: object
) -> Composition:
    return compose(ComposeRequest(kind, 4, **asked), read_house(text, reader), knowledge)  # type: ignore[arg-type]


def test_what_must_go_today_goes_and_the_same_need_not_without(
    knowledge: Knowledge, reader: Reader
) -> None:
    kitchen = "olive oil, lemon juice, salt, romaine, cucumber, tomatoes, parsley, mint"
    pressing = composed(
        "leafy-salad", f"{kitchen}, 1 fennel bulb (today), chicken breast", knowledge, reader
    )
    calm = composed("leafy-salad", f"{kitchen}, anchovy paste, chicken breast", knowledge, reader)
    assert all(
        "fennel-bulb" in {p.option.stock.food.key for p in x.parts} for x in pressing.proposals
    )
    assert calm.proposals


def test_what_there_is_makes_fewer_servings_and_that_is_told(
    knowledge: Knowledge, reader: Reader
) -> None:
    found = compose(
        ComposeRequest("bean-salad", 12),
        read_house("1 tin white beans, oil, vinegar, parsley", reader),
        knowledge,
    )
    assert found.request.servings < 12
    assert found.proposals[0].recipe.servings == found.request.servings


def test_windows_and_a_target_that_cannot_both_hold_are_said_with_what_is_nearest(
    knowledge: Knowledge, reader: Reader
) -> None:
    target = Target("sodium_mg", Side.AT_MOST, 5)
    found = composed(
        "vinaigrette", "olive oil, lemon juice, shallot, salt", knowledge, reader, targets=(target,)
    )
    assert not found.proposals
    tastes, limits = found.nearest
    assert tastes.in_window()
    assert not tastes.meets_all(0.8)
    assert limits.meets_all(0.8)
    assert any("Little salt" in text for text in said_of(limits))


POOR = ["", "harissa", "fish sauce, anchovy paste, cayenne", "wumpus juise"]


@pytest.mark.parametrize("text", POOR)
def test_a_house_that_cannot_make_it_is_told_what_to_buy(
    text: str, knowledge: Knowledge, reader: Reader
) -> None:
    found = composed("avocado-dip", text, knowledge, reader, most_to_buy=1)
    assert not found.proposals
    assert {r.id for r in found.open_roles} >= {"base", "acid"}
    assert found.would_do is not None
    assert found.would_do.holds(0.8)
    assert {"avocado"} <= set(found.would_do.buy)


def test_nothing_may_go_in_is_an_error_in_words(knowledge: Knowledge, reader: Reader) -> None:
    no_kitchen = ComposeRequest("avocado-dip", 4, exclude=frozenset({"avocado"}), always=())
    found = compose(no_kitchen, read_house("2 avocados, 1 lime", reader), knowledge)
    assert not found.proposals
    assert all(p.option.stock.food.key != "avocado" for n in found.nearest for p in n.parts)


BAD: list[tuple[dict[str, object], str]] = [
    ({"kind": "pudding"}, "no kind of dish"),
    ({"servings": 0}, "1 to 5000 servings"),
    ({"servings": 50_000}, "1 to 5000 servings"),
    ({"chance": 1.0}, "between 0.5 and 0.99"),
    ({"most_to_buy": 40}, "0 to 6 things"),
    ({"serving_grams": 2.0}, "weighs 5 to 1,000 g"),
]


@pytest.mark.parametrize(("asked", "words"), BAD, ids=[words for _, words in BAD])
def test_what_cannot_be_asked_is_refused_in_words(asked: dict[str, object], words: str) -> None:
    with pytest.raises(RecipeError, match=words):
        ComposeRequest(**{"kind": "slaw", "servings": 4, **asked})  # type: ignore[arg-type]


@pytest.mark.slow
def test_leaves_come_last(knowledge: Knowledge, reader: Reader) -> None:
    leafy = compose(
        ComposeRequest("leafy-salad", 8),
        read_house("romaine, olive oil, lemon, feta", reader),
        knowledge,
    )
    steps = leafy.proposals[0].recipe.method
    assert "romaine" in next(step for step in steps if step.startswith("Leaves last"))


NAMES = [
    ("shallots", False, "shallot"),
    ("shallot", True, "shallots"),
    ("tomatoes", False, "tomato"),
    ("tomato", True, "tomatoes"),
    ("radishes", False, "radish"),
    ("cherries", False, "cherry"),
    ("cherry", True, "cherries"),
    ("asparagus", False, "asparagus"),
    ("avocado", True, "avocados"),
]


@pytest.mark.parametrize(("name", "several", "expected"), NAMES)
def test_what_is_counted_is_named_for_one_or_several(
    name: str, several: bool, expected: str
) -> None:
    assert counted(name, several) == expected


def test_amounts_are_words_that_are_read_back(knowledge: Knowledge, reader: Reader) -> None:
    for house in HOUSES[:6]:
        found = compose(
            ComposeRequest(house["kind"], 8), read_house(house["plain"], reader), knowledge
        )
        for line in found.proposals[0].recipe.lines:
            assert parse_amount(line.amount).count is not None or " plus " in line.amount


@pytest.mark.parametrize("grams", [None, 15.0, 60.0])
def test_it_makes_as_much_as_was_asked(
    grams: float | None, knowledge: Knowledge, reader: Reader
) -> None:
    found = composed("vinaigrette", HOUSES[0]["plain"], knowledge, reader, serving_grams=grams)
    for proposal in found.proposals:
        assert proposal.after.totals.serving_grams == pytest.approx(grams or 30.0, rel=0.1)


RULED_OUT: list[tuple[str, dict[str, object], str]] = [
    ("bsae: olive oil", {}, "has no role 'bsae'; it has fat, acid"),
    (
        "sweet: honey",
        {"school": next(s for s in SCHOOLS if s.refuses_sugar)},
        "honey may not go in",
    ),
    ("emulsifier: tahini", {"exclude": frozenset({"sesame"})}, "tahini may not go in"),
]


@pytest.mark.parametrize(
    ("text", "asked", "words"), RULED_OUT, ids=[text for text, *_ in RULED_OUT]
)
def test_what_was_put_on_a_role_is_never_dropped_without_a_word(
    text: str, asked: dict[str, object], words: str, knowledge: Knowledge, reader: Reader
) -> None:
    with pytest.raises(RecipeError, match=words):
        composed("vinaigrette", text, knowledge, reader, **asked)
    assert composed("vinaigrette", text.replace("bsae", "fat"), knowledge, reader)


def test_there_is_as_much_of_a_thing_as_the_food_in_the_house_gives(
    knowledge: Knowledge, reader: Reader
) -> None:
    """Two hundred grams of lemon are not two hundred grams of juice, nor of zest."""
    house = read_house("200 g lemons", reader, Region.US)
    (held,) = house.held
    assert held.grams == pytest.approx(200)
    found = stocks(ComposeRequest("vinaigrette", 4), house, knowledge)
    grams = {s.food.key: s.grams for s in found if s.held is not None or s.grams is not None}
    uses = {u.becomes: u.g_per_g for u in knowledge.composing.uses if u.food == held.food.key}
    for food in ("lemon-juice-fresh", "lemon-zest"):
        assert grams[food] == pytest.approx(200 * uses[food]), food
    assert uses["lemon-zest"] < 0.1 < uses["lemon-juice-fresh"] < 1
