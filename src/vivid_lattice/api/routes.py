"""Routes that keep the server answering: bodies are read and validated off the event loop, and what no one waits for ends."""

from __future__ import annotations

import asyncio
import json
import threading
from collections.abc import Callable, Coroutine
from typing import Any

from fastapi import HTTPException, Request, Response
from fastapi.exceptions import RequestValidationError
from fastapi.routing import APIRoute
from pydantic import BaseModel, ValidationError
from starlette.concurrency import run_in_threadpool

from vivid_lattice.core.document.validation import validated
from vivid_lattice.core.errors import Stopped
from vivid_lattice.core.messages import message
from vivid_lattice.core.stopping import stopping_when

Handler = Callable[[Request], Coroutine[Any, Any, Response]]
#: Requests of one operation that are worked on at a time; the others wait, and are dropped if their page is gone by then.
_AT_A_TIME = 2
#: No one reads this: the client has hung up.
_CLIENT_GONE = 499


class _ReadRequest(Request):
    """A request whose JSON body was read and validated before; the framework takes the model as it is."""

    def __init__(self, request: Request, model: Any):
        super().__init__(request.scope, request.receive)
        self._body = request._body
        self._model = model

    async def json(self) -> Any:
        """The validated model."""
        return self._model


class CheckedRoute(APIRoute):
    """A route whose JSON body is parsed and validated in a worker thread, at a bounded cost."""

    def get_route_handler(self) -> Handler:
        """The framework's handler, given a body that is validated already."""
        handler = super().get_route_handler()
        model = self.body_field.field_info.annotation if self.body_field is not None else None
        if not (isinstance(model, type) and issubclass(model, BaseModel)):
            return handler

        async def handle(request: Request) -> Response:
            raw = await request.body()
            if not raw or not _is_json(request):
                return await handler(request)
            return await handler(_ReadRequest(request, await run_in_threadpool(_read, model, raw)))

        return handle


class ComputingRoute(CheckedRoute):
    """A route that calculates: a few requests at a time, none for a client that has hung up, and ended when it does."""

    def get_route_handler(self) -> Handler:
        """The handler of a checked route, in its turn and while someone waits."""
        handler = super().get_route_handler()
        turn = asyncio.Semaphore(_AT_A_TIME)

        async def handle(request: Request) -> Response:
            await request.body()
            async with turn:
                if await request.is_disconnected():
                    return Response(status_code=_CLIENT_GONE)
                gone = threading.Event()
                watch = asyncio.create_task(watch_client(request, gone))
                # Also where the server stops and ends its tasks: the thread waits for no one then, and ends at its next stop point.
                watch.add_done_callback(lambda _: gone.set())
                try:
                    with stopping_when(gone.is_set):
                        return await handler(request)
                except Stopped:
                    return Response(status_code=_CLIENT_GONE)
                finally:
                    watch.cancel()

        return handle


async def watch_client(request: Request, gone: threading.Event) -> None:
    """Set ``gone`` when the client disconnects. After the body, nothing else comes from it."""
    while (await request.receive())["type"] != "http.disconnect":
        pass
    gone.set()


def _is_json(request: Request) -> bool:
    kind = request.headers.get("content-type", "").split(";", 1)[0].strip().lower()
    return kind == "application/json" or (kind.startswith("application/") and kind.endswith("+json"))


def _read(model: type[BaseModel], raw: bytes) -> BaseModel:
    """A model from the bytes of a request. Raises RequestValidationError with each mistake, HTTPException, BadDocument."""
    try:
        data = json.loads(raw)
    except json.JSONDecodeError as why:
        error = {"type": "json_invalid", "loc": ("body", why.pos), "msg": "JSON decode error", "input": {}}
        raise RequestValidationError([error]) from None
    except (UnicodeDecodeError, RecursionError, ValueError):
        raise HTTPException(400, message(None, "api.unreadable_body")) from None
    try:
        return validated(model, data)
    except ValidationError as why:
        errors = [{**error, "loc": ("body", *error["loc"])} for error in why.errors(include_url=False)]
        raise RequestValidationError(errors) from None
