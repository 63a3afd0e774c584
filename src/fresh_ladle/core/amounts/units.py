"""Units a cook uses: spellings, sizes in millilitres and grams by region, and how loosely each is
filled."""

from __future__ import annotations

import re

from rapidfuzz import fuzz, process

from fresh_ladle.core.recipes.region import Region

_VOLUMES_ML: dict[Region, dict[str, float]] = {
    Region.US: {
        "tsp": 4.92892159375, "tbsp": 14.78676478125, "cup": 236.5882365, "fl oz": 29.5735295625,
        "pint": 473.176473,
        "quart": 946.352946,
    },
    Region.METRIC: {
        "tsp": 5.0, "tbsp": 15.0, "cup": 250.0, "fl oz": 28.4130625, "pint": 568.26125,
        "quart": 1136.5225,
    },
    # British spoons have been metric since the 1970s; the cup, pint and fluid ounce stay imperial.
    Region.IMPERIAL: {
        "tsp": 5.0, "tbsp": 15.0, "cup": 284.130625, "fl oz": 28.4130625, "pint": 568.26125,
        "quart": 1136.5225,
    },
}  # fmt: skip
"""Exact by definition (A); held against a library of units in the tests."""
_ANYWHERE_ML = {
    "mug": 300.0, "glass": 200.0, "ladle": 120.0, "ramekin": 120.0, "bowlful": 350.0,
    "capful": 6.0, "ml": 1.0,
    "cl": 10.0, "dl": 100.0, "l": 1000.0, "dessertspoon": 10.0,
}  # fmt: skip
VESSELS = frozenset({"mug", "glass", "ladle", "ramekin", "bowlful", "capful"})
"""Vessels of no standard size: what they hold is a guess."""
_WEIGHTS_G = {"g": 1.0, "kg": 1000.0, "mg": 0.001, "oz": 28.349523125, "lb": 453.59237}

SPELLINGS: dict[str, tuple[str, ...]] = {
    "tsp": ("tsp", "tsps", "teaspoon", "teaspoons", "teasp", "teaspoonful", "teaspoonfuls",
    "tspn", "tps"),
    "tbsp": ("tbsp", "tbsps", "tablespoon", "tablespoons", "tbs", "tb", "tblsp", "tbl", "tablesp",
    "tablespoonful",
             "tablespoonfuls", "tbspn", "tbspns", "tbps", "tpbs"),
    "dessertspoon": ("dessertspoon", "dessertspoons", "dsp", "dstspn"),
    "cup": ("cup", "cups", "cupful", "cupfuls"),
    "mug": ("mug", "mugs", "mugful", "teacup", "teacups"), "glass": ("glass", "glasses", "tumbler"),
    "ladle": ("ladle", "ladles", "ladleful", "ladlefuls"), "ramekin": ("ramekin", "ramekins"),
    "bowlful": ("bowl", "bowls", "bowlful"), "capful": ("capful", "capfuls"),
    "fl oz": ("fl oz", "fluid ounce", "fluid ounces", "floz", "fl ounce", "fl ounces"),
    "pint": ("pint", "pints", "pt", "pts"), "quart": ("quart", "quarts", "qt", "qts"),
    "ml": ("ml", "mls", "milliliter", "milliliters", "millilitre", "millilitres"),
    "cl": ("cl", "centiliter", "centilitre"), "dl": ("dl", "deciliter", "decilitre", "deciliters",
    "decilitres"),
    "l": ("l", "liter", "liters", "litre", "litres"),
    "g": ("g", "gr", "gm", "gms", "grm", "gram", "grams", "gramme", "grammes"),
    "kg": ("kg", "kgs", "kilo", "kilos", "kilogram", "kilograms"), "mg": ("mg", "milligram",
    "milligrams"),
    "oz": ("oz", "ozs", "ounce", "ounces"), "lb": ("lb", "lbs", "pound", "pounds"),
    "pinch": ("pinch", "pinches"), "dash": ("dash", "dashes", "shake", "shakes"),
    "lot": ("lot",), "drizzle": ("drizzle", "drizzles", "trickle", "swirl", "thread", "lick"),
    "glug": ("glug", "glugs", "lug", "lugs"),
    "slosh": ("slosh", "sloshes"), "pour": ("pour", "pours"), "squirt": ("squirt", "squirts"),
    "spray": ("spray", "sprays", "spritz", "spritzes"),
    "spoonful": ("spoonful", "spoonfuls", "spoon", "spoons", "spoonsful"), "lump": ("lump", "lumps",
    "nub", "nubs"),
    "scattering": ("scattering", "scatter", "scatterings"), "shaving": ("shaving", "shavings"),
    "sprinkling": ("sprinkling", "sprinkle", "sprinkles", "sprinklings", "grating", "gratings"),
    "dusting": ("dusting", "dustings"),
    "grind": ("grind", "grinds", "grindings", "cracks"),
    "turn": ("turn", "turns", "twist", "twists"),
    "bit": ("bit", "bits", "touch", "tad", "smidge", "smidgen", "hint", "whisper", "suspicion"),
    "splash": ("splash", "splashes"),
    "squeeze": ("squeeze", "squeezes"), "drop": ("drop", "drops", "few drops"),
    "handful": (
        "handful", "handfuls", "fistful", "fistfuls", "handfull", "handsful", "fist", "fists",
        "heap", "pile", "mound",
    ),
    "dollop": ("dollop", "dollops", "blob"), "scoop": ("scoop", "scoops"), "knob": ("knob", "thumb",
    "thumbs", "knobs"),
    "bunch": ("bunch", "bunches", "bundle"), "sprig": ("sprig", "sprigs"),
    "stalk": ("stalk", "stalks", "rib", "ribs", "stick", "sticks", "stem", "stems"),
    "leaf": ("leaf", "leaves"), "head": ("head", "heads"), "bulb": ("bulb", "bulbs"),
    "heart": ("heart", "hearts"),
    "clove": ("clove", "cloves"), "slice": ("slice", "slices", "rashers", "rasher"),
    "wedge": ("wedge", "wedges"),
    "piece": ("piece", "pieces", "chunk", "chunks", "hunk", "hunks"),
    "nest": ("nest", "nests"), "cube": ("cube", "cubes"), "block": ("block", "blocks", "brick"),
    "ear": ("ear", "ears", "cob", "cobs"), "fillet": ("fillet", "fillets", "filet", "filets"),
    "sheet": ("sheet", "sheets"), "spear": ("spear", "spears"), "ball": ("ball", "balls"),
    "can": ("can", "cans", "tin", "tins"), "jar": ("jar", "jars", "bottle", "bottles"),
    "package": ("package", "packages", "packet", "packets", "pkg", "pkgs", "pack", "packs", "bag",
    "bags", "box",
                "boxes", "carton", "cartons", "container", "containers", "tub", "tubs", "pot",
                "pots", "pouch",
                "punnet", "punnets", "sachet", "sachets", "clamshell", "clamshells", "tray",
                "trays", "net"),
    "inch piece": ("inch piece", "inch pieces", "inch knob", "inch chunk", "inch", "inches", '"'),
    "cm piece": ("cm piece", "cm pieces", "cm knob", "cm chunk", "cm"),
    "each": ("each",),
}  # fmt: skip
CONTAINERS = frozenset({"can", "jar", "package", "block"})
SIZES = {
    "small": "small", "sm": "small", "little": "small", "medium": "medium", "med": "medium",
    "medium-sized": "medium",
    "medium-size": "medium", "large": "large", "lg": "large", "lrg": "large", "big": "large",
    "extra-large": "large",
    "jumbo": "large",
    "good-sized": "large", "generous": "large", "thick": "large", "thin": "small", "fat": "large",
    "smallish": "small",
    "heaping": "heaping", "heaped": "heaping", "rounded": "rounded", "scant": "scant",
    "level": "level",
    "good": "rounded",
    "packed": "packed", "loosely": "loose", "lightly": "loose", "firmly": "packed",
    "loose": "loose",
    "overflowing": "heaping",
}  # fmt: skip
FILL = {"heaping": (1.4, 1.2, 1.7), "rounded": (1.2, 1.05, 1.35), "scant": (0.88, 0.78, 0.97)}
"""How a spoon or cup filled so compares with a level one: typical, low, high (kitchen estimate)."""

_BY_SPELLING = {spelling: unit for unit, spellings in SPELLINGS.items() for spelling in spellings}
_OFTEN_MISSPELT = (
    "teaspoon",
    "teaspoons",
    "tablespoon",
    "tablespoons",
    "handful",
    "handfuls",
    "ounces",
    "package",
    "packages",
)
"""Long unit words that may be matched loosely; short ones are too near to foods."""
_UNIT_PATTERN = re.compile(
    r"^("
    + "|".join(re.escape(s) for s in sorted(_BY_SPELLING, key=len, reverse=True))
    + r")\.?(?![a-z'])",
    re.I,
)


def millilitres(unit: str, region: Region = Region.US) -> float | None:
    """Size of a volume unit; None when the unit is not a volume."""
    return _ANYWHERE_ML.get(unit) or _VOLUMES_ML[region].get(unit)


def grams_in(unit: str) -> float | None:
    """Weight of a weight unit; None when the unit is not a weight."""
    return _WEIGHTS_G.get(unit)


def read_unit(text: str) -> tuple[str | None, str]:
    """The unit at the start of `text` and what follows. A lone capital `T` is a tablespoon, small
    `t` a teaspoon."""
    if match := re.match(r"^([TtcC])\.?(?:\s+(?=\S)|$)", text):
        return {"T": "tbsp", "t": "tsp", "c": "cup", "C": "cup"}[match[1]], text[
            match.end() :
        ].strip()
    if match := _UNIT_PATTERN.match(text):
        return _BY_SPELLING[match[1].lower()], text[match.end() :].strip()
    if match := re.match(r"^([a-z]{6,})\.?(?![a-z'])", text, re.I):
        near = process.extractOne(
            match[1].lower(), _OFTEN_MISSPELT, scorer=fuzz.ratio, score_cutoff=82
        )
        if near:
            return _BY_SPELLING[near[0]], text[match.end() :].strip()
    return None, text
