"""Files: a name that every system takes, and content that is whole or not there at all."""

from __future__ import annotations

import os
import re
from pathlib import Path

_UNFIT = re.compile(r"[^\w.]+", re.UNICODE)
#: Names that one system or another keeps for its devices.
_DEVICES = re.compile(r"^(con|prn|aux|nul|com\d|lpt\d)$", re.IGNORECASE)
_LONGEST = 60


def file_name(*parts: str, suffix: str) -> str:
    """A file name that every system takes, from a job's title and what the file is.

    >>> file_name("Mill: a/b", "design report", suffix="pdf"), file_name("../..", suffix="json"), file_name("CON", suffix="pdf")
    ('Mill-a-b-design-report.pdf', 'job.json', 'job-CON.pdf')
    """
    words = [_UNFIT.sub("-", part).strip("-._")[:_LONGEST].strip("-._") for part in parts]
    stem = "-".join(word for word in words if word) or "job"
    return f"job-{stem}.{suffix}" if _DEVICES.match(stem) else f"{stem}.{suffix}"


def write_atomically(target: Path, content: bytes) -> None:
    """A file written whole, or left as it was."""
    partial = target.with_name(target.name + ".partial")
    try:
        partial.write_bytes(content)
        partial.replace(target)
    except OSError:
        partial.unlink(missing_ok=True)
        raise


def write_private(target: Path, content: bytes) -> None:
    """A file that no one else on this machine can read, from its first byte on."""
    target.unlink(missing_ok=True)
    with os.fdopen(os.open(target, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600), "wb") as file:
        file.write(content)
