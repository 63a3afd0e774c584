"""Situations a line can be in on its way through a method that a caution may ask for."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping

from fresh_ladle.core.method.lexicon import VerbClass
from fresh_ladle.core.method.process import Operation, Process
from fresh_ladle.core.method.stretch import minutes_in
from fresh_ladle.core.recipes.recipe import Recipe

WARM_MINUTES = 120.0
"""How long food may stand out of the cold in all (USDA consumer advice)."""
_COLD = re.compile(
    r"\b(?:refrigerat\w*|fridge|in (?:the|a) cold|cold"
    r" (?:place|room|store|water|oven)|chill\w*|iced?|freez\w*)\b",
    re.I,
)
"""What keeps it cold; "until cold" says only what it comes to."""
_WARM = re.compile(
    r"\b(?:room temperature|counter|worktop|on the (?:side|table)|kitchen|sun|windowsill|warm"
    r" (?:place|spot)|left out"
    r"|leave (?:it |them )?out)\b",
    re.I,
)
_NO_END = re.compile(
    r"\b(?:all (?:day|night|afternoon|morning)|overnight|until (?:needed|wanted)|for the day)\b",
    re.I,
)
_LEFT = re.compile(r"\b(?:leave|left|let|stand|sit|rest|keeps?|hold|store)\b", re.I)
_STANDING = frozenset(
    {"rest", "set", "thicken on standing", "bring to room temperature", "thaw", "steam off", ""}
)
"""Verbs of standing about; what soaks is for other rules."""
_OF_OTHER_RULES = frozenset({"ferment", "sprout"})
_UNDER_OIL = re.compile(
    r"\b(?:cover|submerge)\w* (?:[\w-]+ ){0,4}?(?:with|in|under) (?:(?:the|more|olive|\w+ed)"
    r" )*oil\b"
    r"|\b(?:film|layer) of (?:\w+ )?oil\b"
    r"|\b(?:keep|kept|stor\w+|leave|left|preserv\w+)\b[^.]*\b(?:under|in) (?:the|its|their) oil\b",
    re.I,
)
_FOIL = re.compile(r"\bfoil\b", re.I)
_UNWRAPPED = re.compile(
    r"\b(?:unwrap\w*|open the foil|out of (?:the|their) foil|(?:remove|take off|discard) the"
    r" foil)\b",
    re.I,
)
_KEPT = re.compile(
    r"\b(?:cool\w*|cold|chill\w*|keep|leave|tomorrow|overnight|next day|fridge|refrigerat\w*)\b",
    re.I,
)


def standing_warm(process: Process, recipe: Recipe) -> set[str]:
    """Ids of the lines that stand out of the cold for longer than they may, or without an end."""
    found: set[str] = set()
    for operation in process.operations:
        if _stands_warm(operation):
            # A step that names nothing, before anything was done, is about all of it.
            found |= operation.lines.keys() or {line.id for line in recipe.lines}
    for said in process.said:
        if (
            said.operation is None
            and _WARM.search(said.text)
            and _LEFT.search(said.text)
            and _too_long(said.text)
        ):
            found |= {line.id for line in recipe.lines}
    return found


def _stands_warm(operation: Operation) -> bool:
    if operation.verb in _OF_OTHER_RULES:
        return False
    text = operation.text
    left = _WARM.search(text) is not None or operation.verb in _STANDING
    waits = (
        operation.kind is VerbClass.WAIT
        or operation.verb in _STANDING
        or _LEFT.search(text) is not None
    )
    return left and waits and _too_long(text)


def _too_long(text: str) -> bool:
    """Whether a text says more than the two hours, or no end, and not in the cold."""
    if _COLD.search(text):
        return False
    minutes = minutes_in(text)
    return (minutes is not None and minutes.high > WARM_MINUTES) or _NO_END.search(text) is not None


def under_oil(process: Process, recipe: Recipe) -> set[str]:
    """Ids of the lines that are steeped in oil, cooked slowly under it, or kept under a film of
    it."""
    found: set[str] = set()
    for operation in process.operations:
        if operation.verb in ("infuse", "confit") or _UNDER_OIL.search(operation.text):
            found |= operation.lines.keys()
    if any(said.operation is None and _UNDER_OIL.search(said.text) for said in process.said):
        found |= {line.id for line in recipe.lines}  # how it is kept is said of the dish
    return found


def kept_in_foil(process: Process, recipe: Recipe) -> set[str]:
    """Ids of the lines that are cooked in foil and then cooled or kept, with no word of unwrapping
    them."""
    steps = [o for o in process.operations if _FOIL.search(o.text)]
    after = " ".join(said.text for said in process.said)
    if not steps or _UNWRAPPED.search(after) or not _KEPT.search(after):
        return set()
    return {line for step in steps for line in step.lines} or {line.id for line in recipe.lines}


SITUATIONS: Mapping[str, Callable[[Process, Recipe], set[str]]] = {
    "standing warm": standing_warm,
    "under oil": under_oil,
    "kept in foil": kept_in_foil,
}
