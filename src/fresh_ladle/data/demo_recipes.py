"""The recipes of the demo as text, to practice with where there are none of one's own."""

from __future__ import annotations

from fresh_ladle.data.tables import toml_of


def demo_recipes() -> list[tuple[str, str]]:
    """Text and kind of dish of each."""
    return [(row["text"], row["kind"]) for row in toml_of("demo.toml")["recipe"]]
