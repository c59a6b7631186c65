"""Words that put circuits into switching groups: all off at the door, keep on the freezer, an impulse relay for the hall lights, a central
off for them; and a voltage relay for the board."""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Literal

#: What a line states: everything switched off together, some left on, a relay worked by push-buttons, such relays switched off together, a
#: relay that watches the voltage.
SwitchingKind = Literal["all-off", "keep-on", "impulse-relay", "central-off", "voltage-relay"]

_NAMES = r"(?:\s*:\s*|\s+)(?P<names>.+)"
_KEEP = r"(?:keep on|always on|stays on|bleibt an|bleiben an)"
_PATTERNS: tuple[tuple[SwitchingKind, re.Pattern[str]], ...] = (
    (
        "all-off",
        re.compile(
            rf"(?P<title>(?:all off|master off|alles aus)(?: [^:,;]+?)?)(?:\s*:\s*(?P<names>[^;]+?))?(?:[,;]?\s*{_KEEP}\s*:?\s*(?P<keep>.+))?"
        ),
    ),
    ("keep-on", re.compile(rf"{_KEEP}{_NAMES}")),
    ("impulse-relay", re.compile(rf"(?:impulse relays?|latching relays?|stromsto(?:ß|ss)schalter){_NAMES}")),
    (
        "central-off",
        re.compile(r"(?P<title>(?:central off|zentral aus)(?: [^:,;]+?)?)(?:\s*:\s*(?P<names>.+))?"),
    ),
    (
        "voltage-relay",
        re.compile(
            r"(?:voltage (?:watching )?relay|over- and undervoltage relay|spannungsrelais)(?P<settings>(?:[ ,]+[\w.<>]+)*?)(?:\s*:\s*(?P<names>.+))?"
        ),
    ),
)


@dataclass(frozen=True, slots=True, kw_only=True)
class SwitchingWords:
    """A line of switching: ``title`` as it is typed (all off at the door); ``names`` what it is for, empty: all; ``keep`` what stays on;
    ``settings``: of a voltage relay (63A over 265 under 190)."""

    kind: SwitchingKind
    title: str = ""
    names: tuple[str, ...] = ()
    keep: tuple[str, ...] = ()
    settings: str = ""


def read_switching(text: str) -> SwitchingWords | None:
    """What a line says of switching; None where it says nothing of it, as the line of a circuit does.

    >>> read_switching("all off at the door, keep on: freezer, router").keep
    ('freezer', 'router')
    >>> read_switching("keep on: freezer and alarms").names, read_switching("hall lights 9m")
    (('freezer', 'alarms'), None)
    """
    line = " ".join(text.split()).rstrip(".")
    for kind, pattern in _PATTERNS:
        if found := re.fullmatch(pattern, line.casefold()):
            parts = found.groupdict()
            title = line[: len(parts["title"].rstrip())] if parts.get("title") else ""
            return SwitchingWords(
                kind=kind,
                title=title,
                names=_list(parts.get("names")),
                keep=_list(parts.get("keep")),
                settings=(parts.get("settings") or "").strip(" ,"),
            )
    return None


def _list(text: str | None) -> tuple[str, ...]:
    return tuple(name for part in re.split(r",|;| and | und ", text or "") if (name := part.strip()))
