"""Reads ingredient lines: which food, how much, prepared how, how sure, and what else it could
be."""

from __future__ import annotations

import re
from dataclasses import dataclass, replace

from fresh_ladle.core.amounts.amount import read_amount
from fresh_ladle.core.amounts.clean import plain_line
from fresh_ladle.core.amounts.kept_oil import SURE_OF_KEPT_OIL, kept_oil
from fresh_ladle.core.amounts.line import LineParts, separate_foods, split_line
from fresh_ladle.core.amounts.lists import SHARED, listed_foods
from fresh_ladle.core.amounts.loose import MAX_CONFIDENCE, unmeasured
from fresh_ladle.core.amounts.meant import amount_in_pieces, with_fruit_parts, with_kind_meant
from fresh_ladle.core.amounts.names import MADE_OF, PIECES, Candidate, NameIndex, words
from fresh_ladle.core.amounts.phrasing import rephrased
from fresh_ladle.core.amounts.preparation import PreparationTable
from fresh_ladle.core.amounts.quantity import BadQuantity
from fresh_ladle.core.amounts.units import millilitres
from fresh_ladle.core.amounts.weigh import UnitMisfit, weigh
from fresh_ladle.core.foods.food import Food
from fresh_ladle.core.foods.pantry import Pantry
from fresh_ladle.core.recipes.aside import Aside
from fresh_ladle.core.recipes.recipe import Line
from fresh_ladle.core.recipes.region import Region

MAX_LINE_CHARACTERS = 400
UNDERSTOOD_SCORE = 0.5

_KIND_LEFT_OPEN = tuple(
    {word} for word in ("cheese", "bean", "nut", "fish", "seed", "grain", "noodle", "pickle")
)
_STATE_LEFT_OPEN = tuple({word} for word in ("lemon", "lime", "bacon"))
"""What names no one food, or by itself not which part or state of it: the usual one is taken, never
surely."""
SURE_OF_THE_USUAL_KIND = 0.5
_ANY_FISH = "white-fish-raw"
_SOME_FISH = re.compile(r"(?!shell|craw|cray|cuttle|jelly|star)\w*fish", re.I)
"""An unknown fish is a fish: its allergen and its cautions hold, its figures are to be checked."""

_EGGS = ("egg-whole-raw", "egg-hard-boiled")


@dataclass(frozen=True, slots=True)
class Choice:
    """Another food the line could mean."""

    food: str
    name: str
    score: float


@dataclass(frozen=True, slots=True)
class LineReading:
    """What was understood of one line. `problem` says in words what is missing, when something
    is."""

    line: Line
    alternatives: tuple[Choice, ...] = ()
    problem: str | None = None

    @property
    def understood(self) -> bool:
        return self.line.food is not None and self.problem is None


@dataclass(frozen=True, slots=True)
class _FoodReading:
    food: Food
    confidence: float
    alternatives: tuple[Choice, ...]


class Reader:
    """Reads lines against a pantry. Build once and keep: the name indexes take a moment to make."""

    def __init__(self, pantry: Pantry, preparations: PreparationTable) -> None:
        self.pantry = pantry
        self.preparations = preparations
        self._stocked = NameIndex(pantry.stocked)
        self._table: NameIndex | None = None
        # Whole phrases that say what was done: "finely chopped" is one, "salted" alone is not.
        self._done = {frozenset(words(phrase)) for phrase in preparations.phrases}

    def read_line(
        self, text: str, component: str = "", region: Region = Region.US
    ) -> list[LineReading]:
        """One reading for each food the line names; usually one. Ids are left empty for the caller
        to give."""
        plain = plain_line(text)
        if not plain:
            return []
        if len(plain) > MAX_LINE_CHARACTERS:
            problem = (
                f"this line has {len(plain)} characters; an ingredient line has at most"
                f" {MAX_LINE_CHARACTERS}"
            )
            return [
                LineReading(
                    Line("", plain[:80] + " …", "", None, component, confidence=0.0),
                    problem=problem,
                )
            ]
        if (named := self._read_full_name(plain, component, region)) is not None:
            return [named]
        said = rephrased(plain)
        parts = separate_foods(said)
        if parts == [said]:
            parts = listed_foods(said, self._group_of, self.knows) or parts
        if parts == [said]:
            return [self._read_one(said, plain, component, region)]
        return [self._read_one(plain_line(one), one, component, region) for one in parts]

    def _group_of(self, phrase: str) -> str | None:
        """The group of the food that a phrase names and nothing else, what was done to it left
        aside."""
        if (food := self._stocked.of_words(phrase)) is not None:
            return food.group
        if not set(words(phrase)) - self.preparations.words - PIECES:
            return None
        found = self._stocked.candidates(phrase, (), self.preparations.words)
        likely = [
            c
            for c in found[:3]
            if c.explained == 1.0 and c.score >= LIKELY_SCORE and not c.respelled
        ]
        if not likely or likely[0] is not found[0]:
            return None
        # "Olives" are of one group, whichever are meant; "red" is of many.
        one_group = len({c.food.group for c in likely}) == 1
        return likely[0].food.group if likely[0].score >= NAMED_SCORE or one_group else None

    def _read_full_name(self, plain: str, component: str, region: Region) -> LineReading | None:
        """The line when a food is named as the stores name it: "2 Tbsp vinegar, red wine"."""
        try:
            amount, rest = read_amount(plain)
        except BadQuantity:
            return None
        food = self._stocked.of_full_name(rest)
        if food is None:
            return None
        others = tuple(
            Choice(f.key, f.name, 0.3) for f in self.pantry.relatives(food) if f is not food
        )
        name, *kinds = (piece.strip() for piece in rest.split(","))
        parts = LineParts(amount, name, tuple(kinds))
        return self._weighed(parts, _FoodReading(food, 0.98, others[:6]), plain, component, region)

    def read_as(
        self, text: str, food_key: str, component: str = "", region: Region = Region.US
    ) -> LineReading:
        """The line read with its food chosen by a person; only the amount and preparation are still
        read.

        Raises UnknownFood when no food has this key.
        """
        food = self.pantry[food_key]
        plain = plain_line(text)[:MAX_LINE_CHARACTERS]
        try:
            parts = split_line(rephrased(plain))
        except BadQuantity as error:
            return LineReading(
                Line("", plain, "", food.key, component, confidence=0.0), problem=str(error)
            )
        parts = with_fruit_parts(parts)
        if parts.amount.part and not food.measure(f"{parts.amount.part}-of-one"):
            parts = replace(parts, amount=replace(parts.amount, part=None))
        return self._weighed(parts, _FoodReading(food, 1.0, ()), plain, component, region)

    def knows(self, phrase: str) -> bool:
        """Whether a phrase is just the name of a food."""
        return self._stocked.of_words(phrase) is not None

    def find(self, phrase: str, limit: int = 12) -> list[Candidate]:
        """Foods a typed phrase may mean, pantry foods first, for a search box."""
        found = self._stocked.candidates(phrase)[:limit]
        if len(found) < limit:
            found += [c for c in self._table_index().candidates(phrase) if c.score > 0.2][
                : limit - len(found)
            ]
        return found

    def _table_index(self) -> NameIndex:
        if self._table is None:
            self._table = NameIndex(food for food in self.pantry if not food.in_pantry)
        return self._table

    def _read_one(self, one: str, text: str, component: str, region: Region) -> LineReading:
        try:
            parts = split_line(one)
        except BadQuantity as error:
            return LineReading(
                Line("", text, "", None, component, confidence=0.0), problem=str(error)
            )
        if not words(parts.food):
            problem = "no food was found on this line: name one, or remove the line"
            return LineReading(
                Line("", text, parts.amount.text, None, component, confidence=0.0), problem=problem
            )
        parts = with_kind_meant(with_fruit_parts(parts))
        reading = self._read_food(parts)
        if (reading is None or reading.confidence < LEAST_SURE) and (
            head := self._kind_of_a_known(parts.food)
        ):
            reading = _FoodReading(head, SURE_OF_A_HEAD, reading.alternatives if reading else ())
        if reading is None or reading.confidence < LEAST_SURE:
            near = reading.alternatives if reading else ()
            if reading:
                near = (Choice(reading.food.key, reading.food.name, 0.0), *near)
            problem = (
                f"no food is known by the name {parts.food!r}: choose one, or say it another way"
            )
            line = Line(
                "",
                text,
                parts.amount.text,
                None,
                component,
                remarks=parts.remarks,
                asides=parts.asides,
                confidence=0.0,
            )
            return LineReading(line, near[:5], problem)
        return self._weighed(parts, reading, text, component, region)

    def _weighed(
        self, parts: LineParts, reading: _FoodReading, text: str, component: str, region: Region
    ) -> LineReading:
        food = reading.food
        remarks = (parts.food, *parts.remarks)
        preparations = self.preparations.named_in(remarks, food)
        if (
            food.form == "dry"
            and not {"boil", "sprout"} & set(preparations)
            and food.group in ("legume", "grain-pasta")
        ):
            preparations.append("boil")
        line = Line(
            id="",
            text=text,
            amount=amount_in_pieces(parts, food),
            food=food.key,
            component=component,
            preparations=tuple(preparations),
            remarks=parts.remarks,
            asides=parts.asides,
            variation=parts.variation,
            confidence=round(reading.confidence, 3),
            named=self._stocked.respelled(_cooks_name(parts, food), food),
        )
        if not parts.amount.given:
            if parts.asides & {Aside.TO_TASTE, Aside.GARNISH, Aside.TO_THIN} or food.group in (
                "salt-salty",
                "spice",
            ):
                line = replace(line, asides=line.asides or line.asides | {Aside.TO_TASTE})
            elif unmeasured(food, text, line.asides) is None:
                return LineReading(
                    line,
                    reading.alternatives,
                    f"how much {food.name.lower()}? Give an amount, or write “to taste”",
                )
            guessed = replace(line, confidence=min(line.confidence, MAX_CONFIDENCE))
            return LineReading(guessed, reading.alternatives)
        try:
            weighing = weigh(read_amount(line.amount)[0], food, remarks, region)
        except UnitMisfit as error:
            if (other := self._measured_so(parts, food)) is not None:
                guess = _FoodReading(
                    other, min(reading.confidence, MAX_CONFIDENCE), reading.alternatives
                )
                return self._weighed(parts, guess, text, component, region)
            return LineReading(
                replace(line, confidence=min(line.confidence, 0.3)),
                reading.alternatives,
                str(error),
            )
        guessed_at = weighing.guess or any(SHARED in remark for remark in parts.remarks)
        confidence = min(
            MAX_CONFIDENCE if guessed_at else 0.99, reading.confidence * weighing.confidence
        )
        return LineReading(replace(line, confidence=round(confidence, 3)), reading.alternatives)

    def _measured_so(self, parts: LineParts, food: Food) -> Food | None:
        """Another form of the food that the amount goes with: one squash is a raw one, not a
        mash."""
        for other in self.pantry.relatives(food):
            try:
                weigh(parts.amount, other, parts.remarks)
            except UnitMisfit:
                continue
            return other if other is not food else None
        return None

    def _read_food(self, parts: LineParts) -> _FoodReading | None:
        if (oil := kept_oil(", ".join((parts.food, *parts.remarks)))) is not None:
            kept = self._stocked.candidates(oil)[0].food
            return _FoodReading(
                kept, SURE_OF_KEPT_OIL, tuple(Choice(f.key, f.name, 0.4) for f in self._oils(kept))
            )
        phrase, found = self._found(parts)
        if not found:
            return None
        kinds = [c for c in found if self._stocked.is_kind_of(c.food, phrase)]
        if not kinds:
            return _FoodReading(
                found[0].food, 0.0, tuple(Choice(c.food.key, c.food.name, 0.0) for c in found[1:6])
            )
        found = kinds
        best = self._weighable(found, parts)
        if (after := self._named_after_a_comma(parts)) is not None:
            best = next((c for c in found if c.food is after), Candidate(after, 1.0, 1.0, False))
        if after is not None and after.form not in ("dry", "cooked"):
            food, sure = after, 1.0
        else:
            food, sure = self._form_meant(
                best.food, phrase if after is None else after.kitchen_name, parts
            )
        if "unsalted" in words(" ".join(parts.remarks)):
            food = _unsalted(food, self.pantry.relatives(food)) or food
        rival = next(
            (
                c
                for c in found
                if c is not best and (c.food.family != best.food.family or not c.food.family)
            ),
            None,
        )
        twin = next(
            (
                c
                for c in found[:4]
                if c is not best and best.score - c.score < 0.06 and _tells(best.food, c.food)
            ),
            None,
        )
        confidence = _confidence(best, rival, twin) * sure
        named = set(words(phrase)) - self.preparations.words - {"canned"}
        state_open = named in _STATE_LEFT_OPEN and not parts.remarks and not parts.amount.part
        if named in _KIND_LEFT_OPEN or state_open or food.key == _ANY_FISH:
            confidence = min(confidence, SURE_OF_THE_USUAL_KIND)
        others = [c.food for c in found[1:6]] + self.pantry.relatives(food)
        scores = {c.food.key: c.score for c in found}
        unique = {
            f.key: Choice(f.key, f.name, round(max(0.0, scores.get(f.key, 0.3)), 3))
            for f in others
            if f.key != food.key
        }
        return _FoodReading(food, confidence, tuple(unique.values())[:6])

    def _kind_of_a_known(self, phrase: str) -> Food | None:
        """The food that the end of a phrase names, where nothing explains its beginning: kipfler
        potatoes are potatoes, of a kind that is in no store."""
        said = phrase.split()
        if said and _SOME_FISH.fullmatch(said[-1]):
            return self.pantry[_ANY_FISH]
        ends = (" ".join(said[-count:]) for count in (3, 2, 1) if count < len(said))
        head = next(
            (food for end in ends if (food := self._stocked.of_words(end)) is not None), None
        )
        return (
            head if head is not None and not set(words(said[-1])) & (TOO_LOOSE | MADE_OF) else None
        )

    def _found(self, parts: LineParts) -> tuple[str, list[Candidate]]:
        """The phrase that names the food, and the foods that it may mean, the likeliest first."""
        container = "canned" if parts.amount.unit in ("can", "jar") else ""
        context = [container, parts.amount.unit or "", *parts.remarks]
        phrase = parts.food
        found = self._stocked.candidates(phrase, context, self.preparations.words)
        if (
            (not found or found[0].score < 0.6)
            and parts.remarks
            and not _names_known(phrase, found)
        ):
            # "large, ripe avocados": the food comes after the comma.
            longer = f"{phrase} {parts.remarks[0]}"
            other = self._stocked.candidates(longer, context, self.preparations.words)
            if other and (not found or other[0].score > found[0].score):
                phrase, found = longer, other
        if not found or found[0].score < UNDERSTOOD_SCORE:
            table = self._table_index().candidates(phrase, context, self.preparations.words)
            found = sorted([*found[:8], *table[:8]], key=lambda c: -c.score)
        return phrase, found

    def _oils(self, kept: Food) -> list[Food]:
        """The oils it could have been as well."""
        usual = ("olive-oil-refined", "sunflower-oil", "vegetable-oil", "garlic-oil", "chilli-oil")
        return [self.pantry[key] for key in usual if key in self.pantry and key != kept.key]

    def _named_after_a_comma(self, parts: LineParts) -> Food | None:
        """The food whose name goes on after the comma: "vinegar, red wine", "salmon, raw".

        What was done to it after it was measured is no part of its name: "carrots, cooked" were
        measured raw."""
        for count in range(len(parts.remarks), 0, -1):
            said = parts.remarks[:count]
            orders = " ".join((*reversed(said), parts.food)), " ".join((parts.food, *said))
            food = next(
                (f for order in orders if (f := self._stocked.of_words(order)) is not None), None
            )
            if food is not None and not all(
                frozenset(words(phrase)) in self._done for phrase in said
            ):
                return food
        return None

    @staticmethod
    def _weighable(found: list[Candidate], parts: LineParts) -> Candidate:
        """The best candidate; among near equals the one the amount goes with ("3 peppers" are not
        ground pepper)."""
        if not parts.amount.given:
            return found[0]
        if (sold := _sold_in(found, parts.amount.unit)) is not None:
            return sold
        for candidate in found[:4]:
            if candidate.score < found[0].score - 0.08:
                break
            try:
                weigh(parts.amount, candidate.food, (parts.food, *parts.remarks))
            except UnitMisfit:
                continue
            return candidate
        return found[0]

    def _form_meant(self, food: Food, phrase: str, parts: LineParts) -> tuple[Food, float]:
        """The form of the food the line speaks of (dry, cooked, canned, rinsed), and how sure that
        is."""
        relatives = {f.form: f for f in reversed(self.pantry.relatives(food))}
        named, remarks = set(words(phrase)), set(words(" ".join(parts.remarks)))
        if food.key in _EGGS and (named | remarks) & {"hardboiled", "cooked"}:
            return (
                self.pantry[
                    _EGGS[_is_set_egg(named | remarks, " ".join((phrase, *parts.remarks)))]
                ],
                1.0,
            )
        if len(relatives) == 1:
            return food, 1.0
        either = named | remarks
        if "rinsed" in relatives and "rinsed" in either:
            return relatives["rinsed"], 1.0
        if (
            parts.amount.unit == "can"
            and (canned := _canned_or_frozen(relatives, food, either, True)) is not None
        ):
            return canned
        if food.group in ("legume", "grain-pasta"):
            measured_cooked = bool(millilitres(parts.amount.unit or "")) and parts.remarks == (
                "cooked",
            )
            return _legume_or_grain(
                relatives, food, named, remarks, parts.amount.unit == "can", measured_cooked
            )
        if food.form in ("cooked", "roasted"):
            return food, 1.0
        # "cooked broccoli" is weighed cooked; "broccoli, cooked" may have been weighed raw and
        # stays raw.
        said = named - set(words(food.name))
        return (
            next(
                (relatives[f] for f in ("cooked", "roasted") if f in said and f in relatives), food
            ),
            1.0,
        )


LEAST_SURE, SURE_OF_A_HEAD = 0.3, 0.45
TOO_LOOSE = frozenset(
    """
    juice oil vinegar sauce seed nut salt sugar milk cream cheese butter stock mustard paste syrup
    water mix spice herb dressing seasoning leaf green fry
    """.split()
)
"""Nouns of too many foods to tell one by: another juice is not the usual juice."""
NAMED_SCORE, LIKELY_SCORE = 0.93, 0.75
"""From the first on a phrase that a food explains whole is its name, in other words than its own;
from the other on it may be."""


def _sold_in(found: list[Candidate], unit: str | None) -> Candidate | None:
    """For a can: the first near candidate that is sold in one, when the best is not. Green chiles
    in a can are not fresh ones."""
    if unit != "can" or any(p.pack in ("can", "tin") for p in found[0].food.packs):
        return None
    near = (c for c in found[:6] if c.score > found[0].score - 0.25)
    return next((c for c in near if any(p.pack in ("can", "tin") for p in c.food.packs)), None)


def _unsalted(food: Food, relatives: list[Food]) -> Food | None:
    """The form without salt of a food that has some, such as peanut butter; canned legumes have a
    rule of their own."""
    if not food.traits.added_salt or food.group in ("legume", "salt-salty"):
        return None
    same = [f for f in relatives if not f.traits.added_salt and f.group == food.group]
    return next((f for f in same if "unsalted" in words(f.name)), None)


def _legume_or_grain(
    relatives: dict[str, Food],
    food: Food,
    named: set[str],
    remarks: set[str],
    by_the_can: bool,
    measured_cooked: bool,
) -> tuple[Food, float]:
    """Which form of a legume or grain the words mean: sprouted, canned, frozen, dry or cooked, and
    how sure that is."""
    if named & {"sprout", "sprouted"}:
        sprouts = next((f for f in relatives.values() if f.key.startswith("sprouts")), food)
        return (food if food.key.startswith("sprouts") else sprouts), 1.0
    if food.form == "cooked" and "cooked" in named:
        return food, 1.0
    either = named | remarks
    if (meant := _canned_or_frozen(relatives, food, either, by_the_can)) is not None:
        return meant
    if either & {"dried", "uncooked", "raw"} and "dry" in relatives:
        return relatives["dry"], 1.0
    if "cooked" in relatives and "dry" in relatives:
        return _dry_or_cooked(relatives, food, named, remarks, measured_cooked)
    return food, 1.0


def _canned_or_frozen(
    relatives: dict[str, Food], food: Food, either: set[str], by_the_can: bool
) -> tuple[Food, float] | None:
    """The canned or frozen form that the words mean, and how sure that is; None when they speak of
    neither."""
    canned = by_the_can or "canned" in either
    if "canned-drained" in relatives and (canned or (_drained(either) and "cooked" not in either)):
        sure = 1.0 if canned else 0.85
        if "unsalted" in either:
            return relatives.get("canned-no-salt", food), sure
        return relatives["canned-rinsed" if "rinsed" in either else "canned-drained"], sure
    if "frozen" in either and "frozen" in relatives:
        cooked = next((f for f in relatives.values() if f.key.endswith("frozen-cooked")), None)
        return (cooked if cooked and "cooked" in either else relatives["frozen"]), 1.0
    return None


def _dry_or_cooked(
    relatives: dict[str, Food],
    food: Food,
    named: set[str],
    remarks: set[str],
    measured_cooked: bool,
) -> tuple[Food, float]:
    """Whether a legume or grain was measured dry or cooked, and how sure that is.

    What stands before the food was done before it was measured ("1½ cups cooked rice"). What is
    said after it is open: a cup of "rice, cooked" is mostly one of cooked rice (`measured_cooked`);
    a weight, or what is said at length ("1 cup freekeh, simmered in stock"), is mostly that of the
    dry."""
    if "cooked" in named or ("soaked" in named and food.group == "grain-pasta"):
        return relatives["cooked"], 1.0
    if food.form == "raw" and "fresh" in named:
        return food, 1.0
    if measured_cooked:
        return relatives["cooked"], SURE_OF_STATE
    if remarks & _COOKED_AFTER:
        return relatives["dry"], SURE_OF_STATE
    if food.group == "grain-pasta" or food.family.startswith(_SOLD_DRY) or named & {"dal", "daal"}:
        return relatives["dry"], 0.75
    return relatives["cooked"], 0.6


SURE_OF_STATE = 0.6
"""How sure it is whether what is cooked in the end was cooked when it was measured."""
_SOLD_DRY = ("lentils", "split-peas", "chana-dal", "urad")
"""Families of legumes that a bare name means dry."""
_COOKED_AFTER = frozenset({"cooked", "simmered", "soaked", "sprouted"})
"""As `words` gives them: boiled and steamed are cooked there."""


def _drained(remarks: set[str]) -> bool:
    return "rinsed" in remarks or "drained" in remarks


def _names_known(phrase: str, found: list[Candidate]) -> bool:
    return bool(found) and found[0].explained == 1.0 and len(words(phrase)) > 0


def _cooks_name(parts: LineParts, food: Food) -> str:
    """The cook's own name for the food, unless it was taken from somewhere else on the line."""
    return parts.food if set(words(parts.food)) and len(parts.food) <= 40 else food.kitchen_name


def _tells(one: Food, other: Food) -> bool:
    """Whether taking one food for the other would change a headline figure by more than a third."""
    pairs = [
        (one.per_100_g[n] or 0.0, other.per_100_g[n] or 0.0, least)
        for n, least in (("sodium_mg", 80.0), ("fat_g", 3.0), ("sugars_g", 5.0))
    ]
    return any(abs(a - b) > max(least, 0.33 * max(a, b)) for a, b, least in pairs)


def _confidence(best: Candidate, rival: Candidate | None, twin: Candidate | None) -> float:
    score = best.score
    sure = 0.98 if score >= 1.0 else max(0.05, 0.98 - 1.15 * (1.0 - score))
    sure *= best.explained
    if best.respelled:
        sure *= 0.9
    if (
        rival is not None
        and best.score - rival.score < 0.04
        and best.food.group != rival.food.group
    ):
        sure *= 0.88
    if twin is not None:
        sure *= 0.9
    return max(0.0, min(0.98, sure))


def _is_set_egg(said: set[str], text: str) -> bool:
    """Whether the line says the egg is cooked through; a yolk that may run stays raw, where the
    caution asks."""
    return (
        "hardboiled" in said or re.search(r"soft|light|runny|jammy|poach|min", text, re.I) is None
    )
