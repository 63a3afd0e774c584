"""What a cook says goes in: read with an amount that can be weighed, or taken from two weighings of
its vessel."""

from __future__ import annotations

import re
from dataclasses import dataclass, replace
from math import sqrt

from fresh_ladle.core.amounts.bowl import portions
from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.recipes.recipe import Line, Recipe, RecipeError

SCALE_DOUBT_G = 1.0
"""What a bench scale that shows whole grams may be off at each weighing."""
MAX_TEXT = 200
ON_TOP = "on top"
_LEAD = re.compile(
    r"^(?:and |now |then |i |we )*(?:add(?:ed|ing)?|put in|gave it|plus|in went|in goes)\s+", re.I
)
_MORE = re.compile(r"\b(?:one more|another|a further)\b", re.I)
_EXTRA = re.compile(r"(?<=\d) more\b|\bmore\b", re.I)
_TOP = re.compile(
    r"[,(]?\s*\b(?:kept? (?:back )?for the top|for the top|on top|kept? back|reserved?|held back|to"
    r" finish)\b\)?",
    re.I,
)
_KEEP = re.compile(r"^(?:keep back|hold back|keep|reserve)\s+", re.I)


@dataclass(frozen=True, slots=True)
class Addition:
    """One thing that went in, as a line of its own. `on_top` when it is kept for the surface."""

    text: str
    line: Line
    on_top: bool


def read_addition(text: str, reader: Reader, recipe: Recipe) -> Addition:
    """`another squeeze of lime`, `2 pinches salt`, `1 Tbsp parsley for the top`.

    Raises RecipeError where the food is not understood, or no amount is said that can be weighed.
    """
    said = text.strip()[:MAX_TEXT]
    if not said:
        raise RecipeError("say what goes in: 1 tsp lemon juice, 2 pinches salt")
    on_top = bool(_TOP.search(said) or _KEEP.match(said))
    plain = _KEEP.sub("", _TOP.sub("", _LEAD.sub("", said)))
    plain = _EXTRA.sub("", _MORE.sub("1", plain))
    plain = re.sub(r"^a (?:bit|little|touch)\b(?: of)?", "a little", plain.strip(), flags=re.I)
    readings = reader.read_line(re.sub(r"\s+", " ", plain), "", recipe.region)
    if len(readings) != 1:
        raise RecipeError(f"“{said}”: one thing at a time, so that each can be struck out again")
    line = readings[0].line
    if line.food is None or line.confidence < _SURE:
        raise RecipeError(
            f"“{said}” is not understood: {readings[0].problem or 'say which food goes in'}"
        )
    if not line.amount:
        raise RecipeError(
            f"how much {line.named or line.text}? Say for example 1 tsp, 2 pinches, or 5 g"
        )
    if on_top:
        line = replace(line, text=f"{line.text}, {ON_TOP}", remarks=(*line.remarks, ON_TOP))
    (portion,) = portions(_alone(line, recipe), reader.pantry, reader.preparations)
    if not portion.known or portion.measured.value <= 0:
        raise RecipeError(
            f"“{said}” cannot be weighed: {portion.problem or 'say it with spoons or grams'}"
        )
    return Addition(said, line, on_top)


_SURE = 0.45


def weighed_addition(
    thing: str,
    before_g: float,
    after_g: float,
    reader: Reader,
    recipe: Recipe,
    doubt_g: float = SCALE_DOUBT_G,
) -> Addition:
    """What left its vessel between two weighings, with the doubt of both. Raises RecipeError where
    nothing did."""
    went = before_g - after_g
    if went <= 0:
        raise RecipeError(f"{before_g:g} g before and {after_g:g} g after: nothing left the vessel")
    doubt = sqrt(2) * doubt_g
    low, high = max(0.1, went - doubt), went + doubt
    return read_addition(f"{low:.1f} to {high:.1f} g {thing.strip()}", reader, recipe)


def _alone(line: Line, recipe: Recipe) -> Recipe:
    return replace(recipe, lines=(replace(line, id="l1", component=""),), method=())
