"""What a price list calls a line of the material list."""

from __future__ import annotations

import re

from vivid_lattice.core.messages import Message, Text, speaking

#: Names of this job: another has other ones for the same article.
_OF_THIS_JOB = ("board", "circuit", "gear")
_MOST = 110


def article_of(kind: str, what: Text) -> str:
    """The article of a line, by its English words without the names of this job: ``device:mcb-b16-6-ka-1-pole``."""
    if isinstance(what, Message):
        named = {name: "" for name in _OF_THIS_JOB if name in what.params}
        what = Message(what.id, {**what.params, **named}, what.words)
    with speaking("en"):
        words = str(what).lower()
    return f"{kind}:{re.sub(r'[^a-z0-9.]+', '-', words).strip('-')}"[:_MOST]
