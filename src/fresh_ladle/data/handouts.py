"""Loads what is known for what leaves the kitchen; checked."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence

from fresh_ladle.core.card.audience import Audience
from fresh_ladle.core.card.expression import BadExpression, names_in, parsed
from fresh_ladle.core.card.facts import FUNCTIONS, NAMES
from fresh_ladle.core.catalogue.handouts import (
    ClaimRule,
    ClassBlock,
    CupEquivalent,
    Fact,
    FoodColor,
    Handouts,
    WordRule,
)
from fresh_ladle.core.foods.food import Grade
from fresh_ladle.core.foods.pantry import Pantry
from fresh_ladle.data.tables import DataError, non_negative, rows, split, toml_of


def load_handouts(pantry: Pantry) -> Handouts:
    """Raises DataError naming the row that cannot be."""
    rules, words = _word_rules(), _claim_words()
    return Handouts(
        _colors(),
        rules,
        words,
        _claim_rules(rules, words),
        _facts(),
        _cups(pantry),
        _constants(pantry),
        _blocks(),
    )


def _facts() -> tuple[Fact, ...]:
    found, seen = [], set[str]()
    for row in toml_of("facts.toml")["fact"]:
        place = f"facts.toml ({row['id']})"
        if row["id"] in seen or not row["source"]:
            raise DataError(f"{place}: its id once, and a source")
        seen.add(row["id"])
        try:
            when = parsed(row["when"])
            values = {name: parsed(text) for name, text in row.get("values", {}).items()}
        except BadExpression as error:
            raise DataError(f"{place}: {error}") from None
        used = {name for tree in (when, *values.values()) for name in names_in(tree)}
        if not used <= FUNCTIONS | NAMES or set(re.findall(r"\{(\w+)\}", row["says"])) != set(
            values
        ):
            raise DataError(
                f"{place}: {used - FUNCTIONS - NAMES or 'a name in its sentence without a value'}"
            )
        not_for = tuple(row.get("not_for", ()))
        if not set(not_for) <= set(Audience):
            raise DataError(f"{place}: no audience is called {not_for}")
        grade = Grade(row["grade"])
        found.append(
            Fact(row["id"], row["topic"], when, row["says"], values, row["source"], grade, not_for)
        )
    return tuple(found)


_WANTS = frozenset(
    {"always", "before", "time", "oil", "acid", "less-salt", "seeds", "canned", "leafy",
    "hardy", "cutting",
     "vegetables", "cost"}
)  # fmt: skip


def _blocks() -> tuple[ClassBlock, ...]:
    found = []
    for number, row in enumerate(rows("class_blocks.csv"), start=2):
        place = f"class_blocks.csv row {number} ({row['id']})"
        low, high = int(non_negative(row["low"], place)), int(non_negative(row["high"], place))
        if not 1 <= low <= high or row["wants"] not in _WANTS or not row["educator"]:
            raise DataError(
                f"{place}: minutes from low to high, what it wants, and what the educator does"
            )
        found.append(
            ClassBlock(
                row["id"],
                row["title"],
                low,
                high,
                row["educator"],
                row["group"],
                split(row["materials"]),
                row["safety"],
                row["wants"],
                Grade(row["grade"]),
            )
        )
    return tuple(found)


def _cups(pantry: Pantry) -> dict[str, CupEquivalent]:
    found = {}
    for number, row in enumerate(rows("cup_equivalents.csv"), start=2):
        place = f"cup_equivalents.csv row {number} ({row['food']})"
        low, grams, high = (non_negative(row[name], place) for name in ("low", "grams", "high"))
        if row["food"] not in pantry or not 5 <= low <= grams <= high <= 600:
            raise DataError(f"{place}: no such food, or grams that no cup holds")
        found[row["food"]] = CupEquivalent(row["subgroup"], grams, Grade(row["grade"]))
    return found


def _constants(pantry: Pantry) -> dict[str, dict[str, float]]:
    found: dict[str, dict[str, float]] = {}
    for number, row in enumerate(rows("fact_constants.csv"), start=2):
        place = f"fact_constants.csv row {number} ({row['food']})"
        low, typical, high = (non_negative(row[name], place) for name in ("low", "typical", "high"))
        if row["food"] not in pantry or not low <= typical <= high <= 100:
            raise DataError(f"{place}: no such food, or more than 100 g can hold")
        found.setdefault(row["quantity"], {})[row["food"]] = typical
    return found


def _word_rules() -> tuple[WordRule, ...]:
    found, seen = [], set[str]()
    for row in toml_of("word_rules.toml")["rule"]:
        place = f"word_rules.toml ({row['id']})"
        if row["id"] in seen or not row["why"] or not row["instead"]:
            raise DataError(f"{place}: its id once, why, and what may stand instead")
        seen.add(row["id"])
        try:
            pattern = re.compile(row["pattern"], re.I) if "pattern" in row else None
        except re.error as error:
            raise DataError(f"{place}: {error}") from None
        found.append(WordRule(row["id"], pattern, row["why"], row["instead"], Grade(row["grade"])))
    return tuple(found)


def _claim_words() -> dict[str, dict[str, tuple[str, ...]]]:
    found: dict[str, dict[str, tuple[str, ...]]] = {}
    for number, row in enumerate(rows("claim_words.csv"), start=2):
        words = split(row["words"])
        if not words or row["means"] in found.get(row["table"], {}):
            raise DataError(f"claim_words.csv row {number}: words, each meaning of a table once")
        found.setdefault(row["table"], {})[row["means"]] = words
    return found


def _claim_rules(
    rules: Sequence[WordRule], words: Mapping[str, Mapping[str, tuple[str, ...]]]
) -> dict[tuple[str, str], ClaimRule]:
    known, found = {rule.id for rule in rules}, dict[tuple[str, str], ClaimRule]()
    if missing := {"amount", "body", "people", "allergen"} - known:
        raise DataError(f"word_rules.toml: no rule {sorted(missing)}")
    for number, row in enumerate(rows("claim_rules.csv"), start=2):
        if row["rule"] not in known or row["nutrient"] not in words["nutrient"]:
            raise DataError(f"claim_rules.csv row {number}: no such rule or nutrient")
        found[row["amount"], row["nutrient"]] = ClaimRule(row["rule"], split(row["claims"]))
    return found


def _colors() -> tuple[FoodColor, ...]:
    found = []
    for number, row in enumerate(rows("food_colors.csv"), start=2):
        place = f"food_colors.csv row {number}"
        patterns = split(row["foods"])
        if not patterns or not re.fullmatch(r"#[0-9a-f]{6}", row["color"]):
            raise DataError(f"{place}: foods and a color such as #3f7a3c")
        found.append(FoodColor(patterns, row["color"]))
    return tuple(found)
