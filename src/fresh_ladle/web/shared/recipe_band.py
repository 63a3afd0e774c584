"""The band of a recipe: its name, its places in the order of the work, what is done and what comes
next."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from fresh_ladle.core.recipes.edits import ADAPTING, Edit
from fresh_ladle.core.recipes.progress import Facts, Step, next_step, steps
from fresh_ladle.core.whole.appraisal import Appraisal
from fresh_ladle.core.whole.exclusions import Broken, broken_exclusions
from fresh_ladle.core.words.sentences import listed
from fresh_ladle.store.recipes.drafts import Draft
from fresh_ladle.store.recipes.profiles import profile
from fresh_ladle.store.recipes.progress import things_done
from fresh_ladle.web.state import Workbench

PLACES = (
    ("counter", "", "Counter"),
    ("plans", "/plans", "Plans"),
    ("bench", "/bench", "Bench"),
    ("tastings", "/tastings", "Tasting"),
    ("compare", "/compare", "Versions"),
    ("services", "/services", "Service"),
    ("card", "/card", "Card"),
)
"""Where each lies below the recipe's own address, and its word."""
_WHERE = {"answered": "#questions", "targets set": "#targets", "kept": "#keep"}
"""Where at the Counter a step is done."""


@dataclass(frozen=True, slots=True)
class Station:
    """One place of a recipe. `said` tells what is done there; it is empty while that is not all."""

    place: str
    href: str
    word: str
    said: str
    next: bool


@dataclass(frozen=True, slots=True)
class RecipeBand:
    """`done` names the steps behind it, `to_do` says what comes next and `next_href` where; empty
    when all is done."""

    title: str
    stations: list[Station]
    done: str
    to_do: str
    next_href: str
    whom: str = ""
    broken: Sequence[Broken] = ()
    """For whom it is, and what must not be in it for them and is."""


def recipe_band(
    workbench: Workbench,
    connection: sqlite3.Connection,
    work: Draft,
    open_questions: int,
    edits: Iterable[Edit],
) -> RecipeBand:
    """How far the draft has come; `open_questions` are those worth asking, `edits` what was done
    since its version."""
    now, done = workbench.appraise(work.recipe), things_done(connection, work.recipe_id)
    way = steps(
        _facts(work, now, done, open_questions, any(edit.kind in ADAPTING for edit in edits))
    )
    coming = next_step(way)
    here = f"/recipes/{work.recipe_id}"
    href = {place: here + tail for place, tail, _ in PLACES}
    stations = [
        Station(
            place,
            here + tail,
            word,
            _said(place, way, done),
            coming is not None and coming.place == place,
        )
        for place, tail, word in PLACES
    ]
    behind = ", ".join(step.said for step in way if step.done)
    to_do, next_href = (
        ("", "")
        if coming is None
        else (coming.to_do, href[coming.place] + _WHERE.get(coming.said, ""))
    )
    whom = profile(connection, work.profile_id)
    broken = broken_exclusions(now, whom.exclusions) if whom else ()
    return RecipeBand(
        work.recipe.title, stations, behind, to_do, next_href, whom.name if whom else "", broken
    )


def _facts(
    work: Draft, now: Appraisal, done: frozenset[str], open_questions: int, adapted: bool
) -> Facts:
    return Facts(
        problems=len(now.problems),
        questions=open_questions,
        targets=work.profile_id is not None,
        adapted="adapted" in done or adapted,
        seasoned="seasoned" in done,
        tasted="tasted" in done,
        kept="adapted" in done and not work.changed,
        approved="approved" in done,
    )


def _said(place: str, way: list[Step], done: frozenset[str]) -> str:
    """What is done at a place, once all of it is. Plans are one way of several to adapt, and
    versions and services no step that every recipe takes: they go by what was made there."""
    made = {
        "plans": ("planned", "a plan set aside"),
        "compare": ("adapted", "kept"),
        "services": ("served", "planned"),
    }
    if place in made:
        thing, said = made[place]
        return said if thing in done else ""
    mine = [step for step in way if step.place == place and step.said != "kept"]
    return listed([step.said for step in mine]) if all(step.done for step in mine) else ""
