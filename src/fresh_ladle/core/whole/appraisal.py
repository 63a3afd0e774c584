"""Everything the workbench says about one recipe, worked out once: weights, figures, flavor,
allergens, cautions."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from fresh_ladle.core.amounts.bowl import Portion, portions
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.cautions.allergens import Allergen, allergens, may_contain
from fresh_ladle.core.cautions.caution import RaisedCaution, raised
from fresh_ladle.core.cautions.reach import Reach, what_steps_must_reach
from fresh_ladle.core.flavor.parameters import USUAL_CELSIUS
from fresh_ladle.core.flavor.perception import effective
from fresh_ladle.core.flavor.smell import Smell, smell_of
from fresh_ladle.core.flavor.stimuli import Stimulus, stimuli
from fresh_ladle.core.method.follow import NO_METHOD, as_made
from fresh_ladle.core.method.process import Process
from fresh_ladle.core.nutrients.targets import Basis, Target
from fresh_ladle.core.nutrients.totals import (
    Figure,
    Totals,
    UncertaintyShare,
    figure_per_100_g,
    totals,
    what_to_weigh,
)
from fresh_ladle.core.recipes import dishes
from fresh_ladle.core.recipes.recipe import Recipe, RecipeError


@dataclass(frozen=True, slots=True)
class Appraisal:
    """One recipe, fully worked out: its lines as the method makes them. `may_contain` are allergens
    that only the packs of its foods can tell; `process` is the method, read, `reach` what its
    operations must reach to be safe, by their ids."""

    recipe: Recipe
    portions: tuple[Portion, ...]
    totals: Totals
    flavor: dict[str, Stimulus]
    smell: Smell
    allergens: list[Allergen]
    may_contain: list[Allergen]
    cautions: list[RaisedCaution]
    process: Process = NO_METHOD
    reach: Mapping[int, tuple[Reach, ...]] = field(default_factory=dict)

    def portion(self, line_id: str) -> Portion:
        """Raises RecipeError when the recipe has no such line, or has it no more."""
        found = next((p for p in self.portions if p.line.id == line_id), None)
        if found is None:
            raise RecipeError(f"there is no line {line_id!r} in {self.recipe.title}")
        return found

    def figure_for(self, target: Target) -> Figure:
        """The figure a target speaks of: in a serving, or in 100 g."""
        if target.basis is Basis.SERVING:
            return self.totals.serving[target.nutrient]
        return figure_per_100_g(self.recipe, self.portions, self.totals, target.nutrient)

    def doubts(self, nutrient: str) -> list[UncertaintyShare]:
        return what_to_weigh(self.recipe, self.portions, self.totals, nutrient)

    @property
    def allergens_unchecked(self) -> list[str]:
        """Names of what may bring allergens nobody knows of: rows of the composition table, and
        lines not understood."""
        names = (
            p.food.name if p.food else p.line.text
            for p in self.portions
            if p.food is None or not p.food.in_pantry
        )
        return list(dict.fromkeys(names))

    @property
    def celsius(self) -> float:
        """How cold it is served, in °C; the usual of a cold dish where the recipe does not say."""
        return USUAL_CELSIUS if self.recipe.served_celsius is None else self.recipe.served_celsius

    @property
    def tasted(self) -> dict[str, float]:
        """The perceived concentration on each axis: what the other tastes and the cold do to it
        included."""
        return effective(self.flavor, self.celsius)

    @property
    def problems(self) -> list[Portion]:
        """Lines that could not be weighed and are missing from every figure."""
        return [p for p in self.portions if not p.known]


def appraise(
    recipe: Recipe, knowledge: Knowledge, former: Mapping[str, str] | None = None
) -> Appraisal:
    """Works a recipe out. Never fails on a line: one that cannot be weighed is named among the
    problems. `former` are the names that lines had before, by id: the words of the method may still
    use them."""
    made = as_made(recipe, knowledge.ground, tuple(sorted((former or {}).items())))
    recipe = made.recipe
    weighed = portions(recipe, knowledge.pantry, knowledge.preparations, knowledge.ambiguities)
    figures = totals(recipe, weighed)
    per_serving = {nutrient: figure.value for nutrient, figure in figures.serving.items()}
    flavor = stimuli(weighed, recipe.yield_grams)
    # A food that could not be weighed still brings its allergens; a choice that was not taken
    # brings none.
    foods = [p.food for p in weighed if p.food is not None and p.line.eaten > 0]
    return Appraisal(
        recipe,
        weighed,
        figures,
        flavor,
        smell_of(weighed, flavor["aroma"], knowledge.likeness),
        allergens(foods),
        may_contain(foods),
        raised(knowledge.cautions, recipe, weighed, per_serving, figures.servings, made.process),
        made.process,
        what_steps_must_reach(made.process, weighed, knowledge.reaches),
    )


def check_known(recipe: Recipe, knowledge: Knowledge) -> None:
    """Raises RecipeError naming a kind of dish, a food or a preparation that this workbench does
    not know."""
    if recipe.kind not in dishes.BY_ID:
        raise RecipeError(f"no kind of dish is called {recipe.kind!r}")
    for line in recipe.lines:
        if line.food is not None and line.food not in knowledge.pantry:
            raise RecipeError(f"{line.text!r}: no food is called {line.food!r}")
        for preparation in line.preparations:
            if preparation not in knowledge.preparations.labels:
                raise RecipeError(f"{line.text!r}: no preparation is called {preparation!r}")
        if line.batch is not None:
            check_known(line.batch.recipe, knowledge)
