"""A bowl at the bench as the screen shows it: what went in with what it did, what the targets
leave, what next."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from fresh_ladle.core.bench.log import BenchEvent, totals_of
from fresh_ladle.core.bench.next import Room, Suggestion, rooms
from fresh_ladle.core.flavor.drift import noticed_words
from fresh_ladle.core.flavor.parameters import Setting
from fresh_ladle.core.foods.nutrient import BY_ID, HEADLINE
from fresh_ladle.core.nutrients.targets import Side, Target
from fresh_ladle.core.nutrients.wording import (
    counted,
    grams_range_text,
    grams_text,
    nutrient_amount,
    signed,
)
from fresh_ladle.core.whole.appraisal import Appraisal
from fresh_ladle.core.whole.balance import drift_between
from fresh_ladle.core.words.sentences import listed
from fresh_ladle.store.recipes.bench import Bench
from fresh_ladle.web.shared.target_status import Rung, Tilt, VersionFigures, rung_views, tilt_view
from fresh_ladle.web.state import Workbench


@dataclass(frozen=True, slots=True)
class EventView:
    """One thing that went in. `did` is what it did to a serving and to the taste; empty when it is
    struck out."""

    seq: int
    at: str
    text: str
    name: str
    grams: str
    grams_range: str
    did: list[str]
    struck: bool


@dataclass(frozen=True, slots=True)
class BudgetView:
    """What one target leaves: in words, and as a share of its limit for the bar, 0 to 1."""

    name: str
    words: str
    share: float
    over: bool


@dataclass(frozen=True, slots=True)
class SuggestionView:
    """One answer to a taster's word; `text` is what goes in when it is tapped."""

    text: str
    why: str
    notes: list[str]
    within: bool


@dataclass(frozen=True, slots=True)
class BenchView:
    """One bowl whole."""

    id: int
    title: str
    by: str
    started: str
    full: bool
    batch: str
    serving: str
    events: list[EventView]
    rungs: list[Rung]
    tilt: Tilt | None
    budget: list[BudgetView]
    quick: list[str]
    pending: list[tuple[str, str]]
    count: int


def bench_view(workbench: Workbench, bench: Bench, targets: Sequence[Target]) -> BenchView:
    log = bench.log
    now = workbench.appraise(log.bowl())
    start = workbench.appraise(log.start)
    totals = now.totals
    filled = totals.batch_grams.value > 0
    against = start if start.totals.batch_grams.value > 0 else workbench.appraise(log.base)
    went_in = {e.line.food for e in log.counted}
    pending = (
        []
        if log.full
        else [(x.id, x.text) for x in log.base.lines if x.amount and x.food not in went_in]
    )
    return BenchView(
        bench.id,
        log.base.title,
        bench.by,
        _clock(bench.started_at),
        log.full,
        grams_text(totals.batch_grams),
        f"{totals.serving_grams:.0f} g" if filled else "0 g",
        [_event_view(workbench, bench, event) for event in reversed(log.events)],
        rung_views(VersionFigures.of(now, against), targets),
        tilt_view(now, against, Setting.SIDE_BY_SIDE, workbench.knowledge) if filled else None,
        [_budget(room) for room in rooms(now, targets)] if filled else [],
        _quick(bench),
        pending,
        len(log.counted),
    )


def _event_view(workbench: Workbench, bench: Bench, event: BenchEvent) -> EventView:
    log = bench.log
    after = workbench.appraise(log.bowl(event.seq))
    name = event.line.named or event.text
    if event.struck:
        return EventView(event.seq, _clock(event.at), event.text, name, "", "", [], True)
    earlier = [e.seq for e in log.counted if e.seq < event.seq]
    before = workbench.appraise(log.bowl(earlier[-1] if earlier else 0))
    portion = after.portion(f"b{event.seq}")
    changes = [(n, signed(n, _change(before, after, n))) for n in HEADLINE]
    did = [f"{BY_ID[n].said} {text}" for n, text in changes if text[0] in "+−"]
    if before.totals.batch_grams.value > 0:
        did.append(
            listed(noticed_words(drift_between(after, before, Setting.SIDE_BY_SIDE)))
            or "not noticed"
        )
    return EventView(
        event.seq,
        _clock(event.at),
        event.text,
        name,
        grams_text(portion.measured),
        grams_range_text(portion.measured),
        did,
        False,
    )


def _change(before: Appraisal, after: Appraisal, nutrient: str) -> float:
    had = before.totals.serving[nutrient].value if before.totals.batch_grams.value > 0 else 0.0
    return after.totals.serving[nutrient].value - had


def _clock(at: str) -> str:
    """Hours and minutes of a moment, by the clock of the kitchen."""
    return datetime.fromisoformat(at).astimezone().strftime("%H:%M")


def _budget(room: Room) -> BudgetView:
    target = room.target
    meta = BY_ID[target.nutrient]
    amount = f"{nutrient_amount(target.nutrient, abs(room.left))} {meta.unit}"
    if target.side is Side.AT_MOST:
        words = f"{amount} left" if room.left >= 0 else f"{amount} over"
    else:
        words = "reached" if room.left >= 0 else f"{amount} to go"
    share = 1 - room.left / target.limit if target.limit > 0 else 1.0
    if target.side is Side.AT_LEAST:
        share = 1 + room.left / target.limit if target.limit > 0 else 1.0
    return BudgetView(meta.name, words, min(1.0, max(0.0, share)), room.left < 0)


def _quick(bench: Bench) -> list[str]:
    """What is likely to go in next: what the recipe seasons with to taste, then what has gone in so
    far by the spoon; what was weighed out of its vessel is never the same twice."""
    open_lines = [x.named for x in bench.log.base.lines if not x.amount and x.named]
    said = ["1 pinch salt", "1 tsp lemon juice", "1 Tbsp water"]
    again = [
        e.text for e in reversed(bench.log.counted) if not re.match(r"[\d.]+ to [\d.]+ g\b", e.text)
    ]
    return list(
        dict.fromkeys([*(f"1 pinch {name}" for name in open_lines[:2]), *again[:3], *said])
    )[:6]


def preview_words(
    workbench: Workbench, before: Appraisal, after: Appraisal, targets: Sequence[Target]
) -> list[str]:
    """What an addition would do, said before the spoon: which limits it uses up or passes, and how
    it would taste."""
    said = []
    for was, now in zip(rooms(before, targets), rooms(after, targets), strict=True):
        meta = BY_ID[now.target.nutrient]
        if now.target.side is not Side.AT_MOST or was.left <= now.left + 1e-9:
            continue
        used = f"{nutrient_amount(now.target.nutrient, was.left - now.left)} {meta.unit}"
        if now.left < 0 <= was.left:
            over = f"{nutrient_amount(now.target.nutrient, -now.left)} {meta.unit}"
            said.append(f"{meta.name}: goes {over} over")
        elif was.left >= 0:
            left = f"{nutrient_amount(now.target.nutrient, was.left)} {meta.unit}"
            said.append(f"{meta.name}: uses {used} of the {left} left")
        else:
            said.append(f"{meta.name}: {used} further over")
    steps = (
        drift_between(after, before, Setting.SIDE_BY_SIDE)
        if before.totals.batch_grams.value > 0
        else None
    )
    if steps is not None:
        said.append(f"Taste: {listed(noticed_words(steps)) or 'nobody would notice'}")
    return said


def suggestion_views(found: Sequence[Suggestion]) -> list[SuggestionView]:
    views = []
    for s in found:
        leaves = [
            f"{BY_ID[r.target.nutrient].said} {_budget(r).words}" for r in s.rooms if _is_tight(r)
        ]
        views.append(
            SuggestionView(
                f"{s.rung.text} {s.food.kitchen_name}",
                s.why,
                [
                    listed(noticed_words(s.steps)),
                    *leaves,
                    *(["in the bowl already"] if s.there else []),
                ],
                s.within,
            )
        )
    return views


def _is_tight(room: Room) -> bool:
    """Whether a limit is passed, or has little room: only then is it worth a word."""
    return room.target.side is Side.AT_MOST and room.left < 0.4 * room.target.limit


@dataclass(frozen=True, slots=True)
class ComparedFood:
    """One food in the logs that are set side by side, by the serving; empty where a log had
    none."""

    name: str
    amounts: list[str]


def compared_logs(workbench: Workbench, logs: Sequence[Bench]) -> list[ComparedFood]:
    """What each cook put in by the log alone: that is what "to taste" was."""
    totals = [totals_of(b.log, workbench.knowledge) for b in logs]
    keys = dict.fromkeys(key for found in totals for key in found)
    return [
        ComparedFood(
            workbench.knowledge.pantry[key].kitchen_name,
            [f"{t[key]:.1f} g" if key in t else "–" for t in totals],
        )
        for key in keys
    ]


def log_name(bench: Bench) -> str:
    cook = f"cook {bench.by}, " if bench.by else ""
    return (
        f"{cook}{bench.started_at[:10]} {_clock(bench.started_at)},"
        f" {counted(len(bench.log.counted), 'addition')}"
    )
