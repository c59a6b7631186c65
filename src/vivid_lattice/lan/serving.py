"""The server on the local network, beside the one on loopback: the same jobs, over TLS, with the access token."""

from __future__ import annotations

import threading
import time
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from datetime import UTC, datetime
from pathlib import Path

import uvicorn
from fastapi import FastAPI

from vivid_lattice.lan.addresses import host_name, local_addresses
from vivid_lattice.lan.certificates import certificates_in
from vivid_lattice.lan.pairing import Pairing, pairing_of, token_in

_START_WITHIN_S = 15.0


def pairing_for(folder: Path, port: int, token: str | None = None, names: Sequence[str] = ()) -> Pairing:
    """The pairing of this machine as it is in the network now, its certificates and token made where they are not there.

    folder  where they are kept; token  the user's own; None: one that is made; names  further names that it is reached by
    """
    addresses, name = local_addresses(), host_name()
    certificates = certificates_in(folder, addresses, [name, *names], datetime.now(UTC))
    return pairing_of(certificates, token or token_in(folder), [*addresses, *([name] if name else [])], port)


@contextmanager
def on_the_network(app: FastAPI, pairing: Pairing, port: int, host: str = "0.0.0.0") -> Iterator[None]:
    """Serves an application over TLS in a thread, until the block ends. Raises OSError where the port cannot be had."""
    config = uvicorn.Config(
        app,
        host=host,
        port=port,
        log_level="warning",
        ssl_certfile=str(pairing.certificates.certificate),
        ssl_keyfile=str(pairing.certificates.key),
    )
    server = uvicorn.Server(config)
    thread = threading.Thread(target=server.run, name="local network", daemon=True)
    thread.start()
    end = time.monotonic() + _START_WITHIN_S
    while not server.started and thread.is_alive() and time.monotonic() < end:
        time.sleep(0.02)
    if not server.started:
        server.should_exit = True
        raise OSError(f"The server could not be started on port {port} of the local network.")
    try:
        yield
    finally:
        server.should_exit = True
        thread.join(10)
