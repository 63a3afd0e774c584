"""What an order does in a kitchen: to what it names, with what comes along, in the bowl it goes
to."""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence

from fresh_ladle.core.method.clauses import Clause
from fresh_ladle.core.method.kitchen import Kitchen, among
from fresh_ladle.core.method.lexicon import VerbClass
from fresh_ladle.core.method.meaning import ON_TOP, Meaning, Named
from fresh_ladle.core.method.parting import BOILING, IN_A_PAN, Parting
from fresh_ladle.core.method.slots import Slots
from fresh_ladle.core.method.stuff import Stuff
from fresh_ladle.core.method.tokens import words_of
from fresh_ladle.core.ranges import Range
from fresh_ladle.core.recipes.recipe import Line

HALF_BOILED_DOWN = Range(0.5, 0.3, 0.7)
"""What is left of a liquid that is boiled down, where nothing else is said (estimate)."""
ADDING = words_of(
    "add fold tip throw pour drop season top scatter sprinkle drizzle dress thin loosen finish"
    " garnish spoon trickle crumble slip strew dot shower swirl splash dollop pile lay incorporate"
    " work moisten let"
)
"""Heads that put something to what is there already."""
_ADDS_ANYWAY = ADDING | {"stir", "mix"}
_STARTING = frozenset(
    {"blend", "purée", "pulse", "whisk", "emulsify", "shake", "stir", "toss", "mash", "put",
    "dissolve", "crush",
     "pound", "plate", "grind", "layer", "salt and rest", "massage"}
)  # fmt: skip
"""Verbs that begin a bowl of their own where all that they name is fresh."""
_TO_NO_FOOD = frozenset({"preheat", "clean up", "gather", "sanitize", "line", "grease"})
_TO_WHAT_IS_THERE = frozenset(
    {"heat control", "off the heat", "take temperature", "open", "use", "flip"}
)
_WETTING = frozenset({"cover", "put", "stir", "pour over"})
_WRINGING = frozenset({"squeeze", "rinse", "press", "dry", "spin"})
_TAKING_OUT = frozenset(
    {"shred", "slice", "slice thinly", "dice", "chop", "peel", "halve", "quarter", "bone"}
)
_MELTING = frozenset({"melt", "warm", "bring to a boil", "heat water", "simmer", "dissolve"})
_INTO_A_POT = BOILING | IN_A_PAN | {"stir", "put", "char", "steam", "toast in a pan"}
_WATER = re.compile(r"\bwater\b", re.I)
_IN_WATER = re.compile(r"\b(?:in|into) [a-z ]*water\b", re.I)
_PLATES = re.compile(r"\b(?:plates?|platter|dish|bed)\b", re.I)
_DOWN_TO = re.compile(r"\bto (?:about )?(\d+|\w+) (tablespoons?|tbsp|cups?|ml)\b", re.I)


class Work:
    """Does orders, one after the other."""

    def __init__(
        self,
        kitchen: Kitchen,
        meaning: Meaning,
        parting: Parting,
        share_of_amount: Callable[[Line, str], Range | None],
        text: str,
    ) -> None:
        self.kitchen, self.meaning, self.parting = kitchen, meaning, parting
        self.share_of_amount = share_of_amount
        self.text = text
        self.pot: Stuff | None = None
        """Water that boils, or fat in a pan, that nothing was dropped into yet."""
        self.sentence = 0
        self.prepared_in = -1
        """The sentence in which what is at hand was prepared."""

    def do(
        self, verb: str, kind: VerbClass, clause: Clause, slots: Slots, named: Named
    ) -> list[Stuff]:
        """Does one order; returns the things it was done to, as they are now."""
        kitchen = self.kitchen
        whole = [t for t in named.things if not t.is_empty]
        if verb in _TO_NO_FOOD:
            return []
        if verb in _TO_WHAT_IS_THERE:
            return whole or kitchen.at_hand()
        if verb == "heat pan":
            self.pot = whole[-1] if whole else None
            return kitchen.keep_at_hand(whole)
        if kind is VerbClass.PART:
            return self.parting.done(verb, clause, named)
        others = self._others(clause, slots, named)
        if named.parts and not whole and kind in (VerbClass.HEAT, VerbClass.MERGE):
            whole = self.parting.owner_of_parts(others)
        self._into_the_pot(verb, whole, others)
        return self._done(verb, kind, clause, slots, named, whole, others)

    def _done(
        self, verb: str, kind: VerbClass, clause: Clause, slots: Slots, named: Named,
        whole: list[Stuff],
        others: list[Stuff],
    ) -> list[Stuff]:  # fmt: skip
        alone = (
            not others
            and not slots.joins
            and not (verb in ("pound", "crush", "grind") and len(whole) > 1)
        )
        wet = _WATER.search(clause.text) is not None and (
            kind in (VerbClass.HEAT, VerbClass.WAIT, VerbClass.PREPARE) or verb in _WETTING
        )
        if kind is VerbClass.PREPARE and alone:
            return self._prepared(verb, whole, named, wet and verb in _WETTING)
        if kind in (VerbClass.COOL, VerbClass.WAIT) and not others:
            return self.kitchen.keep_at_hand(self._wetted(whole or self.kitchen.at_hand(), wet))
        if kind is VerbClass.HEAT:
            return self._heated(verb, whole, others, wet, clause)
        things = self._things(verb, slots, whole, others)
        self._add_target(verb, kind, clause, slots, things, whole, others, wet)
        return self._brought_together(
            things, kind, clause, wet and (kind is not VerbClass.PREPARE or verb in _WETTING)
        )

    def _others(self, clause: Clause, slots: Slots, named: Named) -> list[Stuff]:
        """What comes along, where it goes, and salt that goes without saying."""
        others = self.meaning.along(slots, clause, named)
        salted = any(self.kitchen.what(line) == "salt" for thing in others for line in thing.parts)
        if (clause.head == "salt" and not salted) or self._salts_its_water(clause):
            salt = self.kitchen.fresh_salt(others)
            named.along += [line for thing in salt for line in thing.parts]
            others += salt
        return others

    def _salts_its_water(self, clause: Clause) -> bool:
        """Whether water is salted, and no other words of the method say where the salt goes."""
        salted = re.search(r"\bsalted (?:boiling )?water\b", clause.text) is not None
        return salted and re.search(r"\bsalt\b", self.text.replace(clause.text.lower(), "")) is None

    def _into_the_pot(self, verb: str, whole: list[Stuff], others: list[Stuff]) -> None:
        """What is dropped into water that boils, or a pan with hot fat, joins it."""
        pot = self.pot
        if (
            pot is None
            or pot.is_empty
            or not among(pot, self.kitchen.open)
            or pot is not self.kitchen.hand
        ):
            return
        if whole and verb in _INTO_A_POT and not among(pot, (*whole, *others)):
            others.append(pot)
            self.pot = None

    @staticmethod
    def _wetted(things: list[Stuff], wet: bool) -> list[Stuff]:
        for thing in things:
            thing.water = thing.water or wet
        return things

    def _prepared(self, verb: str, whole: list[Stuff], named: Named, wet: bool) -> list[Stuff]:
        kitchen = self.kitchen
        things = self._wetted(whole or kitchen.at_hand(), wet)
        self.parting.parts_only = bool(named.parts) and not whole
        for thing in things:
            if verb in _WRINGING:
                self.parting.wrung(verb, thing)
            elif (
                verb in _TAKING_OUT
                and kitchen.holds(thing, "liquid")
                and self.parting.treatment(thing) == "boiled"
            ):
                # Nobody shreds chicken in its stock: it comes out, and the stock stays behind.
                self.parting.drain(thing, "boiled")
        goes_on = self.prepared_in == self.sentence and not any(t.mixed for t in kitchen.hands)
        earlier = [t for t in kitchen.hands if goes_on and not among(t, things)]
        kitchen.keep_at_hand(things)
        if things and not things[-1].mixed:
            kitchen.hands = [*earlier, *things]
            self.prepared_in = self.sentence
        return things

    def _heated(
        self, verb: str, whole: list[Stuff], others: list[Stuff], wet: bool, clause: Clause
    ) -> list[Stuff]:
        kitchen = self.kitchen
        things: list[Stuff] = []
        for thing in (*(whole or kitchen.at_hand()), *others):
            if not among(thing, things):
                things.append(thing)
        if not things:
            return []
        thing = kitchen.merged(things) if len(things) > 1 else things[0]
        thing.water = thing.water or wet or verb in ("blanch", "hard-boil")
        self.parting.left_on_metal(verb, thing)
        if verb == "reduce":
            self._boiled_down(thing, clause)
        if verb in _MELTING and kitchen.all_poured([thing]):
            self.pot = thing
        return kitchen.keep_at_hand([thing])

    def _boiled_down(self, thing: Stuff, clause: Clause) -> None:
        """Water leaves as steam, what is dissolved stays."""
        share = HALF_BOILED_DOWN
        wet = [line for line in thing.parts if self.kitchen.what(line) == "liquid"]
        if wet and (match := _DOWN_TO.search(clause.text)) is not None:
            said = self.share_of_amount(self.kitchen.lines[wet[0]], f"{match[1]} {match[2]}")
            share = said if said is not None else share
        for line in thing.parts:
            if self.kitchen.what(line) in ("liquid", "acid"):
                self.kitchen.boil_down(line, share)

    # -- work that brings things together

    def _things(
        self, verb: str, slots: Slots, whole: list[Stuff], others: list[Stuff]
    ) -> list[Stuff]:
        """What an order names; what is at hand where it names nothing and goes somewhere."""
        hands = self.kitchen.at_hand()
        dresses = verb == "dress" and all(self.kitchen.is_poured(t) for t in hands)
        if whole or others or not (slots.joins or dresses):
            return [*whole, *others]
        body = (
            [t for t in self.kitchen.handled_before(hands) if not self.kitchen.is_poured(t)]
            if dresses
            else []
        )
        return [*hands, *body]

    def _add_target(
        self, verb: str, kind: VerbClass, clause: Clause, slots: Slots, things: list[Stuff],
        whole: list[Stuff],
        others: list[Stuff], wet: bool,
    ) -> None:  # fmt: skip
        """Adds to the things the bowl they go to, where they go to one that is not said."""
        if not things or self._is_complete(kind, clause, slots, whole, others, wet):
            return
        begins = verb in _STARTING and clause.head not in ADDING and not slots.joins
        fresh = all(not t.mixed for t in things)
        one = len(things) == 1 and len(things[0].parts) == 1
        joins_alone = one and not wet and verb in ("stir", "toss")
        if begins and whole and fresh and not joins_alone:
            return
        if begins and any(t.mixed for t in whole):
            return
        things += [t for t in self._target(clause, things) if not among(t, things)]

    def _is_complete(
        self,
        kind: VerbClass,
        clause: Clause,
        slots: Slots,
        whole: list[Stuff],
        others: list[Stuff],
        wet: bool,
    ) -> bool:
        """Whether an order names all that it brings together."""
        if not whole:
            return False
        if kind in (VerbClass.WAIT, VerbClass.COOL):
            return True
        if clause.head in ("dress", "coat"):
            return bool(others) or not all(
                self.kitchen.is_poured(t) for t in self.kitchen.at_hand()
            )
        in_water = wet and _IN_WATER.search(clause.text) is not None
        return (
            (bool(others) or in_water)
            and not slots.joins
            and clause.head not in ("add", "fold", "pour")
        )

    def _target(self, clause: Clause, things: Sequence[Stuff]) -> list[Stuff]:
        """Where something goes that is not said to go anywhere: the bowl at hand, or the last that
        was mixed."""
        kitchen = self.kitchen
        hands = [t for t in kitchen.at_hand() if not among(t, things)]
        if (
            hands
            and self.prepared_in == self.sentence
            and clause.head in ("add", "sprinkle", "season", "salt")
        ):
            return hands
        main = kitchen.main if among(kitchen.main, kitchen.live()) else None
        if main is not None and among(main, things):
            main = self._other_mix(things)
        if main is None:
            return hands
        if not hands:
            return [main]
        to_main = clause.head in _ADDS_ANYWAY and not hands[-1].mixed
        under = kitchen.is_poured(main) and not kitchen.all_poured(hands) and clause.head in ON_TOP
        return [main] if to_main and not under else hands

    def _other_mix(self, things: Sequence[Stuff]) -> Stuff | None:
        """What was handled before, and goes on being handled with what is named."""
        others = self.kitchen.handled_before(things)
        mixes = [t for t in others if t.mixed] if any(not t.mixed for t in things) else others
        found = mixes or others
        return found[-1] if found else None

    def _brought_together(
        self, things: list[Stuff], kind: VerbClass, clause: Clause, wet: bool
    ) -> list[Stuff]:
        kitchen = self.kitchen
        if not things:
            return kitchen.keep_at_hand(self._wetted(kitchen.at_hand(), wet))
        plates = kind is VerbClass.PLATE and _PLATES.search(clause.text) is not None
        if len(things) == 1 and (len(things[0].parts) == 1 or things[0].mixed):
            (thing,) = self._wetted(things, wet)
            kitchen.keep_at_hand([thing])
            kitchen.main = thing if plates else kitchen.main
            return [thing]
        bowl = kitchen.merged(things)
        bowl.water = bowl.water or wet
        return kitchen.keep_at_hand([bowl])
