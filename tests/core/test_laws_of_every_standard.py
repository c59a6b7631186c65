"""Laws that hold in every standard, whatever its tables: found by hypothesis over all of its cables, methods and devices."""

from __future__ import annotations

import unittest
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.builders import finding, job, supply
from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.checks import CHECKS
from vivid_lattice.core.document.job import Cable, Circuit, Job, JobInfo, Load, Section
from vivid_lattice.core.document.supply import CutOut
from vivid_lattice.core.findings.finding import Finding
from vivid_lattice.core.findings.verdict import VERDICT_ORDER
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.rules import rule_set, standard_ids
from vivid_lattice.core.rules.from_tables.standard import StandardFromTables

EXAMPLES = 70
SCHOOLS = {name: rule_set(name) for name in standard_ids()}
#: A size asked of a protective conductor may fall where a longer run makes a smaller fault.
BY_LENGTH = ("voltage-drop", "disconnection")


@st.composite
def cases(draw: Any) -> Job:
    """A job of one final circuit in any standard: any of its cables, sizes, methods and ratings."""
    name = draw(st.sampled_from(sorted(SCHOOLS)))
    standard = SCHOOLS[name]
    cable_kind = draw(st.sampled_from([kind for kind in standard.cables.kinds.values() if kind.methods]))
    method = draw(st.sampled_from(sorted(cable_kind.methods)))
    size = draw(st.sampled_from(cable_kind.sizes_mm2))
    kind = draw(st.sampled_from(["radial", "lighting", "fixed"]))
    usual = standard.devices.default_device(_blank(kind), 20.0)
    rating = draw(st.sampled_from([at for at in standard.devices.kind(usual.kind).ratings_a if at <= 63]))
    device = standard.devices.default_device(_blank(kind), rating)
    return _job(
        standard,
        Circuit(
            id="c1",
            name="Circuit",
            kind=kind,
            loads=(Load(name="Load", kind="appliance", power_w=draw(st.floats(50, 9000)), power_factor=0.9),),
            run=(
                Section(
                    length_m=round(draw(st.floats(0.5, 150)), 1),
                    method=method,
                    ambient_c=draw(st.none() | st.sampled_from([20.0, 30.0, 40.0, 45.0])),
                    circuits_grouped=draw(st.integers(1, 6)),
                ),
            ),
            cable=Cable(type=cable_kind.id, area_mm2=size),
            device=device,
        ),
    )


def _blank(kind: str) -> Circuit:
    return Circuit.model_validate(
        {
            "id": "c1",
            "name": "c",
            "kind": kind,
            "run": (Section(length_m=1.0, method="C"),),
            "cable": "auto",
            "device": "auto",
        }
    )


def _job(standard: StandardFromTables, held: Circuit) -> Job:
    system = standard.systems[0]
    made = job().model_copy(update={"circuits": (held,)})
    ahead = supply(system=system, cutout=None, nominal_v=standard.nominal_v)
    return checked(made.model_copy(update={"job": JobInfo(title="Law", rules=standard.id), "supply": ahead}))


def _cutout(standard: StandardFromTables) -> CutOut:
    """The largest device of the standard's first kind of fuse, or of its first kind of device."""
    kinds = list(standard.devices.kinds.values())
    kind = next((one for one in kinds if one.action == "fuse"), kinds[0])
    return CutOut(kind=kind.id, rating_a=max(kind.ratings_a))


def _with(made: Job, **changed: Any) -> Job:
    [held] = made.circuits
    return made.model_copy(update={"circuits": (held.model_copy(update=changed),)})


def _section(made: Job, **changed: Any) -> Job:
    [held] = made.circuits
    return _with(made, run=(held.run[0].model_copy(update=changed),))


class Laws(unittest.TestCase):
    """Worse surroundings never answer better; more copper never answers worse; nothing is passed in the dark."""

    def never_better(self, before: Finding, after: Finding) -> None:
        """A verdict no better than it was, and no more in hand of the same limit. What goes past a table's end is missing, and
        what was missing is not known to be good where everything is worse."""
        if before.verdict == "missing":
            self.assertNotIn(after.verdict, ("pass", "tight", "not-applicable"), str(after.sentence))
            return
        if after.verdict == "missing":
            self.assertTrue(after.needs, str(after.sentence))
            return
        if "not-applicable" in (before.verdict, after.verdict):
            return
        if before.margin is not None and after.margin is not None:
            self.assertLessEqual(after.margin, before.margin + 1e-9, f"{(before.sentence)!s}\n{(after.sentence)!s}")
        self.assertLessEqual(
            VERDICT_ORDER.index(after.verdict), VERDICT_ORDER.index(before.verdict), str(after.sentence)
        )

    @given(cases(), st.floats(1.05, 4))
    @settings(max_examples=EXAMPLES, deadline=None)
    def test_longer(self, made: Job, times: float) -> None:
        longer = _section(made, length_m=(made.circuits[0].run[0].length_m or 1.0) * times)
        for check in BY_LENGTH:
            before, after = finding(made, check), finding(longer, check)
            if before.verdict == "advice" or after.verdict == "advice":
                continue  # another way of clearing, or a limit that is recommended: its own figures
            if before.limit == after.limit:
                self.never_better(before, after)

    @given(cases())
    @settings(max_examples=EXAMPLES, deadline=None)
    def test_hotter_or_more_crowded(self, made: Job) -> None:
        section = made.circuits[0].run[0]
        base = SCHOOLS[made.job.rules].factors.base_ambient_c(section)
        ambient = section.ambient_c if section.ambient_c is not None else base
        before = finding(made, "capacity")
        self.never_better(before, finding(_section(made, ambient_c=ambient + 10.0), "capacity"))
        self.never_better(before, finding(_section(made, circuits_grouped=section.circuits_grouped + 2), "capacity"))

    @given(cases())
    @settings(max_examples=EXAMPLES, deadline=None)
    def test_more_copper(self, made: Job) -> None:
        cable = made.circuits[0].cable
        assert not isinstance(cable, str)
        sizes = SCHOOLS[made.job.rules].cables.kind(cable.type).sizes_mm2
        at = sizes.index(cable.area_mm2)
        if at + 1 == len(sizes):
            return
        larger = _with(made, cable=cable.model_copy(update={"area_mm2": sizes[at + 1]}))
        for check in ("capacity", "voltage-drop", "disconnection", "short-circuit-withstand"):
            before, after = finding(larger, check), finding(made, check)
            if before.unit == after.unit and "advice" not in (before.verdict, after.verdict):
                self.never_better(before, after)

    @given(cases(), st.floats(1.1, 20))
    @settings(max_examples=EXAMPLES, deadline=None)
    def test_more_impedance_ahead(self, made: Job, times: float) -> None:
        ahead = made.supply.model_copy(update={"ze_ohm": (made.supply.ze_ohm or 0.35) * times})
        before, after = (
            finding(made, "disconnection"),
            finding(made.model_copy(update={"supply": ahead}), "disconnection"),
        )
        if before.limit == after.limit:
            self.never_better(before, after)

    @given(cases())
    @settings(max_examples=EXAMPLES, deadline=None)
    def test_more_current_to_break(self, made: Job) -> None:
        larger = made.model_copy(update={"supply": made.supply.model_copy(update={"fault_current_ka": 16.0})})
        self.never_better(finding(made, "breaking-capacity"), finding(larger, "breaking-capacity"))

    @given(cases(), st.floats(1.1, 3))
    @settings(max_examples=EXAMPLES, deadline=None)
    def test_more_load(self, made: Job, times: float) -> None:
        load = made.circuits[0].loads[0]
        ahead = made.supply.model_copy(update={"cutout": _cutout(SCHOOLS[made.job.rules])})
        made = made.model_copy(update={"supply": ahead})
        heavier = _with(made, loads=(load.model_copy(update={"power_w": (load.power_w or 1.0) * times}),))
        for check in ("overload", "voltage-drop", "demand"):
            self.never_better(finding(made, check), finding(heavier, check))

    @given(cases(), st.sampled_from([4.0, 6.0, 10.0, 16.0, 25.0]), st.sampled_from([10.0, 16.0, 25.0]))
    @settings(max_examples=EXAMPLES, deadline=None)
    def test_thinner_earthing_or_thicker_tails(self, made: Job, earth: float, tails: float) -> None:
        def with_(earth_mm2: float, tails_mm2: float) -> Job:
            bonds = ({"name": "water pipe", "area_mm2": earth_mm2},)
            earthing = {"conductor_mm2": earth_mm2, "link_mm2": earth_mm2, "bonds": bonds}
            ahead = supply(
                system=made.supply.system, nominal_v=made.supply.nominal_v, cutout=None, earthing=earthing,
                tails={"area_mm2": tails_mm2, "length_m": 1.0},
            )  # fmt: skip
            return made.model_copy(update={"supply": ahead})

        for check in ("earthing", "bonding"):
            self.never_better(finding(with_(earth, tails), check), finding(with_(earth / 1.6, tails), check))
            self.never_better(finding(with_(earth, tails), check), finding(with_(earth, tails * 1.4), check))

    @given(cases(), st.sampled_from(["length", "power", "factor", "cable", "device", "ze", "fault"]))
    @settings(max_examples=2 * EXAMPLES, deadline=None)
    def test_what_is_taken_away_never_makes_a_pass(self, made: Job, what: str) -> None:
        [held] = made.circuits
        load = held.loads[0]
        poorer = {
            "length": lambda: _section(made, length_m=None),
            "power": lambda: _with(made, loads=(load.model_copy(update={"power_w": None}),)),
            "factor": lambda: _with(made, loads=(load.model_copy(update={"power_factor": None}),)),
            "cable": lambda: _with(made, cable="auto"),
            "device": lambda: _with(made, device="auto"),
            "ze": lambda: made.model_copy(update={"supply": made.supply.model_copy(update={"ze_ohm": None})}),
            "fault": lambda: made.model_copy(
                update={"supply": made.supply.model_copy(update={"fault_current_ka": None})}
            ),
        }[what]()
        before = {(one.check, one.subject): one for one in assess(made, explain=False).findings}
        for after in assess(poorer, explain=False).findings:
            was = before[after.check, after.subject]
            if after.verdict in ("pass", "tight") and was.verdict not in ("pass", "tight"):
                self.fail(f"{what} taken away: {(was.sentence)!s} became {(after.sentence)!s}")
            if after.verdict == "missing":
                self.assertTrue(after.needs and all(need.what for need in after.needs), str(after.sentence))

    @given(cases())
    @settings(max_examples=EXAMPLES, deadline=None)
    def test_every_figure_names_where_it_comes_from(self, made: Job) -> None:
        for check in CHECKS:
            found = finding(made, check.id)
            for step in found.working:
                if step.source is not None:
                    self.assertTrue(step.source.publication and step.source.provenance, f"{check.id}: {step}")
            if found.verdict not in ("missing", "not-applicable"):
                self.assertIsNotNone(found.rule, check.id)


if __name__ == "__main__":
    unittest.main()
