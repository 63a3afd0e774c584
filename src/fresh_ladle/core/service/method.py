"""Reads a method: what is done to which lines, for how long and how hot, in the cook's order.

A sentence is cut at its verbs; a verb counts where a cook gives an order (at the start, after a comma, after "and",
"then", "to", "let it"). What is said of time and heat belongs to the verb before it.
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction
from functools import lru_cache

from fresh_ladle.core.catalogue.kitchen_work import KitchenWork, WorkVerb
from fresh_ladle.core.ranges import Range
from fresh_ladle.core.recipes.recipe import Line
from fresh_ladle.core.service.mentions import Known, lines_in

MERGING = frozenset(
    {"blend", "purée", "pulse", "whisk", "emulsify", "shake", "stir", "fold", "toss", "dress", "massage", "season",
     "taste and adjust", "thin", "top", "drizzle", "plate", "layer", "spread", "mash", "portion", "thicken"}
)  # fmt: skip
"""Verbs that bring things together: they wait for what was done before them in their component."""
RESTING = frozenset({"rest", "cool", "chill", "thicken on standing", "set", "steam off"})
"""Verbs that only wait."""
UNREAD = ""
OVEN_FROM = 120.0
"""°C from which toasting is done in the oven."""


@dataclass(frozen=True, slots=True)
class Action:
    """One thing a cook does. `step` is the number of the step of the method it stands in, from 0; `minutes` and
    `celsius` what the method says, None where it says nothing; `verb` is empty where no verb was understood; `named`
    tells whether it names its lines, or goes on with those of the action before."""

    text: str
    verb: str
    lines: tuple[str, ...]
    step: int
    minutes: Range | None = None
    celsius: float | None = None
    named: bool = True


def actions(method: Sequence[str], lines: Sequence[Line], known: Known, work: KitchenWork) -> list[Action]:
    """The actions of a method in its order."""
    found: list[Action] = []
    for step, text in enumerate(method):
        for sentence in re.split(r"(?<=[.;!])\s+(?=[A-Z(])|;\s+", text.strip()):
            for clause, verb in _clauses(sentence, work):
                before = found[-1].lines if found else ()
                used = {line for action in found for line in action.lines}
                about, named = lines_in(clause, lines, known, before, used)
                celsius = _celsius(clause)
                if verb == "toast in a pan" and (celsius or 0) >= OVEN_FROM:
                    verb = "toast in the oven"
                found.append(Action(clause, verb, about, step, _minutes(clause), celsius, named))
    return _without_double_waits(found)


def _clauses(sentence: str, work: KitchenWork) -> Iterator[tuple[str, str]]:
    hits = [(m.start("verb"), m["verb"].lower()) for m in _orders(work.verbs).finditer(sentence)]
    hits = [(at, word) for at, word in hits if _is_order(word, sentence[:at], sentence[at + len(word) :])]
    if not hits:
        if text := _tidy(sentence):
            yield text, UNREAD
        return
    names = _verb_of(work.verbs)
    starts = [0, *(at for at, _ in hits[1:]), len(sentence)]
    for (_, word), start, end in zip(hits, starts, starts[1:], strict=False):
        yield _tidy(sentence[start:end]), names[re.sub(r"\s+", " ", word)]


_THINGS = frozenset(
    {"salt", "zest", "juice", "mix", "top", "film", "core", "pit", "seed", "stem", "skin", "stone", "brush", "fork",
     "plate", "pack", "label", "box", "set", "pod", "husk", "split", "section", "date", "rest", "cream",
     "salt and pepper"}
)  # fmt: skip
_SEASONINGS = frozenset({"salt", "zest", "juice", "salt and pepper"})


def _is_order(word: str, before: str, after: str) -> bool:
    """Whether a word that may be a thing ("salt, cumin and oil") is meant as an order: what it is done to follows. At
    the end of a list ("blend the beans, oil and salt for 2 minutes") it is a thing, however long that takes."""
    if word not in _THINGS:
        return True
    if word in _SEASONINGS and _LISTED.search(before) and _HOW_LONG.match(after):
        return False
    with_what = word not in _SEASONINGS and re.match(r"\s+with\b", after) is not None
    return with_what or _OBJECT.match(after) is not None


_LISTED, _HOW_LONG = re.compile(r"(?:,|\band)\s*$", re.I), re.compile(r"\s+(?:for|overnight)\b", re.I)
_OBJECT = re.compile(
    r"\s+(?:the|them|it|both|each|all|half|everything|together|well|again|aside|\d|an?|for|overnight|and\s+\w+\s+the)\b",
    re.I,
)
"""What follows an order: what it is done to, or how often."""


def _tidy(text: str) -> str:
    """A clause without what joined it to the next."""
    text = re.sub(r"(?:[,;:.\s]+|\b(?:and|then|to|let (?:it|them))\s*)+$", "", text.strip())
    return text[:1].upper() + text[1:]


@lru_cache(maxsize=4)
def _orders(verbs: tuple[WorkVerb, ...]) -> re.Pattern[str]:
    words = sorted(_verb_of(verbs), key=lambda w: -len(w))
    verb = "|".join(re.escape(word).replace(r"\ ", r"\s+") for word in words)
    place = (
        r"(?:^|[,;:(–—]\s*|\b(?:and|then|to|let|leave|meanwhile|straight|just|"
        r"(?:let|leave|allow|set|keep|put) (?:it|them|this|these|the [a-z -]{2,30}?)(?: aside)?(?: to)?)\s+)"
    )
    how = r"(?:(?:and|then|first|next|now|also|gently|lightly|quickly|carefully|slowly|briefly|together|again|dry)\s+)*"
    return re.compile(rf"{place}{how}(?P<verb>{verb})\b(?!-)", re.I)


@lru_cache(maxsize=4)
def _verb_of(verbs: tuple[WorkVerb, ...]) -> dict[str, str]:
    return {word: verb.verb for verb in verbs for word in verb.words}


_NUMBER = (
    r"(?:\d+\s+\d/\d|\d/\d|\d+(?:[.,]\d+)?(?:\s*[½¼¾])?|[½¼¾]|"
    r"(?:an?|half an?|one|two|three|four|five|ten|fifteen|twenty|thirty)(?=[ -]))"
)
_TIME = re.compile(
    rf"(?<![\w.,])(?<!up to )(?P<low>{_NUMBER})(?:\s*(?:to|or|[-–])\s*(?P<high>{_NUMBER}))?[\s-]*"
    r"(?P<unit>seconds?|secs?|s|minutes?|mins?|hours?|hrs?|h|days?)\b(?!\s*(?:before|ahead))|(?P<night>\bovernight\b)",
    re.I,
)
_WORDS = {
    "a": 1.0, "an": 1.0, "half a": 0.5, "half an": 0.5, "one": 1.0, "two": 2.0, "three": 3.0, "four": 4.0,
    "five": 5.0, "ten": 10.0, "fifteen": 15.0, "twenty": 20.0, "thirty": 30.0,
}  # fmt: skip
_PARTS = {"½": 0.5, "¼": 0.25, "¾": 0.75}
NIGHT = Range(600.0, 480.0, 720.0)


def _number(text: str) -> float:
    text = text.lower().strip()
    if text in _WORDS:
        return _WORDS[text]
    if "/" in text:
        return float(sum(Fraction(part) for part in text.split()))
    part = next((value for sign, value in _PARTS.items() if sign in text), 0.0)
    digits = re.sub(r"[½¼¾\s]", "", text).replace(",", ".")
    return (float(digits) if digits else 0.0) + part


def _minutes(clause: str) -> Range | None:
    """The first stretch of time in a clause, in minutes; what is said of "before serving" is none."""
    match = _TIME.search(clause)
    if match is None:
        return None
    if match["night"]:
        return NIGHT
    per = {"s": 1 / 60, "m": 1.0, "h": 60.0, "d": 1440.0}[match["unit"][0].lower()]
    low = _number(match["low"]) * per
    high = _number(match["high"]) * per if match["high"] else low
    low, high = min(low, high), max(low, high)
    return Range((low + high) / 2, low, high)


def _celsius(clause: str) -> float | None:
    """The heat a clause names, in °C."""
    if (match := re.search(r"(\d{2,3})\s*°?\s*C\b", clause)) is not None:
        return float(match[1])
    if (match := re.search(r"(\d{3})\s*°?\s*F\b", clause)) is not None:
        return round((float(match[1]) - 32) / 1.8)
    return None


def _without_double_waits(found: list[Action]) -> list[Action]:
    """ "Salt them and let them stand 10 minutes" waits once: the time that is said moves to the verb before, where
    that one waits by its nature and says no time of its own."""
    kept: list[Action] = []
    for action in found:
        before = kept[-1] if kept else None
        waits = action.verb == "rest" and action.minutes is not None and before is not None
        if waits and before and before.verb in _WAITS_ANYWAY and before.minutes is None and before.step == action.step:
            joined = f"{before.text}; {action.text[:1].lower()}{action.text[1:]}"
            kept[-1] = replace(before, text=joined, minutes=action.minutes)
        else:
            kept.append(action)
    return kept


_WAITS_ANYWAY = frozenset({"salt and rest", "macerate", "soak", "marinate", "hydrate", "rehydrate", "press", "massage"})
