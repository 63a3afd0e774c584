"""What a line is in the end by what was done to it: the preparations of the table that its verbs
come to."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence

from fresh_ladle.core.foods.food import Food
from fresh_ladle.core.recipes.recipe import Line

BOILED = frozenset({"boil", "simmer", "parboil", "hard-boil", "microwave"})
_ROASTED = frozenset({"roast", "slow-roast", "bake", "bake chips", "char"})
_FRIED = frozenset({"sauté", "sweat", "caramelize", "deep-fry", "bloom spices"})
_THROUGH = BOILED | _ROASTED | _FRIED | {"steam", "confit", "reheat"}
"""What cooks egg, fish and meat through; a dip in boiling water or a sear does not."""
_HEATED = _THROUGH | {"blanch", "sear", "soft-boil"}
COOKED = _HEATED - {"sear", "soft-boil"} | {
    "toast in a pan",
    "toast in the oven",
    "thicken",
    "bring to a boil",
    "reduce",
}
"""Verbs by which a plant is cooked, or the alcohol of a wine goes."""
HEATED_THROUGH = "heated through"
"""What stands among what was done to a line that reached 71 °C (160 °F) by what a step says."""
_COOKS_EGG = _THROUGH | {"thicken", "bring to a boil", HEATED_THROUGH}
_TRIMMED = frozenset(
    {
        "peel",
        "pit",
        "seed",
        "core",
        "trim",
        "strip leaves",
        "shell",
        "scoop",
        "segment",
        "pick herbs",
    }
)
CUT_SMALL = frozenset(
    {
        "chop",
        "slice",
        "slice thinly",
        "dice",
        "dice finely",
        "shred",
        "julienne",
        "quarter",
        "break up",
        "grate",
    }
)
_COOKED_ALREADY = re.compile(
    r"\b(?:cooked|boiled|poached|roasted|grilled|baked|steamed|rotisserie|leftover|canned|tinned|smoked)\b",
    re.I,
)

_ONE_LOSS = (
    ("roast", "roast-whole"), ("steam", "blanch", "boil"), ("press", "squeeze", "salt-drained"),
    ("trim", "peel-cooked", "scoop"), ("cook-raw", "bone"), ("caramelize", "roast"),
    ("toast", "roast"),
)  # fmt: skip
"""Preparations that are one loss under two names: what the method does stands for what the line
says of it."""


DONE_BY: Mapping[str, frozenset[str]] = {
    "trim": _TRIMMED, "scoop": frozenset({"scoop"}), "peel-cooked": frozenset({"peel", "seed"}),
    "roast": _ROASTED, "roast-whole": _ROASTED, "squeeze": frozenset({"squeeze"}),
    "press": frozenset({"squeeze", "press"}), "salt-drained": frozenset({"drain", "rinse"}),
    "cook-raw": _HEATED,
    "bone": frozenset({"bone"}), "caramelize": _FRIED | {"sear"},
    "drain-yogurt": frozenset({"drain yogurt"}),
    "steam": BOILED | {"steam", "blanch"}, "blanch": frozenset({"blanch"}),
    "toast": _ROASTED | {"toast in a pan", "toast in the oven"},
}  # fmt: skip
"""The verbs by which a preparation is done, where they take weight away."""


def preparations_in_all(done: Sequence[str], line: Line, food: Food) -> tuple[str, ...]:
    """The ids of preparations (`data/amounts/preparations.csv`) that a line has gone through once
    the method is done: those it says itself and those that verbs done to it come to, each loss
    once. Whether a food is changed by one is for the table to say."""
    in_steps = _by_method(done, line, food)
    same = {one for losses in _ONE_LOSS for one in losses if set(losses) & set(in_steps)} - set(
        in_steps
    )
    return tuple(dict.fromkeys((*(p for p in line.preparations if p not in same), *in_steps)))


def _by_method(done: Sequence[str], line: Line, food: Food) -> list[str]:
    verbs = set(done)
    heated = next((n for n, verb in enumerate(done) if verb in _HEATED), len(done))
    brined = food.group in ("cheese", "pickle-olive", "salt-salty")
    fruit = food.group in ("fruit", "acid")
    bread = _is_bread(food)
    through = (food.group == "protein" and verbs & (_THROUGH | {HEATED_THROUGH})) or (
        food.group == "egg" and verbs & _COOKS_EGG
    )
    tried = (
        ("heated-through", bool(through)),
        ("trim", bool(set(done[:heated]) & _TRIMMED)),
        ("juiced", fruit and "juice" in verbs),
        ("rinse", "rinse" in verbs),
        ("soak-brined" if brined else "soak", "soak" in verbs and not food.key.startswith("salt")),
        (
            "toast",
            bool(verbs & {"toast in a pan", "toast in the oven"})
            or (bread and bool(verbs & _ROASTED)),
        ),
        (_water_lost(verbs), not fruit),
        ("drain-yogurt", "drain yogurt" in verbs),
        ("pickle", bool(verbs & {"macerate", "pickle quickly"})),
        ("marinated", "marinate" in verbs and bool(verbs & {"lift out", "drain"})),
    )
    by_heat = _heated(done, verbs, line, food) if verbs & _HEATED and not bread else []
    return [*(preparation for preparation, holds in tried if preparation and holds), *by_heat]


def _water_lost(verbs: set[str]) -> str:
    """How water left it: squeezed, drawn by salt, pressed; empty for not at all."""
    if "squeeze" in verbs:
        return "squeeze" if verbs & {"steam", "blanch", "thaw"} else "press"
    if "salt and rest" in verbs:
        return "salt-drained" if verbs & {"drain", "rinse"} else ""
    return "press" if "press" in verbs else ""


def _is_bread(food: Food) -> bool:
    return food.key.startswith(("bread", "pita", "tortilla"))


def _heated(done: Sequence[str], verbs: set[str], line: Line, food: Food) -> list[str]:
    if food.form == "dry":
        return ["boil"] if verbs & (BOILED | {"steam"}) else []
    if food.group == "protein" and food.form != "raw":
        return (
            [] if _COOKED_ALREADY.search(line.text) else ["bone" if "bone" in verbs else "cook-raw"]
        )
    if verbs & _ROASTED:
        first = next(n for n, verb in enumerate(done) if verb in _ROASTED)
        whole = not set(done[:first]) & CUT_SMALL
        after = set(done[first:])
        if whole and "scoop" in after:
            return ["roast-whole", "scoop"]
        if whole and after & {"peel", "seed"}:
            return ["roast-whole", "peel-cooked"]
        return ["roast"]
    if verbs & {"blanch"}:
        return ["blanch" if food.group in ("leafy", "herb") else "steam"]
    if food.group == "egg":
        return []
    if verbs & (BOILED | {"steam"}):
        peeled = set(done[next(n for n, v in enumerate(done) if v in BOILED | {"steam"}) :]) & {
            "peel"
        }
        return ["steam", "peel-cooked"] if peeled else ["steam"]
    return ["caramelize"] if verbs & (_FRIED | {"sear"}) else []
