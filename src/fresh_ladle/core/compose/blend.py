"""Finds what goes into a dish and how much: amounts in kitchen measures, within the windows of its
kind.

A blend is a set of options, one amount of one food each. All that is asked of it (windows, shares
of roles, targets, the size of the batch, how much may be bought) follows from sums over its
options, so that thousands of neighbors of a blend are judged at once. From several beginnings the
best exchange is made again and again until none is better."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from itertools import combinations

import numpy as np
from numpy.typing import NDArray

from fresh_ladle.core.amounts.bowl import portions
from fresh_ladle.core.catalogue.formula import Formula
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.compose.method import first_method
from fresh_ladle.core.compose.options import Option, Stock, line_of, options_of
from fresh_ladle.core.compose.request import ComposeRequest
from fresh_ladle.core.flavor.parameters import AXIS_IDS
from fresh_ladle.core.flavor.windows import Window
from fresh_ladle.core.method.follow import as_made, reached_by
from fresh_ladle.core.method.process import Outcome
from fresh_ladle.core.plans.beam import Found
from fresh_ladle.core.plans.sums import COST, FLOORS, MASS, STEP_UNITS, Bowl, Rows
from fresh_ladle.core.recipes.recipe import MAX_LINES, Line, Recipe
from fresh_ladle.core.whole.appraisal import appraise

BATCH_SLACK = 0.1
"""Share of the batch by which it may come out larger or smaller."""
PER_FOOD, PER_BOUGHT, PER_RANK, PER_UNUSUAL, PER_DISCORD = 0.1, 2.0, 0.05, 0.25, 0.3
"""What one more food costs, one that has to be bought, each that comes before that, one that is not
expected on its role, and each pair of foods that are at home at no table together."""
PER_MIDDLE, PER_SHARE = 0.3, 0.06
"""What the edge of a window costs against its best point, and the edge of a role's share against
its middle."""
GAIN_TODAY, GAIN_HELD, GAIN_ALL = 2.0, 0.35, 0.6
"""What it is worth to use a food that must go today, one that was counted out, and all of such a
food."""
PAIRED = 26
"""Options that are put in two at a time."""
MAX_STARTS = 6
PER_TOO_MANY = 50.0
"""What breaks most: more to buy than was allowed."""
UNBROKEN = 1e-6
WORTH: Mapping[str, float] = {
    "aromatic": 0.35, "herb": 0.4, "spice": 0.25, "emulsifier": 0.25, "crisp": 0.35, "juicy": 0.35,
    "crunch": 0.3,
    "rich": 0.3, "protein": 0.15, "sweet": 0.05, "hot": 0.12, "accent": 0.15, "vegetable": 0.25,
    "fresh": 0.35,
    "savory": 0.3, "cheese": 0.35, "zest": 0.15, "binder": 0.15, "leaf": 0.25, "stretch": 0.05,
    "dried-fruit": 0.1,
    "thickener": 0.1,
}  # fmt: skip
"""What it is worth to have a role played that need not be (a cook's judgement)."""
Numbers = NDArray[np.intp]


@dataclass(frozen=True)
class Style:
    """What a proposal leans to. `lean` is where in its window an axis is best, 0 at the low end and
    1 at the high; `prices` weighs the cost of the batch, `using_up` what is gained by using what
    must go. With `windows_give` or `targets_give` these may be missed, by as little as can be."""

    lean: Mapping[str, float] = field(default_factory=dict)
    prices: float = 0.0
    using_up: float = 1.0
    windows_give: bool = False
    targets_give: bool = False
    quiet: Mapping[str, float] = field(default_factory=dict)
    """What each noticeable step of a taste without a window costs."""


def _as_made(line: Line, outcome: Outcome | None, knowledge: Knowledge) -> Line:
    if outcome is None or line.batch is not None:
        return line
    return replace(line, reached=reached_by(outcome, line, knowledge.ground))


_USUAL_LEAN: Mapping[str, float] = {"salt": 0.3, "sour": 0.5, "sweet": 0.4, "rich": 0.45}
_AXIS_CARE: Mapping[str, float] = {
    "salt": 1.0,
    "sour": 1.0,
    "sweet": 0.6,
    "rich": 0.6,
    "aroma": 0.15,
    "body": 0.2,
}


class Blender:
    """All options of one request, and the search through their blends."""

    def __init__(
        self,
        request: ComposeRequest,
        held: Sequence[Stock],
        knowledge: Knowledge,
        prices: Mapping[str, float],
        stopped: Callable[[], bool] = lambda: False,
    ) -> None:
        self.request, self.stopped = request, stopped
        self.most_to_buy = request.most_to_buy
        self.formula: Formula = knowledge.composing.formulas[request.kind]
        self.windows: Mapping[str, Window] = knowledge.windows.get(request.kind, {})
        self.options: list[Option] = []
        for stock in held:
            self.options += options_of(stock, request, knowledge)
        empty = appraise(
            Recipe("blend", (), request.kind, request.servings, region=request.region), knowledge
        )
        self.bowl = Bowl(empty, empty, request.targets, request.chance, prices)
        self.margins = np.zeros(len(request.targets))
        self._sums = len(self.bowl.start)
        self._foods = {
            thing: n for n, thing in enumerate(dict.fromkeys(o.stock.thing for o in self.options))
        }
        self._food_of = np.array([self._foods[o.stock.thing] for o in self.options], dtype=np.intp)
        self._role_ids = [r.id for r in self.formula.roles]
        self._role_of = np.array(
            [self._role_ids.index(o.stock.role.id) for o in self.options], dtype=np.intp
        )
        self._forced = {(o.stock.thing, o.stock.role.id) for o in self.options if o.stock.forced}
        self._rows = self._all_rows(knowledge)
        self._discord = self._discords(knowledge)
        roles = self.formula.roles
        self._low, self._high = (
            np.array([getattr(r, end) for r in roles]) for end in ("low", "high")
        )
        on_role = Counter(role for _, role in self._forced)
        self._most = np.array([float(max(r.most, on_role[r.id])) for r in roles])
        self._needed = np.array([r.needed for r in roles])
        self._worth = np.array([0.0 if r.needed else WORTH.get(r.id, 0.0) for r in roles])

    # ------------------------------------------------------------ what each option brings

    def _all_rows(self, knowledge: Knowledge) -> Rows:
        """For each option the sums of its line, then what it adds to its role and to the count of
        its foods, whether the cook put it there, what it costs, whether it is bought, and what it
        gains."""
        roles, request = len(self.formula.roles), self.request
        rows = np.zeros((len(self.options), self._sums + 2 * roles + 4))
        outcomes = self._outcomes(knowledge)
        for first in range(0, len(self.options), MAX_LINES):
            part = self.options[first : first + MAX_LINES]
            lines = tuple(
                _as_made(line_of(option, f"l{n}"), outcomes.get(option.stock.role.id), knowledge)
                for n, option in enumerate(part)
            )
            recipe = Recipe("options", lines, request.kind, request.servings, region=request.region)
            weighed = portions(
                recipe, knowledge.pantry, knowledge.preparations, knowledge.ambiguities
            )
            for portion in weighed:
                n = first + int((portion.batch_line or portion.line.id).removeprefix("l"))
                rows[n, : self._sums] += self.bowl.sums([portion])
        for n, option in enumerate(self.options):
            place = self._sums + self._role_of[n]
            rows[n, place] = rows[n, MASS]
            rows[n, place + roles] = 1.0
            rows[n, -4] = 1.0 if option.stock.forced else 0.0
            rows[n, -3] = self._own_cost(option, rows[n, MASS], knowledge)
            rows[n, -2] = 1.0 if option.stock.bought else 0.0
            rows[n, -1] = self._gain(option, rows[n, MASS])
        return rows

    def _outcomes(self, knowledge: Knowledge) -> dict[str, Outcome]:
        """What the method of this kind of dish makes of each role: salt that draws water is poured
        off with it."""
        plain = [o for o in self.options if o.stock.held is None or o.stock.held.batch is None]
        first = {o.stock.role.id: o for o in reversed(plain)}
        lines = {role: line_of(option, f"l{n}") for n, (role, option) in enumerate(first.items())}
        method = first_method(self.formula, {role: [line.named] for role, line in lines.items()})
        request = self.request
        recipe = Recipe(
            "usual",
            tuple(lines.values()),
            request.kind,
            request.servings,
            region=request.region,
            method=method,
        )
        outcomes = as_made(recipe, knowledge.ground).process.outcomes
        return {role: outcomes[line.id] for role, line in lines.items() if line.id in outcomes}

    def _own_cost(self, option: Option, grams: float, knowledge: Knowledge) -> float:
        stock = option.stock
        strong = knowledge.composing.strong.get(stock.food.key)
        usual = (
            2.5 * stock.role.low / (1 if stock.role.most == 1 else 1.4)
            if strong is None
            else 0.4 * strong
        )
        middle = min(0.5 * (stock.role.low + stock.role.high), usual)
        share = 100 * grams / self.request.batch_grams
        off = np.log(max(share, 1e-3) / middle) if stock.role.low > 0 else 0.0
        return float(
            PER_FOOD
            + (PER_BOUGHT + PER_RANK * stock.rank if stock.bought else 0.0)
            + (0.0 if stock.usual else PER_UNUSUAL)
            + (0.04 if option.rung.odd else 0.0)
            + PER_SHARE * off**2
        )

    def _gain(self, option: Option, grams: float) -> float:
        stock = option.stock
        if stock.grams is None or stock.held is None:
            return GAIN_TODAY if stock.today else 0.0
        used = min(1.0, grams / stock.grams)
        return (GAIN_TODAY if stock.today else GAIN_HELD) + (
            GAIN_ALL if stock.today else 0.3
        ) * used

    def _discords(self, knowledge: Knowledge) -> Rows:
        """Pairs of foods that are at home at tables, and at none together."""
        accords = [knowledge.composing.accords.get(key) for key in self._foods]
        found = np.zeros((len(accords), len(accords)))
        for one, other in combinations(range(len(accords)), 2):
            a, b = accords[one], accords[other]
            if a and b and not a & b:
                found[one, other] = found[other, one] = PER_DISCORD
        return found

    # ------------------------------------------------------------ search

    def best(self, style: Style, begin: Sequence[tuple[int, ...]] = ()) -> Found:
        """The best blend found for a style, from its own beginnings and those given."""
        starts = list(begin) or self._starts()
        found = [self._improved(self._judged_one(taken, style), style) for taken in starts]
        best = min(found, key=lambda f: (f.rank, f.taken))
        return self._improved_further(best, style)

    def as_asked(self, found: Found) -> bool:
        """Whether shares of roles, the size of the batch, and what is to be bought are within what
        was asked."""
        row = self._sum(found.taken)[None]
        return bool(self._measure_broken(row)[0] <= UNBROKEN)

    def _starts(self) -> list[tuple[int, ...]]:
        """For each food that could be the main of the dish, what comes nearest from it alone."""
        first = next((n for n, r in enumerate(self.formula.roles) if r.needed), 0)
        on_first = [n for n in range(len(self.options)) if self._role_of[n] == first]
        by_food: dict[int, list[int]] = {}
        for n in on_first:
            by_food.setdefault(int(self._food_of[n]), []).append(n)
        ends = []
        for numbers in by_food.values():
            largest = max(numbers, key=lambda n: self._rows[n, MASS])
            stock = self.options[largest].stock
            ends.append(
                (
                    (stock.bought, not stock.forced, not stock.today, not stock.usual, largest),
                    largest,
                )
            )
        starts = [(largest,) for _, largest in sorted(ends)[:MAX_STARTS]]
        forced = self._one_of_each_forced()
        return [
            tuple(sorted({*forced, *s})) if not self._clash(forced, s) else forced for s in starts
        ] or [forced]

    def _one_of_each_forced(self) -> tuple[int, ...]:
        found: dict[tuple[str, str], list[int]] = {}
        for n, option in enumerate(self.options):
            key = (option.stock.thing, option.stock.role.id)
            if key in self._forced:
                found.setdefault(key, []).append(n)
        return tuple(sorted(numbers[len(numbers) // 2] for numbers in found.values()))

    def _clash(self, taken: tuple[int, ...], others: tuple[int, ...]) -> bool:
        foods = {int(self._food_of[n]) for n in taken}
        return any(int(self._food_of[n]) in foods for n in others)

    def _improved(self, found: Found, style: Style) -> Found:
        """After the best exchange of one option, again and again until none is better."""
        while not self.stopped():
            better = self._best_exchange(found, style)
            if better is None or better.rank >= (found.rank[0], found.cost - 1e-6):
                return found
            found = better
        return found

    def _improved_further(self, found: Found, style: Style) -> Found:
        """The same with two options put in at once for one or two taken out."""
        for _ in range(6):
            if self.stopped():
                return found
            better = self._best_pair(found, style)
            if better is None or better.rank >= (found.rank[0], found.cost - 1e-6):
                return found
            found = self._improved(better, style)
        return found

    def _best_exchange(self, now: Found, style: Style) -> Found | None:
        rest = [now.taken, *(now.taken[:n] + now.taken[n + 1 :] for n in range(len(now.taken)))]
        best: Found | None = None
        for taken in rest:
            which = self._free(taken)
            rows = self._sum(taken)
            every = np.concatenate([rows[None], rows + self._rows[which]])
            discord = self._discord_of(taken)
            discords = np.concatenate(
                [[discord], discord + self._discord_with(taken)[self._food_of[which]]]
            )
            broken, cost = self._judged(every, discords, style)
            at = int(np.lexsort((cost, np.round(broken, 9)))[0])
            after = taken if at == 0 else tuple(sorted((*taken, int(which[at - 1]))))
            one = Found(float(broken[at]), float(cost[at]), after)
            if best is None or (one.rank, one.taken) < (best.rank, best.taken):
                best = one
        return best

    def _best_pair(self, now: Found, style: Style) -> Found | None:
        count = range(len(now.taken))
        best: Found | None = None
        for gone in [(), *((n,) for n in count), *combinations(count, 2)]:
            taken = tuple(m for n, m in enumerate(now.taken) if n not in gone)
            which = self._free(taken)
            if len(which) < 2:
                continue
            base, discord, with_base = (
                self._sum(taken),
                self._discord_of(taken),
                self._discord_with(taken),
            )
            alone = self._judged(
                base + self._rows[which], discord + with_base[self._food_of[which]], style
            )
            promising = which[np.argsort(alone[1] + 4 * alone[0], kind="stable")[:PAIRED]]
            one, other = np.triu_indices(len(promising), 1)
            one, other = promising[one], promising[other]
            apart = self._food_of[one] != self._food_of[other]
            one, other = one[apart], other[apart]
            foods = self._food_of[one], self._food_of[other]
            discords = discord + with_base[foods[0]] + with_base[foods[1]] + self._discord[foods]
            broken, cost = self._judged(base + self._rows[one] + self._rows[other], discords, style)
            if not len(broken):
                continue
            at = int(np.lexsort((cost, np.round(broken, 9)))[0])
            pair = Found(
                float(broken[at]),
                float(cost[at]),
                tuple(sorted((*taken, int(one[at]), int(other[at])))),
            )
            if best is None or (pair.rank, pair.taken) < (best.rank, best.taken):
                best = pair
        return best

    # ------------------------------------------------------------ judging

    def _judged_one(self, taken: tuple[int, ...], style: Style) -> Found:
        broken, cost = self._judged(
            self._sum(taken)[None], np.array([self._discord_of(taken)]), style
        )
        return Found(float(broken[0]), float(cost[0]), taken)

    def _judged(self, every: Rows, discords: Rows, style: Style) -> tuple[Rows, Rows]:
        """By how much each blend breaks what is asked, and what it costs."""
        roles = len(self.formula.roles)
        sums = every[:, : self._sums]
        counts = every[:, self._sums + roles : self._sums + 2 * roles]
        out, off = self._windows_judged(sums, style)
        cost = every[:, -3] - style.using_up * every[:, -1] + discords + off
        cost = cost - np.minimum(counts, 1.0) @ self._worth
        if style.prices:
            cost = cost + style.prices * sums[:, COST]
        broken = self._measure_broken(every)
        broken, cost = (broken, cost + 8 * out) if style.windows_give else (broken + out, cost)
        if self.request.targets:
            missed = np.maximum(0.0, self.bowl.misses(sums) + self.margins).sum(axis=1)
            broken, cost = (
                (broken, cost + 8 * missed) if style.targets_give else (broken + missed, cost)
            )
        return broken, cost

    def _windows_judged(self, sums: Rows, style: Style) -> tuple[Rows, Rows]:
        """How far each blend lies outside its windows, in quarters of a noticeable step, and how
        far from the best point inside them."""
        stimuli = self.bowl.stimuli(sums)
        out, off = np.zeros(len(sums)), np.zeros(len(sums))
        for axis, window in self.windows.items():
            place = AXIS_IDS.index(axis)
            value = stimuli[:, place]
            floor, unit = FLOORS[place], STEP_UNITS[place]
            scaled, low, high = (np.log(v + floor) / unit for v in (value, window.low, window.high))
            out += (np.maximum(0.0, low - scaled) + np.maximum(0.0, scaled - high)) / 4
            best = style.lean.get(axis, _USUAL_LEAN.get(axis, 0.5))
            at = (scaled - low) / (high - low)
            off += PER_MIDDLE * _AXIS_CARE.get(axis, 0.3) * ((at - best) / 0.5) ** 2
        for axis, care in style.quiet.items():
            place = AXIS_IDS.index(axis)
            off += (
                care
                * np.log((stimuli[:, place] + FLOORS[place]) / FLOORS[place])
                / STEP_UNITS[place]
            )
        return out, off

    def _measure_broken(self, every: Rows) -> Rows:
        """By how much shares of roles, the batch and what is to be bought lie outside what was
        asked."""
        roles = len(self.formula.roles)
        grams = every[:, self._sums : self._sums + roles]
        counts = every[:, self._sums + roles : self._sums + 2 * roles]
        left_out = np.maximum(0.0, len(self._forced) - every[:, -4])
        size = np.abs(every[:, MASS] / self.request.batch_grams - 1)
        broken = (
            self._roles_broken(grams, counts) + left_out + 4 * np.maximum(0.0, size - BATCH_SLACK)
        )
        return np.asarray(broken + PER_TOO_MANY * np.maximum(0.0, every[:, -2] - self.most_to_buy))

    def _roles_broken(self, grams: Rows, counts: Rows) -> Rows:
        share = 100 * grams / self.request.batch_grams
        played = counts > 0.5
        low = np.where(played, np.maximum(0.0, self._low - share) / self._low, 0.0)
        high = np.maximum(0.0, share - self._high) / self._high
        absent = self._needed & ~played
        many = np.maximum(0.0, counts - self._most)
        return np.asarray((low + high + absent + many).sum(axis=1))

    # ------------------------------------------------------------ small things

    def _sum(self, taken: tuple[int, ...]) -> Rows:
        return (
            np.asarray(self._rows[list(taken)].sum(axis=0))
            if taken
            else np.zeros(self._rows.shape[1])
        )

    def _free(self, taken: tuple[int, ...]) -> Numbers:
        """Options of foods that are not in the blend."""
        return (
            np.flatnonzero(~np.isin(self._food_of, self._food_of[list(taken)]))
            if taken
            else np.arange(len(self.options))
        )

    def _discord_of(self, taken: tuple[int, ...]) -> float:
        return float(
            sum(
                self._discord[self._food_of[a], self._food_of[b]] for a, b in combinations(taken, 2)
            )
        )

    def _discord_with(self, taken: tuple[int, ...]) -> Rows:
        return (
            self._discord[:, self._food_of[list(taken)]].sum(axis=1)
            if taken
            else np.zeros(len(self._foods))
        )
