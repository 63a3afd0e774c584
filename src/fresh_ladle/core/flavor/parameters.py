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

    `floor` is near the detection threshold, in the unit of the stimulus: below it nothing more is
    lost. `weber_*` are the Weber fractions, the relative change that half of tasters just notice.
    `weight` counts the axis in the total."""

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
    Axis(
        id="salt",
        name="salt",
        unit="g salt per 100 g",
        floor=0.06,
        weber_side_by_side=0.15,
        weber_from_memory=0.25,
        weight=1.0,
        grade=Grade.B,
        source=(
            "Weber fraction 0.15 in water (Schutz and Pilgrim 1957), 0.25 from memory (estimate);"
            " detected at 0.03-0.1 g"
        ),
        less="flatter",
        more="saltier",
    ),
    Axis(
        id="sour",
        name="sour",
        unit="g citric acid equivalent per 100 g",
        floor=0.03,
        weber_side_by_side=0.22,
        weber_from_memory=0.33,
        weight=1.0,
        grade=Grade.B,
        source=(
            "Weber fraction 0.15-0.30 (typical published range); memory 1.6 times wider (estimate)"
        ),
        less="rounder",
        more="sharper",
    ),
    Axis(
        id="sweet",
        name="sweet",
        unit="g sugar equivalent per 100 g",
        floor=0.5,
        weber_side_by_side=0.17,
        weber_from_memory=0.25,
        weight=0.8,
        grade=Grade.B,
        source=(
            "Weber fraction 0.17, detected at 0.2-0.5 g (Schutz and Pilgrim 1957); memory estimate"
        ),
        less="less sweet",
        more="sweeter",
    ),
    Axis(
        id="rich",
        name="rich",
        unit="g fat per 100 g",
        floor=1.0,
        weber_side_by_side=0.25,
        weber_from_memory=0.40,
        weight=1.0,
        grade=Grade.C,
        source="0.25 of fat content below 20% fat (emulsion work, typical range)",
        less="leaner",
        more="richer",
    ),
    Axis(
        id="savory",
        name="savory",
        unit="mg glutamate equivalent per 100 g",
        floor=30.0,
        weber_side_by_side=0.22,
        weber_from_memory=0.35,
        weight=0.8,
        grade=Grade.C,
        source="0.15-0.30 (typical published range); synergy after Yamaguchi 1967",
        less="thinner in savor",
        more="more savory",
    ),
    Axis(
        id="bitter",
        name="bitter",
        unit="bitter index",
        floor=0.1,
        weber_side_by_side=0.30,
        weber_from_memory=0.48,
        weight=0.7,
        grade=Grade.C,
        source=(
            "0.20-0.40 for caffeine (typical range); the index doubles with each point of rank"
            " (estimate)"
        ),
        less="milder",
        more="more bitter",
    ),
    Axis(
        id="hot",
        name="hot",
        unit="heat index",
        floor=0.25,
        weber_side_by_side=0.40,
        weber_from_memory=0.60,
        weight=0.5,
        grade=Grade.C,
        source=(
            "0.3-0.6 for capsaicin (typical range); the index doubles with each point of rank"
            " (estimate)"
        ),
        less="tamer",
        more="hotter",
    ),
    Axis(
        id="aroma",
        name="aroma",
        unit="aroma index",
        floor=3.0,
        weber_side_by_side=0.30,
        weber_from_memory=0.48,
        weight=0.8,
        grade=Grade.C,
        source=(
            "0.25 for one aroma, 0.35 in a mixture (Cain 1977, odor); index doubles with each point"
            " (estimate)"
        ),
        less="fainter",
        more="more fragrant",
    ),
    Axis(
        id="body",
        name="body",
        unit="thickening index",
        floor=0.3,
        weber_side_by_side=0.28,
        weber_from_memory=0.48,
        weight=0.7,
        grade=Grade.C,
        source=(
            "0.25 of viscosity in thin sauces, 0.35 in thick dips (typical range); index estimate"
        ),
        less="thinner",
        more="thicker",
    ),
)
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
POTENCY_BASE = {"bitter": 2.0, "body": 2.0, "hot": 2.5, "aroma": 2.5}
"""Potency grows by about this factor with each point of a 0 to 10 rank (C): base^rank − 1. Zest and
chile at a few tenths of a percent count as cooks say they do only when heat and aroma grow faster
than two."""
SURFACE_SALT = 1.25
"""Salt on the surface is tasted more than salt stirred in: up to 25-28% less was enough in layered
bread (B; C here)."""
USUAL_CELSIUS = 12.0
"""Cold dishes are judged at about this temperature unless the recipe says otherwise (C)."""
AROMA_PER_DEGREE = 0.024
"""Share of aroma gained per degree, from vapor pressure: 2-3% (C)."""
SWEET_PER_DEGREE = 0.006
"""Share of sweetness gained per degree at low sugar: 15-40% over 20 degrees (C size, B direction,
Bartoshuk 1982)."""
MAX_SALT_LIFT = 1.35
"""Savor, acid, aroma and heat together lift saltiness by no more than this."""
MAY_NOT_NOTICE = 1.0
"""Steps within which tasters may not notice."""


def weber(axis: Axis, setting: Setting) -> float:
    return axis.weber_side_by_side if setting is Setting.SIDE_BY_SIDE else axis.weber_from_memory


@dataclass(frozen=True, slots=True)
class Interaction:
    """How one stimulus changes the strength of another: times 1 + size × stimulus / (stimulus +
    half).

    `half` is the stimulus at which half of the full effect is reached, in the unit of `by`.
    """

    by: str
    on: str
    size: float
    half: float
    grade: Grade
    source: str

    def factor(self, amount: float) -> float:
        """What `amount` of the one does to the strength of the other, 1 for nothing."""
        return 1 + self.size * amount / (amount + self.half)


INTERACTIONS: tuple[Interaction, ...] = (
    Interaction(
        "salt",
        "bitter",
        -0.75,
        0.6,
        Grade.B,
        "20-60% less bitter at 0.3-0.8% salt (Breslin and Beauchamp 1995)",
    ),
    Interaction(
        "sweet", "bitter", -0.40, 5.0, Grade.C, "20-50% less bitter (Keast and Breslin 2003)"
    ),
    Interaction(
        "sour",
        "bitter",
        -0.84,
        0.6,
        Grade.C,
        "a little acid lowers bitterness; strong acid may raise it (mixed results)",
    ),
    Interaction("rich", "bitter", -0.30, 25.0, Grade.C, "fat coats: 10-25% less (estimate)"),
    Interaction(
        "sweet",
        "sour",
        -0.60,
        6.0,
        Grade.C,
        "3% sugar cuts sourness by 15-30%, 6% by 30-50% (typical range)",
    ),
    Interaction("rich", "sour", -0.20, 40.0, Grade.C, "fat rounds acid (estimate)"),
    Interaction("sour", "sweet", -0.40, 1.2, Grade.C, "10-40% less sweet (typical range)"),
    Interaction(
        "bitter", "sweet", -0.20, 10.0, Grade.C, "10-40% less sweet (Keast and Breslin 2003)"
    ),
    Interaction("rich", "hot", -0.50, 30.0, Grade.C, "10-40% less peak at 20% fat (estimate)"),
    Interaction(
        "savory",
        "salt",
        0.45,
        250.0,
        Grade.B,
        "25-40% less salt at equal liking in broth (Yamaguchi and Takahashi 1984)",
    ),
    Interaction(
        "sour",
        "salt",
        0.25,
        0.5,
        Grade.C,
        "acid lets salt fall 10-25% in some foods (mixed results)",
    ),
    Interaction(
        "aroma", "salt", 0.12, 40.0, Grade.C, "savory odor, +5-25% at low salt (Nasri 2011)"
    ),
    Interaction(
        "hot", "salt", 0.06, 5.0, Grade.C, "pungency, 10-20% less salt accepted (typical range)"
    ),
    Interaction(
        "body",
        "salt",
        -0.40,
        1.5,
        Grade.B,
        "thickness lowers taste by 5-30% (Cutler, Morris and Taylor 1983)",
    ),
    Interaction(
        "body",
        "sweet",
        -0.35,
        1.5,
        Grade.B,
        "thickness lowers taste by 5-30% (Cutler, Morris and Taylor 1983)",
    ),
    Interaction(
        "rich",
        "aroma",
        -0.25,
        30.0,
        Grade.C,
        "fat holds aroma back (partition; direction B, size C)",
    ),
)
"""All pair effects of the model. Each is a default inside a published spread, open to argument."""
