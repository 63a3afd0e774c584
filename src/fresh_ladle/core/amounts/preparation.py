"""What preparation does to weight and figures: rinse, boil, roast, trim. One table, never applied
twice."""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace
from fnmatch import fnmatchcase

from fresh_ladle.core.foods.food import Food, Grade, Taste
from fresh_ladle.core.ranges import Range

WHOLE = Range(1.0, 1.0, 1.0)


@dataclass(frozen=True, slots=True)
class PreparationRule:
    """One row of the table: for foods of `foods` (key patterns), `groups` and `forms` (each empty:
    any), unless their form is in `skip_forms`.

    `weight` is the weight after over the weight before; `eaten` the share that ends in the bowl at
    all (oil on a tray); `factors` multiply single figures (sodium after rinsing); figures not named
    are conserved, since only water leaves or enters. `edible` rows take the edible share instead.
    """

    id: str
    label: str
    words: tuple[str, ...]
    foods: tuple[str, ...]
    groups: frozenset[str]
    forms: frozenset[str]
    skip_forms: frozenset[str]
    weight: Range
    eaten: Range
    factors: Mapping[str, float]
    edible: bool
    form_after: str
    grade: Grade
    source: str

    def fits(self, food: Food) -> bool:
        return (
            (not self.foods or any(fnmatchcase(food.key, pattern) for pattern in self.foods))
            and (not self.groups or food.group in self.groups)
            and (not self.forms or food.form in self.forms)
            and food.form not in self.skip_forms
        )

    def already_done(self, food: Food) -> bool:
        """True when the food's own row already stands for this preparation."""
        return food.form in self.skip_forms and (not self.groups or food.group in self.groups)


@dataclass(frozen=True, slots=True)
class Preparation:
    """A preparation as it bears on one food. `note` says in a few words what it changes, or that
    the row has it."""

    id: str
    label: str
    note: str
    weight: Range = WHOLE
    factors: Mapping[str, float] = field(default_factory=dict)
    grade: Grade = Grade.A
    source: str = ""
    form_after: str = ""
    eaten: Range = WHOLE
    changes_form: bool = True
    """False when the food's own row stands for the preparation already."""

    @property
    def changes_figures(self) -> bool:
        return self.weight != WHOLE or self.eaten != WHOLE or bool(self.factors)


@dataclass(frozen=True, slots=True)
class CookedYield:
    """Cooked weight over dry weight of one family of grains, pasta or legumes.

    `sodium_kept` is the share of its sodium that stays: dried noodles made with salt leave most of
    it in the water."""

    factor: Range
    sodium_kept: float
    grade: Grade
    source: str


@dataclass(frozen=True, slots=True)
class TasteChange:
    """What a preparation does to the taste of foods of `groups` (empty: any), where no ready-made
    form tells.

    `acid`, `sweet` and `glutamate` multiply what is there, `acid_added` is g per 100 g as prepared;
    bitter, heat, aroma and body move the rank of potency. `smell` is a family that stands beside
    the first of the food's own afterwards."""

    id: str
    groups: frozenset[str]
    acid: float
    acid_added: float
    sweet: float
    glutamate: float
    bitter: float
    heat: float
    aroma: float
    body: float
    grade: Grade
    source: str
    smell: str = ""

    def applied(self, taste: Taste, weight: float) -> Taste:
        """The taste of 100 g as prepared, when 1 g weighs `weight` afterwards: what water leaves
        behind is stronger."""
        return replace(
            taste,
            acid_pct=taste.acid_pct * self.acid / weight + self.acid_added,
            sweet_pct=taste.sweet_pct * self.sweet / weight,
            glutamate_mg=taste.glutamate_mg * self.glutamate / weight,
            nucleotide_mg=taste.nucleotide_mg / weight,
            bitter=_rank(taste.bitter + self.bitter),
            heat=_rank(taste.heat + self.heat),
            aroma=_rank(taste.aroma + self.aroma),
            body=_rank(taste.body + self.body),
            grade=self.grade,
            note=self.source,
            smells=tuple(dict.fromkeys((*taste.smells[:1], self.smell)))
            if self.smell
            else taste.smells,
        )


def _rank(value: float) -> float:
    return min(10.0, max(0.0, value))


class PreparationTable:
    """The rules, in the order they are tried, with the cooked yields by family."""

    def __init__(
        self,
        rules: Iterable[PreparationRule],
        yields: Mapping[str, CookedYield],
        tastes: Iterable[TasteChange] = (),
    ) -> None:
        self._rules = tuple(rules)
        self._yields = dict(yields)
        self._tastes = tuple(tastes)
        pairs = [(w, r.id) for r in self._rules for w in r.words]
        self._said = sorted(dict.fromkeys(pairs), key=lambda pair: -len(pair[0]))
        self.phrases = frozenset(word for word, _ in pairs)
        self.words = frozenset(w for word, _ in pairs for w in word.split())

    @property
    def labels(self) -> dict[str, str]:
        """Label of every preparation by id, in table order."""
        return {rule.id: rule.label for rule in self._rules}

    def named_in(self, remarks: Iterable[str], food: Food) -> list[str]:
        """Ids of the preparations that remarks such as "drained and rinsed" name, as they bear on
        this food."""
        found: list[str] = []
        for phrase in remarks:
            text = phrase.lower()
            for word, rule_id in self._said:
                # Most words are not in the text at all, which is told much faster than where they
                # would stand.
                if word not in text or not re.search(rf"\b{re.escape(word)}\b", text):
                    continue
                if rule_id in found or not self._could_mean(rule_id, food):
                    continue
                found.append(rule_id)
                text = re.sub(rf"\b{re.escape(word)}\b", " ", text)
        return found

    def _could_mean(self, rule_id: str, food: Food) -> bool:
        return any(r.fits(food) or r.already_done(food) for r in self._rules if r.id == rule_id)

    def bearing(self, rule_id: str, food: Food) -> Preparation:
        """What one preparation does to one food; no change when the row already has it or it cannot
        apply.

        Raises KeyError when no preparation has this id.
        """
        rules = [r for r in self._rules if r.id == rule_id]
        if not rules:
            raise KeyError(rule_id)
        rule = next((r for r in rules if r.fits(food)), None)
        if rule is None:
            return Preparation(
                rule_id, rules[0].label, "already in the figures of this food", changes_form=False
            )
        if rule.edible:
            return self._trimmed(rule, food)
        if rule.id == "boil" and (cooked := self._yields.get(food.family)):
            kept = {"sodium_mg": cooked.sodium_kept} if cooked.sodium_kept != 1 else {}
            note = ", ".join(
                [
                    f"{cooked.factor.value:g} times the dry weight",
                    *(f"{_plain(n)} × {k:g}" for n, k in kept.items()),
                ]
            )
            return Preparation(
                rule.id,
                rule.label,
                note,
                cooked.factor,
                kept,
                cooked.grade,
                cooked.source,
                rule.form_after,
            )
        return Preparation(
            rule.id,
            rule.label,
            _effect_in_words(rule),
            rule.weight,
            rule.factors,
            rule.grade,
            rule.source,
            rule.form_after,
            rule.eaten,
        )

    def taste_after(
        self, food: Food, done: Iterable[Preparation], ready: Mapping[str, Food]
    ) -> Taste | None:
        """The taste of 100 g of a food as prepared, before it goes into the bowl; None when nothing
        changed it.

        `ready` are the food's own forms that can be bought or are in the table, by form: where
        preparation makes one of them, it tastes as that one does."""
        taste, changed = food.taste, False
        for preparation in done:
            form = ready.get(preparation.form_after) if preparation.form_after else None
            if form is not None and form is not food and form.taste is not None:
                taste, changed = form.taste, True
                continue
            change = next(
                (
                    c
                    for c in self._tastes
                    if c.id == preparation.id and (not c.groups or food.group in c.groups)
                ),
                None,
            )
            if change is not None and taste is not None and preparation.changes_form:
                taste, changed = change.applied(taste, preparation.weight.value), True
        return taste if changed else None

    @staticmethod
    def _trimmed(rule: PreparationRule, food: Food) -> Preparation:
        share = food.edible_share
        if share is None:
            return Preparation(rule.id, rule.label, "the measure is of the edible part")
        weight = Range(share.grams / 100, share.low / 100, share.high / 100)
        return Preparation(
            rule.id,
            rule.label,
            f"{share.grams:g}% of the weight as bought",
            weight,
            {},
            share.grade,
            rule.source,
        )


def _effect_in_words(rule: PreparationRule) -> str:
    parts = []
    if rule.weight.value != 1:
        parts.append(f"weight × {rule.weight.value:g}")
    if rule.eaten.value != 1:
        parts.append(f"{rule.eaten.value * 100:g}% is eaten")
    parts += [f"{_plain(n)} × {factor:g}" for n, factor in rule.factors.items()]
    return ", ".join(parts) or "no change of figures"


def _plain(nutrient_id: str) -> str:
    return nutrient_id.rsplit("_", 1)[0].replace("_", " ")
