"""Every claim of a regime, for one dish: does it hold, by how much does it fail, or why can it not
be said."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

from fresh_ladle.core.claims.dish_figures import (
    POURED,
    ReferenceAmount,
    at_amount,
    corrected_protein,
    per_100_kcal,
    percent_less,
    reference_amount,
    salt_brought_by,
    share_of_energy,
    sugar_brought_by,
)
from fresh_ladle.core.claims.finding import At, Finding, all_of, any_of, at_least, at_most
from fresh_ladle.core.nutrients.declaration import Regime
from fresh_ladle.core.nutrients.totals import density_g_per_ml
from fresh_ladle.core.whole.appraisal import Appraisal
from fresh_ladle.core.words.sentences import listed


@dataclass(frozen=True, slots=True)
class Claim:
    """One claim tried on a dish. `words` are those that may stand, `rule` its rule in one line,
    `drags` what must stand beside it, empty for nothing."""

    id: str
    words: str
    holds: bool | None
    why: str
    rule: str
    at: At | None
    drags: str


@dataclass(frozen=True, slots=True)
class _Dish:
    """What the rules look at: the dish, where it is measured, and what it is compared with."""

    now: Appraisal
    usual: Appraisal | None
    amount: ReferenceAmount

    def most(self, nutrient: str, limit: float) -> Finding:
        """At the reference amount, and in 50 g where that is small."""
        return all_of(
            [at_most(at_amount(self.now, nutrient, g, words), limit) for g, words in self._places()]
        )

    def free(self, nutrient: str, limit: float) -> Finding:
        """Below the limit at the reference amount and in a serving."""
        places = (
            (self.amount.grams, self.amount.words),
            (self.now.totals.serving_grams, "a serving"),
        )
        return all_of(
            [at_most(at_amount(self.now, nutrient, g, words), limit, True) for g, words in places]
        )

    def _places(self) -> list[tuple[float, str]]:
        places = [(self.amount.grams, self.amount.words)]
        return [*places, (50.0, "50 g")] if self.amount.small else places

    def share(self, nutrient: str, low: float, below: float | None) -> Finding:
        """From `low` on, and less than `below`, at the reference amount."""
        figure = at_amount(self.now, nutrient, self.amount.grams, self.amount.words)
        return _between(at_least(figure, low), at_most(figure, below, True) if below else None)

    def protein(self, low: float, below: float | None) -> Finding:
        figure = corrected_protein(self.now, self.amount.grams, self.amount.words)
        return _between(at_least(figure, low), at_most(figure, below, True) if below else None)

    def less(
        self, nutrient: str, percent: float, usual_may_not: Callable[[_Dish], Finding] | None = None
    ) -> Finding:
        """So many percent less than the dish it is compared with, which may not itself bear the
        word `low`."""
        if self.usual is None:
            return Finding(None, "name the food it is compared with")
        found = at_least(percent_less(self.now, self.usual, nutrient), percent)
        if usual_may_not is not None:
            other = usual_may_not(_Dish(self.usual, None, reference_amount(self.usual)))
            if other.holds is not False:
                word = "is low itself" if other.holds else "may be low itself"
                return Finding(
                    False if other.holds else None,
                    f"{self.usual.recipe.title} {word}: {other.why}",
                    found.at,
                )
        return found


def _between(enough: Finding, not_more: Finding | None) -> Finding:
    if not_more is None or enough.holds is not True:
        return enough
    if not_more.holds is False:
        return replace(not_more, why=f"{enough.why}: more than that, say high")
    return enough if not_more.holds else not_more


Rule = Callable[[_Dish], Finding]


def _no_salt_added(d: _Dish) -> Finding:
    salted = salt_brought_by(d.now)
    if d.now.problems:
        return Finding(None, f"not understood: {d.now.problems[0].line.text}")
    return Finding(
        not salted, f"salt comes in with {listed(salted[:4])}" if salted else "no line brings salt"
    )


def _no_sugar_added(d: _Dish) -> Finding:
    sweet, figure = sugar_brought_by(d.now), d.now.totals.serving["added_sugars_g"]
    if sweet:
        return Finding(
            False, f"{listed(sweet[:4])} {'sweetens' if len(sweet) == 1 else 'sweeten'} it"
        )
    if not figure.complete:
        return Finding(None, f"added sugars are not known of {listed(figure.missing)}")
    return Finding(True, "no line sweetens it")


def _light(d: _Dish) -> Finding:
    by_fat = share_of_energy(d.now, "fat_g", 9.0)
    fat = d.less("fat_g", 50)
    if at_least(by_fat, 50).holds is not False:
        return fat
    return any_of([fat, d.less("energy_kcal", 100 / 3)])


def _low_fat(d: _Dish) -> Finding:
    return d.most("fat_g", 3)


def _low_calorie(d: _Dish) -> Finding:
    return d.most("energy_kcal", 40)


def _low_sodium(d: _Dish) -> Finding:
    return d.most("sodium_mg", 140)


@dataclass(frozen=True, slots=True)
class _Rule:
    id: str
    words: str
    rule: str
    holds: Rule
    drags: Callable[[_Dish], str] = lambda _: ""


def _not_low_calorie(d: _Dish) -> str:
    return "" if _low_calorie(d).holds else "say beside it: not a low calorie food"


def _total_fat(d: _Dish) -> str:
    if _low_fat(d).holds:
        return ""
    fat = at_amount(d.now, "fat_g", d.amount.grams, d.amount.words)
    return f"state total fat beside it: {fat.value:.3g} g in {d.amount.words}"


def _named(d: _Dish, nutrient: str) -> str:
    """A relative claim names what it is compared with, and both amounts."""
    if d.usual is None:
        return ""
    return f"say by how much and than what: {percent_less(d.now, d.usual, nutrient).words}"


def _of(nutrient: str) -> Callable[[_Dish], str]:
    return lambda d: _named(d, nutrient)


def _footnote(groups: frozenset[str], what: str) -> Callable[[_Dish], str]:
    def drags(d: _Dish) -> str:
        names = [
            p.food.kitchen_name
            for p in d.now.portions
            if p.food is not None and p.food.group in groups
        ]
        return (
            f"{listed(names)}: mark with a footnote that it adds a trivial amount of {what}"
            if names
            else ""
        )

    return drags


_US = (
    _Rule("sodium-free", "sodium free",
    "under 5 mg sodium in the reference amount and in a serving",
          lambda d: d.free("sodium_mg", 5), _footnote(frozenset({"salt-salty"}), "sodium")),
    _Rule("very-low-sodium", "very low sodium",
    "at most 35 mg sodium in the reference amount, and in 50 g if small",
          lambda d: d.most("sodium_mg", 35)),
    _Rule("low-sodium", "low sodium",
    "at most 140 mg sodium in the reference amount, and in 50 g if small",
          _low_sodium),
    _Rule("reduced-sodium", "reduced sodium",
    "at least 25% less sodium than a named food that is not low sodium",
          lambda d: d.less("sodium_mg", 25, _low_sodium), _of("sodium_mg")),
    _Rule("light-in-sodium", "light in sodium", "at least 50% less sodium than a named food",
          lambda d: d.less("sodium_mg", 50, _low_sodium), _of("sodium_mg")),
    _Rule("no-salt-added", "no salt added",
    "no salt in it as made, where such food is usually salted", _no_salt_added,
          lambda d: "" if d.free("sodium_mg",
          5).holds else "say beside it: not a sodium free food"),
    _Rule("low-calorie", "low calorie",
    "at most 40 kcal in the reference amount, and in 50 g if small", _low_calorie),
    _Rule("reduced-calories", "reduced calories",
    "at least 25% fewer calories than a named food that is not low"
          " calorie", lambda d: d.less("energy_kcal", 25, _low_calorie), _of("energy_kcal")),
    _Rule("fat-free", "fat free", "under 0.5 g fat in the reference amount and in a serving",
          lambda d: d.free("fat_g", 0.5), _footnote(frozenset({"fat-oil"}), "fat")),
    _Rule("low-fat", "low fat",
    "at most 3 g fat in the reference amount, and in 50 g if small", _low_fat),
    _Rule("reduced-fat", "reduced fat",
    "at least 25% less fat than a named food that is not low fat",
          lambda d: d.less("fat_g", 25, _low_fat), _of("fat_g")),
    _Rule("light", "light", "half the fat of a named food; or, under half its energy from fat, a third fewer calories",
          _light, _of("fat_g")),
    _Rule("low-saturated-fat", "low saturated fat",
    "at most 1 g saturated fat in the reference amount, and at most 15%"
          " of the energy", lambda d: all_of([
              at_most(at_amount(d.now, "saturated_fat_g", d.amount.grams, d.amount.words), 1),
              at_most(share_of_energy(d.now, "saturated_fat_g", 9.0), 15)])),
    _Rule("low-cholesterol", "low cholesterol",
    "at most 20 mg cholesterol and 2 g saturated fat in the reference"
          " amount, and in 50 g if small",
          lambda d: all_of([d.most("cholesterol_mg", 20), d.most("saturated_fat_g", 2)]),
          _total_fat),
    _Rule("sugar-free", "sugar free", "under 0.5 g sugars in the reference amount and in a serving",
          lambda d: d.free("sugars_g", 0.5), _not_low_calorie),
    _Rule("reduced-sugar", "reduced sugar", "at least 25% less sugars than a named food",
          lambda d: d.less("sugars_g", 25), _of("sugars_g")),
    _Rule("no-added-sugar", "no added sugar",
    "nothing sweetens it, where such food is usually sweetened",
          _no_sugar_added, _not_low_calorie),
    _Rule("good-source-of-fiber", "good source of fiber",
    "2.8 g to under 5.6 g fiber in the reference amount (10 to"
          " 19% of a day)", lambda d: d.share("fiber_g", 2.8, 5.6), _total_fat),
    _Rule("high-fiber", "high fiber", "at least 5.6 g fiber in the reference amount (20% of a day)",
          lambda d: d.share("fiber_g", 5.6, None), _total_fat),
    _Rule("good-source-of-protein", "good source of protein",
    "5 g to under 10 g protein, corrected for digestibility,"
          " in the reference amount", lambda d: d.protein(5, 10)),
    _Rule("high-protein", "high protein",
    "at least 10 g protein, corrected for digestibility, in the reference amount",
          lambda d: d.protein(10, None)),
)  # fmt: skip
"""21 CFR 101.13, .54, .56, .60, .61 and .62."""


def _hundred(nutrient: str, limit: float, poured: float | None = None) -> Rule:
    """At most so much in 100 g; in 100 ml of what is poured, where that limit is another."""

    def holds(d: _Dish) -> Finding:
        if poured is not None and d.now.recipe.kind in POURED:
            return at_most(
                at_amount(d.now, nutrient, 100 * density_g_per_ml(d.now.portions), "100 ml"), poured
            )
        return at_most(at_amount(d.now, nutrient, 100.0, "100 g"), limit)

    return holds


TRANS_SHARE = 0.05
"""Of the fat of milk, cheese and meat that may be trans fat, which the tables do not hold (C)."""
_WITH_TRANS = frozenset({"dairy", "cheese", "protein"})


def _low_saturated(d: _Dish) -> Finding:
    is_poured = d.now.recipe.kind in POURED
    grams, words = (
        (100 * density_g_per_ml(d.now.portions), "100 ml") if is_poured else (100.0, "100 g")
    )
    figure = at_amount(d.now, "saturated_fat_g", grams, words)
    brings = any(
        p.food is not None
        and (p.food.group in _WITH_TRANS or p.food.key.startswith(("butter", "margarine", "ghee")))
        for p in d.now.portions
    )
    fat = at_amount(d.now, "fat_g", grams, words)
    figure = replace(figure, high=figure.high + (TRANS_SHARE * fat.high if brings else 0.0))
    return all_of(
        [
            at_most(figure, 0.75 if is_poured else 1.5),
            at_most(share_of_energy(d.now, "saturated_fat_g", 9.0), 10),
        ]
    )


def _similar(nutrient: str) -> Callable[[_Dish], str]:
    def drags(d: _Dish) -> str:
        named = _named(d, nutrient)
        return (
            f"{named}; compare with a range of similar foods, not with one alone" if named else ""
        )

    return drags


_EU = (
    _Rule("low-salt", "low salt", "at most 0.12 g sodium (0.3 g salt) in 100 g",
    _hundred("sodium_mg", 120)),
    _Rule("very-low-salt", "very low salt", "at most 0.04 g sodium (0.1 g salt) in 100 g",
    _hundred("sodium_mg", 40)),
    _Rule("salt-free", "salt free", "at most 0.005 g sodium (0.0125 g salt) in 100 g",
    _hundred("sodium_mg", 5)),
    _Rule("no-added-salt", "no added salt",
    "no salt in it as made, and at most 0.12 g sodium in 100 g",
          lambda d: all_of([_no_salt_added(d), _hundred("sodium_mg", 120)(d)])),
    _Rule("reduced-salt", "reduced salt", "at least 25% less salt than similar foods",
          lambda d: d.less("sodium_mg", 25), _similar("sodium_mg")),
    _Rule("low-fat", "low fat", "at most 3 g fat in 100 g (1.5 g of what is poured)",
    _hundred("fat_g", 3, 1.5)),
    _Rule("fat-free", "fat free", "at most 0.5 g fat in 100 g", _hundred("fat_g", 0.5)),
    _Rule("low-saturated-fat", "low in saturated fat",
    "at most 1.5 g saturated and trans fat in 100 g (0.75 g of what"
          " is poured), and at most 10% of the energy", _low_saturated),
    _Rule("reduced-fat", "reduced fat", "at least 30% less fat than similar foods",
    lambda d: d.less("fat_g", 30),
          _similar("fat_g")),
    _Rule("low-energy", "low energy", "at most 40 kcal in 100 g (20 kcal of what is poured)",
          _hundred("energy_kcal", 40, 20)),
    _Rule("reduced-energy", "reduced energy", "at least 30% less energy than similar foods",
          lambda d: d.less("energy_kcal", 30), _similar("energy_kcal")),
    _Rule("low-sugars", "low sugars", "at most 5 g sugars in 100 g (2.5 g of what is poured)",
          _hundred("sugars_g", 5, 2.5)),
    _Rule("sugars-free", "sugars free", "at most 0.5 g sugars in 100 g", _hundred("sugars_g", 0.5)),
    _Rule("no-added-sugars", "no added sugars", "nothing sweetens it", _no_sugar_added,
          lambda d: "" if _hundred("sugars_g",
          0.5)(d).holds else "say beside it: contains naturally occurring sugars"),
    _Rule("source-of-fibre", "source of fibre", "at least 3 g fibre in 100 g, or 1.5 g in 100 kcal",
          lambda d: any_of([at_least(at_amount(d.now, "fiber_g", 100.0, "100 g"), 3),
                            at_least(per_100_kcal(d.now, "fiber_g"), 1.5)])),
    _Rule("high-fibre", "high fibre", "at least 6 g fibre in 100 g, or 3 g in 100 kcal",
          lambda d: any_of([at_least(at_amount(d.now, "fiber_g", 100.0, "100 g"), 6),
                            at_least(per_100_kcal(d.now, "fiber_g"), 3)])),
    _Rule("source-of-protein", "source of protein", "at least 12% of the energy from protein",
          lambda d: at_least(share_of_energy(d.now, "protein_g", 4.0), 12)),
    _Rule("high-protein", "high protein", "at least 20% of the energy from protein",
          lambda d: at_least(share_of_energy(d.now, "protein_g", 4.0), 20)),
)  # fmt: skip
"""Regulation (EC) 1924/2006, annex."""

_DISCLOSED = (
    ("fat_g", 13.0),
    ("saturated_fat_g", 4.0),
    ("cholesterol_mg", 60.0),
    ("sodium_mg", 480.0),
)
"""Above these at the reference amount, in a serving, or in 50 g if small, a US claim points to
them."""


def claims_of(dish: Appraisal, regime: Regime, usual: Appraisal | None = None) -> list[Claim]:
    """All claims of a regime, on unrounded figures; `usual` is what relative claims compare
    with."""
    d = _Dish(dish, usual, reference_amount(dish))
    shown = disclosure(dish) if regime is Regime.US else ""
    found = []
    for rule in _US if regime is Regime.US else _EU:
        finding = rule.holds(d)
        drags = "; ".join(part for part in (rule.drags(d), shown) if part) if finding.holds else ""
        found.append(
            Claim(rule.id, rule.words, finding.holds, finding.why, rule.rule, finding.at, drags)
        )
    return found


def disclosure(dish: Appraisal) -> str:
    """What any US claim must point to, empty for nothing; what is not known is said to be so."""
    amount = reference_amount(dish)
    places = [(amount.grams, amount.words), (dish.totals.serving_grams, "a serving")]
    places += [(50.0, "50 g")] if amount.small else []
    over, unknown = [], []
    for nutrient, limit in _DISCLOSED:
        found = [at_most(at_amount(dish, nutrient, grams, words), limit) for grams, words in places]
        name = at_amount(dish, nutrient, 1.0, "").name
        if any(f.holds is False for f in found):
            over.append(name)
        elif any(f.holds is None for f in found):
            unknown.append(name)
    said = f"see nutrition information for {listed(over)} content" if over else ""
    doubt = (
        f"whether {listed(unknown)} must be pointed to as well cannot be said" if unknown else ""
    )
    return "; ".join(part for part in (said, doubt) if part)
