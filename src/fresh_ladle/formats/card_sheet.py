"""Cards on paper: letter, A4, half a page, an index card, large print; alone, two to a page, many
as a booklet; PDF or PNG. Letters shrink until all of a card stands on its one page. Same card, same
bytes."""

from __future__ import annotations

import json
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from importlib.resources import as_file, files
from typing import Any, Literal

import typst

from fresh_ladle.core.recipes.recipe import RecipeError


@dataclass(frozen=True, slots=True)
class CardForm:
    """A form of card: its page in mm, the largest and smallest letters in pt that are tried, and
    what it leaves out."""

    id: str
    name: str
    width: float
    height: float
    largest: float
    smallest: float
    margin: float
    bare: bool = False
    """Without picture, variations and facts."""
    stacked: bool = False
    """In one column."""


FORMS = (
    CardForm("letter", "Letter", 215.9, 279.4, 13, 6.5, 13),
    CardForm("a4", "A4", 210, 297, 13, 6.5, 13),
    CardForm("half", "Half a page", 139.7, 215.9, 10, 5.5, 8),
    CardForm("index", "Index card", 203.2, 127, 9, 5.25, 6, bare=True),
    CardForm("large", "Large print", 215.9, 279.4, 20, 12.5, 12, bare=True, stacked=True),
)
BY_ID = {form.id: form for form in FORMS}
PNG_PPI = 144
MOST_CARDS = 400

_SOURCE = """
#let sheet = json(bytes(sys.inputs.sheet))
#let f = sheet.form
#let ink = rgb("#15223f")
#let soft = rgb("#4a5876")
#let rim = rgb("#1f3d7a")
#let hair = rgb("#c9d3dd")
#let head(size, it) = text(font: "Bricolage Grotesque", weight: 700, size: size, it)
#set document(date: none, title: sheet.title)
#set page(width: sheet.width * 1mm, height: sheet.height * 1mm, margin: 0mm)
#set text(font: "Atkinson Hyperlegible Next", fill: ink, lang: "en", hyphenate: false)

#let heading-of(words) = block(below: 0.5em, above: 0.9em)[
  #head(1.15em, text(fill: rim, words))
]

#let amounts(c) = [
  #heading-of[What goes in]
  #for part in c.parts [
    #if part.name != "" [#block(above: 0.7em, below: 0.45em)[#strong(part.name)]]
    #table(
      columns: (auto, auto, 1fr, auto), stroke: (x, y) => (bottom: 0.4pt + hair), inset: (x: 0.25em, y: 0.32em),
      align: (left, left, left, right),
      ..part.lines.map(l => (
        box(baseline: -0.05em, circle(radius: 0.3em, fill: rgb(l.at(3)), stroke: 0.5pt + soft)),
        strong(l.at(0)), [#l.at(1)], text(fill: soft, l.at(2)),
      )).flatten()
    )
  ]
  #if c.kept_back != "" [#block(above: 0.6em)[#c.kept_back]]
]

#let method(c) = if c.steps.len() > 0 [
  #heading-of[How it is made]
  #for (number, step) in c.steps.enumerate() [
    #block(above: 0.55em, below: 0em, grid(
      columns: (1.7em, 1fr),
      head(1.15em, text(fill: rim, str(number + 1))),
      [#step.at(0) #if step.at(1) != "" [#text(fill: soft)[(#step.at(1))]]],
    ))
  ]
]

#let ruled = (top: 1.6pt + rim, bottom: 1.6pt + rim)
#let figures(c) = [
  #block(above: 1em, below: 0.5em, stroke: ruled, inset: (y: 0.6em), width: 100%, grid(
    columns: c.figures.map(_ => 1fr), column-gutter: 0.4em,
    ..c.figures.map(x => align(center)[
      #if x.at(5) != "" [#text(size: 0.82em, x.at(5)) \\ ]
      #head(2em, x.at(1)) #if x.at(0) != "Calories" [#text(size: 0.9em, x.at(2))] \\
      #strong(x.at(0)) \\
      #text(size: 0.82em, fill: soft)[#(x.at(3), x.at(4)).filter(w => w != "").join(linebreak())]
    ])
  ))
  #if c.against != "" [#block(below: 0.4em)[#strong(c.against)]]
  #text(size: 0.88em, fill: soft)[A serving is #c.serving. #c.small #c.per_100_g]
  #if c.missing.len() > 0 [ #strong[Not counted: #c.missing.join("; ").]]
]

#let rest(c) = [
  #block(above: 0.8em, below: 0.5em)[#strong(c.contains)]
  #if c.cautions.len() > 0 [
    #for x in c.cautions [
      #block(above: 0.7em, below: 0.7em, inset: (left: 0.7em, y: 0.1em), stroke: (left: 2pt + ink))[#x]
    ]
  ]
  #if c.more [#text(size: 0.85em, fill: soft)[There is more to know about this dish: ask whoever made it.]]
  #if not f.bare and c.variations.len() > 0 [
    #heading-of[In place of]
    #for x in c.variations [#block(above: 0.4em, below: 0.2em)[#x]]
  ]
  #if not f.bare and c.facts.len() > 0 [
    #heading-of[Worth knowing]
    #for x in c.facts [#block(above: 0.4em, below: 0.2em)[#x]]
  ]
  #block(above: 0.7em)[#c.keeps #c.serve #if c.cost != "" [A serving costs #c.cost.]]
  #if c.note != "" [#block(above: 0.5em)[#emph(c.note)]]
  #block(above: 0.7em)[#text(size: 0.74em, fill: soft)[#c.foot]]
]

#let title(c) = {
  let words = [
    #if c.practice != "" [#text(size: 0.9em, fill: soft, c.practice) \\ ]
    #head(2.5em, c.title) \\
    #v(0.1em)
    #text(fill: soft)[#c.under]
  ]
  if f.bare { words } else {
    grid(columns: (1fr, 11.5em), column-gutter: 1em, align: (left + horizon, right + horizon),
      words, image(bytes(c.picture), format: "svg", width: 11.5em, alt: c.title))
  }
}

#let body(c, size) = {
  set text(size: size)
  set par(leading: 0.52em, spacing: 0.6em)
  title(c)
  if f.stacked {
    figures(c)
    amounts(c)
    method(c)
    rest(c)
  } else if f.bare {
    grid(columns: (0.9fr, 1.1fr), column-gutter: 1.4em, amounts(c), [#method(c)])
    figures(c)
    rest(c)
  } else {
    grid(columns: (0.92fr, 1.08fr), column-gutter: 1.8em, amounts(c), method(c))
    figures(c)
    rest(c)
  }
}

#let card(c) = context {
  let width = (f.width - 2 * f.margin) * 1mm
  let height = (f.height - 2 * f.margin) * 1mm
  let size = f.largest * 1pt
  while measure(block(width: width, body(c, size))).height > height {
    size -= 0.25pt
    if size < f.smallest * 1pt { panic("card too full") }
  }
  // An enamel tray: a deep rim with the counter's white within.
  box(width: f.width * 1mm, height: f.height * 1mm, inset: (f.margin / 2.6) * 1mm,
    box(width: 100%, height: 100%, radius: 5mm, stroke: 2pt + rim, inset: (f.margin - f.margin / 2.6) * 1mm - 2pt,
      block(width: width, body(c, size))))
}

#for (number, page) in sheet.pages.enumerate() {
  if number > 0 { pagebreak() }
  for x in page {
    place(top + left, dx: x.x * 1mm, dy: x.y * 1mm, card(x.card))
  }
}

#if sheet.left_out.len() > 0 {
  pagebreak()
  set text(size: f.smallest * 1.5pt)
  pad(f.margin * 1mm)[
    #heading-of[Left out of this booklet]
    #for x in sheet.left_out [#block(above: 0.7em)[#strong(x.at(0)): #x.at(1)]]
  ]
}
"""


def card_pdf(cards: Sequence[Mapping[str, Any]], form: CardForm, two: bool = False) -> bytes:
    """The cards, each on its page, or `two` of half a page on one. Raises RecipeError for a card
    that does not fit its form with the smallest letters, or too many cards."""
    return _compiled(cards, form, two, "pdf")


def booklet_pdf(
    cards: Sequence[Mapping[str, Any]],
    left_out: Sequence[tuple[str, str]],
    form: CardForm,
    two: bool = False,
) -> bytes:
    """The cards as `card_pdf` makes them, without those that cannot be printed; these, and what was
    `left_out` before, stand with the reason on a last page. Raises RecipeError where no card is
    left, or there are too many."""
    _check_count(cards, left_out)
    try:
        return _compiled(cards, form, two, "pdf", left_out)
    except RecipeError:
        refused = {
            place: said for place, card in enumerate(cards) if (said := _why_not(card, form))
        }
    if not refused or len(refused) == len(cards):
        return _compiled(cards, form, two, "pdf", left_out)
    good = [card for place, card in enumerate(cards) if place not in refused]
    told = [(str(cards[place]["title"]), said) for place, said in refused.items()]
    return _compiled(good, form, two, "pdf", [*left_out, *told])


def _why_not(card: Mapping[str, Any], form: CardForm) -> str:
    """Why one card cannot be printed in a form; empty where it can."""
    try:
        _compiled([card], form, False, "pdf")
    except RecipeError as refusal:
        return str(refusal)
    return ""


def card_png(card: Mapping[str, Any], form: CardForm) -> bytes:
    """One card as a picture, for a message."""
    return _compiled([card], form, False, "png")


def _check_count(cards: Sequence[Mapping[str, Any]], left_out: Sequence[tuple[str, str]]) -> None:
    if not cards and left_out:
        raise RecipeError(
            "none of these can be printed: "
            + "; ".join(f"{name}: {why}" for name, why in left_out[:5])
        )
    if not 1 <= len(cards) <= MOST_CARDS:
        raise RecipeError(
            f"1 to {MOST_CARDS} cards are printed at a time; {len(cards)} were asked for"
        )


def _compiled(
    cards: Sequence[Mapping[str, Any]],
    form: CardForm,
    two: bool,
    kind: Literal["pdf", "png"],
    left_out: Sequence[tuple[str, str]] = (),
) -> bytes:
    _check_count(cards, left_out)
    sheet = {
        "title": cards[0]["title"],
        "form": _form_values(form),
        "left_out": left_out,
        **_layout(cards, form, two),
    }
    try:
        with as_file(files("fresh_ladle.formats") / "fonts") as fonts:
            return bytes(
                typst.compile(
                    _SOURCE.encode(),
                    font_paths=typst.Fonts(include_system_fonts=False, font_paths=[str(fonts)]),
                    format=kind,
                    ppi=PNG_PPI,
                    sys_inputs={"sheet": json.dumps(sheet)},
                )
            )
    except typst.TypstError as error:
        if "card too full" in str(error):
            raise RecipeError(
                f"{sheet['title']} does not fit on {form.name.lower()} in letters one can read:"
                " choose a larger form"
            ) from None
        raise RecipeError(
            f"{sheet['title']} cannot be printed as it is written: look for odd signs in it"
        ) from error


def _form_values(form: CardForm) -> dict[str, Any]:
    return {
        "width": form.width, "height": form.height, "largest": form.largest,
        "smallest": form.smallest,
        "margin": form.margin, "bare": form.bare, "stacked": form.stacked,
    }  # fmt: skip


def _layout(cards: Sequence[Mapping[str, Any]], form: CardForm, two: bool) -> dict[str, Any]:
    """Pages of cards with their places, in mm; two to a page lie side by side, the page turned."""
    if not two:
        pages = [[{"x": 0, "y": 0, "card": card}] for card in cards]
        return {"width": form.width, "height": form.height, "pages": pages}
    if form.id != "half":
        raise RecipeError("two to a page are half a page each: choose that form")
    pairs = [cards[at : at + 2] for at in range(0, len(cards), 2)]
    pages = [
        [{"x": place * form.width, "y": 0, "card": card} for place, card in enumerate(pair)]
        for pair in pairs
    ]
    return {"width": 2 * form.width, "height": form.height, "pages": pages}
