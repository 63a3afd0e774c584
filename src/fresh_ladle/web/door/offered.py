"""Pages offer a person what the table of access lets that person do: other fields and buttons are
off, other links go.

What is refused is refused by the routes (see `guarded`); this only spares people from trying.
"""

from __future__ import annotations

import re
from functools import lru_cache

from starlette.routing import compile_path

from fresh_ladle.core.people.role import Role
from fresh_ladle.web.door.access import Access, access_table

_FORM = re.compile(r"<form\b([^>]*)>(.*?)</form>", re.DOTALL)
_CONTROL = re.compile(r"<(input|select|textarea|button)\b([^>]*)>")
_LINK = re.compile(r"<a\b([^>]*)>")
_OFF = ' disabled title="This is for another role than yours"'


def only_offered(html: str, role: Role) -> str:
    """The page with all that this role may not do switched off or hidden."""
    denied_ids: set[str] = set()

    def form(found: re.Match[str]) -> str:
        attributes, body = found[1], found[2]
        if _open(_form_asks(attributes), role):
            return found[0]
        if (name := _attribute(attributes, "id")) is not None:
            denied_ids.add(name)
        return f"<form{attributes} data-not-yours>{_CONTROL.sub(_switched_off, body)}</form>"

    def control(found: re.Match[str]) -> str:
        asks = _control_asks(found[2])
        if _open(asks, role) and _attribute(found[2], "form") not in denied_ids:
            return found[0]
        return _switched_off(found)

    def link(found: re.Match[str]) -> str:
        address = _attribute(found[1], "href")
        return (
            found[0]
            if address is None or _open(("GET", address), role)
            else f"<a{found[1]} hidden>"
        )

    def _switched_off(found: re.Match[str]) -> str:
        own = _control_asks(found[2]) if _attribute(found[2], "type") == "button" else None
        if " disabled" in found[2] or (own is not None and _open(own, role)):
            return found[0]
        return f"<{found[1]}{_OFF}{found[2]}>"

    return _LINK.sub(link, _CONTROL.sub(control, _FORM.sub(form, html)))


def _form_asks(attributes: str) -> tuple[str, str] | None:
    """What sending a form asks for, as method and address."""
    for method in ("post", "get"):
        if (address := _attribute(attributes, f"hx-{method}")) is not None:
            return method.upper(), address
    address = _attribute(attributes, "action")
    return (
        None if address is None else ((_attribute(attributes, "method") or "get").upper(), address)
    )


def _control_asks(attributes: str) -> tuple[str, str] | None:
    """What a control asks for by itself."""
    for name, method in (("hx-post", "POST"), ("formaction", "POST"), ("hx-get", "GET")):
        if (address := _attribute(attributes, name)) is not None:
            return method, address
    return None


def _attribute(attributes: str, name: str) -> str | None:
    found = re.search(rf'(?<![\w-]){name}="([^"]*)"', attributes)
    return found[1] if found else None


def _open(asks: tuple[str, str] | None, role: Role) -> bool:
    if asks is None:
        return True
    found = row_of(asks[0], re.split(r"[?#]", asks[1], maxsplit=1)[0])
    return found is None or found.open_to(role)


@lru_cache(maxsize=1)
def _patterns() -> list[tuple[Access, re.Pattern[str]]]:
    """The rows with their addresses as patterns, those with the fewest open places first."""
    rows = sorted(access_table().values(), key=lambda row: (row.path.count("{"), -len(row.path)))
    return [(row, compile_path(row.path)[0]) for row in rows]


@lru_cache(maxsize=4096)
def row_of(method: str, address: str) -> Access | None:
    """The row an address of this workbench falls under; None for one that is no route, such as a
    style sheet."""
    return next(
        (row for row, pattern in _patterns() if row.method == method and pattern.match(address)),
        None,
    )
