"""Scales: lines read by their pattern, what cannot be a weight, and the stand-in settling, failing
and speaking."""

from __future__ import annotations

import re
import socket
import threading
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from math import exp
from time import monotonic, sleep

import pytest
from fastapi.testclient import TestClient
from hypothesis import given
from hypothesis import strategies as st

from fresh_ladle.devices.line_scale import LineScale
from fresh_ladle.devices.line_thermometer import celsius_of
from fresh_ladle.devices.pattern import USUAL_PATTERN, compiled, weight_of
from fresh_ladle.devices.port import checked_address
from fresh_ladle.devices.probe import StandInProbe
from fresh_ladle.devices.probe_page import create_probe_page
from fresh_ladle.devices.readout import ReadoutError, Trouble
from fresh_ladle.devices.stand_in import LineServer, StandInScale
from fresh_ladle.devices.stand_in_page import create_page

READ = [
    ("ST    123.4 g", 123.4, True, 0.1),
    ("US    123.4 g", 123.4, False, 0.1),
    ("   0.85 g", 0.85, True, 0.01),
    ("-  12.0 g", -12.0, True, 0.1),
    ("+ 1.250 kg", 1250.0, True, 1.0),
    ("ST 1,5 g", 1.5, True, 0.1),
    ("ST 4.250 oz", 120.485, True, 0.0283),
    ("s 17 g", 17.0, True, 1.0),
]


@pytest.mark.parametrize(("line", "grams", "stable", "step"), READ, ids=[line for line, *_ in READ])
def test_a_line_is_read_as_it_is_printed(
    line: str, grams: float, stable: bool, step: float
) -> None:
    found = weight_of(line, compiled(USUAL_PATTERN))
    assert found.grams == pytest.approx(grams, abs=0.001)
    assert found.stable is stable
    assert found.step_g == pytest.approx(step, abs=0.0001)


NO_WEIGHT = [
    ("OL", Trouble.OVERLOAD),
    ("ST ++++++ g", Trouble.OVERLOAD),
    ("UL", Trouble.UNDER),
    ("______", Trouble.UNDER),
    ("#~xyz", Trouble.GARBAGE),
    ("ST 99999999999 g", Trouble.GARBAGE),
    ("XX 12.0 g", Trouble.GARBAGE),
    ("ST 12.0 stone", Trouble.GARBAGE),
]


@pytest.mark.parametrize(("line", "trouble"), NO_WEIGHT, ids=[line for line, _ in NO_WEIGHT])
def test_what_is_no_weight_is_said(line: str, trouble: Trouble) -> None:
    with pytest.raises(ReadoutError) as caught:
        weight_of(line, compiled(USUAL_PATTERN))
    assert caught.value.trouble is trouble


@given(line=st.text(max_size=200))
def test_no_line_whatever_breaks_the_reader(line: str) -> None:
    with suppress(ReadoutError):
        assert abs(weight_of(line, compiled(USUAL_PATTERN)).grams) <= 60_000


def test_a_pattern_of_another_maker_is_read() -> None:
    found = weight_of("N +0012.30g,S", compiled("N {weight}{unit},{state}"))
    assert (found.grams, found.stable) == (12.3, True)
    for pattern, said in (
        ("{state}", "wants {weight}"),
        ("{weight} {grams}", "has {grams}"),
        ("{weight}" * 2, "once"),
    ):
        with pytest.raises(ValueError, match=said):
            compiled(pattern)


def test_only_the_house_is_asked() -> None:
    assert checked_address(" 127.0.0.1:8177 ") == "socket://127.0.0.1:8177"
    assert checked_address("192.168.1.9:4001") == "socket://192.168.1.9:4001"
    assert checked_address("/dev/ttyUSB0") == "/dev/ttyUSB0"
    assert checked_address("COM3") == "COM3"
    for address, said in (
        ("8.8.8.8:80", "in the house"),
        ("127.0.0.1:8177, 127.0.0.1:8178", "one scale at a time"),
        ("example", "an address such as"),
        ("/dev/../etc/passwd", "an address such as"),
        ("127.0.0.1:99999", "an address such as"),
        ("file:///etc/passwd", "an address such as"),
    ):
        with pytest.raises(ValueError, match=said):
            checked_address(address)


@contextmanager
def standing(**changes: object) -> Iterator[tuple[StandInScale, LineScale]]:
    scale = StandInScale()
    for name, value in changes.items():
        setattr(scale, name, value)
    server = LineServer(scale)
    try:
        yield scale, LineScale(checked_address(f"127.0.0.1:{server.port}"), patience_seconds=2.5)
    finally:
        server.stop()


def test_a_pinch_is_weighed_by_difference() -> None:
    with standing() as (scale, read):
        scale.put("salt")
        before = read.weight()
        held = scale.things["salt"].holds_g
        scale.use("salt")
        after = read.weight()
        assert before.stable
        assert before.grams - after.grams == pytest.approx(
            held - scale.things["salt"].holds_g, abs=0.25
        )


def test_it_waits_until_the_pan_has_settled() -> None:
    with standing() as (scale, read):
        scale.put("bowl")
        assert scale.line().startswith("US")
        assert read.weight().grams == pytest.approx(620.0, abs=0.5)


def test_zero_is_set_by_the_line_and_ounces_are_read_as_grams() -> None:
    with standing() as (scale, read):
        scale.put("honey")
        full = read.weight().grams
        scale.ounces = True
        assert read.weight().grams == pytest.approx(full, abs=0.3)
        scale.ounces = False
        read.tare()
        sleep(0.4)
        assert read.weight().grams == pytest.approx(0.0, abs=0.3)
        scale.take("honey")
        assert read.weight().grams == pytest.approx(-full, abs=0.5)


FAILS = [
    ({"garbage": True}, Trouble.GARBAGE),
    ({"extra_g": 6000.0}, Trouble.OVERLOAD),
    ({"plugged": False}, Trouble.GONE),
]


@pytest.mark.parametrize(("changes", "trouble"), FAILS, ids=[t.name for _, t in FAILS])
def test_a_scale_that_fails_says_how_and_in_time(
    changes: dict[str, object], trouble: Trouble
) -> None:
    with standing(**changes) as (_, read):
        began = monotonic()
        with pytest.raises(ReadoutError) as caught:
            read.weight()
        assert caught.value.trouble is trouble
        assert monotonic() - began < 6


def test_a_scale_that_is_gone_or_never_settles_is_said() -> None:
    with pytest.raises(ReadoutError) as caught:
        LineScale("socket://127.0.0.1:9", patience_seconds=0.5).weight()
    assert caught.value.trouble is Trouble.GONE
    with speaking(b"US 12.0 g\r\n") as port, pytest.raises(ReadoutError) as caught:
        LineScale(f"socket://127.0.0.1:{port}", patience_seconds=1.0).weight()
    assert caught.value.trouble is Trouble.NOT_SETTLED


@contextmanager
def speaking(line: bytes) -> Iterator[int]:
    """Something that says one line again and again."""
    server = socket.create_server(("127.0.0.1", 0))

    def speak() -> None:
        connection, _ = server.accept()
        with connection:
            for _ in range(40):
                try:
                    connection.sendall(line)
                except OSError:
                    return
                sleep(0.05)

    threading.Thread(target=speak, daemon=True).start()
    try:
        yield server.getsockname()[1]
    finally:
        server.close()


def test_the_page_does_what_a_hand_would() -> None:
    scale = StandInScale()
    client = TestClient(create_page(scale, 8177))
    assert "salt cellar" in client.get("/").text
    client.post("/do/put/salt")
    assert scale.on_pan == {"salt"}
    assert client.get("/shown").text.startswith(("ST", "US"))
    client.post("/do/use/salt")
    assert scale.things["salt"].holds_g < 120.0
    for what, name, value in (
        ("ounces", "ounces", True),
        ("garbage", "garbage", True),
        ("unplug", "plugged", False),
    ):
        client.post(f"/do/{what}")
        assert getattr(scale, name) is value
    assert client.get("/shown").text == "off"
    client.post("/do/overload")
    assert scale.extra_g > 5000
    assert client.post("/do/put/anvil").status_code == 404
    assert client.post("/do/explode").status_code == 404
    assert "cm" in client.post("/ring", data={"water": "20", "hours": "0"}).text
    assert client.post("/ring", data={"water": "lots"}).status_code == 422


def test_a_pan_cools_by_newtons_law() -> None:
    """Of the distance to the room e to the −1.6 is left after an hour; faster where it is cold."""
    clock = [0.0]
    probe = StandInProbe(now=lambda: clock[0])
    clock[0] = 3600.0
    assert probe.food_celsius() == pytest.approx(21 + (82 - 21) * exp(-1.6))
    probe.change("place", "refrigerator")
    before = probe.food_celsius()
    clock[0] += 3600.0
    assert probe.food_celsius() == pytest.approx(3 + (before - 3) * exp(-1.6 * 1.3))
    probe.change("speed", 60.0)
    probe.heat()
    clock[0] += 60.0
    assert probe.food_celsius() == pytest.approx(3 + (82 - 3) * exp(-1.6 * 1.3))
    with pytest.raises(KeyError):
        probe.change("place", "moon")


@pytest.mark.parametrize(
    ("line", "celsius"),
    [("T 63.4 C", 63.4), ("T 146.1 F", 63.4), ("+4,5°C", 4.5), ("-18.0 C", -18.0)],
)
def test_lines_of_a_thermometer(line: str, celsius: float) -> None:
    assert celsius_of(line) == pytest.approx(celsius, abs=0.05)


@pytest.mark.parametrize("line", ["", "T -- C", "63.4", "T 999 C", "#~%&"])
def test_lines_that_are_no_temperature(line: str) -> None:
    with pytest.raises(ReadoutError, match="no temperature"):
        celsius_of(line)


def test_the_page_of_the_thermometer() -> None:
    probe = StandInProbe()
    page = TestClient(create_probe_page(probe, 8187))
    assert "A thermometer for practice" in page.get("/").text
    page.post("/do/place/refrigerator")
    page.post("/do/speed/60")
    page.post("/do/pull")
    assert (probe.place, probe.speed, probe.in_food) == ("refrigerator", 60.0, False)
    assert re.match(r"T 2[01]\.\d C", page.get("/shown").text)
    page.post("/do/unplug")
    assert page.get("/shown").text == "off"
    assert page.post("/do/place/moon").status_code == 404
