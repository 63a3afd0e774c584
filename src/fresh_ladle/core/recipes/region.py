"""Whose cups and spoons a recipe means."""

from __future__ import annotations

from enum import StrEnum


class Region(StrEnum):
    """Whose cups and spoons a recipe means."""

    US = "us"
    METRIC = "metric"
    IMPERIAL = "imperial"
