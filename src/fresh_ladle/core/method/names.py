"""What the words of a method may call: lines by every name of their food, groups of foods, parts of
foods."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from itertools import pairwise

from fresh_ladle.core.foods.food import Food
from fresh_ladle.core.method.tokens import stem, tokens_of, words_of
from fresh_ladle.core.recipes.recipe import Line

GROUPS_CALLED = {
    "herb": ("herb",), "leaf": ("leafy", "herb"), "green": ("leafy",), "nut": ("nut-seed",),
    "seed": ("nut-seed",),
    "spice": ("spice",), "cheese": ("cheese",), "bean": ("legume",), "legume": ("legume",),
    "pulse": ("legume",),
    "grain": ("grain-pasta",), "noodle": ("grain-pasta",), "pasta": ("grain-pasta",),
    "meat": ("protein",),
    "vegetable": ("vegetable", "root-tuber", "leafy", "tomato", "allium"),
    "veg": ("vegetable", "root-tuber", "leafy", "tomato", "allium"), "root": ("root-tuber",),
    "acid": ("acid",),
    "oil": ("fat-oil",), "fruit": ("fruit",), "seasoning": ("salt-salty", "spice"),
    "aromatic": ("allium", "herb"),
    "yoghurt": ("dairy",), "fish": ("protein",), "salad": ("leafy",), "sprout": ("legume",
    "grain-pasta"),
    "mushroom": ("fungus-sea",), "fat": ("fat-oil",), "sugar": ("sweetener",), "vinegar": ("acid",),
}  # fmt: skip
"""Words for many foods, by the groups they mean, without their plural ending."""
PARTS = words_of(
    "stem stalk rib rind skin peel seed stone pit core bone top root shell solid whey leaf end husk"
    " pod string pith membrane head tail fat juice zest flesh kernel edge center middle green white"
    " cob scum foam peeling pulp"
)
"""Parts of foods: what is done to them is done to the food, and what is thrown away of them is its
waste."""
LIQUIDS = words_of(
    "brine marinade liquid liquor syrup water whey juice oil fat broth stock vinegar"
)
"""What is poured off, or kept, when something is drained."""
MIXES = words_of(
    "dressing sauce vinaigrette mixture mix paste cream dip salad marinade base batter spread"
    " relish salsa puree purée emulsion glaze filling topping crumb custard slaw"
)
PLAIN = words_of(
    "a an the of in into to with and or for on it them its their until then over from at about some"
    " each every only more dry fresh dried chopped sliced diced minced grated large small medium"
    " cold hot warm cool cooked raw ripe fine finely coarse coarsely thin thinly thick half quarter"
    " third two one three four bowl tray pan water side top low high heat minute hour time white"
    " red green black yellow brown ground whole plain sea kosher extra virgin unsalted low-fat baby"
    " can tin jar part again well salted light dark sweet piece stick reserved remaining rest"
    " peeled drained rinsed toasted roasted boiled crisp leave leaving other another boiling splash"
    " little"
)
"""Words that name no food by themselves; colors do only beside their noun."""


_STATES = words_of(
    "raw dry cooked boiled roasted canned drained rinsed frozen fresh whole salted unsalted low fat"
    " free no light plain brown white black red green yellow refined extra virgin table sea style"
    " sweet dark ground soft firm juice"
)
"""What a key of the pantry says beside the name of the food."""


@dataclass(frozen=True, slots=True)
class LineNames:
    """How one line may be called."""

    id: str
    component: str
    group: str
    key: str
    words: tuple[str, ...]
    others: frozenset[str]
    """Other names of its food in one word."""
    written: frozenset[str]
    """Every word of the line, as written."""

    @property
    def head(self) -> str:
        return self.words[-1] if self.words else ""


def names_of(line: Line, food: Food | None, former: str = "") -> LineNames:
    """How a line may be called, by what it is called in the recipe, by other names of its food, and
    by what it was before (`former`)."""
    said = (line.named or line.text).split(",")[0].split("(")[0]
    for cut in (" for ", " or "):
        said = said.split(cut)[0] if len(said.split(cut)[0].split()) > 1 or cut == " or " else said
    spoken = [stem(t.word) for t in tokens_of(said) if t.word[0].isalpha()]
    words = tuple(w for n, w in enumerate(spoken) if w not in PLAIN or n == len(spoken) - 1)
    others: set[str] = set()
    if food is not None:
        names = [food.name.split(",")[0], *food.aliases]
        others |= {stem(name.lower()) for name in names if " " not in name}
        others |= {stem(part) for part in food.key.split("-") if part not in _STATES}
        if food.group in ("leafy", "legume", "protein", "cheese", "grain-pasta"):
            others |= {stem(name.lower().split()[-1]) for name in names}
        others |= {"herb"} if food.key.startswith("chives") else set()
    if former:
        others.add(stem(former.split(",")[0].split()[-1].lower()))
    written = frozenset(t.word for t in tokens_of(line.text) if t.word[0].isalpha())
    return LineNames(
        line.id,
        line.component,
        food.group if food else "",
        food.key if food else "",
        words,
        frozenset(o for o in others if o not in PLAIN | PARTS and len(o) > 2),
        written,
    )


class Names:
    """All lines of a recipe by their names."""

    def __init__(self, lines: Sequence[LineNames]) -> None:
        self.lines = tuple(lines)
        self.by_id: Mapping[str, LineNames] = {line.id: line for line in lines}
        foods = {w for line in lines for w in (line.head, *line.others)} - PLAIN - MIXES
        foods |= {w for line in lines for w in line.words} - PLAIN - MIXES - PARTS
        self.foods = frozenset(foods)
        """The stems of words that name a line."""

    def called(self, words: Iterable[str]) -> list[str]:
        """The ids of the lines that a phrase calls, in the order of the recipe; empty for none."""
        spoken = [w for w in words if w[0].isalpha()]
        stems = [stem(w) for w in spoken]
        found = self._in_full(stems) or self._by_head(stems, spoken) or self._by_part(stems)
        if not found:
            rest = set(stems) - PLAIN
            found = {line.id for line in self.lines if line.others & rest}
            for one in stems:
                groups = GROUPS_CALLED.get(one, ())
                found |= {line.id for line in self.lines if line.group in groups}
        return [line.id for line in self.lines if line.id in found]

    def _in_full(self, stems: Sequence[str]) -> set[str]:
        """Lines whose last two words, or whole name, stand one after the other."""
        pairs = set(pairwise(stems))
        return {line.id for line in self.lines if len(line.words) > 1 and line.words[-2:] in pairs}

    def _by_head(self, stems: Sequence[str], spoken: Sequence[str]) -> set[str]:
        for at in range(len(stems) - 1, -1, -1):
            head = stems[at]
            alike = [line for line in self.lines if line.head == head]
            if not alike:
                continue
            others = set(stems) - {head}
            exact = [line for line in alike if set(line.words[:-1]) & others]
            if not exact and set(stems) & PARTS - {head} and len(alike) == 1:
                return {alike[0].id}
            written = [line for line in alike if spoken[at] in line.written]
            return {line.id for line in exact or written or alike}
        return set()

    def _by_part(self, stems: Sequence[str]) -> set[str]:
        telling = set(stems) - PLAIN - PARTS
        return {line.id for line in self.lines if telling & set(line.words) - MIXES}
