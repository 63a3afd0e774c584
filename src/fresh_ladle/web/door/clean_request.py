"""A request whose texts are clean: whatever a form, an address or a query brings goes through here
once."""

from __future__ import annotations

from typing import Any

from starlette.datastructures import FormData, QueryParams
from starlette.requests import Request

from fresh_ladle.core.plain_text import clean_text


class CleanRequest(Request):
    """As the framework reads it, without the characters that nothing of ours can hold."""

    async def form(self, **limits: Any) -> FormData:  # type: ignore[override]
        """The form as sent; its files are cleaned by whoever reads them. Raises HTTPException for
        one that is damaged or holds too much."""
        sent = await super().form(**limits)
        return FormData(
            [
                (clean_text(n), clean_text(v) if isinstance(v, str) else v)
                for n, v in sent.multi_items()
            ]
        )

    @property
    def query_params(self) -> QueryParams:
        sent = super().query_params
        return QueryParams(
            [(clean_text(name), clean_text(value)) for name, value in sent.multi_items()]
        )

    @property
    def path_params(self) -> dict[str, Any]:
        return {
            name: clean_text(v) if isinstance(v, str) else v
            for name, v in super().path_params.items()
        }
