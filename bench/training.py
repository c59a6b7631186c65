"""How many tests an expert takes to find what is hidden in a board, against tests in any order.

Usage: make bench, or python bench/training.py [boards]. Each standard and each of the first two levels has so many boards. A board counts
where both find what is hidden; where one does not, by all that can be read, it is counted beside.
"""

from __future__ import annotations

import sys
from statistics import mean, median

from vivid_lattice.core.training.draw_board import training_board
from vivid_lattice.core.training.policies import tests_at_random, tests_by_expert

STANDARDS = ("uk", "iec", "anz", "za", "na")
LEVELS = (1, 2)
SEEDS = 2


def main(count: int) -> None:
    """Print the tests of both, by standard and level, and their ratio."""
    experts: list[float] = []
    chances: list[float] = []
    print(f"{'':8}{'level':>6}{'boards':>8}{'expert':>8}{'random':>8}{'not by expert':>15}{'not by chance':>15}")
    for standard in STANDARDS:
        for level in LEVELS:
            own: list[float] = []
            chance: list[float] = []
            not_expert = not_chance = 0
            for number in range(count):
                board = training_board(standard, level, number)
                expert = tests_by_expert(board)
                random = [each for seed in range(SEEDS) if (each := tests_at_random(board, seed)) is not None]
                not_expert += expert is None
                not_chance += not random
                if expert is not None and random:
                    own.append(expert)
                    chance.append(mean(random))
            print(
                f"{standard:8}{level:6}{count:8}{median(own or [0]):8.0f}{median(chance or [0]):8.0f}"
                f"{not_expert:15}{not_chance:15}"
            )
            experts, chances = experts + own, chances + chance
    ratio = sum(chances) / sum(experts)
    print(
        f"in all, {len(experts)} boards: expert {mean(experts):.1f} tests, random {mean(chances):.1f}, ratio {ratio:.1f}"
    )


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else 10)
