"""The language of an answer, and whether its texts are made here: ``?lang=de``, ``?texts=none``, or the headers
``X-Language`` and ``X-Texts``.

With ``texts=none`` a message is sent as its id with parameters, for a client that has the catalogue and renders only what it shows.
"""

from __future__ import annotations

from urllib.parse import parse_qs

from starlette.datastructures import Headers
from starlette.types import ASGIApp, Receive, Scope, Send

from vivid_lattice.core.messages import speaking


class Texts:
    """Middleware that sets language and form of messages for a request."""

    def __init__(self, app: ASGIApp):
        self._app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """The request, with its texts as its query states; a language without a catalogue is English."""
        if scope["type"] != "http":
            await self._app(scope, receive, send)
            return
        query = parse_qs(scope.get("query_string", b"").decode("latin-1"))
        headers = Headers(scope=scope)
        language = query.get("lang", [headers.get("x-language", "en")])[-1]
        texts = query.get("texts", [headers.get("x-texts", "all")])[-1]
        with speaking(language, ids=texts == "none"):
            await self._app(scope, receive, send)
