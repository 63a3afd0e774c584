"""Takes each demo dish a third down in its worst figure by swaps and repairs alone, for each
school, and tells how.

A beam of the few best chains of moves; each move is one a person can take on the Counter. Writes
docs/a-third-down.md."""

from __future__ import annotations

import sys
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from pathlib import Path

from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.catalogue.school import SCHOOLS, School, allows
from fresh_ladle.core.foods.nutrient import BY_ID
from fresh_ladle.core.page.recipe_text import read_recipe
from fresh_ladle.core.recipes.recipe import Recipe, RecipeError
from fresh_ladle.core.swaps.apply import swaps_for, with_swap
from fresh_ladle.core.swaps.repairs import with_repair
from fresh_ladle.core.whole.appraisal import Appraisal, appraise
from fresh_ladle.core.whole.balance import drift_between
from fresh_ladle.data.load import load_knowledge
from fresh_ladle.data.tables import toml_of

TARGET = Path(__file__).parent.parent / "docs" / "a-third-down.md"
MAX_MOVES, BEAM, WANTED, MAX_STEPS = 5, 5, 2 / 3, 2.0
SHARES = (None, 0.25, 0.5, 0.75, 1.0)


@dataclass(frozen=True)
class Chain:
    """Moves taken so far, the recipe they lead to, the figure's share of the original, and the
    largest step of taste."""

    moves: tuple[str, ...]
    now: Appraisal
    share: float
    worst: float

    @property
    def short_by(self) -> float:
        """How far from done: the figure's excess, and the steps past two, weighed so that a step is
        a tenth."""
        return max(0.0, self.share - WANTED) + 0.1 * max(0.0, self.worst - MAX_STEPS)

    @property
    def done(self) -> bool:
        return self.share <= WANTED and self.worst <= MAX_STEPS


def worst_figure(row: dict, profile: dict, first: Appraisal) -> str:
    """The figure of the profile that stands highest against its upper limit."""
    limits = {t["nutrient"]: t["limit"] for t in profile["targets"] if t["side"] == "at most"}
    return max(limits, key=lambda n: first.totals.serving[n].value / limits[n])


def next_moves(chain: Chain, school: School) -> list[tuple[str, Recipe]]:
    knowledge, now = load_knowledge(), chain.now
    found: dict[str, Recipe] = {}
    for line in now.recipe.lines:
        for swap in swaps_for(line, now.recipe, knowledge):
            if school.id not in swap.schools:
                continue
            for share in SHARES:
                if share is not None and share > swap.fails_at:
                    continue
                try:
                    recipe = with_swap(now, line.id, swap, knowledge.pantry, share)
                except RecipeError:
                    continue
                part = f"{(swap.share if share is None else share) * 100:.0f}% of the {line.named}"
                found.setdefault(f"{swap.title.lower()} ({part})", recipe)
    for repair in knowledge.repairs:
        if repair.computed and all(
            allows(school, knowledge.pantry[a.food]) for a in repair.additions
        ):
            for dose in (0.5, 1.0, 2.0):
                found[f"{repair.title.lower()} (dose {dose:g})"] = with_repair(
                    now, repair, dose, knowledge.pantry
                )
    return list(found.items())


def chain_to(first: Appraisal, figure: str, school: School) -> Chain:
    start = first.totals.serving[figure].value
    beam = [Chain((), first, 1.0, 0.0)]
    best = beam[0]
    for _ in range(MAX_MOVES):
        longer = []
        for chain in beam:
            for name, recipe in next_moves(chain, school):
                if name in chain.moves:
                    continue
                now = appraise(recipe, load_knowledge())
                worst = max(abs(s) for s in drift_between(now, first).steps.values())
                longer.append(
                    Chain(
                        (*chain.moves, name), now, now.totals.serving[figure].value / start, worst
                    )
                )
        longer.sort(key=lambda c: (not c.done, c.short_by, drift_between(c.now, first).total))
        beam = longer[:BEAM]
        if beam and (beam[0].done or beam[0].short_by < best.short_by):
            best = beam[0]
        if best.done:
            break
    return best


def work(number: int) -> list[str]:
    knowledge = load_knowledge()
    table = toml_of("demo.toml")
    row = table["recipe"][number]
    profile = next(p for p in table["profile"] if p["name"] == row["profile"])
    recipe = read_recipe(
        row["text"], Reader(knowledge.pantry, knowledge.preparations), kind=row["kind"]
    ).recipe
    first = appraise(recipe, knowledge)
    figure = worst_figure(row, profile, first)
    lines = []
    for school in SCHOOLS:
        best = chain_to(first, figure, school)
        verdict = "yes" if best.done else "no"
        lines.append(
            f"| {recipe.title} | {BY_ID[figure].name.lower()} | {school.name} | {verdict} |"
            f" {(1 - best.share) * 100:.0f}% | {best.worst:.1f} | {'; '.join(best.moves)} |"
        )
    return lines


def main() -> int:
    table = toml_of("demo.toml")
    with ProcessPoolExecutor() as pool:
        rows = [line for lines in pool.map(work, range(len(table["recipe"]))) for line in lines]
    head = (
        "# A third down\n\nEach dish of the demo taken a third down in its worst figure a serving,"
        " by swaps and repairs of the catalogue alone, at most five, with no taste more than two"
        " noticeable steps (from memory) from the original. Made by `python"
        " scripts/a_third_down.py`.\n\n| dish | figure | school | done | down | largest step |"
        " moves |\n|---|---|---|---|---|---|---|\n"
    )
    TARGET.write_text(head + "\n".join(rows) + "\n", encoding="utf-8")
    print(f"{sum('| yes |' in r for r in rows)} of {len(rows)} done; see {TARGET}")
    return 0


if __name__ == "__main__":
    sys.exit(main())
