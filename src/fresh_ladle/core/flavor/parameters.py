"""Every number of the flavor model in one table, with its grade and where it comes from."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from fresh_ladle.core.foods.food import Grade


class Setting(StrEnum):
    """How two versions meet: cups in hand, or this week's dish against last week's."""

    SIDE_BY_SIDE = "side by side"
    FROM_MEMORY = "from memory"


@dataclass(frozen=True, slots=True)
class Axis:
    """One axis of flavor.

    `floor` is near the detection threshold, in the unit of the stimulus: below it nothing more is lost. `weber_*` are
    the Weber fractions, the relative change that half of tasters just notice. `weight` counts the axis in the total.
    """

    id: str
    name: str
    unit: str
    floor: float
    weber_side_by_side: float
    weber_from_memory: float
    weight: float
    grade: Grade
    source: str
    less: str
    more: str


AXES: tuple[Axis, ...] = (
    Axis("salt", "salt", "g salt per 100 g", 0.06, 0.15, 0.25, 1.0, Grade.B,
         "Weber fraction 0.15 in water (Schutz and Pilgrim 1957), 0.25 from memory (estimate); detected at 0.03-0.1 g",
         "flatter", "saltier"),
    Axis("sour", "sour", "g citric acid equivalent per 100 g", 0.03, 0.22, 0.33, 1.0, Grade.B,
         "Weber fraction 0.15-0.30 (typical published range); memory 1.6 times wider (estimate)", "rounder", "sharper"),
    Axis("sweet", "sweet", "g sugar equivalent per 100 g", 0.5, 0.17, 0.25, 0.8, Grade.B,
         "Weber fraction 0.17, detected at 0.2-0.5 g (Schutz and Pilgrim 1957); memory estimate", "less sweet", "sweeter"),
    Axis("rich", "rich", "g fat per 100 g", 1.0, 0.25, 0.40, 1.0, Grade.C,
         "0.25 of fat content below 20% fat (emulsion work, typical range)", "leaner", "richer"),
    Axis("savory", "savory", "mg glutamate equivalent per 100 g", 30.0, 0.22, 0.35, 0.8, Grade.C,
         "0.15-0.30 (typical published range); synergy after Yamaguchi 1967", "thinner in savor", "more savory"),
    Axis("bitter", "bitter", "bitter index", 1.0, 0.30, 0.48, 0.7, Grade.C,
         "0.20-0.40 for caffeine (typical range); the index doubles with each point of rank (estimate)", "milder", "more bitter"),
    Axis("hot", "hot", "heat index", 0.4, 0.40, 0.60, 0.5, Grade.C,
         "0.3-0.6 for capsaicin (typical range); the index doubles with each point of rank (estimate)", "tamer", "hotter"),
    Axis("aroma", "aroma", "aroma index", 3.0, 0.30, 0.48, 0.8, Grade.C,
         "0.25 for one aroma, 0.35 in a mixture (Cain 1977, odor); index doubles with each point (estimate)",
         "fainter", "more fragrant"),
    Axis("body", "body", "thickening index", 1.0, 0.30, 0.48, 0.7, Grade.C,
         "0.25 of viscosity in thin sauces, 0.35 in thick dips (typical range); index estimate", "thinner", "thicker"),
)  # fmt: skip
AXIS_IDS: tuple[str, ...] = tuple(axis.id for axis in AXES)
BY_ID: dict[str, Axis] = {axis.id: axis for axis in AXES}

SODIUM_SHARE_OF_SALT = 0.393
"""Grams of sodium in a gram of table salt (A, chemistry)."""
POTASSIUM_CHLORIDE_SALTINESS = 0.6
"""Saltiness of a gram of potassium chloride in grams of table salt (C, typical range 0.5-0.75)."""
POTASSIUM_SHARE_OF_CHLORIDE = 0.524
MSG_PER_GLUTAMATE = 1.27
"""Grams of monosodium glutamate monohydrate per gram of glutamic acid (A, 187.1/147.1)."""
SYNERGY = 1218.0
"""Glutamate with nucleotides, y = u + 1218·u·v in g per 100 g (B, Yamaguchi 1967)."""
SAVORY_CEILING_MG = 10_000.0
"""The synergy saturates in food (C)."""
POTENCY_BASE = 2.0
"""Potency about doubles with each point of a 0 to 10 rank (C): 2^rank − 1."""
MAY_NOT_NOTICE = 1.0
"""Steps within which tasters may not notice."""


def weber(axis: Axis, setting: Setting) -> float:
    return axis.weber_side_by_side if setting is Setting.SIDE_BY_SIDE else axis.weber_from_memory
