"""Small helpers to write SVG by hand: escaped attributes, rounded numbers, presentation classes instead of inline
style."""

from __future__ import annotations

from markupsafe import Markup, escape


def element(name: str, content: str | Markup = "", **attributes: str | float) -> Markup:
    """One SVG element. Underscores in attribute names become hyphens; `class_` is class."""
    written = " ".join(
        f'{key.rstrip("_").replace("_", "-")}="{escape(_number(value) if isinstance(value, float | int) else value)}"'
        for key, value in attributes.items()
    )
    return Markup(f"<{name} {written}>{escape(content)}</{name}>")


def _number(value: float) -> str:
    return f"{value:.2f}".rstrip("0").rstrip(".") if value != int(value) else str(int(value))


def picture(width: float, height: float, title: str, *parts: Markup, class_: str = "", role: str = "img") -> Markup:
    """An SVG with a text alternative; scales with its box."""
    inner = Markup("").join((element("title", title), *parts))
    return Markup(
        f'<svg class="{escape(class_)}" viewBox="0 0 {_number(width)} {_number(height)}" role="{role}" '
        f'aria-label="{escape(title)}" focusable="false">{inner}</svg>'
    )
