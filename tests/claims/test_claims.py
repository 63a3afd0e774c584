"""Every claim on both sides of its limit: just under, at, just over; unknown; on both sides at
once."""

from __future__ import annotations

from dataclasses import replace

import pytest

from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.claims.claims import Claim, claims_of, disclosure
from fresh_ladle.core.claims.dish_figures import reference_amount
from fresh_ladle.core.claims.finding import At, Finding, Measured, all_of, any_of, at_least, at_most
from fresh_ladle.core.foods.nutrient import NUTRIENT_IDS
from fresh_ladle.core.nutrients.declaration import Regime
from fresh_ladle.core.page.recipe_text import read_recipe
from fresh_ladle.core.whole.appraisal import Appraisal, appraise

NOTHING = dict.fromkeys(NUTRIENT_IDS, 0.0)


def dish(
    knowledge: Knowledge,
    kind: str = "bean-salad",
    group: str = "vegetable",
    title: str = "Dish",
    **per_100_g: float | None,
) -> Appraisal:
    """300 g of one food with just these figures in 100 g, in three servings."""
    base = knowledge.pantry["celery"]
    food = replace(
        base, per_100_g={**NOTHING, "energy_kcal": 100.0, **per_100_g}, group=group, key="test-food"
    )
    pantry = knowledge.pantry.with_foods([food])
    text = f"{title}\nServes 3\n300 g celery"
    recipe = read_recipe(text, Reader(knowledge.pantry, knowledge.preparations), kind=kind).recipe
    line = replace(recipe.lines[0], food="test-food")
    return appraise(replace(recipe, lines=(line,)), replace(knowledge, pantry=pantry))


def verdict(
    found: Appraisal, claim: str, regime: Regime = Regime.US, usual: Appraisal | None = None
) -> Claim:
    return next(c for c in claims_of(found, regime, usual) if c.id == claim)


# A claim, its figure and its limit in 100 g of a bean salad (a reference amount of 100 g, a serving
# of 100 g).
LIMITS = [
    (Regime.US, "sodium-free", "sodium_mg", 5, "most"), (Regime.US, "very-low-sodium", "sodium_mg",
    35, "most"),
    (Regime.US, "low-sodium", "sodium_mg", 140, "most"), (Regime.US, "low-calorie", "energy_kcal",
    40, "most"),
    (Regime.US, "fat-free", "fat_g", 0.5, "most"), (Regime.US, "low-fat", "fat_g", 3, "most"),
    (Regime.US, "low-saturated-fat", "saturated_fat_g", 1, "most"),
    (Regime.US, "low-cholesterol", "cholesterol_mg", 20, "most"), (Regime.US, "sugar-free",
    "sugars_g", 0.5, "most"),
    (Regime.US, "high-fiber", "fiber_g", 5.6, "least"), (Regime.US, "good-source-of-fiber",
    "fiber_g", 2.8, "least"),
    (Regime.EU, "low-salt", "sodium_mg", 120, "most"), (Regime.EU, "very-low-salt", "sodium_mg",
    40, "most"),
    (Regime.EU, "salt-free", "sodium_mg", 5, "most"), (Regime.EU, "no-added-salt", "sodium_mg",
    120, "most"),
    (Regime.EU, "low-fat", "fat_g", 3, "most"), (Regime.EU, "fat-free", "fat_g", 0.5, "most"),
    (Regime.EU, "low-saturated-fat", "saturated_fat_g", 1.1, "most"),
    (Regime.EU, "low-energy", "energy_kcal", 40, "most"), (Regime.EU, "low-sugars",
    "sugars_g", 5, "most"),
    (Regime.EU, "sugars-free", "sugars_g", 0.5, "most"), (Regime.EU, "source-of-protein",
    "protein_g", 3, "least"),
    (Regime.EU, "high-protein", "protein_g", 5, "least"),
]  # fmt: skip
"""Saturated fat in the EU: 10% of 100 kcal come first, at 1.11 g; protein: 12 and 20% of 100
kcal."""


@pytest.mark.parametrize(("regime", "claim", "nutrient", "limit", "side"), LIMITS)
def test_a_limit_on_both_sides_and_in_doubt(
    regime: Regime, claim: str, nutrient: str, limit: float, side: str, knowledge: Knowledge
) -> None:
    energy = {} if nutrient == "energy_kcal" else {"energy_kcal": 100.0}
    under, at, over = (
        verdict(dish(knowledge, **{**energy, nutrient: limit * share}), claim, regime)
        for share in (0.6, 1.0, 1.45)
    )
    assert (under.holds, over.holds) == ((True, False) if side == "most" else (False, True)), (
        under,
        over,
    )
    assert at.holds is None
    assert "on both sides of" in at.why
    assert verdict(dish(knowledge, **{**energy, nutrient: None}), claim, regime).holds is None


def test_exactly_at_a_limit_with_no_doubt() -> None:
    def measured(value: float, **ends: float) -> Measured:
        return Measured(
            "sodium", "mg", "in 100 g", 100, value, ends.get("low", value), ends.get("high", value)
        )

    assert at_most(measured(140), 140).holds is True
    assert at_most(measured(140.001), 140).holds is False
    assert at_most(measured(5), 5, strictly=True).holds is False
    assert at_most(measured(4.999), 5, strictly=True).holds is True
    assert at_least(measured(2.8), 2.8).holds is True
    assert at_least(measured(2.799), 2.8).holds is False
    assert at_most(measured(139, low=130, high=141), 140).holds is None
    assert at_most(replace(measured(1), missing=("zorblax",)), 140).holds is None


def test_what_fails_decides_before_what_is_not_known() -> None:
    yes, no, open_ = (Finding(h, str(h)) for h in (True, False, None))
    assert all_of([yes, open_, no]).holds is False
    assert all_of([yes, open_]).holds is None
    assert any_of([no, open_, yes]).holds is True
    assert any_of([no, open_]).holds is None
    assert any_of([no, no]).holds is False


def test_small_amounts_are_held_to_fifty_grams(knowledge: Knowledge) -> None:
    """240 mg in 100 g: 72 mg in 30 g of dressing and 120 in 50 g; at 340 the 30 g hold (102) and
    the 50 g (170) do not."""
    low = verdict(dish(knowledge, "vinaigrette", sodium_mg=240), "low-sodium")
    high = verdict(dish(knowledge, "vinaigrette", sodium_mg=340), "low-sodium")
    assert low.holds is True
    assert high.holds is False
    assert high.at is not None
    assert (high.at.amount_g, high.at.limit) == (50, 140)
    assert (
        verdict(
            dish(knowledge, "pasta-potato-salad", sodium_mg=140 / 1.4 * 0.8), "low-sodium"
        ).holds
        is True
    )
    assert (
        verdict(dish(knowledge, "pasta-potato-salad", sodium_mg=140 * 0.95), "low-sodium").holds
        is False
    )


@pytest.mark.parametrize(
    ("kind", "low", "high", "small"),
    [("vinaigrette", 30, 30, True), ("legume-dip", 25, 40, True), ("herb-nut-paste", 45, 75, False),
     ("slaw", 100, 100, False), ("leafy-salad", 100, 100, False), ("pasta-potato-salad", 140,
     140, False)],
)  # fmt: skip
def test_reference_amounts_by_kind(
    kind: str, low: float, high: float, small: bool, knowledge: Knowledge
) -> None:
    amount = reference_amount(dish(knowledge, kind))
    assert low <= amount.grams <= high
    assert amount.small is small


RELATIVE = [
    (Regime.US, "reduced-sodium", "sodium_mg", 25, 300), (Regime.US, "light-in-sodium",
    "sodium_mg", 50, 300),
    (Regime.US, "reduced-calories", "energy_kcal", 25, 200), (Regime.US, "reduced-fat",
    "fat_g", 25, 10),
    (Regime.US, "reduced-sugar", "sugars_g", 25, 10), (Regime.EU, "reduced-salt",
    "sodium_mg", 25, 300),
    (Regime.EU, "reduced-fat", "fat_g", 30, 10), (Regime.EU, "reduced-energy",
    "energy_kcal", 30, 200),
]  # fmt: skip


@pytest.mark.parametrize(("regime", "claim", "nutrient", "percent", "usual"), RELATIVE)
def test_less_than_a_named_food(
    regime: Regime, claim: str, nutrient: str, percent: float, usual: float, knowledge: Knowledge
) -> None:
    before = dish(knowledge, title="Usual dish", **{nutrient: usual})
    enough, short = (
        dish(knowledge, **{nutrient: usual * (1 - (percent + more) / 100)}) for more in (1.0, -1.0)
    )
    held = verdict(enough, claim, regime, before)
    assert held.holds is True, held.why
    assert "less than Usual dish" in held.drags
    assert verdict(short, claim, regime, before).holds is False
    assert verdict(enough, claim, regime).holds is None, "without a named food nothing is less"


def test_the_named_food_may_not_be_low_itself(knowledge: Knowledge) -> None:
    before, now = dish(knowledge, sodium_mg=90), dish(knowledge, sodium_mg=40)
    found = verdict(now, "reduced-sodium", Regime.US, before)
    assert found.holds is False
    assert "is low itself" in found.why


def test_light_asks_for_fat_where_fat_is_most_of_the_energy(knowledge: Knowledge) -> None:
    fatty = dish(knowledge, fat_g=20, energy_kcal=250)
    third = dish(knowledge, fat_g=13, energy_kcal=160)
    assert verdict(third, "light", Regime.US, fatty).holds is False, (
        "36% fewer calories, but most of them from fat"
    )
    lean, less = (
        dish(knowledge, fat_g=4, energy_kcal=200),
        dish(knowledge, fat_g=3, energy_kcal=120),
    )
    assert verdict(less, "light", Regime.US, lean).holds is True, (
        "40% fewer calories, 22% of them from fat"
    )


def test_salt_and_sugar_that_come_in_by_other_doors(knowledge: Knowledge) -> None:
    def of(line: str) -> Appraisal:
        text = f"Dish\nServes 4\n300 g celery\n{line}"
        return appraise(
            read_recipe(text, Reader(knowledge.pantry, knowledge.preparations)).recipe, knowledge
        )

    for salty in ("1/2 tsp salt", "1 tbsp soy sauce", "50 g feta", "10 olives", "2 tbsp miso"):
        assert verdict(of(salty), "no-salt-added").holds is False, salty
    for plain in ("1 tbsp lemon juice", "1 tbsp olive oil", "50 g walnuts", "1 tsp cumin"):
        assert verdict(of(plain), "no-salt-added").holds is True, plain
    for sweet in ("1 tbsp honey", "1 tsp sugar", "1 tbsp maple syrup"):
        assert verdict(of(sweet), "no-added-sugar").holds is False, sweet
    for fruit in ("1 apple", "2 tbsp raisins", "1/2 cup orange juice"):
        assert verdict(of(fruit), "no-added-sugar").holds is True, fruit
    assert (
        "not a low calorie food"
        in verdict(of("2 tbsp raisins\n100 g walnuts"), "no-added-sugar").drags
    )


def test_protein_counts_as_far_as_the_body_can_use_it(knowledge: Knowledge) -> None:
    whole = dish(knowledge, group="dairy", protein_g=7)
    beans = dish(knowledge, group="nut-seed", protein_g=6)
    assert verdict(whole, "good-source-of-protein").holds is True
    assert verdict(beans, "good-source-of-protein").holds is False
    assert verdict(dish(knowledge, group="dairy", protein_g=13), "high-protein").holds is True
    assert (
        verdict(dish(knowledge, group="dairy", protein_g=13), "good-source-of-protein").holds
        is False
    )


def test_fiber_by_weight_or_by_energy_in_the_eu(knowledge: Knowledge) -> None:
    light = dish(knowledge, fiber_g=2, energy_kcal=50)
    assert verdict(light, "source-of-fibre", Regime.EU).holds is True, "4 g in 100 kcal"
    assert (
        verdict(dish(knowledge, fiber_g=2, energy_kcal=250), "source-of-fibre", Regime.EU).holds
        is False
    )
    assert (
        verdict(dish(knowledge, fiber_g=8, energy_kcal=400), "high-fibre", Regime.EU).holds is True
    )


def test_what_is_poured_has_the_limits_of_a_liquid(knowledge: Knowledge) -> None:
    assert verdict(dish(knowledge, "vinaigrette", fat_g=2.2), "low-fat", Regime.EU).holds is False
    assert (
        verdict(dish(knowledge, "creamy-dressing", fat_g=2.2), "low-fat", Regime.EU).holds is True
    )


def test_what_a_claim_drags_along(knowledge: Knowledge) -> None:
    salty = dish(knowledge, sodium_mg=700, fiber_g=8)
    assert disclosure(salty) == "see nutrition information for sodium content"
    assert "sodium content" in verdict(salty, "high-fiber").drags
    assert "total fat" in verdict(dish(knowledge, fiber_g=8, fat_g=6), "high-fiber").drags
    assert verdict(dish(knowledge, fiber_g=8, fat_g=1), "high-fiber").drags == ""
    assert "cannot be said" in disclosure(dish(knowledge, cholesterol_mg=None))
    assert "saturated fat" in disclosure(dish(knowledge, saturated_fat_g=6, fat_g=10))


def test_of_conditions_that_all_hold_the_tightest_stands_for_them() -> None:
    found = [
        Finding(True, name, At(0, value, limit))
        for name, value, limit in (("a", 50, 100), ("b", 9, 10), ("c", 1, 40))
    ]
    decided = all_of([*found, Finding(True, "no figure")])
    assert decided.at == At(0, 9, 10)
    assert decided.why == "a; b; c; no figure"
