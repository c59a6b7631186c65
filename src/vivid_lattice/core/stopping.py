"""Giving up work that no one waits for any more: the one who starts it says how to tell, and long loops look now and then."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar

from vivid_lattice.core.errors import Stopped

_requested: ContextVar[Callable[[], bool] | None] = ContextVar("stop_requested", default=None)


@contextmanager
def stopping_when(requested: Callable[[], bool]) -> Iterator[None]:
    """Work inside ends with Stopped at its next stop point once ``requested`` is true."""
    token = _requested.set(requested)
    try:
        yield
    finally:
        _requested.reset(token)


def stop_point() -> None:
    """A place in a long loop where the work may end. Raises Stopped where that is requested."""
    requested = _requested.get()
    if requested is not None and requested():
        raise Stopped
