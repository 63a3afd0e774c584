"""A food: its figures per 100 g with their sources, household measures, taste and traits."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from enum import StrEnum


class Grade(StrEnum):
    """How far a figure can be trusted; the words are what the user reads."""

    A = "A"
    B = "B"
    C = "C"

    @property
    def meaning(self) -> str:
        return {
            "A": "standard or measured",
            "B": "published range",
            "C": "estimate",
        }[self.value]


@dataclass(frozen=True, slots=True)
class Source:
    """Where a figure comes from: a row of a composition table, or an estimate with its reason."""

    label: str
    grade: Grade


@dataclass(frozen=True, slots=True)
class Measure:
    """What one household measure of a food weighs, in grams. `unit` is a name such as `cup chopped`
    or `clove`."""

    unit: str
    grams: float
    low: float
    high: float
    grade: Grade
    note: str


@dataclass(frozen=True, slots=True)
class Pack:
    """A can, jar, bag or tub as it is sold in a region: its net weight, and what is in it once
    drained, in grams.

    `pack` is the word for it, `sizes` how it is called ("15 oz", "small"), `usual` whether it is
    meant when no size is given."""

    pack: str
    sizes: tuple[str, ...]
    region: str
    net_g: float
    grams: float
    low: float
    high: float
    usual: bool
    grade: Grade


class LooseBasis(StrEnum):
    """What the grams of a loose word are counted by."""

    PIECE = "per piece"
    DISH = "per dish"
    SERVING = "per serving"
    MIX = "per 100 g of mix"


@dataclass(frozen=True, slots=True)
class LooseMeasure:
    """What a word that measures nothing ("glug", "to coat", "no amount at all") comes to for a
    class of food, in grams: always an estimate. `role` tells rows of one word apart, such as
    `topping`."""

    word: str
    basis: LooseBasis
    role: str
    grams: float
    low: float
    high: float


@dataclass(frozen=True, slots=True)
class Taste:
    """Taste figures per 100 g of food.

    `acid_pct` g citric-acid equivalent; `sweet_pct` g sucrose equivalent; glutamate and nucleotide
    in mg; bitter, heat, aroma and body are ranks of potency from 0 to 10, always estimates.
    `smells` are the families of its aroma."""

    acid_pct: float
    sweet_pct: float
    glutamate_mg: float
    nucleotide_mg: float
    bitter: float
    heat: float
    aroma: float
    body: float
    grade: Grade
    note: str
    smells: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class Traits:
    """What a food brings besides figures. `added_sugar` is the share of its sugars that counts as
    added, 0 to 1.

    `may_contain` are allergens that some makers' packs hold and others' do not: only the pack can
    tell."""

    allergens: frozenset[str] = frozenset()
    may_contain: frozenset[str] = frozenset()
    added_fat: bool = False
    added_salt: bool = False
    added_sugar: float = 0.0
    animal: str = "none"
    whole_food: bool = False
    roles: frozenset[str] = frozenset()
    flags: frozenset[str] = frozenset()


@dataclass(frozen=True, slots=True)
class Food:
    """One food or form of a food.

    `per_100_g` maps nutrient id to a figure per 100 g edible portion; None means not determined,
    never zero. `form` says what has been done to it already (`dry`, `cooked`, `canned-drained`,
    ...), so that no preparation is counted twice; foods of one `family` are forms of the same
    thing. A food without taste figures or measures comes straight from the composition table.
    `ranges` gives the ends of a figure that is known only within them, such as one read from a
    rounded label."""

    key: str
    name: str
    group: str
    per_100_g: Mapping[str, float | None]
    source: Source
    aliases: tuple[str, ...] = ()
    family: str = ""
    form: str = ""
    note: str = ""
    filled: frozenset[str] = frozenset()
    fill_source: Source | None = None
    measures: tuple[Measure, ...] = ()
    loose: tuple[LooseMeasure, ...] = ()
    packs: tuple[Pack, ...] = ()
    taste: Taste | None = None
    traits: Traits = Traits()
    ranges: Mapping[str, tuple[float, float]] = field(default_factory=dict)

    def __hash__(self) -> int:
        return hash(self.key)

    def figure_source(self, nutrient_id: str) -> Source:
        """The source of one figure: the composition row, or the estimate that fills or overrides
        it."""
        if nutrient_id in self.filled and self.fill_source is not None:
            return self.fill_source
        return self.source

    @property
    def kitchen_name(self) -> str:
        """What a cook calls it: the plain name, or the first alias where the name is an index entry
        with commas."""
        if "," not in self.name:
            return self.name[0].lower() + self.name[1:]
        spoken = (a for a in self.aliases if not a.isupper() and len(a) > 3)
        return next(spoken, self.name)

    def measure(self, unit: str) -> Measure | None:
        return next((m for m in self.measures if m.unit == unit), None)

    @property
    def edible_share(self) -> Measure | None:
        """The edible percent of the weight as bought, when this food is usually trimmed."""
        return self.measure(EDIBLE_PERCENT)

    @property
    def in_pantry(self) -> bool:
        return self.taste is not None


EDIBLE_PERCENT = "as-purchased-edible-percent"
