"""Follows a method from sentence to sentence through a kitchen: what goes where, what is made of
it, what leaves.

Every clause is work, a condition, advice or a note; work takes what its phrases name, or what
stands at hand where they name nothing. What a clause is done to waits for what was done to it
before: that is the order of the work."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

from fresh_ladle.core.foods.food import Food
from fresh_ladle.core.method.clauses import Clause, Sort, clauses_of
from fresh_ladle.core.method.kitchen import Kitchen, among
from fresh_ladle.core.method.lexicon import Lexicon, VerbClass
from fresh_ladle.core.method.meaning import Meaning, Named
from fresh_ladle.core.method.names import Names, names_of
from fresh_ladle.core.method.parting import BOILING, LONG, LONG_MINUTES, OVEN, PUT_BY, Parting
from fresh_ladle.core.method.process import Fate, Operation, Outcome, Process, Said
from fresh_ladle.core.method.separating import ShareTable
from fresh_ladle.core.method.slots import Slots, slots_of
from fresh_ladle.core.method.states import HEATED_THROUGH
from fresh_ladle.core.method.stretch import DAY, celsius_in, minutes_in
from fresh_ladle.core.method.stuff import NONE, WHOLE, Stuff, product, total
from fresh_ladle.core.method.tokens import sentences_of
from fresh_ladle.core.method.work import Work
from fresh_ladle.core.ranges import Range
from fresh_ladle.core.recipes.recipe import Line
from fresh_ladle.core.recipes.ruling import ReadAs, Ruling

UNREAD = ""
"""The verb of a step that was not understood."""
OVEN_CELSIUS = 120.0
"""From this heat on toasting is done in the oven."""
_WETTING = frozenset({"cover", "pour over"})
SAFE_CELSIUS = 71.0
"""The heat at which egg and ground meat are safe (US Food Code 3-401.11: 68 °C for 17 s; at home 71
°C, 160 °F)."""
RUNNY_MINUTES = 8.0
"""An egg boiled for less has a yolk that runs (kitchen estimate)."""
_HOT_PAN = frozenset(
    {"sauté", "sear", "sweat", "caramelize", "char", "toast in a pan", "bloom spices"}
)
_RARE = re.compile(
    r"\b(?:rare|tataki|(?:red|pink|raw) (?:inside|in the middle|in the center))\b", re.I
)
_THE_PAN = re.compile(r"\bthe (?:same |hot |warm |dry )*(?:pan|skillet|pot)\b", re.I)
_NO_WORK = {ReadAs.ADVICE: Sort.ADVICE, ReadAs.NO_WORK: Sort.NOTE}
_MADE_AS = re.compile(
    r"\b(?:to|into|for|as) (?:a|an|the)(?: [a-z-]+){0,2}?"
    r" (dressing|sauce|vinaigrette|marinade|paste|base|topping)\b",
    re.I,
)
"""What a mix is called from here on."""
_NOT_USED = re.compile(r"\bnot (?:used|needed|eaten)\b", re.I)


@dataclass(frozen=True, slots=True)
class Ground:
    """What a method is read with: the verbs, what parts from what, and how much of a line an amount
    of it is."""

    lexicon: Lexicon
    shares: ShareTable
    unknown: Food | None
    """The food as which one that is not known behaves: solid, and of no special kind."""
    share_of_line: Callable[[Line, str], Range | None]
    """The share of a line that an amount of it is ("2 tbsp"); None where that is not known."""


def read_process(
    lines: Sequence[Line],
    foods: Mapping[str, Food | None],
    method: Sequence[str],
    ground: Ground,
    grams: Mapping[str, float],
    former: Mapping[str, str] | None = None,
    rulings: Sequence[Ruling] = (),
) -> Process:
    """The process of a method on its lines. `foods` and `grams` (as measured) are by line id;
    `former` are the names lines had before, by id; `rulings` what a person says of steps, which
    holds whatever their words are."""
    before = former or {}
    names = Names([names_of(line, foods.get(line.id), before.get(line.id, "")) for line in lines])
    solid = {line.id: foods.get(line.id) or ground.unknown for line in lines}
    return _Reader(
        Kitchen(lines, solid, grams), names, ground, " ".join(method).lower(), rulings
    ).read(method)


class _Reader:
    """Reads one method."""

    def __init__(
        self, kitchen: Kitchen, names: Names, ground: Ground, text: str, rulings: Sequence[Ruling]
    ) -> None:
        self.rulings = rulings
        self.kitchen, self.names, self.lexicon = kitchen, names, ground.lexicon
        self.meaning = Meaning(kitchen, names, ground.share_of_line)
        self.parting = Parting(kitchen, ground.shares)
        self.work = Work(kitchen, self.meaning, self.parting, ground.share_of_line, text)
        self.operations: list[Operation] = []
        self.said: list[Said] = []
        self.oven: int | None = None
        self.hot_water: int | None = None
        self.pan: int | None = None
        self.pan_is_empty = False

    def read(self, method: Sequence[str]) -> Process:
        sentences = [
            (step, clauses_of(sentence, self.lexicon, self.names.foods))
            for step, text in enumerate(method)
            for sentence in sentences_of(text)
        ]
        for place, (step, found) in enumerate(sentences):
            self.work.sentence += 1
            self.meaning.following = [clause for _, later in sentences[place:] for clause in later]
            for number, clause in enumerate(found):
                self._clause(clause, found[number + 1 :], step)
        self.parting.close()
        outcomes = {line: self._outcome(line) for line in self.kitchen.lines}
        return Process(tuple(self.said), tuple(self.operations), outcomes, self._unused())

    # -- one clause

    def _clause(self, clause: Clause, following: Sequence[Clause], step: int) -> None:
        self.kitchen.words = clause.text
        nth = sum(said.text == clause.text for said in self.said)
        ruling = next((r for r in self.rulings if r.is_of(clause.text, nth)), None)
        if ruling is not None:
            self._ruled(ruling, clause, step)
            return
        if clause.sort is not Sort.WORK:
            self._beside(clause, step)
            return
        slots = slots_of(clause.before, clause.words, clause.head)
        verb = self.lexicon.verb(
            clause.head, clause.text, self.meaning.kinds(clause, slots, following)
        )
        if self._is_keeping(verb, clause, slots):
            if not (slots.whose and _puts_away(slots)):
                self.said.append(Said(clause.text, Sort.ADVICE, step))
                return
            verb = "reserve"
        if verb == "toast in a pan" and (celsius_in(clause.text) or 0) >= OVEN_CELSIUS:
            verb = "toast in the oven"
        kind = self.lexicon.classes[verb]
        self.meaning.taking_out = verb in ("discard", "lift out")
        named = self.meaning.of_order(slots, clause, following)
        if verb == "reserve" and named.unknown and not named.things:
            self.said.append(Said(clause.text, Sort.NOTE, step))
            return
        made = self.work.do(verb, kind, clause, slots, named)
        self._done(verb, kind, clause, step, made, named)

    def _done(
        self, verb: str, kind: VerbClass, clause: Clause, step: int, made: list[Stuff], named: Named
    ) -> None:  # fmt: skip
        """Writes down that an order was done, and leaves its marks."""
        if verb in PUT_BY and (put := [t for t in named.things if not t.is_empty]):
            made = put
        after = self._after(verb, clause, made, named)
        self._mark(self._operation(verb, kind, clause, step, made, named, after), made, named)

    def _ruled(self, ruling: Ruling, clause: Clause, step: int) -> None:
        """A step that a person has set right: on the lines they name, or on what stands at hand."""
        if ruling.read_as in _NO_WORK:
            self.said.append(Said(clause.text, _NO_WORK[ruling.read_as], step))
            return
        slots = (
            slots_of(clause.before, clause.words, clause.head)
            if clause.sort is Sort.WORK
            else Slots()
        )
        verb = (
            self.lexicon.verb(clause.head, clause.text, self.meaning.kinds(clause, slots, ()))
            if clause.head
            else ""
        )
        kind = self.lexicon.classes.get(verb, VerbClass.PREPARE)
        if ruling.read_as is ReadAs.WAIT and kind not in (VerbClass.WAIT, VerbClass.COOL):
            verb, kind = "rest", VerbClass.WAIT
        named = self._named_by(ruling) if ruling.lines else self.meaning.of_order(slots, clause, ())
        if verb == UNREAD:
            made = self.kitchen.keep_at_hand(named.things or self.kitchen.at_hand())
        else:
            made = self.work.do(verb, kind, clause, Slots() if ruling.lines else slots, named)
        self._done(verb, kind, clause, step, made, named)

    def _named_by(self, ruling: Ruling) -> Named:
        named = Named()
        for line in ruling.lines:
            thing = self.kitchen.holder(line)
            if thing is not None:
                named.lines.append(line)
                if not among(thing, named.things):
                    named.things.append(thing)
        return named

    def _beside(self, clause: Clause, step: int) -> None:
        """What is no order: said, and where it was not understood a step in its place."""
        number = None
        if clause.sort is Sort.NOTE and _NOT_USED.search(clause.text):
            for thing in [t for t in self.kitchen.open if t.liquor]:
                self.kitchen.gone(thing, Fate.POURED_OFF)
        if clause.sort is Sort.UNREAD:
            before = {len(self.operations) - 1} - {-1}
            unread = Named(unknown=True)
            number = self._operation(
                UNREAD, VerbClass.WAIT, clause, step, [], unread, before, said=False
            ).id
        self.said.append(Said(clause.text, clause.sort, step, number))

    @staticmethod
    def _is_keeping(verb: str, clause: Clause, slots: Slots) -> bool:
        """Whether an order says how long something keeps, and not what is done now."""
        if verb == "keep cold":
            return True
        if clause.head not in ("keep", "store", "freeze", "refrigerate"):
            return False
        minutes = minutes_in(clause.text)
        if clause.head == "freeze" and slots.whose and _puts_away(slots):
            return True
        long = minutes is not None and minutes.high >= DAY and "up to" in clause.text
        return long or (clause.head in ("keep", "store") and not slots.whose)

    def _operation(
        self, verb: str, kind: VerbClass, clause: Clause, step: int, made: Sequence[Stuff],
        named: Named,
        after: set[int], said: bool = True,
    ) -> Operation:  # fmt: skip
        shares: dict[str, Range] = {}
        for thing in made:
            for line, share in thing.parts.items():
                shares[line] = total(shares.get(line, NONE), share)
        operation = Operation(
            len(self.operations),
            clause.text,
            verb,
            kind,
            step,
            shares,
            tuple(dict.fromkeys((*named.lines, *named.along))),
            tuple(sorted(after)),
            minutes_in(clause.text),
            celsius_in(clause.text),
            clause.sign,
            not named.unknown,
        )
        self.operations.append(operation)
        if said:
            self.said.append(Said(clause.text, Sort.WORK, step, operation.id))
        return operation

    def _mark(self, operation: Operation, made: list[Stuff], named: Named) -> None:
        """Leaves on things, lines, oven and pan that an operation was done."""
        kitchen, verb = self.kitchen, operation.verb
        for thing in (*made, *kitchen.poured_now):
            thing.waits = {operation.id}
        for thing in kitchen.at_hand() if verb in PUT_BY else ():
            thing.waits.add(operation.id)
        kitchen.poured_now = []
        kitchen.handled(made)
        for thing in made:
            thing.treated.append(verb)
            if operation.minutes is not None and operation.minutes.low >= LONG_MINUTES:
                thing.treated.append(LONG)
            if operation.kind is VerbClass.MERGE and (made_as := _MADE_AS.search(operation.text)):
                thing.called |= {made_as[1].lower()}
            self._note(operation, thing, named)
        if verb == "preheat":
            self.oven = operation.id
        elif verb in ("bring to a boil", "heat water") and not made:
            self.hot_water = operation.id
        elif verb in _HOT_PAN or verb in ("heat pan", "melt"):
            self.pan, self.pan_is_empty = operation.id, verb == "heat pan" and not made
        elif verb in ("lift out", "drain") and self.pan in operation.after:
            self.pan = operation.id

    def _note(self, operation: Operation, thing: Stuff, named: Named) -> None:
        """Leaves on the lines of a thing what was done to them: to those that are named, or to all
        that is solid."""
        kitchen = self.kitchen
        hot = (operation.celsius or 0.0) >= SAFE_CELSIUS and operation.kind is not VerbClass.COOL
        boils = self._goes_on_boiling(operation)
        for line in thing.parts:
            if not thing.mixed or line in named.lines or not (named.lines or kitchen.what(line)):
                kitchen.note(line, self._as_done(operation))
                if boils:
                    kitchen.note(line, "boil")
            if hot:
                kitchen.note(line, HEATED_THROUGH)

    def _goes_on_boiling(self, operation: Operation) -> bool:
        """Whether what is put in boils along: "put the eggs in for the last nine", into what boils
        just now. What is stirred into food that was boiled before is not cooked by that."""
        timed = operation.minutes is not None or "for the last" in operation.text.lower()
        into_a_boil = any(self.operations[before].verb in BOILING for before in operation.after)
        return operation.kind is VerbClass.MERGE and timed and into_a_boil

    @staticmethod
    def _as_done(operation: Operation) -> str:
        """What an operation was to what is in it: an egg boiled for six minutes is not boiled hard,
        fish that stays rare is not cooked through."""
        runny = operation.minutes is not None and operation.minutes.value < RUNNY_MINUTES
        if operation.kind is VerbClass.HEAT and _RARE.search(operation.text):
            return "sear"
        return "soft-boil" if operation.verb == "hard-boil" and runny else operation.verb

    def _after(self, verb: str, clause: Clause, made: Sequence[Stuff], named: Named) -> set[int]:
        """The operations that an order waits for: those that made what it is done to, and a hot
        oven or pan."""
        found = {wait for thing in made for wait in thing.waits}
        if verb in OVEN and self.oven is not None:
            found.add(self.oven)
        if self.pan is not None and (
            _THE_PAN.search(clause.text) or (verb in _HOT_PAN and self.pan_is_empty)
        ):
            found.add(self.pan)
            self.pan_is_empty = False
        last = len(self.operations) - 1
        if last >= 0 and self.hot_water == last:
            found.add(last)
        if last >= 0 and not made and (named.unknown or verb in ("off the heat", "heat control")):
            found.add(last)
        return found

    # -- what came of it

    def _unused(self) -> tuple[int, ...]:
        used = {before for operation in self.operations for before in operation.after}
        return tuple(
            o.id for o in self.operations[:-1] if o.id not in used and o.kind is VerbClass.MERGE
        )

    def _outcome(self, line: str) -> Outcome:
        kitchen = self.kitchen
        fates = dict(kitchen.fates.get(line, {}))
        eaten = WHOLE
        if fates:
            shares = [t.parts[line] for t in kitchen.open if line in t.parts]
            value, low, high = (
                min(1.0, sum(getattr(s, end) for s in shares)) for end in ("value", "low", "high")
            )
            eaten = Range(value, low, high)
        because = dict(kitchen.because.get(line, {}))
        weight = product(eaten, kitchen.steam[line]) if line in kitchen.steam else eaten
        if (drunk := self._taken_up_in(line)) is not None:
            fates[Fate.TAKEN_UP], because[Fate.TAKEN_UP] = eaten, drunk.text
            weight = NONE
        return Outcome(
            eaten, weight, fates, because, tuple(dict.fromkeys(kitchen.done.get(line, ())))
        )

    def _taken_up_in(self, line: str) -> Operation | None:
        """Where a liquid is drunk by dry grain or legumes that stand or cook in it, so that its
        weight is in theirs; None where it is not."""
        if self.kitchen.what(line) != "liquid":
            return None
        bowls = [t for t in self.kitchen.open if line in t.parts]
        dry = {
            other for thing in bowls for other in thing.parts if self.kitchen.drinks_itself(other)
        }
        wet = (
            o
            for o in self.operations
            if o.kind in (VerbClass.HEAT, VerbClass.WAIT) or o.verb in _WETTING
        )
        return next((o for o in wet if line in o.lines and dry & o.lines.keys()), None)


def _puts_away(slots: Slots) -> bool:
    """Whether an order speaks of a part of something: "keep the rest in the refrigerator"."""
    item = slots.whose[0]
    return item.rest or item.share is not None or bool(item.amount)
