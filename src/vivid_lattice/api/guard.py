"""What comes before every request: known host and origin, the access token where one is set, a size limit."""

from __future__ import annotations

import asyncio
import secrets
from contextlib import suppress
from urllib.parse import parse_qs, urlencode

from starlette.datastructures import Headers, MutableHeaders
from starlette.responses import RedirectResponse
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from vivid_lattice.api.pairing import AUTHORITY
from vivid_lattice.api.problems import Answer, problem_response
from vivid_lattice.core.messages import message
from vivid_lattice.imports.job_bundle import MAX_BYTES as MAX_BUNDLE_BYTES
from vivid_lattice.photos import MAX_BYTES as MAX_PHOTO_BYTES

LOOPBACK_HOSTS = frozenset({"127.0.0.1", "localhost", "[::1]"})
MAX_BYTES = 4 * 1024 * 1024
MAX_BACKUP_BYTES = 2 * 1024 * 1024 * 1024
#: What may be larger than a document: a photo, a job with its photos, a whole database.
_LARGER: tuple[tuple[str, int], ...] = (
    ("/photos", MAX_PHOTO_BYTES),
    ("/api/jobs/import", MAX_BUNDLE_BYTES),
    ("/api/backup/inspect", MAX_BACKUP_BYTES),
    ("/api/backup/restore", MAX_BACKUP_BYTES),
)
COOKIE = "vivid_lattice_token"
#: A phone stays paired for half a year after it was last paired [s].
_COOKIE_FOR_S = 180 * 24 * 3600
#: What a wrong token waits for its answer [s]: guessing takes for ever.
_WRONG_TOKEN_WAITS_S = 0.5

_HEADERS = {
    "content-security-policy": "default-src 'self'; img-src 'self' data:; style-src 'self' 'unsafe-inline'; frame-ancestors 'none'; base-uri 'none'",
    "x-content-type-options": "nosniff",
    "referrer-policy": "no-referrer",
    "cross-origin-opener-policy": "same-origin",
    "cross-origin-resource-policy": "same-origin",
}


def _most_bytes(scope: Scope) -> int:
    if scope["method"] != "POST":
        return MAX_BYTES
    return next((most for path, most in _LARGER if scope["path"].endswith(path)), MAX_BYTES)


def _too_large(most: int) -> Answer:
    return Answer(413, "too-large", (("n", str(most // 1024 // 1024)),))


class _TooLarge(Exception):
    """The body went over the limit while it was read."""


class Guard:
    """ASGI middleware. Without a token only loopback names are answered, so that no foreign page gets in by a name
    that it points here; with one, every call needs it."""

    def __init__(self, app: ASGIApp, token: str | None = None):
        self._app, self._token = app, token

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self._app(scope, receive, send)
            return
        headers = Headers(scope=scope)
        most = _most_bytes(scope)
        refusal = self._refusal(headers, most)
        if refusal is not None:
            await problem_response(refusal, refusal.title)(scope, receive, _with_headers(send))
            return
        if self._token is not None and scope["path"] != AUTHORITY and not self._has_token(headers):
            await self._ask_for_token(scope, receive, _with_headers(send))
            return
        await self._limited(scope, receive, _with_headers(send), most)

    def _refusal(self, headers: Headers, most: int) -> Answer | None:
        host = headers.get("host", "")
        name = host.rsplit(":", 1)[0] if not host.endswith("]") else host
        if self._token is None and name not in LOOPBACK_HOSTS:
            return Answer(403, "foreign-host", (("list", ", ".join(sorted(LOOPBACK_HOSTS))),))
        origin = headers.get("origin")
        if origin is not None and origin.split("://", 1)[-1] != host:
            return Answer(403, "foreign-origin")
        if headers.get("sec-fetch-site") == "cross-site" and headers.get("sec-fetch-mode") != "navigate":
            return Answer(403, "foreign-origin")
        length = headers.get("content-length", "0")
        if not length.isdigit():
            return Answer(400, "bad-length")
        if int(length) > most:
            return _too_large(most)
        return None

    def _has_token(self, headers: Headers) -> bool:
        assert self._token is not None
        scheme, _, given = headers.get("authorization", "").partition(" ")
        offered = [*_cookies(headers), given.strip() if scheme.casefold() == "bearer" else ""]
        return any(secrets.compare_digest(each.encode(), self._token.encode()) for each in offered)

    async def _ask_for_token(self, scope: Scope, receive: Receive, send: Send) -> None:
        """A page loaded with ?token=… gets a cookie and is sent on without it; everything else is refused."""
        assert self._token is not None
        query = parse_qs(scope["query_string"].decode("latin-1"))
        given = query.pop("token", [""])[0]
        if scope["method"] == "GET" and secrets.compare_digest(given.encode(), self._token.encode()):
            rest = urlencode(query, doseq=True)
            # One slash: two would lead to another host.
            path = "/" + scope["path"].lstrip("/")
            response = RedirectResponse(path + (f"?{rest}" if rest else ""), status_code=303)
            response.set_cookie(
                COOKIE,
                self._token,
                httponly=True,
                samesite="strict",
                secure=scope.get("scheme") == "https",
                max_age=_COOKIE_FOR_S,
            )
            await response(scope, receive, send)
            return
        if given:
            await asyncio.sleep(_WRONG_TOKEN_WAITS_S)
        refusal = Answer(401, "no-token")
        await problem_response(refusal, message(None, "api.how_to_send_token"))(scope, receive, send)

    async def _limited(self, scope: Scope, receive: Receive, send: Send, most: int) -> None:
        """Counts the body as it is read; past the limit, whatever the application makes of that is answered by 413."""
        seen = 0

        async def counted() -> Message:
            nonlocal seen
            message = await receive()
            seen += len(message.get("body", b""))
            if seen > most:
                raise _TooLarge
            return message

        async def unless_too_large(message: Message) -> None:
            if seen <= most:
                await send(message)

        with suppress(_TooLarge):
            await self._app(scope, counted, unless_too_large)
        if seen > most:
            refusal = _too_large(most)
            await problem_response(refusal, refusal.title)(scope, receive, send)


def _cookies(headers: Headers) -> list[str]:
    """What cookies of the token's name hold. Other programs of this host set cookies too, in any form: each is looked at by itself."""
    pairs = [each.strip().partition("=") for line in headers.getlist("cookie") for each in line.split(";")]
    return [value.strip('"') for name, _, value in pairs if name == COOKIE]


def _with_headers(send: Send) -> Send:
    async def wrapped(message: Message) -> None:
        if message["type"] == "http.response.start":
            headers = MutableHeaders(scope=message)
            for name, value in _HEADERS.items():
                headers.setdefault(name, value)
            headers.setdefault("cache-control", "no-store")
        await send(message)

    return wrapped
