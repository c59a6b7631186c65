"""Surge protective devices: what their leads add, and what arrives at the equipment."""

from __future__ import annotations

from math import ceil


def surge_lead_kv(length_m: float, rise_ka_per_us: float = 1.0) -> float:
    """What a surge drives along a lead [kV], rounded up to the volt.

    Equation  U = L · di/dt, L about 1 µH a metre

    >>> surge_lead_kv(0.8), surge_lead_kv(0.5)
    (0.8, 0.5)
    """
    return ceil(round(length_m * rise_ka_per_us * 1000, 6)) / 1000
