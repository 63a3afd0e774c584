"""What a panel's answers come to, in one sentence a cook can act on. Only what the statistics show
is said."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from fresh_ladle.core.flavor.parameters import BY_ID as AXES
from fresh_ladle.core.tasting.difference import (
    Question,
    most_allowed_for_similar,
    needed_right,
    power,
)
from fresh_ladle.core.tasting.liking import (
    CLEAR,
    WORTH_ACTING,
    LikingPair,
    LikingRound,
    Penalty,
    RankResult,
)
from fresh_ladle.core.words.sentences import listed

SIMILAR_SHARE = 0.3
"""Two versions are similar enough when fewer than this share can tell."""
FEW_RANKS = 8
"""Below so many tasters the p of ranks is a rough one (grade C)."""


def adjective(attribute: str) -> str:
    """`salty` for salt: an attribute as it is said of food."""
    words = {"salt": "salty", "body": "thick", "aroma": "aromatic"}
    return words.get(attribute, AXES[attribute].name if attribute in AXES else attribute)


def is_similar(n: int, right: int, question: Question) -> bool:
    """Whether fewer than `SIMILAR_SHARE` can be said to tell, by a panel large enough to say so. A
    question of its own: what is not found to differ is not thereby alike."""
    allowed = most_allowed_for_similar(n, SIMILAR_SHARE) if question is Question.TRIANGLE else -1
    return allowed >= n * question.guess and right <= allowed


def forced_sentence(
    question: Question, n: int, right: int, stands_for: str = "", attribute: str = ""
) -> str:
    """`stands_for` names the version that was expected to be stronger, or that more preferred."""
    needed = needed_right(n, question)
    found = needed is not None and right >= needed
    if question is Question.TRIANGLE:
        if found:
            return (
                f"They taste different: {right} of {n} picked the odd one, more than guessing"
                " brings."
            )
        if is_similar(n, right, question):
            share = f"{SIMILAR_SHARE * 100:.0f}%"
            return (
                f"Similar enough: with {right} of {n} right, fewer than {share} can tell, 19 times"
                " in 20."
            )
        return (
            f"Not shown: {right} of {n} picked the odd one, as guessing might. That does not make"
            " them the same."
        )
    if question is Question.PAIR:
        word = f"more {adjective(attribute)}" if attribute else "the stronger one"
        if found:
            return f"{stands_for} is {word}: {right} of {n} said so."
        return f"Not shown to be {word}: {right} of {n} chose {stands_for}."
    if found:
        return f"{stands_for} is preferred, by {right} of {n}."
    if 2 * right == n:
        return (
            f"No preference shown: {right} of {n} chose each. That does not make them equally"
            " liked."
        )
    return (
        f"No preference shown: {right} of {n} chose {stands_for}. That does not make them equally"
        " liked."
    )


def panel_warnings(question: Question, n: int, right: int) -> list[str]:
    """What is to be read with the answers of a panel of this size."""
    needed = needed_right(n, question)
    if needed is None:
        return ["Too few tasters: not even if all were right would it be found."]
    found = []
    if power(n, 0.5, question) < 0.5:
        found.append(
            "A small panel: a difference that half of them can tell is missed more often than"
            " found."
        )
    if right in (needed, needed - 1):
        found.append(
            "One taster decides it: one answer more or less, and it would read the other way."
        )
    return found


NEARLY = 0.95


def often(chance: float) -> str:
    """`6 times in 10`; what is all but sure or all but hopeless is not rounded to it."""
    if chance >= NEARLY:
        return "nearly always"
    if chance < 1 - NEARLY:
        return "hardly ever"
    tenths = max(1, round(chance * 10))
    return "once in 10" if tenths == 1 else f"{tenths} times in 10"


def foretold_sentence(question: Question, tasters: int, share: float) -> str:
    """What a panel of this size can show of a difference that a share of all tasters can really
    tell."""
    found = often(power(tasters, share, question))
    return f"A difference that {share * 10:.0f} in 10 of them can really tell is found {found}."


def liking_sentence(read: LikingRound, names: Mapping[str, str]) -> str:
    """Which version is liked more than which, and by how much."""
    if len(read.pairs) == 1:
        (pair,) = read.pairs
        more, less = (names[s] for s in pair.better)
        size = abs(pair.result.difference)
        if pair.found:
            return (
                f"{more} is liked {_how_much(size)}more than {less}, by {size:.1f} points of nine."
            )
        return (
            f"No difference in liking shown: {size:.1f} points apart, within the tasters' own"
            " scatter."
        )
    best = max(read.means, key=lambda s: read.means[s])
    shown = [p for p in read.pairs if p.found]
    if not shown:
        far = max(read.means.values()) - min(read.means.values())
        return (
            f"No difference in liking shown: {far:.1f} points apart at most, within the tasters'"
            " own scatter."
        )
    beaten = [p.better[1] for p in shown if p.better[0] == best]
    if len(beaten) == len(read.means) - 1:
        least = min(abs(p.result.difference) for p in shown if p.better[0] == best)
        return (
            f"{names[best]} is liked more than each of the others, by {least:.1f} points of nine or"
            " more."
        )
    return f"{'; '.join(_told(p, names) for p in shown)}. The other pairs are not shown to differ."


def _told(pair: LikingPair, names: Mapping[str, str]) -> str:
    more, less = (names[s] for s in pair.better)
    return f"{more} is liked more than {less}, by {abs(pair.result.difference):.1f} points"


def _how_much(points: float) -> str:
    return "clearly " if points >= CLEAR else "" if points >= WORTH_ACTING else "only a little "


def ranking_sentence(found: RankResult, names: Sequence[str]) -> str:
    """Which version was ranked before which, where the ranks are no chance."""
    order = sorted(range(len(names)), key=lambda place: found.sums[place])
    told = []
    for place, one in enumerate(order):
        behind = [names[other] for other in order[place + 1 :] if found.apart(one, other)]
        if behind:
            told.append(f"{names[one]} is ranked before {listed(behind)}")
    if not told:
        return (
            f"No order shown: {names[order[0]]} came first on the whole, as chance might have it."
        )
    rest = "" if _all_apart(found, order) else " The other pairs are not shown to differ."
    return f"{'; '.join(told)}.{rest}"


def _all_apart(found: RankResult, order: Sequence[int]) -> bool:
    return all(found.apart(a, b) for place, a in enumerate(order) for b in order[place + 1 :])


def ranking_warnings(found: RankResult) -> list[str]:
    if found.n < FEW_RANKS:
        return [f"{found.n} tasters: the chance given for ranks is a rough one below {FEW_RANKS}."]
    return []


def penalty_words(attribute: str, side: Penalty) -> str:
    """`salt: too much for 40% of them, who like it 2.1 points less`."""
    less = f"{side.drop:.1f} points less" if side.drop >= 0 else f"{-side.drop:.1f} points more"
    return f"{attribute}: {side.side} for {side.share * 100:.0f}% of them, who like it {less}"


def just_right_sentence(sides: Mapping[str, Sequence[Penalty]]) -> str:
    """What is worth mending by what is just about right, the costliest first."""
    act = [(attribute, s) for attribute, found in sides.items() for s in found if s.act]
    if not act:
        return (
            "Nothing is worth mending: no side is both a fifth of the panel and a point less liked."
        )
    act.sort(key=lambda one: -one[1].share * one[1].drop)
    return f"Worth mending: {'; '.join(penalty_words(attribute, side) for attribute, side in act)}."
