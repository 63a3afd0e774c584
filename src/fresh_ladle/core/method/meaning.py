"""What the phrases of an order mean: lines, bowls, what was poured off, a share of them, what is at
hand."""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field

from fresh_ladle.core.method.clauses import Clause
from fresh_ladle.core.method.kitchen import Kitchen, among, words_of_component
from fresh_ladle.core.method.names import LIQUIDS, MIXES, PARTS, Names
from fresh_ladle.core.method.slots import Item, Slots, slots_of
from fresh_ladle.core.method.stuff import Stuff
from fresh_ladle.core.method.tokens import stem, words_of
from fresh_ladle.core.ranges import Range
from fresh_ladle.core.recipes.recipe import Line

A_LITTLE = Range(0.2, 0.1, 0.3)
"""The share of a mix that an amount of it is, where that cannot be told (estimate)."""
_PRONOUNS = words_of("it them this that these those both everything all one")
_PASSING = words_of("same whole hot warm cold")
_DRESSINGS = frozenset({"dressing", "sauce", "vinaigrette", "marinade"})
_WHISKED = frozenset({"whisk", "blend", "purée", "shake", "emulsify"})
_BRINES = frozenset({"brine", "syrup", "marinade", "liquid", "broth", "liquor"})
_WATERS = words_of("boiling hot cold warm iced ice salted fresh")
_OTHER_WATER = re.compile(
    r"(?<!the )(?<!the cold )(?<!the hot )\b(?:boiling|hot|cold|warm|iced?|salted|fresh|running)(?:"
    r" [a-z]+)? water\b",
    re.I,
)
"""Water that is no line: "in cold water", and not "in the cold water"."""
_TAKING_OUT = words_of(
    "scoop remove discard take pull flick scrape cut throw knock shake spoon pop pick"
)
"""Heads by which a part of a food leaves it: what they name by a part is no food of that name."""
ON_TOP = frozenset(["top", "scatter", "sprinkle", "drizzle", "spoon", "finish", "garnish"])
"""Heads that put something on what is there."""
_BUT = re.compile(
    r"\b(?:but|except(?: for)?|apart from) (?:the )?([\w -]+?)(?="
    r" (?:until|in|into|with|and)\b|[,.;]|$)",
    re.I,
)
"""What is left aside of "everything"."""
_MORE = frozenset({"more", "extra", "another", "little", "pinch"})
_SQUEEZED = re.compile(r"\bjuice (?:of|from)\b|'s (?:juice|zest)\b|\b(?:its|their) juice\b", re.I)
_VESSELS = words_of(
    "bowl pan pot tray jar blender processor sieve colander plate platter dish skillet saucepan"
    " basin board tin rack mortar machine bag cloth paper towel oven fridge refrigerator freezer"
    " heat side top boil simmer hand lid foil temperature water minute hour tub container steamer"
    " grill broiler knife fork spoon film surface"
)


@dataclass
class Named:
    """What phrases came to: `things`, the `lines` they name, `parts` of foods; `along` are lines
    that come along or where it goes. `unknown` is whether something is named that is not there."""

    things: list[Stuff] = field(default_factory=list)
    lines: list[str] = field(default_factory=list)
    parts: list[str] = field(default_factory=list)
    along: list[str] = field(default_factory=list)
    unknown: bool = False

    def add(self, thing: Stuff) -> None:
        self.things.append(thing)
        self.lines += list(thing.parts)


def shared_object(following: Sequence[Clause]) -> tuple[Item, ...]:
    """What the next order of a row is done to: "wash, peel and slice the carrots"."""
    for clause in following:
        if whose := slots_of((), clause.words, clause.head).whose:
            return whose
        if not clause.shared:
            break
    return ()


class Meaning:
    """Finds what phrases mean in a kitchen as it stands."""

    def __init__(
        self, kitchen: Kitchen, names: Names, share_of_amount: Callable[[Line, str], Range | None]
    ) -> None:
        self.kitchen, self.names, self.share_of_amount = kitchen, names, share_of_amount
        self.following: Sequence[Clause] = ()
        """All that is said from here to the end."""
        self.taking_out = False
        """Whether something is taken out of what it is in: then what is mixed comes first."""

    def of_order(self, slots: Slots, clause: Clause, following: Sequence[Clause]) -> Named:
        """What an order is done to."""
        found = Named()
        if slots.all:
            beside = [*self._named_beside(slots, clause), *self._left_aside(clause)]
            for thing in self.kitchen.live():
                if (
                    self._is_asked(thing, slots)
                    and not among(thing, beside)
                    and not self._comes_later(thing)
                ):
                    found.add(thing)
            return found
        if slots.rest:
            for thing in self.kitchen.live():
                if thing is not self.kitchen.hand and not (thing.waits and thing.mixed):
                    found.add(thing)
        for item in slots.whose or (shared_object(following) if clause.shared else ()):
            self.resolve(item, found, clause)
        return found

    def along(self, slots: Slots, clause: Clause, named: Named) -> list[Stuff]:
        """What comes along, and where it goes; adds its lines to `named`."""
        found = Named()
        for item in (*slots.with_, *slots.into, *slots.source):
            self.resolve(item, found, clause)
        named.along += found.lines
        return [t for t in found.things if not among(t, named.things)]

    def kinds(self, clause: Clause, slots: Slots, following: Sequence[Clause]) -> set[str]:
        """The groups and kinds of the foods an order is done to, which tell what it means."""
        items = slots.whose or (shared_object(following) if clause.shared else ())
        whose = [line for item in items for line in self.names.called(item.words)]
        hand = self.kitchen.hand
        if not whose and hand is not None:
            whose = [line for line in hand.parts if not hand.mixed or not self.kitchen.what(line)]
        found: set[str] = set()
        for line in whose:
            food = self.kitchen.foods.get(line)
            if food is not None:
                found |= {food.group, food.key.split("-")[0], food.key}
                if food.group in ("acid", "fruit") and re.match(
                    r"lemon|lime|orange|grapefruit|mandarin", food.key
                ):
                    found.add("citrus")
        return found

    def _named_beside(self, slots: Slots, clause: Clause) -> list[Stuff]:
        """What "everything" does not take in, since it comes along: "toss everything with half the
        dressing"."""
        mixes = (self._mix([stem(w) for w in item.words]) for item in slots.with_)
        return [thing for thing in mixes if thing is not None]

    def _left_aside(self, clause: Clause) -> list[Stuff]:
        """What "everything but the cabbage" does not take in."""
        said = _BUT.search(clause.text)
        called = (
            self.names.called(re.findall(r"[a-z-]+", said[1].lower())) if said is not None else []
        )
        return [holder for line in called if (holder := self.kitchen.holder(line)) is not None]

    def _comes_later(self, thing: Stuff) -> bool:
        """Whether "everything" does not take it in yet: nobody touched it, and a later step puts it
        on top."""
        return not thing.waits and bool(self._put_on_top_later() & thing.parts.keys())

    def _put_on_top_later(self) -> set[str]:
        found: set[str] = set()
        for clause in self.following:
            if clause.head in ON_TOP and not any(t.word in _MORE for t in clause.words):
                slots = slots_of(clause.before, clause.words, clause.head)
                found |= {
                    line
                    for item in (*slots.whose, *slots.with_)
                    for line in self.names.called(item.words)
                }
        return found

    def _is_asked(self, thing: Stuff, slots: Slots) -> bool:
        """Whether "everything for the dressing" speaks of a thing."""
        wanted = {stem(w) for w in slots.purpose.split()} & self.kitchen.component_words()
        return not wanted or bool(wanted & words_of_component(thing.component))

    # -- one phrase

    def resolve(self, item: Item, found: Named, clause: Clause) -> None:
        """Adds what one phrase means."""
        words = [w for w in item.words if w not in _PASSING]
        if not words:
            self._share_alone(item, found)
        elif (
            stem(words[-1]) == "water"
            and _OTHER_WATER.search(clause.text)
            and not self._says_water(words)
        ):
            return
        elif len(words) == 1 and words[0] in _PRONOUNS:
            found.things += [self._taken(thing, item) for thing in self._antecedents(clause)]
        else:
            self._called(words, item, found, clause)

    def _called(self, words: Sequence[str], item: Item, found: Named, clause: Clause) -> None:
        stems = [stem(w) for w in words]
        if clause.head in _TAKING_OUT and set(stems) <= PARTS:
            found.parts.append(item.said)
            return
        called = self.names.called(words)
        if (thing := self._mix_or_liquor(stems, called)) is not None:
            # "The dressing" that nobody has made yet is the lines of that part.
            found.lines += [] if thing.waits else list(thing.parts)
            found.things.append(self._taken(thing, item))
            return
        if set(stems) & PARTS and not any(self.names.by_id[c].head in stems for c in called):
            found.parts.append(item.said)
        elif not called:
            found.unknown = found.unknown or not (set(stems) & (LIQUIDS | _VESSELS))
        if "juice" in stems and _SQUEEZED.search(clause.text):
            for line in called:
                self.kitchen.note(line, "juice")
        for line in called[:1] if item.count == 1 else called:
            self._line(line, item, found)

    def _mix_or_liquor(self, stems: Sequence[str], called: Sequence[str]) -> Stuff | None:
        """What words call that is no line: what was poured off, or a mix."""
        liquor = self._liquor(stems)
        own = liquor is not None and (not called or any(c in liquor.parts for c in called))
        if own and not any(self.kitchen.is_fresh(c) for c in called):
            return liquor
        if any(self.names.by_id[c].head in stems for c in called):
            return None
        return self._mix(stems)

    def _says_water(self, words: Sequence[str]) -> bool:
        """Whether a line says its water is of this kind: "1 cup boiling water"."""
        kinds = set(words) & _WATERS
        return any(kinds <= line.written for line in self.names.lines if line.head == "water")

    def _share_alone(self, item: Item, found: Named) -> None:
        """ "The rest", "one half", "the other": of what was shared out last, or of what is at
        hand."""
        thing = self.kitchen.shared_out if item.rest or item.count is None else self.kitchen.hand
        thing = thing if thing is not None and not thing.is_empty else self.kitchen.hand
        if thing is not None and not thing.is_empty:
            found.things.append(self._taken(thing, item))

    def _antecedents(self, clause: Clause) -> list[Stuff]:
        """What "it" means: what was said before in the clause ("when the potatoes are cold"), or
        what is at hand."""
        called = self.names.called([t.word for t in clause.before]) if clause.before else []
        holders = [holder for line in called if (holder := self.kitchen.holder(line)) is not None]
        return holders[:1] or self.kitchen.at_hand()

    def _line(self, line: str, item: Item, found: Named) -> None:
        thing = self.kitchen.holder(line, self.taking_out)
        if thing is None or (thing.liquor and not {stem(w) for w in item.words} & LIQUIDS):
            return
        found.lines.append(line)
        share = self._share(line, item)
        inside = thing.mixed and len(thing.parts) > 1 and not item.amount and item.share is None
        if share is None or inside:
            if not among(thing, found.things):
                found.things.append(thing)
            return
        found.things.append(self.kitchen.share_of_line(thing, line, share))

    def _share(self, line: str, item: Item) -> Range | None:
        """The share of a line that is meant; None for all that is left of it."""
        if item.rest:
            return None
        if item.share is not None:
            return item.share
        if item.amount:
            return self.share_of_amount(self.kitchen.lines[line], item.amount)
        count = re.fullmatch(r"(\d+)", self.kitchen.lines[line].amount.strip())
        if item.count is None or count is None or float(count[1]) <= item.count:
            return None
        one = item.count / float(count[1])
        return Range(one, one, one)

    def _taken(self, thing: Stuff, item: Item) -> Stuff:
        """A thing, or the share of it that is meant."""
        share = item.share
        if share is None and item.amount:
            share = self._share_of_mix(thing, item.amount)
        return thing if share is None or item.rest else self.kitchen.share_of_mix(thing, share)

    def _share_of_mix(self, thing: Stuff, amount: str) -> Range:
        """The share of a mix that an amount of it is, told by what most of it is."""
        kitchen = self.kitchen
        most = max(
            thing.parts, key=lambda line: kitchen.grams.get(line, 0.0) * thing.parts[line].value
        )
        share = self.share_of_amount(kitchen.lines[most], amount)
        there = thing.parts[most].value
        if share is None or there <= 0 or kitchen.what(most) in ("salt", "sugar"):
            return A_LITTLE
        one = min(1.0, share.value / there)
        return Range(one, one, one)

    def _mix(self, stems: Sequence[str]) -> Stuff | None:
        """The mix that words call: that of a component of this name, or the last that was made."""
        wanted = set(stems)
        mixes = [t for t in self.kitchen.open if t.mixed and not t.is_empty and not t.liquor]
        # What was put away is asked for only where nothing else is called so.
        mixes.sort(key=lambda t: not t.away)
        if of_component := wanted & self.kitchen.component_words():
            own = [t for t in mixes if wanted & words_of_component(t.component)]
            return own[-1] if own else self._gathered(of_component)
        if called := [t for t in mixes if wanted & t.called]:
            return called[-1]
        poured = [t for t in mixes if self.kitchen.is_poured(t) and not self.kitchen.drinks(t)]
        whisked = [t for t in mixes if set(t.treated[-1:]) & _WHISKED]
        if wanted & _BRINES:
            return poured[-1] if poured else None
        if wanted & _DRESSINGS and (sauces := poured or whisked):
            return sauces[-1]
        return mixes[-1] if wanted & MIXES and mixes else None

    def _gathered(self, wanted: set[str]) -> Stuff | None:
        """All lines of a component that nobody brought together yet: "put the salad ingredients in
        a dish"."""
        own = [t for t in self.kitchen.live() if wanted & words_of_component(t.component)]
        return self.kitchen.merged(own) if own else None

    def _liquor(self, stems: Sequence[str]) -> Stuff | None:
        """What was poured off last, where words call a liquid."""
        liquors = [
            t for t in self.kitchen.open if t.liquor and any(s.high > 0 for s in t.parts.values())
        ]
        return liquors[-1] if set(stems) & LIQUIDS and liquors else None
