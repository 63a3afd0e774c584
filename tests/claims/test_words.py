"""Words that may not stand: marked where they must be, and not where they mean something else."""

from __future__ import annotations

import re
from pathlib import Path

import pytest

from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.claims.claims import Claim
from fresh_ladle.core.claims.words import marked_words

CASES = [
    line.partition(" | ")[::2]
    for name in ("words.txt", "words_second.txt", "sentences.txt", "held_out.txt", "third.txt")
    for line in (Path(__file__).parent / name).read_text(encoding="utf-8").splitlines()
    if not line.startswith("#")
]
MAY_STAND = ("-", "pass")


@pytest.mark.parametrize(("verdict", "text"), CASES)
def test_a_sentence_of_a_handout(verdict: str, text: str, knowledge: Knowledge) -> None:
    """Fails closed: what claims is stopped, under whichever rule; what a cook is told is not."""
    marked = marked_words(text, knowledge.handouts)
    assert (not marked) == (verdict in MAY_STAND), marked
    for mark in marked:
        assert text[mark.at : mark.at + len(mark.words)] == mark.words
        assert mark.why and mark.instead  # noqa: PT018


RULES = [
    ("Low in salt", "low-sodium"),
    ("no added salt", "no-salt-added"),
    ("Salt-free seasoning", "salt-free"),
    ("Half the salt!", "reduced-sodium"),
    ("A lighter Caesar", "light"),
    ("very low in calories", "low-calorie"),
    ("without added sugar", "no-added-sugar"),
    ("Rich in fiber", "high-fiber"),
    ("packed with iron", "high-vitamins"),
    ("Low saturates", "low-saturated-fat"),
    ("Fewer carbs", "amount"),
    ("Heals the liver", "body"),
    ("gut-friendly", "body"),
    ("safe for celiacs", "people"),
    ("nut-free", "allergen"),
    ("Skinny Caesar dressing", "guilt"),
    ("All-natural", "natural"),
]


@pytest.mark.parametrize(("text", "rule"), RULES)
def test_each_claim_falls_under_its_own_rule(text: str, rule: str, knowledge: Knowledge) -> None:
    assert [m.rule for m in marked_words(text, knowledge.handouts)] == [rule]


COOKING = """
Taste and add more salt if it needs it. | It may want more salt or a little sugar.
If there is any sugar left in the bowl, stir again. | Double the sugar for a sweeter glaze.
Skim off any fat | High-fat tahini splits less. | Blend with the water and the probiotic.
Cover with cold water, cook gently, adding half the salt near the end.
Stir the yogurt, dill and the other half of the salt together.
"""


@pytest.mark.parametrize("text", [t.strip() for t in re.split(r"[|\n]", COOKING) if t.strip()])
def test_what_a_cook_is_told_may_stand(text: str, knowledge: Knowledge) -> None:
    assert marked_words(text, knowledge.handouts) == []


def test_a_figure_lets_only_its_own_sentence_stand(knowledge: Knowledge) -> None:
    text = "High in fiber. It has 8 g more protein than ours: 12 against 4 g."
    assert [m.words for m in marked_words(text, knowledge.handouts)] == ["High in fiber"]
    assert marked_words("Rich in protein, 20% of your day", knowledge.handouts)


def claim(id_: str, holds: bool | None, drags: str = "") -> Claim:
    return Claim(id_, id_, holds, "sodium 320 mg in 100 g of salad, limit 140", "", None, drags)


def test_a_defined_word_stands_where_its_claim_holds_and_nothing_must_stand_beside_it(
    knowledge: Knowledge,
) -> None:
    rules, text = knowledge.handouts, "A low-sodium dip"
    assert marked_words(text, rules, [claim("low-sodium", True)]) == []
    (beside,) = marked_words(
        text, rules, [claim("low-sodium", True, "see nutrition information for fat content")]
    )
    assert beside.instead == "see nutrition information for fat content"
    (fails,) = marked_words(text, rules, [claim("low-sodium", False)])
    assert fails.why == "It does not hold: sodium 320 mg in 100 g of salad, limit 140."
    (doubt,) = marked_words(text, rules, [claim("low-salt", None)])
    assert doubt.why.startswith("It cannot be said")


def test_a_word_belongs_to_the_thing_that_is_bought(knowledge: Knowledge) -> None:
    rules = knowledge.handouts
    text = "A dressing of fat-free yogurt; it stays fat-free."
    assert len(marked_words(text, rules)) == 2
    (left,) = marked_words(text, rules, foods=["fat free yogurt"])
    assert left.at == text.rindex("fat-free")


def test_very_low_and_good_source_ask_their_own_claims(knowledge: Knowledge) -> None:
    rules = knowledge.handouts
    held = [claim("low-sodium", True), claim("very-low-sodium", False), claim("high-fiber", False)]
    held.append(claim("good-source-of-fiber", True))
    assert [m.words for m in marked_words("very low sodium, low sodium", rules, held)] == [
        "very low sodium"
    ]
    assert [
        m.words for m in marked_words("a good source of fiber, high in fiber", rules, held)
    ] == ["high in fiber"]
