"""What a paper says, as one line of words."""

from __future__ import annotations

import pypdfium2


def words_of(pdf: bytes) -> str:
    document = pypdfium2.PdfDocument(pdf)
    return " ".join(" ".join(page.get_textpage().get_text_range() for page in document).split())
