"""Joins the routers, the error table, the guard and the built front end into one application."""

from __future__ import annotations

import gc
from collections.abc import Iterator
from functools import partial
from pathlib import Path
from typing import Any

from fastapi import FastAPI, Request
from fastapi.responses import FileResponse, PlainTextResponse, Response

from vivid_lattice.api import (
    advice,
    assessments,
    assumptions,
    boards,
    demos,
    examples,
    exercises,
    exports,
    extension,
    faults,
    former_paths,
    imports,
    inspection,
    instruments,
    jobs,
    material,
    pairing,
    parse,
    photos,
    plan,
    problems,
    protection,
    rules,
    survey,
    testing,
    training,
    trips,
    wiring_progress,
)
from vivid_lattice.api.export_cache import ExportCache
from vivid_lattice.api.guard import Guard
from vivid_lattice.api.texts import Texts
from vivid_lattice.core.messages import message
from vivid_lattice.lan.pairing import Pairing
from vivid_lattice.store.database import prepare

WEB_DIST = Path(__file__).parent.parent / "web_dist"
_FOREVER = "public, max-age=31536000, immutable"
_UNBUILT = message(None, "api.not_built")


def create_app(database: Path, token: str | None = None, phones: Pairing | None = None) -> FastAPI:
    """The application over a database file, made ready first. ``phones``: how they are paired, where it is on the local network too.

    Raises DatabaseDamaged or NewerDatabase, the file left as it is.
    """
    prepare(database)
    app = FastAPI(
        title="Vivid Lattice",
        version="1",
        description="Designs consumer units and explains every value. Every address takes `lang` (a language of the catalogue) and "
        "`texts=none`: messages as id with parameters, for a client that renders them.",
        docs_url=None,
        redoc_url=None,
        openapi_url="/api/openapi.json",
        responses=problems.EVERYWHERE,
    )
    app.state.database, app.state.shelf, app.state.pairing = database, ExportCache(), phones
    problems.install(app)
    for module in (
        jobs, trips, wiring_progress, photos, exports, imports, assessments, advice, assumptions, parse, protection, testing, plan, material, extension, faults, boards, survey, rules,
        demos, former_paths, pairing, inspection, instruments, training, exercises,
    ):  # fmt: skip
        app.include_router(module.router)
    app.include_router(testing.of_job)
    app.add_api_route("/api/health", _health, methods=["GET"], tags=["server"])
    app.add_api_route("/{path:path}", _page, methods=["GET"], include_in_schema=False)
    app.add_middleware(Texts)
    app.add_middleware(Guard, token=token)
    app.openapi = partial(_openapi, app)  # type: ignore[method-assign]
    return app


def tune_garbage_collector() -> None:
    """Have the garbage collector leave code and tables alone, which stay for good, and run once for a whole assessment's objects.

    For the process that serves: without it a tenth of each key press goes to the collector.
    """
    gc.collect()
    gc.freeze()
    gc.set_threshold(20_000, 20, 20)


def _openapi(app: FastAPI) -> dict[str, Any]:
    """The OpenAPI document, with examples, and refusals under the media type that they are sent with."""
    if app.openapi_schema is None:
        document, shown = FastAPI.openapi(app), examples.answers()
        for path, method, operation in _operations(document):
            for status, response in operation["responses"].items():
                if int(status) < 300 and (path, method) in shown:
                    response["content"]["application/json"]["example"] = shown[path, method]
                if int(status) >= 400 and response.get("content"):
                    response["content"] = {problems.MEDIA_TYPE: next(iter(response["content"].values()))}
    return app.openapi_schema or {}


def _operations(document: dict[str, Any]) -> Iterator[tuple[str, str, dict[str, Any]]]:
    """Path, method and description of every operation of an OpenAPI document."""
    for path, operations in document["paths"].items():
        for method, operation in operations.items():
            yield path, method, operation


def _health() -> dict[str, str]:
    """Whether the server answers."""
    return {"status": "ok"}


def _page(path: str, request: Request) -> Response:
    """A built file, or the page itself for every address the front end knows."""
    if path.startswith("api/"):
        return problems.problem_response(
            problems.Answer(404, "no-such-address"), message(None, "api.nothing_at", path=path)
        )
    root = WEB_DIST.resolve()
    file = _file_below(root, path)
    if file is not None:
        return FileResponse(file, headers={"cache-control": _FOREVER if path.startswith("assets/") else "no-cache"})
    if path.startswith("assets/"):
        return problems.problem_response(problems.Answer(404, "no-such-file"), message(None, "api.no_file", path=path))
    index = root / "index.html"
    if not index.is_file():
        return PlainTextResponse(str(_UNBUILT), status_code=503)
    return FileResponse(index, headers={"cache-control": "no-cache"})


def _file_below(root: Path, path: str) -> Path | None:
    """The file a path names below the root; None where there is none, or the name is one no file can have."""
    try:
        file = (root / path).resolve()
        return file if path and file.is_relative_to(root) and file.is_file() else None
    except (OSError, ValueError):
        return None
