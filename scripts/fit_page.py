"""Fits the weights by which lines of a page are told apart, and writes them: `python
scripts/fit_page.py`.

From the marked pages of tests/pages/fitted, as they are and as others would write them, and the
demo recipes: the weights under which all of these pages are likeliest to be what they are (a
linear-chain conditional random field, Lafferty 2001), held small by a square penalty. Margins of
the reader are therefore natural logarithms of odds."""

from __future__ import annotations

import random
import re
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from textwrap import wrap

import numpy as np
import scipy.optimize
import scipy.sparse
from page_marks import PAGES, marked_pages
from scipy.special import logsumexp

from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.amounts.yields import read_yield
from fresh_ladle.core.page.evidence import evidence, page_lines, possible_kinds
from fresh_ladle.core.page.kinds import LineKind
from fresh_ladle.core.page.sequence import IMPOSSIBLE, follows
from fresh_ladle.core.page.vocabulary import METHOD_WORD, NUMBER, UNIT
from fresh_ladle.data.demo_recipes import demo_recipes
from fresh_ladle.data.load import load_reader

TARGET = Path(__file__).parent.parent / "src/fresh_ladle/core/page/weights.py"
SEED, ROUNDS, PENALTY, LEAST = 3, 120, 0.5, 0.02
KINDS = tuple(LineKind)
MADE = 200


@dataclass(frozen=True, slots=True)
class Example:
    """A page as the reader sees it, and what its lines are."""

    signs: list[frozenset[str]]
    blanks: list[bool]
    possible: list[frozenset[LineKind]]
    kinds: list[LineKind]


def example(text: str, kinds: Sequence[str], reader: Reader) -> Example:
    lines = page_lines(text)
    if len(lines) != len(kinds):
        raise ValueError(f"{len(kinds)} marks for {len(lines)} lines of {text[:40]!r}")
    return Example(
        evidence(lines, reader.knows),
        [line.blank_before for line in lines],
        possible_kinds(lines),
        [LineKind(kind) for kind in kinds],
    )


def as_we_write_them(text: str) -> list[str]:
    """The kinds of the lines of a recipe in the form the workbench writes: its title, lines under
    headings, steps."""
    kinds, in_method = ["title"], False
    for line in text.strip().splitlines()[1:]:
        if not line.strip():
            continue
        if METHOD_WORD.match(line.strip()):
            in_method, kind = True, "method"
        elif line.startswith("##"):
            kind = "heading"
        elif read_yield(line) is not None:
            kind = "yield"
        else:
            kind = "step" if in_method else "item"
        kinds.append(kind)
    return kinds


def examples(reader: Reader) -> list[Example]:
    marked = [
        example(page.text, [kind for kind, _ in page.lines if kind], reader)
        for page in marked_pages("fitted")
    ]
    own = [example(text.strip(), as_we_write_them(text), reader) for text, _ in demo_recipes()]
    made = [*short_pages(), *other_writings()]
    return marked + own + [of_rows(page, reader) for page in made]


def of_rows(page: Sequence[tuple[str, str]], reader: Reader) -> Example:
    """A page from rows of a kind and a text; a blank one has neither."""
    return example(
        "\n".join(text for _, text in page), [kind for kind, text in page if text], reader
    )


Row = tuple[str, str]
PLAIN_ITEMS = ("salt", "pepper", "black pepper", "sea salt", "sea salt and pepper",
    "salt to taste", "parsley",
               "lemon wedges", "olive oil", "a few mint leaves", "chilli flakes",
               "water as needed")  # fmt: skip
AROUND = ("Jump to recipe", "Print", "Save", "Rate this recipe", "Share this", "Leave a comment",
    "Subscribe",
          "Advertisement", "Home > Salads", "4.8 from 112 votes",
          "Follow along for more")  # fmt: skip


def other_writings() -> list[list[Row]]:
    """The marked pages as other people would write them: other marks of lists, headings and steps,
    words of pages and blank lines left out or put in, a bare food at the end of a list, words of a
    site around."""
    chance = random.Random(SEED)
    return [
        rewritten(list(page.lines), chance)
        for page in marked_pages("fitted")
        for _ in range(VARIANTS)
    ]


def rewritten(rows: list[Row], chance: random.Random) -> list[Row]:
    """One page, written another way."""
    ways = {name: chance.random() < share for name, share in WAYS.items()}
    bullet = chance.choice(("- ", "* ", "• ", "▢ "))
    found: list[Row] = []
    step = 0
    for place, (kind, text) in enumerate(rows):
        after = rows[place + 1][0] if place + 1 < len(rows) else ""
        if (not text and ways["no blanks"]) or (kind in ("list", "method") and ways["no words"]):
            continue
        step = step + 1 if kind == "step" else step
        found += told(kind, text, step, bullet, ways, chance)
        if kind == "item" and after not in ("item", "more") and ways["bare food"]:
            found.append(("item", (bullet if ways["bullets"] else "") + chance.choice(PLAIN_ITEMS)))
        if kind in ("heading", "list", "yield", "title") and ways["blanks"]:
            found.append(("", ""))
    if ways["around"]:
        found = [("around", word) for word in chance.sample(AROUND, 3)] + found
        found += [("around", word) for word in chance.sample(AROUND, 2)]
    return found


VARIANTS = 6
WAYS = {"no blanks": 0.3, "blanks": 0.3, "no words": 0.4, "bullets": 0.35, "no bullets": 0.5,
    "bare food": 0.4,
        "capitals": 0.25, "colon": 0.3, "no colon": 0.3, "for the": 0.15, "numbers": 0.3,
        "no numbers": 0.4,
        "no stops": 0.15, "amounts last": 0.15, "small": 0.15, "around": 0.3}  # fmt: skip
"""How often each way of writing is taken."""
LISTED = re.compile(r"^\s*(?:[-–*•▢▪◦+]|\[ ?\])\s+")
AMOUNT_FIRST = re.compile(
    rf"^(?P<amount>{NUMBER}(?:\s?[-–]\s?{NUMBER})?(?:\s?{UNIT})?)\s+(?:of"
    r" )?(?P<food>[^,(]+)(?P<after>.*)$",
    re.I,
)
NUMBERED = re.compile(r"^\s*(?:\d{1,2}[.)]\s+|step \d+[.:]?\s*)", re.I)


def told(
    kind: str, text: str, step: int, bullet: str, ways: dict[str, bool], chance: random.Random
) -> list[Row]:
    """One row, written another way."""
    if kind == "item":
        text = LISTED.sub("", text) if ways["bullets"] or ways["no bullets"] else text
        text = text.lower() if ways["small"] else text
        if ways["amounts last"] and (match := AMOUNT_FIRST.match(LISTED.sub("", text))):
            between = chance.choice((" ", " ", " - ", ": "))
            text = f"{match['food'].strip()}{between}{match['amount']}{match['after']}"
        text = bullet + text if ways["bullets"] else text
    elif kind == "heading" and not text.startswith("#"):
        text = text.strip().rstrip(":") if ways["no colon"] else text
        text = (
            f"For the {text.strip(' *').lower()}"
            if ways["for the"] and len(text.split()) < 3
            else text
        )
        text = text.upper() if ways["capitals"] else text
        text = f"{text.rstrip(':')}:" if ways["colon"] else text
    elif kind == "step":
        text = NUMBERED.sub("", text) if ways["numbers"] or ways["no numbers"] else text
        text = text.rstrip(".") if ways["no stops"] else text
        text = text.lower() if ways["small"] and ways["no stops"] else text
        text = f"{step}{chance.choice(('. ', ') '))}{text}" if ways["numbers"] else text
    return [(kind, text)]


def short_pages() -> list[list[tuple[str, str]]]:
    """Recipes as they are jotted down: a title and a few of the lines that cooks have written,
    steps below some."""
    chance, lines = random.Random(SEED), []
    for file in sorted((PAGES.parent / "lines").glob("*.tsv")):
        rows = [row.split("\t")[0] for row in file.read_text(encoding="utf-8").splitlines()]
        lines += [row for row in rows if row and not row.startswith("#")]
    every = [row for page in marked_pages("fitted") for row in page.lines]
    titles = [row for row in every if row[0] == "title"]
    steps = [
        row
        for row in every
        if row[0] == "step" and row[1].endswith(".") and len(row[1].split()) > 3
    ]
    found = []
    for number in range(MADE):
        page = [
            (
                "title",
                chance.choice(
                    [*(text for _, text in titles), "Dish", "Test", "Dip", "Salad", "Odd"]
                ),
            )
        ]
        page += (
            [("yield", chance.choice(["Serves 4", "Serves 8", "Makes 2 cups"]))]
            if number % 3 == 0
            else []
        )
        page += [("item", chance.choice(lines)) for _ in range(chance.randint(1, 9))]
        if number % 4 == 1:
            page += [("method", "Method"), *chance.sample(steps, chance.randint(1, 4))]
        if number % 4 == 3:
            page += chance.sample(steps, chance.randint(1, 3))
        found.append(page)
    return found


@dataclass(frozen=True, slots=True)
class Stack:
    """All pages side by side, a row of lines each, filled up to the longest. `shown` holds the
    signs of the lines that are there, `mask` which those are, `gold` their kinds; `blank` where a
    blank line stands before one."""

    signs: list[str]
    shown: scipy.sparse.csr_matrix
    mask: np.ndarray
    impossible: np.ndarray
    blank: np.ndarray
    gold: np.ndarray


def stacked(pages: Sequence[Example]) -> Stack:
    signs = sorted({sign for page in pages for line in page.signs for sign in line})
    number = {sign: n for n, sign in enumerate(signs)}
    shape = (len(pages), max(len(page.kinds) for page in pages))
    mask, blank, gold = np.zeros(shape, bool), np.zeros(shape, bool), np.zeros(shape, int)
    impossible = np.zeros((*shape, len(KINDS)), bool)
    columns, ends = list[int](), [0]
    for p, page in enumerate(pages):
        for n, kind in enumerate(page.kinds):
            mask[p, n], blank[p, n], gold[p, n] = True, page.blanks[n], KINDS.index(kind)
            impossible[p, n] = [k not in page.possible[n] and k is not kind for k in KINDS]
            columns += [number[sign] for sign in page.signs[n]]
            ends.append(len(columns))
    shown = scipy.sparse.csr_matrix(
        (np.ones(len(columns)), columns, ends), (len(ends) - 1, len(signs))
    )
    return Stack(signs, shown, mask, impossible, blank, gold)


def loss(flat: np.ndarray, of: Stack) -> tuple[float, np.ndarray]:
    """How unlikely the pages are under weights, with the penalty, and how that changes with each
    weight."""
    kinds, signs = len(KINDS), len(of.signs)
    own, steps = (
        flat[: signs * kinds].reshape(signs, kinds),
        flat[signs * kinds :].reshape(2, kinds, kinds),
    )
    alone = np.zeros((*of.mask.shape, kinds))
    alone[of.mask] = of.shown @ own
    alone[of.impossible] = IMPOSSIBLE
    step = steps[0] + of.blank[:, :, None, None] * steps[1]
    longest = of.mask.shape[1]
    forth, back = alone.copy(), np.zeros_like(alone)
    for n in range(1, longest):
        came = logsumexp(forth[:, n - 1, :, None] + step[:, n], axis=1) + alone[:, n]
        forth[:, n] = np.where(of.mask[:, n, None], came, forth[:, n - 1])
    for n in range(longest - 2, -1, -1):
        goes = logsumexp(step[:, n + 1] + (alone[:, n + 1] + back[:, n + 1])[:, None, :], axis=2)
        back[:, n] = np.where(of.mask[:, n + 1, None], goes, 0.0)
    whole = logsumexp(forth[:, -1], axis=1)
    likely = np.exp(forth + back - whole[:, None, None]) * of.mask[:, :, None]
    said = np.eye(kinds)[of.gold] * of.mask[:, :, None]
    follows = of.mask[:, 1:]
    pairs = (
        np.exp(
            forth[:, :-1, :, None]
            + step[:, 1:]
            + (alone[:, 1:] + back[:, 1:])[:, :, None, :]
            - whole[:, None, None, None]
        )
        * follows[:, :, None, None]
    )
    pairs -= said[:, :-1, :, None] * said[:, 1:, None, :]
    told = (alone * said).sum() + (step[:, 1:] * said[:, :-1, :, None] * said[:, 1:, None, :]).sum()
    slope = np.concatenate(
        [
            (of.shown.T @ (likely - said)[of.mask]).ravel(),
            pairs.sum(axis=(0, 1)).ravel(),
            (pairs * of.blank[:, 1:, None, None]).sum(axis=(0, 1)).ravel(),
        ]
    )
    return float(whole.sum() - told + PENALTY / 2 * flat @ flat), slope + PENALTY * flat


def fitted(pages: Sequence[Example]) -> dict[str, dict[str, float]]:
    """The weights of every sign, and of what follows what, for each kind."""
    of = stacked(pages)
    kinds, signs = len(KINDS), len(of.signs)
    start = np.zeros(signs * kinds + 2 * kinds * kinds)
    best = scipy.optimize.minimize(
        loss, start, (of,), "L-BFGS-B", jac=True, options={"maxiter": ROUNDS}
    ).x
    own, steps = (
        best[: signs * kinds].reshape(signs, kinds),
        best[signs * kinds :].reshape(2, kinds, kinds),
    )
    rows = dict(zip(of.signs, own, strict=True))
    for n, kind in enumerate(KINDS):
        plain, with_blank = follows(kind, True)
        rows |= {plain: steps[0, n], with_blank: steps[1, n]}
    return {
        name: {kind: float(value) for kind, value in zip(KINDS, row, strict=True)}
        for name, row in rows.items()
    }


def written(weights: dict[str, dict[str, float]]) -> str:
    """The table as a module: a row for each sign, each kind with its weight, in lines that a page
    holds."""
    rows = []
    for sign in sorted(weights):
        kept = [
            f"{kind} {value:.2f}"
            for kind, value in sorted(weights[sign].items())
            if abs(value) >= LEAST
        ]
        if kept:
            rows += wrap(
                f"{sign}: {', '.join(kept)}", 100, subsequent_indent="    ", break_on_hyphens=False
            )
    head = (
        '"""What each sign of a line speaks for. Written by scripts/fit_page.py: fit anew, never'
        ' edit."""'
    )
    return (
        f'{head}\n\nfrom __future__ import annotations\n\nTABLE = """\\\n'
        + "\n".join(rows)
        + '\n"""\n'
    )


def main() -> None:
    pages = examples(load_reader())
    TARGET.write_text(written(fitted(pages)), encoding="utf-8")


if __name__ == "__main__":
    main()
