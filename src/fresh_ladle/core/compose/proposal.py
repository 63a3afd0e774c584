"""A proposed dish, worked out whole: its recipe, where it stands in each window, which targets it
meets, what it asks for, and what is to be said of it."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from fresh_ladle.core.catalogue.formula import Formula, Role
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.compose.method import first_method
from fresh_ladle.core.compose.options import Option, counted, line_of
from fresh_ladle.core.compose.request import ALWAYS, ComposeRequest
from fresh_ladle.core.flavor.drift import steps_between
from fresh_ladle.core.flavor.windows import Imbalance, Window, imbalances
from fresh_ladle.core.nutrients.targets import Target, target_status
from fresh_ladle.core.recipes.dishes import BY_ID as KINDS
from fresh_ladle.core.recipes.recipe import Recipe
from fresh_ladle.core.whole.appraisal import Appraisal, appraise
from fresh_ladle.core.whole.costs import cost_of_serving
from fresh_ladle.core.words.sentences import capitalized, listed

DRESSING = "Dressing"
LOUD, LOUDEST = 0.9, 3.0
"""Share of the most of a strong food from which it speaks loudly, and grams in 100 g up to which a
most is that of a strong food."""


@dataclass(frozen=True, slots=True)
class Part:
    """One line of a proposal, and what it is there for."""

    role: Role
    option: Option
    line_id: str
    grams: float

    @property
    def bought(self) -> bool:
        return self.option.stock.bought


@dataclass(frozen=True, slots=True)
class Standing:
    """Where a proposal stands in one window: its stimulus, the window, and its steps from the
    window's middle."""

    window: Window
    value: float
    steps: float
    ends: tuple[float, float]

    @property
    def inside(self) -> bool:
        return self.window.side_of(self.value) == "inside"


@dataclass(frozen=True, slots=True)
class Proposal:
    """A dish that does not exist yet. `meets` holds the chance for each target; `missing` the
    needed roles that nobody plays."""

    name: str
    why: str
    recipe: Recipe
    parts: tuple[Part, ...]
    after: Appraisal
    standings: Mapping[str, Standing]
    meets: Mapping[Target, float]
    missing: tuple[Role, ...]
    out: tuple[Imbalance, ...]
    loud: tuple[str, ...]
    cost: float | None
    as_asked: bool
    """Whether amounts, shares of roles, the size of the batch and what is to be bought are within
    what was asked."""

    @property
    def buy(self) -> tuple[str, ...]:
        """What it asks for that is not in the house."""
        return tuple(p.option.stock.food.kitchen_name for p in self.parts if p.bought)

    @property
    def key(self) -> tuple[tuple[str, str], ...]:
        return tuple((p.option.stock.food.key, p.option.rung.text) for p in self.parts)

    def in_window(self) -> bool:
        """Whether every taste lies in the window of the kind, and every role that is needed is
        played."""
        return self.as_asked and not self.missing and all(s.inside for s in self.standings.values())

    def meets_all(self, chance: float) -> bool:
        return all(p >= chance for p in self.meets.values())

    def holds(self, chance: float) -> bool:
        """Whether it is all that was asked."""
        return self.in_window() and self.meets_all(chance)

    def role_grams(self) -> list[tuple[Role, float]]:
        """Grams of each role in the bowl, in the order in which the roles are told."""
        found: dict[str, tuple[Role, float]] = {}
        for part in self.parts:
            _, before = found.get(part.role.id, (part.role, 0.0))
            found[part.role.id] = (part.role, before + part.grams)
        return list(found.values())


def middle_of(window: Window) -> float:
    """The middle of a window as it is tasted: half as many steps from one end as from the other."""
    if window.low > 0:
        return float((window.low * window.high) ** 0.5)
    return (window.low + window.high) / 2


def worked_out(
    name: str,
    why: str,
    options: Sequence[Option],
    request: ComposeRequest,
    knowledge: Knowledge,
    prices: Mapping[str, float],
    as_asked: bool,
) -> Proposal:
    """A proposal from the options it takes, by the exact model."""
    formula = knowledge.composing.formulas[request.kind]
    recipe, ordered = _recipe(options, request, formula)
    after = appraise(recipe, knowledge)
    parts = tuple(
        Part(o.stock.role, o, line.id, _grams(after, line.id))
        for o, line in zip(ordered, recipe.lines, strict=True)
    )
    windows = knowledge.windows.get(request.kind, {})
    played = {p.role.id for p in parts}
    cost = cost_of_serving(after, prices)
    return Proposal(
        name,
        why,
        recipe,
        parts,
        after,
        {axis: _standing(after, window) for axis, window in windows.items()},
        {t: target_status(after.figure_for(t), t).probability for t in request.targets},
        tuple(r for r in formula.roles if r.needed and r.id not in played),
        tuple(imbalances(after.flavor, windows)),
        _loud(parts, request, knowledge),
        cost.value if prices and not cost.unpriced else None,
        as_asked,
    )


def _grams(after: Appraisal, line_id: str) -> float:
    """Grams of a line in the bowl, of all that it brings where it is part of a batch."""
    return sum(p.in_bowl.value for p in after.portions if line_id in (p.line.id, p.batch_line))


def _standing(after: Appraisal, window: Window) -> Standing:
    value, axis, middle = after.flavor[window.axis].value, window.axis, middle_of(window)
    low, high, steps = (steps_between(v, middle, axis) for v in (window.low, window.high, value))
    return Standing(window, value, steps, (low, high))


def _recipe(
    options: Sequence[Option], request: ComposeRequest, formula: Formula
) -> tuple[Recipe, list[Option]]:
    """The recipe in the order of the roles, the dressing of a salad last, with its method and a
    name."""
    places = {role.id: n for n, role in enumerate(formula.roles)}
    ordered = sorted(
        options, key=lambda o: (o.stock.role.dressing, places[o.stock.role.id], -o.rung.grams)
    )
    lines = tuple(
        line_of(option, f"l{n}", DRESSING if option.stock.role.dressing else "")
        for n, option in enumerate(ordered, start=1)
    )
    names: dict[str, list[str]] = {}
    for option, line in zip(ordered, lines, strict=True):
        names.setdefault(option.stock.role.id, []).append(line.named)
    recipe = Recipe(
        title_of(ordered, request.kind),
        lines,
        request.kind,
        request.servings,
        region=request.region,
        method=first_method(formula, names),
    )
    return recipe, ordered


def title_of(options: Sequence[Option], kind: str) -> str:
    """What the dish would be called: its main food, what speaks most beside it, and its kind."""
    kind_name = KINDS[kind].name
    speaking = [
        o for o in options if o.stock.role.id in _SPEAKING and o.stock.food.key not in ALWAYS
    ]
    first = next((o for o in options if o.stock.role.id in ("base", "leaf")), None)
    if first is None and kind in ("vinaigrette", "herb-nut-paste"):
        first = next((o for o in options if o.stock.role.id in ("acid", "herb")), None)
    second = max(
        (o for o in speaking if o is not first),
        key=lambda o: _SPEAKING.get(o.stock.role.id, 0.0),
        default=None,
    )
    named = [name for o in (first, second) if o is not None and (name := _plain(o))]
    short = {
        "nut or seed dressing": "dressing",
        "herb and nut paste": "paste",
        "pasta or potato salad": "salad",
    }
    word = short.get(kind_name, kind_name.rsplit(" ", 1)[-1])
    return capitalized(f"{listed(named)} {word}".strip())


_SPEAKING = {
    "vegetable": 9.0, "savory": 8.5, "herb": 8.0, "cheese": 7.5, "rich": 7.0, "fresh": 6.5,
    "protein": 6.2,
    "juicy": 6.0, "nut": 5.8, "leaf": 5.5, "accent": 5.0, "aromatic": 4.0, "hot": 3.5, "crisp": 3.0,
    "emulsifier": 2.5, "spice": 2.0, "crunch": 1.5,
}  # fmt: skip
"""Roles that give a dish its name, the louder the higher (a cook's judgement)."""


def _plain(option: Option) -> str:
    """A food as it stands in the name of a dish: one of it, without what was done to it."""
    name = option.stock.named or option.stock.food.kitchen_name
    if option.stock.held is not None and option.stock.held.batch is not None:
        kind = KINDS[option.stock.held.batch.recipe.kind].name.rsplit(" ", 1)[-1]
        return (name[:1].lower() + name[1:]).removesuffix(f" {kind}")
    for word in _UNSAID:
        name = name.replace(word, "")
    return counted(re.split(r",| from | in ", name)[0].strip(), several=False)


_UNSAID = (
    "fresh ", "cooked ", "raw ", "canned ", "plain ", "boiled ", "dried ", "ground ", "leftover ",
    "cold ", "frozen ",
    " juice", "white vinegar", " vinegar", "vinegar", "refined ", "salted ", "unsalted ",
    "extra-virgin ",
)  # fmt: skip


def _loud(parts: Sequence[Part], request: ComposeRequest, knowledge: Knowledge) -> tuple[str, ...]:
    """Strong foods that come near their most; two of them are likely to fight."""
    strong = knowledge.composing.strong
    return tuple(
        p.option.stock.food.kitchen_name
        for p in parts
        if (most := strong.get(p.option.stock.food.key)) is not None
        and most <= LOUDEST
        and 100 * p.grams / request.batch_grams >= LOUD * most
    )


def said_of(proposal: Proposal) -> list[str]:
    """What is missing or fights, each as a sentence; while a needed role is empty, its tastes say
    nothing."""
    if proposal.missing:
        return [f"Missing: {role_words(r)}." for r in proposal.missing]
    found = [i.text for i in proposal.out]
    if len(proposal.loud) > 1:
        found.append(
            f"{capitalized(listed(proposal.loud))} speak loudly at once: add the last of them to"
            " taste."
        )
    return found


def role_words(role: Role) -> str:
    """A role as it stands in a sentence."""
    return _ROLE_WORDS.get(role.id, role.id.replace("-", " "))


_ROLE_WORDS = {
    "base": "the base", "leaf": "leaves", "nut": "nuts or seeds", "herb": "herbs",
    "acid": "an acid", "fat": "a fat",
    "liquid": "a liquid",
}  # fmt: skip
