"""The installation as it is calculated: what feeds what, impedances, drops, devices in series, boards."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from vivid_lattice.core.board.board_model import BoardModel
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.errors import Need
from vivid_lattice.core.messages import Message
from vivid_lattice.core.messages.message import Param
from vivid_lattice.core.network.drops import Drops
from vivid_lattice.core.network.loops import Loops
from vivid_lattice.core.network.measured import measured_runs, with_measured, with_measured_lengths
from vivid_lattice.core.network.overcurrent_series import Series
from vivid_lattice.core.network.rcds import Rcds
from vivid_lattice.core.network.tree import Tree
from vivid_lattice.core.rules.protocol import RuleSet


@dataclass(frozen=True, slots=True, kw_only=True)
class Installation:
    """A job with everything that is worked out once for all its checks. ``entered``: the job as it was given, without what was measured
    in place of what it does not state."""

    job: Job
    entered: Job
    rules: RuleSet
    tree: Tree
    loops: Loops
    drops: Drops
    rcds: Rcds
    series: Series
    boards: Mapping[str, BoardModel]

    @classmethod
    def of(cls, job: Job, rules: RuleSet, template: Installation | None = None) -> Installation:
        """The network of a job under a rule set, with what was measured in place of what is not known; of both, the worse counts.

        template  a network of the same job but for cables and runs: what it has worked out of currents and demand is transferred
        """
        entered, job = job, with_measured(job, rules)
        tree = Tree(job)
        runs = measured_runs(job, rules, tree)
        if (by_length := with_measured_lengths(job, runs)) is not job:
            job, tree = by_length, Tree(by_length)
        drops = Drops(job, rules, tree, template.drops if template else None)
        loops = Loops(job, rules, tree, runs)
        boards = {board.id: BoardModel(job, rules, tree, loops, board) for board in job.boards}
        return cls(
            job=job,
            entered=entered,
            rules=rules,
            tree=tree,
            loops=loops,
            drops=drops,
            rcds=Rcds(job, rules, tree),
            series=Series(job, rules, tree),
            boards=boards,
        )

    def message(self, id_: str, **params: Param) -> Message:
        """A message in the words of the job's standard."""
        return Message(id_, params, self.rules.words)

    def need(self, key: str, path: str, **params: Param) -> Need:
        """An input that is missing: what it is (``<key>.what``), its field, and how to get it (``<key>.ask``)."""
        return Need(self.message(f"{key}.what", **params), path, self.message(f"{key}.ask"))
