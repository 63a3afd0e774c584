"""Reading files: what is damaged, endless or too large is refused in words, and no page waits for
it."""

from __future__ import annotations

import io
import re
import threading
import zipfile
from collections.abc import Iterator
from pathlib import Path
from time import monotonic

import pytest
from fastapi.testclient import TestClient
from openpyxl import Workbook

from fresh_ladle.formats.limits import FileError
from fresh_ladle.web.work.workers import AT_ONCE, MAX_IN_LINE, FileReaders

SHEET = "xl/worksheets/sheet1.xml"


def workbook() -> bytes:
    book, out = Workbook(), io.BytesIO()
    assert book.active is not None
    book.active.append(["amount", "food"])
    book.active.append(["1 cup", "tahini"])
    book.save(out)
    return out.getvalue()


def with_part(name: str, content: bytes | None) -> bytes:
    """A sheet with one part of its archive replaced, or left out."""
    source, out = zipfile.ZipFile(io.BytesIO(workbook())), io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for entry in source.namelist():
            if entry != name:
                archive.writestr(entry, source.read(entry))
        if content is not None:
            archive.writestr(name, content)
    return out.getvalue()


def many_rows(rows: int) -> bytes:
    row = b'<row r="%d">' + b'<c t="inlineStr"><is><t>aa</t></is></c>' * 20 + b"</row>"
    head = (
        b'<worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData>'
    )
    return with_part(
        SHEET, head + b"".join(row % n for n in range(1, rows)) + b"</sheetData></worksheet>"
    )


@pytest.fixture(scope="module")
def files() -> Iterator[FileReaders]:
    readers = FileReaders()
    yield readers
    readers.stop()


def test_a_sheet_and_a_page_are_read(files: FileReaders) -> None:
    assert files.text_of_file(workbook(), "dip.xlsx") == "Dip\n1 cup tahini"
    page = '<html><body><script type="application/ld+json">{"@type": "Recipe", "name": "Dip", '
    page += '"recipeIngredient": ["1 cup tahini"]}</script></body></html>'
    assert files.text_of_paste(page) == "Dip\n1 cup tahini"
    assert files.text_of_paste("Dip\n1 cup tahini") == "Dip\n1 cup tahini"


@pytest.mark.parametrize(
    "data",
    [
        with_part(SHEET, b"<worksheet><sheetData><row><c t='s'><v>7"),
        with_part(SHEET, b"\xff\xfe\x00junk"),
        with_part(SHEET, b'<worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData>'
                         b'<row r="x"><c r="1A" t="s"><v>many</v></c></row></sheetData></worksheet>'),
        with_part(SHEET, None),
        with_part("xl/workbook.xml", b"<workbook/>"),
        with_part("[Content_Types].xml", None),
        with_part("xl/_rels/workbook.xml.rels", b"<Relationships"),
        workbook()[:-40],
        workbook()[:200] + b"\x00" * 300 + workbook()[500:],
        b"PK\x03\x04" + b"\x00" * 400,
    ],
    ids=["cut", "no xml", "odd cells", "no sheet", "no sheets", "no types", "no relations",
    "no end", "holes", "empty"],
)  # fmt: skip
def test_a_damaged_sheet_is_refused_in_words(data: bytes, client: TestClient) -> None:
    answer = client.post(
        "/read-in", data={"text": ""}, files={"file": ("x.xlsx", data, "application/zip")}
    )
    assert answer.status_code == 422
    assert re.search("cannot be read|not a readable archive|is empty|no column", answer.text)


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("[" + "1" * 5000 + "]", "thousands of digits"),
        ('{"@type": "Recipe", "recipeYield": ' + "9" * 5000 + "}", "thousands of digits"),
        ("[" * 200_000, "nested too deep"),
        ("<script type=application/ld+json " * 50_000, "no recipe"),
        ("<script>" * 200_000 + "application/ld+json", "no recipe"),
    ],
    ids=["huge number", "huge yield", "deep", "half a tag repeated", "a tag repeated"],
)
def test_a_hostile_page_is_refused_in_words(text: str, says: str, files: FileReaders) -> None:
    began = monotonic()
    with pytest.raises(FileError, match=says):
        files.text_of_paste(text)
    assert monotonic() - began < 10, "its own time limit"


def test_entities_of_a_sheet_are_not_taken_in(files: FileReaders) -> None:
    """Neither a file of this machine nor a million letters come in through an entity."""
    tenfold = "".join(f'<!ENTITY e{n} "{f"&e{n - 1};" * 10}">' for n in range(1, 8))
    inside = '<!ENTITY e0 "letters"><!ENTITY secret SYSTEM "file:///etc/hostname">' + tenfold
    for entity in ("&e7;", "&secret;"):
        row = f'<row r="1"><c t="inlineStr"><is><t>{entity}</t></is></c></row>'
        head = (
            "<worksheet"
            ' xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData>'
        )
        sheet = f"<!DOCTYPE x [{inside}]>{head}{row}</sheetData></worksheet>"
        try:
            text = files.text_of_file(with_part(SHEET, sheet.encode()), "x.xlsx")
        except FileError:
            continue
        assert len(text) < 1000
        assert Path("/etc/hostname").read_text(encoding="utf-8").strip() not in text


def test_time_and_memory_are_bounded() -> None:
    for bounds, says in (
        ({"seconds": 0.3}, "takes longer"),
        ({"memory_bytes": 300_000_000}, "more memory"),
    ):
        readers = FileReaders(**bounds)  # type: ignore[arg-type]
        data = many_rows(15_000) if "seconds" in bounds else b"[" + b"[]," * 2_600_000
        try:
            with pytest.raises(FileError, match=says):
                readers.text_of_file(data, "x.xlsx" if "seconds" in bounds else "x.json")
        finally:
            readers.stop()


def test_pages_are_answered_while_files_are_read(client: TestClient) -> None:
    """As many endless sheets as there are places, and one more that is told to come again."""
    sheet, answers = many_rows(15_000), list[int]()

    def upload() -> None:
        sent = client.post(
            "/read-in", data={"text": ""}, files={"file": ("x.xlsx", sheet, "application/zip")}
        )
        answers.append(sent.status_code)
        if "being read just now" in sent.text:
            answers.append(0)

    uploads = [threading.Thread(target=upload) for _ in range(AT_ONCE + MAX_IN_LINE + 2)]
    for thread in uploads:
        thread.start()
    answered = 0
    while any(thread.is_alive() for thread in uploads):
        assert client.get("/settings").status_code == 200
        answered += 1
    assert answered > 10
    assert answers.count(0) >= 1
    assert set(answers) == {422, 0}
