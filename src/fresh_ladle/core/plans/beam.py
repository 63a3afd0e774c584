"""Looks for versions on the exact model: a beam of partial plans, one change more each round, then
single exchanges.

Every version a round could lead to is tasted and counted at once. Versions that still miss a limit
stay in the running, since a later change may mend what an earlier one broke: a third of the beam is
kept by what it costs, two by how near it comes. What is left is improved by taking out, putting in
or exchanging one change at a time until nothing is gained. Nothing is left to chance: the same
question has the same answer."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from itertools import combinations

import numpy as np
from numpy.typing import NDArray

from fresh_ladle.core.nutrients.targets import Target
from fresh_ladle.core.plans.decision import Lever, lever_of
from fresh_ladle.core.plans.move import Moves
from fresh_ladle.core.plans.request import PlanRequest
from fresh_ladle.core.plans.sums import COST, Bowl, Rows, Tasted

MIN_YIELD, MAX_YIELD = 0.85, 1.5
"""The batch may shrink and grow this far where a serving is a weight or a measure of it."""
MIN_HELPING, MAX_HELPING = 0.97, 1.03
"""Where it is a share of the bowl, a serving stays as large as it was."""
PER_SHRINKING = 1.5
"""Steps of taste that the batch shrinking to nothing is worth: fewer servings are no adaptation."""
PER_CHANGE = 1 / 3
"""Steps of taste that a change is worth: what it has to save to be made."""
IDLE = 0.3
"""Steps of taste that a change has to save to keep its place."""
PER_OTHER_LEVER = 1.5
_MAIN = frozenset({Lever.EXCHANGE, Lever.LESS, Lever.MORE})
"""What another lever costs where one is looked for, and which they are."""
PER_SOFT_MISS = 3.0
PER_MISS, ANY_MISS = 100.0, 2.0
"""When as near as can be is looked for: a limit missed by the whole of it, and missed at all."""
PER_YIELD = 4.0
"""The bowl outside its band by the whole of it."""
PER_STAYING = 2.0
"""For each line that a school would rather not have, by the share of it that stays."""
WIDTH, IMPROVED, IMPROVED_FURTHER, PAIRED_MOVES = 48, 6, 2, 50
"""Partial plans kept each round, those of them that are improved in the end, and of these those
that are improved by two changes at once, from the most promising moves."""
SIZES, WAYS = 5, 2
"""Of one more change to one partial plan: sizes kept, and ways to come to one size."""
LOOKS = ((1.0, 2.0), (1.0, 12.0), (0.15, 12.0))
"""What each third of the beam looks at: weights of what a version costs, and of a limit missed by
the whole of it or a taste by four steps. The last keeps what is far from the taste and would be
within it after one change more."""
SLACK = 1e-9
Numbers = NDArray[np.int64]
Rated = tuple[Rows, Rows]
"""What each version costs, and by how much it breaks its limits."""


def band_of(bowl: Bowl) -> tuple[float, float]:
    """The shares of its weight between which a batch may end."""
    return (MIN_HELPING, MAX_HELPING) if bowl.keeps_weight else (MIN_YIELD, MAX_YIELD)


@dataclass(frozen=True)
class Aim:
    """What a plan is to be good at. `prices` weighs the cost of the batch. With `nearest`, limits
    may be missed, by as little as can be. With a `lever` the others are pulled only where that one
    does not do."""

    taste: float = 1.0
    changes: float = PER_CHANGE
    prices: float = 0.0
    nearest: bool = False
    lever: Lever | None = None
    larger: bool = False
    """Whether a serving may grow."""


@dataclass(frozen=True)
class Found:
    """A version: the numbers of the moves it takes, and what it costs."""

    broken: float
    cost: float
    taken: tuple[int, ...]

    @property
    def rank(self) -> tuple[float, float]:
        """What breaks less comes first, then what costs less."""
        return round(self.broken, 9), self.cost


@dataclass
class Beam:
    """One recipe, its moves, and the limits. `margins` holds what each target is tightened by, as a
    share of its limit; `tighter` what every taste is, in steps; `narrower` what the band of the
    serving is; `unwanted` are lines that are better gone."""

    bowl: Bowl
    moves: Moves
    request: PlanRequest
    unwanted: frozenset[str] = frozenset()
    margins: dict[Target, float] = field(default_factory=dict)
    tighter: float = 0.0
    narrower: float = 0.0
    stopped: Callable[[], bool] = lambda: False

    @cached_property
    def _levers(self) -> list[Lever]:
        return [lever_of(move.ways[0]) for move in self.moves.moves]

    def best(self, aim: Aim, start: Sequence[tuple[int, ...]] = ()) -> Found:
        """The best version found for an aim; `start` are versions to improve beside the beam's own.
        Where all break a limit, the one that does so least."""
        pool = {found.taken: found for found in self._spread(aim)}
        for taken in start:
            if taken in pool or self._changes([taken])[0] > self.request.max_changes:
                continue
            rated = self._rated(
                self._sum([taken]),
                self._changes([taken]),
                self._own_cost([taken], aim),
                [taken],
                aim,
            )
            pool[taken] = Found(float(rated[1][0]), float(rated[0][0]), taken)
        ends = self._first_of(list(pool.values()), IMPROVED)
        improved = {end.taken: end for end in (self._improved(found, aim) for found in ends)}
        for end in self._first_of(list(improved.values()), 0 if aim.nearest else IMPROVED_FURTHER):
            further = self._improved_further(end, aim)
            improved[further.taken] = further
        found = [*improved.values(), *(p for p in pool.values() if p.taken not in improved)]
        return self._pruned(min(found, key=lambda f: (f.rank, f.taken)), aim)

    def _pruned(self, found: Found, aim: Aim) -> Found:
        """The version without the changes that do not earn their place: all holds as well, and
        taste is hardly worse, when they are left out."""
        if aim.nearest or found.broken > SLACK or len(found.taken) < 2:
            return found
        rest = [found.taken[:n] + found.taken[n + 1 :] for n in range(len(found.taken))]
        plans = [found.taken, *rest]
        rows = self._sum(plans)
        cost, broken = self._rated(
            rows, self._changes(plans), self._own_cost(plans, aim), plans, aim
        )
        felt = self.bowl.tasted(rows).drift
        idle = [
            n for n in range(len(rest)) if broken[n + 1] <= SLACK and felt[n + 1] <= felt[0] + IDLE
        ]
        if not idle:
            return found
        at = min(idle, key=lambda n: float(felt[n + 1]))
        return self._pruned(Found(float(broken[at + 1]), float(cost[at + 1]), rest[at]), aim)

    # ------------------------------------------------------------ rounds

    def _spread(self, aim: Aim) -> list[Found]:
        """All partial plans the rounds kept."""
        none: tuple[int, ...] = ()
        cost, broken = self._rated(self.bowl.start[None], np.zeros(1), np.zeros(1), [none], aim)
        kept = [Found(float(broken[0]), float(cost[0]), none)]
        beam = kept
        seen = {frozenset(none)}
        for _ in range(self.request.max_changes):
            if self.stopped() or not len(self.moves.moves):
                break
            beam = self._round(beam, aim, seen)
            if not beam:
                break
            kept = kept + beam
        return kept

    def _round(self, beam: Sequence[Found], aim: Aim, seen: set[frozenset[int]]) -> list[Found]:
        """The partial plans that one more change makes of these, the most promising of them."""
        parents, numbers, rows = [], [], []
        changes, own = [], []
        base_rows, base_cost = (
            self._sum([f.taken for f in beam]),
            self._own_cost([f.taken for f in beam], aim),
        )
        base_changes = self._changes([f.taken for f in beam])
        move_cost, move_changes = self._move_cost(aim), self.moves.changes
        for place, found in enumerate(beam):
            free = self._free(found.taken) & (
                base_changes[place] + move_changes <= self.request.max_changes
            )
            which = np.flatnonzero(free)
            parents.append(np.full(len(which), place))
            numbers.append(which)
            rows.append(base_rows[place] + self.moves.rows[which])
            changes.append(base_changes[place] + move_changes[which])
            own.append(base_cost[place] + move_cost[which])
        parent, number = np.concatenate(parents), np.concatenate(numbers)
        if not len(number):
            return []
        cost, broken = self._rated(
            np.concatenate(rows), np.concatenate(changes), np.concatenate(own), None, aim,
            self._unchanged_musts(parent, number, beam),
        )  # fmt: skip
        picked: list[Found] = []
        for per_cost, per_broken in LOOKS:
            order = np.argsort(per_cost * cost + per_broken * broken, kind="stable")
            left = WIDTH // len(LOOKS)
            kept: Counter[tuple[int, ...]] = Counter()
            for at in order:
                if left == 0:
                    break
                taken = tuple(sorted((*beam[parent[at]].taken, int(number[at]))))
                # A few sizes of one change, and a few ways to each, are enough: the beam should
                # hold different plans.
                slot = int(parent[at]), int(self.moves.slot_of[number[at]])
                size = (*slot, round(1000 * self.moves.moves[number[at]].gone))
                if frozenset(taken) in seen or kept[slot] >= SIZES or kept[size] >= WAYS:
                    continue
                kept[slot] += 1
                kept[size] += 1
                seen.add(frozenset(taken))
                picked.append(Found(float(broken[at]), float(cost[at]), taken))
                left -= 1
        return picked

    def _improved(self, found: Found, aim: Aim) -> Found:
        """The version after the best exchange of one change, again and again until none is
        better."""
        now = found
        while not self.stopped():
            better = self._best_exchange(now, aim)
            if better is None or better.rank >= (now.rank[0], now.cost - 1e-6):
                return now
            now = better
        return now

    def _improved_further(self, found: Found, aim: Aim) -> Found:
        """The same with two changes put in at once, for one or two taken out, where single ones
        gain nothing."""
        now = self._improved(found, aim)
        while not self.stopped():
            better = self._best_pair(now, aim)
            if better is None or better.rank >= (now.rank[0], now.cost - 1e-6):
                return now
            now = self._improved(better, aim)
        return now

    def _best_pair(self, now: Found, aim: Aim) -> Found | None:
        """The best version with up to two changes of this one taken out and two of the most
        promising put in."""
        count = range(len(now.taken))
        out = [(), *((n,) for n in count), *combinations(count, 2)]
        rest = [tuple(m for n, m in enumerate(now.taken) if n not in gone) for gone in out]
        bases, base_changes, move_cost = self._sum(rest), self._changes(rest), self._move_cost(aim)
        base_cost = self._own_cost(rest, aim)
        rows, changes, own, plans = [], [], [], list[tuple[int, ...]]()
        for place, taken in enumerate(rest):
            fits = base_changes[place] + self.moves.changes < self.request.max_changes
            which = np.flatnonzero(self._free(taken) & fits)
            if not len(which):
                continue
            alone = self._rated(
                bases[place] + self.moves.rows[which],
                base_changes[place] + self.moves.changes[which],
                base_cost[place] + move_cost[which],
                None,
                aim,
            )
            per_cost, per_broken = LOOKS[1]
            order = np.argsort(per_cost * alone[0] + per_broken * alone[1], kind="stable")
            best = which[order[:PAIRED_MOVES]]
            one, other = np.triu_indices(len(best), 1)
            one, other = best[one], best[other]
            slots = self.moves.slot_of
            apart = np.array(
                [
                    int(slots[b]) not in self.moves.apart[int(slots[a])]
                    for a, b in zip(one, other, strict=True)
                ]
            )
            few = (
                base_changes[place] + self.moves.changes[one] + self.moves.changes[other]
                <= self.request.max_changes
            )
            one, other = one[apart & few], other[apart & few]
            rows.append(bases[place] + self.moves.rows[one] + self.moves.rows[other])
            changes.append(
                base_changes[place] + self.moves.changes[one] + self.moves.changes[other]
            )
            own.append(base_cost[place] + move_cost[one] + move_cost[other])
            plans += [
                tuple(sorted((*taken, int(a), int(b)))) for a, b in zip(one, other, strict=True)
            ]
        if not plans:
            return None
        musts = plans if self.moves.must else None
        cost, broken = self._rated(
            np.concatenate(rows), np.concatenate(changes), np.concatenate(own), musts, aim
        )
        at = int(np.lexsort((cost, np.round(broken, 9)))[0])
        return Found(float(broken[at]), float(cost[at]), plans[at])

    def _best_exchange(self, now: Found, aim: Aim) -> Found | None:
        """The best version with one change of this one taken out, put in or exchanged."""
        rest = [now.taken, *(now.taken[:n] + now.taken[n + 1 :] for n in range(len(now.taken)))]
        bases, base_changes = self._sum(rest), self._changes(rest)
        base_cost, move_cost = self._own_cost(rest, aim), self._move_cost(aim)
        best: Found | None = None
        whole = [Found(0.0, 0.0, r) for r in rest]
        for place, taken in enumerate(rest):
            fits = base_changes[place] + self.moves.changes <= self.request.max_changes
            which = np.flatnonzero(self._free(taken) & fits)
            rows = np.concatenate([bases[place : place + 1], bases[place] + self.moves.rows[which]])
            changes = np.concatenate(
                [base_changes[place : place + 1], base_changes[place] + self.moves.changes[which]]
            )
            own = np.concatenate(
                [base_cost[place : place + 1], base_cost[place] + move_cost[which]]
            )
            parent = np.full(len(which) + 1, place)
            musts = self._unchanged_musts(parent, np.concatenate([[-1], which]), whole)
            cost, broken = self._rated(rows, changes, own, None, aim, musts)
            at = int(np.lexsort((cost, np.round(broken, 9)))[0])
            after = taken if at == 0 else tuple(sorted((*taken, int(which[at - 1]))))
            one = Found(float(broken[at]), float(cost[at]), after)
            if best is None or one.rank < best.rank:
                best = one
        return best

    @staticmethod
    def _first_of(found: Sequence[Found], count: int) -> list[Found]:
        """The best by the first look's measure, and those that break least."""
        half, (per_cost, per_broken) = count // 2, LOOKS[0]
        by_cost = sorted(found, key=lambda f: (per_cost * f.cost + per_broken * f.broken, f.taken))[
            :half
        ]
        strict = [f for f in sorted(found, key=lambda f: (f.rank, f.taken)) if f not in by_cost][
            : count - half
        ]
        return [*by_cost, *strict]

    # ------------------------------------------------------------ what a version costs

    def _rated(
        self,
        rows: Rows,
        changes: Rows,
        own: Rows,
        plans: Sequence[tuple[int, ...]] | None,
        aim: Aim,
        musts: Rows | None = None,
    ) -> Rated:
        tasted = self.bowl.tasted(rows)
        cost = aim.taste * tasted.drift + aim.changes * changes + own
        start = float(self.bowl.start[0])
        less = np.maximum(0.0, 1 - tasted.mass / max(start, 1e-6))
        cost = cost + PER_SHRINKING * less
        if aim.prices:
            cost = cost + aim.prices * rows[:, COST]
        broken = self._tastes_broken(tasted)
        share = tasted.mass / max(start, 1e-6)
        low, high = band_of(self.bowl)
        high = MAX_YIELD if aim.larger else high
        low, high = low + self.narrower, high - self.narrower
        broken = broken + PER_YIELD * (np.maximum(0.0, low - share) + np.maximum(0.0, share - high))
        if plans is not None:
            musts = np.array(
                [float(sum(m not in self._slots_of(p) for m in self.moves.must)) for p in plans]
            )
        if musts is not None:
            broken = broken + musts
        for place, target in enumerate(self.bowl.targets):
            miss = np.maximum(0.0, tasted.misses[:, place] + self.margins.get(target, 0.0))
            if target.soft:
                cost = cost + PER_SOFT_MISS * miss
            elif aim.nearest:
                cost = cost + PER_MISS * miss + ANY_MISS * (miss > SLACK)
            else:
                broken = broken + miss
        return cost, broken

    def _tastes_broken(self, tasted: Tasted) -> Rows:
        most = self.request.most_steps - self.tighter
        over = np.maximum(0.0, np.abs(tasted.steps) - most).sum(axis=1)
        # What is asked to leave takes its smell along; nobody is asked to keep that.
        others = tasted.others[:, 1:] if self.moves.must else tasted.others
        return np.asarray((over + np.maximum(0.0, others - most).sum(axis=1)) / 4)

    def _unchanged_musts(
        self, parent: Numbers, number: Numbers, beam: Sequence[Found]
    ) -> Rows | None:
        """How many of the lines that have to go are still there."""
        if not self.moves.must:
            return None
        of_parent = [self._slots_of(f.taken) for f in beam]
        left = np.array(
            [float(sum(m not in slots for m in self.moves.must)) for slots in of_parent]
        )[parent]
        slot = np.where(number >= 0, self.moves.slot_of[np.maximum(number, 0)], -1)
        for must in self.moves.must:
            new = np.array([must not in slots for slots in of_parent])[parent]
            left = left - ((slot == must) & new)
        return left

    def _move_cost(self, aim: Aim) -> Rows:
        cost = self.moves.cost
        if aim.lever is not None:
            others = np.array(
                [{lever} <= _MAIN and lever is not aim.lever for lever in self._levers]
            )
            cost = cost + PER_OTHER_LEVER * others
        if self.unwanted:
            cost = cost - PER_STAYING * np.array(
                [m.gone * (m.slot in self.unwanted) for m in self.moves.moves]
            )
        return cost

    def _own_cost(self, plans: Sequence[tuple[int, ...]], aim: Aim) -> Rows:
        cost = self._move_cost(aim)
        return np.array([float(cost[list(p)].sum()) if p else 0.0 for p in plans])

    def _changes(self, plans: Sequence[tuple[int, ...]]) -> Rows:
        return np.array([float(sum(self.moves.moves[n].changes for n in p)) for p in plans])

    def _sum(self, plans: Sequence[tuple[int, ...]]) -> Rows:
        return np.array(
            [
                self.bowl.start + self.moves.rows[list(p)].sum(axis=0) if p else self.bowl.start
                for p in plans
            ]
        )

    def _slots_of(self, taken: tuple[int, ...]) -> set[int]:
        return {int(self.moves.slot_of[n]) for n in taken}

    def _free(self, taken: tuple[int, ...]) -> np.ndarray[tuple[int], np.dtype[np.bool_]]:
        """Which moves are of slots that may change beside those taken."""
        apart = frozenset().union(*(self.moves.apart[s] for s in self._slots_of(taken)))
        return ~np.isin(self.moves.slot_of, list(apart))
