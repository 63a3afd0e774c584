"""Half a minute of the attack, on every run."""

from __future__ import annotations

from pathlib import Path

import pytest

from tests.attack.__main__ import attacked


@pytest.mark.slow
def test_half_a_minute_of_everything_breaks_nothing(tmp_path: Path) -> None:
    assert attacked(tmp_path, 0.4) == []
