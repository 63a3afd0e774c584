"""Recipes as schema.org JSON-LD: bare, inside a web page, inside a graph, with its usual
irregularities; and out again."""

from __future__ import annotations

import json
import re
from html import unescape
from typing import Any

from fresh_ladle.core.whole.appraisal import Appraisal
from fresh_ladle.formats.limits import FileError

_TAG = re.compile(r"<[^<>]{0,300}>")
_MARK = "application/ld+json"
MAX_DEPTH = 12


def looks_like_json_ld(text: str) -> bool:
    """Whether a text is JSON, or a page that holds some; a note that begins with a word in brackets
    is neither."""
    opens = text.lstrip()[:1] in ("{", "[") and _IN_BRACKETS.match(text) is None
    return opens or ("<" in text and _MARK in text.lower())


_IN_BRACKETS = re.compile(r"""\s*[\[{][^\[\]{}":]{1,60}[\]}]\s*[^\s,\]}]""")
"""A word or a number in brackets with something behind it: "[draft] Bean dip"."""


def recipe_text_from_json_ld(text: str) -> str:
    """The first recipe in JSON-LD as plain recipe text: title, servings, ingredient lines, method.

    Raises FileError when there is no recipe in it, or it is not valid JSON.
    """
    found = _first_recipe(_documents(text), 0)
    if found is None:
        raise FileError(
            "there is no recipe in this page or file: paste the ingredient lines themselves"
        )
    lines = [_words(found.get("name") or found.get("headline")) or "Untitled recipe"]
    if servings := _servings(found.get("recipeYield") or found.get("yield")):
        lines.append(servings)
    ingredients = found.get("recipeIngredient") or found.get("ingredients") or []
    lines += [line for item in _listed(ingredients) for line in _ingredient_lines(item)]
    steps = [step for item in _listed(found.get("recipeInstructions")) for step in _steps(item, 0)]
    if steps:
        lines += ["Method:", *steps]
    return "\n".join(lines)


def _documents(text: str) -> list[Any]:
    documents, problem = [], ""
    for script in _scripts(text):
        # Pages often leave comment marks and raw line breaks inside the block.
        cleaned = re.sub(r"^\s*(?:<!--|//<!\[CDATA\[)|(?:-->|//\]\]>)\s*$", "", script.strip())
        try:
            documents.append(json.loads(cleaned, strict=False))
        except json.JSONDecodeError as error:
            problem = f"line {error.lineno}: {error.msg}"
        except RecursionError:
            problem = "nested too deep"
        except ValueError:
            problem = "a number with thousands of digits"
    if problem and not documents:
        raise FileError(f"this is not valid JSON ({problem})")
    return documents


def _scripts(text: str) -> list[str]:
    """What the JSON-LD blocks of a web page hold; bare JSON as it is."""
    if text.lstrip()[:1] in ("{", "["):
        return [text]
    from lxml import (
        etree,
        html,
    )  # most text is no page, and it takes longer to load than that to read

    try:
        page = html.document_fromstring(
            text.encode("utf-8", "replace"), parser=html.HTMLParser(encoding="utf-8")
        )
    except (etree.ParserError, etree.XMLSyntaxError):
        return []
    return [
        s.text or "" for s in page.iter("script") if (s.get("type") or "").strip().lower() == _MARK
    ]


def _first_recipe(node: Any, depth: int) -> dict[str, Any] | None:
    if depth > MAX_DEPTH:
        return None
    if isinstance(node, list):
        return next((found for item in node if (found := _first_recipe(item, depth + 1))), None)
    if not isinstance(node, dict):
        return None
    kinds = _listed(node.get("@type"))
    if (
        any(str(kind).rsplit("/", 1)[-1].lower() == "recipe" for kind in kinds)
        or "recipeIngredient" in node
    ):
        return node
    return next(
        (found for value in node.values() if (found := _first_recipe(value, depth + 1))), None
    )


def _listed(value: Any) -> list[Any]:
    return value if isinstance(value, list) else [] if value is None else [value]


def _words(value: Any) -> str:
    if isinstance(value, list):
        value = value[0] if value else ""
    if isinstance(value, dict):
        value = value.get("name") or value.get("text") or value.get("@value") or ""
    return re.sub(r"\s+", " ", unescape(_TAG.sub(" ", unescape(str(value or ""))))).strip()


def _ingredient_lines(item: Any) -> list[str]:
    if isinstance(item, str):
        return [w for part in re.split(r"\n|<br\s*/?>", item) if (w := _words(part))]
    word = _words(item)
    return [word] if word else []


def _servings(value: Any) -> str | None:
    """A line about the yield: "Serves 8" for a bare number, else what the page says, such as "Makes
    5 cups"."""
    for item in _listed(value):
        text = _words(
            f"{item.get('value', '')} {item.get('unitText', '')}"
            if isinstance(item, dict)
            else item
        )
        if re.fullmatch(r"\d+(?:\.\d+)?", text):
            return f"Serves {text}"
        if re.search(r"\d", text):
            return text if re.match(r"(?:serves|makes|yields?)\b", text, re.I) else f"Makes {text}"
    return None


def _steps(item: Any, depth: int) -> list[str]:
    if depth > MAX_DEPTH:
        return []
    if isinstance(item, dict):
        if "itemListElement" in item:
            return [
                s for inner in _listed(item["itemListElement"]) for s in _steps(inner, depth + 1)
            ]
        return [w] if (w := _words(item.get("text") or item.get("name"))) else []
    return [w for part in re.split(r"\n+|(?<=\.)\s{2,}", str(item)) if (w := _words(part))]


def json_ld(appraisal: Appraisal) -> str:
    """A recipe with its figures per serving as schema.org JSON-LD. Unknown figures are left out,
    never written as 0."""
    recipe, serving = appraisal.recipe, appraisal.totals.serving
    names = {
        "calories": ("energy_kcal", "calories"),
        "sodiumContent": ("sodium_mg", "mg"),
        "fatContent": ("fat_g", "g"),
        "saturatedFatContent": ("saturated_fat_g", "g"),
        "carbohydrateContent": ("carbohydrate_g", "g"),
        "fiberContent": ("fiber_g", "g"),
        "sugarContent": ("sugars_g", "g"),
        "proteinContent": ("protein_g", "g"),
        "cholesterolContent": ("cholesterol_mg", "mg"),
    }
    nutrition: dict[str, Any] = {
        "@type": "NutritionInformation",
        "servingSize": f"{appraisal.totals.serving_grams:.0f} g",
    }
    for name, (nutrient, unit) in names.items():
        if serving[nutrient].complete:
            nutrition[name] = f"{serving[nutrient].value:.3g} {unit}"
    document = {
        "@context": "https://schema.org",
        "@type": "Recipe",
        "name": recipe.title,
        "recipeYield": f"{appraisal.totals.servings:g} servings",
        "recipeIngredient": [line.text for line in recipe.lines],
        "recipeInstructions": [{"@type": "HowToStep", "text": step} for step in recipe.method],
        "nutrition": nutrition,
        "description": "Figures are estimates from food composition tables.",
    }
    return json.dumps(document, ensure_ascii=False, indent=2)
