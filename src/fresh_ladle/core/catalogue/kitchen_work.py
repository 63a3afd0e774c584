"""What is known of work in a kitchen: verbs and their minutes, cooking times, what does not scale
straight, keep times."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from fnmatch import fnmatchcase

from fresh_ladle.core.foods.food import Food, Grade
from fresh_ladle.core.ranges import Range


@dataclass(frozen=True, slots=True)
class WorkVerb:
    """One verb of a method: `active_fixed` minutes of work for any amount and `active_per_kg` for
    each kilogram; `waiting` minutes that pass by themselves, with a cook beside it when `attended`.
    `pace` multiplies the work where this kitchen is quicker or slower than the tables, learned from
    `timed` steps."""

    verb: str
    active_fixed: float
    active_per_kg: float
    waiting: Range
    attended: bool
    celsius: float | None
    grade: Grade
    pace: float = 1.0
    timed: int = 0


@dataclass(frozen=True, slots=True)
class CookingTime:
    """Minutes a verb takes on one food, or on the foods of a group where `food` begins with
    `group:`."""

    food: str
    verb: str
    minutes: Range
    celsius: float | None
    grade: Grade


@dataclass(frozen=True, slots=True)
class ScalingShare:
    """The share of a strong food to begin with in a batch of four and of ten times the size; the
    rest goes in by taste. Grade C."""

    food: str
    at_4: float
    at_10: float


@dataclass(frozen=True, slots=True)
class Selector:
    """Foods by key, key pattern (`tomato*`), group or flag. Empty selects nothing."""

    patterns: tuple[str, ...] = ()
    groups: frozenset[str] = frozenset()
    flags: frozenset[str] = frozenset()

    def holds(self, food: Food) -> bool:
        return (
            food.group in self.groups
            or bool(self.flags & food.traits.flags)
            or any(fnmatchcase(food.key, pattern) for pattern in self.patterns)
        )

    @property
    def is_empty(self) -> bool:
        return not (self.patterns or self.groups or self.flags)


FRESH = Selector(
    ("garlic", "shallot", "scallion*", "onion-red", "onion-white", "onion-yellow",
    "onion-sweet", "chives",
     "ginger-fresh", "horseradish-fresh", "jalapeno", "serrano-chilli", "red-chilli"),
)  # fmt: skip
"""Raw aromatics, which bring water and what lives in it; fresh herbs are told by their form."""


def is_fresh_aromatic(food: Food) -> bool:
    """Whether a food is raw garlic, onion, ginger, chile or a fresh herb."""
    return FRESH.holds(food) or (food.group == "herb" and food.form == "raw")


@dataclass(frozen=True, slots=True)
class KeepRule:
    """How long a dish or a part of one keeps at 5 °C, the day of making being day 1; 0 days is the
    same meal.

    A rule of a `part` speaks of one food in a salad, others of the whole dish. `without` are foods
    it does not speak of; a rule for any food they silence. `days_fresh` hold where raw aromatics
    are in it; `for_at_risk` is false for what guests at risk are never given. `ahead_hours` is how
    long before it is eaten it may be made at most; `dress_window` from and to how many minutes
    before eating it is dressed; `out_minutes` how long it may stand out of cooling, all sittings
    added."""

    id: str
    component: str
    part: bool
    kinds: frozenset[str]
    foods: Selector
    without: Selector
    days: int
    days_fresh: int
    for_at_risk: bool
    out_minutes: int
    ahead_hours: float
    dress_window: tuple[int, int] | None
    freezes: str
    discard: str
    why: str
    grade: Grade
    fresh_only: bool = False
    """Whether raw aromatics must be in it for the rule to speak."""


@dataclass(frozen=True, slots=True)
class KitchenWork:
    """All of it, as shipped."""

    verbs: tuple[WorkVerb, ...] = ()
    times: tuple[CookingTime, ...] = ()
    scaling: Mapping[str, ScalingShare] = field(default_factory=dict)
    keeping: tuple[KeepRule, ...] = ()

    def verb(self, name: str) -> WorkVerb:
        """Raises KeyError for a verb that is not known."""
        for verb in self.verbs:
            if verb.verb == name:
                return verb
        raise KeyError(name)

    def time_of(self, verb: str, food: Food) -> CookingTime | None:
        """What a verb takes on a food: its own row first, then that of a form of the same family,
        then its group."""
        of_verb = [t for t in self.times if t.verb == verb]
        family = food.key.rsplit("-", 1)[0]
        for wanted in (
            food.key,
            f"{food.key}-dry",
            f"{food.key}-raw",
            f"{family}-dry",
            f"{family}-raw",
            family,
        ):
            if (found := next((t for t in of_verb if t.food == wanted), None)) is not None:
                return found
        return next((t for t in of_verb if t.food == f"group:{food.group}"), None)
