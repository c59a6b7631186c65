"""The one sum behind every loop-impedance table."""

from __future__ import annotations

from vivid_lattice.core.errors import OutOfRange


def loop_limit_ohm(uo_v: float, cmin: float, ia_a: float) -> float:
    """Greatest earth fault loop impedance at which a device's operating current still flows.

    Equation  Zs = Uo · Cmin / Ia

    uo_v     Uo, nominal voltage to earth [V], over 0
    cmin     Cmin, allowance for a low supply [-], over 0, at most 1
    ia_a     Ia, current that makes the device open within the required time [A], over 0
    Returns  Zs [Ω]
    Raises   OutOfRange
    Source   BS 7671:2018, 411.4.4 (from memory)

    >>> round(loop_limit_ohm(230, 0.95, 160), 5)
    1.36563
    """
    if ia_a <= 0:
        raise OutOfRange("ia_a", ia_a, "over 0")
    if not 0 < cmin <= 1:
        raise OutOfRange("cmin", cmin, "over 0 and at most 1")
    return uo_v * cmin / ia_a


def fault_current_a(uo_v: float, loop_ohm: float) -> float:
    """Current that flows round a fault loop.

    Equation  I = Uo / Z

    uo_v      Uo, voltage driving the fault [V], over 0
    loop_ohm  Z, impedance of the whole loop [Ω], over 0
    Returns   I [A]
    Raises    OutOfRange
    Source    Ohm's law

    >>> round(fault_current_a(230, 0.35))
    657
    """
    if loop_ohm <= 0:
        raise OutOfRange("loop_ohm", loop_ohm, "over 0")
    return uo_v / loop_ohm
