"""What may go into a dish: every food that can play a role of its kind, in every amount a cook
would measure."""

from __future__ import annotations

import re
from collections.abc import Collection, Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction
from itertools import pairwise

from fresh_ladle.core.amounts.batches import batch_line
from fresh_ladle.core.amounts.kitchen import written
from fresh_ladle.core.catalogue.formula import Role
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.catalogue.school import allows
from fresh_ladle.core.cautions.allergens import may_come_in
from fresh_ladle.core.compose.house import Held, House
from fresh_ladle.core.compose.request import ComposeRequest
from fresh_ladle.core.foods.food import Food
from fresh_ladle.core.plans.ladder import Rung, rungs_of_food, rungs_of_line
from fresh_ladle.core.recipes.recipe import Batch, Line, Recipe

RUNGS, FEW_RUNGS = 14, 2
"""Amounts of a food that are weighed against each other, and how few of the cook's own measure ask
for spoons and cups beside them."""
DRAINED, RINSED = "-canned-drained", "-canned-rinsed"
"""What a can in the house is before and after the tap: a cook may rinse it."""
FEW_PLAIN, WIDE = 4, 1.6
"""Plain amounts that are enough by themselves, and how much larger the next may be before an odd
one comes between."""
AMPLE = 1.15
"""The main food should be more of the dish than the least it may be."""
OFFERED = 4
"""Foods to buy that are tried on one role."""
BOUGHT_ROLES = frozenset(
    {"acid", "fat", "salt", "sweet", "aromatic", "herb", "binder", "liquid", "rich", "thickener"}
)
"""Roles for which something may be bought besides those that are needed: those that mend a
taste."""


@dataclass(frozen=True, slots=True)
class Stock:
    """A food that may go into the dish. `grams` is the most there is of it, None for as much as is
    wanted; `held` is what it was written as. `bought` ones are not in the house, `usual` ones are
    expected on their role; `words` are the cook's own for an amount."""

    role: Role
    food: Food
    named: str
    grams: float | None = None
    bought: bool = False
    today: bool = False
    usual: bool = True
    forced: bool = False
    rank: int = 0
    """For what could be bought: how many come before it."""
    held: Held | None = None
    words: str = ""

    @property
    def thing(self) -> str:
        """What it is, rinsed or not: nobody puts it in twice."""
        return self.food.key.replace(RINSED, DRAINED)


@dataclass(frozen=True, slots=True)
class Option:
    """One amount of one food on one role."""

    stock: Stock
    rung: Rung


def stocks(request: ComposeRequest, house: House, knowledge: Knowledge) -> list[Stock]:
    """Every food on every role it can play: first what is in the house, then what is always there,
    then what could be bought. A food that a target school, an exclusion or the cook rules out is
    not among them."""
    formula = knowledge.composing.formulas[request.kind]
    found: list[Stock] = []
    at_home: set[str] = set()
    for held in house.held:
        if held.batch is not None:
            found += _left(held, held.batch, request, knowledge)
            continue
        for food, grams, named in _ready(held, request, knowledge):
            at_home.add(food.key)
            if not _may_go_in(food, request):
                continue
            words = held.amount if food.key.replace(RINSED, DRAINED) == held.food.key else ""
            for role in formula.roles if held.role is None else (_role_of(held, formula.roles),):
                if role is not None and (held.role is not None or role.takes(food.key)):
                    found.append(
                        Stock(
                            role,
                            food,
                            named,
                            grams,
                            today=held.today,
                            usual=food.key in role.usual,
                            forced=held.role is not None,
                            held=held,
                            words=words,
                        )
                    )
    return [*found, *_others(request, house, knowledge, at_home, found)]


def _left(held: Held, batch: Batch, request: ComposeRequest, knowledge: Knowledge) -> list[Stock]:
    """What is left of a dish, on every role it can play; nothing where one of its foods may not go
    in."""
    foods = [knowledge.pantry.get(key) for key in _foods_in(batch.recipe)]
    if not all(food is not None and _may_go_in(food, request) for food in foods):
        return []
    formula = knowledge.composing.formulas[request.kind]
    plays = knowledge.composing.leftovers.get((batch.recipe.kind, request.kind), frozenset())
    return [
        Stock(r, held.food, held.named, held.grams, today=True, held=held)
        for r in formula.roles
        if r.id in plays
    ]


def _foods_in(recipe: Recipe) -> list[str | None]:
    inside = [key for x in recipe.lines if x.batch is not None for key in _foods_in(x.batch.recipe)]
    return [*inside, *(x.food for x in recipe.lines if x.batch is None and x.eaten > 0)]


def _role_of(held: Held, roles: Iterable[Role]) -> Role | None:
    return next((r for r in roles if r.id == held.role), None)


def _ready(
    held: Held, request: ComposeRequest, knowledge: Knowledge
) -> Iterator[tuple[Food, float | None, str]]:
    """What a food in the house can go into a dish as, with how much there is of it: itself, cooked,
    its juice."""
    food = held.food
    if food.form == "dry" and (cooked := knowledge.pantry.form_of(food, "cooked")) is not None:
        yield cooked, held.grams, f"cooked {held.named}"
        return
    # By its key: what came from another process is another value of the same food.
    rinsed = (
        knowledge.pantry.get(food.key.replace(DRAINED, RINSED))
        if food.key.endswith(DRAINED)
        else None
    )
    if rinsed is not None:
        yield rinsed, held.grams, f"{held.named}, rinsed"
    becomes = [
        u
        for u in knowledge.composing.uses
        if u.food == food.key and (not u.kinds or request.kind in u.kinds)
    ]
    if not any(_same_thing(u.becomes, food, knowledge) for u in becomes):
        yield food, held.grams, held.named
    for use in becomes:
        into = knowledge.pantry[use.becomes]
        grams = None if held.grams is None else held.grams * use.g_per_g
        yield into, grams, into.kitchen_name


def _same_thing(becomes: str, food: Food, knowledge: Knowledge) -> bool:
    """Whether a food is only eaten as what it becomes; a lemon is squeezed and grated, and its
    flesh eaten as well."""
    return knowledge.pantry[becomes].group == food.group or food.group in ("egg", "legume")


def _others(
    request: ComposeRequest,
    house: House,
    knowledge: Knowledge,
    at_home: set[str],
    held: Sequence[Stock],
) -> Iterator[Stock]:
    """What is always there, and for each role that nothing in the house can carry the usual foods
    that could be bought."""
    for role in knowledge.composing.formulas[request.kind].roles:
        offered: dict[str, None] = {}
        carried = any(_carries(stock, request) for stock in held if stock.role.id == role.id)
        carried = carried or any(key in role.usual for key in request.always)
        for key in dict.fromkeys((*role.usual, *(k for k in request.always if role.takes(k)))):
            food = knowledge.pantry[key]
            if key in at_home or house.lacks(food) or not _may_go_in(food, request):
                continue
            if key in request.always:
                yield Stock(role, food, food.kitchen_name, usual=key in role.usual)
            elif not carried and _is_offered(role, key, offered):
                offered[key.partition("-")[0]] = None
                yield Stock(role, food, food.kitchen_name, bought=True, rank=len(offered))


def _carries(stock: Stock, request: ComposeRequest) -> bool:
    """Whether there is enough of a food that is expected on its role, so that nobody would buy
    another."""
    enough = AMPLE * stock.role.low * request.batch_grams / 100
    return stock.usual and (stock.grams is None or stock.grams >= enough)


def _is_offered(role: Role, key: str, offered: Collection[str]) -> bool:
    """Whether a food may be bought for a role: one of each sort, and only a few."""
    mends = role.needed or role.id in BOUGHT_ROLES
    return mends and len(offered) < OFFERED and key.partition("-")[0] not in offered


def kinds_possible(house: House, knowledge: Knowledge) -> list[str]:
    """Kinds of dish for which the house, and the tap, have something on every role that is
    needed."""
    keys = {"water", *(h.food.key for h in house.held)}
    keys |= {u.becomes for u in knowledge.composing.uses if u.food in keys}
    cooked = (
        knowledge.pantry.form_of(h.food, "cooked") for h in house.held if h.food.form == "dry"
    )
    keys |= {food.key for food in cooked if food is not None}
    return [
        formula.kind
        for formula in knowledge.composing.formulas.values()
        if all(any(role.takes(key) for key in keys) for role in formula.roles if role.needed)
    ]


def servings_that_fit(
    request: ComposeRequest, held: Iterable[Stock], knowledge: Knowledge
) -> list[float]:
    """How many servings to try, at most those asked for: what the main food in the house goes round
    for where it is as little of the dish as it may be, then a little more, then most of it."""
    main = next(r for r in knowledge.composing.formulas[request.kind].roles if r.needed)
    there = {s.thing: s.grams for s in held if s.role.id == main.id and not s.bought}
    if not there or None in there.values():
        return [request.servings]
    grams = sum(sorted((g for g in there.values() if g is not None), reverse=True)[: main.most])
    shares = (main.low * AMPLE, (main.low + main.high) / 2, main.high / AMPLE)
    fits = [float(int(100 * grams / share / request.grams_per_serving)) for share in shares]
    return list(dict.fromkeys(min(request.servings, n) for n in fits if n >= 1)) or [
        request.servings
    ]


def _may_go_in(food: Food, request: ComposeRequest) -> bool:
    return (
        food.in_pantry
        and may_come_in(food, request.exclude)
        and (request.school is None or allows(request.school, food))
    )


def options_of(stock: Stock, request: ComposeRequest, knowledge: Knowledge) -> list[Option]:
    """The amounts of a food that its role allows in a batch of this size, a few of them, smallest
    first."""
    batch = request.batch_grams
    most = min(stock.role.high, knowledge.composing.strong.get(stock.food.key, 100.0)) * batch / 100
    if stock.grams is not None:
        most = min(most, stock.grams * 1.001)
    least = 0.0 if stock.forced else 0.5 * stock.role.low * batch / 100 / stock.role.most
    found: list[Rung] = []
    if stock.held is not None and stock.held.batch is not None and stock.grams is not None:
        one = stock.grams / stock.held.batch.share
        parts = [
            Rung(_batch_text(part), float(part) * one)
            for part in (Fraction(n, 8) for n in range(1, 41))
        ]
        rungs = [
            *(r for r in rungs_of_food(stock.food, by_weight=True) if r.grams % 5 == 0),
            *parts,
        ]
        return [Option(stock, r) for r in _spread([r for r in rungs if least <= r.grams <= most])]
    if stock.words and not stock.words.startswith(("juice", "zest")):
        line = Line("l1", f"{stock.words} {stock.named}", stock.words, stock.food.key)
        found = [
            r for r in rungs_of_line(line, stock.food, request.region) if least <= r.grams <= most
        ]
    if len(found) < FEW_RUNGS:
        found += [
            r for r in rungs_of_food(stock.food, region=request.region) if least <= r.grams <= most
        ]
    return [Option(stock, rung) for rung in _spread(found)]


def _spread(rungs: list[Rung]) -> list[Rung]:
    """At most so many of them, evenly by how often they double; odd ones only where plain ones lie
    far apart."""
    ordered = sorted(rungs, key=lambda r: (r.grams, r.odd))
    plain = [r for r in ordered if not r.odd]
    if len(plain) >= FEW_PLAIN:
        gaps = [
            (one.grams, other.grams)
            for one, other in pairwise(plain)
            if other.grams > WIDE * one.grams
        ]
        filling = [r for r in ordered if r.odd and any(low < r.grams < high for low, high in gaps)]
        ordered = sorted([*plain, *filling, *_halfway(plain)], key=lambda r: r.grams)
    if len(ordered) <= RUNGS:
        return ordered
    step = (len(ordered) - 1) / (RUNGS - 1)
    return [ordered[round(n * step)] for n in range(RUNGS)]


def _halfway(plain: list[Rung]) -> list[Rung]:
    """Between a quarter and half a teaspoon lies the salt of many a dish: both spoons of the
    smaller sizes."""
    spoons = {r.text: r for r in plain}
    quarter, eighth = spoons.get("¼ tsp"), spoons.get("⅛ tsp")
    if quarter is None or eighth is None or "½ tsp" not in spoons:
        return []
    return [Rung("¼ tsp plus ⅛ tsp", quarter.grams + eighth.grams, True, "tsp")]


def _batch_text(part: Fraction) -> str:
    return f"{written(part)} {'batch' if part <= 1 else 'batches'}"


def line_of(option: Option, line_id: str, component: str = "") -> Line:
    """The line that an amount makes in the recipe."""
    stock = option.stock
    if stock.held is not None and stock.held.batch is not None and stock.grams:
        share = stock.held.batch.share * option.rung.grams / stock.grams
        return batch_line(line_id, replace(stock.held.batch, share=share), option.rung.text)
    named = stock.food.kitchen_name if stock.bought or not stock.named else stock.named
    if re.fullmatch(r"[\d¼½¾⅓⅔⅛]+", option.rung.text):
        named = counted(named, option.rung.text not in ("1", "½", "¼", "¾", "⅓", "⅔", "⅛"))
    return Line(
        line_id,
        f"{option.rung.text} {named}",
        option.rung.text,
        stock.food.key,
        component,
        named=named,
    )


def counted(name: str, several: bool) -> str:
    """A food that is counted by the piece, for one of it or part of one, or for several."""
    one = re.sub(r"(?<=o)es$|(?<=[sxh])es$|(?<=[^sui])s$", "", re.sub(r"(?<=..)ies$", "y", name))
    if not several:
        return one
    return (
        re.sub(r"y$", "ies", one)
        if re.search(r"[^aeo]y$", one)
        else f"{one}{'es' if re.search('(?:[sxh]|to)$', one) else 's'}"
    )
