"""What is in the house, read from a cook's words: foods with or without amounts, what must go
today, what there is not."""

from __future__ import annotations

import re
from collections.abc import Iterable
from dataclasses import dataclass, replace

from fresh_ladle.core.amounts.bowl import portions
from fresh_ladle.core.amounts.reading import MAX_LINE_CHARACTERS, LineReading, Reader
from fresh_ladle.core.foods.food import Food
from fresh_ladle.core.recipes import dishes
from fresh_ladle.core.recipes.recipe import Batch, Line, Recipe, RecipeError
from fresh_ladle.core.recipes.region import Region

MAX_HELD, MAX_HOUSE_CHARACTERS = 120, 8_000
SURE_ENOUGH = 0.45
"""How sure a reading has to be for its food to be taken into a dish unasked."""
A_LITTLE_G = 40.0
"""What the end of something is taken as, in grams (estimate)."""
_PARTS = re.compile(r",(?!\d)|\s+(?:and|&|\+)\s+", re.I)
_TODAY = re.compile(
    r"[\s(\[–-]*\b(?:(?:must|has to|have to|needs to|should) (?:go|be (?:used|eaten))(?: up)?(?:"
    r" today| first| soon)?"
    r"|use (?:it |them )?(?:up |first|today)+|(?:for )?today|first(?=[)\]\s]*$))\b[)\]]*|!+",
    re.I,
)
_NONE = re.compile(
    r"^(?:there(?:'s| is| are) )?(?:no|without|not any|never any|out of|ran out of)\s+(?:more\s+)?",
    re.I,
)
_END = re.compile(
    r"^(?:the |an? )?(?:last |little"
    r" )?(?:end|rest|heel|remain|scrap|bit|knob|stub|tail|bottom)s? of "
    r"(?:an? |the |some )?",
    re.I,
)
_LEFT = re.compile(r"^(?:some )?(?:left[- ]?over|yesterday's|cold)\s+", re.I)
_SOME = re.compile(r"^(?:some|a few|a little|plenty of|lots of|enough)\s+", re.I)
_ROLE = re.compile(r"^\s*([a-z][a-z -]{1,20}):\s*(.+)$", re.I)


@dataclass(frozen=True, slots=True)
class Held:
    """One food in the house. `grams` is how much there is as it would go into the bowl, None where
    nobody said; `amount` the cook's words for it. `role` is set where the cook put it on one."""

    text: str
    named: str
    food: Food
    amount: str = ""
    grams: float | None = None
    today: bool = False
    role: str | None = None
    batch: Batch | None = None
    """Set for what is left of a dish: as much of its batch as there is."""


@dataclass(frozen=True, slots=True)
class House:
    """All of it. `without` are words for what there is not; `unread` pairs what was not understood
    with what it may have meant, empty where nothing comes near."""

    held: tuple[Held, ...] = ()
    without: tuple[str, ...] = ()
    unread: tuple[tuple[str, str], ...] = ()

    def lacks(self, food: Food) -> bool:
        """Whether the cook said that there is none of a food."""
        said = frozenset(re.findall(r"[a-z]+", f"{food.key} {food.name}".lower()))
        return any(_singular(word) <= said or _plural_in(word, said) for word in self.without)


def _singular(words: str) -> frozenset[str]:
    return frozenset(re.sub(r"(?<=[^s])s$", "", w) for w in re.findall(r"[a-z]+", words.lower()))


def _plural_in(words: str, said: frozenset[str]) -> bool:
    return frozenset(re.findall(r"[a-z]+", words.lower())) <= said


def read_house(
    text: str, reader: Reader, region: Region = Region.US, today: Iterable[str] = ()
) -> House:
    """Reads a list parted by commas, semicolons, lines or "and". A line may begin with a role and a
    colon; `today` are foods, by their key, that must go although the text does not say so.

    Raises RecipeError for a text that is too long.
    """
    if len(text) > MAX_HOUSE_CHARACTERS:
        raise RecipeError(
            f"this is {len(text):,} characters long; what is in the house takes"
            f" {MAX_HOUSE_CHARACTERS:,}"
        )
    pressing = frozenset(today)
    held: dict[tuple[str, str | None], Held] = {}
    without: list[str] = []
    unread: list[tuple[str, str]] = []
    for part, role in _parts(text):
        if _NONE.match(part):
            without.append(_NONE.sub("", part).strip().lower())
            continue
        for one in _read(part, role, reader, region):
            if isinstance(one, Held):
                known = held.get((one.food.key, one.role))
                one = replace(one, today=one.today or one.food.key in pressing)
                held[one.food.key, one.role] = _together(known, one) if known else one
            else:
                unread.append(one)
    if len(held) > MAX_HELD:
        raise RecipeError(
            f"these are {len(held)} foods; at most {MAX_HELD} can be weighed against each other"
        )
    return House(
        tuple(held.values()),
        tuple(dict.fromkeys(w for w in without if w)),
        tuple(dict.fromkeys(unread)),
    )


def _parts(text: str) -> list[tuple[str, str | None]]:
    """The things named, each with the role it was put on."""
    found: list[tuple[str, str | None]] = []
    for line in (
        re.sub(r"half and half", "half-and-half", text, flags=re.I).replace(";", "\n").splitlines()
    ):
        role = None
        if (match := _ROLE.match(line)) is not None:
            role, line = match[1].strip().lower().replace(" ", "-"), match[2]
        for part in (piece.strip(" .\t•*-") for piece in _PARTS.split(line)):
            if found and part and not _TODAY.sub("", part).strip(" ()"):
                found[-1] = (
                    f"{found[-1][0]} {part}",
                    found[-1][1],
                )  # "spinach, for today" is one thing
            elif part:
                found.append((part, role))
    return found


def _read(
    part: str, role: str | None, reader: Reader, region: Region
) -> list[Held | tuple[str, str]]:
    today = _TODAY.search(part) is not None
    plain = _TODAY.sub("", part).strip(" ()-–")
    little = _END.match(plain) is not None
    plain = _SOME.sub("", _END.sub("", plain))
    found: list[Held | tuple[str, str]] = []
    for reading in _readings(plain, reader, region):
        food = reader.pantry.get(reading.line.food)
        if food is None or reading.line.confidence < SURE_ENOUGH or not food.in_pantry:
            found.append((part, food.kitchen_name if food is not None else _nearest(reading)))
            continue
        grams = A_LITTLE_G if little else _grams(reading.line, reader, region)
        amount = reading.line.amount if grams is not None and not little else ""
        found.append(
            Held(part, reading.line.named or food.kitchen_name, food, amount, grams, today, role)
        )
    return found or [(part, "")]


def _readings(plain: str, reader: Reader, region: Region) -> list[LineReading]:
    """What the words mean; "cold" and "leftover" are left away where nothing is called so."""
    said = reader.read_line(plain[:MAX_LINE_CHARACTERS], "", region)
    if all(r.line.confidence >= SURE_ENOUGH for r in said) or not _LEFT.match(plain):
        return said
    return reader.read_line(_LEFT.sub("", plain)[:MAX_LINE_CHARACTERS], "", region)


def _nearest(reading: LineReading) -> str:
    return reading.alternatives[0].name if reading.alternatives else ""


def _grams(line: Line, reader: Reader, region: Region) -> float | None:
    """What an amount comes to in the bowl; None where none was said that can be weighed."""
    if not line.amount or not re.search(
        r"\d|half|quarter|^an?\b|one|two|three|four|five|six", line.amount, re.I
    ):
        return None
    recipe = Recipe("house", (replace(line, id="l1"),), dishes.DEFAULT.id, 1, region=region)
    portion, *_ = portions(recipe, reader.pantry, reader.preparations)
    return portion.in_bowl.value if portion.known and portion.in_bowl.value > 0 else None


def _together(one: Held, other: Held) -> Held:
    """The same food named twice: as much as both say."""
    grams = None if one.grams is None or other.grams is None else one.grams + other.grams
    return replace(
        one,
        text=f"{one.text}, {other.text}",
        amount="",
        grams=grams,
        today=one.today or other.today,
    )
