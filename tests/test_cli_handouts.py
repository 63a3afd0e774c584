"""The `card`, `claims` and `words` commands: their shape, and a sentence for what cannot be."""

from __future__ import annotations

import json
from pathlib import Path

import pytest

from fresh_ladle.cli import main
from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.card.content import CardChoices, card_of
from fresh_ladle.core.nutrients.labels import us_label
from fresh_ladle.core.page.recipe_text import read_recipe
from fresh_ladle.core.whole.appraisal import appraise
from fresh_ladle.data.load import load_knowledge

DIP = (
    "Bean dip\nServes 8\n1 can white beans, drained\n1/4 cup tahini\n1/2 tsp salt\n\nMethod\nBlend"
    " everything."
)


@pytest.fixture
def dip(tmp_path: Path) -> Path:
    path = tmp_path / "dip.txt"
    path.write_text(DIP, encoding="utf-8")
    return path


def test_claims_as_json(dip: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    usual = tmp_path / "usual.txt"
    usual.write_text(DIP.replace("1/2 tsp", "1 1/2 tsp"), encoding="utf-8")
    assert main(["claims", str(dip), "--servings", "8", "--against", str(usual), "--json"]) == 0
    found = {row["claim"]: row for row in json.loads(capsys.readouterr().out)}
    assert {"claim", "holds", "why", "rule", "at"} <= set(found["low-sodium"])
    assert found["reduced-sodium"]["holds"] is True
    assert found["no-salt-added"]["holds"] is False
    assert found["low-sodium"]["at"]["limit"] == 140
    assert len(found) == 21
    with pytest.raises(SystemExit):
        main(["claims", str(dip), "--kind", "nonsense"])
    capsys.readouterr()
    assert main(["claims", str(dip), "--servings", "8", "--rules", "eu"]) == 0
    assert "low salt: fails" in capsys.readouterr().out


def test_a_card_is_written_the_same_each_time(dip: Path, tmp_path: Path) -> None:
    one, two = tmp_path / "one.pdf", tmp_path / "two.pdf"
    for path in (one, two):
        assert (
            main(["card", str(dip), "--servings", "8", "--pdf", str(path), "--form", "index"]) == 0
        )
    assert one.read_bytes() == two.read_bytes()
    assert one.read_bytes().startswith(b"%PDF")
    assert (
        main(["card", str(dip), "--servings", "8", "--pdf", str(tmp_path / "no" / "where.pdf")])
        == 2
    )


def test_the_card_says_the_figures_of_the_command_line(
    dip: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    assert main(["figures", str(dip), "--servings", "8", "--json"]) == 0
    serving = json.loads(capsys.readouterr().out)["figures"]
    knowledge = load_knowledge()
    reading = read_recipe(DIP, Reader(knowledge.pantry, knowledge.preparations), 8)
    dish = appraise(reading.recipe, knowledge)
    for figure in card_of(dish, dish, CardChoices(), knowledge).figures:
        assert figure.value == us_label(figure.nutrient, serving[figure.nutrient]["value"])


def test_words_of_any_text(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    text = tmp_path / "text.txt"
    text.write_text("A detox bowl.\nSharp and cold.", encoding="utf-8")
    assert main(["words", str(text), "--json"]) == 0
    (mark,) = json.loads(capsys.readouterr().out)
    assert (mark["words"], mark["at"]) == ("detox", 2)
    assert mark["why"]
    assert mark["instead"]
    text.write_text("Sharp and cold.", encoding="utf-8")
    assert main(["words", str(text), "--json"]) == 0
    assert json.loads(capsys.readouterr().out) == []
