"""Which lines of a recipe a clause of its method speaks of."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from fresh_ladle.core.recipes.recipe import Line

_OF_GROUP = {
    "herb": ("herb",), "leave": ("leafy", "herb"), "green": ("leafy",), "nut": ("nut-seed",),
    "seed": ("nut-seed",), "spice": ("spice",), "cheese": ("cheese",), "bean": ("legume",), "legume": ("legume",),
    "pulse": ("legume",), "grain": ("grain-pasta",), "noodle": ("grain-pasta",), "pasta": ("grain-pasta",),
    "vegetable": ("vegetable", "root-tuber", "leafy", "tomato"), "veg": ("vegetable", "root-tuber", "leafy", "tomato"),
    "root": ("root-tuber",), "acid": ("acid",), "oil": ("fat-oil",), "fruit": ("fruit",),
    "seasoning": ("salt-salty", "spice"),
    "aromatic": ("allium",), "yoghurt": ("dairy",), "citru": ("acid", "fruit"), "dressing": (), "sauce": (),
}  # fmt: skip
"""Words for many foods, by the groups they mean; a stem without its plural ending."""
_NO_FOOD = {"leave": r"\bleave\b", "seed": r"\b(?:out|remove|discard)\b.*\bseeds\b|\bseeds removed\b"}
"""Where a word for many foods means none: "leave it", "scoop out the seeds"."""
_MIXES = frozenset({"dressing", "sauce", "vinaigrette", "mixture", "mix", "paste", "cream", "dip", "salad", "marinade"})
_ALL = re.compile(r"\b(?:everything|all (?:the |of the )?ingredients|all (?:of )?(?:it|them)|the whole lot)\b", re.I)
_REST = re.compile(
    r"\b(?:everything else|(?:the |all )?(?:rest|remaining)(?: of)?(?: the)? ingredients|all the rest)", re.I
)
_PLAIN = frozenset(
    " ".join(
        (
            "a an the of in into to with and or for on it them its their until then over from at about some",
            "more dry fresh dried chopped sliced diced minced grated large small medium cold hot warm cool",
            "ripe raw cooked fine finely coarse coarsely thin thinly thick half quarter third two one three",
            "bowl tray pan water side top low high heat minute hour time white red green black yellow ground",
            "whole plain sea kosher extra virgin unsalted low-fat baby can tin jar part each every only",
            "again well salted light dark sweet leaf leave piece stick",
        )
    ).split(" ")
)
"""Words that name no food by themselves; colors do only beside their noun."""


@dataclass(frozen=True, slots=True)
class Known:
    """What is known of the foods of the lines, by line id: their group, and what else they are called."""

    groups: Mapping[str, str]
    aliases: Mapping[str, tuple[str, ...]]


def lines_in(
    clause: str, lines: Sequence[Line], known: Known, before: Sequence[str], used: set[str]
) -> tuple[tuple[str, ...], bool]:
    """The ids of the lines a clause names, in the order of the recipe, and whether it names any. "Everything" is all,
    "the rest" those not used yet; where nothing is named, the lines of the action before (`before`)."""
    if _REST.search(clause) and (rest := tuple(line.id for line in lines if line.id not in used)):
        return tuple(line.id for line in lines if line.id in {*rest, *_named(clause, lines, known)}), True
    if _ALL.search(clause):
        return tuple(line.id for line in lines), True
    named = _named(clause, lines, known)
    words = {_stem(w) for w in _tokens(clause)}
    if words & _MIXES:
        named |= _mixed(words, lines)
    if not named:
        return tuple(before), False
    if re.match(r"\w+\s+(?:it|them|this|these)\b", clause, re.I):
        named |= set(before)
    return tuple(line.id for line in lines if line.id in named), True


def _mixed(words: set[str], lines: Sequence[Line]) -> set[str]:
    """The lines of a component that is called so."""
    return {line.id for line in lines if words & _MIXES & {_stem(w) for w in _tokens(line.component)}}


def _tokens(text: str) -> list[str]:
    return re.findall(r"[^\W\d_]+(?:['’-][^\W\d_]+)*", text.lower())


def _stem(word: str) -> str:
    """A word without its plural ending."""
    for ending, instead in (("ies", "y"), ("oes", "o"), ("ches", "ch"), ("shes", "sh"), ("sses", "ss"), ("ves", "ve")):
        if word.endswith(ending) and len(word) > len(ending) + 1:
            return word[: -len(ending)] + instead
    return word[:-1] if word.endswith("s") and not word.endswith("ss") and len(word) > 3 else word


def _name_of(line: Line) -> list[str]:
    """The words of what a line is called, the noun last."""
    name = re.split(r",|\(| for | or ", line.named or line.text)[0]
    return [_stem(w) for w in _tokens(name)]


def _named(clause: str, lines: Sequence[Line], known: Known) -> set[str]:
    names = {line.id: _name_of(line) for line in lines}
    whole, words = _whole_names(_tokens(clause), names)
    stems = {_stem(w) for w in words}
    by_head = {i for i, name in names.items() if i not in whole and name and name[-1] in stems - _PLAIN}
    by_head = {i for i in by_head if names[i][-1] not in _MIXES or len(names[i]) == 1 or set(names[i][:-1]) & stems}
    by_head = _told_apart(by_head, names, words, lines, stems)
    spoken = {word for i in by_head for word in names[i]}
    by_part = {
        i
        for i, name in names.items()
        if i not in by_head | whole and any(w in stems and w not in _PLAIN and w not in spoken for w in name)
    }
    found = whole | by_head | by_part
    said = {word for i in found for word in names[i]}
    named_groups = {known.groups.get(i) for i in found}
    no_food = {stem for stem, word in _NO_FOOD.items() if re.search(word, clause, re.I)}
    for stem in stems - said - no_food:
        wanted = () if named_groups & set(_OF_GROUP.get(stem, ())) else _OF_GROUP.get(stem, ())
        found |= {line.id for line in lines if known.groups.get(line.id) in wanted}
    left = stems - _PLAIN - {word for i in found for word in names[i]}
    return found | {
        line.id
        for line in lines
        if line.id not in found and any(_stem(alias) in left for alias in known.aliases.get(line.id, ()))
    }


def _whole_names(words: list[str], names: Mapping[str, list[str]]) -> tuple[set[str], list[str]]:
    """Lines whose last two words stand in the clause one after the other, and the words that are left: "peanut butter"
    speaks of no peanuts."""
    found, left = set[str](), list(words)
    for i, name in sorted(names.items(), key=lambda item: -len(item[1])):
        pair = name[-2:]
        if len(pair) < 2:
            continue
        stems = [_stem(w) for w in words]
        for at in range(len(stems) - 1):
            if stems[at : at + 2] == pair:
                found.add(i)
                left[at] = left[at + 1] = ""
    return found, [w for w in left if w]


def _told_apart(
    heads: set[str], names: Mapping[str, list[str]], words: Sequence[str], lines: Sequence[Line], stems: set[str]
) -> set[str]:
    """Of lines with one noun ("olive oil", "sesame oil"; "pepper", "red peppers"), those whose other words are said
    too, or that are written just so; all where nothing tells them apart ("both oils")."""
    found = set()
    written = {line.id: set(_tokens(line.named or line.text)) for line in lines}
    for head in {names[i][-1] for i in heads}:
        alike = [i for i in heads if names[i][-1] == head]
        exact = [i for i in alike if len(names[i]) > 1 and set(names[i][:-1]) & stems]
        as_written = [i for i in alike if any(w in words and _stem(w) == head for w in written[i])]
        both = any(w in words for w in ("both", "all", "two"))
        found |= set(alike if both else exact or as_written or alike)
    return found
