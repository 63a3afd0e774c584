"""What the workbench knows before it sees a recipe, in one value."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from fresh_ladle.core.amounts.ambiguity import Ambiguity
from fresh_ladle.core.amounts.preparation import PreparationTable
from fresh_ladle.core.catalogue.answer import Answer
from fresh_ladle.core.catalogue.formula import Composing
from fresh_ladle.core.catalogue.handouts import Handouts
from fresh_ladle.core.catalogue.kitchen_work import KitchenWork
from fresh_ladle.core.catalogue.pitfall import FoodPitfall
from fresh_ladle.core.catalogue.repair import Repair
from fresh_ladle.core.catalogue.sense import Sense
from fresh_ladle.core.catalogue.standing import Standing
from fresh_ladle.core.catalogue.stretch import Stretch
from fresh_ladle.core.catalogue.swap import Swap
from fresh_ladle.core.cautions.caution import Caution
from fresh_ladle.core.cautions.reach import Reach
from fresh_ladle.core.flavor.smell import UNRELATED, Likeness
from fresh_ladle.core.flavor.windows import Windows
from fresh_ladle.core.foods.pantry import Pantry
from fresh_ladle.core.method.follow import MethodGround
from fresh_ladle.core.method.lexicon import Lexicon
from fresh_ladle.core.method.separating import ShareTable


@dataclass(frozen=True, slots=True)
class Knowledge:
    """What the workbench knows before it sees a recipe."""

    pantry: Pantry
    preparations: PreparationTable
    swaps: tuple[Swap, ...]
    cautions: tuple[Caution, ...]
    ambiguities: tuple[Ambiguity, ...] = ()
    windows: Windows = field(default_factory=dict)
    repairs: tuple[Repair, ...] = ()
    pitfalls: tuple[FoodPitfall, ...] = ()
    stretches: Mapping[str, tuple[Stretch, ...]] = field(default_factory=dict)
    """What may come in to make more of a dish, by its kind."""
    composing: Composing = field(default_factory=Composing)
    likeness: Likeness = UNRELATED
    """How alike the families of smell are."""
    answers: tuple[Answer, ...] = ()
    """What answers a taster's word."""
    standings: tuple[Standing, ...] = ()
    """What thickens a blend that stands."""
    work: KitchenWork = field(default_factory=KitchenWork)
    """Verbs and their minutes, cooking times, what does not scale straight, keep times."""
    handouts: Handouts = field(default_factory=Handouts)
    """What is known for what leaves the kitchen."""
    lexicon: Lexicon = field(default_factory=Lexicon)
    """What verbs of a method mean."""
    shares: ShareTable = field(default_factory=ShareTable)
    """What parts from what when something is drained, squeezed or fried."""
    reaches: tuple[Reach, ...] = ()
    """What steps must reach to be safe."""
    sense: Sense = field(default_factory=Sense)
    """What a cook knows of foods beside their figures."""
    ground: MethodGround = field(init=False, repr=False, compare=False)
    """What methods are followed with."""
    _swaps_by_food: Mapping[str, tuple[Swap, ...]] = field(init=False, repr=False, compare=False)

    def __post_init__(self) -> None:
        ground = MethodGround(self.pantry, self.preparations, self.lexicon, self.shares)
        object.__setattr__(self, "ground", ground)
        by_food: dict[str, list[Swap]] = {}
        for swap in self.swaps:
            for key in swap.out:
                by_food.setdefault(key, []).append(swap)
        object.__setattr__(
            self, "_swaps_by_food", {key: tuple(swaps) for key, swaps in by_food.items()}
        )

    def swaps_out_of(self, food_key: str) -> tuple[Swap, ...]:
        """The swaps that take this food out, in their own order."""
        return self._swaps_by_food.get(food_key, ())
