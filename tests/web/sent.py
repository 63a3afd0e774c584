"""Forms as a page would send them, from a few words."""

from __future__ import annotations

from lxml import html as lxml_html

ROW = {"least": "", "most": "", "basis": "serving", "firmness": "hard"}
LABEL = {"energy_kcal": "180", "sodium_mg": "5", "fat_g": "16", "fiber_g": "3", "protein_g": "6"}


def limits(**typed: str) -> dict[str, list[str]]:
    """Limit rows from `sodium_mg_most="140"`, `fiber_g_firmness="soft"`."""
    rows: dict[str, dict[str, str]] = {}
    for name, value in typed.items():
        nutrient, field = name.rsplit("_", 1)
        rows.setdefault(nutrient, dict(ROW))[field] = value
    return {"nutrient": list(rows)} | {
        field: [row[field] for row in rows.values()] for field in ROW
    }


def own_food(**changed: str) -> dict[str, str | list[str]]:
    """An own food typed from a label, with some fields or figures typed otherwise."""
    figures = {n: changed.pop(n, figure) for n, figure in LABEL.items()}
    fields = {"name": "House tahini", "like": "tahini", "serving": "30", "rounding": "us"} | changed
    return fields | {"nutrient": list(figures), "figure": list(figures.values())}


def page_form(html: str) -> dict[str, list[str]]:
    """What the form of a page that was read in would send."""
    sent: dict[str, list[str]] = {}
    for name, value in (
        lxml_html.fromstring(f"<div>{html}</div>").get_element_by_id("reading").form_values()
    ):
        sent.setdefault(name, []).append(value)
    return sent
