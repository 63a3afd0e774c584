"""Words of a card that may not stand, or not without figures: where, why, and a sentence that may.
It marks; the educator decides."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from fresh_ladle.core.catalogue.handouts import WordRule
from fresh_ladle.core.claims.claims import Claim


@dataclass(frozen=True, slots=True)
class MarkedWords:
    """Words that a rule marks, with the place of the first letter in the text, from 0."""

    rule: str
    words: str
    at: int
    why: str
    instead: str


_CLAIMS = {
    "low-sodium": ("low-sodium", "low-salt"), "salt-free": ("sodium-free", "salt-free"),
    "no-salt-added": ("no-salt-added", "no-added-salt"), "reduced-sodium": ("reduced-sodium",
    "reduced-salt"),
    "low-fat": ("low-fat",), "fat-free": ("fat-free",), "reduced-fat": ("reduced-fat",),
    "low-calorie": ("low-calorie", "low-energy"), "reduced-calories": ("reduced-calories",
    "reduced-energy"),
    "light": ("light",), "sugar-free": ("sugar-free", "sugars-free"),
    "no-added-sugar": ("no-added-sugar", "no-added-sugars"), "low-sugar": ("low-sugars",),
    "high-fiber": ("high-fiber", "high-fibre"), "high-protein": ("high-protein",),
}  # fmt: skip
"""Rules of words that a claim answers, in either regime."""
_VERY_LOW = ("very-low-sodium", "very-low-salt")
_SOURCE = {
    "high-fiber": ("good-source-of-fiber", "source-of-fibre"),
    "high-protein": ("good-source-of-protein", "source-of-protein"),
}


def marked_words(
    text: str, rules: Sequence[WordRule], claims: Sequence[Claim] = (), foods: Sequence[str] = ()
) -> list[MarkedWords]:
    """What rules mark in a text, in its order. A defined word whose claim holds is left alone where
    nothing must stand beside it; `foods` are names of ingredients, in which such a word belongs to
    the thing bought: fat-free yogurt."""
    by_id = {claim.id: claim for claim in claims}
    bought = [span for name in foods if name for span in _spans(name, text)]
    found = []
    for rule in rules:
        for match in rule.pattern.finditer(text):
            start, end = match.span()
            in_name = any(a <= start and end <= b for a, b in bought)
            if (
                in_name
                or not match[0].strip()
                or (rule.unless is not None and rule.unless.search(text))
            ):
                continue
            claim = _claim_for(rule.id, match[0].lower(), by_id)
            if claim is not None and claim.holds and not claim.drags:
                continue
            found.append(_marked(rule, match[0], start, claim))
    return sorted(found, key=lambda m: (m.at, m.rule))


def _spans(name: str, text: str) -> list[tuple[int, int]]:
    words = r"[\s-]+".join(re.escape(word) for word in re.split(r"[\s-]+", name.strip()))
    return [match.span() for match in re.finditer(rf"\b{words}\b", text, re.I)]


def _claim_for(rule: str, words: str, claims: Mapping[str, Claim]) -> Claim | None:
    """The claim of this dish that decides whether the words may stand."""
    ids = _CLAIMS.get(rule, ())
    if rule == "low-sodium" and "very" in words:
        ids = _VERY_LOW
    elif rule in _SOURCE and "good source" in words:
        ids = _SOURCE[rule]
    return next((claims[i] for i in ids if i in claims), None)


def _marked(rule: WordRule, words: str, at: int, claim: Claim | None) -> MarkedWords:
    if claim is None:
        return MarkedWords(rule.id, words, at, rule.why, rule.instead)
    if claim.holds:
        return MarkedWords(
            rule.id, words, at, f"It holds ({claim.why}), with something beside it.", claim.drags
        )
    verdict = "It does not hold" if claim.holds is False else "It cannot be said"
    return MarkedWords(rule.id, words, at, f"{verdict}: {claim.why}.", rule.instead)
