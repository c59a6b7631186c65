"""The simulated tester on a local TCP port. A connection may drop at any byte; the tester goes on where it was."""

from __future__ import annotations

import socketserver
import threading
from collections.abc import Iterator
from contextlib import contextmanager

from vivid_lattice.instruments.protocol import MAX_BYTES
from vivid_lattice.instruments.simulated import SimulatedTester


class _Handler(socketserver.StreamRequestHandler):
    server: _Server

    def handle(self) -> None:
        while line := self.rfile.readline(MAX_BYTES + 1):
            with self.server.turn:
                reply = self.server.tester.handle(line)
                cut, is_knob = self.server.tester.cut_after, line.startswith(b"CUT ")
                if cut is not None and not is_knob:
                    self.server.tester.cut_after = None
            if cut is not None and not is_knob:
                self.wfile.write(reply[:cut])
                return
            self.wfile.write(reply)
            if not line.endswith(b"\n"):  # too long, or the end: nothing after it can be told apart
                return


class _Server(socketserver.ThreadingTCPServer):
    allow_reuse_address, daemon_threads = True, True

    def __init__(self, tester: SimulatedTester, port: int):
        self.tester, self.turn = tester, threading.Lock()
        super().__init__(("127.0.0.1", port), _Handler)


@contextmanager
def instrument_on(tester: SimulatedTester, port: int = 0) -> Iterator[int]:
    """Serves a tester on loopback until the block ends; gives the port. Raises OSError where the port cannot be had."""
    with serving(_Server(tester, port)) as used:
        yield used


@contextmanager
def serving(listening: socketserver.ThreadingTCPServer) -> Iterator[int]:
    """Lets a server answer in a thread of its own until the block ends; gives its port."""
    with listening as server:
        thread = threading.Thread(target=server.serve_forever, kwargs={"poll_interval": 0.05}, daemon=True)
        thread.start()
        try:
            yield int(server.server_address[1])
        finally:
            server.shutdown()
            thread.join(5)
