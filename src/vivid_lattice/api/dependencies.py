"""What endpoints share: the database connection of a request, and a document that holds together."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterator
from contextlib import closing
from typing import Annotated

from fastapi import Depends, Request

from vivid_lattice.store.database import connect

#: Who a revision is by. One person at one machine; with accounts this becomes the one signed in.
AUTHOR = "this machine"


def _connection(request: Request) -> Iterator[sqlite3.Connection]:
    with closing(connect(request.app.state.database)) as conn:
        yield conn


Connection = Annotated[sqlite3.Connection, Depends(_connection)]
