"""What the pages of the demo say, word by word, before and after a few acts, on one day.

`./ladle pin` writes `seen.txt` anew. A page that changed is read before the difference is
committed."""

from __future__ import annotations

import os
import re
import sys
import tempfile
import time
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, datetime
from difflib import unified_diff
from html import unescape
from pathlib import Path

from fastapi.testclient import TestClient
from lxml import html as lxml_html

from fresh_ladle.core.practice.making import KINDS
from fresh_ladle.store.clock import another_clock
from fresh_ladle.store.tastings.tastings import tasting
from fresh_ladle.web.app import create_app
from fresh_ladle.web.demo import load_demo
from fresh_ladle.web.places.service import days as service_days
from tests.web.sent import limits, own_food, page_form

SEEN = Path(__file__).with_name("seen.txt")
HTMX = {"HX-Request": "true"}
MOMENT = datetime(2030, 5, 6, 9, 30, tzinfo=UTC)
SAID = ("value", "placeholder", "aria-label", "title", "aria-valuetext")
STATES = (
    "checked",
    "selected",
    "disabled",
    "hidden",
    "open",
    "aria-current",
    "aria-checked",
    "aria-selected",
)
OF_A_RECIPE = (
    "", "?lens=sodium", "?lens=fat", "/batch?q=tahini", "/method", "/moves", "/repairs",
    "/versions", "/compare",
    "/variants", "/bench", "/bench/next?word=flat", "/bench/thickness", "/tastings", "/services",
    "/services/dishes",
    "/card", "/card?label=eu", "/class", "/class/wall", "/export/csv", "/export/jsonld", "/plans",
    "/figures/energy_kcal", "/figures/sodium_mg", "/figures/fiber_g", "/figures/savory",
    "/ratio", "/lines/l1/swaps", "/lines/l3/swaps", "/lines/l5/swaps",
    "/lines/l2/reduction?first=2030-05-13",
)  # fmt: skip
ALONE = (
    "/", "/?q=dip&order=name", "/?meets=yes", "/?kind=leafy-salad", "/?against=1", "/find?q=tah",
    "/first", "/read-in",
    "/compare?x=1.1&x=2.1", "/compare/find?q=dip", "/compose", "/foods?q=tahini", "/foods?q=zzz",
    "/foods/tahini",
    "/foods/feta", "/foods/new?like=feta", "/targets", "/targets?edit=1",
    "/targets?new=1", "/taste",
    "/practice/weigh/1", "/practice/label/4", "/settings",
    "/people", "/copies", "/eaters", "/plan-many", "/sign-in", "/ring-sheet", "/nowhere",
)  # fmt: skip
PASTED = """Somebody's kitchen | Home
Bean Salad for the Week
Serves 4 to 6

1 can white beans, drained
a handful of parsley
30 g wumpus
Dressing
3 tbsp olive oil and 1 tbsp vinegar
salt and pepper to taste

Toss the beans with the dressing and chill for 2 hours.
Taste it tomorrow; it gets better.
"""
SERVED = {
    "at": "2030-05-20T12:00", "zone": "CET", "cooks": "2", "ovens": "1", "trays": "2",
    "burners": "4",
    "blender_ml": "1500", "name": "Lunch for forty", "dish": ["4.2", "2.1"],
    "servings": ["40", "40"],
}  # fmt: skip


def words(html: str) -> list[str]:
    """What a page says, a line for each thing that says anything, with how it stands."""
    tree = lxml_html.fromstring(f"<div>{html}</div>")
    found = []
    for one in (tree.xpath("//main") or [tree])[0].iter():
        if (
            not isinstance(one.tag, str)
            or one.tag in ("script", "style")
            or one.xpath("ancestor::svg")
        ):
            continue
        if one.tag == "option" and one.get("selected") is None:
            continue
        said = [one.text or "", *(child.tail or "" for child in one)]
        told = " ".join(" ".join(said).split())
        attributes = [
            f"{name}={one.get(name)}"
            for name in SAID
            if one.get(name) and one.get("type") != "hidden"
        ]
        states = [name for name in STATES if one.get(name) not in (None, "false")]
        if told or attributes or states:
            kind = one.tag + (f".{one.get('class').split()[0]}" if one.get("class") else "")
            found.append(
                " ".join([kind, *states, *attributes, f"| {told}" if told else ""]).strip()
            )
    return found


@contextmanager
def demo_on_one_day() -> Iterator[TestClient]:
    """The demo as it is made on one day."""
    before, service_days.SHORTLY_S = service_days.SHORTLY_S, 60.0
    zone = os.environ.get("TZ")
    os.environ["TZ"] = "UTC"
    time.tzset()
    with tempfile.TemporaryDirectory() as folder, another_clock(lambda: MOMENT):
        app = create_app(Path(folder) / "demo.db")
        with app.state.workbench.store() as connection:
            load_demo(connection, app.state.workbench)
        yield TestClient(app, raise_server_exceptions=False)
        app.state.workbench.close()
    service_days.SHORTLY_S = before
    os.environ.pop("TZ") if zone is None else os.environ.update(TZ=zone)
    time.tzset()


def pages() -> Iterator[tuple[str, list[str]]]:
    """Each page with what it says, before the acts and after them."""
    with demo_on_one_day() as client:
        for address in [
            *ALONE,
            *(f"/recipes/4{tail}" for tail in OF_A_RECIPE),
            "/recipes/2",
            "/recipes/2/ratio?a=l2&b=l3",
        ]:
            yield address, told(client.get(address))
        for number in range(1, 16):
            yield f"method of {number}", told(client.get(f"/recipes/{number}/method", headers=HTMX))
        yield from acts(client)
        yield from rounds(client)
        yield from at_work(client)
        for address in (
            "/",
            "/log",
            "/foods",
            "/targets",
            "/recipes/2",
            "/recipes/4",
            "/recipes/4/versions",
        ):
            yield f"{address} after all", told(client.get(address))


def acts(client: TestClient) -> Iterator[tuple[str, list[str]]]:
    """What pages say to acts: of each kind one that is done and one that is refused."""
    said = client.post("/read-in", data={"text": PASTED})
    yield "read in", told(said)
    form = page_form(said.text)
    yield (
        "read in, a line told otherwise",
        told(client.post("/read-in/again", data={**form, "turn": ["5:note"]})),
    )
    yield (
        "read in, refused",
        told(client.post("/read-in/again", data={**form, "servings": ["0"]}, headers=HTMX)),
    )
    for what, address, sent in (
        ("amount", "/recipes/2/lines/l2/amount", {"amount": "3 tbsp"}),
        ("amount refused", "/recipes/2/lines/l2/amount", {"amount": "a lot of it"}),
        ("nudged", "/recipes/2/lines/l3/nudge", {"steps": "-2"}),
        ("eaten", "/recipes/2/lines/l1/eaten", {"percent": "80"}),
        ("line added", "/recipes/2/lines", {"text": "1 tbsp capers, rinsed"}),
        ("line mended", "/recipes/2/lines/l4/text", {"text": "2 cloves garlic, roasted"}),
        ("serving", "/recipes/2/serving", {"size": "45", "by": "grams", "kind": "legume-dip"}),
        ("swap", "/recipes/4/lines/l9/swaps/salt-halved-lemon-up", {"share": "0.5"}),
        ("undone", "/recipes/4/undo", {}),
        ("kept", "/recipes/2/keep", {"name": "less of it", "note": "for the ward"}),
    ):
        now = {**sent, "revision": revision(client, int(address.split("/")[2]))}
        yield what, told(client.post(address, data=now, headers=HTMX))
    profile = limits(sodium_mg_most="140", fiber_g_least="3") | {
        "name": "Ward four",
        "eaten_as": "dip",
        "out": ["milk"],
    }
    yield "profile", told(client.post("/targets", data=profile))
    wrong = limits(sodium_mg_most="-5") | {"name": "Wrong", "eaten_as": "dip"}
    yield "profile refused", told(client.post("/targets", data=wrong))
    yield (
        "own food",
        told(client.post("/foods/new", data=own_food(pack_list="sesame (80%), dextrose, salt"))),
    )
    yield "own food refused", told(client.post("/foods/new", data=own_food(sodium_mg="much")))
    yield (
        "price",
        told(client.post("/foods/tahini/price", data={"amount": "4.20", "pack_grams": "300"})),
    )
    yield (
        "house read",
        told(
            client.post(
                "/compose/read", data={"kind": "bean-salad", "house": "lentils, feta, no lemon"}
            )
        ),
    )
    tasting = {
        "a": "1",
        "b": "2",
        "question": "TRIANGLE",
        "tasters": "12",
        "attribute": "salt",
        "expected": "A",
    }
    yield "tasting", told(client.post("/recipes/4/tastings", data=tasting))
    yield (
        "foretold",
        told(
            client.post("/recipes/4/tastings/foretell", data={"question": "PAIR", "tasters": "30"})
        ),
    )
    yield "service", told(client.post("/recipes/4/services", data=SERVED))
    every = {
        **SERVED,
        "dish": [f"{number}.1" for number in range(5, 16)],
        "servings": ["25"] * 11,
        "cooks": "3",
    }
    yield (
        "service of many dishes",
        told(client.post("/recipes/5/services", data={**every, "at_risk": "true"})),
    )
    for tail in ("/amounts", "/buy", "/labels", "/record"):
        for number in (1, 2):
            yield f"service {number}{tail}", told(client.get(f"/services/{number}{tail}"))
    yield "shopping", told(client.get("/services/1/shopping.csv"))
    yield "service refused", told(client.post("/recipes/4/services", data={**SERVED, "cooks": "0"}))
    yield "bench", told(client.post("/recipes/2/bench/start", data={"full": "true"}))
    yield (
        "bench weighed",
        told(
            client.post(
                "/recipes/2/bench/add", data={"text": "2 g salt", "token": "t"}, headers=HTMX
            )
        ),
    )


def rounds(client: TestClient) -> Iterator[tuple[str, list[str]]]:
    """What is said of rounds that were answered and closed, and what is learned from them."""
    for question, right in (("TRIANGLE", 9), ("PAIR", 10), ("PREFERENCE", 4)):
        form = {
            "a": "1",
            "b": "2",
            "question": question,
            "tasters": "12",
            "attribute": "salt",
            "expected": "A",
        }
        begun = client.post("/recipes/4/tastings", data=form, follow_redirects=False).headers[
            "location"
        ]
        number = int(begun.rsplit("/", 1)[1])
        client.post(f"/tastings/{number}/open")
        yield f"open {question}", without_codes(told(client.get(f"/tastings/{number}")))
        with client.app.state.workbench.store() as connection:  # type: ignore[attr-defined]
            seats = tasting(connection, number).seats
        for seat in seats:
            odd = [c.code for c in seat.cups if sum(o.sample == c.sample for o in seat.cups) == 1]
            named = [c.code for c in seat.cups if c.sample == "A"]
            good = odd[0] if question == "TRIANGLE" else named[0]
            other = next(c.code for c in seat.cups if c.code != good)
            client.post(f"/ballot/{seat.key}/agree")
            client.post(
                f"/ballot/{seat.key}", data={"code": str(good if seat.number <= right else other)}
            )
        client.post(f"/tastings/{number}/close")
        yield f"closed {question}", without_codes(told(client.get(f"/tastings/{number}")))
    for address in ("/recipes/4/tastings", "/eaters", "/tastings/1"):
        yield f"{address} after rounds", told(client.get(address))


def without_codes(said: list[str]) -> list[str]:
    """Three-digit codes, keys and who gets which cup are drawn anew each time."""
    plain = [re.sub(r"\b\d{3}\b|\b[A-Za-z0-9_-]{16,}\b", "…", line) for line in said]
    return [line for line in plain if not line.startswith(("span.cup", "b | …"))]


def at_work(client: TestClient) -> Iterator[tuple[str, list[str]]]:
    """A day while it is worked through, edits that meet, variants, a ratio kept, practice,
    settings."""
    yield "service done", told(client.post("/services/1/done/1"))
    with another_clock(lambda: datetime(2030, 5, 20, 9, 40, tzinfo=UTC)):
        yield "service under way", told(client.get("/services/1"))
        yield "service again", told(client.post("/services/1/again"))
    with another_clock(lambda: datetime(2030, 5, 20, 10, 30, tzinfo=UTC)):
        yield "service late", told(client.get("/services/1"))
    yield (
        "record",
        told(client.post("/services/1/record", data={"dish": "Lentil and fennel salad"})),
    )
    yield "stock", told(client.post("/services/1/stock", data={"food": "feta", "grams": "500"}))
    yield (
        "stock refused",
        told(client.post("/services/1/stock", data={"food": "feta", "grams": "-5"})),
    )
    seen = revision(client, 3)
    for amount in ("2 tbsp", "3 tbsp", "4 tbsp"):
        sent = {"amount": amount, "revision": seen}
        yield (
            f"{amount} by one who saw it before",
            told(client.post("/recipes/3/lines/l2/amount", data=sent, headers=HTMX)),
        )
    yield "the shelf with edits that wait", told(client.get("/?q=zzz"))
    variant = {
        "title": "With dill",
        "part": "1/2",
        "servings": "4",
        "adds": "1/4 cup dill",
        "revision": revision(client, 10),
    }
    yield "variants", told(client.post("/recipes/10/variants", data=variant))
    sent = {"amount": "2 lb", "revision": revision(client, 10)}
    client.post("/recipes/10/lines/l1/amount", data=sent, headers=HTMX)
    yield "variants behind", told(client.get("/recipes/10/variants"))
    for number in (1, 10, 12):
        yield f"ratio of {number}", told(client.get(f"/recipes/{number}/ratio"))
        yield (
            f"ratio of two of {number}",
            told(client.get(f"/recipes/{number}/ratio?first=l1&second=l2")),
        )
    for kind in KINDS:
        page = client.get(f"/practice/{kind}/4").text
        asked = re.search(r'name="asked" value="([^"]+)"', page)
        answer = {
            "asked": unescape(asked[1]) if asked else "",
            "low": "10",
            "high": "90",
            "choice": "0",
        }
        yield f"practice {kind}", words(page)
        yield f"practice {kind} answered", told(client.post(f"/practice/{kind}/4", data=answer))
    kitchen = {
        "region": "us",
        "weights": "grams",
        "label": "eu",
        "rounding": "label",
        "opens": "07:00",
        "closes": "16:00",
    }
    yield "settings", told(client.post("/settings", data={**kitchen, "weights_from": "5"}))
    for wrong in (
        {"opens": "noon"},
        {"closes": "24:10"},
        {"opens": "16:00"},
        {"weights_from": "0"},
    ):
        yield (
            f"settings refused {wrong}",
            told(client.post("/settings", data={**kitchen, "weights_from": "5", **wrong})),
        )


def revision(client: TestClient, recipe: int) -> str:
    found = re.search(r'data-revision="(\d+)"', client.get(f"/recipes/{recipe}").text)
    return found[1] if found else ""


def told(answer) -> list[str]:  # type: ignore[no-untyped-def]
    """What an answer says: its status where that is no page, a page's words, a file's lines."""
    head = [] if answer.status_code == 200 else [f"status {answer.status_code}"]
    if "html" not in answer.headers.get("content-type", ""):
        return head + answer.text.splitlines()
    return head + (words(answer.text) if answer.text.strip() else [])


def document() -> str:
    """Every page under its name; of one that is much like one before, what is other in it."""
    written, before = list[str](), list[list[str]]()
    for name, said in pages():
        like = min(before, key=lambda other: len(set(other) ^ set(said)), default=[])
        alike = len(set(like) ^ set(said)) < len(set(said))
        shown = list(unified_diff(like, said, lineterm="", n=0))[2:] if alike else said
        written += [f"# {name}", *(line for line in shown if not line.startswith("@@")), ""]
        before.append(said)
    return "\n".join(written)


def main() -> int:
    SEEN.write_text(document(), encoding="utf-8")
    return 0


if __name__ == "__main__":
    sys.exit(main())
