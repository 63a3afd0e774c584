"""What a mix smells of: herbs told apart at like strength, roasted from raw, and no change of smell
where there is none."""

from __future__ import annotations

from itertools import combinations

import numpy as np
import pytest

from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.flavor.drift import Drift, drift_sentence, smell_words
from fresh_ladle.core.flavor.parameters import Setting
from fresh_ladle.core.flavor.smell import (
    FAMILY_IDS,
    MOST_SHIFT,
    Likeness,
    aroma_shifts,
    family_steps,
)
from fresh_ladle.core.page.recipe_text import read_recipe
from fresh_ladle.core.whole.appraisal import Appraisal, appraise
from fresh_ladle.core.whole.balance import drift_between
from fresh_ladle.data.smells import load_likeness

HERBS = ("parsley", "cilantro", "basil", "mint", "dill", "tarragon", "chives", "chervil")
DISHES = {
    "vinaigrette": (
        "Dressing\n1/4 cup olive oil\n2 Tbsp lemon juice\n1 clove garlic\n1/2 tsp salt\n2 Tbsp"
        " chopped {}"
    ),
    "dip": (
        "Dip\n1 cup plain yogurt\n1 clove garlic\n1 Tbsp lemon juice\n1/4 tsp salt\n1/4 cup"
        " chopped {}"
    ),
    "salad": (
        "Salad\n2 cups cooked bulgur\n1 cup diced tomatoes\n1/2 red onion\n3 Tbsp olive oil\n3 Tbsp"
        " lemon juice\n1/2 tsp salt\n1/2 cup chopped {}"
    ),
}
PLAIN = DISHES["vinaigrette"].format("parsley")


def worked_out(knowledge: Knowledge, text: str) -> Appraisal:
    reader = Reader(knowledge.pantry, knowledge.preparations)
    return appraise(read_recipe(text, reader, 4).recipe, knowledge)


def shift(knowledge: Knowledge, before: str, after: str) -> Drift:
    return drift_between(worked_out(knowledge, after), worked_out(knowledge, before))


@pytest.mark.parametrize("dish", DISHES)
def test_one_herb_for_another_is_never_unnoticed(knowledge: Knowledge, dish: str) -> None:
    worked: dict[str, Appraisal] = {
        herb: worked_out(knowledge, DISHES[dish].format(herb)) for herb in HERBS
    }
    for one, other in combinations(HERBS, 2):
        change = drift_between(worked[one], worked[other], Setting.FROM_MEMORY)
        assert change.aroma_shift >= 1.0, (one, other)
        assert "may not notice" not in drift_sentence(change)


SMELLED = [
    ("lemon juice", "lime juice", "more of resin and wood"),
    ("lemon juice", "red wine vinegar", "less of citrus"),
    ("1 clove garlic", "2 cloves roasted garlic", "more of roasting"),
    ("olive oil", "toasted sesame oil", "more of toasted nuts"),
    ("parsley", "mint", "more of mint"),
    ("parsley", "rosemary", "more of pine"),
]


@pytest.mark.parametrize(("out", "into", "said"), SMELLED)
def test_what_it_smells_of_is_said(knowledge: Knowledge, out: str, into: str, said: str) -> None:
    assert said in " ".join(smell_words(shift(knowledge, PLAIN, PLAIN.replace(out, into))))


@pytest.mark.parametrize("dish", DISHES)
def test_27_parsley_in_place_of_cilantro_smells_less_of_citrus(
    knowledge: Knowledge, dish: str
) -> None:
    parsley, cilantro = (
        worked_out(knowledge, DISHES[dish].format(herb)) for herb in ("parsley", "cilantro")
    )
    change = drift_between(parsley, cilantro, Setting.SIDE_BY_SIDE)
    assert change.aroma_shift >= 2.0
    assert change.smells["citrus"] < -0.5


def test_roasted_carrots_do_not_smell_as_raw_ones(knowledge: Knowledge) -> None:
    dip = "Dip\n1 lb carrots{}\n1/2 cup tahini\n2 Tbsp lemon juice\n1/2 tsp salt"
    change = shift(knowledge, dip.format(""), dip.format(", roasted"))
    assert change.aroma_shift >= 1.0
    assert change.smells["roasted-sweet"] > 1.0


UNCHANGED = [
    ("water", "{}\n4 Tbsp water"),
    ("salt", "{}\n1/2 tsp salt"),
    ("sugar", "{}\n1 tsp sugar"),
]


@pytest.mark.parametrize(("name", "more"), UNCHANGED, ids=[n for n, _ in UNCHANGED])
def test_what_does_not_smell_changes_no_smell(knowledge: Knowledge, name: str, more: str) -> None:
    change = shift(knowledge, PLAIN, more.format(PLAIN))
    assert change.aroma_shift == pytest.approx(0.0, abs=0.02)
    assert smell_words(change) == []


def test_twice_the_batch_smells_the_same_and_a_trace_is_not_told(knowledge: Knowledge) -> None:
    twice = (
        "Dressing\n1/2 cup olive oil\n4 Tbsp lemon juice\n2 cloves garlic\n1 tsp salt\n4 Tbsp"
        " chopped parsley"
    )
    assert shift(knowledge, PLAIN, twice).aroma_shift == pytest.approx(0.0, abs=0.05)
    big = "Salad\n2 lb cooked lentils\n1 cup vinegar\n4 cloves garlic\n{}"
    trace = shift(knowledge, big.format("1/16 tsp dried dill"), big.format("1/16 tsp dried mint"))
    assert trace.aroma_shift < 1.0


def test_the_smell_counts_in_the_total(knowledge: Knowledge) -> None:
    change = shift(knowledge, PLAIN, PLAIN.replace("parsley", "tarragon"))
    assert change.total > change.aroma_shift * 0.9
    assert change.aroma_shift <= MOST_SHIFT


def test_families_that_are_alike_count_less_apart() -> None:
    near, far = np.zeros((2, len(FAMILY_IDS)))
    near[[FAMILY_IDS.index("camphor-pine"), FAMILY_IDS.index("resinous")]] = 2.0, -2.0
    far[[FAMILY_IDS.index("camphor-pine"), FAMILY_IDS.index("cheesy-dairy")]] = 2.0, -2.0
    found = aroma_shifts(np.stack([near, far]), load_likeness())
    assert found[0] < found[1]


def test_likeness_is_of_use_for_distances() -> None:
    likeness = load_likeness().matrix
    assert np.allclose(np.diag(likeness), 1.0, atol=0.02)
    assert np.linalg.eigvalsh(likeness).min() > -1e-9
    alone = Likeness.of({("green", "citrus"): 0.65}).matrix
    assert alone[0, 1] == pytest.approx(0.35)


def test_without_any_smell_only_the_strength_differs() -> None:
    smell, none = np.full(len(FAMILY_IDS), 2.0), np.zeros(len(FAMILY_IDS))
    assert not family_steps(none[None], smell, Setting.FROM_MEMORY).any()
    assert not family_steps(smell[None], none, Setting.FROM_MEMORY).any()


def test_every_food_with_a_taste_says_what_it_smells_of(knowledge: Knowledge) -> None:
    tasted = [food for food in knowledge.pantry if food.taste is not None]
    assert all(food.taste.smells for food in tasted if food.taste)
    odorless = [food.key for food in tasted if food.taste and food.taste.smells == ("none",)]
    assert all(knowledge.pantry[key].taste.aroma <= 1.0 for key in odorless)  # type: ignore[union-attr]
