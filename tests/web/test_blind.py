"""Rounds are blind: nobody who tastes learns a key or what is in a cup, and no ballot counts before
its allergens."""

from __future__ import annotations

import re

import pytest
from fastapi.testclient import TestClient

from fresh_ladle.core.people.role import Role
from fresh_ladle.store.people.activity import activities
from tests.web.signed_in import signed_in
from tests.web.test_tastings import kept, planned


def test_a_ballot_page_never_learns_the_key(client: TestClient) -> None:
    number = planned(client, tasters="6")
    client.post(f"/tastings/{number}/open")
    now = kept(client, number)
    for seat in now.seats:
        client.post(f"/ballot/{seat.key}/agree")
        shown = client.get(f"/ballot/{seat.key}").text
        assert [c.code for c in seat.cups] == [
            int(c) for c in re.findall(r'name="code" value="(\d+)"', shown)
        ]
        for secret in (
            "sample",
            "version",
            "original",
            "Lentil",
            ">A<",
            ">B<",
            *(s.name for s in now.samples),
        ):
            assert secret not in shown, secret
    printed = client.get(f"/tastings/{number}/ballots").text
    assert all(s.name not in printed for s in now.samples)
    assert printed.count("ballot-slip") == 6


def test_a_page_of_a_round_tells_nobody_a_key_or_what_is_in_a_cup(client: TestClient) -> None:
    number = planned(client, "PREFERENCE", "6")
    now = kept(client, number)
    seat = now.seats[0]
    cups = [f"<b>{code}</b>" for code in (c.code for s in now.seats for c in s.cups)]
    for role in (Role.READER, Role.COOK, Role.DIETITIAN, Role.OWNER):
        who = signed_in(client.app, role)  # type: ignore[arg-type]
        who.post(f"/tastings/{number}/open")
        shown = who.get(f"/tastings/{number}").text
        assert not [s.key for s in now.seats if s.key in shown], role
        assert not [cup for cup in cups if cup in shown], role
        assert "A is " not in shown
    reader, cook = (signed_in(client.app, role) for role in (Role.READER, Role.COOK))  # type: ignore[arg-type]
    assert reader.get(f"/tastings/{number}/pouring").status_code == 403
    poured = cook.get(f"/tastings/{number}/pouring").text
    assert all(cup in poured for cup in cups)
    assert seat.key in poured
    assert "It was opened by CK" in poured
    with client.app.state.workbench.store() as connection:  # type: ignore[attr-defined]
        looked = [
            one
            for one in activities(connection, None, "", 1000)
            if one.did == "looked at what is poured"
        ]
    assert [(one.initials, one.about) for one in looked] == [("CK", f"/tastings/{number}/pouring")]


def test_staff_taste_blind_or_pour_and_not_both(client: TestClient) -> None:
    number = planned(client, "PREFERENCE", "2")
    dietitian, cook, reader = (
        signed_in(client.app, role)  # type: ignore[arg-type]
        for role in (Role.DIETITIAN, Role.COOK, Role.READER)
    )
    dietitian.post(f"/tastings/{number}/open")
    cook.get(f"/tastings/{number}/pouring")
    assert "would not be blind" in cook.post(f"/tastings/{number}/seat").text
    seat = dietitian.post(f"/tastings/{number}/seat").headers["location"]
    assert dietitian.post(f"/tastings/{number}/seat").headers["location"] == seat, (
        "one seat for one taster"
    )
    assert "taste first" in dietitian.get(f"/tastings/{number}/pouring").text
    assert seat not in cook.get(f"/tastings/{number}/pouring").text, (
        "nobody else gets the link of a seat that is taken"
    )
    assert reader.post(f"/tastings/{number}/seat").headers["location"] != seat
    code = kept(client, number).seats[0].cups[0].code
    dietitian.post(f"{seat}/agree")
    dietitian.post(seat, data={"code": str(code)})
    assert "Cups by seat" in dietitian.get(f"/tastings/{number}/pouring").text
    with client.app.state.workbench.store() as connection:  # type: ignore[attr-defined]
        log = activities(connection, None, "", 1000)
    assert not [one for one in log if seat.rsplit("/", 1)[1] in one.about], "the log tells no key"
    assert [one.about for one in log if one.did == "handed a ballot in"] == [
        f"/tastings/{number}, seat 1"
    ]


@pytest.mark.parametrize(
    ("question", "step"), [("PREFERENCE", ""), ("LIKING", "/score"), ("RANKING", "/rank")]
)
def test_a_ballot_counts_only_after_its_allergens_were_agreed_to(
    question: str, step: str, client: TestClient
) -> None:
    number = planned(client, question, "3")
    client.post(f"/tastings/{number}/open")
    seat = kept(client, number).seats[0]
    ranks = {f"rank-{c.code}": str(place) for place, c in enumerate(seat.cups, start=1)}
    sent = {"code": str(seat.cups[0].code), "cup": str(seat.cups[0].code), "liking": "7", **ranks}
    refused = client.post(f"/ballot/{seat.key}{step}", data=sent)
    assert refused.status_code == 422
    assert "say first that you may eat" in refused.text.lower()
    now = kept(client, number).seats[0]
    assert (now.answer, dict(now.scores)) == (None, {})
    client.post(f"/ballot/{seat.key}/agree")
    client.post(f"/ballot/{seat.key}{step}", data=sent)
    now = kept(client, number).seats[0]
    assert now.answer is not None or now.scores
