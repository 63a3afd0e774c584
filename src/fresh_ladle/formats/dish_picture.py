"""A dish as a picture, drawn from its grams: layers in a bowl, or in a jar for what is poured, in
the colors of its foods. The area of a layer is its share of the weight; what is under a fiftieth is
strewn as specks."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from math import pi, sin, sqrt
from xml.sax.saxutils import escape

from fresh_ladle.core.card.content import Card
from fresh_ladle.core.catalogue.handouts import Handouts
from fresh_ladle.core.recipes.dishes import DIPS, SALADS

RIM, INNER, PAPER = "#1f3d7a", "#ffffff", "#f4f6f9"
LEAST_SHARE = 0.02
MOST_NAMED = 6
WIDTH, HEIGHT = 300.0, 190.0
BOWL_WIDTH, BOWL_DEPTH, BOWL_TOP = 264.0, 150.0, 18.0
JAR_WIDTH, JAR_HEIGHT, JAR_TOP = 108.0, 150.0, 28.0
MIDDLE = WIDTH / 2


@dataclass(frozen=True, slots=True)
class Layer:
    """One food of the picture: what it is called, its grams, and its color as #rrggbb."""

    name: str
    grams: float
    color: str


def dish_picture(layers: Sequence[Layer], poured: bool, title: str) -> str:
    """An SVG of the dish, largest layer at the bottom."""
    whole = sum(layer.grams for layer in layers) or 1.0
    shares = sorted(
        ((layer.grams / whole, layer) for layer in layers if layer.grams > 0), key=lambda s: -s[0]
    )
    large = [(share, layer) for share, layer in shares if share >= LEAST_SHARE]
    specks = [layer for share, layer in shares if share < LEAST_SHARE]
    vessel = _jar() if poured else _bowl()
    parts = [_bands(large, vessel), _specks(specks, vessel), vessel.front]
    said = ", ".join(f"{layer.name} {share * 100:.0f}%" for share, layer in shares[:MOST_NAMED])
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {WIDTH:g} {HEIGHT:g}"'
        f' width="{WIDTH:g}" height="{HEIGHT:g}" role="img" aria-label="{escape(title, _QUOTE)}:'
        f' {escape(said, _QUOTE)}"><defs><clipPath id="in"><path'
        f' d="{vessel.inside}"/></clipPath></defs>{vessel.back}<g'
        f' clip-path="url(#in)">{"".join(parts[:2])}</g>{parts[2]}</svg>'
    )


def card_picture(card: Card, handouts: Handouts) -> str:
    """The picture of a card's dish."""
    layers = [
        Layer(p.line.named or p.line.text, p.in_bowl.value, handouts.color_of(p.food))
        for p in card.layers
        if p.known
    ]
    return dish_picture(layers, card.kind not in SALADS | DIPS, card.title)


_QUOTE = {'"': "&quot;"}


@dataclass(frozen=True, slots=True)
class _Vessel:
    """`inside` is the path that holds food, `half` half its width at a height over the bottom,
    `depth` how high it may be filled, `bottom` where that is in the picture; `back` and `front` are
    drawn behind and before the food."""

    inside: str
    half: Callable[[float], float]
    depth: float
    bottom: float
    back: str
    front: str


def _bowl() -> _Vessel:
    half, top, depth = BOWL_WIDTH / 2, BOWL_TOP, BOWL_DEPTH
    path = f"M{MIDDLE - half:g} {top:g}A{half:g} {depth:g} 0 0 0 {MIDDLE + half:g} {top:g}Z"
    foot = f'<path d="M{MIDDLE - 42:g} {top + depth - 3:g}h84l6 14h-96z" fill="{RIM}"/>'
    rim = (
        f'<path d="{path}" fill="none" stroke="{RIM}" stroke-width="7"'
        f' stroke-linejoin="round"/><path d="M{MIDDLE - half - 9:g} {top:g}h{2 * half + 18:g}"'
        f' stroke="{RIM}" stroke-width="8" stroke-linecap="round"/>'
    )
    # Filled to nine tenths of its depth.
    return _Vessel(
        path,
        lambda height: half * sqrt(max(0.0, 1 - ((depth - height) / depth) ** 2)),
        depth * 0.9,
        top + depth,
        f'<path d="{path}" fill="{PAPER}"/>',
        foot + rim,
    )


def _jar() -> _Vessel:
    half, top, height = JAR_WIDTH / 2, JAR_TOP, JAR_HEIGHT
    left, right = MIDDLE - half, MIDDLE + half
    path = (
        f"M{left:g} {top:g}H{right:g}V{top + height - 12:g}q0 12 -12 12H{left + 12:g}q-12 0 -12"
        " -12Z"
    )
    neck = (
        f'<path d="M{left + 12:g} {top - 14:g}h{2 * half - 24:g}v14h-{2 * half - 24:g}z"'
        f' fill="{RIM}"/>'
    )
    return _Vessel(
        path,
        lambda _: half,
        height * 0.88,
        top + height,
        f'<path d="{path}" fill="{PAPER}"/>',
        f'{neck}<path d="{path}" fill="none" stroke="{RIM}" stroke-width="7"'
        ' stroke-linejoin="round"/>',
    )


def _bands(shares: Sequence[tuple[float, Layer]], vessel: _Vessel) -> str:
    """Bands of equal area for equal shares, from the bottom, each with a soft upper edge and a
    white line on it."""
    areas = _areas(vessel)
    whole, filled = areas[-1], 1.0
    drawn: list[str] = []
    total = sum(share for share, _ in shares) or 1.0
    # From the top down, so that each lower band covers the one before it.
    for share, layer in reversed(shares):
        level = _height_of(filled * whole, areas, vessel.depth)
        y = vessel.bottom - level
        edge = " ".join(
            f"L{x:g} {y + 2.2 * sin(x / 17 + len(drawn)):.1f}" for x in range(0, int(WIDTH) + 1, 12)
        )
        drawn.append(
            f'<path d="M0 {vessel.bottom:g}{edge} L{WIDTH:g} {vessel.bottom:g}Z"'
            f' fill="{layer.color}" stroke="{INNER}" stroke-width="1.6"/>'
        )
        filled -= share / total
    return "".join(drawn)


_SLICES = 200


def _areas(vessel: _Vessel) -> list[float]:
    """The area under each of so many heights, from 0 to the depth it is filled to."""
    step, found = vessel.depth / _SLICES, [0.0]
    for number in range(_SLICES):
        found.append(found[-1] + 2 * vessel.half((number + 0.5) * step) * step)
    return found


def _height_of(area: float, areas: Sequence[float], depth: float) -> float:
    number = next((n for n, under in enumerate(areas) if under >= area - 1e-9), _SLICES)
    return number / _SLICES * depth


def _specks(layers: Sequence[Layer], vessel: _Vessel) -> str:
    """What there is little of, strewn by a fixed pattern over the upper half."""
    drawn = []
    for number, layer in enumerate(layers):
        for one in range(5):
            turn = (number * 5 + one) * (pi * (3 - sqrt(5)))
            height = vessel.depth * (0.55 + 0.4 * (((number * 5 + one) * 0.618) % 1))
            reach = vessel.half(height) * 0.82
            x, y = MIDDLE + reach * sin(turn), vessel.bottom - height
            drawn.append(
                f'<circle cx="{x:.1f}" cy="{y:.1f}" r="3" fill="{layer.color}" stroke="{INNER}"'
                ' stroke-width="0.8"/>'
            )
    return "".join(drawn)
