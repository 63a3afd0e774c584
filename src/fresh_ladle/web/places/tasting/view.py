"""Tastings as the screen shows them: what a panel can show, what is poured, what a closed round
says."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from markupsafe import Markup

from fresh_ladle.core.cautions.allergens import allergens, may_contain
from fresh_ladle.core.flavor.parameters import Setting
from fresh_ladle.core.nutrients.wording import counted
from fresh_ladle.core.recipes.dishes import BY_ID as KINDS
from fresh_ladle.core.recipes.dishes import SALADS
from fresh_ladle.core.tasting.difference import Question, panel_needed
from fresh_ladle.core.tasting.liking import (
    CLEAR,
    JAR_WORDS,
    LIKED,
    RANK,
    WORTH_ACTING,
    panel_for_liking,
    ranks,
    read_liking,
)
from fresh_ladle.core.tasting.round import is_right, read_round
from fresh_ladle.core.tasting.simulated import simulated_answers, simulated_scores
from fresh_ladle.core.tasting.verdict import (
    adjective,
    forced_sentence,
    foretold_sentence,
    liking_sentence,
    penalty_words,
    ranking_sentence,
    ranking_warnings,
)
from fresh_ladle.core.whole.balance import drift_between, steps_outside
from fresh_ladle.core.words.sentences import listed
from fresh_ladle.store.tastings.tastings import Tasting
from fresh_ladle.web.places.tasting.panel_picture import panel_picture, scores_picture
from fresh_ladle.web.state import Workbench

SHOWN_SHARES, SMALL_SHARE = (0.3, 0.5, 0.7), 0.3
"""Shares of tasters who can really tell, for which it is said beforehand how often that is
found."""
ATTRIBUTES = ("salt", "sour", "sweet", "rich", "savory", "bitter", "hot", "aroma", "body")


@dataclass(frozen=True, slots=True)
class PouredSeat:
    """One seat as whoever pours sees it: its cups with code and sample, and the key of its page,
    empty where somebody of the practice has taken it or no ballot is awaited any more."""

    number: int
    key: str
    cups: list[tuple[int, str]]
    done: bool
    taster: str


@dataclass(frozen=True, slots=True)
class SeatState:
    """One seat as everybody sees it: whether its ballot is in, and nothing of its cups."""

    number: int
    done: bool
    taken: bool


@dataclass(frozen=True, slots=True)
class ResultView:
    """A closed round: one sentence to act on, the figures under it, every taster."""

    sentence: str
    figures: list[tuple[str, str]]
    warnings: tuple[str, ...]
    picture: Markup


def question_words(tasting: Tasting) -> str:
    """What was asked, as a cook says it."""
    if tasting.question is Question.PAIR:
        return f"Which is more {adjective(tasting.attribute)}?"
    if tasting.question is Question.LIKING:
        return "How much is each liked?"
    if tasting.question is Question.RANKING:
        return "Which is best, which next?"
    return (
        "Which one is different?"
        if tasting.question is Question.TRIANGLE
        else "Which one is preferred?"
    )


def ballot_words(tasting: Tasting) -> str:
    """What the ballot asks of a taster."""
    if tasting.question is Question.TRIANGLE:
        return "Two of these are the same. Taste from left to right. Which one is different?"
    if tasting.question is Question.PAIR:
        return f"Taste from left to right. Which one is more {adjective(tasting.attribute)}?"
    if tasting.question is Question.LIKING:
        return "One at a time. How much do you like it?"
    if tasting.question is Question.RANKING:
        return "Taste from left to right. Put them in order: 1 for the best, none twice."
    return "Taste from left to right. Which one do you prefer?"


def foretold_words(question: Question, tasters: int) -> list[str]:
    """What a panel of this size can show, said before anyone tastes."""
    if question is Question.LIKING:
        return [
            f"To find {points:g} points of nine takes about {panel_for_liking(points)} tasters;"
            f" there are {tasters}."
            for points in (WORTH_ACTING, CLEAR)
        ]
    if question is Question.RANKING:
        return [
            "Ranks tell which comes before which, not by how much. From eight tasters on; more for"
            " a close order."
        ]
    needed = panel_needed(SMALL_SHARE, question)
    return [
        *(foretold_sentence(question, tasters, share) for share in SHOWN_SHARES),
        (
            f"To find one that {SMALL_SHARE * 10:.0f} in 10 can really tell 8 times in 10 takes"
            f" {needed} tasters."
        ),
    ]


def poured(tasting: Tasting) -> list[PouredSeat]:
    """What is in which cup: for the page of whoever pours, and for all once the round is closed."""
    return [
        PouredSeat(
            s.number,
            "" if s.done or s.taster is not None or tasting.state == "closed" else s.key,
            [(c.code, c.sample) for c in s.cups],
            s.done,
            s.taster or "",
        )
        for s in tasting.seats
    ]


def seat_states(tasting: Tasting) -> list[SeatState]:
    return [SeatState(s.number, s.done, s.taster is not None or s.agreed) for s in tasting.seats]


def compared_words(tasting: Tasting) -> str:
    """Which versions are compared: by letter once the round is closed, till then in an order that
    tells nothing."""
    if tasting.state == "closed":
        return lettered_words(tasting)
    return listed(sorted(s.name for s in tasting.samples))


def lettered_words(tasting: Tasting) -> str:
    return ", ".join(f"{s.letter} is {s.name}" for s in tasting.samples)


def result_view(tasting: Tasting) -> ResultView:
    """Reads a closed round. Raises ValueError where too little came in to be read."""
    if tasting.question is Question.LIKING:
        return _liking_view(tasting)
    if tasting.question is Question.RANKING:
        return _ranking_view(tasting)
    seats = {s.number: s.cups for s in tasting.seats}
    answers = {s.number: s.answer for s in tasting.seats if s.answer is not None}
    read = read_round(tasting.question, seats, answers, tasting.expected)
    found = read.difference
    _, low, high = found.tell
    needed = "none would be enough" if found.needed is None else str(found.needed)
    preferred = tasting.question is Question.PREFERENCE
    figures = [
        ("chose it" if preferred else "right", f"{found.right} of {found.n}"),
        ("needed", needed),
        (
            "by guessing alone",
            f"{found.n * tasting.question.guess:.1f}; so many or more {_chance(found.p)}",
        ),
        (
            "lean beyond even" if preferred else "who can really tell",
            (
                f"{found.tell[0] * 100:.0f}%, between {low * 100:.0f}% and {high * 100:.0f}% (19"
                " times in 20)"
            ),
        ),
    ]
    leans = names_of(tasting)[read.leans if preferred else tasting.expected]
    sentence = forced_sentence(tasting.question, found.n, found.right, leans, tasting.attribute)
    by_chance = found.n * tasting.question.guess
    right = list(read.right.items())
    if read.leans != tasting.expected:
        right = [(seat, not good) for seat, good in right]
    return ResultView(
        sentence, figures, read.warnings, panel_picture(right, found.needed, by_chance, sentence)
    )


def pouring_words(workbench: Workbench, tasting: Tasting) -> str:
    """How much of each sample is poured, on what, and how warm: alike for all, and as it is
    eaten."""
    kind = KINDS[tasting.samples[0].recipe.kind]
    if kind.id in SALADS:
        amount = "20 to 30 g each, all parts of it in every cup"
    elif "dip" in kind.id or kind.id == "herb-nut-paste":
        amount = "10 to 15 g each, on a plain carrier"
    else:
        amount = "5 to 8 g each, on 15 to 20 g of leaves"
    degrees = sorted(
        {s.recipe.served_celsius for s in tasting.samples if s.recipe.served_celsius is not None}
    )
    cold = " or ".join(f"{d:g} °C" for d in degrees)
    served = f"at {cold}, as the recipe says" if degrees else "all as cold as it is eaten"
    return f"{amount}, {served}, in like cups."


def finding_words(tasting: Tasting) -> str:
    """What a closed round says, in a sentence."""
    try:
        return result_view(tasting).sentence
    except ValueError:
        return "Too little came in to be read."


def served_in(tasting: Tasting) -> set[tuple[int, int]]:
    """The versions that were served, by recipe and number."""
    return {(s.recipe_id, s.number) for s in tasting.samples if s.number is not None}


def contains(workbench: Workbench, now: Tasting) -> list[str]:
    """Allergens of all samples together: what a taster agrees to before the first cup."""
    foods = [
        p.food
        for s in now.samples
        for p in workbench.appraise(s.recipe).portions
        if p.food is not None and p.line.eaten > 0
    ]
    return [*(a.name for a in allergens(foods)), *(f"perhaps {a.name}" for a in may_contain(foods))]


def names_of(tasting: Tasting) -> dict[str, str]:
    """The versions by their letters."""
    return {s.letter: s.name for s in tasting.samples}


def _chance(p: float) -> str:
    if p < 0.001:
        return "less than once in 1,000"
    return f"{p * 100:.1f} times in 100" if p < 0.1 else f"{p * 100:.0f} times in 100"


def _said_by_seat(tasting: Tasting) -> dict[int, dict[str, Mapping[str, int]]]:
    """What each seat said of each sample."""
    return {
        s.number: {c.sample: s.scores[c.code] for c in s.cups if c.code in s.scores}
        for s in tasting.seats
        if s.scores
    }


def _liking_view(tasting: Tasting) -> ResultView:
    names = names_of(tasting)
    read = read_liking(_said_by_seat(tasting), list(names), tasting.attributes)
    sentence, n = liking_sentence(read, names), len(read.by_seat)
    figures = [
        (f"{letter}, {names[letter]}", f"{mean:.1f} of 9") for letter, mean in read.means.items()
    ]
    for pair in read.pairs:
        found = pair.result
        test = "signed ranks" if found.by_ranks else "paired t"
        several = ", corrected for several pairs" if len(read.pairs) > 1 else ""
        figures.append(
            (
                f"{pair.second} against {pair.first}",
                (
                    f"{_signed(found.difference)}, between {_signed(found.low)} and"
                    f" {_signed(found.high)} (19 times in 20); by chance alone {_chance(pair.p)}"
                    f" ({test}, {n} tasters{several})"
                ),
            )
        )
    for (letter, attribute), sides in read.penalties.items():
        figures += [
            (
                f"{letter}, just right?",
                penalty_words(attribute, side) + (": worth mending" if side.act else ""),
            )
            for side in sides
        ]
    needed = panel_for_liking(WORTH_ACTING)
    warnings = (
        [f"{n} tasters: a difference of half a point takes about {needed}."] if n < needed else []
    )
    warnings += _missing(tasting, n)
    return ResultView(sentence, figures, tuple(warnings), scores_picture(read.by_seat, 9, sentence))


def _ranking_view(tasting: Tasting) -> ResultView:
    names = names_of(tasting)
    by_seat = {
        seat: {letter: float(said[letter][RANK]) for letter in names}
        for seat, said in _said_by_seat(tasting).items()
        if names.keys() <= said.keys()
    }
    found = ranks([[int(row[letter]) for letter in names] for row in by_seat.values()])
    sentence = ranking_sentence(found, list(names.values()))
    figures = [
        *((f"{letter}, {names[letter]}", f"ranks add up to {total:.0f}")
          for letter, total in zip(names, found.sums, strict=True)),
        ("told apart from", f"{found.least_difference:.1f} on, where the order as a whole is no chance"),
        ("by chance alone", f"{_chance(found.p)} (Friedman, {found.n} tasters)"),
    ]  # fmt: skip
    warnings = (*ranking_warnings(found), *_missing(tasting, found.n))
    return ResultView(sentence, figures, warnings, scores_picture(by_seat, len(names), sentence))


def _missing(tasting: Tasting, whole: int) -> list[str]:
    if (missing := len(tasting.seats) - whole) <= 0:
        return []
    return [
        f"{missing} did not answer for every cup: they are left out, and the orders are not"
        " balanced."
    ]


def _signed(points: float) -> str:
    return f"{points:+.1f}".replace("-", "−")


def standing_words(tasting: Tasting) -> str:
    """Where a round stands, for a list."""
    ballots = f"{counted(tasting.ballots, 'ballot')} of {len(tasting.seats)}"
    return {"planned": "planned", "open": f"open, {ballots} in", "closed": f"closed, {ballots}"}[
        tasting.state
    ]


def columns_of(tasting: Tasting) -> tuple[str, ...]:
    """What stands beside seat and cup on a sheet of printed ballots."""
    if tasting.question is Question.RANKING:
        return (RANK,)
    return () if tasting.question.forced else (LIKED, *tasting.attributes)


def answer_rows(tasting: Tasting, cup: str = "") -> tuple[list[str], list[list[object]]]:
    """The ballots of a closed round as rows under their names, as the command line reads them; with
    `cup` the liking of one sample beside what was just about right in it."""
    if tasting.question.forced:
        preference = tasting.question is Question.PREFERENCE
        answered = [s for s in tasting.seats if s.answer is not None]
        marked = [
            (
                s.number,
                is_right(
                    tasting.question, s.cups, s.answer or 0, "B" if preference else tasting.expected
                ),
            )
            for s in answered
        ]
        if preference:
            return ["seat", "preferred"], [[seat, "b" if is_b else "a"] for seat, is_b in marked]
        return ["seat", "correct"], [[seat, int(right)] for seat, right in marked]
    said, letters = _said_by_seat(tasting), list(names_of(tasting))
    if cup in letters and tasting.attributes:
        middle = (1 + len(JAR_WORDS)) // 2
        return ["seat", LIKED, *tasting.attributes], [
            [seat, by[cup][LIKED], *(by[cup][a] - middle for a in tasting.attributes)]
            for seat, by in said.items()
            if cup in by
        ]
    what = RANK if tasting.question is Question.RANKING else LIKED
    rows: list[list[object]] = [
        [seat, *(by[x][what] if x in by else "" for x in letters)] for seat, by in said.items()
    ]
    return ["seat", *map(str.lower, letters)], rows


def simulated_panel(
    workbench: Workbench, tasting: Tasting, seed: int
) -> tuple[dict[int, int], dict[int, dict[int, dict[str, int]]]]:
    """Answers of a made-up panel, from the flavor model: how far apart it holds the samples, or how
    far each leaves the windows of its kind of dish."""
    seats = {s.number: s.cups for s in tasting.seats}
    worked = {s.letter: workbench.appraise(s.recipe) for s in tasting.samples}
    if tasting.question.forced:
        drift = drift_between(worked["B"], worked["A"], Setting.SIDE_BY_SIDE)
        steps = drift.steps[tasting.attribute] if tasting.question is Question.PAIR else drift.total
        return simulated_answers(tasting.question, seats, steps, seed), {}
    outside = {letter: steps_outside(one, workbench.knowledge) for letter, one in worked.items()}
    return {}, simulated_scores(seats, tasting.question, outside, tasting.attributes, seed)
