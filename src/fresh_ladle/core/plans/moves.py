"""Makes the moves of a recipe: every way to change a line, a part of the dish or the whole, in
amounts a cook would measure. What a move is stands in `move`."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace

import numpy as np

from fresh_ladle.core.amounts.bowl import Portion, portions
from fresh_ladle.core.catalogue.incoming import Placement, Timing
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.catalogue.school import SALTY_MG, allows
from fresh_ladle.core.catalogue.swap import COURSE_OF_KIND, Swap
from fresh_ladle.core.cautions.allergens import may_come_in
from fresh_ladle.core.foods.food import Food
from fresh_ladle.core.plans.ladder import Rung, nearest_rungs, rungs_of_food, rungs_of_line
from fresh_ladle.core.plans.lever_costs import LeverCosts
from fresh_ladle.core.plans.move import Move, Moves, Part, Slot, Way, added_line
from fresh_ladle.core.plans.request import PlanRequest
from fresh_ladle.core.plans.slots import SEASONING, slots_of, stuck_names
from fresh_ladle.core.plans.standing_in import GREEN, greens_for, water_for
from fresh_ladle.core.plans.sums import FIRST, PER_TARGET, TEXTURE, VALUE, Bowl, Rows
from fresh_ladle.core.recipes.recipe import MAX_LINES, Line
from fresh_ladle.core.swaps.apply import swaps_for
from fresh_ladle.core.swaps.belonging import belonging_of
from fresh_ladle.core.whole.appraisal import Appraisal

SHARES_LEFT = (0.75, 2 / 3, 0.5, 1 / 3, 0.25)
"""Of a line, what a cook would say: a quarter less, a third less, half of it, a third, a quarter of
it."""
SHARES_MORE = (1.25, 1.5)
SHARES_EXCHANGED = (1.0, 2 / 3, 0.5, 1 / 3)
"""Of a line that is exchanged for another thing; for one of its own kind all, or half and half."""
OFF_SHARE, OFF_EXCHANGED, CLOSE = 0.15, 0.08, 0.05
"""How far a measure may lie from such a share, of the line; and how near it is as good as the share
itself."""
DOSES = (0.5, 1.0, 1.5, 2.0)
COMPONENT_SHARES = ((0.75, "¾"), (2 / 3, "⅔"), (0.5, "½"))
SWAPS_PER_LINE = 10
"""Swaps of one line that are weighed."""
MIN_HELP = 0.05
"""Share of an open target's gap that a change has to close to be one: below it nothing was done."""
PER_SIZE, PER_GONE, PER_ODD, PER_NOTICED = 0.05, 0.2, 0.02, 0.15
"""Costs, in steps of taste: taking out the whole of a line, all of the half that a cut should
leave, an amount in two measures, and a swap taken to where it stops working."""
PER_BOUGHT = 0.5
"""Steps of taste that a thing to buy is worth."""
HARM = 0.05
"""Share of an open target's gap by which what comes in may widen it."""
LEAST_LEFT, LEAST_LEFT_IN_SIGHT, IN_SIGHT = 0.12, 0.2, 0.03
"""Shares of a line below which nothing of it is worth keeping, and the share of the bowl from which
it is seen."""
_REASONS_FOR_MORE = (
    "More of the bowl from what is light and filling.",
    "More of what seasons it already.",
)


def moves_for(now: Appraisal, request: PlanRequest, knowledge: Knowledge, bowl: Bowl) -> Moves:
    """Every move a plan for this recipe may make, without what the request forbids."""
    return _Maker(now, request, knowledge, bowl).made()


class _Maker:
    """Makes the moves of one recipe; keeps the rows of foods that come in, which many moves
    share."""

    def __init__(
        self, now: Appraisal, request: PlanRequest, knowledge: Knowledge, bowl: Bowl
    ) -> None:
        self._now, self._request, self._knowledge, self._bowl = now, request, knowledge, bowl
        self._ladders: dict[tuple[str, str], list[Rung]] = {}
        self._units: dict[tuple[str, str, str], tuple[float, Rows]] = {}
        self._moves: list[Move] = []
        self._rows: list[Rows] = []
        self._start = bowl.start
        self._gaps = self._open_gaps()
        self._lever_costs = LeverCosts(now.recipe.kind, request, knowledge.sense)
        self._belonging = belonging_of(now, knowledge)
        self._there = self._belonging.there
        """What is in the dish, in any form: more of it is made by its own line."""

    def made(self) -> Moves:
        lines, stuck = slots_of(self._now, self._request), stuck_names(self._now, self._request)
        for slot in lines:
            self._line_moves(slot)
        self._component_moves()
        mass = self._now.totals.batch_grams.value
        for way in (*self._repairs(), *self._stretches()):
            for dose in DOSES:
                self._coming_in(way, dose * mass / 100)
        slots = tuple(dict.fromkeys(m.slot for m in self._moves))
        number = {slot: n for n, slot in enumerate(slots)}
        must = [s.id for s in lines if s.must_go]
        stuck += [_name(s) for s in lines if s.must_go and s.id not in number]
        return Moves(
            tuple(self._moves),
            np.array(self._rows) if self._rows else np.zeros((0, len(self._start))),
            np.array([number[m.slot] for m in self._moves], dtype=np.int64),
            slots,
            tuple(lines),
            tuple(number[s] for s in must if s in number),
            tuple(dict.fromkeys(stuck)),
            np.array(
                [min((float(x) for x in self._helped(row)), default=0.0) for row in self._rows]
            ),
            self._apart(number),
        )

    def _apart(self, number: Mapping[str, int]) -> tuple[frozenset[int], ...]:
        component_of = {p.line.id: f"part:{p.line.component}" for p in self._now.portions}
        found = {n: {n} for n in number.values()}
        for line, component in component_of.items():
            if line in number and component in number:
                found[number[line]].add(number[component])
                found[number[component]].add(number[line])
        for one, other in self._more_of_the_same(number):
            found[one].add(other)
            found[other].add(one)
        bringing: dict[str, set[int]] = {}
        for move in self._moves:
            if move.ways[0].line is None:
                for part, _ in move.added:
                    bringing.setdefault(part.food.key, set()).add(number[move.slot])
        for together in bringing.values():
            for one in together:
                found[one] |= together
        return tuple(frozenset(found[n]) for n in range(len(number)))

    def _more_of_the_same(self, number: Mapping[str, int]) -> Iterable[tuple[int, int]]:
        """Slots of which part may become more of a line, each with that line: it is not raised as
        well."""
        line_of = {p.food.key: p.line.id for p in self._now.portions if p.food is not None}
        for move in self._moves:
            if move.ways[0].id.startswith(GREEN):
                more = number.get(line_of[move.added[0][0].food.key])
                if more is not None:
                    yield number[move.slot], more

    # ------------------------------------------------------------ lines

    def _line_moves(self, slot: Slot) -> None:
        before = self._bowl.sums([slot.portion])
        left = self._left_of(slot)
        swaps = self._swaps(slot, before)
        cut = Way(
            f"{'out' if slot.must_go else 'less'}:{slot.id}",
            "cut",
            (
                "Left out, as asked."
                if slot.must_go
                else "A plain cut: less of it, nothing in its place."
            ),
            slot.id,
        )
        more = Way(
            f"more:{slot.id}",
            "raise",
            _REASONS_FOR_MORE[
                slot.portion.food is not None and slot.portion.food.group in SEASONING
            ],
            slot.id,
        )
        measured = Way(
            f"measured:{slot.id}",
            "measure",
            "Measured from now on, so that it is the same each time.",
            slot.id,
        )
        for text, grams, row, odd in left:
            out = slot.grams - grams
            size = PER_SIZE * abs(out) / slot.grams + PER_ODD * odd
            mostly_gone = PER_GONE * max(0.0, 2 * out / slot.grams - 1)
            if out < 0 or (out < 0.06 * slot.grams and not slot.portion.line.amount):
                way = more if slot.portion.line.amount else measured
                self._add(
                    Move(
                        slot.id,
                        (way,),
                        text,
                        cost=size + self._of_lever(way, slot),
                        gone=out / slot.grams,
                    ),
                    row - before,
                )
                continue
            share_out = out / slot.grams
            if slot.must_go or self._helps(row - before):
                cost = size + mostly_gone + self._of_lever(cut, slot)
                self._add(Move(slot.id, (cut,), text, cost=cost, gone=share_out), row - before)
            for way in swaps:
                self._swapped(slot, text, out, row - before, way, size + self._of_lever(way, slot))

    def _of_lever(self, way: Way, slot: Slot | None) -> float:
        """What a way costs by its place in the field's order."""
        if way.kind == "measure":
            return 0.0
        out = slot.portion.food.key if slot is not None and slot.portion.food is not None else ""
        return self._lever_costs.of(
            out, [part.food.key for part in way.parts], more=way.kind == "raise"
        )

    def _left_of(self, slot: Slot) -> list[tuple[str | None, float, Rows, bool]]:
        """The amounts a line may come to: words, grams, row, and whether it takes two measures.
        None is all of it."""
        line, food = slot.portion.line, slot.portion.food
        assert food is not None
        found: list[tuple[str | None, float, Rows, bool]] = []
        if slot.least <= 0:
            found.append((None, 0.0, np.zeros_like(self._start), False))
        if slot.must_go:
            return found
        region, by_weight = self._now.recipe.region, self._request.by_weight
        # What was added to taste may be measured from now on, which also takes its doubt away.
        own = (
            rungs_of_line(line, food, region, by_weight)
            if line.amount
            else rungs_of_food(food, "", region, by_weight)
        )
        rungs = [r for r in own if r.text != line.amount and r.grams <= slot.most * 1.05]
        seen = slot.portion.in_bowl.value > IN_SIGHT * self._now.totals.batch_grams.value
        least = max(slot.least, slot.grams * (LEAST_LEFT_IN_SIGHT if seen else LEAST_LEFT))
        if line.amount:
            rungs = self._of_shares(rungs, slot.grams)
        variants = [replace(line, id=f"r{n}", amount=r.text) for n, r in enumerate(rungs)]
        for rung, portion in zip(rungs, self._portions(variants), strict=True):
            grams = portion.measured.value
            most = slot.most if line.amount else slot.most * 1.05
            if not portion.known or not least - 1e-6 <= grams <= most + 1e-6:
                continue
            if 0 < grams < 0.99 * min(slot.grams, self._least(food)):
                continue
            found.append((rung.text, grams, self._bowl.sums([portion]), rung.odd))
        return found

    @staticmethod
    def _of_shares(rungs: Sequence[Rung], grams: float) -> list[Rung]:
        """Of the amounts a line can be measured in those nearest to shares that are said, plain
        measures before odd; where none comes close, as among small spoons, the one on either
        side."""
        found: dict[str, Rung] = {}
        for share in (*SHARES_LEFT, *SHARES_MORE):
            off = {r.text: r.grams / (share * grams) - 1 for r in rungs}
            near = [r for r in rungs if abs(off[r.text]) <= OFF_SHARE]
            near.sort(key=lambda r: (abs(off[r.text]) + 0.06 * r.odd, r.grams))
            across = [
                r
                for r in near
                if off[r.text] * off[near[0].text] < 0 and abs(off[near[0].text]) > CLOSE
            ]
            found.update({r.text: r for r in (*near[:1], *across[:1])})
        return list(found.values())

    def _least(self, food: Food) -> float:
        """The least of a food that is measured; half as much for one or two servings."""
        return self._knowledge.sense.least(food.key) * (
            0.5 if self._now.totals.servings <= 2 else 1.0
        )

    def _portions(self, lines: Sequence[Line]) -> list[Portion]:
        recipe, knowledge = self._now.recipe, self._knowledge
        found: list[Portion] = []
        for start in range(0, len(lines), MAX_LINES):
            part = replace(recipe, lines=tuple(lines[start : start + MAX_LINES]))
            found += portions(part, knowledge.pantry, knowledge.preparations, knowledge.ambiguities)
        return found

    def _swapped(
        self, slot: Slot, text: str | None, out: float, row: Rows, way: Way, cost: float
    ) -> None:
        """A move that exchanges the grams taken out: whole or half and half for a thing of the same
        kind."""
        share_out = out / slot.grams
        food = slot.portion.food
        same = food is not None and len(way.parts) == 1 and way.parts[0].food.group == food.group
        shares = (1.0, 0.5) if same else SHARES_EXCHANGED
        if not slot.must_go and (
            share_out > way.fails_at + 1e-6
            or not any(abs(share_out - s) <= OFF_EXCHANGED for s in shares)
        ):
            return
        cost += (
            PER_NOTICED
            * max(0.0, share_out - way.noticed_at)
            / max(0.05, way.fails_at - way.noticed_at)
        )
        choices: list[tuple[tuple[tuple[Part, Rung], ...], Rows]] = [((), row)]
        for part in way.parts:
            rungs = [
                r
                for r in nearest_rungs(self._ladder(part), out * part.ratio)
                if r.grams >= 0.99 * self._least(part.food)
            ]
            if not rungs:
                return
            choices = [
                ((*done, (part, rung)), so_far + self._row(part, rung))
                for done, so_far in choices
                for rung in rungs
            ]
        for added, total in choices:
            if not slot.must_go and not self._helps(total):
                continue
            odd = PER_ODD * sum(rung.odd for _, rung in added)
            self._add(Move(slot.id, (way,), text, added, cost=cost + odd, gone=share_out), total)

    def _helps(self, row: Rows) -> bool:
        """Whether a change moves an open target's figure by more than a twentieth of its gap."""
        moved = self._helped(row)
        return not len(moved) or bool(moved.min() < -MIN_HELP)

    def _add(self, move: Move, row: Rows) -> None:
        bought = {part.food.key for part, _ in move.added if part.food.key != "water"} - self._there
        self._moves.append(replace(move, cost=move.cost + PER_BOUGHT * len(bought)))
        row = np.array(row)
        row[TEXTURE] = self._bowl.texture.change(
            self._left_by(move), {p.food.key: r.grams for p, r in move.added}
        )
        self._rows.append(row)

    def _left_by(self, move: Move) -> dict[str, float]:
        """The share that a move leaves of each line it changes, by id."""
        component = move.slot.removeprefix("part:")
        if component != move.slot:
            return {
                p.line.id: move.share for p in self._now.portions if p.line.component == component
            }
        return {move.slot: 1 - move.gone}

    # ------------------------------------------------------------ swaps

    def _swaps(self, slot: Slot, before: Rows) -> list[Way]:
        """The swaps of a line that help an open target, or take away what has to go; the most
        helpful few."""
        food = slot.portion.food
        assert food is not None
        scored = []
        for swap in swaps_for(slot.portion.line, self._now.recipe, self._knowledge):
            way = self._way_of(swap, slot, food)
            if way is None:
                continue
            worth = self._worth(slot, way, before)
            if worth is not None:
                scored.append((worth, way.id, way))
        best = [way for _, _, way in sorted(scored, key=lambda s: s[:2])[:SWAPS_PER_LINE]]
        water = self._knowledge.pantry["water"]
        plain = water_for(slot, food, self._now.recipe.kind, water)
        return [*best, *plain, *greens_for(slot, food, self._now, self._request.locked)]

    def _way_of(self, swap: Swap, slot: Slot, food: Food) -> Way | None:
        """A swap as a way; None when the request forbids it or a plan never takes it."""
        if not swap.incoming or swap.ask_first:
            return None
        parts = []
        for incoming in swap.incoming:
            new = incoming.resolved(food, self._knowledge.pantry)
            if new is None or incoming.preparation or not self._may_come_in(new):
                return None
            if incoming.food == "@same":
                # Salt on the surface counts only where the surface stays dry until it is eaten: no
                # dish here does.
                return None
            parts.append(Part(new, incoming.per_gram, incoming.how))
        school = self._request.school
        if school is not None and not swap.keeps(school, food, self._knowledge.pantry):
            return None
        on_top = any(i.placement is Placement.ON_TOP for i in swap.incoming)
        timing = Timing.AT_THE_END if on_top else Timing.WITH_THE_BASE
        when = timing.value if on_top else ""
        return Way(
            f"{swap.id}:{slot.id}",
            "swap",
            swap.reason,
            slot.id,
            tuple(parts),
            swap.noticed_at,
            swap.fails_at,
            when,
            timing,
        )

    def _may_come_in(self, food: Food) -> bool:
        request = self._request
        if not may_come_in(food, request.exclude) or not self._belonging.takes(
            food, request.new_allergens
        ):
            return False
        if request.school is not None and not allows(request.school, food):
            return False
        salty = food.traits.added_salt or (food.per_100_g["sodium_mg"] or 0.0) > SALTY_MG
        return not (salty and request.salt_school is not None and request.salt_school.refuses_salty)

    def _open_gaps(self) -> Rows:
        """How far each figure of the batch is from its target, at least a twentieth of it."""
        now, found = self._now, []
        for target in self._bowl.targets:
            figure = now.figure_for(target).value
            scale = (
                now.totals.batch[target.nutrient].value / figure
                if figure > 0
                else now.totals.servings
            )
            found.append(max(abs(figure - target.limit), 0.05 * max(target.limit, 1.0)) * scale)
        return np.array(found)

    def _worth(self, slot: Slot, way: Way, before: Rows) -> float | None:
        """Lower is better; None for a swap that brings no open target nearer. What has to go may go
        any way."""
        row = -before
        for part in way.parts:
            rungs = nearest_rungs(self._ladder(part), slot.grams * part.ratio, 10.0)
            if not rungs:
                return None
            row = row + self._row(part, rungs[0]) * (slot.grams * part.ratio / rungs[0].grams)
        moved = self._helped(row)
        if not slot.must_go and not (len(moved) and moved.min() < -MIN_HELP):
            return None
        taste = self._bowl.tasted((self._start + 0.5 * row)[None]).drift[0]
        return float(np.clip(moved, -1.5, 1.5).sum() + 0.3 * taste)

    def _helped(self, row: Rows) -> Rows:
        """The change of each figure as a share of its gap, below 0 where it helps; diluting it
        helps as well."""
        values = row[FIRST + VALUE :: PER_TARGET][: len(self._gaps)]
        sides = np.array([1.0 if t.side == "at most" else -1.0 for t in self._bowl.targets])
        return sides * values / self._gaps if len(self._gaps) else np.zeros(0)

    # ------------------------------------------------------------ components, repairs and more of
    # the bowl

    def _component_moves(self) -> None:
        """Less of a dressing or a topping on the same salad: part of any component but the heaviest
        is used."""
        masses: dict[str, float] = {}
        for portion in self._now.portions:
            masses[portion.line.component] = (
                masses.get(portion.line.component, 0.0) + portion.in_bowl.value
            )
        heaviest = max(masses, key=lambda c: masses[c], default="")
        for component, mass in masses.items():
            if len(masses) < 2 or component == heaviest or not component or mass <= 0:
                continue
            inside = [p for p in self._now.portions if p.line.component == component]
            if any(p.line.id in self._request.locked or p.batch_line for p in inside):
                continue
            row = self._bowl.sums(inside)
            for share, said in COMPONENT_SHARES:
                way = Way(
                    f"part:{component}",
                    "component",
                    "The same dish with less of what carries most: made as written, not all of it"
                    " used.",
                )
                change = self._bowl.scaled(row, share) - row
                self._add(
                    Move(
                        f"part:{component}", (way,), said, share=share, cost=PER_SIZE * (1 - share)
                    ),
                    change,
                )

    def _repairs(self) -> Iterable[Way]:
        """Repairs that add food, of any taste a change might shift or figure a target asks more
        of."""
        course, seen = COURSE_OF_KIND.get(self._now.recipe.kind), set[tuple[str, ...]]()
        wanted = {t.nutrient for t in self._request.targets if t.side == "at least"}
        for repair in self._knowledge.repairs:
            foods = tuple(a.food for a in repair.additions)
            if not foods or foods in seen or course not in repair.courses:
                continue
            if repair.axis.endswith(("_g", "_mg", "_kcal")) and repair.axis not in wanted:
                continue
            if not all(
                self._may_come_in(self._knowledge.pantry[f]) for f in foods
            ) or self._there & set(foods):
                continue
            seen.add(foods)
            parts = tuple(
                Part(self._knowledge.pantry[a.food], a.per_100_g, a.how) for a in repair.additions
            )
            yield Way(
                f"repair:{repair.id}",
                "repair",
                repair.reason,
                parts=parts,
                when=repair.when,
                timing=repair.timing,
            )

    def _stretches(self) -> Iterable[Way]:
        """More of what is light and belongs to this kind of dish."""
        for stretch in self._knowledge.stretches.get(self._now.recipe.kind, ()):
            food = self._knowledge.pantry[stretch.food]
            if food.key in self._there or not self._may_come_in(food):
                continue
            yield Way(
                f"stretch:{food.key}",
                "stretch",
                stretch.reason,
                parts=(Part(food, stretch.per_100_g, stretch.how),),
            )

    def _coming_in(self, way: Way, dose: float) -> None:
        row, added, odd = np.zeros_like(self._start), [], 0.0
        for part in way.parts:
            rungs = nearest_rungs(self._ladder(part), part.ratio * dose, 10.0)
            if not rungs or rungs[0].grams < 0.99 * self._least(part.food):
                return
            rung = rungs[0]
            added.append((part, rung))
            row, odd = row + self._row(part, rung), odd + PER_ODD * rung.odd
        move = Move(way.id, (way,), added=tuple(added), cost=odd + self._of_lever(way, None))
        if self._moves and self._moves[-1].slot == way.id and self._moves[-1].added == move.added:
            return
        moved = self._helped(row)
        if len(moved) and moved.max() > HARM:
            return
        self._add(move, row)

    # ------------------------------------------------------------ rows of foods

    def _ladder(self, part: Part) -> list[Rung]:
        key = part.food.key, part.how
        if key not in self._ladders:
            self._ladders[key] = rungs_of_food(
                part.food, part.how, self._now.recipe.region, self._request.by_weight
            )
        return self._ladders[key]

    def _row(self, part: Part, rung: Rung) -> Rows:
        """The row of an amount of a food that comes in: in proportion to its grams, variances to
        their square."""
        key = part.food.key, part.how, rung.unit
        if key not in self._units:
            portion = self._portions([added_line("new", part, rung, "")])[0]
            self._units[key] = portion.measured.value or 1.0, self._bowl.sums([portion])
        grams, row = self._units[key]
        return self._bowl.scaled(row, rung.grams / grams)


def _name(slot: Slot) -> str:
    return slot.portion.line.named or (
        slot.portion.food.kitchen_name if slot.portion.food else slot.id
    )
