"""What a sheet of ballots says, as plain dictionaries: the shape the command line prints."""

from __future__ import annotations

from typing import Any

from fresh_ladle.core.errors import Refused
from fresh_ladle.core.tasting.difference import Question, difference, needed_right, power
from fresh_ladle.core.tasting.liking import (
    Penalty,
    liking,
    panel_for_liking,
    penalties,
    ranks,
    read_liking,
)
from fresh_ladle.core.tasting.verdict import (
    forced_sentence,
    foretold_sentence,
    just_right_sentence,
    liking_sentence,
    panel_warnings,
    ranking_sentence,
    ranking_warnings,
)
from fresh_ladle.core.words.sentences import listed
from fresh_ladle.formats.ballot_sheet import BallotSheet, SheetKind

QUESTIONS = {
    SheetKind.TRIANGLE: Question.TRIANGLE,
    SheetKind.TWO_ALTERNATIVE: Question.PAIR,
    SheetKind.PREFERENCE: Question.PREFERENCE,
}
"""The kinds of sheets that force a choice."""
SHARES = tuple(share / 10 for share in range(1, 11))
"""Shares of tasters who can really tell, for which it is told how often that is found."""


def panel_report(kind: SheetKind, sheet: BallotSheet) -> dict[str, Any]:
    """Statistics, one sentence, and what is to be read with it. Raises ValueError where too little
    came in."""
    n, columns = len(sheet.answers), list(zip(*sheet.answers.values(), strict=True))
    report = {"kind": str(kind), "n": n, **_STATISTICS[kind](kind, sheet, columns)}
    if sheet.left_out:
        seats = listed([f"seat {seat}" for seat in sheet.left_out[:6]])
        more = f" and {len(sheet.left_out) - 6} more" if len(sheet.left_out) > 6 else ""
        report["warnings"].append(f"Left out, since something was not answered: {seats}{more}.")
    return report


Columns = list[tuple[int, ...]]


def _forced(kind: SheetKind, sheet: BallotSheet, columns: Columns) -> dict[str, Any]:
    question, n = QUESTIONS[kind], len(sheet.answers)
    right, stands_for = sum(columns[0]), "the one that was expected"
    counts = {}
    if question is Question.PREFERENCE:
        counts = {"preferred": {"a": n - right, "b": right}}
        stands_for, right = ("a", n - right) if right <= n - right else ("b", right)
    found = difference(n, right, question)
    return {
        "correct": right,
        **counts,
        "p_value": found.p,
        "interval": [found.tell[1], found.tell[2]],
        "critical": found.needed,
        "significant": found.found,
        "sentence": forced_sentence(question, n, right, stands_for),
        "warnings": panel_warnings(question, n, right),
    }


def _liking(kind: SheetKind, sheet: BallotSheet, columns: Columns) -> dict[str, Any]:
    names = sheet.columns
    scores = {
        place: {name: {"liking": score} for name, score in zip(names, row, strict=True)}
        for place, row in enumerate(sheet.answers.values(), start=1)
    }
    read = read_liking(scores, names)
    pairs = []
    for pair in read.pairs:
        # Told as the pair is written: the first less the second.
        result = liking(
            [by[pair.second] for by in read.by_seat.values()],
            [by[pair.first] for by in read.by_seat.values()],
        )
        pairs.append(
            {
                "pair": f"{pair.first}-{pair.second}",
                "difference": result.difference,
                "interval": [result.low, result.high],
                "t_p": result.p_t,
                "wilcoxon_p": result.p_ranks,
                "decides": "wilcoxon" if result.by_ranks else "t",
                "p_corrected": pair.p,
                "significant": pair.found,
            }
        )
    n, needed = len(sheet.answers), panel_for_liking(0.5)
    return {
        "means": dict(read.means),
        "pairs": pairs,
        "sentence": liking_sentence(read, {name: name for name in names}),
        "warnings": (
            [f"{n} tasters: a difference of half a point takes about {needed}."]
            if n < needed
            else []
        ),
    }


def _just_right(kind: SheetKind, sheet: BallotSheet, columns: Columns) -> dict[str, Any]:
    liked, sides, attributes = columns[0], dict[str, list[Penalty]](), list[dict[str, Any]]()
    for name, column in zip(sheet.columns[1:], columns[1:], strict=True):
        sides[name] = penalties([answer + 3 for answer in column], liked)
        drops = {side.side: side for side in sides[name]}
        shares = {
            "too_little": sum(a < 0 for a in column) / len(column),
            "just_right": sum(a == 0 for a in column) / len(column),
            "too_much": sum(a > 0 for a in column) / len(column),
        }
        attributes.append(
            {
                "name": name,
                **shares,
                **{
                    f"drop_{key}": drops[said].drop if said in drops else None
                    for key, said in (("too_little", "too little"), ("too_much", "too much"))
                },
                "act": any(side.act for side in sides[name]),
            }
        )
    unheard = [a["name"] for a in attributes if a["just_right"] == 0]
    warnings = (
        [f"Nobody found {listed(unheard)} just right: there is nothing to compare with."]
        if unheard
        else []
    )
    if len(liked) < 20:
        warnings.append(
            f"{len(liked)} tasters: a fifth of them is {max(1, round(len(liked) / 5))}; take it as"
            " a hint."
        )
    return {"attributes": attributes, "sentence": just_right_sentence(sides), "warnings": warnings}


def _ranking(kind: SheetKind, sheet: BallotSheet, columns: Columns) -> dict[str, Any]:
    found = ranks(list(sheet.answers.values()))
    return {
        "friedman_p": found.p,
        "rank_sums": dict(zip(sheet.columns, found.sums, strict=True)),
        "least_significant_difference": found.least_difference,
        "sentence": ranking_sentence(found, sheet.columns),
        "warnings": ranking_warnings(found),
    }


_STATISTICS = {
    **dict.fromkeys(QUESTIONS, _forced),
    SheetKind.LIKING: _liking,
    SheetKind.JUST_RIGHT: _just_right,
    SheetKind.RANKING: _ranking,
}


def foretold_report(kind: SheetKind, tasters: int) -> dict[str, Any]:
    """What a panel of this size can show. Raises ValueError for a kind whose power is not worked
    out."""
    if kind is SheetKind.LIKING:
        needed = {f"{points:g}": panel_for_liking(points) for points in (0.5, 1.0, 1.5, 2.0)}
        enough = [points for points, count in needed.items() if count <= tasters]
        points = f"{enough[0]} point{'' if enough[0] == '1' else 's'} of nine" if enough else ""
        told = (
            f"can show a difference of {points}, 8 times in 10"
            if enough
            else "cannot show two points of nine"
        )
        return {
            "kind": "liking",
            "n": tasters,
            "needed": needed,
            "sentence": f"{tasters} tasters: {told}.",
        }
    if kind not in QUESTIONS:
        raise Refused(
            "what a panel can show beforehand is told for"
            f" {listed([*map(str, QUESTIONS), 'liking'])}"
        )
    question = QUESTIONS[kind]
    return {
        "kind": str(kind),
        "n": tasters,
        "critical": needed_right(tasters, question),
        "power": [
            {"can_tell": share, "found": power(tasters, share, question)} for share in SHARES
        ],
        "sentence": f"{tasters} tasters. {foretold_sentence(question, tasters, 0.5)}",
    }
