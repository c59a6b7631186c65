"""The line protocol: one request a line, one reply a line, each with a checksum, so that a line that is cut is never read as another.

A line is UTF-8 text, fields apart by one space, then ``*`` and the CRC-16 (CCITT) of what comes before it in four hexadecimal digits, then a
line feed. 300 bytes with all of that at most. ``docs/format/instrument.md`` has every request and reply.
"""

from __future__ import annotations

import binascii
import re

VERSION = "1"
MAX_BYTES = 300
_FIELD = re.compile(r"[^\s*]+")


class BadLine(ValueError):
    """A line that is not of the protocol: cut, changed on the way, too long."""


def encode(*fields: str) -> bytes:
    """A line of some fields, none of them empty, with blanks or stars. Raises BadLine where one is, or all are too long.

    >>> encode("NULL")
    b'NULL*3CD1\\n'
    """
    if not fields or not all(_FIELD.fullmatch(each) for each in fields):
        raise BadLine("a field is empty, or has a blank or a star in it")
    body = " ".join(fields).encode()
    line = body + b"*%04X\n" % binascii.crc_hqx(body, 0xFFFF)
    if len(line) > MAX_BYTES:
        raise BadLine("the line is too long")
    return line


def decode(line: bytes) -> tuple[str, ...]:
    """The fields of a line. Raises BadLine."""
    if not line.endswith(b"\n") or len(line) > MAX_BYTES:
        raise BadLine("the line is not whole")
    body, star, checksum = line[:-1].rpartition(b"*")
    if not star or checksum != b"%04X" % binascii.crc_hqx(body, 0xFFFF):
        raise BadLine("the checksum does not fit")
    try:
        text = body.decode()
    except UnicodeDecodeError as why:
        raise BadLine("the line is not UTF-8") from why
    fields = tuple(text.split(" "))
    if not all(_FIELD.fullmatch(each) for each in fields):
        raise BadLine("a field is empty, or has a blank in it")
    return fields
