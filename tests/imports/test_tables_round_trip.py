"""Circuits out as a table and in again: what a table holds comes back as it was, in every standard, whatever the board."""

from __future__ import annotations

import unittest

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.core.board.made import boards
from tests.reports.reading import report_data
from vivid_lattice.core.document.job import Circuit, Device, Job
from vivid_lattice.core.document.plan import Plan
from vivid_lattice.core.entry.tables.circuits import read_circuits
from vivid_lattice.core.entry.tables.columns import FIELDS, matched
from vivid_lattice.core.rules import rule_set
from vivid_lattice.demo import DEMOS, demo_job
from vivid_lattice.imports.table import read_table
from vivid_lattice.reports.tables import as_csv, as_xlsx, circuits


def emptied(job: Job) -> Job:
    """The job with its boards fed by the origin and nothing in their ways."""
    bare = {"ways": (), "shared_rcds": (), "control_gear": (), "fed_by": "origin", "earthing": None, "standby": None}
    boards_ = tuple(board.model_copy(update=bare | {"build": type(board.build)()}) for board in job.boards)
    return job.model_copy(update={"boards": boards_, "circuits": (), "plan": Plan()})


def held(circuit: Circuit) -> dict[str, object]:
    """What a table holds of a circuit."""
    device, cable = circuit.device, circuit.cable
    rcd = device.rcd if isinstance(device, Device) else None
    one = circuit.loads[0] if len(circuit.loads) == 1 else None
    return {
        "name": circuit.name,
        "kind": circuit.kind,
        "lines": circuit.lines,
        "length": circuit.run[0].length_m if len(circuit.run) == 1 else None,
        "method": circuit.run[0].method,
        "cable": cable if isinstance(cable, str) else (cable.type, cable.area_mm2),
        "device": device
        if isinstance(device, str)
        else (
            device.kind,
            device.curve,
            device.rating_a,
            device.breaking_ka,
            device.modules,
            device.switches_neutral,
        ),
        "rcd": (rcd.idn_ma, rcd.type) if rcd else None,
        "source": (circuit.source.kind, circuit.source.rated_a) if circuit.source else None,
        "outside": [device.model_dump() for device in circuit.local_devices],
        "earth": (circuit.earthing.kind, circuit.earthing.electrode_ohm) if circuit.earthing else None,
        "load": (one.kind, one.power_w, one.count, one.room) if one else None,
    }


def sold(job: Job) -> Job:
    """The job with every device of a rating that its standard sells; a table takes no others."""
    kinds = rule_set(job.job.rules).devices.kinds

    def of(one: Circuit) -> Circuit:
        assert isinstance(one.device, Device)
        wanted = one.device.rating_a
        rating = min(kinds[one.device.kind].ratings_a, key=lambda held: abs(held - wanted))
        return one.model_copy(update={"device": one.device.model_copy(update={"rating_a": rating})})

    return job.model_copy(update={"circuits": tuple(of(one) for one in job.circuits)})


class RoundTrip(unittest.TestCase):
    """As CSV and as XLSX."""

    def back(self, job: Job, raw: bytes) -> dict[str, Circuit]:
        table = read_table(raw)
        done = read_circuits(emptied(job), table.rows, matched(table.heads, FIELDS), table.first_row)
        self.assertEqual([row.problems for row in done.rows if row.problems], [])
        ways = {way.circuit: (board.name, way.number) for board in done.job.boards for way in board.ways}
        was = {way.circuit: (board.name, way.number) for board in job.boards for way in board.ways}
        by_way = {place: name for name, place in ways.items()}
        made = {one.id: one for one in done.job.circuits}
        return {name: made[by_way[place]] for name, place in was.items()}

    @settings(max_examples=30, deadline=None, suppress_health_check=list(HealthCheck))
    @given(boards(most=16), st.booleans())
    def test_generated_boards_of_every_standard(self, job: Job, as_book: bool) -> None:
        job = sold(job)
        table = circuits(report_data(job))
        back = self.back(job, as_xlsx([table], "x") if as_book else as_csv(table))
        for one in job.circuits:
            self.assertEqual(held(back[one.id]), held(one))

    def test_every_demo_as_far_as_a_table_goes(self) -> None:
        for name in DEMOS:
            job = demo_job(name)
            if not job.circuits:
                continue
            back = self.back(job, as_csv(circuits(report_data(job))))
            for one in job.circuits:
                with self.subTest(name, circuit=one.name):
                    was, now = held(one), held(back[one.id])
                    # Of several loads or sections a table holds the sum or nothing; sockets without a power hold no load.
                    lacking = {key for key in ("load", "length", "method") if was[key] is None or now[key] is None}
                    self.assertEqual(
                        {key: now[key] for key in now if key not in lacking},
                        {key: was[key] for key in was if key not in lacking},
                    )

    def test_devices_poles_and_earths_written_by_hand(self) -> None:
        """Cells as people write them, and those that are not understood."""
        heads = "Circuit,Kind,Load,Power kW,Length,Isolator,Earth,Electrode,Width,Two pole"
        cells = {
            "Pump,fixed,motor,1,10,isolator 20 A lockable,own rod,40,2,yes": (
                [("isolator", 20.0, None, None, True)],
                ("electrode", 40.0),
                (2.0, True),
            ),
            'Heater,fixed,heater,2,10,"FCU 13A fuse 10A; RCD (rcd, 40 A, 30 mA A, at 4 m)",,,,no': (
                [("fused-unit", 13.0, 10.0, None, None), ("rcd", 40.0, None, 30.0, None)],
                None,
                (None, False),
            ),
        }
        job = emptied(demo_job("millrace"))
        for row, (devices, earth, form) in cells.items():
            table = read_table(f"{heads}\n{row}\n".encode())
            done = read_circuits(job, table.rows, matched(table.heads, FIELDS), table.first_row)
            self.assertEqual([each.problems for each in done.rows], [()], row)
            made = done.job.circuits[-1]
            found = [
                (d.kind, d.rating_a, d.fuse_a, d.rcd.idn_ma if d.rcd else None, d.lockable) for d in made.local_devices
            ]
            self.assertEqual(found, devices)
            self.assertEqual(held(made)["earth"], earth)
            assert made.preferred is not None
            self.assertEqual((made.preferred.modules, made.preferred.switches_neutral), form)
        for row, column in (
            ("Pump,fixed,motor,1,10,gizmo 20 A,,,,", "Devices outside the board"),
            ("Pump,fixed,motor,1,10,rcd 30 mA,,,,", "Devices outside the board"),
            ("Pump,fixed,motor,1,10,,the moon,,,", "Earth of its points"),
            ("Pump,fixed,motor,1,10,,,40,,", "Electrode, Ω"),
            ("Pump,fixed,motor,1,10,,,,,perhaps", "Switches the neutral"),
        ):
            table = read_table(f"{heads}\n{row}\n".encode())
            done = read_circuits(job, table.rows, matched(table.heads, FIELDS), table.first_row)
            self.assertEqual([problem.field for each in done.rows for problem in each.problems], [column], row)


if __name__ == "__main__":
    unittest.main()
