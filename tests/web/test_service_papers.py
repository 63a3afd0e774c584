"""What a service leaves on paper and in its book: files, labels that are true to size, cooling
records."""

from __future__ import annotations

import io
import re
import sqlite3
from dataclasses import replace
from datetime import datetime, timedelta
from html import unescape
from zoneinfo import ZoneInfo

import pypdfium2
import pytest
from fastapi.testclient import TestClient
from icalendar import Calendar
from openpyxl import load_workbook

from fresh_ladle.devices.probe import StandInProbe
from fresh_ladle.devices.stand_in import LineServer
from fresh_ladle.store.services.temperatures import records
from fresh_ladle.store.settings import save_settings, settings
from tests.web.paper import words_of
from tests.web.test_services import planned


def test_files_of_a_service(client: TestClient) -> None:
    number = planned(client)
    calendar = Calendar.from_ical(client.get(f"/services/{number}/day.ics").content)
    events = list(calendar.walk("VEVENT"))
    assert len(events) > 30
    assert all(event["dtstart"].dt.tzinfo is not None for event in events)
    assert len({str(event["uid"]) for event in events}) == len(events)
    sheet = load_workbook(
        io.BytesIO(client.get(f"/services/{number}/shopping.xlsx").content)
    ).active
    rows = list(sheet.iter_rows(values_only=True))
    assert rows[0][:3] == ("part of the store", "food", "to buy")
    text = client.get(f"/services/{number}/shopping.csv").content.decode()
    assert text.count("\r\n") == len(rows)


def test_a_service_and_its_record_on_paper(client: TestClient) -> None:
    number = planned(client)
    pdf = client.get(f"/services/{number}/day.pdf").content
    said = words_of(pdf)
    for wanted in (
        "Lunch for forty",
        "Fold in the parsley and feta last",
        "1.3 kg (6¾ cups)",
        "Shopping: herbs",
    ):
        assert wanted in said
    assert pdf == client.get(f"/services/{number}/day.pdf").content
    client.post(f"/services/{number}/record", data={"dish": "Lentil and fennel salad"})
    recorded(client, number, what="reading", celsius="61,5")
    with client.app.state.workbench.store() as connection:  # type: ignore[attr-defined]
        first = records(connection, number)[0].id
    said = words_of(client.get(f"/services/{number}/record/{first}.pdf").content)
    assert "61.5 °C" in said
    assert "still open" in said


MM = 72 / 25.4


def test_labels_are_true_to_half_a_millimeter(client: TestClient) -> None:
    """Three by seven labels on Letter, each text where its grid says: measured in the PDF."""
    number = planned(client, ("4.2", "2.1"))
    grid = "Letter 3x7 66.7x38.1 6 4.8 3.2 0.5"
    sent = {"counts": ["12", "11"], "days": ["3", "3"], "grid": grid, "skip": "2"}
    pdf = client.post(f"/services/{number}/labels.pdf", data=sent).content
    document = pypdfium2.PdfDocument(pdf)
    assert len(document) == 2
    width, height = document[0].get_size()
    assert (width / MM, height / MM) == (
        pytest.approx(215.9, abs=0.1),
        pytest.approx(279.4, abs=0.1),
    )
    first = document[0].get_textpage()
    places = []
    for word in ("Lentil", "Charred"):
        search = first.search(word)
        while (hit := search.get_next()) is not None:
            left, _, _, top = first.get_charbox(hit[0])
            places.append((left / MM, (height - top) / MM))
    wanted = [(4.8 + (n % 3) * (66.7 + 3.2), 6 + (n // 3) * (38.1 + 0.5)) for n in range(2, 21)]
    assert len(places) == len(wanted)
    inside_x, inside_y = places[0][0] - wanted[0][0], places[0][1] - wanted[0][1]
    for (x, y), (left, top) in zip(
        sorted(places, key=lambda p: (round(p[1]), p[0])), wanted, strict=True
    ):
        assert x - left == pytest.approx(inside_x, abs=0.5)
        assert y - top == pytest.approx(inside_y, abs=0.5)
        assert 0 < x - left < 4
        assert 0 < y - top < 6
    assert pdf == client.post(f"/services/{number}/labels.pdf", data=sent).content, (
        "the same labels, the same bytes"
    )
    single = pypdfium2.PdfDocument(
        client.post(f"/services/{number}/labels.pdf", data={**sent, "each": "true"}).content
    )
    assert [round(single[n].get_width() / MM, 1) for n in range(len(single))] == [66.7, 66.7], (
        "one of each dish"
    )
    said = " ".join(first.get_text_range().split())
    assert "Keep at 5 °C (41 °F) or below" in said
    assert "Contains milk, mustard and sulphites." in said


@pytest.mark.parametrize(
    ("changed", "said"),
    [
        ({"days": ["30", "3"]}, "30 days is longer than the 3 days of bean salad with vinegar"),
        ({"counts": ["2.5", "1"]}, "labels: a whole number from 0 to 2000, not 2.5"),
        ({"counts": ["30000000", "1"]}, "labels: a whole number from 0 to 2000"),
        ({"counts": ["1e15", "1"]}, "labels: a whole number from 0 to 2000"),
        (
            {"counts": ["2000", "1"]},
            "1 to 2,000 labels are printed at a time; 2,001 were asked for",
        ),
        ({"counts": ["0", "0"]}, "1 to 2,000 labels"),
        ({"grid": "A4 3x9 70x36 4.5 0 0 0"}, "more than the 210 by 297 mm of A4"),
        ({"grid": "big"}, "a sheet of labels is written as"),
        ({"skip": "24"}, "places left free: a whole number from 0 to 23"),
        ({"grid": "A4 6x20 25x12 4.5 0 0 0"}, "too small for all that it must say"),
    ],
)
def test_labels_that_cannot_be(client: TestClient, changed: dict[str, object], said: str) -> None:
    number = planned(client, ("4.2", "2.1"))
    sent = {
        "counts": ["12", "11"],
        "days": ["3", "3"],
        "grid": "A4 3x8 70x36 4.5 0 0 0",
        "skip": "0",
        **changed,
    }
    answer = client.post(f"/services/{number}/labels.pdf", data=sent)
    assert answer.status_code == 422
    assert said.lower() in unescape(answer.text).lower()


def recorded(client: TestClient, number: int, **sent: str) -> str:
    """Writes into the first record of a service."""
    what = sent.pop("what")
    with client.app.state.workbench.store() as connection:  # type: ignore[attr-defined]
        first = records(connection, number)[0].id
    return unescape(client.post(f"/services/{number}/record/{first}/{what}", data=sent).text)


def test_a_cooling_record_is_read_answered_closed_and_only_added_to(client: TestClient) -> None:
    number = planned(client)
    name = "Lentil and fennel salad"
    client.post(f"/services/{number}/record", data={"dish": name, "kind": "cooling"})
    assert "Take the first reading" in client.get(f"/services/{number}/record").text
    began = datetime.now(ZoneInfo("CET")) - timedelta(hours=3)
    first = f"{began:%Y-%m-%dT%H:%M}"
    recorded(client, number, what="reading", celsius="70", at=first)
    shown = recorded(
        client,
        number,
        what="reading",
        celsius="30",
        at=f"{began + timedelta(hours=2.5):%Y-%m-%dT%H:%M}",
    )
    assert "Still 30.0 °C after two hours: 21 °C was the limit. What was done?" in re.sub(
        r"</?b>", "", shown
    )
    assert "It cannot be closed yet" in recorded(client, number, what="close")
    recorded(client, number, what="done", remedy="chilled rapidly")
    shown = recorded(client, number, what="reading", celsius="4,5")
    assert "Cold: 5 °C after" in shown
    assert "then chilled rapidly" in shown
    assert "only added to" in recorded(client, number, what="close")
    shown = recorded(client, number, what="remark", said="tasted by D2")
    assert "added after it was closed" in shown
    assert "closed already" in recorded(client, number, what="close")
    with client.app.state.workbench.store() as connection:  # type: ignore[attr-defined]
        kept = records(connection, number)[0]
        for change in (
            "UPDATE temperature_entry SET celsius = 3 WHERE record_id = ?",
            "DELETE FROM temperature_entry WHERE record_id = ?",
            "UPDATE temperature_record SET closed_at = NULL WHERE id = ?",
        ):
            with pytest.raises(sqlite3.IntegrityError):
                connection.execute(change, (kept.id,))
            connection.rollback()
        assert records(connection, number)[0] == kept
    text = client.get(f"/services/{number}/record/{kept.id}.csv").text
    assert "30.0" in text
    assert text.count("\r\n") == 6


@pytest.mark.parametrize(
    ("sent", "said"),
    [
        ({"what": "reading", "celsius": "warm"}, "is not a number"),
        ({"what": "reading", "celsius": "900"}, "no temperature of a dish"),
        ({"what": "reading", "celsius": "20", "at": "2040-01-01T10:00"}, "still to come"),
        ({"what": "done", "remedy": "prayed"}, "prayed"),
        ({"what": "probe"}, "no thermometer is set"),
        ({"what": "remark", "said": " "}, "say what was read or done"),
    ],
)
def test_entries_that_cannot_be(client: TestClient, sent: dict[str, str], said: str) -> None:
    number = planned(client)
    client.post(f"/services/{number}/record", data={"dish": "Lentil and fennel salad"})
    assert said.lower() in recorded(client, number, **sent).lower()
    with client.app.state.workbench.store() as connection:  # type: ignore[attr-defined]
        assert records(connection, number)[0].entries == ()


def test_the_probe_is_read_and_may_be_gone(client: TestClient) -> None:
    probe = StandInProbe()
    server = LineServer(probe)
    with client.app.state.workbench.store() as connection:  # type: ignore[attr-defined]
        save_settings(
            connection, replace(settings(connection), thermometer=f"127.0.0.1:{server.port}")
        )
    number = planned(client)
    client.post(f"/services/{number}/record", data={"dish": "Lentil and fennel salad"})
    assert re.search(r"8[12]\.\d °C by the probe", recorded(client, number, what="probe"))
    probe.plugged = False
    server.stop()
    assert "the thermometer does not answer" in recorded(client, number, what="probe").lower()
