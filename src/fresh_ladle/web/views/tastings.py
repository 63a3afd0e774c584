"""Tastings as the screen shows them: what a panel can show, what is poured, what a closed round says."""

from __future__ import annotations

from dataclasses import dataclass

from markupsafe import Markup

from fresh_ladle.core.flavor.parameters import BY_ID as AXES
from fresh_ladle.core.tasting.difference import ALPHA, Question
from fresh_ladle.core.tasting.liking import CLEAR, WORTH_ACTING, Penalty, panel_for_liking, read_liking
from fresh_ladle.core.tasting.round import SIMILAR_SHARE, foretold, read_round
from fresh_ladle.store.tastings import Tasting
from fresh_ladle.web.svg.panel import liking_picture, panel_picture
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
    if tasting.question is Question.LIKING:
        return "How much is each liked?"
    return "Which one is different?" if tasting.question is Question.TRIANGLE else "Which one is preferred?"


def ballot_words(tasting: Tasting) -> str:
    """What the ballot asks of a taster."""
    if tasting.question is Question.TRIANGLE:
        return "Two of these are the same. Taste from left to right. Which one is different?"
    if tasting.question is Question.PAIR:
        return f"Taste from left to right. Which one is more {_adjective(tasting.attribute)}?"
    if tasting.question is Question.LIKING:
        return "One at a time. How much do you like it?"
    return "Taste from left to right. Which one do you prefer?"


def _adjective(attribute: str) -> str:
    words = {"salt": "salty", "body": "thick", "aroma": "aromatic"}
    return words.get(attribute, AXES[attribute].name if attribute in AXES else attribute)


def foretold_words(question: Question, tasters: int) -> list[str]:
    """What a panel of this size can show, said before anyone tastes."""
    if question is Question.LIKING:
        return [
            f"To find {points:g} points of nine takes about {panel_for_liking(points)} tasters; there are {tasters}."
            for points in (WORTH_ACTING, CLEAR)
        ]
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
    return [PouredSeat(s.number, s.key, [(c.code, c.sample) for c in s.cups], s.done) for s in tasting.seats]


def result_view(tasting: Tasting) -> ResultView:
    """Reads a closed round. Raises ValueError where too little came in to be read."""
    if tasting.question is Question.LIKING:
        return _liking_view(tasting)
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


def _liking_view(tasting: Tasting) -> ResultView:
    by_seat = {
        s.number: {c.sample: s.scores[c.code] for c in s.cups if c.code in s.scores} for s in tasting.seats if s.scores
    }
    read = read_liking(by_seat, tasting.attributes)
    found, names = read.liking, {s.letter: s.name for s in tasting.samples}
    more, less = ("B", "A") if found.difference >= 0 else ("A", "B")
    size = abs(found.difference)
    if found.p <= ALPHA:
        clear = "clearly " if size >= CLEAR else "" if size >= WORTH_ACTING else "only a little "
        sentence = f"{names[more]} is liked {clear}more than {names[less]}, by {size:.1f} points of nine."
    else:
        sentence = f"No difference in liking shown: {size:.1f} points apart, within the tasters' own scatter."
    test = "signed ranks" if found.by_ranks else "paired t"
    figures = [
        *((names[letter], f"{mean:.1f} of 9") for letter, mean in zip("AB", found.means, strict=True)),
        (
            "B against A",
            f"{_signed(found.difference)}, between {_signed(found.low)} and {_signed(found.high)} (19 times in 20)",
        ),
        ("by chance alone", f"so much or more {_chance(found.p)} ({test}, {found.n} tasters)"),
    ]
    for (letter, attribute), sides in read.penalties.items():
        figures += [(f"{names[letter]}: {attribute} {side.side}", _penalty_words(side)) for side in sides]
    needed = panel_for_liking(WORTH_ACTING)
    warnings = [f"{found.n} tasters: a difference of half a point takes about {needed}."] if found.n < needed else []
    if (missing := len(tasting.seats) - found.n) > 0:
        warnings.append(f"{missing} did not score both: they are left out, and the orders are not balanced.")
    return ResultView(sentence, figures, tuple(warnings), liking_picture(list(read.pairs.items()), sentence))


def _signed(points: float) -> str:
    return f"{points:+.1f}".replace("-", "−")


def _penalty_words(side: Penalty) -> str:
    mend = ": worth mending" if side.act else ""
    return f"{side.share * 100:.0f}% of them, {side.drop:.1f} points less{mend}"


def standing_words(tasting: Tasting) -> str:
    """Where a round stands, for a list."""
    ballots = f"{counted(tasting.ballots, 'ballot')} of {len(tasting.seats)}"
    return {"planned": "planned", "open": f"open, {ballots} in", "closed": f"closed, {ballots}"}[tasting.state]
