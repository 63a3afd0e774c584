"""What parts from what: drained, squeezed, rinsed, strained, lifted out, thrown away, put by."""

from __future__ import annotations

import re
from collections.abc import Sequence

from fresh_ladle.core.foods.food import Food
from fresh_ladle.core.method.clauses import Clause
from fresh_ladle.core.method.kitchen import Kitchen
from fresh_ladle.core.method.meaning import Named
from fresh_ladle.core.method.process import Fate
from fresh_ladle.core.method.separating import ShareTable, is_aromatic
from fresh_ladle.core.method.stuff import NONE, Stuff, product
from fresh_ladle.core.ranges import Range

LONG_MINUTES = 480.0
"""From so long in a brine it is even (reference: 12 to 24 hours for slices)."""
LONG = "long"
"""What stands among the treatments of a thing that stood so long."""
SOUR_SHARE = 0.1
"""The share of vinegar or lemon in what something lies in from which it is a brine (estimate)."""
DEEP_GRAMS = 100.0
"""Grams of oil from which food swims in it, is lifted out, and most of the oil stays (estimate)."""
BOILING = frozenset(
    {"boil", "simmer", "parboil", "blanch", "hard-boil", "soft-boil", "bring to a boil"}
)
OVEN = frozenset({"roast", "slow-roast", "bake", "bake chips", "toast in the oven"})
IN_A_PAN = frozenset({"sauté", "sear", "sweat", "caramelize", "bloom spices"})
_ON_METAL = "left on metal"
_KEPT_BY = "kept by"
_SOAKED = frozenset({"soak", "rehydrate", "hydrate"})
_UNDER_OIL = frozenset({"confit", "fried", "infused", "marinated"})
_INFUSING = frozenset({"infuse", "blend", "rest", "simmer", "warm", "pour over", "stir"})
_GIVES = BOILING | _SOAKED | frozenset(
    {"macerate", "pickle quickly", "marinate", "steam", "rest", "massage", "salt and rest", "rinse",
    "wash", "thaw",
     "sauté", "confit", "infuse", "top"}
)  # fmt: skip
"""What a thing went through that there is something to pour off of it."""
_ANOTHER_TIME = re.compile(
    r"\b(?:another|next|tomorrow|later in the week|some other|freez\w+|fridge|refrigerat\w+|for"
    r" (?:soup|stock|cooking|"
    r"\w+ing)\b|up to|week|days?)\b",
    re.I,
)


PUT_BY = frozenset({"reserve", "serve", "set aside"})
"""Verbs by which something is set apart, while what is at hand stays there."""


class Parting:
    """Parts things in a kitchen by the shares of the table."""

    def __init__(self, kitchen: Kitchen, shares: ShareTable) -> None:
        self.kitchen, self.shares = kitchen, shares
        self.parts_only = False
        """Whether the order before was done to parts of a food: "strip out the stems and discard
        them"."""

    def done(self, verb: str, clause: Clause, named: Named) -> list[Stuff]:
        """Does an order that parts something; returns what is at hand then."""
        things = [t for t in named.things if not t.is_empty]
        if verb == "discard":
            return self._discarded(things, named, clause)
        if verb in PUT_BY:
            return self._put_by(verb, things, clause)
        if verb == "divide":
            found = things or self.kitchen.at_hand()
            self.kitchen.shared_out = found[0] if found else None
            return found
        found = things or self._wet_things()
        if verb == "lift out":
            return self._lifted_out(found, named, clause)
        for thing in found:
            if verb == "strain":
                self._strained(thing)
            else:
                self.drain(thing, self.treatment(thing))
        return self.kitchen.keep_at_hand(found)

    # -- what is there to part

    def _wet_things(self) -> list[Stuff]:
        """What there is to drain where nothing is named: what is at hand, if it stands in
        something; else the last thing that gave water or stood in it."""
        hands = self.kitchen.at_hand()
        if any(self._is_wet(t) for t in hands):
            return hands
        return [t for t in self.kitchen.handled_before(()) if self._is_wet(t)][-1:] or hands

    def _is_wet(self, thing: Stuff) -> bool:
        solid = bool(self.kitchen.solids(thing)) and not self.kitchen.is_poured(thing)
        return solid and (thing.water or bool(_GIVES & set(thing.treated)))

    def treatment(self, thing: Stuff) -> str:
        """What was done to a thing that decides what stays in it when it is drained."""
        done, foods = set(thing.treated), self.kitchen.solids(thing)
        oils = [line for line in thing.parts if self.kitchen.what(line) == "oil"]
        liquid = thing.water or self.kitchen.holds(thing, "liquid")
        deep = any(self.is_deep(line, thing.parts[line]) for line in oils)
        salted = "salted" if done & {"squeeze", "press"} else "salted, drained"
        tried = (
            ("confit", "confit" in done),
            ("infused", "infuse" in done and bool(oils) and all(is_aromatic(f) for f in foods)),
            ("fried", bool(done & (IN_A_PAN | {"deep-fry"})) and deep),
            ("marinated", "marinate" in done),
            (self._pickled(done), bool(foods) and self._is_sour(thing)),
            ("boiled", bool(done & (BOILING | {"steam"})) and liquid),
            ("soaked", bool(done & _SOAKED) or liquid),
            (salted, self.kitchen.holds(thing, "salt")),
        )
        return next((name for name, holds in tried if holds), "drained")

    @staticmethod
    def _pickled(done: set[str]) -> str:
        return "pickled long" if LONG in done else "pickled hot" if done & BOILING else "pickled"

    def _is_sour(self, thing: Stuff) -> bool:
        """Whether what it lies in is a brine or a vinegar, and not water with a drop of it."""
        sour, wet = self.kitchen.grams_of(thing, "acid"), self.kitchen.grams_of(thing, "liquid")
        return sour > 0 and sour >= SOUR_SHARE * (sour + wet) and not (thing.water and not wet)

    def is_deep(self, line: str, share: Range) -> bool:
        """Whether there is so much of an oil that food swims in it."""
        return self.kitchen.grams.get(line, 0.0) * share.value >= DEEP_GRAMS

    # -- drained, squeezed, rinsed, strained

    def drain(self, thing: Stuff, treatment: str, lines: Sequence[str] = ()) -> None:
        """Parts what is liquid or dissolved from what is solid, each by its share; with `lines`,
        only those are taken out, and what else is solid stays behind as well."""
        kitchen = self.kitchen
        foods = [
            f for line in lines if (f := kitchen.foods.get(line)) is not None
        ] or kitchen.solids(thing)
        if not foods:
            return
        liquor = Stuff(
            {}, set(thing.waits), True, liquor=True, component=thing.component, said=kitchen.words
        )
        for line, share in list(thing.parts.items()):
            kept = self._kept(line, share, thing, treatment, foods, lines)
            if kept is not None:
                thing.before.setdefault(line, share)
                liquor.parts[line] = kitchen.keep(thing, line, kept)
        if treatment == "soaked":
            for line in thing.parts:
                kitchen.note(line, "soak")
        thing.water = False
        if liquor.parts:
            kitchen.open.append(liquor)
            kitchen.poured_now.append(liquor)

    def _kept(
        self,
        line: str,
        share: Range,
        thing: Stuff,
        treatment: str,
        foods: Sequence[Food],
        lines: Sequence[str],
    ) -> Range | None:
        """What of a line stays with foods that are drained; None for all of it."""
        what = self.kitchen.what(line)
        if not what:
            return NONE if lines and line not in lines else None
        if what == "oil" and treatment not in _UNDER_OIL:
            if not self.is_deep(line, share):
                return None
            treatment = "confit"
        rule = self.shares.rule(treatment, what, foods)
        if rule is None:
            return None if treatment == "drained" else NONE
        return (
            self._by_food(rule.share, line, share, foods, thing)
            if rule.of_food
            else product(share, rule.share)
        )

    def _by_food(
        self, per_gram: Range, line: str, share: Range, foods: Sequence[Food], thing: Stuff
    ) -> Range:
        """The share of an oil that so many grams for each gram of the food in it are."""
        kitchen, keys = self.kitchen, {f.key for f in foods}
        solid = sum(
            kitchen.grams.get(other, 0.0) * part.value
            for other, part in thing.parts.items()
            if (f := kitchen.foods.get(other)) is not None and f.key in keys
        )
        there = kitchen.grams.get(line, 0.0)
        if there <= 0:
            return share
        taken = (solid * grams / there for grams in (per_gram.value, per_gram.low, per_gram.high))
        return Range(
            *(min(s, t) for s, t in zip((share.value, share.low, share.high), taken, strict=True))
        )

    def _strained(self, thing: Stuff) -> None:
        """Of an infusion all solids stay in the sieve; of a purée next to nothing does."""
        kitchen = self.kitchen
        poured = sum(kitchen.grams.get(line, 0.0) for line in thing.parts if kitchen.what(line))
        rest = sum(kitchen.grams.get(line, 0.0) for line in thing.parts if not kitchen.what(line))
        if not _INFUSING & set(thing.treated) or poured < rest:
            return
        for line, share in list(thing.parts.items()):
            food = kitchen.foods.get(line)
            rule = self.shares.rule(
                "infused", kitchen.what(line) or "aromatic", [food] if food else []
            )
            if rule is not None:
                kitchen.keep(thing, line, product(share, rule.share), Fate.THROWN_AWAY)

    def wrung(self, verb: str, thing: Stuff) -> None:
        """What leaves a thing that is squeezed, pressed, rinsed, dried or spun."""
        treatment = self.treatment(thing)
        if verb in ("dry", "spin"):
            if thing.mixed and (thing.water or self.kitchen.holds(thing, "liquid")):
                self.drain(thing, "soaked")
        elif verb == "rinse":
            if treatment.startswith(("salted", "soaked")):
                self._rinsed(thing, treatment.removesuffix(", drained"))
        elif treatment.startswith("salted"):
            if not thing.before:
                self.drain(thing, "salted")
        elif thing.mixed and treatment.startswith(("soaked", "pickled")):
            self.drain(thing, treatment)

    def _rinsed(self, thing: Stuff, treatment: str) -> None:
        rule = self.shares.rule(f"{treatment}, rinsed", "salt", self.kitchen.solids(thing))
        if rule is None:
            return
        for line in [x for x in thing.parts if self.kitchen.what(x) == "salt"]:
            there = thing.parts[line]
            kept = product(thing.before.setdefault(line, there), rule.share)
            if kept.value < there.value:
                self.kitchen.keep(thing, line, kept, Fate.POURED_OFF)

    def left_on_metal(self, verb: str, thing: Stuff) -> None:
        """What of its oil stays on the tray or in the pan."""
        treatment = "tray" if verb in OVEN | {"char"} else "pan" if verb in IN_A_PAN else ""
        solids = self.kitchen.solids(thing)
        if not treatment or not solids or _ON_METAL in thing.treated:
            return
        rule = self.shares.rule(treatment, "oil", solids)
        for line, share in list(thing.parts.items()):
            if (
                rule is not None
                and self.kitchen.what(line) == "oil"
                and not self.is_deep(line, share)
            ):
                self.kitchen.keep(thing, line, product(share, rule.share), Fate.LEFT_ON_METAL)
                thing.treated.append(_ON_METAL)

    # -- lifted out, thrown away, put by

    def _lifted_out(self, things: list[Stuff], named: Named, clause: Clause) -> list[Stuff]:
        for thing in things:
            inside = [line for line in named.lines if line in thing.parts]
            # What gave its smell is thrown away; what was cooked or brined comes out and is eaten.
            foods = [food for line in inside if (food := self.kitchen.foods.get(line)) is not None]
            fishes = clause.head == "fish" or (
                clause.head in ("remove", "pick", "take")
                and all(is_aromatic(food) for food in foods)
            )
            if fishes and thing.mixed and inside and len(inside) < len(thing.parts):
                self._removed(thing, inside)
            else:
                self.drain(thing, self.treatment(thing), inside if thing.mixed else ())
        return self.kitchen.keep_at_hand(things)

    def _discarded(self, things: list[Stuff], named: Named, clause: Clause) -> list[Stuff]:
        parts_again = self.parts_only and re.search(r"\b(?:them|it)\b", clause.text) is not None
        for thing in () if parts_again else things:
            inside = [line for line in named.lines if line in thing.parts]
            if thing.liquor or not thing.mixed or len(inside) in (0, len(thing.parts)):
                self.kitchen.gone(thing, Fate.POURED_OFF if thing.liquor else Fate.THROWN_AWAY)
            else:
                self._removed(thing, inside)
        self.parts_only = False
        return self.kitchen.at_hand()

    def _removed(self, thing: Stuff, lines: Sequence[str]) -> None:
        """Takes lines out of a mix and throws them away; a little of what they gave stays."""
        for line in lines:
            food = self.kitchen.foods.get(line)
            rule = self.shares.rule("strained out", "aromatic", [food] if food else [])
            kept = product(thing.parts[line], rule.share) if rule is not None else NONE
            self.kitchen.keep(thing, line, kept, Fate.THROWN_AWAY)

    def _put_by(self, verb: str, things: list[Stuff], clause: Clause) -> list[Stuff]:
        """What is set apart: for later in the dish, for another day, or beside it."""
        for thing in things if verb != "serve" else ():
            if _ANOTHER_TIME.search(clause.text):
                thing.away, thing.said = True, clause.text
            elif thing.liquor:
                thing.treated.append(_KEPT_BY)
        return self.kitchen.at_hand()

    def close(self) -> None:
        """At the end: what was poured off is gone, what was put by is for another time."""
        for thing in list(self.kitchen.open):
            if thing.liquor or thing.away:
                kept = thing.away or _KEPT_BY in thing.treated
                self.kitchen.gone(thing, Fate.KEPT if kept else Fate.POURED_OFF)

    def owner_of_parts(self, others: Sequence[Stuff]) -> list[Stuff]:
        """What "the kernels", "the flesh" are of: the last solid thing that was handled."""
        solid = [t for t in self.kitchen.handled_before(others) if self.kitchen.solids(t)]
        return solid[-1:]
