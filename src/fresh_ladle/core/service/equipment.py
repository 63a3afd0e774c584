"""What equipment an action of a method needs: oven, burner, blender or none."""

from __future__ import annotations

import re

from fresh_ladle.core.service.method import Action

OVEN_VERBS = frozenset({"roast", "slow-roast", "bake", "bake chips", "toast in the oven", "char", "preheat"})
BURNER_VERBS = frozenset(
    {"boil", "simmer", "parboil", "hard-boil", "steam", "blanch", "toast in a pan", "sauté", "sweat", "caramelize",
     "bloom spices", "confit", "infuse", "reduce", "thicken", "melt", "warm", "reheat", "heat water", "soak fast"}
)  # fmt: skip
HEATING = OVEN_VERBS | BURNER_VERBS | {"soak", "rehydrate"}
"""What a dry line is cooked or swollen by."""
BLENDER_VERBS = frozenset({"blend", "purée", "pulse"})
_BY_MACHINE = re.compile(r"\b(?:blade|blender|processor|machine)\b", re.I)


def equipment_of(action: Action) -> str:
    """`oven`, `burner`, `blender`, or empty for hands and bowls."""
    if action.verb in OVEN_VERBS:
        return "oven"
    if action.verb in BURNER_VERBS:
        return "burner"
    machine = action.verb in ("emulsify", "stir", "grind") and _BY_MACHINE.search(action.text)
    return "blender" if action.verb in BLENDER_VERBS or machine else ""
