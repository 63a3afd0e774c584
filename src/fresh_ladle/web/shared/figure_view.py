"""A figure as places show it beside a version."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class FigureView:
    name: str
    value: str
    range: str
    verdict: str
