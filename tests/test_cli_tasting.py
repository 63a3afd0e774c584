"""Ballots by the command line: statistics against the library and by hand, and sheets that cannot
be read."""

from __future__ import annotations

import json
from math import exp
from pathlib import Path
from typing import Any

import pytest
from scipy import stats

from fresh_ladle.cli import main


def run(capsys: pytest.CaptureFixture[str], *argv: str) -> tuple[int, Any, str]:
    code = main(["tasting", *argv, "--json"])
    out, err = capsys.readouterr()
    return code, json.loads(out) if out else None, err


def sheet(tmp_path: Path, heads: str, rows: list[str]) -> str:
    path = tmp_path / "ballots.csv"
    path.write_text(
        "\n".join([heads, *(f"{n},{row}" for n, row in enumerate(rows, start=1))]), encoding="utf-8"
    )
    return str(path)


def test_a_triangle_by_hand(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    path = sheet(tmp_path, "seat,correct", ["1"] * 11 + ["0"] * 7)
    code, found, _ = run(capsys, "triangle", "--answers", path)
    assert (code, found["n"], found["correct"], found["critical"], found["significant"]) == (
        0,
        18,
        11,
        10,
        True,
    )
    assert found["p_value"] == pytest.approx(float(stats.binom.sf(10, 18, 1 / 3)))
    exact = stats.binomtest(11, 18).proportion_ci(0.95, "exact")
    told = [(share - 1 / 3) / (2 / 3) for share in (exact.low, exact.high)]
    assert found["interval"] == pytest.approx([max(0.0, told[0]), told[1]])
    assert found["sentence"].startswith("They taste different: 11 of 18")


def test_a_preference_counts_the_side_that_more_chose(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    _, found, _ = run(
        capsys, "preference", "--answers", sheet(tmp_path, "seat,preferred", ["b"] * 15 + ["a"] * 5)
    )
    assert (found["preferred"], found["correct"], found["significant"]) == (
        {"a": 5, "b": 15},
        15,
        True,
    )
    assert found["p_value"] == pytest.approx(float(stats.binomtest(15, 20).pvalue))
    assert found["sentence"] == "b is preferred, by 15 of 20."


def test_two_alternatives_are_one_sided(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    _, found, _ = run(
        capsys,
        "two-alternative",
        "--answers",
        sheet(tmp_path, "seat,correct", ["1"] * 9 + ["0"] * 3),
    )
    assert found["p_value"] == pytest.approx(
        float(stats.binomtest(9, 12, alternative="greater").pvalue)
    )
    assert (found["critical"], found["significant"]) == (10, False)
    assert "One taster decides it" in " ".join(found["warnings"])


def test_liking_is_told_as_the_pair_is_written(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    a, b = (
        [7, 8, 6, 7, 9, 8, 7, 6, 8, 7, 7, 8, 6, 7, 8, 9],
        [6, 6, 6, 7, 7, 6, 7, 5, 6, 7, 5, 6, 6, 6, 7, 7],
    )
    rows = [f"{x},{y}" for x, y in zip(a, b, strict=True)]
    _, found, _ = run(capsys, "liking", "--answers", sheet(tmp_path, "seat,a,b", rows))
    (pair,) = found["pairs"]
    expected = stats.ttest_rel(a, b)
    assert pair["pair"] == "a-b"
    assert pair["difference"] == pytest.approx(found["means"]["a"] - found["means"]["b"])
    assert pair["t_p"] == pytest.approx(float(expected.pvalue))
    interval = expected.confidence_interval(0.95)
    assert pair["interval"] == pytest.approx([interval.low, interval.high])
    signed = stats.wilcoxon([x - y for x, y in zip(a, b, strict=True)])
    assert pair["wilcoxon_p"] == pytest.approx(float(signed.pvalue))
    assert found["sentence"].startswith("a is liked clearly more than b")


def test_just_right_tells_each_side_and_what_to_act_on(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    rows = ["8,0,0"] * 12 + ["5,2,0"] * 4 + ["6,1,0"] * 2 + ["7,-1,1"] * 2
    _, found, _ = run(
        capsys, "just-right", "--answers", sheet(tmp_path, "seat,liking,salt,sour", rows)
    )
    salt, sour = found["attributes"]
    assert (salt["too_little"], salt["just_right"], salt["too_much"]) == pytest.approx(
        (0.1, 0.6, 0.3)
    )
    assert salt["drop_too_much"] == pytest.approx(8 - 32 / 6)
    assert salt["drop_too_little"] == pytest.approx(1.0)
    assert (salt["act"], sour["act"], sour["drop_too_little"]) == (True, False, None)
    assert found["sentence"].startswith("Worth mending: salt: too much for 30% of them")


def test_ranking_tells_sums_and_how_far_apart_they_must_be(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    rows = ["1,2,3"] * 8 + ["2,1,3"] * 2
    _, found, _ = run(capsys, "ranking", "--answers", sheet(tmp_path, "seat,a,b,c", rows))
    assert found["rank_sums"] == {"a": 12, "b": 18, "c": 30}
    assert found["friedman_p"] == pytest.approx(exp(-8.4)), (
        "T = 12/120·1368 − 120 = 16.8, two degrees of freedom"
    )
    assert found["least_significant_difference"] == pytest.approx(1.96 * (10 * 3 * 4 / 6) ** 0.5)


def test_what_a_panel_can_show(capsys: pytest.CaptureFixture[str]) -> None:
    _, found, _ = run(capsys, "plan", "triangle", "--tasters", "12")
    assert found["critical"] == 8
    half = next(p for p in found["power"] if p["can_tell"] == 0.5)
    assert half["found"] == pytest.approx(float(stats.binom.sf(7, 12, 2 / 3)))
    assert found["sentence"].endswith(
        "a difference that 5 in 10 of them can really tell is found 6 times in 10.".lstrip("a")
    )
    _, liking, _ = run(capsys, "plan", "liking", "--tasters", "30")
    assert (
        liking["sentence"] == "30 tasters: can show a difference of 1 point of nine, 8 times in 10."
    )


WRONG = [
    ("triangle", "seat,correct", ["1", "0", "2"], "row 4: correct is a whole number from 0 to 1"),
    ("triangle", "seat,right", ["1"], "row 1: the names of a sheet for triangle are seat,correct"),
    ("triangle", "seat,correct", [], "no seat answered"),
    ("preference", "seat,preferred", ["a", "c"], "row 3: 'c' is neither a nor b"),
    ("liking", "seat,a,b", ["7,10"] * 3, "row 2: b is a whole number from 1 to 9"),
    ("liking", "seat,a,b", ["7,8"] * 2, "three tasters"),
    ("ranking", "seat,a,b,c", ["1,1,3"], "row 2: seat 1 gave one rank twice"),
    ("just-right", "seat,liking,salt", ["7,3"], "row 2: salt is a whole number from -2 to 2"),
    ("just-right", "seat,salt", ["1"], "seat,liking,salt and so on"),
    ("liking", "seat,a,a", ["7,8"], "are each another"),
    ("triangle", "seat,correct", ["1,0"], "row 2: 3 cells under 2 names"),
]


@pytest.mark.parametrize(("kind", "heads", "rows", "said"), WRONG, ids=[w[3][:40] for w in WRONG])
def test_a_sheet_that_cannot_be_is_refused_by_its_row(
    tmp_path: Path,
    capsys: pytest.CaptureFixture[str],
    kind: str,
    heads: str,
    rows: list[str],
    said: str,
) -> None:
    code, found, err = run(capsys, kind, "--answers", sheet(tmp_path, heads, rows))
    assert (code, found) == (1, None)
    assert said in err


def test_a_taster_counts_once_and_half_a_ballot_is_named(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    path = tmp_path / "b.csv"
    path.write_text("seat,correct\n3,1\n3,0\n", encoding="utf-8")
    code, _, err = run(capsys, "triangle", "--answers", str(path))
    assert (code, "row 3: seat 3 stands there twice" in err) == (1, True)
    rows = ["7,8", "6,", "5,9", "6,7"]
    _, found, _ = run(capsys, "liking", "--answers", sheet(tmp_path, "seat,a,b", rows))
    assert found["n"] == 3
    assert "Left out, since something was not answered: seat 2." in found["warnings"]


def test_a_panel_of_one_is_told_what_it_is(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    _, found, _ = run(capsys, "triangle", "--answers", sheet(tmp_path, "seat,correct", ["1"]))
    assert (found["critical"], found["significant"]) == (None, False)
    assert found["warnings"] == ["Too few tasters: not even if all were right would it be found."]


@pytest.mark.parametrize(
    "argv",
    [
        ["guess"],
        ["plan", "guess"],
        ["triangle"],
        ["plan", "triangle"],
        ["plan", "ranking", "--tasters", "9"],
    ],
)
def test_what_cannot_be_asked_is_said(capsys: pytest.CaptureFixture[str], argv: list[str]) -> None:
    code, found, err = run(capsys, *argv)
    assert (code, found) == (2, None)
    assert err
