"""The command line: shapes, exit codes, and errors on standard error."""

from __future__ import annotations

import json
from pathlib import Path

import pytest

from fresh_ladle.cli import main

RECIPE = (
    "Bean dip\n## Base\n1 (15 oz) can white beans, drained and rinsed\n2 Tbsp tahini\njuice of 1"
    " lemon\n1/2 tsp salt\n"
)


@pytest.fixture
def recipe(tmp_path: Path) -> Path:
    path = tmp_path / "dip.txt"
    path.write_text(RECIPE, encoding="utf-8")
    return path


def test_read_prints_what_was_understood(recipe: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["read", str(recipe), "--json"]) == 0
    report = json.loads(capsys.readouterr().out)
    assert report["title"] == "Bean dip"
    beans = report["lines"][0]
    assert set(beans) >= {
        "text",
        "component",
        "food",
        "food_name",
        "grams",
        "preparation",
        "confidence",
        "alternatives",
        "understood",
    }
    assert beans["component"] == "Base"
    assert beans["preparation"] == ["drained", "rinsed"]
    assert beans["grams"]["low"] < beans["grams"]["value"] < beans["grams"]["high"]
    assert all(line["understood"] for line in report["lines"])


def test_read_says_what_each_line_of_the_page_is_and_what_is_asked(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    page = tmp_path / "page.txt"
    text = (
        "Home | Recipes\nGrain bowl\nServes 4\n2 cups farro\nDressing\n2 tbsp soy sauce\n\nToss the"
        " farro.\n"
    )
    page.write_text(text)
    assert main(["read", str(page), "--json"]) == 0
    report = json.loads(capsys.readouterr().out)
    assert [(line["kind"], line["text"]) for line in report["page"]] == [
        ("around", "Home | Recipes"),
        ("title", "Grain bowl"),
        ("yield", "Serves 4"),
        ("item", "2 cups farro"),
        ("heading", "Dressing"),
        ("item", "2 tbsp soy sauce"),
        ("step", "Toss the farro."),
    ]
    assert (report["parts"], report["method"], report["left_out"]) == (
        ["Dressing"],
        ["Toss the farro."],
        ["Home | Recipes"],
    )
    farro, soy = report["lines"]
    assert {one["about"] for one in farro["asked"]} == {"food"}
    assert farro["asked"][0]["answers"] == ["dry, then boiled", "after cooking"]
    assert soy["asked"][0]["question"] == "Regular soy sauce, or reduced-sodium?"


def test_figures_prints_a_serving(recipe: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["figures", str(recipe), "--servings", "6", "--json"]) == 0
    report = json.loads(capsys.readouterr().out)
    assert report["servings"] == 6
    sodium = report["figures"]["sodium_mg"]
    assert set(sodium) == {"value", "low", "high", "complete", "missing"}
    assert sodium["value"] == pytest.approx(
        sum(line["figures"]["sodium_mg"] for line in report["lines"]) / 6
    )
    assert report["serving_grams"] == pytest.approx(
        sum(line["grams"]["value"] for line in report["lines"]) / 6
    )
    assert report["flavor"]["salt"]["unit"] == "g salt per 100 g"
    assert {"id", "text"} <= set(report["cautions"][0])


def test_a_line_not_understood_is_named_and_the_rest_still_counts(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    path = tmp_path / "odd.txt"
    path.write_text("Odd\n1 cup tahini\n3 frobs of wumpus\n", encoding="utf-8")
    assert main(["figures", str(path), "--servings", "2", "--json"]) == 1
    out, err = capsys.readouterr()
    assert "wumpus" in err
    assert json.loads(out)["figures"]["energy_kcal"]["complete"] is False


@pytest.mark.parametrize(
    ("content", "says"),
    [
        (b"\x00\x01\x02\x89PNG\x00", "not text"),
        (b"", "nothing to read"),
        (b"Only a title\n", "no ingredient lines"),
        (b"Many\n" + b"1 cup tahini\n" * 10_000, "characters long"),
        (b"Many\n" + b"1 g salt\n" * 5_000, "lines"),
    ],
)
def test_what_is_not_a_recipe_is_refused(
    content: bytes, says: str, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    path = tmp_path / "bad.txt"
    path.write_bytes(content)
    assert main(["read", str(path)]) == 1
    assert says in capsys.readouterr().err


@pytest.mark.parametrize(
    "args",
    [["figures", "x", "--servings", "0"], ["figures", "x", "--servings", "many"], ["dance"], []],
)
def test_bad_usage_exits_with_two(args: list[str], capsys: pytest.CaptureFixture[str]) -> None:
    with pytest.raises(SystemExit) as stop:
        main(args)
    assert stop.value.code == 2


def test_a_missing_file_is_named(capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["read", "/no/such/file"]) == 1
    assert "/no/such/file" in capsys.readouterr().err


def test_compare_counts_steps_whatever_the_size_of_the_batch(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    a, b, double = tmp_path / "a.txt", tmp_path / "b.txt", tmp_path / "c.txt"
    a.write_text("Plain dressing\nServes 4\n60 g olive oil\n20 g white vinegar\n1 g salt\n")
    b.write_text("Gentle dressing\nServes 4\n60 g olive oil\n20 g white vinegar\n0.5 g salt\n")
    double.write_text("Plain dressing\nServes 4\n120 g olive oil\n40 g white vinegar\n2 g salt\n")
    assert main(["compare", str(a), str(b), "--json"]) == 0
    report = json.loads(capsys.readouterr().out)
    assert set(report["steps"]) == {
        "salt",
        "sour",
        "sweet",
        "rich",
        "savory",
        "bitter",
        "hot",
        "aroma",
        "body",
    }
    assert report["steps"]["salt"] < -3
    assert report["figures"]["sodium_mg"]["difference"] < 0
    assert any("flatter" in word for word in report["words"])
    assert main(["compare", str(a), str(double), "--json"]) == 0
    report = json.loads(capsys.readouterr().out)
    assert report["total"] == pytest.approx(0, abs=1e-9)
    assert report["words"] == ["tasters may not notice a difference"]


def test_compare_in_words_names_what_changed_and_complains_of_a_line(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    a, b = tmp_path / "a.txt", tmp_path / "b.txt"
    a.write_text("Plain dressing\n60 g olive oil\n20 g white vinegar\n1 g salt\n")
    b.write_text(
        "Odd dressing\n60 g olive oil\n40 g white vinegar\n1 g salt\n2 tbsp wumpus juise\n"
    )
    assert main(["compare", str(a), str(b)]) == 1
    out, err = capsys.readouterr()
    assert out.startswith("Odd dressing against Plain dressing: ")
    assert "sharper" in out.splitlines()[0]
    assert "wumpus juise" in err
    assert main(["compare", str(a), str(tmp_path / "none.txt")]) == 1
    assert "none.txt" in capsys.readouterr().err


SALAD = (
    "Barley salad\nServes 6\n3 cups cooked pearl barley\n1 cucumber, diced\n1/2 cup feta,"
    " crumbled\n3 Tbsp olive oil\n3 Tbsp lemon juice\n1/2 tsp salt\n"
)


def test_plans_as_json(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    (tmp_path / "salad.txt").write_text(SALAD)
    asked = [
        "--servings",
        "6",
        "--target",
        "sodium_mg<=260",
        "--school",
        "keep-good-fat",
        "--exclude",
        "tree-nut",
        "--max-changes",
        "4",
    ]
    assert main(["plan", str(tmp_path / "salad.txt"), *asked, "--json"]) == 0
    told = json.loads(capsys.readouterr().out)
    assert set(told) == {
        "plans",
        "otherwise",
        "nearest",
        "stages",
        "conflicts",
        "relaxations",
        "stopped_early",
    }
    assert told["nearest"] == told["stages"] == []
    plan = told["plans"][0]
    assert {"name", "why", "steps", "changes", "figures", "meets", "drift", "cautions"} <= set(plan)
    assert plan["changes"] <= 4
    assert plan["meets"]["sodium_mg<=260"] >= 0.8
    assert plan["figures"]["sodium_mg"]["value"] < 260
    assert plan["drift"]["total"] > 0
    assert all(abs(step) <= 2.03 for axis, step in plan["drift"].items() if axis != "total")
    assert told["conflicts"] == []


def test_no_plan_is_explained_on_standard_error(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    (tmp_path / "salad.txt").write_text(SALAD)
    assert (
        main(["plan", str(tmp_path / "salad.txt"), "--target", "sodium<=40", "--lock", "feta"]) == 1
    )
    said = capsys.readouterr()
    assert said.out.startswith("Nearest: ")
    assert "Sodium at most 40 mg a serving cannot be reached" in said.err
    assert "would do: Ask for sodium at most" in said.err


def test_a_refusal_as_json_has_the_nearest_versions_and_what_binds(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    plain = "House dressing\nServes 8\n1/2 cup olive oil\n1/4 cup red wine vinegar\n1 tsp salt\n"
    (tmp_path / "dressing.txt").write_text(plain)
    asked = [
        "--target",
        "sodium<=230",
        "--lock",
        "salt",
        "--kind",
        "vinaigrette",
        "--first",
        "2027-03-01",
        "--json",
    ]
    assert main(["plan", str(tmp_path / "dressing.txt"), *asked]) == 1
    told = json.loads(capsys.readouterr().out)
    assert told["plans"] == []
    assert [plan["name"] for plan in told["nearest"]] == ["Nearest: let the salt change"]
    assert [plan["name"] for plan in told["otherwise"]] == ["A smaller serving"]
    (conflict,) = told["conflicts"]
    assert conflict["binds"] == "lock:l3"
    unlock = next(r for r in told["relaxations"] if r["binds"] == "lock:l3")
    assert unlock["plan"]["meets"]["sodium_mg<=230"] >= 0.8
    assert [s["date"] for s in told["stages"][:2]] in ([], ["2027-03-01", "2027-03-08"])


@pytest.mark.parametrize(
    "wrong",
    [
        ["--target", "sodium=3"],
        ["--target", "joy<=3"],
        ["--target", "sodium<=3", "--lock", "gravel"],
        ["--exclude", "gravel"],
        [],
        ["--target", "sodium<=3", "--max-changes", "0"],
    ],
)
def test_a_plan_that_cannot_be_asked_is_bad_usage(
    wrong: list[str], tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    (tmp_path / "salad.txt").write_text(SALAD)
    assert main(["plan", str(tmp_path / "salad.txt"), *wrong]) == 2
    assert capsys.readouterr().err


def test_compose_makes_a_dish_of_what_is_in_the_house(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    have = tmp_path / "house.txt"
    have.write_text(
        "2 leeks, 1 tin white beans, some chicory, no lemon, olive oil, cider vinegar, wumpus juise"
    )
    assert main(["compose", "bean-salad", "--have", str(have), "--servings", "4", "--json"]) == 0
    told = capsys.readouterr()
    report = json.loads(told.out)
    assert "wumpus juise" in told.err
    assert report["not_understood"][0]["text"] == "wumpus juise"
    for proposal in report["proposals"]:
        assert set(proposal) >= {"name", "lines", "figures", "meets", "windows", "missing", "buy"}
        assert all(set(line) >= {"text", "role", "grams"} for line in proposal["lines"])
        assert all(w["low"] <= w["value"] <= w["high"] for w in proposal["windows"].values())
        assert proposal["missing"] == []
        assert not any("lemon" in line["text"] for line in proposal["lines"])


def test_compose_says_what_is_nearest_and_what_to_buy(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    have = tmp_path / "house.txt"
    have.write_text("harissa")
    assert main(["compose", "grain-salad", "--have", str(have), "--servings", "4", "--json"]) == 1
    report = json.loads(capsys.readouterr().out)
    assert report["proposals"] == []
    assert set(report["open_roles"]) == {"base", "fat", "acid"}
    assert report["would_do"]["buy"]
    assert (
        main(["compose", "slaw", "--have", str(have), "--servings", "4", "--target", "sodium=3"])
        == 2
    )
    assert "is not a target" in capsys.readouterr().err


def test_ratio_walks_two_lines(recipe: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert (
        main(
            [
                "ratio",
                str(recipe),
                "--lines",
                "white beans",
                "celery root",
                "--servings",
                "6",
                "--json",
            ]
        )
        == 0
    )
    report = json.loads(capsys.readouterr().out)
    assert report["points"][report["now"]]["share"] == 0
    assert report["points"][-1]["share"] == 1
    for point in report["points"]:
        assert set(point) >= {"share", "lines", "figures", "steps"}
    assert main(["ratio", str(recipe), "--lines", "salt", "--target", "sodium_mg<=200"]) == 0
    assert "¼ tsp salt" in capsys.readouterr().out
    assert main(["ratio", str(recipe), "--lines", "quicksilver"]) == 2
    assert main(["ratio", str(recipe), "--lines", "salt", "tahini", "lemon"]) == 2
    assert "two lines, or one alone" in capsys.readouterr().err


WITH_METHOD = """Salad
1 cucumber
1 tsp salt
2 tbsp olive oil
1 tbsp white vinegar
Method
Slice the cucumber. Salt it and leave for 20 minutes, then pour off what it gives.
Whisk the vinegar with half the oil and dress the cucumber. If you like, add pepper. Keeps a day.
"""


def test_method_prints_what_a_method_does(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    path = tmp_path / "salad.txt"
    path.write_text(WITH_METHOD, encoding="utf-8")
    assert main(["method", str(path), "--json"]) == 0
    report = json.loads(capsys.readouterr().out)
    assert [c["sort"] for c in report["clauses"]][-2:] == ["condition", "advice"]
    slice_, salt, leave, pour, whisk, dress = report["operations"]
    assert [slice_["id"], salt["id"]] in report["order"]
    assert [salt["id"], leave["id"]] in report["order"]
    assert [slice_["id"], whisk["id"]] not in report["order"]
    assert leave["minutes"] == {"value": 20, "low": 20, "high": 20}
    oil = next(i for i in whisk["inputs"] if i["name"] == "olive oil")
    assert oil["share"]["value"] == pytest.approx(0.5)
    of_salt = next(line for line in report["lines"] if "salt" in line["text"])
    assert of_salt["fates"]["poured off"]["value"] == pytest.approx(1 - of_salt["eaten"]["value"])
    assert {pour["id"], whisk["id"]} <= {
        before for before, after in report["order"] if after == dress["id"]
    }
    assert main(["method", str(path)]) == 0
    assert "poured off" in capsys.readouterr().out
