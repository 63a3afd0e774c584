"""How every recipe stands, worked out once for each revision, so that the Shelf answers without
working recipes out."""

from __future__ import annotations

import re
import sqlite3
from collections.abc import Collection, Iterable, Sequence
from dataclasses import dataclass
from enum import StrEnum

from fresh_ladle.core.catalogue.school import School, allows
from fresh_ladle.core.cautions.allergens import ALLERGENS, allergen_group
from fresh_ladle.core.foods.nutrient import NUTRIENT_IDS
from fresh_ladle.core.nutrients.form import RecipeForm, recipe_form
from fresh_ladle.core.nutrients.targets import Basis, Side, Target
from fresh_ladle.core.nutrients.totals import Figure
from fresh_ladle.core.whole.appraisal import Appraisal
from fresh_ladle.store.database import writing
from fresh_ladle.store.recipes.drafts import Draft
from fresh_ladle.store.recipes.shelf_forms import save_forms


class Meeting(StrEnum):
    """How a recipe stands against all limits of a profile together."""

    MEETS = "meets"
    MISSES = "misses"
    CLOSE = "close"


class Order(StrEnum):
    WORKED_LAST = "last"
    NAME = "name"
    MOST_TO_DO = "to-do"
    LEAST_SODIUM = "sodium"


PUT_AWAY = "put away"
STATES = ("to adapt", "adapted", "tasted", "approved", PUT_AWAY)


@dataclass(frozen=True, slots=True)
class ShelfFigure:
    """One figure of a recipe as it stands, beside what the original held."""

    figure: Figure
    original: float


@dataclass(frozen=True, slots=True)
class ShelfRow:
    """One recipe as the Shelf shows it. `figures` by nutrient and basis; `tags` are words such as
    allergen:sesame."""

    recipe_id: int
    revision: int
    title: str
    kind: str
    servings: float
    serving_grams: float
    changed: bool
    problems: int
    allergens_known: bool
    figures: dict[tuple[str, Basis], ShelfFigure]
    tags: frozenset[str] = frozenset()
    foods: str = ""
    profile_id: int | None = None
    state: str = STATES[0]
    versions: int = 1
    form: RecipeForm | None = None
    """The recipe as numbers; read rows have none."""
    original_pinned: bool = False
    """Whether the original keeps its own figures of all its foods."""


@dataclass(frozen=True, slots=True)
class ShelfQuery:
    """What is looked for on the Shelf. `profile_id` None takes each recipe's own targets; empty
    words ask nothing."""

    text: str = ""
    kind: str = ""
    state: str = ""
    profile_id: int | None = None
    meeting: Meeting | None = None
    free_from: tuple[str, ...] = ()
    school: str = ""
    order: Order = Order.WORKED_LAST


@dataclass(frozen=True, slots=True)
class ShelfPage:
    """One page of what was found, how many there are in all, and how many were left out for unknown
    allergens."""

    rows: list[ShelfRow]
    total: int
    unsure: int = 0


def shelf_row_of(
    draft: Draft,
    now: Appraisal,
    original: Appraisal,
    schools: Iterable[School],
    original_pinned: bool = False,
) -> ShelfRow:
    """What the Shelf needs to know of a draft and its original."""
    targets = [Target(n, Side.AT_MOST, 0, basis) for n in NUTRIENT_IDS for basis in Basis]
    foods = [p.food for p in now.portions if p.food is not None]
    names = dict.fromkeys(
        text
        for p in now.portions
        for text in (p.food.name if p.food else "", p.line.named or p.line.text)
        if text
    )
    tags = {f"allergen:{allergen_group(a.id)}" for a in now.allergens}
    tags |= {f"perhaps:{allergen_group(a.id)}" for a in now.may_contain}
    tags |= {f"food:{food.key}" for food in foods}
    tags |= {f"refused:{s.id}" for s in schools if any(not allows(s, food) for food in foods)}
    return ShelfRow(
        draft.recipe_id,
        draft.revision,
        draft.recipe.title,
        draft.recipe.kind,
        now.totals.servings,
        now.totals.serving_grams,
        draft.changed,
        len(now.problems),
        not now.allergens_unchecked,
        {
            (t.nutrient, t.basis): ShelfFigure(now.figure_for(t), original.figure_for(t).value)
            for t in targets
        },
        frozenset(tags),
        "; ".join(names),
        form=recipe_form(now.recipe, now.portions),
        original_pinned=original_pinned,
    )


def stale_recipe_ids(connection: sqlite3.Connection) -> list[int]:
    """Recipes whose draft has moved on since their shelf_row was worked out, or that have none."""
    rows = connection.execute(
        "SELECT d.recipe_id FROM draft d LEFT JOIN shelf_row s ON s.recipe_id = d.recipe_id AND"
        " s.revision = d.revision WHERE s.recipe_id IS NULL"
    )
    return [row["recipe_id"] for row in rows]


def save_shelf_rows(connection: sqlite3.Connection, rows: Sequence[ShelfRow]) -> None:
    """Keeps rows in the place of older ones of the same recipes."""
    ids = [(s.recipe_id,) for s in rows]
    with writing(connection):
        connection.executemany(
            "DELETE FROM shelf_figure WHERE nutrient = ? AND recipe_id = ?",
            [(nutrient, s.recipe_id) for nutrient in NUTRIENT_IDS for s in rows],
        )
        for table in ("shelf_row", "shelf_tag"):
            connection.executemany(f"DELETE FROM {table} WHERE recipe_id = ?", ids)
        connection.executemany("DELETE FROM shelf_text WHERE rowid = ?", ids)
        connection.executemany(
            """
            INSERT INTO shelf_row SELECT ?, ?, ?, ?, ?, ?, ?, ?, ?, at FROM draft_state
            WHERE recipe_id = ? ORDER BY seq DESC LIMIT 1
            """,
            [
                (
                    s.recipe_id,
                    s.revision,
                    s.title,
                    s.kind,
                    s.servings,
                    s.serving_grams,
                    int(s.changed),
                    s.problems,
                    int(s.allergens_known),
                    s.recipe_id,
                )
                for s in rows
            ],
        )
        connection.executemany(
            "INSERT INTO shelf_figure VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
            [r for s in rows for r in _figure_rows(s)],
        )
        save_forms(
            connection,
            {s.recipe_id: s.form for s in rows if s.form is not None},
            {s.recipe_id: s.original_pinned for s in rows},
        )
        connection.executemany(
            "INSERT INTO shelf_tag VALUES (?, ?)",
            [(tag, s.recipe_id) for s in rows for tag in s.tags],
        )
        connection.executemany(
            "INSERT INTO shelf_text (rowid, title, foods) VALUES (?, ?, ?)",
            [(s.recipe_id, s.title, s.foods) for s in rows],
        )


def _figure_rows(row: ShelfRow) -> list[tuple[object, ...]]:
    """Each figure in a serving and in 100 g side by side."""
    found: list[tuple[object, ...]] = []
    for nutrient in dict.fromkeys(nutrient for nutrient, _ in row.figures):
        served, part = (
            row.figures[nutrient, Basis.SERVING],
            row.figures[nutrient, Basis.HUNDRED_GRAMS],
        )
        ends = [(f.figure.value, f.figure.low, f.figure.high, f.original) for f in (served, part)]
        found.append((nutrient, row.recipe_id, int(served.figure.complete), *ends[0], *ends[1]))
    return found


def discard_shelf_rows(
    connection: sqlite3.Connection, recipe_ids: Collection[int] | None = None
) -> None:
    """Standings of these recipes, or all of them, are worked out again: what they rest on has
    changed."""
    with writing(connection):
        if recipe_ids is None:
            connection.execute("DELETE FROM shelf_row")
        else:
            connection.executemany(
                "DELETE FROM shelf_row WHERE recipe_id = ?", [(i,) for i in recipe_ids]
            )


_STATE = f"""
CASE WHEN r.put_away THEN '{PUT_AWAY}'
  WHEN (SELECT count(*) FROM version v WHERE v.recipe_id = s.recipe_id) < 2 THEN 'to adapt'
  ELSE coalesce(
    (SELECT min(m.kind) FROM version_mark m WHERE m.version_id =
      (SELECT id FROM version v WHERE v.recipe_id = s.recipe_id ORDER BY number DESC LIMIT 1)),
    'adapted') END
"""
# The verdicts of core/nutrients/targets.py as conditions on a figure f and a target t; a test tags
# them together.
_VALUE, _LOW, _HIGH = (
    f"(CASE t.basis WHEN 'serving' THEN f.{end} ELSE f.part_{end} END)"
    for end in ("value", "low", "high")
)
_MET = f"""
(f.value IS NOT NULL AND CASE t.side
  WHEN 'at most' THEN f.complete AND ({_HIGH} < t.limit_value OR ({_LOW} = {_HIGH} AND {_VALUE} <= t.limit_value))
  ELSE {_LOW} > t.limit_value OR ({_LOW} = t.limit_value AND ({_LOW} = {_HIGH} OR NOT f.complete)) END)
"""
_MISSED = f"""
(f.value IS NOT NULL AND CASE t.side
  WHEN 'at most' THEN {_LOW} > t.limit_value
  ELSE f.complete AND {_HIGH} < t.limit_value END)
"""
_AGAINST = """
FROM target t LEFT JOIN shelf_figure f ON f.recipe_id = s.recipe_id AND f.nutrient = t.nutrient
WHERE t.profile_id = coalesce(:profile, r.profile_id)
"""
_EXCLUDED = """
EXISTS (SELECT 1 FROM profile p, json_each(p.exclusions) e
JOIN shelf_tag h ON h.tag IN ('allergen:' || e.value, 'food:' || e.value) AND h.recipe_id = s.recipe_id
WHERE p.id = coalesce(:profile, r.profile_id))
"""
_UNSURE_OF_EXCLUSIONS = f"""
EXISTS (SELECT 1 FROM profile p, json_each(p.exclusions) e
WHERE p.id = coalesce(:profile, r.profile_id) AND e.value IN ({", ".join(f"'{allergen}'" for allergen in ALLERGENS)})
AND (NOT s.allergens_known
OR EXISTS (SELECT 1 FROM shelf_tag h WHERE h.recipe_id = s.recipe_id AND h.tag = 'perhaps:' || e.value)))
"""
_ASKS_FOR_NO_FIGURE = """
EXISTS (SELECT 1 FROM profile p WHERE p.id = coalesce(:profile, r.profile_id) AND json_array_length(p.exclusions) > 0)
"""
_FAILS = f"(EXISTS (SELECT 1 {_AGAINST} AND {_MISSED}) OR {_EXCLUDED})"
_MEETING = {
    Meeting.MEETS: (
        f"(EXISTS (SELECT 1 {_AGAINST}) OR {_ASKS_FOR_NO_FIGURE})"
        f" AND NOT EXISTS (SELECT 1 {_AGAINST} AND NOT {_MET}) AND NOT {_EXCLUDED}"
        f" AND NOT {_UNSURE_OF_EXCLUSIONS}"
    ),
    Meeting.MISSES: _FAILS,
    Meeting.CLOSE: (
        f"(EXISTS (SELECT 1 {_AGAINST} AND NOT {_MET}) OR {_UNSURE_OF_EXCLUSIONS}) AND NOT {_FAILS}"
    ),
}
_ORDERS = {
    Order.WORKED_LAST: "s.worked_at DESC, s.recipe_id",
    Order.NAME: "s.title COLLATE NOCASE, s.recipe_id",
    Order.MOST_TO_DO: f"(SELECT count(*) {_AGAINST} AND {_MISSED}) DESC, s.title COLLATE NOCASE",
    Order.LEAST_SODIUM: (
        "(SELECT f.value FROM shelf_figure f WHERE f.recipe_id = s.recipe_id AND f.nutrient ="
        " 'sodium_mg'), s.title"
    ),
}


def shelf_sql(question: ShelfQuery, allergens_known: bool = True) -> tuple[str, dict[str, object]]:
    """The bare query of a question, with its values: ids in order, each beside the count of all.

    Where something is to be left out, only recipes all of whose allergens are known, or only the
    others."""
    wheres, values = (
        [f"r.put_away = {int(question.state == PUT_AWAY)}"],
        dict[str, object](profile=question.profile_id),
    )
    if words := re.findall(r"\w+", question.text)[:8]:
        wheres.append("s.recipe_id IN (SELECT rowid FROM shelf_text WHERE shelf_text MATCH :match)")
        values["match"] = " ".join(f'"{word}"*' for word in words)
    if question.kind:
        wheres.append("s.kind = :kind")
        values["kind"] = question.kind
    if question.state:
        wheres.append(f"{_STATE} = :state")
        values["state"] = question.state
    if question.meeting is not None:
        wheres.append(_MEETING[question.meeting])
    for place, allergen in enumerate(question.free_from):
        wheres.append(
            f"NOT EXISTS (SELECT 1 FROM shelf_tag WHERE tag = :out{place} AND recipe_id ="
            " s.recipe_id)"
        )
        values[f"out{place}"] = f"allergen:{allergen}"
    if question.school:
        wheres.append(
            "NOT EXISTS (SELECT 1 FROM shelf_tag WHERE tag = :refused AND recipe_id = s.recipe_id)"
        )
        values["refused"] = f"refused:{question.school}"
    if question.free_from:
        perhaps = [f":perhaps{place}" for place in range(len(question.free_from))]
        values |= {
            f"perhaps{place}": f"perhaps:{allergen}"
            for place, allergen in enumerate(question.free_from)
        }
        known = (
            "(s.allergens_known AND NOT EXISTS (SELECT 1 FROM shelf_tag WHERE recipe_id ="
            f" s.recipe_id AND tag IN ({', '.join(perhaps)})))"
        )
        wheres.append(known if allergens_known else f"NOT {known}")
    sql = f"""
    SELECT s.recipe_id, count(*) OVER () AS total FROM shelf_row s JOIN recipe r ON r.id = s.recipe_id
    WHERE {" AND ".join(wheres)} ORDER BY {_ORDERS[question.order]} LIMIT :limit OFFSET :offset
    """
    return sql, values


def shelf_page(
    connection: sqlite3.Connection, question: ShelfQuery, offset: int, limit: int
) -> ShelfPage:
    """The recipes a question finds, from the `offset`th on."""
    sql, values = shelf_sql(question)
    found = connection.execute(sql, {**values, "limit": limit, "offset": offset}).fetchall()
    unsure = 0
    if question.free_from:
        others, _ = shelf_sql(question, allergens_known=False)
        row = connection.execute(others, {**values, "limit": 1, "offset": 0}).fetchone()
        unsure = row["total"] if row else 0
    rows = _rows(connection, [row["recipe_id"] for row in found])
    return ShelfPage(rows, found[0]["total"] if found else 0, unsure)


def cards_sql(count: int) -> tuple[str, str]:
    """The bare queries for so many recipes by id: their figures, and their rows."""
    marks = ", ".join("?" * count)
    named = ", ".join(f"'{nutrient}'" for nutrient in NUTRIENT_IDS)
    figures = f"SELECT * FROM shelf_figure WHERE nutrient IN ({named}) AND recipe_id IN ({marks})"
    rows = f"""
    SELECT s.recipe_id, s.revision, s.title, s.kind, s.servings, s.serving_grams, s.changed, s.problems,
      s.allergens_known, r.profile_id,
      {_STATE} AS state, (SELECT count(*) FROM version v WHERE v.recipe_id = s.recipe_id) AS versions
    FROM shelf_row s JOIN recipe r ON r.id = s.recipe_id WHERE s.recipe_id IN ({marks})
    """
    return figures, rows


def tags_sql(count: int) -> str:
    """The bare query for what so many recipes hold by id: allergens, foods."""
    marks = ", ".join("?" * count)
    return (
        f"SELECT recipe_id, tag FROM shelf_tag WHERE recipe_id IN ({marks}) AND tag NOT LIKE"
        " 'refused:%'"
    )


def _rows(connection: sqlite3.Connection, ids: Sequence[int]) -> list[ShelfRow]:
    figures: dict[int, dict[tuple[str, Basis], ShelfFigure]] = {i: {} for i in ids}
    for_figures, for_rows = cards_sql(len(ids))
    for nutrient, recipe_id, complete, *ends in connection.execute(for_figures, ids):
        # What is missing is named at the Counter; here it only matters that something is.
        missing = () if complete else ("",)
        for basis, (value, low, high, original) in (
            (Basis.SERVING, ends[:4]),
            (Basis.HUNDRED_GRAMS, ends[4:]),
        ):
            figures[recipe_id][nutrient, basis] = ShelfFigure(
                Figure(value, low, high, missing), original
            )
    tags: dict[int, set[str]] = {i: set() for i in ids}
    for recipe_id, tag in connection.execute(tags_sql(len(ids)), ids):
        tags[recipe_id].add(tag)
    made = {
        row["recipe_id"]: ShelfRow(
            row["recipe_id"],
            row["revision"],
            row["title"],
            row["kind"],
            row["servings"],
            row["serving_grams"],
            bool(row["changed"]),
            row["problems"],
            bool(row["allergens_known"]),
            figures[row["recipe_id"]],
            frozenset(tags[row["recipe_id"]]),
            profile_id=row["profile_id"],
            state=row["state"],
            versions=row["versions"],
        )
        for row in connection.execute(for_rows, ids)
    }
    return [made[i] for i in ids if i in made]


def recipes_called(connection: sqlite3.Connection, typed: str, limit: int) -> list[tuple[int, str]]:
    """Id and title of recipes whose name tags words beginning as typed, the one worked on last
    first."""
    words = re.findall(r"\w+", typed)[:8]
    if not words:
        return []
    match = " AND ".join(f'"{word}"*' for word in words)
    rows = connection.execute(
        """
        SELECT s.recipe_id, s.title FROM shelf_text t JOIN shelf_row s ON s.recipe_id = t.rowid
        JOIN recipe r ON r.id = s.recipe_id WHERE NOT r.put_away AND shelf_text MATCH ?
        ORDER BY s.worked_at DESC LIMIT ?
        """,
        (f"title : ({match})", limit),
    )
    return [(row["recipe_id"], row["title"]) for row in rows]
