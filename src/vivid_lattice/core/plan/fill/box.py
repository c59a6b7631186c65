"""What is in a box against what it takes: cables, conductors or volume, as the standard counts; and the smallest box that takes it."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from vivid_lattice.core.errors import NotPossible
from vivid_lattice.core.messages import message
from vivid_lattice.core.rules.plan_rules import BoxMethod, BoxSize, PlanRules

#: A connector beside the accessory counts as half a cable. An equipment ground beyond four counts a quarter. Slack of a comparison.
_CONNECTOR, _GROUNDS, _MORE, _SLACK = 0.5, 4, 0.25, 1e-9


@dataclass(frozen=True, slots=True, kw_only=True)
class BoxContent:
    """What is in a box. ``cables``: the conductors of each cable that comes in, the protective one counted; ``size``: of the largest [mm²], or
    its gauge; ``connectors``: of three ports or more; ``devices``: on a yoke; ``studs``: of a luminaire; ``clamps``: whether the box holds
    its cables itself; ``ceiling``: whether it is a box for a light."""

    cables: tuple[int, ...]
    size: float | str
    gangs: int = 1
    connectors: int = 0
    devices: int = 0
    studs: int = 0
    clamps: bool = False
    ceiling: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class BoxFill:
    """What is used of a box, with its parts; the smallest box that takes it, None where none of the table does. ``method`` None: not available
    for the standard."""

    method: BoxMethod | None
    used: float
    parts: tuple[str, ...]
    box: BoxSize | None
    limit: float | None


def box_fill(rules: PlanRules, content: BoxContent) -> BoxFill:
    """What a box has to take.

    Equation  cables: one each, and a half for a connector; conductors: one each; volume: each conductor, a quarter more for each ground over
              four, two for each yoke, one for what holds the cables and for studs, of the largest size
    Source    uk, iec: practice; NEC 314.16(B)
    Raises    NotPossible where the table of volumes lacks the size
    """
    method = rules.box_method
    if method is None:
        return BoxFill(method=None, used=0.0, parts=(), box=None, limit=None)
    if method == "volume":
        used, parts = _volume(rules, content)
    elif method == "cables":
        used = len(content.cables) + _CONNECTOR * content.connectors
        parts = [f"cables {len(content.cables)}"]
        if content.connectors:
            parts.append(f"connectors {content.connectors} × {_CONNECTOR:g}")
    else:
        used = float(sum(content.cables))
        parts = [f"{count}" for count in content.cables]
    fitting = [
        box for box in rules.boxes if _gangs_fit(box, content) and (_takes(box, content) or 0.0) >= used - _SLACK
    ]
    found = min(fitting, key=lambda box: _takes(box, content) or 0.0, default=None)
    return BoxFill(
        method=method,
        used=used,
        parts=tuple(parts),
        box=found,
        limit=None if found is None else _takes(found, content),
    )


def takes(rules: PlanRules, name: str, content: BoxContent) -> bool:
    """Whether a box of the table takes what is in it. KeyError where there is none of the name."""
    box = next((each for each in rules.boxes if each.name == name), None)
    if box is None:
        raise KeyError(name)
    fill, limit = box_fill(rules, content), _takes(box, content)
    return limit is not None and fill.used <= limit + _SLACK


def _gangs_fit(box: BoxSize, content: BoxContent) -> bool:
    return box.ceiling == content.ceiling and box.gangs in (0, content.gangs)


def _takes(box: BoxSize, content: BoxContent) -> float | None:
    """How much a box takes of conductors of a size: the row of the next larger one; None beyond the table."""
    if isinstance(content.size, str):
        return box.takes.get(math.inf)
    rows = [size for size in sorted(box.takes) if size >= content.size - _SLACK]
    return box.takes[rows[0]] if rows else None


def _volume(rules: PlanRules, content: BoxContent) -> tuple[float, Sequence[str]]:
    volumes = {str(size): float(volume) for size, volume in rules.table_rows("na.box.conductor-volume")}
    if str(content.size) not in volumes:
        raise NotPossible(message(None, "core.plan.fill.no_size", size=str(content.size)))
    each = volumes[str(content.size)]
    insulated = sum(count - 1 for count in content.cables)
    grounds = len(content.cables)
    of_grounds = (1 if grounds else 0) + _MORE * max(0, grounds - _GROUNDS)
    shares = {
        "conductors": float(insulated),
        "grounds": of_grounds,
        "clamps": 1.0 if content.clamps else 0.0,
        "studs": float(content.studs),
        "devices": 2.0 * content.devices,
    }
    parts = [f"{name} {count:g} × {each:g} in³" for name, count in shares.items() if count]
    return each * sum(shares.values()), parts
