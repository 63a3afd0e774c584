"""What foods smell of, and how alike the families of smell are, checked on load."""

from __future__ import annotations

from fresh_ladle.core.flavor.smell import FAMILIES, NO_SMELL, Likeness
from fresh_ladle.data.tables import DataError, non_negative, rows, split

MOST_FAMILIES = 2


def check_family(family: str, place: str) -> None:
    """Raises DataError for a family nobody knows."""
    if family not in FAMILIES:
        raise DataError(f"{place}: no family of smell is called {family!r}")


def load_smells() -> dict[str, tuple[str, ...]]:
    """The families of each food by its key: one or two, or `none` for what hardly smells."""
    found: dict[str, tuple[str, ...]] = {}
    for number, row in enumerate(rows("smells.csv"), start=2):
        place = f"smells.csv row {number} ({row['key']})"
        families = tuple(split(row["families"]))
        if (
            row["key"] in found
            or not 1 <= len(families) <= MOST_FAMILIES
            or row["grade"] not in ("A", "B", "C")
        ):
            raise DataError(
                f"{place}: it stands twice, has no family or more than {MOST_FAMILIES}, or no grade"
            )
        for family in families:
            if families != (NO_SMELL,):
                check_family(family, place)
        found[row["key"]] = families
    return found


def load_likeness() -> Likeness:
    """From the distances of all pairs of families, each told once."""
    distances: dict[tuple[str, str], float] = {}
    for number, row in enumerate(rows("smell_distances.csv"), start=2):
        place = f"smell_distances.csv row {number}"
        a, b = row["family_a"], row["family_b"]
        check_family(a, place)
        check_family(b, place)
        distance = non_negative(row["distance"], place)
        if (
            (a, b) in distances
            or ((b, a) in distances and a != b)
            or distance > 1
            or (a == b) != (distance == 0)
        ):
            raise DataError(
                f"{place}: {a} and {b} stand twice, or their distance is none of 0 to 1"
            )
        distances[a, b] = distance
    if len(distances) != len(FAMILIES) * (len(FAMILIES) + 1) // 2:
        raise DataError("smell_distances.csv: a pair of families is missing")
    return Likeness.of(distances)
