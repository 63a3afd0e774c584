"""What a bare word could mean: soy sauce of two strengths, beans rinsed or not, grain measured dry
or cooked."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from fresh_ladle.core.amounts.names import words
from fresh_ladle.core.foods.food import Food
from fresh_ladle.core.foods.pantry import Pantry


@dataclass(frozen=True, slots=True)
class Ambiguity:
    """Foods, or forms of one food, that a line does not tell apart. `tells` are words that would
    settle it; `families`, when given, are the beginnings of the food families that `forms` are
    about.

    `tells_before` settle it only where they stand before the food ("cooked lentils"), not after
    ("lentils, cooked")."""

    id: str
    question: str
    foods: Mapping[str, str]
    forms: Mapping[str, str]
    families: tuple[str, ...]
    also: frozenset[str]
    tells: frozenset[str]
    tells_before: frozenset[str]

    def options(self, food: Food, pantry: Pantry) -> dict[str, str]:
        """Food keys with their answer, the food itself included; empty when this doubt is not about
        the food."""
        if food.key in self.foods or food.key in self.also:
            return dict(self.foods)
        if food.form in self.forms and (not self.families or food.family.startswith(self.families)):
            relatives = {f.form: f.key for f in pantry.relatives(food)}
            found = {
                relatives[form]: label for form, label in self.forms.items() if form in relatives
            }
            return found if len(found) > 1 else {}
        return {}

    def settled_by(self, named: str, remarks: Iterable[str]) -> bool:
        """Whether the cook's words already tell."""
        before = set(words(named))
        return bool(
            self.tells & (before | set(words(" ".join(remarks)))) or self.tells_before & before
        )


def open_ambiguity(
    doubts: Iterable[Ambiguity], food: Food, named: str, remarks: Iterable[str], pantry: Pantry
) -> Ambiguity | None:
    """The doubt that the words of a line leave open about its food, if any."""
    remarks = tuple(remarks)
    for doubt in doubts:
        if len(doubt.options(food, pantry)) > 1 and not doubt.settled_by(named, remarks):
            return doubt
    return None
