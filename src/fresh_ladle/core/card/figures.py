"""The figures of a card: rounded as label rules say, with the share of a day, the range where it
matters, and what changed against the usual recipe."""

from __future__ import annotations

from dataclasses import dataclass

from fresh_ladle.core.foods.nutrient import BY_ID, HEADLINE
from fresh_ladle.core.nutrients.declaration import Regime
from fresh_ladle.core.nutrients.labels import KJ_PER_KCAL, eu_label, us_label, whole_label
from fresh_ladle.core.nutrients.totals import Figure
from fresh_ladle.core.whole.appraisal import Appraisal

DAILY: dict[Regime, dict[str, float]] = {
    Regime.US: {
        "fat_g": 78, "saturated_fat_g": 20, "sodium_mg": 2300, "carbohydrate_g": 275, "fiber_g": 28,
        "added_sugars_g": 50, "protein_g": 50, "cholesterol_mg": 300, "potassium_mg": 4700,
        "calcium_mg": 1300,
        "iron_mg": 18,
    },
    Regime.EU: {
        "energy_kcal": 2000, "fat_g": 70, "saturated_fat_g": 20, "carbohydrate_g": 260,
        "sugars_g": 90,
        "protein_g": 50, "sodium_mg": 2400,
    },
}  # fmt: skip
"""A day for an adult: US Daily Values (21 CFR 101.9(c)), EU reference intakes (Regulation (EU)
1169/2011, annex XIII; 6 g of salt as 2,400 mg of sodium)."""
DAY_WORDS = {Regime.US: "US Daily Value", Regime.EU: "EU reference intake of an adult"}
SMALL = (
    "saturated_fat_g",
    "carbohydrate_g",
    "sugars_g",
    "added_sugars_g",
    "cholesterol_mg",
    "potassium_mg",
)
"""The figures that stand small, in the order of labels."""
WIDE = 0.12
"""Of a figure: a range that reaches farther than this to a side is said."""
LEAST_CHANGE = 0.10
"""Of a figure: less is no difference that a card speaks of."""


@dataclass(frozen=True, slots=True)
class CardFigure:
    """One figure: `value` as declared, `share` of a day, `spread` its range in words where it is
    wide; both may be empty."""

    nutrient: str
    name: str
    value: str
    unit: str
    share: str
    spread: str

    @property
    def words(self) -> str:
        return f"{self.value} {self.unit}"

    @property
    def least(self) -> bool:
        """Whether something is missing from it."""
        return self.value.startswith(_LEAST)

    @property
    def number(self) -> str:
        """The value without that it is the least."""
        return self.value.removeprefix(_LEAST)

    @property
    def said(self) -> str:
        """`250 calories`, `500 mg sodium`."""
        return f"{self.value if self.nutrient == 'energy_kcal' else self.words} {self.name.lower()}"


_LEAST = "at least "


def declared(nutrient: str, value: float, regime: Regime) -> tuple[str, str]:
    """A figure as the regime rounds it, and its unit. Sodium is salt in grams in the EU."""
    if regime is Regime.US:
        return us_label(nutrient, value), BY_ID[nutrient].unit
    return eu_label(nutrient, value), "g" if nutrient == "sodium_mg" else BY_ID[nutrient].unit


def name_in(nutrient: str, regime: Regime) -> str:
    """What the regime calls a figure."""
    salt = nutrient == "sodium_mg" and regime is Regime.EU
    return "Salt" if salt else BY_ID[nutrient].name


def card_figures(
    dish: Appraisal, regime: Regime, nutrients: tuple[str, ...] = HEADLINE
) -> list[CardFigure]:
    """Figures of a serving."""
    return [_card_figure(nutrient, dish.totals.serving[nutrient], regime) for nutrient in nutrients]


def _card_figure(nutrient: str, figure: Figure, regime: Regime) -> CardFigure:
    value, unit = declared(nutrient, figure.value, regime)
    day = DAILY[regime].get(nutrient)
    share = f"{figure.value / day * 100:.0f}% of a day" if day and figure.complete else ""
    return CardFigure(
        nutrient,
        name_in(nutrient, regime),
        _at_least(value, figure),
        unit,
        share,
        _spread(nutrient, figure, regime),
    )


def _at_least(value: str, figure: Figure) -> str:
    if figure.complete:
        return value
    return f"{_LEAST}0" if value.startswith(("less than", "<")) else f"{_LEAST}{value}"


def _spread(nutrient: str, figure: Figure, regime: Regime) -> str:
    """`could be 120 to 160`, where the range is wide and its ends are declared otherwise than the
    figure."""
    if not figure.complete or figure.value <= 0:
        return ""
    reach = max(figure.value - figure.low, figure.high - figure.value) / figure.value
    low, high = (declared(nutrient, max(0.0, end), regime)[0] for end in (figure.low, figure.high))
    said = declared(nutrient, figure.value, regime)[0]
    return (
        f"could be {low} to {high}"
        if reach > WIDE and low != high and {low, high} != {said}
        else ""
    )


def per_100_g_words(dish: Appraisal, regime: Regime) -> str:
    """`In 100 g: 210 kcal, 330 mg sodium …`; empty where a line could not be weighed, for then
    neither more nor less of anything is known of a hundred grams."""
    grams = dish.totals.serving_grams
    if grams <= 0 or dish.problems:
        return ""
    said = []
    for nutrient in HEADLINE:
        figure = dish.totals.serving[nutrient]
        value, unit = declared(nutrient, figure.value / grams * 100, regime)
        name = "" if nutrient == "energy_kcal" else f" {name_in(nutrient, regime).lower()}"
        said.append(f"{_at_least(value, figure)} {unit}{name}")
    if regime is Regime.EU:
        figure = dish.totals.serving["energy_kcal"]
        said[0] = f"{whole_label(figure.value / grams * 100 * KJ_PER_KCAL)} kJ, {said[0]}"
    return f"In 100 g: {', '.join(said)}."


def against_usual(dish: Appraisal, usual: Appraisal, regime: Regime) -> str:
    """The one difference to the usual recipe that weighs most, less of what one wants less of or
    more of what one wants more of; empty where no such figure is known whole and moved by a tenth.
    Servings that differ in size are compared by 100 g."""
    size, usual_size = dish.totals.serving_grams, usual.totals.serving_grams
    same = usual_size > 0 and abs(size / usual_size - 1) < SAME_SERVING
    changes = []
    for nutrient in HEADLINE:
        now, before = dish.totals.serving[nutrient], usual.totals.serving[nutrient]
        if not (
            now.complete and before.complete and before.value > 0 and size > 0 and usual_size > 0
        ):
            continue
        a, b = (
            (now.value, before.value)
            if same
            else (now.value / size * 100, before.value / usual_size * 100)
        )
        change, wanted = a / b - 1, 1 if nutrient in MORE_IS_WANTED else -1
        if change * wanted >= LEAST_CHANGE:
            changes.append((abs(change), nutrient, a, b))
    if not changes:
        return ""
    share, nutrient, a, b = max(changes)
    (now_words, unit), (usual_words, _) = (
        declared(nutrient, a, regime),
        declared(nutrient, b, regime),
    )
    if now_words == usual_words:
        return ""
    word = (
        "more" if nutrient in MORE_IS_WANTED else "fewer" if nutrient == "energy_kcal" else "less"
    )
    name = name_in(nutrient, regime).lower()
    per = "a serving" if same else "in 100 g"
    unit = "" if nutrient == "energy_kcal" else f" {unit}"
    return (
        f"{share * 100:.0f}% {word} {name} than our usual recipe: {now_words} against"
        f" {usual_words}{unit} {per}."
    )


SAME_SERVING = 0.05
MORE_IS_WANTED = frozenset({"fiber_g", "protein_g"})
