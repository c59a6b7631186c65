"""A circuit of impedances and voltage sources, solved by nodal analysis."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from vivid_lattice.core.faults.nodes import BranchName, Node

#: A closed contact [Ω]: far below any conductor, and large enough for the residual of a device to be read to some µA.
CONTACT_OHM = 1e-5
#: Holds nodes that nothing else holds [S].
_GMIN_S = 1e-12


@dataclass(frozen=True, slots=True, kw_only=True)
class Branch:
    """An impedance from node ``a`` to node ``b`` [Ω], with a source that drives from a to b [V]."""

    name: BranchName
    a: int
    b: int
    ohm: complex
    emf_v: complex


class ImpedanceNetwork:
    """Nodes by name and branches by name; the node named first is the reference, at 0 V."""

    def __init__(self, reference: Node):
        self._nodes: dict[Node, int] = {reference: 0}
        self.branches: dict[BranchName, Branch] = {}
        #: Branches of a source that gives no more than a current together with a load or fault of any size [A].
        self.limit: tuple[tuple[BranchName, ...], float] | None = None

    def node(self, name: Node) -> int:
        """Index of a node; one that is named for the first time is made."""
        return self._nodes.setdefault(name, len(self._nodes))

    def name_of(self, node: int) -> Node:
        """Name of a node by its index."""
        return next(name for name, index in self._nodes.items() if index == node)

    def has(self, name: Node) -> bool:
        """Whether there is a node of that name."""
        return name in self._nodes

    def join(self, name: BranchName, a: Node, b: Node, ohm: complex = 0j, emf_v: complex = 0j) -> None:
        """A branch between two nodes; one without impedance is a contact. A name that is taken is replaced."""
        admittance = ohm if abs(ohm) >= CONTACT_OHM else complex(CONTACT_OHM)
        self.branches[name] = Branch(name=name, a=self.node(a), b=self.node(b), ohm=admittance, emf_v=emf_v)

    def cut(self, name: BranchName) -> None:
        """Takes a branch away."""
        del self.branches[name]

    def solve(self, open_: Collection[BranchName] = ()) -> NetworkSolution:
        """Voltages with some branches open.

        Equation  Y · V = I, Y the admittance matrix, I what the sources drive (Kirchhoff's current law at every node)
        A source that limits its current lowers its voltage until it gives no more: in a linear network every voltage and current is
        lower in the same ratio.
        """
        branches = [branch for name, branch in self.branches.items() if name not in open_]
        size = len(self._nodes)
        a = np.fromiter((branch.a for branch in branches), dtype=np.intp, count=len(branches))
        b = np.fromiter((branch.b for branch in branches), dtype=np.intp, count=len(branches))
        admittance = 1 / np.fromiter((branch.ohm for branch in branches), dtype=np.complex128, count=len(branches))
        driven = admittance * np.fromiter(
            (branch.emf_v for branch in branches), dtype=np.complex128, count=len(branches)
        )
        matrix = np.zeros((size, size), dtype=np.complex128)
        for rows, columns, sign in ((a, a, 1), (b, b, 1), (a, b, -1), (b, a, -1)):
            np.add.at(matrix, (rows, columns), sign * admittance)
        matrix[np.arange(size), np.arange(size)] += _GMIN_S
        right = np.zeros(size, dtype=np.complex128)
        np.add.at(right, a, -driven)
        np.add.at(right, b, driven)
        volts = np.zeros(size, dtype=np.complex128)
        volts[1:] = _solved(matrix[1:, 1:], right[1:])
        full = NetworkSolution(self._nodes, self.branches, frozenset(open_), volts)
        if self.limit is None:
            return full
        names, limit_a = self.limit
        amps = max(abs(full.amp(name)) for name in names)
        share = min(1.0, limit_a / amps) if amps > 0 else 1.0
        return NetworkSolution(self._nodes, self.branches, full.open, volts * share, share)


def _solved(matrix: npt.NDArray[np.complex128], right: npt.NDArray[np.complex128]) -> npt.NDArray[np.complex128]:
    """The voltages. A part that nothing joins to the rest has no voltage of its own: there the smallest solution is taken,
    which is none."""
    try:
        return np.linalg.solve(matrix, right).astype(np.complex128, copy=False)
    except np.linalg.LinAlgError:
        return np.linalg.lstsq(matrix, right, rcond=None)[0].astype(np.complex128, copy=False)


@dataclass(frozen=True, slots=True)
class NetworkSolution:
    """Voltages of all nodes, and the currents that follow."""

    nodes: dict[Node, int]
    branches: dict[BranchName, Branch]
    open: frozenset[BranchName]
    volts: npt.NDArray[np.complex128]
    #: The share of its voltage that a limited source still holds.
    share: float = 1.0

    def volt(self, node: Node, against: Node | None = None) -> complex:
        """Voltage of a node against another, or the reference [V]."""
        other = self.volts[self.nodes[against]] if against else 0j
        return complex(self.volts[self.nodes[node]] - other)

    def amp(self, branch: BranchName) -> complex:
        """Current of a branch from a to b [A]; none where it is open or there is no such branch."""
        element = self.branches.get(branch)
        if element is None or branch in self.open:
            return 0j
        return complex((self.volts[element.a] - self.volts[element.b] + self.share * element.emf_v) / element.ohm)
