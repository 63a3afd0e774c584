"""The method on screen: its steps as they were read, marked where a line changed, and changed as text."""

from __future__ import annotations

import re
from html import unescape

from fastapi.testclient import TestClient

HTMX = {"HX-Request": "true"}


def revision(page: str) -> str:
    found = re.search(r'data-revision="(\d+)"', page)
    assert found is not None
    return found[1]


def test_a_line_taken_out_is_counted_on_the_counter_and_named_in_its_step(client: TestClient) -> None:
    before = client.get("/recipes/4").text
    assert "what has changed" not in before
    assert "no feta" not in client.get("/recipes/4/method", headers=HTMX).text
    feta = re.search(r'data-line="(\w+)"(?:(?!data-line).)*>Feta<', before, re.S)
    assert feta is not None
    client.post(f"/recipes/4/lines/{feta[1]}/remove", data={"revision": revision(before)}, headers=HTMX)
    assert "1 step names what has changed" in re.sub(r"\s+", " ", client.get("/recipes/4").text)
    assert "no feta in this version" in client.get("/recipes/4/method", headers=HTMX).text


def test_the_method_is_changed_as_text_and_brought_back_by_undo(client: TestClient) -> None:
    first = client.get("/recipes/4").text
    sent = {"revision": revision(first), "text": "Chill it 2 h.\n\n  Serve <b>cold</b>.  "}
    changed = client.post("/recipes/4/method", data=sent, headers=HTMX)
    assert changed.status_code == 200
    shown = client.get("/recipes/4/method", headers=HTMX).text
    assert "<b>cold</b>" not in shown
    assert "Serve &lt;b&gt;cold&lt;/b&gt;." in shown
    assert '<b class="step-mark">2 h</b>' in shown
    client.post("/recipes/4/undo", data={"revision": revision(changed.text)}, headers=HTMX)
    assert "Boil the lentils" in client.get("/recipes/4/method", headers=HTMX).text


def test_read_in_shows_what_was_read_of_the_method(client: TestClient) -> None:
    text = "Pea dip\nServes 4\n400 g frozen peas\n2 tbsp tahini\n\nMethod\nBoil the peas for 3 min.\nBlend everything."
    shown = unescape(client.post("/read-in", data={"text": text}).text)
    assert '<b class="step-mark">3 min</b> <b class="step-mark">burner</b>' in shown


def test_every_key_on_the_counter_does_one_thing_and_is_told(client: TestClient) -> None:
    page = client.get("/recipes/4").text
    keys = re.findall(r'data-key="(.)"', page)
    assert len(keys) == len(set(keys))
    told = "".join(re.findall(r"<dt>([^<]+)</dt>", page))
    assert set(keys) - set("123456789") <= set(told)
    assert "1 to 9" in told
