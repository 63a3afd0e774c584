"""Text as it may be kept: without the characters that no page, sheet or file of ours can hold.

Word processors and broken pages bring them along: marks for a soft line break or the end of a
table's cell, hyphens of their own, bytes of an old encoding read as another. XML 1.0 (section 2.2)
says which characters a document holds."""

from __future__ import annotations

import re

_SOFT_BREAKS = dict.fromkeys((0x07, 0x0B, 0x0C, 0x1C, 0x1D, 0x2028, 0x2029), "\n")
"""Where a word processor goes on in a new line or a new cell."""
_HYPHENS = {0x1E: "-", 0x1F: None, 0xAD: None}
"""A hyphen that keeps a word together, and two that are seen only at the end of a line."""
_WINDOWS = {
    code: bytes([code]).decode("cp1252", errors="ignore") or None for code in range(0x80, 0xA0)
}
"""Quotes and dashes of the old Western encoding, read as controls."""
_LEFT_OVER = {code: None for code in range(0x20) if chr(code) not in "\t\n\r"} | {0x7F: None}
_TABLE = {**_LEFT_OVER, **_SOFT_BREAKS, **_HYPHENS, **_WINDOWS}
_NO_CHARACTERS = re.compile("[\ud800-\udfff\ufdd0-\ufdef\ufffe\uffff]")
_ANY = re.compile(
    "[\x00-\x08\x0b\x0c\x0e-\x1f\x7f-\x9f\xad\u2028\u2029\ud800-\udfff\ufdd0-\ufdef\ufffe\uffff]"
)


def clean_text(text: str) -> str:
    """The text with nothing in it that cannot be printed: soft breaks are line breaks, what says
    nothing is gone. Text that is clean already comes back as it is."""
    if _ANY.search(text) is None:
        return text
    return _NO_CHARACTERS.sub("", text.translate(_TABLE))


def clean_value(value: object) -> object:
    """The same for the texts anywhere in lists and mappings, as JSON holds them."""
    if isinstance(value, str):
        return clean_text(value)
    if isinstance(value, list):
        return [clean_value(one) for one in value]
    if isinstance(value, dict):
        return {clean_text(name): clean_value(one) for name, one in value.items()}
    return value
