"""Settings of the practice: one word each, checked on the way in."""

from __future__ import annotations

import re
import sqlite3
from dataclasses import dataclass, replace

from fresh_ladle.core.errors import Refused
from fresh_ladle.core.nutrients.declaration import Regime
from fresh_ladle.core.recipes.region import Region
from fresh_ladle.core.words.spelling import SPELLINGS, US
from fresh_ladle.store.database import writing

LABELS = tuple(regime.value for regime in Regime)
WEIGHTS = ("grams", "ounces")
ROUNDINGS = ("label", "both")
USED, KEPT_OUT = "used", "kept out"
MAX_NAME, MAX_CURRENCY = 80, 8
MOST_SPOONED_G = 5000
_HOUR = re.compile(r"([01]\d|2[0-3]):[0-5]\d")
_TEXTS = (
    "weights",
    "label",
    "rounding",
    "school",
    "practice",
    "scale",
    "scale_pattern",
    "eaters",
    "currency",
    "label_grid",
    "thermometer",
    "opens",
    "closes",
    "weights_from",
    "spelling",
)


@dataclass(frozen=True, slots=True)
class Settings:
    """How this practice works. `region` says whose cups and spoons, `weights` how weights are
    shown, `label` whose label rules the Card follows, `rounding` whether it shows the unrounded
    figures beside, `school` the school of fat where a recipe has no targets (empty for any),
    `practice` the name on cards; `scale` where a scale prints its lines (empty for none) and
    `scale_pattern` how; `eaters` whether its own tastings move where dishes are liked; `currency`
    what stands behind a price, `label_grid` the sheet of tub labels last printed on (empty for the
    usual one), `thermometer` where a probe prints its lines; `opens` and `closes` when hands work
    in the kitchen, `weights_from` the grams from which a weight leads, `spelling` how words are
    spelled."""

    region: Region = Region.US
    weights: str = "grams"
    label: str = "us"
    rounding: str = "label"
    school: str = ""
    practice: str = ""
    scale: str = ""
    scale_pattern: str = ""
    eaters: str = USED
    currency: str = ""
    label_grid: str = ""
    thermometer: str = ""
    opens: str = "06:00"
    closes: str = "20:00"
    weights_from: str = "250"
    spelling: str = US

    def __post_init__(self) -> None:
        for name, value, allowed in (
            ("weights", self.weights, WEIGHTS),
            ("label", self.label, LABELS),
            ("rounding", self.rounding, ROUNDINGS),
            ("eaters", self.eaters, (USED, KEPT_OUT)),
            ("spelling", self.spelling, SPELLINGS),
        ):
            if value not in allowed:
                raise Refused(f"{name} is one of {', '.join(allowed)}")
        if not (
            _HOUR.fullmatch(self.opens)
            and _HOUR.fullmatch(self.closes)
            and self.opens < self.closes
        ):
            raise Refused(
                "a kitchen opens at an hour such as 06:00 and closes later on the same day"
            )
        if not (self.weights_from.isdigit() and 1 <= int(self.weights_from) <= MOST_SPOONED_G):
            raise Refused(f"weights lead from 1 to {MOST_SPOONED_G:,} g on")
        if len(self.practice) > MAX_NAME:
            raise Refused(f"the name of the practice has at most {MAX_NAME} letters")
        if len(self.currency) > MAX_CURRENCY:
            raise Refused(f"a currency has at most {MAX_CURRENCY} letters")


def settings(connection: sqlite3.Connection) -> Settings:
    """The settings as saved; what was never set is as shipped."""
    saved = {
        row["name"]: row["value"] for row in connection.execute("SELECT name, value FROM setting")
    }
    known = {name: saved[name] for name in _TEXTS if name in saved}
    found = Settings(**known)
    return replace(found, region=Region(saved["region"])) if "region" in saved else found


def save_settings(connection: sqlite3.Connection, chosen: Settings) -> None:
    values = {"region": chosen.region.value, **{name: getattr(chosen, name) for name in _TEXTS}}
    with writing(connection):
        for name, value in values.items():
            _put(connection, name, value)


def save_label_grid(connection: sqlite3.Connection, written: str) -> None:
    """Keeps the sheet of labels that was printed on."""
    with writing(connection):
        _put(connection, "label_grid", written)


def tour_of(connection: sqlite3.Connection) -> str:
    """Where the first tour stands: empty before it began, the recipe's id while it goes on, with
    the last step that was left after a colon, `over` after it."""
    row = connection.execute("SELECT value FROM setting WHERE name = 'tour'").fetchone()
    return str(row["value"]) if row else ""


def set_tour(connection: sqlite3.Connection, where: str) -> None:
    with writing(connection):
        _put(connection, "tour", where)


def _put(connection: sqlite3.Connection, name: str, value: str) -> None:
    connection.execute(
        "INSERT INTO setting VALUES (?, ?) ON CONFLICT (name) DO UPDATE SET value = excluded.value",
        (name, value),
    )
