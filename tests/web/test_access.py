"""Who may do what, tried address by address, against what roles are for, written down here apart
from the table."""

from __future__ import annotations

import re
from collections.abc import Iterator
from pathlib import Path
from shutil import copy

import pytest
from fastapi import FastAPI
from fastapi.routing import APIRoute
from fastapi.testclient import TestClient
from lxml import html as lxml_html

from fresh_ladle.core.people.role import Role
from fresh_ladle.store.people.activity import activities
from fresh_ladle.store.recipes.drafts import draft
from fresh_ladle.web.app import create_app
from fresh_ladle.web.door.access import access_table, access_to
from fresh_ladle.web.door.guarded import GuardedRoute
from fresh_ladle.web.door.offered import only_offered, row_of
from fresh_ladle.web.styles import styles_address
from tests.web.signed_in import signed_in

OPEN = re.compile(
    r"/sign-in|/sign-out|/welcome/.*|/ballot/.*|/practice-seat/.*|/go/.*|/handout/.*|/look"
)
OWNERS = re.compile(r"/people.*|/log|/copies.*|/foods/import.*")
"""Settings of people, copies, and what changes everybody's figures."""
OWNERS_CHANGES = re.compile(r"/settings")
DIETITIANS = re.compile(r"/plan-many.*|/foods/new|/foods/\{key\}/change")
DIETITIANS_CHANGES = re.compile(
    r"/practice-pour/.*|/targets.*|/schools|/foods/.*|/eaters|/first/begin|/recipes/\{recipe_id\}/(card.*|put-away|versions/.*/mark"
    r"|tastings.*)|/tastings/\{tasting_id\}/\{step\}"
)
COOKS = re.compile(
    r"/tastings/\{tasting_id\}/pouring|/read-in.*|/compose.*|/plans/.*|/scale/.*|/practice-class.*"
    r"|/recipes/\{recipe_id\}/(plans.*|method/steps)"
)
OWN = re.compile(r"/tastings/\{tasting_id\}/seat|/account.*|/practice(/.*)?|/practice-pour")
"""What everybody changes of their own."""


def meant(method: str, path: str) -> Role | None:
    """The least role that what roles are for lets there."""
    if OPEN.fullmatch(path):
        return None
    if OWNERS.fullmatch(path) or (method == "POST" and OWNERS_CHANGES.fullmatch(path)):
        return Role.OWNER
    if DIETITIANS.fullmatch(path) or (method == "POST" and DIETITIANS_CHANGES.fullmatch(path)):
        return Role.DIETITIAN
    if COOKS.fullmatch(path) or (method == "POST" and not OWN.fullmatch(path)):
        return Role.COOK
    return Role.READER


@pytest.fixture(scope="module")
def app(tmp_path_factory: pytest.TempPathFactory, demo_database: Path) -> Iterator[FastAPI]:
    path = tmp_path_factory.mktemp("access") / "demo.db"
    copy(demo_database, path)
    made = create_app(path)
    yield made
    made.state.workbench.close()


def routes(app: FastAPI) -> list[APIRoute]:
    return [route for route in app.routes if isinstance(route, GuardedRoute)]


def test_every_route_is_in_the_table_and_every_row_is_a_route(app: FastAPI) -> None:
    found = {(method, route.path) for route in routes(app) for method in route.methods}
    assert found == set(access_table())
    others = {r.path for r in app.routes if not isinstance(r, GuardedRoute)}
    assert others == {"/static", styles_address()}, "nothing else answers"
    with pytest.raises(LookupError, match="who may GET /secret"):
        access_to("GET", "/secret")


def asked(path: str) -> str:
    """An address of a route, with something in each open place."""
    return re.sub(
        r"\{(\w+)\}",
        lambda m: {"key": "tahini", "nutrient": "sodium_mg", "kind": "weigh"}.get(m[1], "1"),
        path,
    )


@pytest.mark.parametrize("role", [None, *reversed(Role)], ids=lambda r: r.value if r else "nobody")
def test_each_role_reaches_what_it_is_for_and_nothing_else(app: FastAPI, role: Role | None) -> None:
    client = signed_in(app, role or Role.OWNER)
    wrong = []
    for method, path in access_table():
        if path == "/sign-out":
            continue
        if role is None:
            client.cookies.clear()
        answer = client.request(method, asked(path))
        least = meant(method, path)
        open_ = least is None or (role is not None and role.may(least))
        to_the_door = answer.status_code == 303 and answer.headers["location"].startswith(
            "/sign-in"
        )
        # A sign-in that fails answers 401 to whoever tries it; every other 401 is a door.
        refused = answer.status_code in (401, 403) or to_the_door
        if refused == open_ or answer.status_code >= 500:
            wrong.append((method, path, least, answer.status_code))
    assert wrong == []


ON = ".//*[self::button or self::input or self::select or self::textarea][not(@disabled)]"
ASKS = (("hx-post", "POST"), ("hx-get", "GET"), ("formaction", "POST"))


def addresses(page: str) -> Iterator[tuple[str, str]]:
    """What the fields, buttons and links of a page that are on would ask for. A form is on as long
    as one of its fields is, but for buttons that send something else than the form."""
    root = lxml_html.document_fromstring(page)
    forms = [f for f in root.iter("form") if [c for c in f.xpath(ON) if c.get("type") != "button"]]
    for one in (*forms, *root.xpath(ON)):
        yield from ((method, one.get(name)) for name, method in ASKS if one.get(name))
    yield from (
        ((f.get("method") or "get").upper(), f.get("action")) for f in forms if f.get("action")
    )
    yield from (
        ("GET", a.get("href"))
        for a in root.xpath("//a[not(@hidden)]")
        if (a.get("href") or "").startswith("/")
    )


PAGES = (
    "/", "/recipes/1", "/recipes/4", "/recipes/1/versions", "/recipes/1/card", "/recipes/1/bench",
    "/recipes/1/class",
    "/recipes/1/variants", "/recipes/1/tastings", "/recipes/1/services", "/recipes/1/method",
    "/recipes/1/repairs",
    "/recipes/1/lines/l1/swaps", "/compare?x=1.1&x=2.1", "/foods", "/foods/tahini", "/targets",
    "/settings", "/taste",
    "/eaters",
)  # fmt: skip


@pytest.mark.parametrize("role", list(reversed(Role)), ids=lambda r: r.value)
def test_pages_offer_a_role_only_what_it_may_do(app: FastAPI, role: Role) -> None:
    client, offered = signed_in(app, role), set()
    for address in PAGES:
        answer = client.get(address)
        assert answer.status_code == 200, address
        for method, asks in addresses(answer.text):
            row = row_of(method, re.split(r"[?#]", asks)[0])
            assert row is None or row.open_to(role), (
                f"{address} offers a {role.value} {method} {asks}"
            )
            offered.add((method, row.path if row else asks))
    nudge, keep_card = (
        ("POST", "/recipes/{recipe_id}/serving"),
        ("POST", "/recipes/{recipe_id}/card"),
    )
    assert (nudge in offered) == (role is not Role.READER)
    assert (keep_card in offered) == (role in (Role.OWNER, Role.DIETITIAN))
    assert (("POST", "/settings") in offered) == (role is Role.OWNER)
    assert ("GET", "/people") in offered or role is not Role.OWNER


def test_a_page_for_an_owner_is_left_as_it_is() -> None:
    page = '<form method="post" action="/settings"><input name="a"><a href="/people">x</a></form>'
    assert only_offered(page, Role.OWNER) == page
    off = only_offered(page, Role.COOK)
    assert '<input disabled title="This is for another role than yours" name="a">' in off
    assert '<a href="/people" hidden>' in off


def test_a_part_of_an_address_can_be_for_fewer(app: FastAPI) -> None:
    cook, form = signed_in(app, Role.COOK), {"size": "6", "by": "count", "kind": "bean-salad"}

    def revision() -> str:
        return cook.get("/recipes/4").text.split('data-revision="')[1].split('"')[0]

    refused = cook.post(
        "/recipes/4/serving", data={**form, "revision": revision(), "profile_id": "none"}
    )
    assert (refused.status_code, "This is for a dietitian" in refused.text) == (403, True)
    before = profile_of(app, 4)
    assert cook.post("/recipes/4/serving", data={**form, "revision": revision()}).status_code == 303
    assert profile_of(app, 4) == before is not None
    dietitian = signed_in(app, Role.DIETITIAN)
    given = dietitian.post(
        "/recipes/4/serving", data={**form, "revision": revision(), "profile_id": "none"}
    )
    assert given.status_code == 303
    assert profile_of(app, 4) is None


def profile_of(app: FastAPI, recipe_id: int) -> int | None:
    with app.state.workbench.store() as connection:
        return connection.execute(
            "SELECT profile_id FROM recipe WHERE id = ?", (recipe_id,)
        ).fetchone()[0]


def test_what_is_done_is_in_the_log_with_who_did_it_and_what_is_refused_is_not(
    app: FastAPI,
) -> None:
    cook = signed_in(app, Role.COOK)
    revision = cook.get("/recipes/2").text.split('data-revision="')[1].split('"')[0]

    def newest() -> tuple[str, str, str]:
        with app.state.workbench.store() as connection:
            one = activities(connection, None, "", 1)[0]
        return one.initials, one.did, one.about

    nudge = {"revision": revision, "steps": "1"}
    assert cook.post("/recipes/2/lines/l1/nudge", data=nudge).status_code == 303
    done = ("CK", "changed an amount", "/recipes/2/lines/l1/nudge")
    assert newest() == done
    late = {"revision": "1", "amount": "nothing we can read"}
    assert cook.post("/recipes/2/lines/l1/amount", data=late).status_code >= 400
    assert cook.get("/recipes/2/card").status_code == 200
    assert newest() == done
    assert cook.post("/targets", data={"name": "x"}).status_code == 403
    assert newest() == ("CK", "was refused", "/targets"), "as refused, not as done"
    revision = cook.get("/recipes/2").text.split('data-revision="')[1].split('"')[0]
    assert (
        cook.post(
            "/recipes/2/keep", data={"revision": revision, "name": "", "note": ""}
        ).status_code
        == 303
    )
    story = cook.get("/recipes/2/versions").text
    assert re.search(r"by CK", story)
    assert re.search(r"→ [^<]* \(CK\)", story)
    assert "kept a version" in signed_in(app, Role.OWNER).get("/log").text


def test_a_mark_is_of_whoever_signed_in(app: FastAPI) -> None:
    dietitian = signed_in(app, Role.DIETITIAN)
    forged = {"kind": "approved", "by": "OW", "remark": "good"}
    assert dietitian.post("/recipes/3/versions/1/mark", data=forged).status_code == 200
    assert "by DT" in dietitian.get("/recipes/3/versions").text
    assert "by OW" not in dietitian.get("/recipes/3/versions").text


def test_where_nobody_has_an_account_everything_is_open(client: TestClient) -> None:
    for address in ("/", "/settings", "/people", "/log", "/copies", "/recipes/1"):
        answer = client.get(address)
        assert answer.status_code == 200, address
        assert "band-who" not in answer.text
    assert client.get("/account", follow_redirects=False).headers["location"].startswith("/sign-in")


def test_a_cook_chooses_no_targets_by_way_of_a_new_recipe(client: TestClient) -> None:
    cook = signed_in(client.app, Role.COOK)  # type: ignore[arg-type]
    form = {"title": "Dip", "kind": "legume-dip", "servings": "4", "line": "1 cup chickpeas",
            "region": "us"}  # fmt: skip
    assert cook.post("/read-in/keep", data={**form, "profile_id": "1"}).status_code == 403
    assert (
        'name="profile_id"' not in cook.post("/read-in", data={"text": "Dip\n1 cup chickpeas"}).text
    )
    assert cook.post("/read-in/keep", data=form).status_code == 303
    dietitian = signed_in(client.app, Role.DIETITIAN)  # type: ignore[arg-type]
    kept = dietitian.post("/read-in/keep", data={**form, "profile_id": "1"})
    with client.app.state.workbench.store() as connection:  # type: ignore[attr-defined]
        assert draft(connection, int(kept.headers["location"].rsplit("/", 1)[1])).profile_id == 1
