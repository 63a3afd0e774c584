"""What is made to break a reader: archives that unpack to gigabytes, nests without end, bodies
without end."""

from __future__ import annotations

import io
import zipfile
from collections.abc import Iterator

from tests.attack.server import Server

BOUNDARY = "bomb"
REFUSED = {200, 400, 413, 422}
"""A page that says what is wrong with it."""
MULTIPART = f"multipart/form-data; boundary={BOUNDARY}"


def bombed(server: Server) -> list[str]:
    """Sends each; returns those that were answered with something else than a refusal or a page."""
    wrong = []
    for name, body in _files():
        answer = server.ask(
            "POST",
            "/read-in",
            body=_form(name, body),
            kind=f"multipart/form-data; boundary={BOUNDARY}",
        )
        if answer.status not in REFUSED:
            wrong.append(f"{name}: {answer.status}")
    for name, text in (("nested.json", "[" * 200_000), ("deep.html", "<div>" * 200_000)):
        answer = server.ask("POST", "/read-in", {"text": text[:900_000]})
        if answer.status not in REFUSED:
            wrong.append(f"{name}: {answer.status}")
    try:
        answer = server.ask("POST", "/read-in", body=_endless(40_000_000))
        if answer.status not in REFUSED - {200}:
            wrong.append(f"a body in chunks: {answer.status}")
    except OSError:
        pass  # it hung up on us, which is a refusal too
    return wrong


def _files() -> Iterator[tuple[str, bytes]]:
    zeros = io.BytesIO()
    with zipfile.ZipFile(zeros, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("xl/workbook.xml", b"0" * 400_000_000)
    yield "zeros.xlsx", zeros.getvalue()
    yield "torn.xlsx", zeros.getvalue()[:2000]
    yield "wide.csv", b"ingredient," + b"," * 900_000
    yield "bytes.txt", bytes(range(256)) * 2000


def _form(name: str, body: bytes) -> bytes:
    head = f'--{BOUNDARY}\r\nContent-Disposition: form-data; name="file"; filename="{name}"\r\n\r\n'.encode()
    return head + body + f"\r\n--{BOUNDARY}--\r\n".encode()


def _endless(most: int) -> Iterator[bytes]:
    for _ in range(most // 500_000):
        yield b"x" * 500_000
