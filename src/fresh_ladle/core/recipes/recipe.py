"""A recipe as it is worked on: lines in components, a kind of dish and what a serving is."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field, replace

from fresh_ladle.core.errors import Refused
from fresh_ladle.core.recipes.aside import Aside
from fresh_ladle.core.recipes.reached import Reached
from fresh_ladle.core.recipes.region import Region
from fresh_ladle.core.recipes.ruling import Ruling

MAX_LINES = 200
MAX_SERVINGS = 5000
MAX_DEPTH = 3


class RecipeError(Refused):
    """Something in the recipe cannot be; the message names the place and what to do."""


@dataclass(frozen=True, slots=True)
class Line:
    """One ingredient line. `amount` keeps the cook's words; `food` is a food key, None while it is
    not understood.

    `settled` holds the doubts a person has answered or set aside: `food`, `amount`, `eaten`, `food
    skipped`, `amount skipped`, `eaten skipped`. `named` is the cook's name for the food; `eaten` is
    the share of what is in the bowl that is eaten, 0 to 1."""

    id: str
    text: str
    amount: str
    food: str | None
    component: str = ""
    preparations: tuple[str, ...] = ()
    remarks: tuple[str, ...] = ()
    asides: frozenset[Aside] = frozenset()
    variation: str | None = None
    confidence: float = 1.0
    eaten: float = 1.0
    named: str = ""
    settled: frozenset[str] = frozenset()
    batch: Batch | None = None
    reached: Reached | None = field(default=None, compare=False)
    """What the method makes of it, worked out whenever the recipe is; never kept."""

    @property
    def said_amount(self) -> str:
        """The amount as a person reads it: the cook's words, or that none were given."""
        return self.amount or ("to taste" if Aside.TO_TASTE in self.asides else "no amount")

    def with_amount(self, amount: str) -> Line:
        """The line with another amount, in its text as well, so that it reads as it is."""
        inside = bool(self.amount) and self.amount in self.text
        text = self.text.replace(self.amount, amount, 1) if inside else f"{amount} {self.named}"
        return replace(self, amount=amount, text=text)


@dataclass(frozen=True, slots=True)
class Batch:
    """Part of a batch of another recipe used as a line: `share` of it, 0.5 for half. `ref` names
    recipe and version.

    The recipe is held as it was when it was put in, so that it does not change underneath; a batch
    may hold batches, three deep at most."""

    ref: str
    share: float
    recipe: Recipe

    def __post_init__(self) -> None:
        if not 0 < self.share <= 20:
            raise RecipeError(
                f"part of a batch is more than 0 and at most 20 batches; {self.share:g} was given"
            )

    @property
    def recipe_id(self) -> str:
        return self.ref.partition("@")[0]


@dataclass(frozen=True, slots=True)
class Recipe:
    """A recipe. Served by count, unless `serving_grams` or `serving_ml` fixes the size of one
    serving.

    `servings_range` is the fewest and the most servings when the recipe names two numbers,
    `yield_ml` what it makes by volume. `method` holds the steps in the cook's words, `rulings` what
    a person said of some of them. `yield_grams` is the weight of the finished batch when somebody
    weighed it; it then stands for the sum of the bowl. `served_celsius` is how cold or warm it is
    eaten. Raises RecipeError for a count, weight, volume or temperature that cannot be, for too
    many lines, or for batches too deep."""

    title: str
    lines: tuple[Line, ...]
    kind: str
    servings: float
    serving_grams: float | None = None
    region: Region = Region.US
    yield_grams: float | None = None
    serving_ml: float | None = None
    method: tuple[str, ...] = ()
    served_celsius: float | None = None
    servings_range: tuple[float, float] | None = None
    yield_ml: float | None = None
    rulings: tuple[Ruling, ...] = ()

    def __post_init__(self) -> None:
        if not 0 < self.servings <= MAX_SERVINGS:
            raise RecipeError(
                f"servings must be more than 0 and at most {MAX_SERVINGS}; {self.servings:g} was"
                " given"
            )
        if self.serving_grams is not None and not 0 < self.serving_grams <= 5000:
            raise RecipeError(
                f"a serving must weigh between 0 and 5,000 g; {self.serving_grams:g} was given"
            )
        fewest, most_servings = self.servings_range or (self.servings, self.servings)
        if not 0 < fewest <= self.servings <= most_servings <= MAX_SERVINGS:
            raise RecipeError(
                f"servings run from {fewest:g} to {most_servings:g}, and {self.servings:g} is not"
                " in between"
            )
        for name, size, most in (
            ("yield", self.yield_grams, 500_000),
            ("serving volume", self.serving_ml, 5000),
            ("yield by volume", self.yield_ml, 500_000),
        ):
            if size is not None and not 0 < size <= most:
                raise RecipeError(
                    f"a {name} must be more than 0 and at most {most:,}; {size:g} was given"
                )
        if self.served_celsius is not None and not -5 <= self.served_celsius <= 90:
            raise RecipeError(
                f"a dish is served between -5 and 90 °C; {self.served_celsius:g} was given"
            )
        if self.depth > MAX_DEPTH:
            raise RecipeError(f"batches inside batches go {MAX_DEPTH} deep at most")
        if len(self.lines) > MAX_LINES:
            raise RecipeError(
                f"a recipe holds at most {MAX_LINES} lines; this one has {len(self.lines)}"
            )
        if len({line.id for line in self.lines}) != len(self.lines):
            raise RecipeError("two lines carry the same id")

    @property
    def depth(self) -> int:
        """How many batches deep this recipe goes; 0 without batches."""
        return max(
            (1 + line.batch.recipe.depth for line in self.lines if line.batch is not None),
            default=0,
        )

    def holds(self, recipe_id: str) -> bool:
        """Whether a batch of the named recipe is used anywhere inside."""
        return any(
            b.recipe_id == recipe_id or b.recipe.holds(recipe_id)
            for line in self.lines
            if (b := line.batch) is not None
        )

    def line(self, line_id: str) -> Line:
        """Raises RecipeError when no line has this id."""
        for line in self.lines:
            if line.id == line_id:
                return line
        raise RecipeError(f"there is no line {line_id!r} in {self.title}")

    def with_line(self, changed: Line) -> Recipe:
        self.line(changed.id)
        return replace(
            self, lines=tuple(changed if line.id == changed.id else line for line in self.lines)
        )

    def without_line(self, line_id: str) -> Recipe:
        self.line(line_id)
        return replace(self, lines=tuple(line for line in self.lines if line.id != line_id))

    def with_added(self, lines: Iterable[Line], after: str | None = None) -> Recipe:
        """The recipe with lines put in after the named line, or at the end."""
        new = tuple(lines)
        if after is None:
            return replace(self, lines=self.lines + new)
        self.line(after)
        place = [line.id for line in self.lines].index(after) + 1
        return replace(self, lines=self.lines[:place] + new + self.lines[place:])

    def fresh_ids(self, count: int) -> list[str]:
        """Ids no line of this recipe has, in order."""
        taken = {line.id for line in self.lines}
        found: list[str] = []
        number = len(self.lines) + 1
        while len(found) < count:
            if f"l{number}" not in taken:
                found.append(f"l{number}")
            number += 1
        return found

    @property
    def components(self) -> list[str]:
        return list(dict.fromkeys(line.component for line in self.lines))
