"""A kind of dish as data: the roles foods play in it, the share each may take, and the usual order
of work."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field


@dataclass(frozen=True, slots=True)
class Role:
    """One role of a kind of dish. `low` and `high` are grams in 100 g of the dish for all foods of
    the role together, where it is played at all; `most` is how many foods may share it. `usual` and
    `fits` are food keys, the more expected first. `dressing` roles go into the dressing of a
    salad."""

    id: str
    low: float
    high: float
    needed: bool
    most: int
    usual: tuple[str, ...]
    fits: tuple[str, ...]
    dressing: bool = False

    def takes(self, food_key: str) -> bool:
        return food_key in self.usual or food_key in self.fits


@dataclass(frozen=True, slots=True)
class WorkStep:
    """One step of work. `say` holds `{}` for the foods of `roles`, and may name one more role in
    braces."""

    say: str
    roles: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Formula:
    """What a kind of dish is made of, role by role in the order in which they are told."""

    kind: str
    roles: tuple[Role, ...]
    order: tuple[WorkStep, ...]

    def role(self, role_id: str) -> Role | None:
        return next((r for r in self.roles if r.id == role_id), None)


@dataclass(frozen=True, slots=True)
class Use:
    """What a food in the house becomes on its way into a dish: a lemon its juice, dry barley cooked
    barley.

    `kinds` are those it does so for, empty for all; `g_per_g` grams of it from one gram of the
    food."""

    food: str
    becomes: str
    kinds: frozenset[str]
    g_per_g: float


@dataclass(frozen=True, slots=True)
class Composing:
    """What composing a dish stands on. `strong` is the most of a food in 100 g of a dish; `accords`
    the tables a food is at home at, where it is not at home at all of them."""

    formulas: Mapping[str, Formula] = field(default_factory=dict)
    uses: tuple[Use, ...] = ()
    strong: Mapping[str, float] = field(default_factory=dict)
    accords: Mapping[str, frozenset[str]] = field(default_factory=dict)
    leftovers: Mapping[tuple[str, str], frozenset[str]] = field(default_factory=dict)
    """By the kind of a dish that is left and the kind it goes into: the roles it can play there."""
