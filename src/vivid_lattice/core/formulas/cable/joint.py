"""What a poor joint costs while its circuit is loaded."""

from __future__ import annotations


def joint_heat_w(joint_ohm: float, current_a: float) -> float:
    """Heat that a joint gives off [W].

    joint_ohm  resistance of the joint above that of sound copper;  current_a  what flows through it

    Source  I²·R

    >>> joint_heat_w(0.2, 20.0)
    80.0
    """
    return joint_ohm * current_a**2


def current_through_joint_a(joint_ohm: float, load_a: float, voltage_v: float) -> float:
    """Current of a load of fixed resistance behind a joint [A]: the joint is in series with it.

    load_a  what the load takes at ``voltage_v`` without the joint

    Source  Ohm's law

    >>> round(current_through_joint_a(0.2, 20.0, 230.0), 2)
    19.66
    """
    return load_a / (1 + joint_ohm * load_a / voltage_v)
