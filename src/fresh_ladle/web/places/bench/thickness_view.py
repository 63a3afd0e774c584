"""How thick a bowl is, and how much more water it takes, as the bench shows it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from fresh_ladle.core.bench.thickness import (
    TABLESPOON_G,
    WORDS,
    How,
    first_guess,
    learned,
    warmth_apart,
    water_and_blend,
)
from fresh_ladle.core.foods.nutrient import BY_ID
from fresh_ladle.core.nutrients.wording import counted, nutrient_amount
from fresh_ladle.store.recipes.bench import Bench
from fresh_ladle.store.recipes.thickness import KeptReading
from fresh_ladle.web.state import Workbench

SPOONFUL_G = 15.0
SPOKEN_OF = ("energy_kcal", "sodium_mg", "fat_g")
A_DIP, A_DRESSING = 2.0, 6.0
SMALL_G = 4.0
"""Less water than that is not worth a spoon."""


@dataclass(frozen=True, slots=True)
class ReadingView:
    id: int
    text: str
    notes: str
    struck: bool


@dataclass(frozen=True, slots=True)
class ThicknessView:
    """`now` how far it runs as far as is known, `answer` what more water does, `spoonful` what that
    makes of one, `standing` what time will do; `doubt` what to mind."""

    wanted: float
    choices: list[tuple[float, str]]
    now: str
    answer: str
    spoonful: str
    standing: str
    doubt: list[str]
    readings: list[ReadingView]
    words: list[str]


def thickness_view(
    workbench: Workbench, bench: Bench, kept: Sequence[KeptReading], wanted: float | None = None
) -> ThicknessView | None:
    """None for an empty bowl. All bowls of the recipe teach; struck readings do not."""
    bowl = workbench.appraise(bench.log.bowl())
    water, blend = water_and_blend(bench.log, workbench.knowledge)
    if blend <= 0:
        return None
    wanted = wanted or (A_DIP if "dip" in bench.log.base.kind else A_DRESSING)
    start = workbench.appraise(bench.log.start) if bench.log.full else bowl
    guess, standing = first_guess(start, workbench.knowledge.standings)
    counted_ones = [k.reading for k in kept if not k.struck]
    known = learned(guess, counted_ones)
    runs = known.run(water / blend)
    asked = known.water_for(wanted)
    grams = [share * blend - water for share in (asked.low, asked.value, asked.high)]
    sentence, more = _answer(grams, wanted)
    stands = known.stands
    stood = ""
    if standing is not None and stands.value * blend >= SMALL_G:
        spoons, most = (share * blend / TABLESPOON_G for share in (stands.value, stands.high))
        stood = (
            f"With {standing.name} in it, it thickens on standing: overnight as {_spoons(spoons)}"
            f" of water less would (up to {_spoons(most)}). Make it looser than you want it, and"
            " look again in an hour."
        )
    doubt = (
        ["Read cold and warm: they should not be held together."]
        if warmth_apart(counted_ones)
        else []
    )
    if not counted_ones:
        doubt.append(
            "A guess from the recipe alone: one reading narrows it more than anything else."
        )
    return ThicknessView(
        wanted,
        [(run, f"{words} (about {run:g} cm)") for words, run in WORDS.items()],
        f"{runs.value:.1f} cm, between {runs.low:.1f} and {runs.high:.1f};"
        f" {_nearest_words(runs.value)}",
        sentence,
        _spoonful(workbench, bench, more) if more > 0 else "",
        stood,
        doubt,
        [_reading_view(k, bench.id) for k in reversed(kept)][:8],
        list(WORDS),
    )


def _answer(grams: Sequence[float], wanted: float) -> tuple[str, float]:
    """The sentence, and grams of water to add as far as is likely."""
    low, value, high = grams
    if value < SMALL_G:
        return f"No more water for a run of {wanted:g} cm: it may run so far already.", 0.0
    least, most = max(0.0, low) / TABLESPOON_G, high / TABLESPOON_G
    return (
        (
            f"About {_spoons(value / TABLESPOON_G)} more water for a run of {wanted:g} cm"
            f" ({least:.1f} to {most:.1f}). One at a time; look again after each."
        ),
        value,
    )


def _spoons(tablespoons: float) -> str:
    halves = max(1, round(2 * tablespoons)) / 2
    whole, half = int(halves), halves % 1 > 0
    return f"{whole or ''}{'½' if half else ''} Tbsp"


def _nearest_words(run: float) -> str:
    return min(WORDS, key=lambda words: abs(WORDS[words] - run))


def _spoonful(workbench: Workbench, bench: Bench, more_g: float) -> str:
    """What a spoonful holds before and after: the thin one is another food."""
    totals = workbench.appraise(bench.log.bowl()).totals
    mass = totals.batch_grams.value
    said = []
    for nutrient in SPOKEN_OF:
        held = totals.batch[nutrient].value * SPOONFUL_G
        meta = BY_ID[nutrient]
        before, after = (nutrient_amount(nutrient, held / m) for m in (mass, mass + more_g))
        said.append(f"{meta.said} {before} → {after} {meta.unit}")
    return f"A spoonful of {SPOONFUL_G:.0f} g then: {', '.join(said)}."


def _reading_view(kept: KeptReading, bench_id: int) -> ReadingView:
    reading = kept.reading
    if reading.how is How.SPREAD:
        text = f"{reading.value:g} cm"
    elif reading.how is How.SECONDS:
        text = f"{reading.value:g} seconds"
    else:
        text = list(WORDS)[int(reading.value)]
    minutes = round(reading.hours * 60)
    notes = [datetime.fromisoformat(kept.at).astimezone().strftime("%H:%M")]
    notes.append(f"{counted(minutes, 'minute')} after blending" if minutes else "just blended")
    notes += [f"{reading.celsius:g} °C"] if reading.celsius is not None else []
    notes += (
        [f"{reading.water_share * 100:.0f} g water to 100 g"] if reading.water_share > 0 else []
    )
    notes += ["an earlier bowl"] if kept.bench_id != bench_id else []
    return ReadingView(
        kept.id if kept.bench_id == bench_id else 0, text, " · ".join(notes), kept.struck
    )
