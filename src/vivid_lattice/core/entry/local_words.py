"""Words of a typed line for a device outside the board: an RCD at the outlet, a fused unit."""

from __future__ import annotations

from collections.abc import Sequence

from vivid_lattice.core.document.local_device import LocalDeviceKind

_OUTLETS = frozenset({"socket", "sockets", "outlet", "outlets", "receptacle", "receptacles", "steckdose", "steckdosen"})
_FUSED = frozenset({"fcu", "spur", "fused"})


def local_device(words: Sequence[str]) -> LocalDeviceKind | None:
    """What a residual-current word before a word for an outlet or a fused unit means: a device there, not in the board. The second word
    keeps its own meaning. None where the words mean none.

    >>> local_device(["rcd", "sockets"]), local_device(["GFCI", "receptacles"]), local_device(["rcd", "fcu"]), local_device(["rcd", "30mA"])
    ('rcd-outlet', 'rcd-outlet', 'rcd-fused-unit', None)
    """
    if len(words) < 2:
        return None
    first, second = (word.casefold().strip(".,") for word in words[:2])
    if first not in ("rcd", "gfci", "gfi", "fi"):
        return None
    if second in _OUTLETS:
        return "rcd-outlet"
    return "rcd-fused-unit" if first == "rcd" and second in _FUSED else None
