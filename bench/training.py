"""How many tests an expert needs to find what is hidden in a board, against tests in any order.

Usage: make bench, or python bench/training.py [boards]. Each standard and each level below the last has its boards.
"""

from __future__ import annotations

import sys
from statistics import median

from vivid_lattice.core.training.draw_board import training_board
from vivid_lattice.core.training.policies import tests_at_random, tests_by_expert
from vivid_lattice.core.training.screening import all_tests

STANDARDS = ("uk", "iec", "anz", "za", "na")
SEEDS = 2


def main(count: int) -> None:
    """Print the tests of both, by standard, and their ratio."""
    experts: list[int] = []
    chances: list[int] = []
    print(f"{'standard':10}{'boards':>7}{'expert':>8}{'random':>8}{'not told':>10}")
    for standard in STANDARDS:
        own: list[int] = []
        chance: list[int] = []
        lost = 0
        for number in range(count):
            board = training_board(standard, 1 + number % 2, number)
            expert = tests_by_expert(board)
            if expert is None:
                lost += 1
                continue
            own.append(expert)
            # a board that is not told by all of its tests costs all of them
            chance += [tests_at_random(board, seed) or len(all_tests(board)) for seed in range(SEEDS)]
        print(f"{standard:10}{count:7}{median(own or [0]):8.0f}{median(chance or [0]):8.0f}{lost:10}")
        experts, chances = experts + own * SEEDS, chances + chance
    ratio = sum(chances) / max(1, sum(experts))
    print(
        f"in all: expert {sum(experts) / len(experts):.1f}, random {sum(chances) / len(chances):.1f}, ratio {ratio:.1f}"
    )


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else 20)
