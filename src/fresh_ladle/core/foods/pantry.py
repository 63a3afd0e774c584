"""All foods the workbench knows, looked up by key, by family and by composition row."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from fresh_ladle.core.errors import Refused
from fresh_ladle.core.foods.food import Food


class UnknownFood(Refused, KeyError):
    """No food has this key."""

    def __init__(self, key: str) -> None:
        super().__init__(key)
        self.key = key

    def __str__(self) -> str:
        return f"no food is called {self.key!r}"


class Pantry:
    """An immutable collection of foods. Iterates over foods with taste figures first, in their own
    order."""

    def __init__(self, foods: Iterable[Food]) -> None:
        self._by_key = {food.key: food for food in foods}
        self._families: dict[str, list[Food]] = {}
        for food in self._by_key.values():
            if food.family:
                self._families.setdefault(food.family, []).append(food)

    def __getitem__(self, key: str) -> Food:
        try:
            return self._by_key[key]
        except KeyError:
            raise UnknownFood(key) from None

    def __contains__(self, key: object) -> bool:
        return key in self._by_key

    def __iter__(self) -> Iterator[Food]:
        return iter(self._by_key.values())

    def __len__(self) -> int:
        return len(self._by_key)

    def with_foods(self, foods: Iterable[Food]) -> Pantry:
        """The pantry with these foods added, or in place of those that have their key."""
        return Pantry([*self, *foods])

    def get(self, key: str | None) -> Food | None:
        return self._by_key.get(key) if key else None

    def relatives(self, food: Food) -> list[Food]:
        """The other forms of the same food (dry, cooked, canned ...), this one included."""
        return self._families.get(food.family, [food])

    def form_of(self, food: Food, form: str) -> Food | None:
        """The relative of `food` that has the named form."""
        return next((f for f in self.relatives(food) if f.form == form), None)

    @property
    def stocked(self) -> list[Food]:
        """Foods with taste figures: the ones a recipe is normally read with."""
        return [f for f in self if f.in_pantry]
