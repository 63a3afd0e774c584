"""The `service` command: its shape, its order of work, and a sentence for what cannot be."""

from __future__ import annotations

import json
from datetime import datetime
from pathlib import Path

import pytest

from fresh_ladle.cli import main

SALAD = """Lentil salad
Serves 6
1 cup dry French green lentils
1/2 red onion, diced
1/4 cup olive oil
2 Tbsp sherry vinegar
1/2 tsp salt

Method
Boil the lentils 20 to 25 minutes. Drain them and leave them to cool 15 minutes.
Soak the onion in the vinegar with the salt 10 minutes.
Whisk in the oil, then turn the lentils in it.
"""
DIP = (
    "Dip\nServes 8\n2 cans chickpeas, drained\n1/2 cup tahini\n3 Tbsp lemon juice\n\nMethod\nBlend"
    " everything."
)
AT = ["--at", "2027-03-28T12:00", "--zone", "CET"]
"""The day on which the clock is put forward there."""


@pytest.fixture
def salad(tmp_path: Path) -> Path:
    path = tmp_path / "salad.txt"
    path.write_text(SALAD, encoding="utf-8")
    return path


def test_a_service_as_json(salad: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["service", str(salad), "--servings", "40", *AT, "--cooks", "2", "--json"]) == 0
    report = json.loads(capsys.readouterr().out)
    lentils = report["lines"][0]
    assert lentils["grams"] == pytest.approx(195 * 40 / 6, rel=0.02)
    assert lentils["amount"].endswith("cups")
    assert {"food", "packs", "left_over_grams", "cost"} <= set(report["shopping"][0])
    assert report["keep_by"] == "2027-03-30"
    steps = report["steps"]
    assert {"text", "start", "end", "active_minutes", "uses", "component"} <= set(steps[0])
    moments = [
        (datetime.fromisoformat(s["start"]), datetime.fromisoformat(s["end"])) for s in steps
    ]
    assert all(start.utcoffset() is not None and start < end for start, end in moments)
    assert max(end for _, end in moments) <= datetime.fromisoformat("2027-03-28T12:00+02:00")
    cost = report["cost_per_serving"]
    assert cost["value"] == 0
    assert "red onion" in cost["unknown"]


def test_prices_and_batches(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    dip, prices = tmp_path / "dip.txt", tmp_path / "prices.csv"
    dip.write_text(DIP, encoding="utf-8")
    prices.write_text("food,price,pack_grams\ntahini,4.00,400\n", encoding="utf-8")
    assert (
        main(["service", str(dip), "--servings", "40", *AT, "--prices", str(prices), "--json"]) == 0
    )
    report = json.loads(capsys.readouterr().out)
    tahini = next(row for row in report["shopping"] if row["food"] == "tahini")
    assert tahini["packs"] * 400 == pytest.approx(
        tahini["grams"] + tahini["left_over_grams"], abs=0.2
    )
    assert report["cost_per_serving"]["value"] == pytest.approx(
        tahini["grams"] * 0.01 / 40, abs=1e-3
    )
    batches = report["batches"]
    assert len(batches) == batches[0]["of"] > 1
    assert all(b["ml"] <= 1005 for b in batches)
    prices.write_text("food,price,pack_grams\ntahini,-1,400\n", encoding="utf-8")
    assert main(["service", str(dip), "--servings", "40", *AT, "--prices", str(prices)]) == 1
    assert "row 2" in capsys.readouterr().err


@pytest.mark.parametrize(
    ("asked", "said"),
    [
        (["--servings", "0", *AT], "1 to 5,000 servings"),
        (["--servings", "3.5", *AT], "make it 3 or 4"),
        (["--servings", "50000", *AT], "50,000 were asked for"),
        (["--servings", "4", "--at", "2020-01-01T12:00", "--zone", "UTC"], "is over"),
        (["--servings", "4", "--at", "noon", "--zone", "UTC"], "no date and time"),
        (["--servings", "4", "--at", "2027-03-28T02:30", "--zone", "CET"], "does not exist"),
        (["--servings", "4", *AT, "--cooks", "0"], "1 to 20 cooks"),
    ],
)
def test_what_cannot_be_is_said(
    salad: Path, asked: list[str], said: str, capsys: pytest.CaptureFixture[str]
) -> None:
    assert main(["service", str(salad), *asked]) == 2
    assert said in capsys.readouterr().err


def test_several_dishes_of_one_meal(
    salad: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    dip = tmp_path / "dip.txt"
    dip.write_text(DIP, encoding="utf-8")
    asked = ["service", str(salad), "--servings", "40", "--also", f"{dip}=24", *AT, "--json"]
    assert main(asked) == 0
    report = json.loads(capsys.readouterr().out)
    assert {step["dish"] for step in report["steps"]} == {"Lentil salad", "Dip"}
    tahini = next(line for line in report["lines"] if line["food"] == "tahini")
    assert tahini["grams"] == pytest.approx(120 * 3, rel=0.05)
    with pytest.raises(SystemExit):
        main([*asked, "--also", "dip"])
    assert "FILE=SERVINGS" in capsys.readouterr().err
