"""Routes: every page answers, edits hold, bad input is refused in words and nothing is half
saved."""

from __future__ import annotations

import json
import re
from time import monotonic

import pytest
from fastapi.testclient import TestClient

from fresh_ladle.cli import main
from tests.web.sent import limits, own_food, page_form

PAGES = [
    "/",
    "/read-in",
    "/read-in?sample=1",
    "/recipes/1",
    "/recipes/1/compare",
    "/recipes/1/card",
    "/recipes/1/card?label=eu",
    "/foods",
    "/foods?q=tahini",
    "/foods/tahini",
    "/foods/new?like=feta",
    "/recipes/1/export/jsonld",
    "/targets",
    "/recipes/2/lines/l2/swaps",
    "/recipes/2/figures/sodium_mg",
    "/recipes/2/figures/savory",
    "/taste",
    "/recipes/2/moves",
    "/recipes/2/repairs",
    "/recipes/1/repairs",
    "/recipes/1/plans",
    "/plan-many",
]
RECIPE = (
    "Lemon dip\nServes 6\n1 (15 oz) can chickpeas, drained\n3 Tbsp tahini\njuice of 1 lemon\n1/2"
    " tsp salt\n"
)


@pytest.mark.parametrize("url", PAGES)
def test_every_page_answers_with_its_headers(url: str, client: TestClient) -> None:
    answer = client.get(url)
    assert answer.status_code == 200
    assert "script-src 'self'" in answer.headers["content-security-policy"]
    assert not re.search(r"<script(?![^>]*src=)|\son\w+=|style=\"", answer.text), (
        "no inline script or style"
    )


def revision_of(client: TestClient, recipe: int) -> str:
    found = re.search(r'data-revision="(\d+)"', client.get(f"/recipes/{recipe}").text)
    assert found
    return found[1]


def read_in(client: TestClient, text: str = RECIPE) -> int:
    shown = client.post("/read-in", data={"text": text, "region": "us"})
    assert shown.status_code == 200
    form = page_form(shown.text) | {
        "title": ["Lemon dip"],
        "kind": ["legume-dip"],
        "servings": ["6"],
    }
    kept = client.post("/read-in/keep", data=form, follow_redirects=False)
    assert kept.status_code == 303, kept.text
    return int(kept.headers["location"].rsplit("/", 1)[1])


def test_a_pasted_recipe_is_read_mended_and_kept(client: TestClient) -> None:
    recipe = read_in(client)
    assert "Lemon dip" in client.get(f"/recipes/{recipe}").text
    assert "Lemon dip" in client.get("/").text


def test_the_screen_and_the_command_line_agree_to_the_digit(
    client: TestClient, tmp_path, capsys: pytest.CaptureFixture[str]
) -> None:  # type: ignore[no-untyped-def]
    recipe = read_in(client)
    (tmp_path / "r.txt").write_text(RECIPE)
    assert main(["figures", str(tmp_path / "r.txt"), "--json"]) == 0
    figures = json.loads(capsys.readouterr().out)["figures"]
    shown = client.get(f"/recipes/{recipe}").text
    for nutrient, decimals, unit in (
        ("energy_kcal", 0, "kcal"),
        ("sodium_mg", 0, "mg"),
        ("fat_g", 1, "g"),
        ("fiber_g", 1, "g"),
        ("protein_g", 1, "g"),
    ):
        assert (
            f'<span class="rung-value">{figures[nutrient]["value"]:,.{decimals}f} {unit}</span>'
            in shown
        )


def test_an_edit_holds_and_undo_takes_it_back(client: TestClient) -> None:
    htmx = {"HX-Request": "true"}
    changed = client.post(
        "/recipes/2/lines/l8/amount",
        data={"amount": "1/4 tsp", "revision": revision_of(client, 2)},
        headers=htmx,
    )
    assert changed.status_code == 200
    assert 'value="¼ tsp"' in client.get("/recipes/2").text
    assert (
        'value="¾ tsp"'
        in client.post(
            "/recipes/2/undo", data={"revision": revision_of(client, 2)}, headers=htmx
        ).text
    )
    assert (
        'value="¼ tsp"'
        in client.post(
            "/recipes/2/redo", data={"revision": revision_of(client, 2)}, headers=htmx
        ).text
    )


@pytest.mark.parametrize(
    "amount", ["", "lots", "-3 tsp", "1/0 cup", "900000 cups", "2 frobs", "2 bunches", "0 tsp"]
)
def test_an_amount_that_cannot_be_changes_nothing(amount: str, client: TestClient) -> None:
    before = client.get("/recipes/2").text
    answer = client.post(
        "/recipes/2/lines/l8/amount",
        data={"amount": amount, "revision": revision_of(client, 2)},
        headers={"HX-Request": "true"},
    )
    assert answer.status_code in (200, 422)
    assert "Nothing was changed" in answer.text
    assert client.get("/recipes/2").text == before


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("", "nothing to read"),
        ("Just a title", "no ingredient lines"),
        ("Many\n" + "1 g salt\n" * 10_000, "characters long"),
        ("Many\n" + "1 g salt\n" * 400, "lines"),
        ("\x00\x01PNG\x02\x03\x04", "no ingredient lines"),
        ("\ufffd\ufffdPNG\ufffd\ufffd", "not text"),
    ],
)
def test_what_is_not_a_recipe_is_refused_and_given_back(
    text: str, says: str, client: TestClient
) -> None:
    shelf = client.get("/").text
    answer = client.post("/read-in", data={"text": text})
    assert answer.status_code == 422
    assert says in answer.text.lower()
    assert "Traceback" not in answer.text
    assert client.get("/").text == shelf


@pytest.mark.parametrize(
    ("servings", "says"),
    [
        ("0", "more than 0"),
        ("-4", "more than 0"),
        ("many", "must be a number"),
        ("nan", "must be a number"),
    ],
)
def test_a_servings_count_that_cannot_be_is_refused(
    servings: str, says: str, client: TestClient
) -> None:
    shelf = client.get("/").text
    form = {
        "line": ["1 cup tahini"],
        "title": "x",
        "kind": "legume-dip",
        "servings": servings,
    }
    answer = client.post("/read-in/keep", data=form)
    assert answer.status_code == 422
    assert says in answer.text
    assert client.get("/").text == shelf


@pytest.mark.parametrize(
    "url",
    [
        "/recipes/999",
        "/foods/no-such-food",
        "/nowhere",
        "/recipes/1/figures/nonsense",
        "/recipes/abc",
        "/recipes/1/lines/zz/swaps",
    ],
)
def test_a_wrong_address_says_so_without_a_trace(url: str, client: TestClient) -> None:
    answer = client.get(url)
    assert answer.status_code in (404, 422)
    assert "Traceback" not in answer.text
    assert "Shelf" in answer.text


def test_names_are_escaped(client: TestClient) -> None:
    form = {
        "line": ["1 cup tahini", "<b>x</b>"],
        "sort": ["item", "heading"],
        "title": "<script>alert(1)</script>",
        "kind": "legume-dip",
        "servings": "4",
    }
    client.post("/read-in/keep", data=form)
    assert "<script>alert" not in client.get("/").text


def test_a_swap_is_taken_and_kept_as_a_version(client: TestClient) -> None:
    headers = {"HX-Request": "true"}
    taken = client.post(
        "/recipes/6/lines/l3/swaps/soy-to-reduced-sodium-soy",
        data={"revision": revision_of(client, 6), "share": ""},
        headers=headers,
    )
    assert "educed-sodium soy sauce" in taken.text or "low-sodium soy sauce" in taken.text.lower()
    kept = client.post(
        "/recipes/6/keep",
        data={
            "revision": revision_of(client, 6),
            "name": "less soy",
            "note": "for the night shift",
        },
    )
    assert "less soy" in kept.text
    assert "for the night shift" in kept.text


def test_targets_are_checked_before_they_are_saved(client: TestClient) -> None:
    rows = {
        "sodium_mg_most": "100",
        "sodium_mg_least": "5",
        "sodium_mg_basis": "100 g",
        "fiber_g_least": "2,5",
    }
    good = {
        "name": "Snack",
        "eaten_as": "snack",
        "school": "lean-dairy",
        "out": ["sesame"],
        "foods_out": "feta",
        **limits(**rows, fiber_g_firmness="soft"),
    }
    saved = client.post("/targets", data=good).text
    for said in (
        "Snack",
        "sodium at most 100 mg in 100 g",
        "fiber rather at least 2.5 g",
        "without feta, sesame",
    ):
        assert said in saved
    assert "is there already" in client.post("/targets", data=good).text
    for changed, says in (
        ({"sodium_mg_most": "few"}, "not a number"),
        ({"sodium_mg_least": "500"}, "cannot be at least 500"),
        ({"fiber_g_least": "-1"}, "not a limit a serving can have"),
    ):
        assert (
            says
            in client.post(
                "/targets", data={**good, "name": "Other", **limits(**{**rows, **changed})}
            ).text
        )
    again = client.post("/targets", data={**good, "name": "Other", "foods_out": "gravel"}).text
    assert "neither an allergen nor a food" in again
    assert 'value="2,5"' in again, "what was typed is still there"
    assert (
        "did not arrive whole"
        in client.post("/targets", data={**good, "name": "Other", "least": ["1"]}).text
    )
    bare = {"name": "Other", "eaten_as": "snack", "school": "lean-dairy"}
    assert "at least one limit" in client.post("/targets", data=bare).text
    assert "Other" not in client.get("/targets").text


HTMX = {"HX-Request": "true"}


def test_a_question_is_answered_in_one_tap_or_set_aside(client: TestClient) -> None:
    shown = client.get("/recipes/9").text
    assert "Regular soy sauce, or reduced-sodium?" in shown
    answer = {"about": "food", "answer": "reduced-sodium", "revision": revision_of(client, 9)}
    after = client.post("/recipes/9/lines/l3/answer", data=answer, headers=HTMX).text
    assert "Regular soy sauce" not in after
    assert "Soy sauce, reduced sodium" in after
    client.post("/recipes/9/undo", data={"revision": revision_of(client, 9)}, headers=HTMX)
    skipped = client.post(
        "/recipes/9/lines/l3/answer",
        data={"about": "food", "answer": "", "revision": revision_of(client, 9)},
        headers=HTMX,
    ).text
    assert "Regular soy sauce" not in skipped
    assert 'title="Soy sauce (wheat and soy)"' in skipped
    wrong = client.post(
        "/recipes/9/lines/l3/answer",
        data={"about": "food", "answer": "nonsense", "revision": revision_of(client, 9)},
        headers=HTMX,
    )
    assert "Nothing was changed" in wrong.text


def test_part_of_a_batch_goes_into_another_recipe(client: TestClient) -> None:
    put = client.post(
        "/recipes/13/batches",
        data={"source": "1", "part": "1/4", "revision": revision_of(client, 13)},
        headers=HTMX,
    ).text
    assert "of Tarragon-buttermilk dressing" in put
    line = re.findall(r'id="amount-(l\d+)"', put)[-1]
    more = client.post(
        f"/recipes/13/lines/{line}/nudge",
        data={"steps": "1", "revision": revision_of(client, 13)},
        headers=HTMX,
    ).text
    assert 'value="½ batch"' in more
    loop = client.post(
        "/recipes/13/batches",
        data={"source": "13", "part": "1", "revision": revision_of(client, 13)},
        headers=HTMX,
    ).text
    assert "cannot hold itself" in loop
    assert client.get("/recipes/13/card").status_code == 200
    assert client.get("/recipes/13/compare?a=1").status_code == 200


@pytest.mark.parametrize(
    ("by", "size", "says"),
    [
        ("grams", "30", "of 30 g"),
        ("ml", "30", "servings of"),
        ("count", "0", "Nothing was changed"),
        ("grams", "-3", "Nothing was changed"),
    ],
)
def test_servings_by_count_weight_or_volume(
    by: str, size: str, says: str, client: TestClient
) -> None:
    form = {
        "by": by,
        "size": size,
        "kind": "vegetable-dip",
        "batch_yield": "",
        "revision": revision_of(client, 2),
    }
    assert says in client.post("/recipes/2/serving", data=form, headers=HTMX).text


def test_an_own_food_from_a_label(client: TestClient) -> None:
    shown = client.post("/foods/new", data=own_food()).text
    assert "600 kcal" in shown
    assert "House tahini" in client.get("/foods?q=house").text
    assert (
        "1.50 per 100 g"
        in client.post(
            "/foods/own-house-tahini/price", data={"amount": "4,50", "pack_grams": "300"}
        ).text
    )


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"fat_g": "-1"}, "cannot be negative"),
        ({"sodium_mg": ""}, "sodium must be given"),
        ({"fat_g": "lots"}, "not a number"),
        ({"serving": "0"}, "more than 0 g"),
        ({"like": "wumpus"}, "no measures and taste"),
        ({"name": " "}, "give the food a name"),
        ({"protein_g": "nan"}, "not a number"),
    ],
)
def test_a_wrong_label_is_refused_whole(
    change: dict[str, str], says: str, client: TestClient
) -> None:
    assert says in client.post("/foods/new", data=own_food(**change)).text
    assert client.get("/foods/own-house-tahini").status_code == 404


def test_two_own_foods_never_become_one(client: TestClient) -> None:
    """Names that leave nothing for an address, and names alike but for their accents, each keep a
    food of their own."""
    names = ["自家製ドレッシング", "Домашний соус", "House tahini", "House tahíni", "house-tahini"]
    keys = [
        client.post("/foods/new", data=own_food(name=name, sodium_mg=str(n))).url.path
        for n, name in enumerate(names, start=11)
    ]
    assert len(set(keys)) == len(names)
    for key, name, sodium in zip(
        keys, names, ("37 mg", "40 mg", "43 mg", "47 mg", "50 mg"), strict=True
    ):
        shown = client.get(key).text
        assert name in shown
        assert sodium in shown


def test_an_own_food_is_changed_by_its_own_form_only(client: TestClient) -> None:
    client.post("/foods/new", data=own_food())
    again = client.post(
        "/foods/new", data=own_food(name="HOUSE TAHINI", fat_g="1", note="typed with care")
    )
    assert again.status_code == 422
    assert "is there already" in again.text
    assert "typed with care" in again.text, "what was typed stays"
    assert "53.3 g" in client.get("/foods/own-house-tahini").text
    form = client.get("/foods/own-house-tahini/change").text
    figures = dict(
        re.findall(r'name="nutrient" value="(\w+)">\s*<input [^>]*?value="([^"]*)"', form)
    )
    assert figures["fat_g"] == "53.3333"
    figures["sodium_mg"] = "20"
    sent = own_food(key="own-house-tahini", serving="100", rounding="exact")
    sent |= {"nutrient": list(figures), "figure": list(figures.values())}
    changed = client.post("/foods/new", data=sent)
    assert changed.url.path == "/foods/own-house-tahini"
    assert "20 mg" in changed.text
    assert "51.7 to 55" in changed.text, "a figure left as it version keeps the range of its label"
    assert client.get("/foods/tahini/change").status_code == 404


def test_a_file_is_read_in(client: TestClient) -> None:
    csv_file = {
        "file": (
            "bean dip.csv",
            b"amount,unit,food\n1,cup,tahini\n2,tbsp,lemon juice\n",
            "text/csv",
        )
    }
    assert "2 tbsp lemon juice" in client.post("/read-in", data={"text": ""}, files=csv_file).text
    broken = client.post(
        "/read-in",
        data={"text": ""},
        files={"file": ("x.xlsx", b"PK\x03\x04junk", "application/zip")},
    )
    assert broken.status_code == 422
    assert "not a readable archive" in broken.text.lower()


def test_a_release_that_is_none_is_reported_by_its_job(client: TestClient) -> None:
    page = client.post("/foods/import", files={"file": ("r.zip", b"junk", "application/zip")}).text
    end = monotonic() + 30
    while "Nothing was changed" not in page and monotonic() < end:
        page = client.get("/foods/import/1").text
    assert "not a readable archive" in page


ODD_NUMBERS = ["²", "9" * 5000, "1e400", "-1", "０", ""]


@pytest.mark.parametrize(
    "typed", ODD_NUMBERS, ids=["superscript", "endless", "beyond", "negative", "wide", "none"]
)
def test_a_number_that_is_none_is_no_stumbling_block(typed: str, client: TestClient) -> None:
    for address in (
        f"/targets?edit={typed}",
        f"/?against={typed}",
        f"/compare?x=1.1&x={typed}.1",
        f"/compare?x=1.1&against={typed}",
    ):
        assert client.get(address).status_code < 500, address
    serving = {
        "size": typed,
        "by": "count",
        "kind": "slaw",
        "profile_id": typed,
        "revision": revision_of(client, 4),
    }
    serving |= {"batch_yield": typed, "served_celsius": typed}
    preview = {"line": "1 cup tahini", "kind": "slaw", "servings": "4"}
    posts: list[tuple[str, dict[str, str]]] = [
        ("/recipes/4/serving", serving),
        ("/read-in/keep", {**preview, "profile_id": typed}),
        ("/saved-plans/1/take", {"revision": typed, "step": "x"}),
        ("/recipes/4/lines/l1/eaten", {"percent": typed[:6], "revision": revision_of(client, 4)}),
        ("/recipes/4/lines/l1/amount", {"amount": typed[:80], "revision": revision_of(client, 4)}),
        ("/foods/tahini/price", {"amount": typed[:12], "pack_grams": typed[:12]}),
        ("/plan-many", {"target": f"sodium <= {typed[:100]}", "recipe": typed}),
    ]
    for address, sent in posts:
        assert client.post(address, data=sent).status_code < 500, address


def test_a_line_that_is_gone_is_named(client: TestClient) -> None:
    gone = {"revision": revision_of(client, 8), "share": "1"}
    for answer in (
        client.get("/recipes/8/lines/l99/swaps"),
        client.get("/recipes/8/lines/l99/reduction?first=2027-01-04"),
        client.get(
            "/recipes/8/moves/compare?pick=l99:salt-halved-lemon-up:1&pick=l98:salt-halved-lemon-up:1"
        ),
        client.post("/recipes/8/lines/l99/swaps/salt-halved-lemon-up", data=gone),
    ):
        assert answer.status_code == 422
        assert "here is no line" in answer.text


def test_the_state_of_an_import_is_not_that_of_other_work(client: TestClient) -> None:
    client.post("/plan-many", data={"target": "sodium<=140", "recipe": ["3"]})
    for answer in (
        client.get("/foods/import/1"),
        client.post("/foods/import/1/stop"),
        client.get("/foods/import/77"),
    ):
        assert answer.status_code == 404
        assert "not running any more" in answer.text


def test_words_of_an_error_keep_their_capitals(client: TestClient) -> None:
    recipe = re.search(
        r"/recipes/(\d+)",
        str(
            client.post(
                "/read-in/keep",
                data={
                    "line": "1 cup tahini",
                    "kind": "slaw",
                    "servings": "4",
                    "title": "BBQ Dip, Mk II",
                },
            ).url
        ),
    )
    assert recipe
    gone = client.get(f"/recipes/{recipe[1]}/lines/l99/swaps")
    assert "in BBQ Dip, Mk II." in gone.text


def test_an_emptied_amount_is_answered_in_words_and_changes_nothing(client: TestClient) -> None:
    before = draft_amounts(client)
    assert len(before) >= 3
    answer = client.post(
        "/recipes/3/lines/l1/amount",
        data={"amount": "", "revision": revision_of(client, 3)},
        headers=HTMX,
    )
    assert answer.status_code == 200
    assert (
        "Nothing was changed: no amount was given: write for example 2 tbsp or 30 g, or remove the"
        " line." in answer.text
    )
    assert draft_amounts(client) == before


def draft_amounts(client: TestClient) -> list[str]:
    return re.findall(r'name="amount" value="([^"]*)"', client.get("/recipes/3").text)


def test_what_the_text_says_of_parts_and_servings_survives_the_preview(client: TestClient) -> None:
    text = (
        "Bowl\nServes 2 to 4\n1 kg cucumber\nhalf of the dressing below\n## Dressing\n1/2 cup olive"
        " oil\n1 tsp salt"
    )
    preview = client.post("/read-in", data={"text": text}).text
    assert "50% of it is counted" in preview
    assert 'value="2 to 4"' in preview
    assert "50% of Dressing" in preview
    form = page_form(preview)
    kept = client.post("/read-in/keep", data=form, follow_redirects=True)
    assert "50% eaten" in kept.text
    for servings in ("2 to 3 to 4", "some", "2 to"):
        refused = client.post("/read-in/keep", data={**form, "servings": [servings]})
        assert refused.status_code == 422
        assert "servings must be a number" in refused.text.lower()


def test_a_packs_ingredient_list_sets_what_the_own_food_brings(client: TestClient) -> None:
    pasted = "sesame (80%), dextrose, sunflower oil, salt. May contain peanuts."
    made = client.post("/foods/new", data=own_food(pack_list=pasted), follow_redirects=True)
    assert "Added sugar: dextrose; by weight number 2 of 4." in made.text
    assert "Added oil or fat: oil; by weight number 3 of 4." in made.text
    assert "Contains sesame." in made.text
    assert "The pack warns of peanut." in made.text
    key = str(made.url).rsplit("/", 1)[-1]
    assert "dextrose" in client.get(f"/foods/{key}/change").text
    refused = client.post("/foods/new", data=own_food(name="Other", pack_list="x" * 4001))
    assert refused.status_code == 422
    assert "ingredient list" in refused.text
