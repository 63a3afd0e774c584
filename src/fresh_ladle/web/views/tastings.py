"""Tastings as the screen shows them: what a panel can show, what is poured, what a closed round says."""

from __future__ import annotations

from dataclasses import dataclass

from markupsafe import Markup

from fresh_ladle.core.flavor.parameters import BY_ID as AXES
from fresh_ladle.core.tasting.difference import Question
from fresh_ladle.core.tasting.round import SIMILAR_SHARE, foretold, read_round
from fresh_ladle.store.tastings import Tasting
from fresh_ladle.web.svg.panel import panel_picture
from fresh_ladle.web.wording import counted

NEARLY = 0.95
ATTRIBUTES = ("salt", "sour", "sweet", "rich", "savory", "bitter", "hot", "aroma", "body")


@dataclass(frozen=True, slots=True)
class PouredSeat:
    """One seat: its page, its cups with code and sample, and whether its ballot is in."""

    number: int
    key: str
    cups: list[tuple[int, str]]
    done: bool


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
        return f"Which is more {_adjective(tasting.attribute)}?"
    return "Which one is different?" if tasting.question is Question.TRIANGLE else "Which one is preferred?"


def ballot_words(tasting: Tasting) -> str:
    """What the ballot asks of a taster."""
    if tasting.question is Question.TRIANGLE:
        return "Two of these are the same. Taste from left to right. Which one is different?"
    if tasting.question is Question.PAIR:
        return f"Taste from left to right. Which one is more {_adjective(tasting.attribute)}?"
    return "Taste from left to right. Which one do you prefer?"


def _adjective(attribute: str) -> str:
    words = {"salt": "salty", "body": "thick", "aroma": "aromatic"}
    return words.get(attribute, AXES[attribute].name if attribute in AXES else attribute)


def foretold_words(question: Question, tasters: int) -> list[str]:
    """What a panel of this size can show, said before anyone tastes."""
    return [
        f"A difference that {share * 10:.0f} in 10 of them can really tell is found {_often(chance)}."
        for share, chance in foretold(question, tasters)
    ]


def _often(chance: float) -> str:
    """`6 times in 10`; what is all but sure or all but hopeless is not rounded to it."""
    if chance >= NEARLY:
        return "nearly always"
    return f"{round(chance * 10)} times in 10" if chance >= 1 - NEARLY else "hardly ever"


def poured(tasting: Tasting) -> list[PouredSeat]:
    return [
        PouredSeat(s.number, s.key, [(c.code, c.sample) for c in s.cups], s.answer is not None) for s in tasting.seats
    ]


def result_view(tasting: Tasting) -> ResultView:
    """Reads a closed round. Raises ValueError without answers."""
    seats = {s.number: s.cups for s in tasting.seats}
    answers = {s.number: s.answer for s in tasting.seats if s.answer is not None}
    read = read_round(tasting.question, seats, answers, tasting.expected)
    found = read.difference
    names = {s.letter: s.name for s in tasting.samples}
    low, high = found.tell[1], found.tell[2]
    needed = "none would be enough" if found.needed is None else str(found.needed)
    figures = [
        ("right", f"{found.right} of {found.n}") if tasting.question is not Question.PREFERENCE else
        ("chose it", f"{found.right} of {found.n}"),
        ("needed", needed),
        ("by guessing alone", f"{found.n * tasting.question.guess:.1f}; so many or more {_chance(found.p)}"),
        (
            "who can really tell" if tasting.question is not Question.PREFERENCE else "lean beyond even",
            f"{found.tell[0] * 100:.0f}%, between {low * 100:.0f}% and {high * 100:.0f}% (9 times in 10)",
        ),
    ]  # fmt: skip
    sentence = _sentence(tasting, found.found, found.right, found.n, read.leans, read.similar, names)
    by_chance = found.n * tasting.question.guess
    right = list(read.right.items())
    if read.leans != tasting.expected:
        right = [(seat, not good) for seat, good in right]
    return ResultView(sentence, figures, read.warnings, panel_picture(right, found.needed, by_chance, sentence))


def _chance(p: float) -> str:
    if p < 0.001:
        return "less than once in 1,000"
    return f"{p * 100:.1f} times in 100" if p < 0.1 else f"{p * 100:.0f} times in 100"


def _sentence(
    tasting: Tasting, found: bool, right: int, n: int, leans: str, similar: bool, names: dict[str, str]
) -> str:
    if tasting.question is Question.TRIANGLE:
        if found:
            return f"They taste different: {right} of {n} picked the odd one, more than guessing brings."
        if similar:
            share = f"{SIMILAR_SHARE * 100:.0f}%"
            return f"Similar enough: with {right} of {n} right, fewer than {share} can tell, 19 times in 20."
        return f"Not shown: {right} of {n} picked the odd one, as guessing might. That does not make them the same."
    if tasting.question is Question.PAIR:
        word = _adjective(tasting.attribute)
        if found:
            return f"{names[tasting.expected]} is more {word}: {right} of {n} said so."
        return f"Not shown to be more {word}: {right} of {n} chose {names[tasting.expected]}."
    if found:
        return f"{names[leans]} is preferred, by {right} of {n}."
    return f"No preference shown: {right} of {n} chose {names[leans]}. That does not make them equally liked."


def standing_words(tasting: Tasting) -> str:
    """Where a round stands, for a list."""
    ballots = f"{counted(tasting.ballots, 'ballot')} of {len(tasting.seats)}"
    return {"planned": "planned", "open": f"open, {ballots} in", "closed": f"closed, {ballots}"}[tasting.state]
