"""Devices as checks name them: what it is first, then where it is."""

from __future__ import annotations

from vivid_lattice.core.installation.contexts import BoardContext, CircuitContext
from vivid_lattice.core.messages import Message
from vivid_lattice.core.network.rcds import RcdPlace


def rcd_label(ctx: CircuitContext | BoardContext, place: RcdPlace) -> Message:
    """A residual-current device with its place: 30 mA RCD type A (way 1, Kiln, Main board)."""
    return ctx.message("core.label.rcd", rcd=ctx.rules.bands.rcd_name(place.rcd), name=place.name, where=place.where)
