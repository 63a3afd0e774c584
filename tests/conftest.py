"""What many tests need: the shipped knowledge, a reader, and recipes made from a few words."""

from __future__ import annotations

import pytest
from hypothesis import settings

from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.foods.pantry import Pantry
from fresh_ladle.core.recipes.recipe import Line, Recipe
from fresh_ladle.core.whole.appraisal import Appraisal, appraise
from fresh_ladle.data.load import load_knowledge

# The first example pays for loading the shipped figures, so a deadline would only measure that.
settings.register_profile("kitchen", deadline=None)
settings.load_profile("kitchen")


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """What takes long begins first, so that no worker is left with it at the end."""
    items.sort(key=lambda item: "slow" not in item.keywords)


@pytest.fixture(scope="session")
def knowledge() -> Knowledge:
    return load_knowledge()


@pytest.fixture(scope="session")
def pantry(knowledge: Knowledge) -> Pantry:
    return knowledge.pantry


@pytest.fixture(scope="session")
def reader(knowledge: Knowledge) -> Reader:
    return Reader(knowledge.pantry, knowledge.preparations)


class Kitchen:
    """Makes recipes of weighed foods, so that a test can say just what it is about."""

    def __init__(self, knowledge: Knowledge) -> None:
        self.knowledge = knowledge

    def recipe(
        self, grams: dict[str, str], kind: str = "vinaigrette", servings: float = 4
    ) -> Recipe:
        """`grams` maps a food key to an amount such as `30 g` or `2 tbsp`."""
        lines = tuple(
            Line(f"l{n}", f"{amount} {key}", amount, key, named=key)
            for n, (key, amount) in enumerate(grams.items(), 1)
        )
        return Recipe("Test dish", lines, kind, servings)

    def appraise(
        self, grams: dict[str, str], kind: str = "vinaigrette", servings: float = 4
    ) -> Appraisal:
        return self.work_out(self.recipe(grams, kind, servings))

    def work_out(self, recipe: Recipe) -> Appraisal:
        return appraise(recipe, self.knowledge)


@pytest.fixture(scope="session")
def kitchen(knowledge: Knowledge) -> Kitchen:
    return Kitchen(knowledge)
