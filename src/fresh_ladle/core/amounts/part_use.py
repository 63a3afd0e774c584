"""Parts of a recipe used in part: two thirds of the dressing below, variants of which one is made,
one of a list."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass, replace

from fresh_ladle.core.amounts.amount import read_amount
from fresh_ladle.core.amounts.quantity import BadQuantity, read_quantity
from fresh_ladle.core.amounts.reading import LineReading
from fresh_ladle.core.amounts.units import grams_in, millilitres, read_unit
from fresh_ladle.core.recipes.aside import Aside

_FRACTION = r"(?:one|two|three|a)[- ](?:thirds?|quarters?|fourths?)|\d/\d|\d{1,3} ?%"
_WHERE = (
    r"(?:from )?(?:above|below|recipe (?:above|below|follows)|see (?:above|below)|recipe|from this"
    r" recipe)"
)
_PART = re.compile(
    rf"^(?:use |add |toss with |about )?(?P<share>all|most|some|half|{_FRACTION}|the rest|the"
    r" remaining|remaining)"
    rf"(?: of)?(?: the| this| your)?\s+(?P<what>[a-z][\w' -]{{2,40}}?)(?:,?\s+\(?{_WHERE}\)?)?"
    r"(?P<after>,.*|\s*\(.*\))?$",
    re.I,
)
_BATCH = re.compile(
    rf"^(?:(?P<share>half|{_FRACTION}) )?(?:an? |1 |one |the )?(?:batch|recipe|quantity)(?: of)?(?:"
    r" the)?\s+"
    rf"(?P<what>[a-z][\w' -]{{2,40}}?)(?:,?\s+\(?{_WHERE}\)?)?$",
    re.I,
)
_IN_HEADING = re.compile(
    r"\((?:you(?:'ll| will) (?:only )?(?:need|use)|use(?: only)?|makes"
    r" (?:extra|double|twice)[^()]*?use)\s+"
    rf"(?P<share>half|{_FRACTION})[^()]*\)",
    re.I,
)
_VARIANT = re.compile(
    r"^(?:variation|variant|option|alternative|or try|for an? .+ version|.+ variation)\b", re.I
)
_CHOOSE = re.compile(
    r"^(?:choose|pick|use|add)?\s*(?:one|1|any one|either)(?: of)?(?: these| the"
    r" following)?$|^choose one",
    re.I,
)
_SHARES = {"all": 1.0, "most": 0.75, "some": 0.5, "half": 0.5}
_LEFT = frozenset({"the rest", "the remaining", "remaining"})


@dataclass(frozen=True, slots=True)
class PartUse:
    """How much of a component a line of the text says is used: `share` from 0 to 1, or so many
    `grams` of it."""

    component: str
    share: float
    said: str
    grams: float | None = None


def share_of(words: str) -> float | None:
    """`two thirds` as 0.667; None for what is left over, or no share at all."""
    words = words.lower().strip()
    if words in _SHARES:
        return _SHARES[words]
    if match := re.fullmatch(r"(\d{1,3}) ?%", words):
        return min(1.0, int(match[1]) / 100)
    try:
        quantity, rest = read_quantity(words)
    except BadQuantity:
        return None
    value = quantity.count.value if quantity is not None and not rest else 0.0
    return value if 0 < value <= 1 else None


def part_use(text: str, components: list[str], mine: str = "") -> PartUse | None:
    """The use of one of the recipe's own components that a line speaks of; None when it is an
    ingredient.

    `mine` is the component the line stands in: only what is left over of it can be spoken of there.
    """
    if (batch := _BATCH.match(text)) and (
        component := _named(batch["what"], [c for c in components if c != mine])
    ):
        return PartUse(component, share_of(batch["share"] or "all") or 1.0, text)
    match = _PART.match(text)
    if match is None or read_unit(re.sub(r"^(?:an?|one|the)\s+", "", match["what"], flags=re.I))[0]:
        return _measured_use(text, [c for c in components if c != mine])
    if match["share"].lower() not in _LEFT:
        components = [c for c in components if c != mine]
    component = _named(match["what"], components)
    if component is None:
        return None
    later = re.search(
        r"another (?:day|time)|keep|save|store|later in the week|for tomorrow",
        match["after"] or "",
        re.I,
    )
    share = 0.0 if later else share_of(match["share"])
    if share is None:
        # "The rest of the dressing" is what was not named before: nothing changes.
        share = 1.0
    return PartUse(component, share, text)


_MEASURED = re.compile(
    r"^(?P<amount>\d[\d/ .-]*[a-z]+)\s+(?:of\s+)?(?:the\s+)?(?P<what>[a-z][a-z'"
    rf" -]{{2,40}}?),?\s+\(?{_WHERE}\)?$",
    re.I,
)


def _measured_use(text: str, components: list[str]) -> PartUse | None:
    """ "1/4 cup of the dressing below"; a millilitre of it is taken to weigh a gram."""
    match = _MEASURED.match(text)
    component = _named(match["what"], components) if match else None
    if match is None or component is None:
        return None
    try:
        amount, rest = read_amount(match["amount"])
    except BadQuantity:
        return None
    one = (grams_in(amount.unit) or millilitres(amount.unit)) if amount.unit and not rest else None
    if amount.count is None or one is None:
        return None
    return PartUse(component, 0.0, text, amount.count.count.value * one)


def _named(what: str, components: list[str]) -> str | None:
    """The component a phrase names: by its own name, or "sauce" for the only dressing there is."""
    words = {w.rstrip("s") for w in re.findall(r"[a-z]+", what.lower())}
    poured = {"dressing", "sauce", "vinaigrette", "marinade", "glaze"}
    for component in components:
        own = {w.rstrip("s") for w in re.findall(r"[a-z]+", component.lower())}
        if own and (own <= words or words <= own):
            return component
        if words & poured and own & poured:
            return component
    return None


def heading_share(heading: str) -> tuple[str, float | None]:
    """A heading without what it says of its use, and the share it says is used."""
    match = _IN_HEADING.search(heading)
    if match is None:
        return heading, None
    return heading.replace(match[0], "").strip(), share_of(match["share"])


def with_part_uses(
    readings: list[LineReading], uses: list[PartUse], grams_of: Mapping[str, float]
) -> list[LineReading]:
    """The lines, with only the used share of a component eaten. `grams_of` is what each component
    weighs in all."""
    shares: dict[str, float] = {}
    for use in uses:
        share = (
            use.grams / grams_of[use.component]
            if use.grams and grams_of.get(use.component)
            else use.share
        )
        if share > 0:
            shares[use.component] = min(1.0, shares.get(use.component, 0.0) + share)
    return [
        (
            replace(r, line=replace(r.line, eaten=r.line.eaten * shares[r.line.component]))
            if r.line.component in shares
            else r
        )
        for r in readings
    ]


def with_one_of_each_choice(readings: list[LineReading]) -> list[LineReading]:
    """The lines, with none of a variant eaten, and of a list to choose from the first alone.

    They stay in the recipe, where another can be taken instead.
    """
    found: list[LineReading] = []
    seen: set[str] = set()
    for reading in readings:
        line = reading.line
        left_out = bool(_VARIANT.match(line.component)) or (
            bool(_CHOOSE.match(line.component)) and line.component in seen
        )
        seen.add(line.component)
        if left_out:
            line = replace(line, eaten=0.0, asides=line.asides | {Aside.OPTIONAL})
        found.append(replace(reading, line=line))
    return found
