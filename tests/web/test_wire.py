"""What holds whatever comes: headers on every answer, bodies with an end, a full disk, two servers,
one port."""

from __future__ import annotations

import inspect
import json
import socket
import sqlite3
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path

import pypdfium2
import pytest
from fastapi.testclient import TestClient

from fresh_ladle.cli import main
from fresh_ladle.core.errors import Refused
from fresh_ladle.core.plain_text import clean_text
from fresh_ladle.formats.any_recipe import recipe_text_from_file
from fresh_ladle.formats.card_sheet import BY_ID as FORMS
from fresh_ladle.formats.card_sheet import booklet_pdf
from fresh_ladle.store import database as store
from fresh_ladle.store.database import StoreError, only_one, open_database
from fresh_ladle.store.recipes.drafts import draft
from fresh_ladle.store.trouble import WORDS, Trouble, trouble_of
from fresh_ladle.web.door.wire import SECURITY_HEADERS
from fresh_ladle.web.places.card.made_card import made_card, sheet_of
from tests.web.test_access import routes


def chunks(total: int) -> Iterator[bytes]:
    for _ in range(total // 1_000_000):
        yield b"x" * 1_000_000


def test_a_body_in_chunks_ends_at_its_limit(client: TestClient) -> None:
    head = {"content-type": "application/x-www-form-urlencoded"}
    answer = client.post("/read-in", content=chunks(12_000_000), headers=head)
    assert answer.status_code == 413
    assert "too much at once" in answer.text
    field = client.post("/read-in", content=b"text=" + b"x" * 3_000_000, headers=head)
    assert field.status_code in (400, 422)
    assert "nothing at this address" not in field.text
    assert (
        client.post("/read-in", content=b"text=Dip%0A1 cup peas", headers=head).status_code == 200
    )


def test_every_answer_has_the_security_headers(client: TestClient) -> None:
    for answer in (
        client.get("/"),
        client.get("/nowhere"),
        client.get("/static/none.css"),
        client.get("/", headers={"host": "evil.example"}),
        client.post("/read-in", data={"text": "x"}, headers={"origin": "http://evil.example"}),
        client.post("/read-in", content=chunks(11_000_000)),
    ):
        for name, value in SECURITY_HEADERS.items():
            assert answer.headers[name] == value, (answer.status_code, name)


def test_another_site_and_another_name_are_refused_and_no_folder_is_listed(
    client: TestClient,
) -> None:
    for head in (
        {"origin": "http://evil.example"},
        {"sec-fetch-site": "cross-site"},
        {"origin": "null"},
    ):
        assert (
            client.post("/recipes/1/undo", data={"revision": "1"}, headers=head).status_code == 403
        )
    assert (
        client.post(
            "/recipes/1/undo", data={"revision": "1"}, headers={"origin": "http://testserver"}
        ).status_code
        != 403
    )
    assert client.get("/", headers={"host": "evil.example"}).status_code == 400
    for folder in ("/static", "/static/", "/static/vendor/", "/static/..%2f..%2fcore/"):
        assert client.get(folder).status_code == 404, folder
    for method in ("PUT", "DELETE", "PATCH", "TRACE"):
        assert client.request(method, "/recipes/1").status_code in (403, 405)
    assert (
        "access-control-allow-origin"
        not in client.get("/", headers={"origin": "http://evil.example"}).headers
    )


def full(path: Path) -> sqlite3.Connection:
    """A connection to a database that has no page left to grow by."""
    connection = REAL_CONNECT(path)
    pages = connection.execute("PRAGMA page_count").fetchone()[0]
    connection.execute(f"PRAGMA max_page_count = {pages}")
    return connection


REAL_CONNECT = store.connect


def test_a_full_disk_is_said_so_pages_are_read_and_writing_goes_on(
    client: TestClient, monkeypatch: pytest.MonkeyPatch
) -> None:
    long_note = "stir it " * 300
    many = {"line": [*["1 cup peas"] * 9, *[long_note] * 8], "sort": [*["item"] * 9, *["step"] * 8]}
    read_in = {**many, "title": "Pea dip", "kind": "legume-dip", "servings": "4", "region": "us"}
    monkeypatch.setattr(store, "connect", full)
    client.app.state.workbench._connections.close()
    seen = [client.post("/read-in/keep", data=read_in, follow_redirects=False) for _ in range(40)]
    refused = [answer for answer in seen if answer.status_code == 507]
    assert refused, {answer.status_code for answer in seen}
    assert "The disk is full" in refused[0].text
    assert "try once more" not in refused[0].text
    for address in ("/", "/recipes/4", "/recipes/4/card", "/foods"):
        assert client.get(address).status_code == 200, address
    monkeypatch.setattr(store, "connect", REAL_CONNECT)
    assert client.post("/read-in/keep", data=read_in, follow_redirects=False).status_code == 303


def test_trouble_in_words() -> None:
    error = sqlite3.OperationalError("x")
    assert trouble_of(error) is None
    for code, trouble in (
        (sqlite3.SQLITE_FULL, Trouble.FULL),
        (sqlite3.SQLITE_READONLY_DBMOVED, Trouble.READ_ONLY),
        (sqlite3.SQLITE_CORRUPT, Trouble.DAMAGED),
        (sqlite3.SQLITE_BUSY, Trouble.BUSY),
        (sqlite3.SQLITE_CANTOPEN, Trouble.GONE),
    ):
        error.sqlite_errorcode = code
        assert trouble_of(error) is trouble
    error.sqlite_errorcode = sqlite3.SQLITE_CONSTRAINT
    assert trouble_of(error) is None, "that is our own fault"
    assert set(WORDS) == set(Trouble)


def test_a_damaged_file_and_a_place_that_is_none_are_named(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    damaged = tmp_path / "damaged.db"
    damaged.write_bytes(b"SQLite format 3\x00" + b"\x07" * 5000)
    with pytest.raises(StoreError, match="is damaged"):
        open_database(damaged)
    assert damaged.read_bytes().startswith(b"SQLite format 3"), "it was left as it is"
    (tmp_path / "file").write_text("x", encoding="utf-8")
    with pytest.raises(StoreError, match="cannot be used"):
        open_database(tmp_path / "file" / "inside.db")
    assert main(["backup", str(tmp_path / "copy.db"), "--database", str(damaged)]) == 1
    said = capsys.readouterr().err
    assert "damaged" in said
    assert "Traceback" not in said


def test_one_workbench_to_a_file(tmp_path: Path) -> None:
    path = tmp_path / "kitchen.db"
    with (
        only_one(path),
        pytest.raises(StoreError, match="another workbench is running"),
        only_one(path),
    ):
        pass
    with only_one(path):
        pass


def test_the_address_is_said_only_when_it_is_ours(tmp_path: Path) -> None:
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        port = taken.getsockname()[1]
        run = subprocess.run(
            [
                sys.executable,
                "-m",
                "fresh_ladle.cli",
                "serve",
                "--port",
                str(port),
                "--database",
                str(tmp_path / "a.db"),
            ],
            capture_output=True,
            text=True,
            timeout=60,
            check=False,
        )
    assert run.returncode == 1
    assert run.stdout == ""
    assert f"port {port} cannot be used" in run.stderr
    assert "Traceback" not in run.stderr


def test_a_serving_that_cannot_be_leaves_the_targets_as_they_were(client: TestClient) -> None:
    def shown() -> str:
        return client.get("/recipes/4").text.split('id="set-profile"')[1].split("</select>")[0]

    before = shown()
    revision = client.get("/recipes/4").text.split('data-revision="')[1].split('"')[0]
    wrong = {
        "revision": revision,
        "size": "0",
        "by": "count",
        "kind": "bean-salad",
        "profile_id": "",
    }
    answer = client.post("/recipes/4/serving", data=wrong, headers={"HX-Request": "true"})
    assert "Nothing was changed" in answer.text
    assert shown() == before


def test_no_handler_runs_on_the_event_loop_where_the_database_would_hold_up_every_page(
    client: TestClient,
) -> None:
    found = routes(client.app)  # type: ignore[arg-type]
    assert len(found) > 150
    assert [route.path for route in found if inspect.iscoroutinefunction(route.endpoint)] == []


@pytest.mark.parametrize(
    "address", ["/ballot/none/score", "/ballot/none", "/practice-seat/none/1", "/welcome/none"]
)
def test_what_anyone_may_reach_takes_a_short_form_and_reads_none_without_a_key(
    address: str, client: TestClient
) -> None:
    head = {"content-type": "application/x-www-form-urlencoded"}
    for body in (b"x" * 11_000_000, chunks(11_000_000), b"cup=" + b"9" * 70_000):
        assert client.post(address, content=body, headers=head).status_code in (404, 413)
    for cup in ("9" * 5000, "²", "-1", "1e9", ""):
        answer = client.post(address, data={"cup": cup, "liking": cup, "code": cup, "number": "1"})
        assert answer.status_code in (404, 422), (cup, answer.status_code)
    assert client.post(
        address, content=b"", headers={"content-length": "9" * 5000}
    ).status_code in (404, 413)


NOT_TO_PRINT = "Dip\x00 of\x0bbeans \x1fand \ufffeherbs\x07 \x92as it was\ud800"


def test_text_is_cleaned_where_it_comes_in_and_everything_can_be_written_of_it(
    client: TestClient,
) -> None:
    title = NOT_TO_PRINT.replace("\ud800", "")
    form = {"title": title, "kind": "legume-dip", "servings": "4", "line": ["1 cup chickpeas\x1f",
        "Blend\x0cit.\x00"],
            "sort": ["item", "step"], "region": "us"}  # fmt: skip
    kept = client.post("/read-in/keep", data=form, follow_redirects=False)
    address = kept.headers["location"]
    with client.app.state.workbench.store() as connection:  # type: ignore[attr-defined]
        recipe = draft(connection, int(address.rsplit("/", 1)[1])).recipe
    assert recipe.title.split() == ["Dip", "of", "beans", "and", "herbs", "’as", "it", "was"]
    for tail in ("card.pdf", "card.png", "export/xlsx", "export/csv", "export/jsonld", "class.pdf"):
        assert client.get(f"{address}/{tail}").status_code == 200, tail
    pasted = json.dumps(
        {"@type": "Recipe", "name": NOT_TO_PRINT, "recipeIngredient": ["1 cup\u0000 chickpeas"]}
    )
    shown = client.post("/read-in", data={"text": pasted})
    assert shown.status_code == 200
    assert clean_text(shown.text) == shown.text
    read = recipe_text_from_file(b"Dip\x0bof beans\n1 cup\x1f chickpeas\n", "notes.txt")
    assert read == clean_text(read) == "Dip\nof beans\n1 cup chickpeas\n"


def test_one_bad_card_does_not_stop_a_booklet_and_is_named_in_it(client: TestClient) -> None:
    workbench = client.app.state.workbench  # type: ignore[attr-defined]
    with workbench.store() as connection:
        sheet = sheet_of(made_card(workbench, connection, 1).card, workbench.knowledge)
    good, torn = sheet, {**sheet, "title": "Torn dip", "picture": "<svg>\x0b"}
    full_up = {**sheet, "title": "Endless dip", "steps": [["stir it " * 40, ""]] * 120}
    pdf = pypdfium2.PdfDocument(
        booklet_pdf([good, torn, full_up, good], [("Lost dip", "it has no line")], FORMS["half"])
    )
    texts = [page.get_textpage().get_text_range() for page in pdf]
    assert len(texts) == 3
    assert all(name in texts[2] for name in ("Torn dip", "Endless dip", "Lost dip"))
    with pytest.raises(Refused, match="Torn dip"):
        booklet_pdf([torn], [], FORMS["half"])
