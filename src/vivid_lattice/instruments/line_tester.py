"""The adapter of an instrument that speaks the line protocol on a local TCP port.

Each call is a connection of its own. A line that drops is tried again: since the id of a reading is chosen here, the instrument gives the
reading it has already, and none is taken twice or lost.
"""

from __future__ import annotations

import math
import socket
from collections.abc import Iterator
from contextlib import contextmanager
from typing import BinaryIO, get_args

from pydantic import TypeAdapter, ValidationError

from vivid_lattice.core.document.readings import ReadingId, ReadingKind, ReadingSubject
from vivid_lattice.core.errors import EntryNotUnderstood
from vivid_lattice.core.testing.reading_text import reading_text
from vivid_lattice.instruments.adapter import InstrumentIdentity, InstrumentReading, InstrumentRefused
from vivid_lattice.instruments.protocol import MAX_BYTES, VERSION, BadLine, decode, encode
from vivid_lattice.instruments.ranges import mode_for

_HOST = "127.0.0.1"
#: How often a request is sent before the line is given up, and what each waits [s].
_TRIES, _TIMEOUT_S = 3, 5.0
#: More readings than this no memory has.
_MEMORY_MOST = 1000
_ID: TypeAdapter[ReadingId] = TypeAdapter(ReadingId)


class LineTester:
    """An instrument at a port of this machine. Every method raises InstrumentRefused."""

    def __init__(self, port: int):
        self._port = port

    def identify(self) -> InstrumentIdentity:
        """Which instrument it is."""
        with self._line() as line:
            name, serial, calibrated_on = self._ok(line, 3, "HELLO", VERSION)
        return InstrumentIdentity(name=name.replace("-", " "), serial=serial, calibrated_on=calibrated_on)

    def null_leads(self) -> float:
        """Subtracts the resistance of the leads from now on; returns it [Ω]."""
        with self._line() as line:
            [ohm] = self._ok(line, 1, "NULL")
        try:
            value = float(ohm)
        except ValueError:
            raise InstrumentRefused("not-understood") from None
        if not 0 <= value < math.inf:
            raise InstrumentRefused("not-understood")
        return value

    def read(
        self, identity: ReadingId, test: ReadingKind, subject: ReadingSubject, *, no_trip: bool = False
    ) -> InstrumentReading:
        """Takes a reading, in the mode that it needs. Asked again with the same id, it gives the same reading."""
        mode = mode_for(test, no_trip=no_trip)
        if mode is None:
            raise InstrumentRefused("wrong-mode")
        for attempt in range(_TRIES):
            try:
                with self._line() as line:
                    self._ok(line, 1, "MODE", mode)
                    reading = self._reading(self._ask(line, "READ", identity, test, subject.kind, subject.id))
            except InstrumentRefused as refused:
                if refused.reason != "connection-lost" or attempt == _TRIES - 1:
                    raise
            else:
                # What answers another question than the one that was asked is no answer.
                if (reading.id, reading.test, reading.subject) != (identity, test, subject):
                    raise InstrumentRefused("not-understood")
                return reading
        raise InstrumentRefused("connection-lost")

    def stored(self) -> tuple[InstrumentReading, ...]:
        """Readings in its memory that were not acknowledged yet, the oldest first."""
        found: list[InstrumentReading] = []
        with self._line() as line:
            while len(found) < _MEMORY_MOST:
                identity, _count = self._ok(line, 2, "STORED", str(len(found)))
                if identity == "-":
                    break
                found.append(self._reading(self._ask(line, "RECALL", identity)))
        return tuple(found)

    def acknowledge(self, identities: tuple[ReadingId, ...]) -> None:
        """Has the instrument forget readings that are saved elsewhere."""
        with self._line() as line:
            for identity in identities:
                self._ok(line, 1, "FORGET", identity)

    @contextmanager
    def _line(self) -> Iterator[BinaryIO]:
        try:
            with (
                socket.create_connection((_HOST, self._port), _TIMEOUT_S) as connection,
                connection.makefile("rwb") as line,
            ):
                yield line  # type: ignore[misc]
        except OSError:
            raise InstrumentRefused("connection-lost") from None

    def _ask(self, line: BinaryIO, *fields: str) -> tuple[str, ...]:
        """The fields of the reply. A reply that is cut is a line that dropped."""
        try:
            line.write(encode(*fields))
            line.flush()
            reply = line.readline(MAX_BYTES + 1)
        except BadLine:
            raise InstrumentRefused("not-understood") from None
        try:
            word, *rest = decode(reply)
        except BadLine:
            raise InstrumentRefused("connection-lost") from None
        if word == "ERR" and len(rest) == 1:
            raise InstrumentRefused(rest[0])
        return word, *rest

    def _ok(self, line: BinaryIO, count: int, *fields: str) -> list[str]:
        word, *rest = self._ask(line, *fields)
        if word != "OK" or len(rest) != count:
            raise InstrumentRefused("not-understood")
        return rest

    def _reading(self, reply: tuple[str, ...]) -> InstrumentReading:
        """A reading of the protocol, checked like one that is typed."""
        try:
            word, identity, mode, test, kind, subject, text = reply
            if word != "READING" or test not in get_args(ReadingKind):
                raise ValueError(word)
            reading_text(text, test)  # type: ignore[arg-type]
            return InstrumentReading(
                id=_ID.validate_python(identity),
                test=test,  # type: ignore[arg-type]
                subject=ReadingSubject(kind=kind, id=subject),  # type: ignore[arg-type]
                text=text,
                no_trip=mode == "loop-no-trip",
            )
        except (ValueError, ValidationError, EntryNotUnderstood):
            raise InstrumentRefused("not-understood") from None
