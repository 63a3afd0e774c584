"""Words of a card that may not stand, or not without figures: where, why, and a sentence that may.
It marks; the educator decides."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from fresh_ladle.core.catalogue.handouts import ClaimRule, Handouts, WordRule
from fresh_ladle.core.claims.claims import Claim
from fresh_ladle.core.claims.grammar import ClaimGrammar, Phrase


@dataclass(frozen=True, slots=True)
class MarkedWords:
    """Words that a rule marks, with the place of the first letter in the text, from 0."""

    rule: str
    words: str
    at: int
    why: str
    instead: str


def marked_words(
    text: str, handouts: Handouts, claims: Sequence[Claim] = (), foods: Sequence[str] = ()
) -> list[MarkedWords]:
    """What rules mark in a text, in its order. A defined word whose claim holds is left alone where
    nothing must stand beside it; `foods` are names of ingredients, in which such a word belongs to
    the thing bought: fat-free yogurt."""
    by_id = {claim.id: claim for claim in claims}
    bought = [span for name in foods if name for span in _spans(name, text)]
    rules = {rule.id: rule for rule in handouts.word_rules}
    marked = []
    for stands in (*_by_grammar(text, handouts), *_by_pattern(text, handouts)):
        claim = next((by_id[id_] for id_ in stands.decided_by if id_ in by_id), None)
        if not _may_stand(claim) and not stands.is_within(bought):
            words = text[stands.start : stands.end]
            marked.append(_marked(rules[stands.rule], words, stands.start, claim))
    return _without_overlaps(marked)


def _may_stand(claim: Claim | None) -> bool:
    return claim is not None and bool(claim.holds) and not claim.drags


@dataclass(frozen=True, slots=True)
class _Stands:
    """What stands in a text, by its rule, its letters, and the claims that decide whether it may."""

    rule: str
    start: int
    end: int
    decided_by: tuple[str, ...] = ()

    def is_within(self, spans: Sequence[tuple[int, int]]) -> bool:
        return any(start <= self.start and self.end <= end for start, end in spans)


def _by_grammar(text: str, handouts: Handouts) -> Iterator[_Stands]:
    for phrase in ClaimGrammar(handouts.claim_words).phrases(text):
        rule = _rule_of(phrase, handouts)
        yield _Stands(rule.rule, phrase.start, phrase.end, rule.claims)


def _rule_of(phrase: Phrase, handouts: Handouts) -> ClaimRule:
    for amount in (phrase.claims, phrase.claims.removeprefix("very ")):
        if rule := handouts.claim_rules.get((amount, phrase.nutrient)):
            return rule
    return ClaimRule("amount" if phrase.nutrient else phrase.claims, ())


def _by_pattern(text: str, handouts: Handouts) -> Iterator[_Stands]:
    for rule in handouts.word_rules:
        if rule.pattern is not None:
            for match in rule.pattern.finditer(text):
                yield _Stands(rule.id, match.start(), match.end())


def _without_overlaps(marked: Sequence[MarkedWords]) -> list[MarkedWords]:
    """In the order of the text; where two share letters, the longer one."""
    kept: list[MarkedWords] = []
    for mark in sorted(marked, key=lambda m: (-len(m.words), m.at)):
        if all(mark.at + len(mark.words) <= k.at or k.at + len(k.words) <= mark.at for k in kept):
            kept.append(mark)
    return sorted(kept, key=lambda m: m.at)


def _spans(name: str, text: str) -> list[tuple[int, int]]:
    words = r"[\s-]+".join(re.escape(word) for word in re.split(r"[\s-]+", name.strip()))
    return [match.span() for match in re.finditer(rf"\b{words}\b", text, re.I)]


def _marked(rule: WordRule, words: str, at: int, claim: Claim | None) -> MarkedWords:
    if claim is None:
        return MarkedWords(rule.id, words, at, rule.why, rule.instead)
    if claim.holds:
        return MarkedWords(
            rule.id, words, at, f"It holds ({claim.why}), with something beside it.", claim.drags
        )
    verdict = "It does not hold" if claim.holds is False else "It cannot be said"
    return MarkedWords(rule.id, words, at, f"{verdict}: {claim.why}.", rule.instead)
