"""What earthed metal reaches to true earth when the PEN conductor of a supply is broken."""

from __future__ import annotations

from vivid_lattice.core.errors import OutOfRange


def max_electrode_ohm(demand_a: float, nominal_v: float, limit_v: float) -> float:
    """Largest resistance of an electrode that keeps the earth terminal of a single-phase installation within a voltage.

    Equation  With the PEN broken the loads, U0/Ib, are in series with the electrode across U0:
              UE = U0 · RA / (RA + U0/Ib) ≤ UL,  so that  RA ≤ UL · U0 / (Ib · (U0 − UL))

    demand_a  Ib, maximum demand of the installation [A], over 0;  nominal_v  U0 [V];  limit_v  UL [V], over 0 and below U0
    Returns   RA [Ω]
    Raises    OutOfRange
    Source    BS 7671:2018+A2, Annex A722 (from memory); physics. The resistance of the loads alone: that of the source's electrode, left out,
              only lowers the voltage

    >>> round(max_electrode_ohm(60.0, 230.0, 70.0), 2)
    1.68
    """
    if demand_a <= 0:
        raise OutOfRange("demand_a", demand_a, "over 0")
    if not 0 < limit_v < nominal_v:
        raise OutOfRange("limit_v", limit_v, f"over 0 and below {nominal_v:g}")
    return limit_v * nominal_v / (demand_a * (nominal_v - limit_v))
