"""Any file or pasted text that holds a recipe, as plain recipe text."""

from __future__ import annotations

from pathlib import PurePath

from fresh_ladle.core.plain_text import clean_text
from fresh_ladle.formats.json_ld import looks_like_json_ld, recipe_text_from_json_ld
from fresh_ladle.formats.limits import MAX_FILE_BYTES, FileError, decoded


def recipe_text_from_file(data: bytes, name: str) -> str:
    """Plain recipe text from a file, by what is in it and by its name. Raises FileError saying what
    is wrong."""
    if len(data) > MAX_FILE_BYTES:
        raise FileError(
            f"this file has {len(data) / 1e6:.0f} MB; a recipe file has at most"
            f" {MAX_FILE_BYTES / 1e6:.0f}"
        )
    path = PurePath(name)
    if data.startswith(b"PK"):
        from fresh_ladle.formats.sheet import (
            recipe_text_from_xlsx,
        )  # takes longer to load than a recipe to read

        return clean_text(recipe_text_from_xlsx(data, _title(path)))
    if path.suffix.lower() in (".csv", ".tsv"):
        from fresh_ladle.formats.sheet import recipe_text_from_csv

        return clean_text(recipe_text_from_csv(data, _title(path)))
    return recipe_text_from_paste(decoded(data))


def recipe_text_from_paste(text: str) -> str:
    """Plain recipe text from what was pasted: JSON-LD and web pages are taken apart, anything else
    stays as it is."""
    return clean_text(recipe_text_from_json_ld(text) if looks_like_json_ld(text) else text)


def _title(path: PurePath) -> str:
    return (
        path.stem.replace("_", " ").replace("-", " ").strip()[:80].capitalize() or "Untitled recipe"
    )
