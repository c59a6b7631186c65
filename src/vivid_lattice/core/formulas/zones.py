"""The zone an item is in, from its distances. Geometry alone; what may stand there is the check's.

Every boundary belongs to the inner, stricter zone.
"""

from __future__ import annotations

from collections.abc import Mapping

from vivid_lattice.core.document.rooms import Room
from vivid_lattice.core.units import SLACK

OUTSIDE = "outside"


def bath_zone(
    across_m: float,
    height_m: float,
    tray: bool,
    figures: Mapping[str, float],
    *,
    outlet_m: float | None = None,
    rim_m: float | None = None,
) -> str:
    """Zone of a room with a bath or shower.

    across_m   from the edge of the bath or tray (0 or less: over or in it); without a tray from the fixed water outlet [m]
    height_m   of the item's lowest part above the floor [m]
    tray       whether there is a bath or tray; without one zone 1 reaches 1.20 m and there is no zone 2
    outlet_m   height of the highest fixed outlet, where it lies above the usual top [m]
    rim_m      height of the rim: below it, over the bath or tray, is its hollow, zone 0 [m]; None: as low as a tray's
    Source     IEC 60364-7-701:2006, 701.32; BS 7671:2018+A2, 701.32 (from memory)

    >>> measures = {"zone1_top_m": 2.25, "zone2_m": 0.6, "shower_m": 1.2, "tray_m": 0.1}
    >>> [bath_zone(x, 1.0, True, measures) for x in (0.0, 0.6, 0.61)], bath_zone(-0.2, 0.5, True, measures, rim_m=0.55)
    (['1', '2', 'outside'], '0')
    """
    top = max(figures["zone1_top_m"], outlet_m or 0.0)
    inner = 0.0 if tray else figures["shower_m"]
    if height_m > top + SLACK:
        return OUTSIDE
    if across_m <= inner + SLACK:
        # Without a tray zone 0 is the lowest 0.10 m; in a bath or tray it is the hollow itself.
        upto = max(figures["tray_m"], rim_m or 0.0) if tray else figures["tray_m"]
        inside = across_m <= SLACK or not tray
        return "0" if inside and height_m <= upto + SLACK else "1"
    if tray and across_m <= figures["zone2_m"] + SLACK:
        return "2"
    return OUTSIDE


def sauna_zone(across_m: float, height_m: float, figures: Mapping[str, float]) -> str:
    """Zone of a sauna cabin, from the heater: 1 within 0.5 m, 2 below 1.0 m, 3 above.

    Source  IEC 60364-7-703:2004, 703.32 (from memory)
    """
    if across_m <= figures["zone1_m"] + SLACK:
        return "1"
    return "3" if height_m >= figures["zone3_from_m"] - SLACK else "2"


def pool_zone(across_m: float, height_m: float, figures: Mapping[str, float]) -> str:
    """Zone of a swimming pool, from its rim: 0 in the basin, 1 to 2.0 m, 2 a further 1.5 m, each to 2.5 m above the floor.

    Source  IEC 60364-7-702:2010, 702.32 (from memory)
    """
    if across_m <= SLACK and height_m <= 0:
        return "0"
    if height_m > figures["top_m"] + SLACK:
        return OUTSIDE
    if across_m <= figures["zone1_m"] + SLACK:
        return "1"
    return "2" if across_m <= figures["zone1_m"] + figures["zone2_m"] + SLACK else OUTSIDE


def zone_of(
    shape: str,
    room: Room,
    across_m: float,
    height_m: float,
    figures: Mapping[str, float],
) -> str:
    """Zone of a place in a room, by the shape of the room's zones ('bath', 'sauna' or 'pool'); see the three above."""
    if shape == "sauna":
        return sauna_zone(across_m, height_m, figures)
    if shape == "pool":
        return pool_zone(across_m, height_m, figures)
    tray = room.kind == "bath"
    return bath_zone(across_m, height_m, tray, figures, outlet_m=room.water_outlet_height_m, rim_m=room.rim_height_m)


def ip_enough(has: str, needs: str) -> bool:
    """Whether a degree of protection meets another; X in what is needed asks nothing, X in what is there gives nothing.

    Against water 7 and 8 (immersion) do not include 5 and 6 (jets).
    Source  IEC 60529, clause 6 (from memory)

    >>> ip_enough("IP44", "IPX4"), ip_enough("IP20", "IPX4"), ip_enough("IPX7", "IPX5"), ip_enough("IPX4", "IP24")
    (True, False, False, False)
    """
    return _digit(has[2]) >= _digit(needs[2]) and _water(has[3], needs[3])


def _digit(sign: str) -> int:
    return 0 if sign == "X" else int(sign)


def _water(has: str, needs: str) -> bool:
    there, asked = _digit(has), _digit(needs)
    return there >= asked and not (there in (7, 8) and asked in (5, 6))
