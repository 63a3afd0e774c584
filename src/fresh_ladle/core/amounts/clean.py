"""Makes one line of a pasted recipe plain: no markup, bullets, unicode fractions or odd dashes."""

from __future__ import annotations

import html
import re
import unicodedata

_FRACTIONS = {
    "½": "1/2", "⅓": "1/3", "⅔": "2/3", "¼": "1/4", "¾": "3/4", "⅕": "1/5", "⅖": "2/5",
    "⅗": "3/5", "⅘": "4/5",
    "⅙": "1/6", "⅚": "5/6", "⅛": "1/8", "⅜": "3/8", "⅝": "5/8", "⅞": "7/8", "⅐": "1/7", "⅑": "1/9",
    "⅒": "1/10",
}  # fmt: skip
_DASHES = str.maketrans(
    {"–": "-", "—": "-", "‒": "-", "−": "-", "‐": "-", "‑": "-", "×": "x", "⁄": "/", "’": "'"}
)
_TAG = re.compile(r"<[^<>]{0,200}>")
# A list is often typed with a dash right before its first amount, and no recipe has an amount below
# nothing.
_BULLET = re.compile(
    r"^\s*(?:[*•·▢☐□▪◦‣]+\s*(?=\S)|[-+]+(?:\s+(?=\S)|(?=\.?\d))|\d{1,2}[.)]\s+(?=\S)|\[\s?[xX]?\]\s*)"
)


def plain_line(text: str) -> str:
    """A line of a list as typed on a bare keyboard: `• 1½ cups – sifted` becomes `1 1/2 cups -
    sifted`."""
    return _BULLET.sub("", plain_words(text))


def plain_words(text: str) -> str:
    """The same of an amount or a name typed by itself, where a dash is no bullet."""
    text = html.unescape(_TAG.sub(" ", text))
    for char, typed in _FRACTIONS.items():
        text = re.sub(rf"(\d)\s*{char}", rf"\1 {typed}", text).replace(char, typed)
    text = unicodedata.normalize("NFKC", text).translate(_DASHES)
    text = "".join(c for c in text if c.isprintable() or c.isspace())
    # What was not done must not be read as done.
    text = re.sub(
        r"\b(?:but )?(?:not|never|don't|do not|without being)"
        r" (rinsed?|drained?|cooked|peeled|trimmed|salted)\b",
        r"un\1",
        text,
        flags=re.I,
    )
    return re.sub(r"\s+", " ", text).strip()


def folded(text: str) -> str:
    """Lower case without accents, for comparing words."""
    if text.isascii():
        return text.lower()
    decomposed = unicodedata.normalize("NFKD", text.lower())
    return "".join(c for c in decomposed if not unicodedata.combining(c))
