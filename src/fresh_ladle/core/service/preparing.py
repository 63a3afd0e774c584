"""What a line says is done to it before the method begins: cut, peeled, squeezed, boiled from
dry."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass

from fresh_ladle.core.amounts.bowl import Portion
from fresh_ladle.core.method.process import Operation

_DONE_TO = (
    ("zest", r"zested"), ("mince", r"minced|(?:very )?finely chopped|chopped very fine"),
    ("dice finely", r"finely diced"), ("grate finely", r"finely grated"),
    ("slice thinly", r"thinly sliced|shaved|sliced thin"),
    ("strip leaves", r"stemmed|stems removed|stripped|ribs removed"), ("dice",
    r"diced|cubed|in cubes"),
    ("julienne", r"julienned|in matchsticks"), ("grate", r"grated"), ("shred",
    r"shredded|in ribbons"),
    ("slice", r"sliced|in rounds|in half-moons"), ("quarter", r"quartered|in wedges"),
    ("halve", r"halved"),
    ("crumble", r"crumbled|flaked"), ("tear", r"torn"), ("pit", r"pitted|stoned"), ("seed",
    r"seeded|deseeded"),
    ("core", r"cored"), ("crush", r"crushed|pressed"), ("mash", r"mashed"), ("peel", r"peeled"),
    ("trim", r"trimmed"),
    ("drain", r"drained"), ("rinse", r"rinsed"), ("chop", r"chopped|cut up"),
)  # fmt: skip
"""What a line says is done to it before, by the verb of the work."""
CUTTING = frozenset(
    {"chop", "slice", "slice thinly", "dice", "dice finely", "mince", "shred", "julienne", "halve",
    "quarter", "grate",
     "grate finely", "crumble", "tear", "mash"}
)  # fmt: skip
"""Ways to cut: a line that is cut in the method is not cut before."""


@dataclass(frozen=True, slots=True)
class Before:
    """Work on one line that no step speaks of."""

    text: str
    verb: str
    line: str


def prepared(portions: Sequence[Portion], said: Sequence[Operation]) -> list[Before]:
    """What lines say is done to them and no step of the method does."""
    by_line: dict[str, set[str]] = {}
    for operation in said:
        for line_id in operation.named or operation.lines:
            by_line.setdefault(line_id, set()).add(operation.verb)
    found = []
    for portion in portions:
        line = portion.line
        if portion.batch_line is not None or portion.food is None or not portion.known:
            continue
        for verb in _done_before(portion):
            done = by_line.get(line.id, set())
            if verb not in done and not (verb in CUTTING and done & CUTTING):
                found.append(Before(_in_words(verb, portion), verb, line.id))
    return found


def cooked_by_no_step(portions: Sequence[Portion], heated: set[str]) -> list[Before]:
    """Dry grain and legumes that a line counts as cooked, and no step boils; roasting and toasting
    likewise. `heated` are the lines that steps heat."""
    found = []
    for portion in portions:
        if portion.batch_line is not None or portion.food is None or portion.line.id in heated:
            continue
        for preparation, verb in (
            ("boil", "boil"),
            ("roast", "roast"),
            ("toast", "toast in a pan"),
        ):
            if preparation in portion.line.preparations and not re.search(
                r"(?:roast|toast)ed", portion.line.named
            ):
                found.append(Before(_in_words(verb.split(" ")[0], portion), verb, portion.line.id))
    return found


def _in_words(verb: str, portion: Portion) -> str:
    """`Dice the onion finely`, `Squeeze the lemon juice`."""
    name = portion.line.named or (portion.food.kitchen_name if portion.food else portion.line.text)
    name = re.sub(
        r"\b(?:shredded|sliced|diced|chopped|grated|minced|crumbled|halved|pitted|fresh|drained)\s+",
        "",
        name,
    )
    what, _, how = verb.partition(" ")
    what, how = {"peel garlic": ("peel", ""), "juice": ("squeeze", ""), "zest": ("grate", "")}.get(
        verb, (what, how)
    )
    if verb == "strip leaves":
        return f"Strip the leaves of the {name}"
    return f"{what.capitalize()} the {name}{f' {how}' if how else ''}"


def _done_before(portion: Portion) -> list[str]:
    """The verbs of what a line says is done to it, in the order of the work."""
    words = " ".join((portion.line.text, *portion.line.remarks)).lower()
    food = portion.food
    assert food is not None
    found = []
    for verb, pattern in _DONE_TO:
        if re.search(rf"\b(?:{pattern})\b", words):
            words = re.sub(rf"\b(?:{pattern})\b", " ", words)
            found.append(verb)
    if food.key in ("lemon-juice-fresh", "lime-juice-fresh", "orange-juice-fresh"):
        found.append("juice")
    if food.key.endswith("-zest") and "zest" not in found:
        found.append("zest")
    if food.key == "garlic":
        found.append("peel garlic")
    if food.group == "nut-seed":  # sliced almonds are bought so
        found = [
            verb
            for verb in found
            if not re.search(r"sliced|slivered|shaved", portion.line.named) or verb != "slice"
        ]
    if "canned" in food.form or "pack" in food.form:
        found = [verb for verb in found if verb in ("rinse", "drain", "chop", "mash", "crush")]
    first = ("rinse", "peel garlic", "peel", "trim", "core", "seed", "pit", "strip leaves", "drain")
    return sorted(
        dict.fromkeys(found), key=lambda verb: first.index(verb) if verb in first else len(first)
    )
