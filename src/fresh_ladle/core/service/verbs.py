"""Verbs of a method as the day looks at them: what brings together, what only waits, what needs
which equipment."""

from __future__ import annotations

import re

MERGING = frozenset(
    {"blend", "purée", "pulse", "whisk", "emulsify", "shake", "stir", "fold", "toss", "dress",
    "massage", "season",
     "taste and adjust", "thin", "top", "drizzle", "plate", "layer", "spread", "mash", "portion",
     "thicken", "put",
     "pour over", "move"}
)  # fmt: skip
"""Verbs that bring things together."""
RESTING = frozenset({"rest", "cool", "chill", "thicken on standing", "set", "steam off"})
"""Verbs that only wait."""
SPRINKLING = frozenset({"top", "drizzle", "season", "reserve", "discard", "lift out"})
"""What takes as long as there is of it, not as long as there is of what it goes on or comes
from."""
COOLING = frozenset({"cool", "chill", "chill fast", "shock"})
CHILLING = frozenset({"chill", "chill fast"})
STEEPING = frozenset(
    {
        "salt and rest",
        "macerate",
        "soak",
        "marinate",
        "hydrate",
        "rehydrate",
        "press",
        "massage",
        "cover",
        "pour over",
    }
)
"""Verbs that may wait by their nature, so that a rest behind them is their own."""
OVEN_VERBS = frozenset(
    {"roast", "slow-roast", "bake", "bake chips", "toast in the oven", "char", "preheat"}
)
BURNER_VERBS = frozenset(
    {"boil", "simmer", "parboil", "hard-boil", "steam", "blanch", "toast in a pan", "sauté",
    "sweat", "caramelize",
     "bloom spices", "confit", "infuse", "reduce", "thicken", "melt", "warm", "reheat",
     "heat water", "soak fast",
     "bring to a boil", "deep-fry", "heat pan", "sear", "soft-boil"}
)  # fmt: skip
HEATING = OVEN_VERBS | BURNER_VERBS | {"soak", "rehydrate"}
"""What a dry line is cooked or swollen by."""
NO_TASK = frozenset({"heat control", "off the heat", "use", "flip", "keep cold"})
"""What is done along with the work before it."""
BLENDER_VERBS = frozenset({"blend", "purée", "pulse"})
_BY_MACHINE = re.compile(r"\b(?:blade|blender|processor|machine)\b", re.I)


def equipment_of(verb: str, text: str) -> str:
    """`oven`, `burner`, `blender`, or empty for hands and bowls."""
    if verb in OVEN_VERBS:
        return "oven"
    if verb in BURNER_VERBS:
        return "burner"
    machine = verb in ("emulsify", "stir", "grind") and _BY_MACHINE.search(text)
    return "blender" if verb in BLENDER_VERBS or machine else ""
