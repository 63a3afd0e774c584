"""How what comes in is put in: when, and whether it is mixed in or lies on top."""

from __future__ import annotations

from enum import StrEnum


class Timing(StrEnum):
    WITH_THE_BASE = "with the base"
    AT_THE_END = "at the end"


class Placement(StrEnum):
    """What lies on top goes on at the end, and its salt meets the tongue first."""

    MIXED_IN = "mixed in"
    ON_TOP = "on top"
