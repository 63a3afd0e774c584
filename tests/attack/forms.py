"""Posts the forms that pages really show, with one to three fields made nasty, as every role:
nothing may answer 5xx, and nothing may be said afterwards that is not so."""

from __future__ import annotations

import random
from collections import Counter
from contextlib import suppress
from dataclasses import dataclass, field
from pathlib import Path
from time import monotonic

from fastapi import FastAPI
from fastapi.testclient import TestClient
from lxml import html as lxml_html

from fresh_ladle.core.nutrients.targets import Basis
from fresh_ladle.core.people.role import Role
from fresh_ladle.store.recipes.drafts import draft
from fresh_ladle.store.recipes.shelf import ShelfQuery, shelf_page, stale_recipe_ids
from fresh_ladle.store.tastings.tastings import tastings
from fresh_ladle.web.app import create_app
from fresh_ladle.web.demo import load_demo
from fresh_ladle.web.door.access import access_table
from tests.web.signed_in import signed_in

NASTY = (
    *("", " ", "0", "-1", "-0.0001", "1e309", "1e15", "nan", "inf", "-inf", "30000000", "9" * 18,
    "9" * 30, "9" * 5000),
    *("½", "1/0", "²", "٣", "０", "1e9", "0x10", "1_000", "1,5", "NaN%", "true", "null", "{}", "[]",
    "[[[[", "on"),
    *("<script>alert(1)</script>", "'; DROP TABLE recipe; --", '"><img src=x>', "{{ 7 * 7 }}",
    "=1+1", "%s%n", "\\"),
    *("\x00", "a\x0bb\x1f", "\ufffe", "\u202eabc", "💥" * 60, "e\u0301" * 200, "word " * 20_000,
    "x" * 70_000, "\n"),
    *("../../etc/passwd", "http://127.0.0.1:1/", "2027-13-45T99:99", "0001-01-01T00:00",
    "9999-12-31T23:59", "24:61"),
    *("-2 tbsp oil", "1/0 cup oil", "9" * 400 + " cups", "## ", "Method", "2 x",
    "to taste", "each"),
)  # fmt: skip
LASTING = ("/sign-out", "/account", "/people", "/copies", "/foods/import", "/settings")
"""Addresses after which somebody would be signed out, or the practice another."""
SEARCHES = ("/plan-many", "/plans", "/compose")
"""Addresses that start a search: now and then is enough."""


@dataclass(frozen=True, slots=True)
class ShownForm:
    """A form of a page: where it is posted, and its fields with what stands in them."""

    action: str
    fields: tuple[tuple[str, str], ...]


@dataclass
class FormAttack:
    """One workbench with people of every role, a service, and a round with its seats."""

    app: FastAPI
    random: random.Random = field(default_factory=lambda: random.Random(11))
    answers: Counter[int] = field(default_factory=Counter)
    posted: Counter[str] = field(default_factory=Counter)
    broken: list[str] = field(default_factory=list)

    def __post_init__(self) -> None:
        self.people = {role: signed_in(self.app, role) for role in Role}
        # What a test client raises is what a browser would be answered with 500.
        owner = self.people[Role.OWNER]
        form = {"dish": ["4.2", "2.1"], "servings": ["20", "20"], "at": "2030-03-04T12:00",
            "cooks": "2", "ovens": "1",
                "trays": "2", "burners": "4", "blender_ml": "1500"}  # fmt: skip
        owner.post("/recipes/4/services", data=form)
        for question in ("TRIANGLE", "LIKING", "RANKING"):
            asked = {"a": "1", "b": "2", "question": question, "tasters": "4", "asked": ["salt"]}
            place = owner.post("/recipes/4/tastings", data=asked).headers["location"]
            owner.post(f"{place}/open")
        self.visitor = TestClient(self.app, raise_server_exceptions=False, follow_redirects=False)

    def run(self, seconds: float) -> None:
        end = monotonic() + seconds
        while monotonic() < end:
            who = self.random.choice([*self.people.values(), self.visitor])
            address = self._address()
            page = who.get(address)
            self._note(f"GET {address}", page.status_code)
            forms = (
                forms_of(page.text)
                if page.headers.get("content-type", "").startswith("text/html")
                else []
            )
            for shown in self.random.sample(forms, min(6, len(forms))):
                if shown.action.startswith(LASTING) or not shown.action.startswith("/"):
                    continue
                if any(part in shown.action for part in SEARCHES) and self.random.random() < 0.9:
                    continue
                self._post(who, shown)

    def _post(self, who: TestClient, shown: ShownForm) -> None:
        sent = list(shown.fields)
        for place in self.random.sample(
            range(len(sent)), min(len(sent), self.random.randint(1, 3))
        ):
            sent[place] = sent[place][0], self.random.choice(NASTY)
        data: dict[str, list[str]] = {}
        for name, value in sent:
            data.setdefault(name, []).append(value)
        headers = {"HX-Request": "true"} if self.random.random() < 0.5 else {}
        said = str({name: [one[:60] for one in values] for name, values in data.items()})[:400]
        try:
            answer = who.post(shown.action, data=data, headers=headers)
        except Exception as error:
            self.broken.append(f"POST {shown.action} {said}: {type(error).__name__}: {error}")
            return
        self.posted[shown.action.split("/")[1]] += 1
        self._note(f"POST {shown.action} {said}", answer.status_code)

    def _note(self, what: str, status: int) -> None:
        self.answers[status] += 1
        if status >= 500:
            self.broken.append(f"{what}: {status}")

    def _address(self) -> str:
        if self.random.random() < 0.15:
            with self.app.state.workbench.store() as connection:
                seats = [
                    seat.key
                    for one in tastings(connection)
                    for seat in one.seats
                    if one.state == "open"
                ]
            return f"/ballot/{self.random.choice(seats)}" if seats else "/"
        pages = [
            path
            for (method, path) in access_table()
            if method == "GET" and not path.endswith((".pdf", ".xlsx"))
        ]
        path = self.random.choice(pages)
        put = {
            "recipe_id": str(self.random.randint(1, 16)), "service_id": "1",
            "tasting_id": str(self.random.randint(1, 4)),
            "line_id": f"l{self.random.randint(1, 8)}", "nutrient": "sodium_mg", "kind": "weigh",
            "seed": "7",
            "key": self.random.choice(["tahini", "feta"]), "number": "1", "round_id": "1",
            "job_id": "1",
        }  # fmt: skip
        for name, value in put.items():
            path = path.replace(f"{{{name}}}", value)
        return path if "{" not in path else "/"


def forms_of(text: str) -> list[ShownForm]:
    """The forms of a page that change something, with what a browser would send of them; buttons
    that post go as forms of their own."""
    found = []
    tree = lxml_html.fromstring(text)
    revision = next(iter(tree.xpath("//*[@data-revision]/@data-revision")), None)
    for form in tree.xpath("//form[@hx-post or translate(@method, 'POST', 'post') = 'post']"):
        action = form.get("hx-post") or form.get("action") or ""
        found.append(ShownForm(action, _fields_of(form, revision)))
    for button in tree.xpath("//*[@hx-post][not(self::form)]"):
        found.append(ShownForm(button.get("hx-post"), _fields_of(button, revision)))
    return found


def _fields_of(form: lxml_html.HtmlElement, revision: str | None) -> tuple[tuple[str, str], ...]:
    fields = []
    for one in form.xpath(
        ".//input[@name] | .//select[@name] | .//textarea[@name] | .//button[@name] |"
        " self::*[@name]"
    ):
        value = one.get("value") or ""
        with suppress(AttributeError, TypeError):
            value = one.value if isinstance(one.value, str) else value
        fields.append((one.get("name"), value or ""))
    if revision is not None and "revision" not in dict(fields):
        fields.append(("revision", revision))
    return tuple(fields)


def lies(app: FastAPI) -> list[str]:
    """What is not so afterwards: a damaged row, a draft that cannot be read or shown, a standing
    that is another when it is worked out anew."""
    workbench, wrong = app.state.workbench, []
    with workbench.store() as connection:
        whole = [row[0] for row in connection.execute("PRAGMA integrity_check")]
        dangling = connection.execute("PRAGMA foreign_key_check").fetchall()
        ids = [row["id"] for row in connection.execute("SELECT id FROM recipe")]
    if whole != ["ok"] or dangling:
        wrong.append(f"the file: {whole} {len(dangling)} rows refer to nothing")
    owner = signed_in(app, Role.OWNER)
    for address in (
        "/",
        *(f"/recipes/{one}{tail}" for one in ids for tail in ("", "/card", "/method", "/services")),
    ):
        if (status := owner.get(address).status_code) != 200:
            wrong.append(f"{address}: {status}")
    while workbench.work_out_shelf_rows():
        pass
    with workbench.store() as connection:
        wrong += [
            f"recipe {one} does not stand as its draft does" for one in stale_recipe_ids(connection)
        ]
        for row in shelf_page(connection, ShelfQuery(), 0, 1000).rows:
            fresh = workbench.appraise(draft(connection, row.recipe_id).recipe).totals.serving
            wrong += [
                f"recipe {row.recipe_id}: the Shelf says {kept.figure.value} of {nutrient}"
                for (nutrient, basis), kept in row.figures.items()
                if basis is Basis.SERVING
                and abs(kept.figure.value - fresh[nutrient].value) > 1e-6 * (1 + kept.figure.value)
            ]
    return wrong


def forms_attacked(folder: Path, seconds: float) -> tuple[FormAttack, list[str]]:
    """So many seconds of it on a demo. Returns what was sent, and what broke or is not so
    afterwards."""
    app = create_app(folder / "forms.db")
    with app.state.workbench.store() as connection:
        load_demo(connection, app.state.workbench)
    attack = FormAttack(app)
    attack.run(seconds)
    wrong = attack.broken + lies(app)
    app.state.workbench.close()
    return attack, wrong
