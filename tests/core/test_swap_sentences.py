"""What a swap says of figures and allergens is what it does, for every food it takes out."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass

import pytest

from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.catalogue.swap import Swap
from fresh_ladle.core.cautions.allergens import is_or_brings, may_bring
from fresh_ladle.core.foods.food import Food


@dataclass(frozen=True, slots=True)
class Change:
    """One gram of a food out, and what comes in for it."""

    out: Food
    incoming: tuple[tuple[Food, float], ...]

    def goes(self, nutrient: str) -> float:
        return self.out.per_100_g[nutrient] or 0.0

    def comes(self, nutrient: str) -> float:
        return sum((food.per_100_g[nutrient] or 0.0) * grams for food, grams in self.incoming)

    def ratio(self, nutrient: str) -> float:
        return self.comes(nutrient) / self.goes(nutrient) if self.goes(nutrient) else float("inf")

    def brings(self, allergen: str) -> bool:
        return any(is_or_brings(food, allergen) for food, _ in self.incoming)


def falls(nutrient: str) -> Callable[[Change], bool]:
    return lambda change: change.comes(nutrient) < change.goes(nutrient)


def rises(nutrient: str) -> Callable[[Change], bool]:
    return lambda change: change.comes(nutrient) > change.goes(nutrient)


def is_share(nutrient: str, low: float, high: float) -> Callable[[Change], bool]:
    return lambda change: low <= change.ratio(nutrient) <= high


def free_of(*allergens: str) -> Callable[[Change], bool]:
    return lambda change: not any(change.brings(a) for a in allergens)


# What is said of all of a line; "half the feta" speaks of the share that is taken and is no claim
# of this kind.
CLAIMS: tuple[tuple[str, Callable[[Change], bool]], ...] = (
    (r"\bhalf the fat of\b|\bat half the fat\b", is_share("fat_g", 0.3, 0.7)),
    (r"\bjust over half the fat\b", is_share("fat_g", 0.45, 0.7)),
    (r"\bnext to no fat\b|\bno butterfat\b|\bwithout the butterfat\b", is_share("fat_g",
    0.0, 0.12)),
    (r"\bin place of fat\b|\binstead of fat\b|\bless fat\b", falls("fat_g")),
    (r"\b(?:with|and|for|brings?|comes?|in it,? and|some) fiber\b|\bfiber (?:comes|in it)\b",
    rises("fiber_g")),
    (r"\bbrings protein\b|\bprotein (?:in place|instead|comes)|\bwith protein\b|\bmore protein\b",
    rises("protein_g")),
    (r"\bhalf the calories\b", is_share("energy_kcal", 0.2, 0.7)),
    (r"\bthird of oil's calories\b", is_share("energy_kcal", 0.1, 0.45)),
    (r"\balmost no calories\b", is_share("energy_kcal", 0.0, 0.15)),
    (r"\bfewer calories\b", falls("energy_kcal")),
    (r"\bthe calories go up\b", rises("energy_kcal")),
    (r"\bhalf the sodium\b", is_share("sodium_mg", 0.3, 0.75)),
    (r"\bhardly any salt\b", is_share("sodium_mg", 0.0, 0.2)),
    (r"\bless salt\b|(?<!brings )no salt\b|\bwithout (?:its|the|any) salt\b|\bthe salt goes\b",
    falls("sodium_mg")),
    (r"\bwithout sodium\b", falls("sodium_mg")),
    (r"\bbrings no salt\b", lambda change: change.comes("sodium_mg") < 120),
    (r"\bmore sodium\b|\bmore salt than it\b|\bsodium goes up\b", rises("sodium_mg")),
    (r"\bquarter of the sugar\b", is_share("sugars_g", 0.0, 0.4)),
    (r"\bthe sugar (?:goes|and the salt of the bottle)\b|\bwithout sugar\b", falls("sugars_g")),
    (r"\bmilk-free\b|\bwithout milk\b|\bwithout dairy\b", free_of("milk")),
    (r"\begg-free\b|\bwithout egg\b", free_of("egg")),
    (r"\bnut-free\b", free_of("tree-nut", "peanut")),
    (r"\bpeanut-free\b|\bwithout peanut\b", free_of("peanut")),
    (r"\bsesame-free\b|\bwithout sesame\b", free_of("sesame")),
    (r"\bsoy-free\b|\bwithout soy\b", free_of("soy")),
    (r"\bwithout gluten\b|\bwheat-free\b|\bwithout wheat\b", free_of("wheat")),
    (r"\bwithout fish\b|\bwithout the fish\b", free_of("fish")),
    (r"\bwithout mustard\b", free_of("mustard")),
)  # fmt: skip


def changes(swap: Swap, knowledge: Knowledge) -> list[Change]:
    found = []
    for key in sorted(swap.out):
        out = knowledge.pantry[key]
        incoming = [(i.resolved(out, knowledge.pantry), i.per_gram) for i in swap.incoming]
        if all(food is not None for food, _ in incoming):
            found.append(
                Change(out, tuple((food, grams) for food, grams in incoming if food is not None))
            )
    return found


@pytest.mark.parametrize(("claim", "holds"), CLAIMS, ids=[c[0][:30] for c in CLAIMS])
def test_what_a_swap_says_is_what_it_does(
    claim: str, holds: Callable[[Change], bool], knowledge: Knowledge
) -> None:
    said = 0
    for swap in knowledge.swaps:
        if (
            not re.search(claim, swap.reason, re.I)
            or not swap.incoming
            or any(i.preparation for i in swap.incoming)
        ):
            continue
        for change in changes(swap, knowledge):
            said += 1
            assert holds(change), (swap.id, change.out.key, swap.reason)
    assert said, "nothing says this: the claim can go"


def test_what_is_said_to_be_free_of_an_allergen_is_not_so_by_luck_of_the_maker(
    knowledge: Knowledge,
) -> None:
    """A swap "for an allergy" may rest on the pack only where it says so."""
    for swap in knowledge.swaps:
        if swap.goal != "allergen":
            continue
        text = f"{swap.reason} {' '.join(swap.repairs)}"
        for change in changes(swap, knowledge):
            gone = {
                a for a in change.out.traits.allergens if a != "sulphite" and not change.brings(a)
            }
            doubtful = {a for a in gone if any(may_bring(food, a) for food, _ in change.incoming)}
            assert not doubtful or re.search(r"\b(?:pack|label|kind|certified)\b", text), (
                swap.id,
                doubtful,
            )


def test_a_swap_that_raises_sodium_while_saving_something_else_says_so(
    knowledge: Knowledge,
) -> None:
    for swap in knowledge.swaps:
        if swap.goal in ("salt", "taste", "allergen") or not swap.incoming or swap.ask_first:
            continue
        for change in changes(swap, knowledge):
            more = change.comes("sodium_mg") - change.goes("sodium_mg")
            if more <= 320:
                continue
            text = f"{swap.reason} {' '.join(swap.repairs)}"
            assert re.search(r"salt|sodium", text, re.I), (swap.id, change.out.key, round(more))
