"""The numbers that `docs/method.md` gives are those of the code, each in the place where it is
given."""

from __future__ import annotations

import re
from pathlib import Path

import pytest

from fresh_ladle.core.bench import thickness
from fresh_ladle.core.flavor import drift, parameters
from fresh_ladle.core.hold import temperature
from fresh_ladle.core.nutrients import labels, totals
from fresh_ladle.core.plans import beam, slots
from fresh_ladle.core.practice import scoring
from fresh_ladle.core.ranges import Z90
from fresh_ladle.core.service import fillings, scaling
from fresh_ladle.core.tasting import difference, eaters, liking

DOC = Path(__file__).parent.parent / "docs" / "method.md"
SALT = parameters.BY_ID["salt"]
GIVEN: dict[str, tuple[float, ...]] = {
    "2. Figures and their ranges": (
        round(Z90, 3), totals.GOODS_CV, totals.PRODUCE_CV, totals._CANNED_SODIUM_CV,
    ),
    "3. Steps of taste": (
        parameters.SODIUM_SHARE_OF_SALT, parameters.SYNERGY, parameters.POTENCY_BASE["bitter"],
        parameters.POTENCY_BASE["aroma"], parameters.MAX_SALT_LIFT, SALT.weber_side_by_side,
        SALT.weber_from_memory,
        drift.PLAIN_STEPS, drift.MOST_STEPS, parameters.MAY_NOT_NOTICE,
    ),
    "4. Plans": (slots.IDENTITY_KEPT, beam.MIN_YIELD, beam.MAX_YIELD, beam.WIDTH),
    "5. Tastings": (
        difference.ALPHA, difference.POWER, liking.SMALL_PANEL, liking.JAR_SHARE, liking.JAR_DROP,
        eaters.HELD_BACK_BY,
    ),
    "6. Thickness": (thickness.STAND_HOURS,),
    "7. Service": (
        scaling.STRONG_FROM, fillings.FILL, fillings.FILL_HOT, temperature.HOT, temperature.WARM,
        temperature.COLD,
    ),
    "8. Labels, claims, words": (labels.SALT_PER_SODIUM,),
    "9. Practice": (scoring.MEANT, scoring.FEWEST, scoring.SURELY),
}  # fmt: skip


@pytest.mark.parametrize("section", GIVEN)
def test_numbers_are_those_of_the_code(section: str) -> None:
    text = DOC.read_text("utf-8").split(f"## {section}\n")[1].split("\n## ")[0]
    said = [float(number) for number in re.findall(r"`(\d+(?:\.\d+)?)`", text)]
    assert said == pytest.approx([float(number) for number in GIVEN[section]])


def test_every_section_that_gives_numbers_is_held_and_names_files_that_are_there() -> None:
    text = DOC.read_text("utf-8")
    for section in re.split(r"^## ", text, flags=re.MULTILINE)[1:]:
        title = section.split("\n")[0]
        assert title in GIVEN or not re.search(r"`\d+(?:\.\d+)?`", section), title
    root = DOC.parent.parent
    for name in re.findall(r"`((?:data|tests)/[\w/.]+)`", text):
        assert (root / name).exists() or (root / "src" / "fresh_ladle" / name).exists(), name
    assert f"each of {len(parameters.INTERACTIONS)} pair effects" in text
    assert {"salt", "sour", "sweet", "rich", "savory", "bitter", "hot", "aroma", "body"} == set(
        parameters.AXIS_IDS
    )
