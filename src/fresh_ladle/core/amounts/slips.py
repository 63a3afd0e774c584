"""Slips of the pen: the known word that a misspelt one was meant for, by its letters and by its
sound."""

from __future__ import annotations

import re
from collections import defaultdict
from collections.abc import Mapping
from functools import cached_property

from rapidfuzz import process
from rapidfuzz.distance import OSA

PLAIN_WORDS = frozenset(
    """
    about above after again all almost along also always around away back before below best better
    between bold both bowl care come cover cool course cups date days deal does done down each early
    eight else ends even ever every face fair fall fast feel fill find fine fire first five flat
    food foot form four free from full gave give goes gold gone good half hand hard have heat held
    help here high hold home hour into just keep kind know last late later leave left less lift like
    line list live long look made main make many maybe mean meal middle mind mine more most much
    must near need never next nice night none nothing okay once only open other over pack page part
    past pick pile place plan plate play plus real rest ready right room same save seem send serve
    set shape share shop short side since size small soft some soon sort spare start stay still such
    sure table take taken tall taste than that them then there these they thing think this those
    three tight till time tiny together took town trim true turn under until upon used using very
    wait warm wash water week well went were what when where which while white whole wide will wish
    with word work would yours
    """.split()
)
"""Words of plain sentences: none of them is a slip of the pen for a food."""
SHORT, MEDIUM = 5, 8
_SOUNDS = (
    (r"gh", "g"), (r"ph", "f"), (r"ck", "k"), (r"qu", "k"), (r"c(?=[eiy])", "s"), (r"c", "k"), (r"x", "ks"),
    (r"z", "s"), (r"(.)\1+", r"\1"), (r"(?<=.)[aeiouyh]+", ""),
)  # fmt: skip


def sound(word: str) -> str:
    """What is left of a word when it is only heard: its first letter and its consonants, each
    once."""
    for pattern, replacement in _SOUNDS:
        word = re.sub(pattern, replacement, word)
    return word


class Slips:
    """The words that are known, each with how many names hold it, to find the one that was
    meant."""

    def __init__(self, known: Mapping[str, int]) -> None:
        self._held = known
        self._known = [word for word in sorted(known) if word.isalpha() and len(word) > 2]

    @cached_property
    def _by_sound(self) -> dict[str, list[str]]:
        found: dict[str, list[str]] = defaultdict(list)
        for word in self._known:
            found[sound(word)].append(word)
        return found

    def meant(self, word: str) -> str | None:
        """The known word nearest to an unknown one; None where none is near enough to be a slip, or
        the word is a plain one. One slip is allowed in a short word, two in a longer one or where
        both sound alike."""
        if len(word) < 3 or not word.isalpha() or word in PLAIN_WORDS:
            return None
        most = 1 if len(word) < MEDIUM else 2
        near = process.extract(word, self._known, scorer=OSA.distance, score_cutoff=2, limit=8)
        alike = set(self._by_sound.get(sound(word), ()))
        fits = []
        for other, distance, _ in near:
            allowed = 2 if other in alike and len(word) >= SHORT else most
            # Of short words one letter makes another word: only a letter more or less, or two in
            # the other's place.
            other_word = (
                len(word) < SHORT and len(other) == len(word) and sorted(other) != sorted(word)
            )
            if other[0] == word[0] and distance <= allowed and not other_word:
                fits.append((distance - (other in alike), -self._held[other], other))
        return min(fits)[2] if fits else None
