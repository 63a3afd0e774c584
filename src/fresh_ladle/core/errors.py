"""What every error is that the core raises for a person: each boundary (pages, commands, workers)
turns it into words in one place."""

from __future__ import annotations


class Refused(ValueError):
    """Something asked for cannot be. The message names the place and says why, in words for whoever
    asked; nothing was changed. Any other error of the core is a fault of ours."""
