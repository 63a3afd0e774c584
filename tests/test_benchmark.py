"""The benchmarks run to their end and print a ratio for everything that is held to one. How fast is
not asked here."""

from __future__ import annotations

import importlib.util
import re
import sys
from collections.abc import Callable
from pathlib import Path
from time import perf_counter

import pytest

SCRIPT = Path(__file__).parent.parent / "scripts" / "benchmark.py"


def once(work: Callable[[], object], rounds: int = 30) -> float:
    began = perf_counter()
    work()
    return perf_counter() - began


@pytest.mark.slow
def test_every_benchmark_runs(
    monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    spec = importlib.util.spec_from_file_location("benchmark", SCRIPT)
    assert spec
    assert spec.loader
    benchmark = importlib.util.module_from_spec(spec)
    monkeypatch.setitem(sys.modules, "benchmark", benchmark)
    spec.loader.exec_module(benchmark)
    monkeypatch.setattr(benchmark, "seconds", once)
    monkeypatch.setattr(benchmark, "SHELF", 45)
    monkeypatch.setattr(benchmark, "PLANNED", (3,))
    monkeypatch.setattr(benchmark, "MANY_PLANS", 1)
    monkeypatch.setattr(benchmark, "BUSY_SECONDS", 1.0)
    benchmark.main()
    printed = capsys.readouterr().out
    held = re.findall(r"^(.+?) +[\d.]+ ms +[\d.]+ ms +[\d.]+× +within", printed, re.MULTILINE)
    for name in (
        "one amount edited",
        "food search",
        "laying out",
        "shelf of",
        "one figure",
        "an edit while",
    ):
        assert any(line.startswith(name) for line in held), (name, printed)
