"""The one place where units are converted. Names elsewhere carry their unit, so nothing else multiplies by 1000."""

from __future__ import annotations


def ohm_from_mohm(value_mohm: float) -> float:
    """Milliohm to ohm.

    >>> ohm_from_mohm(7.41)
    0.00741
    """
    return value_mohm / 1000.0


def volt_from_millivolt(value_mv: float) -> float:
    """Millivolt to volt.

    >>> volt_from_millivolt(18.0)
    0.018
    """
    return value_mv / 1000.0


def a_from_ka(value_ka: float) -> float:
    """Kiloampere to ampere.

    >>> a_from_ka(1.5)
    1500.0
    """
    return value_ka * 1000.0


def ka_from_a(value_a: float) -> float:
    """Ampere to kiloampere.

    >>> ka_from_a(657.0)
    0.657
    """
    return value_a / 1000.0


def a_from_ma(value_ma: float) -> float:
    """Milliampere to ampere.

    >>> a_from_ma(30.0)
    0.03
    """
    return value_ma / 1000.0


#: A foot [m], by the definition of the international foot.
M_PER_FT = 0.3048


#: Slack for floating point where a value is compared with a limit, relative or absolute: far below anything a meter can read.
SLACK = 1e-9
