"""Answers that come line by line while something long is worked on, and end the work where no one listens any more."""

from __future__ import annotations

import asyncio
import threading
from collections.abc import AsyncIterator, Callable
from typing import Any

from fastapi import Request
from fastapi.responses import StreamingResponse
from pydantic import BaseModel

from vivid_lattice.api.routes import watch_client
from vivid_lattice.core.stopping import stopping_when

#: Hands a line on; asks whether the work is to be given up.
Put = Callable[[BaseModel], None]
Cancelled = Callable[[], bool]


class LinesResponse(StreamingResponse):
    """An answer that comes line by line, each a JSON object."""

    media_type = "application/x-ndjson"


async def in_lines(request: Request, work: Callable[[Put, Cancelled], None]) -> LinesResponse:
    """The lines that a piece of work puts out, from a thread of its own. What it refuses before the first line is raised here;
    hanging up cancels it, before the first line too."""
    lines: asyncio.Queue[BaseModel | Exception | None] = asyncio.Queue()
    loop, stopped = asyncio.get_running_loop(), threading.Event()

    def put(line: BaseModel | Exception | None) -> None:
        loop.call_soon_threadsafe(lines.put_nowait, line)

    def run() -> None:
        try:
            with stopping_when(stopped.is_set):
                work(put, stopped.is_set)
        except Exception as why:  # handed to the one who waits for the lines
            put(why)
            return
        put(None)

    task = asyncio.create_task(asyncio.to_thread(run))
    watch = asyncio.create_task(watch_client(request, stopped))
    try:
        first = await lines.get()
    except BaseException:
        stopped.set()
        raise
    finally:
        # From here on the response itself notices when the client disconnects.
        watch.cancel()
    if isinstance(first, Exception):
        await task
        raise first
    return LinesResponse(_written(first, lines, stopped))


async def _written(first: BaseModel | None, lines: asyncio.Queue[Any], stopped: threading.Event) -> AsyncIterator[str]:
    line: Any = first
    try:
        while isinstance(line, BaseModel):
            yield line.model_dump_json() + "\n"
            line = await lines.get()
        if isinstance(line, Exception):
            raise line
    finally:
        stopped.set()
