"""What the benches share: the quickest of some calls, and a line against a budget."""

from __future__ import annotations

import time
from collections.abc import Callable


def best_ms(call: Callable[[], object], rounds: int) -> float:
    """The quickest of some calls [ms]."""
    found = []
    for _ in range(rounds):
        start = time.perf_counter()
        call()
        found.append(1000 * (time.perf_counter() - start))
    return min(found)


def told(what: str, took_ms: float, budget_ms: float) -> bool:
    """Prints a line with its ratio; whether it is within its budget."""
    print(f"{what:<48} {took_ms:8.1f} ms (budget {budget_ms:g} ms, ratio {budget_ms / took_ms:.1f})")
    return took_ms <= budget_ms
