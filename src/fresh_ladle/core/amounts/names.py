"""Finds the food a phrase means among names and aliases, tolerating spelling and word order."""

from __future__ import annotations

import re
from collections.abc import Iterable
from dataclasses import dataclass
from functools import lru_cache
from math import fsum, log

from fresh_ladle.core.amounts.clean import folded
from fresh_ladle.core.amounts.slips import Slips
from fresh_ladle.core.foods.food import Food

_JOIN = (
    (r"\bhome[- ]?made (?:mayo(?:nnaise)?|aioli)\b", "homemademayo"),
    (r"\b(?:vegan|plant[- ]based|egg[- ]?(?:free|less)) mayo(?:nnaise)?\b", "eggfreemayo"),
    (r"\bhard[- ]?(?:boiled|cooked)\b", "hardboiled"),
    (r"\bcaramel+i[sz]ed onions?\b", "caramelisedonion"),
    (r"\b(?:heirloom|hot[- ]?house|vine[- ]?ripened|on the vine|home[- ]?grown)\b", " "),
    (r"\b(?:home[- ]?dried|semi[- ]?dried) tomato(?:es)?\b", "sundried tomato"),
    (r"\bhome[- ]?dried\b", "dried"),
    (r"\bhome[- ]infused\b|\bripe but (?:still )?firm\b|\bstale\b", " "),
    (r"\b(?:mixed |green |soft |tender )?(?:chopped|fresh) (?:mixed |green |soft )?herbs\b", "parsley"),
    (r"\bhome[- ]made\b", "homemade"),
    (r"\bvac(?:uum)?[- ]?pack(?:ed)? (?=beet)", "cooked "),
    (r"\bvac(?:uum)?[- ]?pack(?:ed)?\b", " "),
    (r"\b(?:japanese|italian|american|british|french|korean|chinese|deli|bistro|country|restaurant)[- ]style\b", " "),
    (r"\bunpasteurised\b", "unpasteurized"),
    (r"\bleft[- ]?overs?\b|\bpre[- ]?cooked\b", "cooked"),
    # Leaves cut "pesto-style" hold no pesto.
    (r"\b(?:pesto|hummus|salsa|guacamole|tzatziki|slaw|dukkah)[- ]style\b", " "),
    (
        r"\b(?:no|without|zero)[- ](?:added[- ])?salt(?:[- ]added)?\b|\bsalt[- ]free\b|\bunsalted\b|\bno[- ]sodium\b",
        "unsalted",
    ),
    (r"\b(?:reduced|less|lower|lite)[- ](?:in[- ])?(?:sodium|salt)\b|\blite (?=soy\b)",
    "reducedsodium lowsodium"),
    (r"\blow[- ](?:in[- ])?(?:sodium|salt)\b", "lowsodium"),
    (r"^peppers$|\bcapsicums?\b", "bell pepper"),
    (r"\b(?:fat[- ]free|non[- ]?fat|0 ?%(?:[- ]fat)?|skimmed)(?=\s|,|$)", "nonfat"),
    (r"\b2 ?%(?:[- ]fat)?(?=\s|,|$)", "twopercent lowfat"),
    (r"\b1 ?%(?:[- ]fat)?(?=\s|,|$)", "onepercent lowfat"),
    (r"\breduced[- ]?fat\b", "reducedfat lowfat"),
    (r"\blow[- ]?fat\b", "lowfat"),
    (r"\bfull[- ]fat\b|\bwhole[- ]milk\b", "fullfat"),
    (r"\bwhole[- ]?(?:wheat|meal|grain)\b", "wholewheat"),
    (r"\bsun[- ]?dried\b|\bsundried\b", "sundried"), (r"\bextra[- ]virgin\b", "extravirgin"),
    (r"\b(?:telegraph|continental|burpless|hothouse) (?=cucumber)", " "), (r"\boj\b",
    "orange juice"),
    (r"\bnot (?:packed )?in oil\b", " "), (r"^pb$", "peanutbutter"),
    (r"\boil[- ]packed\b|\bpacked in oil\b|\bin (?:olive )?oil\b", "oilpacked"),
    (r"\bunsweetened\b|\bno (?:added )?sugar(?: added)?\b|\bsugar[- ]free\b|\bwithout sugar\b",
    "unsweetened"),
    (
        r"\bred pepper flakes?\b|\b(?:crushed|dried) (?:red )?(?:pepper|chil\w+) flakes?\b|\bchil\w+ flakes?\b",
        "chiliflake",
    ),
    (r"\bspring onions?\b|\bgreen onions?\b|\bsalad onions?\b", "scallion"),
    (r"\bpumpkin seeds?\b", "pumpkinseed"),
    (r"\bbutter ?milk\b", "buttermilk"), (r"\bsour(?:ed)? cream\b", "sourcream"),
    (r"\bcream cheese\b", "creamcheese"),
    (r"\bpea ?nut butter\b", "peanutbutter"), (r"\bhorse ?radish\b", "horseradish"),
    (r"\bbeet ?root\b", "beet"),
    (r"\bchick ?p(?:ea|ee|ie)s?\b|\bgarbanzo(?: bean)?s?\b", "chickpea"),
    (r"\blima beans?\b|\bbutter ?beans?\b", "limabean"),
    (r"\bmustard ?(?:powder|flour)\b|\b(?:dry|ground|dried) mustard\b", "mustardpowder"),
)  # fmt: skip
_JOINED = tuple((re.compile(pattern), word) for pattern, word in _JOIN)
_SYNONYMS = {
    "lite": "light",
    "ankurit": "sprouted",
    "veggie": "vegetable",
    "yog": "yogurt",
    "veg": "vegetable",
    "broth": "stock",
    "bouillon": "stock",
    "parm": "parmesan",
    "avo": "avocado",
    "chilly": "chili",
    "tom": "tomato",
    "vin": "vinegar",
    "cauli": "cauliflower",
    "mozz": "mozzarella",
    "pepita": "pumpkinseed",

    "yoghurt": "yogurt", "yogourt": "yogurt", "yoghourt": "yogurt", "chilli": "chili",
    "chile": "chili",
    "chillies": "chili", "parmigiano": "parmesan", "parmigiano-reggiano": "parmesan",
    "reggiano": "parmesan",
    "grated": "grated", "tinned": "canned", "can": "canned", "tin": "canned", "jarred": "canned",
    "dry": "dried",
    "mozarella": "mozzarella", "evoo": "oliveoil", "gherkin": "cornichon", "haricot": "navy",
    "linseed": "flaxseed", "rapeseed": "canola", "cos": "romaine", "minced": "minced",
    "caster": "sugar",
    "groundnut": "peanut", "soya": "soy", "aubergine": "eggplant", "courgette": "zucchini",
    "rocket": "arugula",
    "swede": "rutabaga", "maize": "corn", "sweetcorn": "corn", "prawn": "shrimp",
    "sauteed": "cooked", "boiled": "cooked", "steamed": "cooked", "flat-leaf": "flatleaf",
}  # fmt: skip
_STOP = frozenset(
    [
        "of",
        "the",
        "a",
        "an",
        "and",
        "with",
        "in",
        "from",
        "for",
        "or",
        "to",
        "into",
        "about",
        "your",
        "favorite",
        "favourite",
        "good",
        "quality",
        "best",
        "store-bought",
        "bought",
        "other",
        "any",
        "some",
        "such",
        "like",
        "brand",
        "style",
        "organic",
        "only",
        "thin",
        "thinly",
        "thick",
        "thickly",
        "fine",
        "finely",
        "roughly",
        "coarsely",
        "freshly",
        "very",
        "loosely",
        "firmly",
        "lightly",
        "tightly",
        "ripe",
        "freshly",
        "large",
        "small",
        "medium",
        "big",
        "young",
        "tender",
        "cold",
        "warm",
        "room",
        "temperature",
        "lightly",
    ]
)
PIECES = frozenset(
    [
        "leaf",
        "sprig",
        "stalk",
        "floret",
        "clove",
        "bulb",
        "head",
        "stick",
        "rib",
        "wedge",
        "kernel",
        "segment",
        "bit",
        "piece",
        "half",
        "chunk",
        "frond",
        "baby",
        "heart",
        "jar",
        "bottle",
        "bag",
        "box",
        "whole",
        "fresh",
        "unpasteurized",
        "homemade",
        "mini",
        "shaving",
        "curl",
        "shard",
    ]
)
"""Words for a piece or a quality of a food: they may stand beside its name without telling one food
from another."""
_GROUND = frozenset(("powder", "flour", "cracker", "chip", "crisp", "puff"))
MADE_OF = _GROUND | {"bread", "soup", "cake", "candy"}
"""Words of things that are made of a food and are another thing than it; of those of `_GROUND` each
is its own."""
_TELLING = frozenset(
    {
        "unsalted",
        "lowsodium",
        "nonfat",
        "lowfat",
        "light",
        "sweetened",
        "unsweetened",
        "smoked",
        "oilpacked",
        "sundried",
        "powder",
    }
)
"""States that a line never mentions idly."""
_STATES = _TELLING | {
    "canned",
    "dried",
    "cooked",
    "roasted",
    "rinsed",
    "salted",
    "raw",
    "pickled",
    "frozen",
    "toasted",
    "fullfat",
}
_IRREGULAR = {
    "leaves": "leaf",
    "halves": "half",
    "loaves": "loaf",
    "radishes": "radish",
    "hearts": "heart",
}


def singular(word: str) -> str:
    if word in _IRREGULAR:
        return _IRREGULAR[word]
    if len(word) > 4 and word.endswith("ies"):
        return word[:-3] + "y"
    if len(word) > 4 and word.endswith(("oes", "ches", "shes", "sses", "xes")):
        return word[:-2]
    if len(word) > 3 and word.endswith("s") and not word.endswith(("ss", "us", "is")):
        return word[:-1]
    return word


@lru_cache(maxsize=20000)
def words(phrase: str) -> tuple[str, ...]:
    """The words of a phrase that can tell one food from another, in one spelling, in order."""
    text = folded(phrase)
    for pattern, word in _JOINED:
        text = pattern.sub(f" {word} ", text)
    found = []
    for token in re.findall(r"[a-z][a-z'%]*|\d+", text):
        token = singular(token.replace("'s", "").strip("'"))
        token = _SYNONYMS.get(token, token)
        if token and token not in _STOP:
            found.append(token)
    return tuple(dict.fromkeys(found))


def _letters(text: str) -> str:
    return " ".join(re.findall(r"[a-z0-9%]+", folded(text)))


@dataclass(frozen=True, slots=True)
class Candidate:
    """A food a phrase may mean: a score from 0 to about 1.3, and how much of what was asked it
    explains, 0 to 1."""

    food: Food
    score: float
    explained: float
    respelled: bool


class NameIndex:
    """Names and aliases of a set of foods, searchable by phrase."""

    def __init__(self, foods: Iterable[Food]) -> None:
        self._names: list[tuple[Food, frozenset[str], str, tuple[str, ...]]] = []
        self._all_words: dict[str, frozenset[str]] = {}
        self._holding: dict[str, list[int]] = {}
        self._by_full_name: dict[str, Food] = {}
        self._by_words: dict[frozenset[str], Food] = {}
        for food in foods:
            names = [food.name, *food.aliases]
            for name in names:
                # A bare word such as "quinoa" leaves its form open; a name with a comma, or the
                # name itself, does not.
                if name == food.name or "," in name:
                    self._by_full_name.setdefault(_letters(name), food)
                self._by_words.setdefault(frozenset(words(name)), food)
            self._all_words[food.key] = frozenset(w for n in names for w in words(n)) | set(
                food.form.split("-")
            )
            for place, name in enumerate(names):
                tokens = words(name)
                if not tokens:
                    continue
                for token in set(tokens):
                    self._holding.setdefault(token, []).append(len(self._names))
                head = tokens[-1] if "," not in name else tokens[0]
                self._names.append((food, frozenset(tokens), head, tokens if place else ()))
        total = len(self._names)
        self._weight = {
            token: log(1 + total / len(where)) for token, where in self._holding.items()
        }
        self._heaviest = max(self._weight.values(), default=1.0)
        self._slips = Slips({token: len(where) for token, where in self._holding.items()})

    def of_full_name(self, text: str) -> Food | None:
        """The food whose name, commas and all, is the text and nothing else."""
        return self._by_full_name.get(_letters(text))

    def of_words(self, phrase: str) -> Food | None:
        """The first food one of whose names has the words of the phrase, in any order, and no
        others."""
        return self._by_words.get(frozenset(words(phrase)))

    def _spelled(self, token: str) -> str | None:
        """The known word nearest to an unknown one, when it is near enough to be a slip."""
        return None if token in self._weight else self._slips.meant(token)

    def respelled(self, name: str, food: Food) -> str:
        """The cook's name for a food with slips of the pen mended: a word nobody knows, near to one
        of the food's. Of a food of another index no word is known, and its name stays."""

        def mended(found: re.Match[str]) -> str:
            said = found[0]
            token = singular(folded(said))
            known = self._spelled(_SYNONYMS.get(token, token))
            if known is None or known not in self._all_words.get(food.key, ()):
                return said
            many = "s" if token != folded(said) else ""
            return f"{known.capitalize() if said[0].isupper() else known}{many}"

        return re.sub(r"[^\W\d_]{3,}", mended, name)

    def candidates(
        self, phrase: str, context: Iterable[str] = (), explained: frozenset[str] = frozenset()
    ) -> list[Candidate]:
        """Foods that share words with the phrase, best first.

        `context` are phrases said elsewhere on the line (preparations, the kind of package); they
        prefer one form over another but need not be met. `explained` are words that a preparation
        accounts for, so a food need not."""
        said = words(phrase)
        near = [self._spelled(token) for token in said]
        respelled = any(near)
        # Mended words may be one name together: "sour creem".
        asked = list(
            words(" ".join(n or token for n, token in zip(near, said, strict=True)))
            if respelled
            else said
        )
        if not asked:
            return []
        around = {w for remarks in context for w in words(remarks)}
        wanted = set(asked)
        places = {place for token in wanted for place in self._holding.get(token, ())}
        best: dict[str, Candidate] = {}
        for place in places:
            food, name, head, alias = self._names[place]
            score = self._score(wanted, asked[-1], around, name, head, explained | PIECES)
            # An alias typed word for word is how cooks call this form when they say nothing more.
            exact = alias == tuple(asked)
            score += (0.1 if exact else 0.0) + self._form_score(food, wanted | around, exact)
            if food.key not in best or score > best[food.key].score:
                covered = self._explained(wanted, self._all_words[food.key] | explained | PIECES)
                best[food.key] = Candidate(food, score, covered, respelled)
        return sorted(best.values(), key=lambda c: (-c.score, len(c.food.name), c.food.key))

    def is_kind_of(self, food: Food, phrase: str) -> bool:
        """Whether a food can be what a phrase names at all: prawn crackers are no prawns, and a
        powder of rice none of tomatoes."""
        said = words(phrase)
        mine = self._all_words.get(food.key) or frozenset(
            w for n in (food.name, *food.aliases) for w in words(n)
        )
        if said and said[-1] in MADE_OF and said[-1] not in mine:
            return False
        others = set(said) - MADE_OF - _STATES - PIECES
        return not (_GROUND.intersection(said) & mine) or not others or bool(others & mine)

    def _explained(self, wanted: set[str], words_known: frozenset[str]) -> float:
        """Share of the phrase that is accounted for. A word no food has weighs full, a word of
        other foods half."""
        left = fsum(self._weight.get(t, 2 * self._heaviest) / 2 for t in wanted - words_known)
        found = self._sum(wanted & words_known)
        return found / (found + left) if found + left else 0.0

    def _sum(self, tokens: Iterable[str]) -> float:
        # Words come in sets: an exact sum does not depend on their order, so a near tie falls the
        # same way every time.
        return fsum(self._weight.get(t, self._heaviest) for t in tokens)

    def _score(
        self,
        wanted: set[str],
        last: str,
        around: set[str],
        name: frozenset[str],
        head: str,
        explained: frozenset[str],
    ) -> float:
        asked = self._sum(wanted - (explained - name))
        covered = self._sum(wanted & name) / asked if asked else 0.0
        specific = self._sum(name & (wanted | around)) / self._sum(name)
        exact = 0.15 if wanted == name else 0.08 if wanted - explained == name else 0.0
        headed = 0.06 if head in wanted else -0.06 if last in name else -0.12
        # A word that a preparation could account for, but that belongs to this food's name, speaks
        # for it.
        named = 0.06 * len(wanted & explained & name - PIECES)
        return 0.62 * covered + 0.38 * specific + exact + headed + named

    def _form_score(self, food: Food, remarks: set[str], exact: bool) -> float:
        """Prefers the form the line speaks of; distrusts one it does not mention, unless the alias
        is exact."""
        mine = self._all_words[food.key]
        score = (
            0.08 * len(_STATES & remarks & mine)
            + 0.08 * len(_TELLING & remarks & mine)
            - 0.15 * len(_TELLING & remarks - mine)
        )
        if not exact:
            own_name = set(words(food.name)) & _STATES
            score -= 0.03 * len(own_name - remarks - {"raw", "unsalted", "cooked", "fullfat"})
        return score if food.in_pantry else score - 0.2
