"""Small helpers to write SVG by hand: escaped attributes, rounded numbers, presentation classes
instead of inline style."""

from __future__ import annotations

import re
from functools import lru_cache

from markupsafe import Markup, escape


def element(name: str, content: str | Markup = "", **attributes: str | float) -> Markup:
    """One SVG element. Underscores in attribute names become hyphens; `class_` is class."""
    written = " ".join(f'{_name(key)}="{_attribute(value)}"' for key, value in attributes.items())
    return Markup(f"<{name} {written}>{escape(content) if content else ''}</{name}>")


@lru_cache(maxsize=256)
def _name(key: str) -> str:
    return key.rstrip("_").replace("_", "-")


def _attribute(value: str | float) -> str:
    if isinstance(value, str):
        return str(escape(value)) if _SPECIAL.search(value) else value
    return _number(value)


_SPECIAL = re.compile("[&<>\"']")


def _number(value: float) -> str:
    return f"{value:.2f}".rstrip("0").rstrip(".") if value != int(value) else str(int(value))


def picture(
    width: float,
    height: float,
    title: str,
    *parts: Markup,
    class_: str = "",
    role: str = "img",
    fixed: bool = False,
) -> Markup:
    """An SVG with a text alternative; scales with its box, or is as large as it says where it is
    `fixed`."""
    inner = "".join((element("title", title), *parts))
    size = f'width="{_number(width)}" height="{_number(height)}" ' if fixed else ""
    return Markup(
        f'<svg class="{escape(class_)}" {size}viewBox="0 0 {_number(width)} {_number(height)}"'
        f' role="{role}" aria-label="{escape(title)}" focusable="false">{inner}</svg>'
    )
