"""Proposes dishes: the best blends of several styles, each worked out whole; where none holds, the nearest ones."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace

from fresh_ladle.core.catalogue.formula import Role
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.compose.blend import UNBROKEN, Blender, Found, Style
from fresh_ladle.core.compose.house import House
from fresh_ladle.core.compose.options import Stock, stocks
from fresh_ladle.core.compose.proposal import Proposal, worked_out
from fresh_ladle.core.compose.request import MAX_TO_BUY, ComposeRequest
from fresh_ladle.core.recipes.recipe import RecipeError

ROUNDS = 3
"""Times a blend is looked for again, a little tighter, when it does not hold once it is worked out whole."""
NOTICED = 0.5
"""Steps by which a proposal that is called brighter or milder must be so."""
LEANER = 0.9
"""Share of the fat of the first that a leaner proposal may have at most."""


@dataclass(frozen=True, slots=True)
class Composition:
    """What was found. `proposals` hold all that was asked; where there is none, `nearest` come near it. `open_roles`
    are needed roles for which there is nothing in the house; `would_do` is a proposal that holds but asks for more
    than was allowed to be bought."""

    proposals: tuple[Proposal, ...]
    nearest: tuple[Proposal, ...]
    open_roles: tuple[Role, ...]
    would_do: Proposal | None


def compose(
    request: ComposeRequest,
    house: House,
    knowledge: Knowledge,
    prices: Mapping[str, float] | None = None,
    found: Callable[[Proposal], None] = lambda _: None,
    stopped: Callable[[], bool] = lambda: False,
) -> Composition:
    """Several proposals that differ, told to `found` as they come.

    Raises RecipeError when nothing that is in the house, or could be bought, may go into a dish of this kind.
    """
    held = stocks(request, house, knowledge)
    if not held:
        raise RecipeError("nothing of this can go into such a dish: name a food that may, or allow more to be bought")
    prices = prices or {}
    blender = Blender(request, held, knowledge, prices, stopped)
    if not blender.options:
        raise RecipeError("there is too little of everything for a dish of this size: ask for fewer servings")
    kitchen = _Kitchen(blender, request, knowledge, prices)
    first = kitchen.proposal("In the middle", "Every taste near the middle of what such dishes are liked for.", Style())
    open_roles = _open_roles(request, held, knowledge)
    if first is None or not first.holds(request.chance):
        return _nearest(kitchen, request, held, knowledge, open_roles, found)
    proposals = [first]
    found(first)
    for name, why, style, differs in _STYLES:
        if stopped():
            break
        if name == "Cheapest" and not prices:
            continue
        other = kitchen.proposal(name, why, style)
        if other is None or not other.holds(request.chance) or any(p.key == other.key for p in proposals):
            continue
        if differs(first, other):
            proposals.append(other)
            found(other)
    return Composition(tuple(proposals), (), open_roles, None)


class _Kitchen:
    """Finds a blend for a style and works it out; where it does not hold by the exact model, looks again, tighter."""

    def __init__(
        self, blender: Blender, request: ComposeRequest, knowledge: Knowledge, prices: Mapping[str, float]
    ) -> None:
        self.blender, self.request, self.knowledge, self.prices = blender, request, knowledge, prices
        self._begin: tuple[tuple[int, ...], ...] = ()

    def proposal(self, name: str, why: str, style: Style) -> Proposal | None:
        blender = self.blender
        result: Proposal | None = None
        for _ in range(ROUNDS):
            best = blender.best(style, self._begin)
            result = self._worked_out(name, why, best)
            if best.broken > UNBROKEN or result.holds(self.request.chance) or style.targets_give:
                break
            for place, target in enumerate(self.request.targets):
                if result.meets[target] < self.request.chance:
                    blender.margins[place] += 0.01
        if not self._begin and best.broken <= UNBROKEN:
            self._begin = (best.taken,)
        return result

    def _worked_out(self, name: str, why: str, best: Found) -> Proposal:
        options = [self.blender.options[n] for n in best.taken]
        return worked_out(name, why, options, self.request, self.knowledge, self.prices)


def _open_roles(request: ComposeRequest, held: list[Stock], knowledge: Knowledge) -> tuple[Role, ...]:
    played = {s.role.id for s in held if not s.bought}
    return tuple(r for r in knowledge.composing.formulas[request.kind].roles if r.needed and r.id not in played)


def _nearest(
    kitchen: _Kitchen,
    request: ComposeRequest,
    held: list[Stock],
    knowledge: Knowledge,
    open_roles: tuple[Role, ...],
    found: Callable[[Proposal], None],
) -> Composition:
    """Where nothing holds: the nearest that keeps the tastes, the nearest that keeps the targets, and what would hold
    if more could be bought."""
    near: list[Proposal] = []
    kept: list[tuple[str, str, Style]] = [
        ("Nearest", "Every taste in its window first, the targets as near as that allows.", Style(targets_give=True))
    ]
    if request.targets:
        kept.append(("Targets first", "The targets met, the tastes as near as that allows.", Style(windows_give=True)))
    for name, why, style in kept:
        one = kitchen.proposal(name, why, style)
        if one is not None and one.parts and all(p.key != one.key for p in near):
            near.append(one)
            found(one)
    would_do = None
    if request.most_to_buy < MAX_TO_BUY:
        more = replace(request, most_to_buy=MAX_TO_BUY)
        wider = _Kitchen(Blender(more, held, knowledge, kitchen.prices, kitchen.blender.stopped), more, knowledge, {})
        one = wider.proposal("With more bought", "All that was asked, with more to buy.", Style())
        would_do = one if one is not None and one.holds(request.chance) else None
    return Composition((), tuple(near), open_roles, would_do)


def _sour(first: Proposal, other: Proposal) -> bool:
    return other.standings["sour"].steps - first.standings["sour"].steps >= NOTICED


def _milder(first: Proposal, other: Proposal) -> bool:
    def loudness(proposal: Proposal) -> float:
        tasted = proposal.after.tasted
        return proposal.standings["sour"].steps + proposal.standings["salt"].steps + 0.1 * tasted["hot"]

    return loudness(first) - loudness(other) >= NOTICED


def _leaner(first: Proposal, other: Proposal) -> bool:
    fat = "fat_g"
    return other.after.totals.serving[fat].value <= LEANER * first.after.totals.serving[fat].value


def _cheaper(first: Proposal, other: Proposal) -> bool:
    return other.cost is not None and first.cost is not None and other.cost < first.cost


def _goes_further(first: Proposal, other: Proposal) -> bool:
    return _used_today(other) > _used_today(first) + 1.0


def _used_today(proposal: Proposal) -> float:
    return sum(p.grams for p in proposal.parts if p.option.stock.today)


_STYLES: tuple[tuple[str, str, Style, Callable[[Proposal, Proposal], bool]], ...] = (
    ("Brighter", "More acid and herbs, less fat and sweetness.", Style({"sour": 0.85, "rich": 0.25, "sweet": 0.25}), _sour),
    (
        "Milder",
        "Less acid, salt and heat.",
        Style({"sour": 0.15, "salt": 0.1, "sweet": 0.5, "rich": 0.55}, quiet={"hot": 0.15, "bitter": 0.1}),
        _milder,
    ),
    ("Leaner", "As little fat as such a dish can carry.", Style({"rich": 0.0}), _leaner),
    ("Uses up more", "More of what must go today.", Style(using_up=3.0), _goes_further),
    ("Cheapest", "The least cost by your own prices.", Style(prices=2.0), _cheaper),
)
"""What proposals lean to; each is kept only if it is what it is called against the first."""
