"""Proposes dishes: the best blends of several styles, each worked out whole; where none holds, the
nearest ones."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace

from fresh_ladle.core.catalogue.formula import Role
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.compose.blend import UNBROKEN, Blender, Style
from fresh_ladle.core.compose.house import House
from fresh_ladle.core.compose.options import Stock, servings_that_fit, stocks
from fresh_ladle.core.compose.proposal import Proposal, worked_out
from fresh_ladle.core.compose.request import MAX_TO_BUY, ComposeRequest
from fresh_ladle.core.plans.beam import Found
from fresh_ladle.core.recipes.recipe import RecipeError

ROUNDS = 3
"""Times a blend is looked for again, a little tighter, when it does not hold once it is worked out
whole."""
NOTICED = 0.5
"""Steps by which a proposal that is called brighter or milder must be so."""
NEARLY = 0.1
"""Share of the energy by which two proposals of the same foods differ and are yet one."""
LEANER = 0.9
"""Share of the fat of the first that a leaner proposal may have at most."""


@dataclass(frozen=True, slots=True)
class Composition:
    """What was found. `proposals` hold all that was asked; where there is none, `nearest` come near
    it. `open_roles` are needed roles for which there is nothing in the house; `would_do` is a
    proposal that holds but asks for more than was allowed to be bought."""

    request: ComposeRequest
    """What was asked, for no more servings than the main food in the house goes round for."""
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

    Raises RecipeError when nothing that is in the house, or could be bought, may go into a dish of
    this kind, and for a food put on a role that the kind does not have, or that may not go in."""
    held = stocks(request, house, knowledge)
    _check_roles(request, house, held, knowledge)
    if not held:
        raise RecipeError(
            "nothing of this can go into such a dish: name a food that may, or allow more to be"
            " bought"
        )
    open_roles = _open_roles(request, held, knowledge)
    kitchens: list[_Kitchen] = []
    for servings in servings_that_fit(request, held, knowledge):
        kitchen = _Kitchen(
            replace(request, servings=servings), house, knowledge, prices or {}, stopped
        )
        kitchens.append(kitchen)
        if (first := kitchen.first()) is not None:
            found(first)
            others = kitchen.others(first, found)
            return Composition(kitchen.request, (first, *others), (), open_roles, None)
    for kitchen in kitchens:
        near = kitchen.nearest()
        if near and near[0].as_asked:
            break
    for one in near:
        found(one)
    return Composition(kitchen.request, (), near, open_roles, kitchen.would_do())


def _check_roles(
    request: ComposeRequest, house: House, held: list[Stock], knowledge: Knowledge
) -> None:
    """What the cook put on a role goes in, or it is said why not."""
    formula = knowledge.composing.formulas[request.kind]
    there = [s.held for s in held if s.forced]
    for one in house.held:
        if one.role is None:
            continue
        if formula.role(one.role) is None:
            roles = ", ".join(r.id for r in formula.roles)
            raise RecipeError(f"such a dish has no role {one.role!r}; it has {roles}")
        if not any(one is other for other in there):
            raise RecipeError(
                f"{one.named} may not go in: the school, or what is to be left out, rules it out"
            )


class _Kitchen:
    """Finds a blend for a style and works it out; where it does not hold by the exact model, looks
    again, tighter."""

    def __init__(
        self,
        request: ComposeRequest,
        house: House,
        knowledge: Knowledge,
        prices: Mapping[str, float],
        stopped: Callable[[], bool],
    ) -> None:
        self.request, self.knowledge, self.prices, self._stopped = (
            request,
            knowledge,
            prices,
            stopped,
        )
        self.blender = Blender(
            request, stocks(request, house, knowledge), knowledge, prices, stopped
        )
        if not self.blender.options:
            raise RecipeError(
                "there is too little of everything for a dish of this size: ask for fewer servings"
            )
        self._begin: tuple[tuple[int, ...], ...] = ()
        """Blends that the search begins from, once the first is found."""
        self._last: tuple[int, ...] = ()

    def first(self) -> Proposal | None:
        """The proposal in the middle that holds with the fewest things to buy; None where none
        does."""
        why = "Every taste inside what such dishes are liked for."
        return self._with_fewest_bought("In the middle", why, 0, self.request.most_to_buy)

    def would_do(self) -> Proposal | None:
        """What holds if more may be bought."""
        least = self.request.most_to_buy + 1
        return self._with_fewest_bought(
            "With more bought", "All that was asked, with more to buy.", least, MAX_TO_BUY
        )

    def _with_fewest_bought(self, name: str, why: str, least: int, most: int) -> Proposal | None:
        """The first that holds: a quick look at the least, then whether the most is enough at all,
        then upwards."""
        if least > most:
            return None
        whole = self._buying(least, name, why, thorough=False) or self._buying(most, name, why)
        if whole is None or len(whole.buy) <= least:
            return whole
        fewer = (self._buying(to_buy, name, why) for to_buy in range(least, len(whole.buy)))
        return (
            next((one for one in fewer if one is not None), None)
            or self._buying(len(whole.buy), name, why)
            or whole
        )

    def _buying(self, to_buy: int, name: str, why: str, thorough: bool = True) -> Proposal | None:
        self.blender.most_to_buy = to_buy
        one = self.proposal(name, why, Style(), thorough)
        return one if one.holds(self.request.chance) else None

    def others(self, first: Proposal, found: Callable[[Proposal], None]) -> list[Proposal]:
        """Proposals that lean another way than the first, and buy no more."""
        kept: list[Proposal] = []
        self._begin = (self._last,)
        for name, why, style, differs in _STYLES:
            if self._stopped():
                break
            if style.prices and not self.prices:
                continue
            other = self.proposal(name, why, style)
            new = all(p.key != other.key and not _nearly(p, other) for p in (first, *kept))
            if new and other.holds(self.request.chance) and differs(first, other):
                kept.append(other)
                found(other)
        return kept

    def nearest(self) -> tuple[Proposal, ...]:
        """Where nothing holds: the nearest that keeps the tastes, and the nearest that keeps the
        targets."""
        near: list[Proposal] = []
        for name, why, style in _NEAREST if self.request.targets else _NEAREST[:1]:
            one = self.proposal(name, why, style)
            main = next(r for r in self.blender.formula.roles if r.needed)
            if main not in one.missing and all(p.key != one.key for p in near):
                near.append(one)
        return tuple(near)

    def proposal(self, name: str, why: str, style: Style, thorough: bool = True) -> Proposal:
        """The best found for a style, worked out whole; looked for from more sides when
        `thorough`."""
        blender = self.blender
        blender.margins[:] = 0.0
        result: Proposal | None = None
        for _ in range(ROUNDS):
            best = self._blend(style, thorough)
            result = self._worked_out(name, why, best)
            if best.broken > UNBROKEN or result.holds(self.request.chance) or style.targets_give:
                break
            for place, target in enumerate(self.request.targets):
                if result.meets[target] < self.request.chance:
                    blender.margins[place] += 0.01
        assert result is not None
        self._last = best.taken
        return result

    def _blend(self, style: Style, thorough: bool) -> Found:
        """The best blend for a style; where it breaks something, looked for once more from blends
        that keep the targets alone, and the tastes alone."""
        best = self.blender.best(style, self._begin)
        if best.broken <= UNBROKEN or style.windows_give or style.targets_give:
            return best
        if not thorough or not self.request.targets:
            return best
        ways = (replace(style, windows_give=True), replace(style, targets_give=True))
        begin = tuple(self.blender.best(way, self._begin).taken for way in ways)
        again = self.blender.best(style, (*begin, best.taken))
        return min(best, again, key=lambda f: f.rank)

    def _worked_out(self, name: str, why: str, best: Found) -> Proposal:
        options = [self.blender.options[n] for n in best.taken]
        as_asked = self.blender.as_asked(best)
        return worked_out(name, why, options, self.request, self.knowledge, self.prices, as_asked)


def _open_roles(
    request: ComposeRequest, held: list[Stock], knowledge: Knowledge
) -> tuple[Role, ...]:
    played = {s.role.id for s in held if not s.bought}
    return tuple(
        r
        for r in knowledge.composing.formulas[request.kind].roles
        if r.needed and r.id not in played
    )


def _nearly(one: Proposal, other: Proposal) -> bool:
    """Whether two proposals are one to who cooks and eats them: the same foods, the same energy
    within a tenth, and no taste plainly another."""
    foods = [{part.option.stock.thing for part in proposal.parts} for proposal in (one, other)]
    energy = [proposal.after.totals.serving["energy_kcal"].value for proposal in (one, other)]
    alike = all(
        abs(one.standings[a].steps - other.standings[a].steps) < NOTICED for a in one.standings
    )
    return foods[0] == foods[1] and abs(energy[0] - energy[1]) <= NEARLY * max(energy) and alike


def _sour(first: Proposal, other: Proposal) -> bool:
    return other.standings["sour"].steps - first.standings["sour"].steps >= NOTICED


def _milder(first: Proposal, other: Proposal) -> bool:
    def loudness(proposal: Proposal) -> float:
        tasted = proposal.after.tasted
        return (
            proposal.standings["sour"].steps
            + proposal.standings["salt"].steps
            + 0.1 * tasted["hot"]
        )

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
    (
        "Brighter",
        "Plainly more acid than the first.",
        Style({"sour": 0.85, "rich": 0.25, "sweet": 0.25}),
        _sour,
    ),
    (
        "Milder",
        "Less of acid, salt and heat together than the first.",
        Style(
            {"sour": 0.15, "salt": 0.1, "sweet": 0.5, "rich": 0.55},
            quiet={"hot": 0.15, "bitter": 0.1},
        ),
        _milder,
    ),
    ("Leaner", "Less fat than the first, by a tenth at least.", Style({"rich": 0.0}), _leaner),
    (
        "Uses up more",
        "More of what must go today than the first.",
        Style(using_up=3.0),
        _goes_further,
    ),
    ("Cheaper", "Costs less than the first by your own prices.", Style(prices=2.0), _cheaper),
)
"""What proposals lean to; each is kept only if it is what it is called against the first."""
_NEAREST = (
    (
        "Nearest",
        "Every taste in its window first, the targets as near as that allows.",
        Style(targets_give=True),
    ),
    (
        "Targets first",
        "The targets met, the tastes as near as that allows.",
        Style(windows_give=True),
    ),
)
