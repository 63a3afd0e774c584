"""Rows as they may be kept, whatever wrote them: their texts clean, those inside a JSON text
too."""

from __future__ import annotations

import json
from typing import Any

from fresh_ladle.core.plain_text import clean_text, clean_value


def clean_column(value: object) -> object:
    """A value of a row with clean text; of a JSON document all texts in it, where any of them is
    not."""
    if not isinstance(value, str):
        return value
    text = clean_text(value)
    if not text.startswith(("{", "[")) or "\\u" not in text:
        return text
    try:
        held = json.loads(text)
    except ValueError:
        return text
    cleaned = clean_value(held)
    return (
        text if cleaned == held else json.dumps(cleaned, ensure_ascii=False, separators=(",", ":"))
    )


def with_clean_texts(content: Any) -> Any:
    """Whatever JSON holds, tables of rows among it, with every text as `clean_column` leaves it."""
    if isinstance(content, list):
        return [with_clean_texts(one) for one in content]
    if isinstance(content, dict):
        return {clean_text(name): with_clean_texts(one) for name, one in content.items()}
    return clean_column(content)
