"""How a recipe stands with a school: kept, or which lines the school would not have."""

from __future__ import annotations

from dataclasses import dataclass

from fresh_ladle.core.catalogue.school import School, refused_for
from fresh_ladle.core.whole.appraisal import Appraisal


@dataclass(frozen=True, slots=True)
class SchoolStanding:
    """`against` pairs the name of each line the school would not have with why; `unknown` names
    lines whose food is not understood, or not stocked, so that nobody can say."""

    school: School
    against: tuple[tuple[str, str], ...]
    unknown: tuple[str, ...]

    @property
    def kept(self) -> bool:
        """Kept for certain."""
        return not self.against and not self.unknown


def school_standing(version: Appraisal, school: School) -> SchoolStanding:
    """Every line that is eaten, held to what the school refuses."""
    against, unknown = [], []
    for portion in version.portions:
        if portion.line.eaten <= 0:
            continue
        name = portion.line.named or (
            portion.food.kitchen_name if portion.food else portion.line.text
        )
        if portion.food is None or not portion.food.in_pantry:
            unknown.append(name)
        if portion.food is not None and (why := refused_for(school, portion.food)):
            against.append((name, why))
    return SchoolStanding(school, tuple(against), tuple(unknown))
