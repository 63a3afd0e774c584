"""The kitchen while a method is done: what stands about, what is at hand, what has left."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence

from fresh_ladle.core.foods.food import Food
from fresh_ladle.core.method.process import Fate
from fresh_ladle.core.method.separating import what_of
from fresh_ladle.core.method.stuff import NONE, WHOLE, Stuff, left, product, total
from fresh_ladle.core.method.tokens import stem, tokens_of
from fresh_ladle.core.ranges import Range
from fresh_ladle.core.recipes.recipe import Line


def among(thing: Stuff | None, things: Iterable[Stuff]) -> bool:
    """Whether a thing is one of these, and not only alike."""
    return any(thing is other for other in things)


class Kitchen:
    """All that stands about. `hands` are what was handled last, `main` the last bowl that was
    mixed, `trail` all that was handled, the latest at the end; `shared_out` is what a share was
    taken of last."""

    def __init__(
        self, lines: Sequence[Line], foods: Mapping[str, Food | None], grams: Mapping[str, float]
    ) -> None:
        self.lines = {line.id: line for line in lines}
        self.foods, self.grams = foods, grams
        self.open = [Stuff({line.id: WHOLE}, component=line.component) for line in lines]
        self.hands: list[Stuff] = []
        self.main: Stuff | None = None
        self.trail: list[Stuff] = []
        self.shared_out: Stuff | None = None
        self.poured_now: list[Stuff] = []
        self.words = ""
        """The words of what is being done."""
        self.because: dict[str, dict[Fate, str]] = {}
        self.fates: dict[str, dict[Fate, Range]] = {}
        self.steam: dict[str, Range] = {}
        self.done: dict[str, list[str]] = {}

    # -- what things are

    def what(self, line: str) -> str:
        """What a line is where things part: salt, sugar, acid, oil, liquid; empty for what is
        solid."""
        food = self.foods.get(line)
        return what_of(food) if food is not None else ""

    def solids(self, thing: Stuff) -> list[Food]:
        return [
            f for line in thing.parts if (f := self.foods.get(line)) is not None and not what_of(f)
        ]

    def holds(self, thing: Stuff, what: str) -> bool:
        return any(self.what(line) == what for line in thing.parts)

    def grams_of(self, thing: Stuff, *kinds: str) -> float:
        """Grams of what is of these kinds in it; of all where none is given."""
        return sum(
            self.grams.get(line, 0.0) * share.value
            for line, share in thing.parts.items()
            if not kinds or self.what(line) in kinds
        )

    def is_poured(self, thing: Stuff) -> bool:
        """Whether it is a dressing, a brine, an oil: half of it or more is liquid or dissolves."""
        return 2 * self.grams_of(thing, "salt", "sugar", "acid", "oil", "liquid") >= self.grams_of(
            thing
        )

    def drinks(self, thing: Stuff) -> bool:
        """Whether dry grain or legumes stand in it, which take its liquid up."""
        return any(self.drinks_itself(line) for line in thing.parts)

    def drinks_itself(self, line: str) -> bool:
        food = self.foods.get(line)
        return food is not None and food.form == "dry" and food.group in ("grain-pasta", "legume")

    def all_poured(self, things: Iterable[Stuff]) -> bool:
        return all(self.what(line) for thing in things for line in thing.parts)

    # -- what is where

    def live(self) -> list[Stuff]:
        """What stands about, is not poured off and not put away."""
        return [t for t in self.open if not t.is_empty and not t.liquor and not t.away]

    @property
    def hand(self) -> Stuff | None:
        return self.hands[-1] if self.hands else None

    def at_hand(self) -> list[Stuff]:
        """What was handled last. Before anything was, it is the one thing there is, or the one that
        is solid."""
        if self.trail or self.hands:
            return [t for t in self.hands if not t.is_empty and among(t, self.open)]
        alone = self.live() if len(self.live()) == 1 else [t for t in self.live() if self.solids(t)]
        return alone if len(alone) == 1 else []

    def keep_at_hand(self, things: list[Stuff]) -> list[Stuff]:
        """Takes things in hand; returns them."""
        if things:
            self.hands = [*things]
            if things[-1].mixed:
                self.main = things[-1]
        return things

    def handled(self, things: Sequence[Stuff]) -> None:
        self.trail = [t for t in self.trail if not among(t, things)] + [*things]

    def handled_before(self, things: Sequence[Stuff]) -> list[Stuff]:
        """What was handled and still stands about, besides these."""
        live = self.live()
        return [t for t in self.trail if among(t, live) and not among(t, things)]

    def is_fresh(self, line: str) -> bool:
        """Whether nothing was done with a line yet."""
        return any(t.parts.keys() == {line} and not t.waits for t in self.open)

    def holder(self, line: str, mixed_first: bool = False) -> Stuff | None:
        """What holds a line: what of it still stands alone, unless `mixed_first`, else the bowl
        with most of it."""
        holders = [t for t in self.open if line in t.parts and t.parts[line].high > 0]
        alive = [t for t in holders if not t.liquor and not t.away] or holders
        alone = [t for t in alive if not t.mixed]
        mixed = [t for t in alive if t.mixed]
        if alone and not (mixed_first and mixed):
            return alone[-1]
        return max(mixed or alive, key=lambda t: t.parts[line].value, default=None)

    def component_words(self) -> set[str]:
        return {word for line in self.lines.values() for word in words_of_component(line.component)}

    def fresh_salt(self, others: Sequence[Stuff]) -> list[Stuff]:
        """The line of salt that nothing was done with yet, unless it is among others."""
        salts = [
            t for t in self.live() if not t.waits and all(self.what(x) == "salt" for x in t.parts)
        ]
        return [t for t in salts if not among(t, others)][:1]

    # -- what changes

    def merged(self, things: Sequence[Stuff]) -> Stuff:
        """One bowl of several things."""
        first = next((t for t in things if t.mixed), things[0])
        bowl = Stuff({}, mixed=True, component=first.component)
        for thing in things:
            for line, share in thing.parts.items():
                bowl.parts[line] = total(bowl.parts.get(line, NONE), share)
            bowl.water = bowl.water or thing.water
            bowl.treated += thing.treated
            bowl.before.update(thing.before)
            bowl.waits |= thing.waits
        bowl.treated = list(dict.fromkeys(bowl.treated))
        self.open = [*(t for t in self.open if not among(t, things)), bowl]
        return bowl

    def share_of_line(self, thing: Stuff, line: str, share: Range) -> Stuff:
        """Takes a share of a line out of what holds it."""
        there = thing.parts[line]
        want = Range(
            min(share.value, there.value), min(share.low, there.low), min(share.high, there.high)
        )
        taken = Stuff(
            {line: want},
            set(thing.waits),
            thing.mixed,
            component=thing.component,
            treated=[*thing.treated],
        )
        thing.parts[line] = left(there, want)
        self.open.append(taken)
        self.shared_out = thing
        return taken

    def share_of_mix(self, thing: Stuff, share: Range) -> Stuff:
        """Takes a share of all of a thing."""
        taken = thing.split(share)
        self.open.append(taken)
        self.shared_out = thing
        return taken

    def keep(self, thing: Stuff, line: str, kept: Range, fate: Fate | None = None) -> Range:
        """Leaves so much of a line in a thing; returns what leaves it, which goes its way where
        that is known."""
        gone = left(thing.parts[line], kept)
        if kept.high > 0:
            thing.parts[line] = kept
        else:
            del thing.parts[line]
        if fate is not None:
            self.lose(line, fate, gone)
        return gone

    def gone(self, thing: Stuff, fate: Fate) -> None:
        """All of a thing goes this way."""
        for line, share in thing.parts.items():
            self.lose(line, fate, share, thing.said)
        thing.parts = {}
        self.open = [t for t in self.open if t is not thing]

    def lose(self, line: str, fate: Fate, share: Range, said: str = "") -> None:
        """A share of a line goes this way, by the words `said`, or by what is being done."""
        if share.high > 0:
            self.because.setdefault(line, {}).setdefault(fate, said or self.words)
            own = self.fates.setdefault(line, {})
            own[fate] = total(own.get(fate, NONE), share)

    def boil_down(self, line: str, share: Range) -> None:
        """Water of a line leaves as steam; what is dissolved in it stays."""
        self.steam[line] = product(self.steam.get(line, WHOLE), share)

    def note(self, line: str, verb: str) -> None:
        """That a verb was done to a line."""
        self.done.setdefault(line, []).append(verb)


def words_of_component(name: str) -> set[str]:
    return {stem(token.word) for token in tokens_of(name)}
