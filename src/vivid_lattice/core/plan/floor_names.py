"""What floors are called."""

from __future__ import annotations

from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.plan.geometry.house import House


def floor_name(house: House, level: int) -> Text:
    """What a floor is called: as stated, else by its number."""
    if house.floor(level).name:
        return house.floor(level).name
    if level == 0:
        return message(None, "core.plan.level.ground")
    return message(None, "core.plan.level.above" if level > 0 else "core.plan.level.below", n=abs(level))
