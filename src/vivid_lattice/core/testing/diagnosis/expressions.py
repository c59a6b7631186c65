"""Formulas of readings: arithmetic over named figures, compiled once."""

from __future__ import annotations

import ast
from collections.abc import Callable, Mapping
from functools import lru_cache

from vivid_lattice.core.errors import BadTable

_OPERATORS = (ast.Add, ast.Sub, ast.Mult, ast.Div, ast.Pow, ast.USub, ast.Load)
Formula = Callable[[Mapping[str, float]], float]


@lru_cache(maxsize=512)
def compiled(expression: str) -> Formula:
    """A formula of figures, names, + − · / and brackets. Raises BadTable for anything else.

    >>> compiled("Ze+R1*(1-x)")({"Ze": 0.3, "R1": 1.0, "x": 0.5})
    0.8
    """
    try:
        tree = ast.parse(expression, mode="eval")
    except SyntaxError:
        raise BadTable(expression, "is no formula") from None
    for node in ast.walk(tree):
        figure = isinstance(node, ast.Constant) and isinstance(node.value, int | float)
        if not (figure or isinstance(node, (ast.Expression, ast.BinOp, ast.UnaryOp, ast.Name, *_OPERATORS))):
            raise BadTable(expression, f"has a part that is not arithmetic: {type(node).__name__}")
    code = compile(tree, "<formula>", "eval")

    def evaluate(symbols: Mapping[str, float]) -> float:
        return float(eval(code, {"__builtins__": {}}, dict(symbols)))

    return evaluate


def names_in(expression: str) -> frozenset[str]:
    """The figures that a formula needs.

    >>> sorted(names_in("Ze+R1*(1-x)"))
    ['R1', 'Ze', 'x']
    """
    return frozenset(node.id for node in ast.walk(ast.parse(expression, mode="eval")) if isinstance(node, ast.Name))
