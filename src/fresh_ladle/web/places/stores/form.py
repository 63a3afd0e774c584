"""An own food as its form shows and sends it: figures from a label, or changed by hand."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from pydantic import BaseModel, Field

from fresh_ladle.core.errors import Refused
from fresh_ladle.core.foods.food import Food
from fresh_ladle.core.foods.label import LabelFigures, Rounding, figures_from_label
from fresh_ladle.core.foods.nutrient import BY_ID, HEADLINE
from fresh_ladle.core.foods.pack_list import MAX_CHARACTERS, read_pack_list
from fresh_ladle.store.foods.own_foods import OwnFood
from fresh_ladle.web.shared.typed import number_typed


def typed_figures(per_100_g: Mapping[str, float | None]) -> dict[str, str]:
    """Figures as they stand in the fields of the form; one that is not known leaves its field
    empty."""
    return {
        nutrient: "" if value is None else f"{value:.6g}" for nutrient, value in per_100_g.items()
    }


@dataclass(frozen=True, slots=True)
class OwnFoodFields:
    """The form as it is shown. `key` is empty for a new food."""

    key: str = ""
    name: str = ""
    like: str = ""
    serving: str = "100"
    rounding: str = Rounding.EXACT
    source: str = ""
    note: str = ""
    pack_list: str = ""
    figures: Mapping[str, str] = field(default_factory=dict)


class OwnFoodForm(BaseModel):
    """The form as sent: `nutrient` and `figure` hold one entry for each figure, in the same
    order."""

    key: str = Field(default="", max_length=120)
    name: str = ""
    like: str = Field(default="", max_length=120)
    serving: str = Field(default="100", max_length=20)
    rounding: Rounding = Rounding.EXACT
    source: str = ""
    note: str = ""
    pack_list: str = ""
    nutrient: list[str] = Field(default_factory=list, max_length=60)
    figure: list[str] = Field(default_factory=list, max_length=60)

    def shown(self) -> OwnFoodFields:
        """Everything as it was typed."""
        return OwnFoodFields(
            self.key,
            self.name,
            self.like,
            self.serving,
            self.rounding,
            self.source,
            self.note,
            self.pack_list[:MAX_CHARACTERS],
            self._typed(),
        )

    def own_food(self, like: Food | None, before: OwnFood | None) -> OwnFood:
        """The food that is meant, with what is kept of it as it was. Raises ValueError naming the
        field that is wrong.

        A figure left as it version keeps its digits and the range that its label gave it.
        """
        name = self.name.strip()[:80]
        if not name:
            raise Refused("give the food a name")
        if self.key and before is None:
            raise Refused("the food to be changed is not there any more")
        if like is None or not like.in_pantry or (before is not None and like.key == before.key):
            raise Refused(
                f"“{self.like[:40]}” has no measures and taste to lend: name a food from the stores"
                " that has them"
            )
        figures = self._per_100_g(before)
        return OwnFood(
            key=before.key if before else "",
            name=name,
            like=like.key,
            per_100_g=figures.per_100_g,
            ranges=figures.ranges,
            source=self.source.strip()[:200] or "typed from a label",
            note=self.note.strip()[:300],
            allergens=before.allergens if before else None,
            pack_list=self._checked_list(),
        )

    def _checked_list(self) -> str:
        """The ingredient list as pasted. Raises ValueError when it cannot be one."""
        pasted = self.pack_list.strip()
        if pasted:
            read_pack_list(pasted)
        return pasted

    def _typed(self) -> dict[str, str]:
        return dict(zip(self.nutrient, self.figure, strict=False))

    def _per_100_g(self, before: OwnFood | None) -> LabelFigures:
        typed = {
            n: text.strip() for n, text in self._typed().items() if n in BY_ID and text.strip()
        }
        printed = {n: number_typed(text, BY_ID[n].name) for n, text in typed.items()}
        if missing := [BY_ID[n].said for n in HEADLINE if n not in printed]:
            raise Refused(f"{', '.join(missing)} must be given; write 0 where the label says none")
        serving = number_typed(self.serving, "serving weight")
        figures = figures_from_label(printed, serving, self.rounding)
        if before is None or serving != 100 or self.rounding is not Rounding.EXACT:
            return figures
        version = typed_figures(before.per_100_g)
        kept = [n for n in BY_ID if version.get(n, "") == typed.get(n, "")]
        return LabelFigures(
            figures.per_100_g | {n: before.per_100_g.get(n) for n in kept},
            figures.ranges | {n: before.ranges[n] for n in kept if n in before.ranges},
        )
