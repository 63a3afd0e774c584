"""A text as a code that a phone reads."""

from __future__ import annotations

import segno


def qr_svg(text: str) -> str:
    """An SVG of dark squares on white, with the quiet edge that readers want; it takes the size of
    where it stands. Reads with a sixth of it soiled (level M)."""
    code = segno.make_qr(text, error="m")
    return str(code.svg_inline(scale=4, border=3, dark="#111", light="#fff", omitsize=True))
