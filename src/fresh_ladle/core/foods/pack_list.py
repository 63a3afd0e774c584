"""The ingredient list of a pack: what was added, which allergens it names, and in what order of
weight."""

from __future__ import annotations

import re
from dataclasses import dataclass

from fresh_ladle.core.errors import Refused

MAX_CHARACTERS = 4000
_SUGAR = (
    r"(?<!no )(?<!free of )(?:sugars?(?!"
    r" snap)|sucrose|glucose|fructose|dextrose|maltose|lactose|trehalose|"
    r"isomaltulose|"
    r"honey|molasses|treacle|jaggery|panela|muscovado|demerara|turbinado|caramel(?!"
    r" colou?r)|nectar|jam|"
    r"(?:\w+ )?syrup|malt extract|barley malt|evaporated cane juice|cane juice|date paste|"
    r"(?:\w+ )?juice concentrate|concentrated (?:\w+ )?juice|sweetened condensed milk)"
)
_SALT = (
    r"(?<!un)(?<!no )(?:salt|sodium chloride|brine|sea salt|soy sauce|soya sauce|fish"
    r" sauce|tamari|miso|salted \w+)"
    r"(?!-free)"
)
_OTHER_SODIUM = (
    r"(?:monosodium glutamate|sodium \w+|disodium \w+|baking soda|baking powder|yeast"
    r" extract|bouillon|stock)"
)
_OIL = (
    r"(?:oils?|(?:vegetable|palm|animal|hydrogenated|coconut)"
    r" fat|shortening|margarine|lard|suet|ghee|"
    r"(?<!cocoa )(?<!peanut )(?<!nut )(?<!almond )(?<!shea )butter(?! ?beans?|nut)|cream(?! of|"
    r" style|-style))"
)
_NOT_OIL = re.compile(
    r"\b(?:essential|lemon|lime|orange|peppermint|oregano|thyme|garlic|mustard) oils?\b|oil of \w+",
    re.I,
)
_NOT_WHEAT_FLOUR = "".join(
    rf"(?<!{kind} )" for kind in ("rice", "corn", "oat", "potato", "chickpea", "gram")
)
_WHEAT = rf"(?<!buck)wheat|{_NOT_WHEAT_FLOUR}flour|semolina|spelt|durum|couscous|bulgur|farro|breadcrumbs?|seitan"
_NOT_MILK = "".join(
    rf"(?<!{kind} )" for kind in ("coconut", "almond", "oat", "soy", "soya", "rice")
)
_NOT_BUTTER = "".join(rf"(?<!{kind} )" for kind in ("cocoa", "peanut", "nut", "almond", "shea"))
_ALLERGENS: tuple[tuple[str, str], ...] = (
    ("wheat", _WHEAT),
    ("gluten", _WHEAT + r"|barley|rye|oats?|kamut|malt(?!ose|itol|odextrin)|gluten(?!-free| free)"),
    (
        "milk",
        rf"{_NOT_MILK}milk(?!weed| thistle)|whey|casein\w*|lactose|cheese|yogh?urt|cream(?!"
        r" of)|ghee|curd"
        rf"|{_NOT_BUTTER}butter(?! ?beans?|nut)(?:milk)?",
    ),
    ("egg", r"eggs?(?!plant)|albumen|egg white|egg yolk|lysozyme"),
    ("soy", r"soya?(?:bean)?s?|tofu|tempeh|edamame|miso|tamari|shoyu"),
    ("peanut", r"peanuts?|groundnuts?"),
    ("tree-nut:almond", r"almonds?|marzipan"),
    ("tree-nut:hazelnut", r"hazelnuts?|filberts?"),
    ("tree-nut:walnut", r"walnuts?"),
    ("tree-nut:cashew", r"cashews?"),
    ("tree-nut:pecan", r"pecans?"),
    ("tree-nut:pistachio", r"pistachios?"),
    ("tree-nut:brazil", r"brazil nuts?"),
    ("tree-nut:macadamia", r"macadamias?"),
    ("tree-nut:pine-nut", r"pine nuts?|pine kernels?"),
    ("tree-nut", r"tree nuts?|(?<!brazil )(?<!pine )\bnuts\b"),
    ("sesame", r"sesame|tahini|benne"),
    ("mustard", r"mustard"),
    ("celery", r"celery|celeriac"),
    ("fish", r"fish|anchov\w+|tuna|salmon|cod|sardines?|bonito|worcestershire"),
    ("crustacean", r"shrimps?|prawns?|crab|lobster|crayfish|crustaceans?|krill"),
    ("mollusc", r"oysters?|mussels?|squid|clams?|scallops?|octopus|molluscs?"),
    ("lupin", r"lupins?"),
    ("sulphite", r"sul(?:ph|f)ites?|sul(?:ph|f)ur dioxide|metabisul(?:ph|f)ite|e22[0-8]"),
)
_FREE = re.compile(
    r"\b[\w-]+[- ]free\b|\bno added [\w ]+|\bunsweetened\b|\bunsalted\b|\bwithout added [\w ]+",
    re.I,
)
_MAY = re.compile(
    r"(?:may (?:also )?contain|traces? of|made (?:in|on) [\w ,]*? (?:that|which) (?:also"
    r" )?(?:handles?|process(?:es)?)|"
    r"produced in [\w ,]*? (?:handles?|process(?:es)?))[^.]*",
    re.I,
)
_CONTAINS = re.compile(r"\b(?:allergens?:?|contains:?)\s*([^.]*)", re.I)
_HEAD = re.compile(r"^\s*(?:ingredients?|ingr\.?)\s*:?\s*", re.I)


@dataclass(frozen=True, slots=True)
class PackList:
    """What an ingredient list says. Ingredients stand in the order of their weight, the heaviest
    first.

    `added_sugars`, `added_salts` and `added_oils` are the words they go by; `other_sodium` brings
    sodium without being salt. `may_contain` are allergens only warned of."""

    ingredients: tuple[str, ...]
    added_sugars: tuple[str, ...]
    added_salts: tuple[str, ...]
    added_oils: tuple[str, ...]
    other_sodium: tuple[str, ...]
    allergens: frozenset[str]
    may_contain: frozenset[str]

    def place_of(self, word: str) -> int:
        """Where an ingredient that holds a word stands in the list, counted from 1; 0 when none
        does."""
        return next(
            (n for n, i in enumerate(self.ingredients, start=1) if word.lower() in i.lower()), 0
        )


def read_pack_list(text: str) -> PackList:
    """Reads an ingredient list as it is printed. Raises ValueError when there is nothing in it, or
    far too much."""
    plain = re.sub(r"\s+", " ", text).strip()
    if not plain:
        raise Refused("the ingredient list is empty: paste it as the pack has it")
    if len(plain) > MAX_CHARACTERS:
        raise Refused(
            f"the ingredient list has {len(plain):,} characters; a pack's has at most"
            f" {MAX_CHARACTERS:,}"
        )
    warned = " ".join(match[0] for match in _MAY.finditer(plain))
    printed = _MAY.sub(" ", plain)
    said = _FREE.sub(" ", printed)
    allergens = _allergens_in(said)
    return PackList(
        _ingredients(printed),
        _words(_SUGAR, said),
        _words(_SALT, said),
        _words(_OIL, _NOT_OIL.sub(" ", said)),
        _words(_OTHER_SODIUM, said),
        allergens,
        _allergens_in(warned) - allergens,
    )


def _words(pattern: str, text: str) -> tuple[str, ...]:
    found = (match[0].lower().strip() for match in re.finditer(rf"\b{pattern}\b", text, re.I))
    return tuple(dict.fromkeys(found))


def _allergens_in(text: str) -> frozenset[str]:
    found = {
        a
        for a, pattern in _ALLERGENS
        if re.search(rf"(?<![a-z])(?:{pattern})(?![a-z])", text, re.I)
    }
    if any(a.startswith("tree-nut:") for a in found):
        # "Tree nuts (walnuts)" names the nut; the group alone would say less.
        found.discard("tree-nut")
    return frozenset(found)


def _ingredients(text: str) -> tuple[str, ...]:
    """The list parted at its commas, but not inside brackets; statements after it left out."""
    body = _CONTAINS.sub(" ", _HEAD.sub("", text)).strip(" .")
    parts, depth, start = [], 0, 0
    for place, char in enumerate(body):
        depth += (char in "([{") - (char in ")]}")
        if char in ",;" and depth <= 0:
            parts.append(body[start:place])
            start = place + 1
    parts.append(body[start:])
    return tuple(part.strip(" .*") for part in parts if part.strip(" .*"))
