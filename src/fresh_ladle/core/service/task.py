"""One task of a day, and the kitchen it is done in."""

from __future__ import annotations

from dataclasses import dataclass

from fresh_ladle.core.amounts.bowl import Portion
from fresh_ladle.core.cautions.reach import Reach

LAST_MINUTES = 30
"""Minutes before eating within which falls what is done at the last moment."""


@dataclass(frozen=True, slots=True)
class Kitchen:
    """What the work is done with: cooks, ovens with trays each, burners, and what a blender holds;
    0 ml for none."""

    cooks: int = 1
    ovens: int = 1
    trays: int = 2
    burners: int = 4
    blender_ml: float = 1500.0


@dataclass(frozen=True, slots=True)
class Task:
    """One task. `active` minutes of a cook's hands come first, then `waiting` minutes, with the
    cook beside it when `attended`. `after` are tasks that must be over; `uses` is oven, burner,
    blender or nothing, held while it cooks or runs, `demand` how many trays or burners. `said`
    tells whether the method gives its time. `batches` is how many fillings, or rounds where
    `in_rounds`, it takes. `from_minutes` is how many minutes before eating it may begin at most;
    None for free. `changed` says what its words name and the dish no longer holds; `hot` whether
    something in it was cooked and not cooled since. `usual` are the minutes of work that the tables
    give for it, 0 where the method says them; `timed` how many timed steps of its verb `active` was
    learned from."""

    id: int
    dish: str
    component: str
    text: str
    verb: str
    lines: tuple[str, ...]
    active: int
    waiting: int
    attended: bool
    uses: str
    celsius: float | None
    after: tuple[int, ...]
    said: bool
    batches: int = 1
    demand: int = 1
    from_minutes: int | None = None
    in_rounds: bool = False
    changed: str = ""
    hot: bool = False
    usual: float = 0.0
    timed: int = 0
    reach: tuple[Reach, ...] = ()
    """What it must reach to be safe."""

    @property
    def minutes(self) -> int:
        return self.active + self.waiting


def line_of(portion: Portion) -> str:
    """The id of the recipe's own line a portion belongs to."""
    return portion.batch_line or portion.line.id
