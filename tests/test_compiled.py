"""What ships is kept ready in the user's cache: the same value, never from somebody else's hands,
never out of date."""

from __future__ import annotations

import pickle
from pathlib import Path

import pint
import pytest

from fresh_ladle.core.amounts.units import grams_in, millilitres
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.recipes.region import Region
from fresh_ladle.data import compiled
from fresh_ladle.data.compiled import kept


@pytest.fixture
def cache(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    monkeypatch.setenv("XDG_CACHE_HOME", str(tmp_path))
    return tmp_path / "fresh-ladle"


def test_what_ships_comes_back_as_it_was_and_is_built_once(
    cache: Path, knowledge: Knowledge
) -> None:
    built = []

    def build() -> Knowledge:
        built.append(1)
        return knowledge

    first, second = kept("shipped", build), kept("shipped", build)
    assert built == [1]
    assert first is knowledge
    assert list(second.pantry) == list(knowledge.pantry)
    assert second.swaps == knowledge.swaps
    assert second.work == knowledge.work
    assert second.cautions == knowledge.cautions
    (path,) = cache.iterdir()
    assert path.stat().st_mode & 0o077 == 0


def test_a_copy_of_other_files_others_can_write_or_that_is_broken_is_not_taken(
    cache: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    assert kept("x", lambda: "old") == "old"
    (path,) = cache.iterdir()
    path.chmod(0o666)
    assert kept("x", lambda: "anew") == "anew", "others could have written it"
    path.write_bytes(b"no pickle")
    path.chmod(0o600)
    assert kept("x", lambda: "mended") == "mended"
    path.write_bytes(pickle.dumps("copy"))
    assert kept("x", lambda: "never") == "copy"
    monkeypatch.setattr(compiled, "_fingerprint", lambda: "another")
    assert kept("x", lambda: "of today") == "of today"
    assert [p.name for p in cache.iterdir()] == ["x-another.pickle"], "the old copy is gone"


def test_without_a_cache_all_is_read_anew(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    (tmp_path / "file").write_text("x", encoding="utf-8")
    monkeypatch.setenv("XDG_CACHE_HOME", str(tmp_path / "file"))
    assert kept("x", lambda: "built") == "built"


def test_units_are_those_of_a_library_of_units() -> None:
    registry = pint.UnitRegistry()
    us = {"tsp": "teaspoon", "tbsp": "tablespoon", "cup": "cup", "fl oz": "fluid_ounce",
        "pint": "pint",
          "quart": "quart"}  # fmt: skip
    imperial = {name: f"imperial_{us[name]}" for name in ("fl oz", "pint", "quart")}
    for region, units in ((Region.US, us), (Region.IMPERIAL, imperial), (Region.METRIC, imperial)):
        for name, unit in units.items():
            assert millilitres(name, region) == pytest.approx(
                registry(unit).to("milliliter").magnitude, rel=1e-9
            )
    ten_ounces = registry("10 * imperial_fluid_ounce").to("milliliter").magnitude
    assert millilitres("cup", Region.IMPERIAL) == pytest.approx(ten_ounces)
    for name, unit in {"oz": "ounce", "lb": "pound", "kg": "kilogram", "mg": "milligram"}.items():
        assert grams_in(name) == pytest.approx(registry(unit).to("gram").magnitude, rel=1e-9)
    assert millilitres("oz") is None
    assert grams_in("cup") is None
