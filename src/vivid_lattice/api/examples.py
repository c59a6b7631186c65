"""Examples of answers for the OpenAPI document: computed, not written down, so that they cannot go stale."""

from __future__ import annotations

from typing import Any

from pydantic import TypeAdapter

from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.assessment.summary import summary_of
from vivid_lattice.core.design.circuit_design import design
from vivid_lattice.core.design.compare import compare
from vivid_lattice.core.design.max_lengths import max_lengths
from vivid_lattice.core.design.rcd_plans.plan import plan
from vivid_lattice.core.design.rcd_reach import rcd_reach
from vivid_lattice.core.design.remedies import remedies
from vivid_lattice.core.design.what_if import ranges, what_if
from vivid_lattice.core.document.job import EXAMPLE, Job
from vivid_lattice.core.document.readings import Reading, ReadingSubject
from vivid_lattice.core.entry.circuit_line import add_entry
from vivid_lattice.core.entry.tables.circuits import read_circuits
from vivid_lattice.core.entry.tables.prices import read_prices
from vivid_lattice.core.faults.event import FaultEvent
from vivid_lattice.core.faults.fault_result import describe
from vivid_lattice.core.faults.trip_causes import possible_causes
from vivid_lattice.core.findings.finding import Subject
from vivid_lattice.core.job_file import read_data, to_text
from vivid_lattice.core.selectivity.matrix import matrix
from vivid_lattice.store.jobs import JobLine, Revision, RevisionLine
from vivid_lattice.store.photos import Photo
from vivid_lattice.store.readings import ReadingRecord
from vivid_lattice.store.trips import TripRecord
from vivid_lattice.store.wiring_progress import WiringTick

_WHEN = "2026-01-31T09:00:00.000+00:00"


def answers() -> dict[tuple[str, str], Any]:
    """An example of the answer of an operation, by path and method."""
    job = design(read_data(EXAMPLE)).job
    entered = add_entry(job, "cooker 7.2kW 14m", "main")
    done = design(entered.job)
    revision = Revision(
        job_id="3f2a9c",
        number=2,
        uid="8d41b6f05a2c97e3",
        parent=1,
        job=job,
        text="Vestry heater: 14 → 18 m",
        author="this machine",
        saved_at=_WHEN,
        can_undo=True,
        can_redo=False,
    )
    line = JobLine(
        id="3f2a9c",
        title=job.job.title,
        site=job.job.site,
        client=job.job.client,
        rules=job.job.rules,
        head=2,
        circuits=len(job.circuits),
        saved_at=_WHEN,
        changed=revision.text,
        archived=False,
        demo="",
    )
    history = [
        RevisionLine(number=2, parent=1, text=revision.text, author=revision.author, saved_at=_WHEN, head=True),
        RevisionLine(number=1, parent=None, text="begun", author=revision.author, saved_at=_WHEN, head=False),
    ]
    designed = {"document": _plain(done.job), "decisions": [_plain(made) for made in done.decisions]}
    trip = TripRecord(id=7, at="2026-01-30T18:40", device="c1", ran=["c1"], note="while the kettle was on")
    photo = Photo(
        id="5c1f0a9b2d3e4f60", board="old", way=3, caption="burnt terminal", width=1200, height=1600, at=_WHEN
    )
    reading = Reading(
        id="r-1", test="zs", subject=ReadingSubject(kind="circuit", id="c1"), value=0.52, at="2026-01-30T10:15"
    )
    of_job = "/api/jobs/{job_id}"
    return {
        ("/api/jobs", "get"): [_plain(line)],
        **{(path, method): _plain(revision) for path, method in (
            ("/api/jobs", "post"), ("/api/jobs/import", "post"), (of_job, "get"), (of_job, "put"), (f"{of_job}/undo", "post"),
            (f"{of_job}/redo", "post"), (f"{of_job}/revisions/{{number}}", "get"),
        )},
        (f"{of_job}/revisions", "get"): [_plain(entry) for entry in history],
        (f"{of_job}/wiring-progress", "get"): [_plain(WiringTick("main", "supply/L1>main/L1/in", "25 mm²"))],
        (f"{of_job}/summary", "get"): _plain(summary_of(job)),
        (f"{of_job}/duplicate", "post"): _plain(revision),
        (f"{of_job}/photos", "get"): [_plain(photo)],
        (f"{of_job}/photos", "post"): _plain(photo),
        (f"{of_job}/readings", "get"): [_plain(ReadingRecord(reading=reading, kept_at=_WHEN, in_force=True))],
        (f"{of_job}/readings", "post"): {"revision": _plain(revision), "taken": [reading.id], "refused": []},
        (f"{of_job}/readings/table", "post"): {"revision": _plain(revision), "taken": [reading.id], "refused": [], "rows": 1, "problems": []},
        (f"{of_job}/readings/{{reading_id}}/decide", "post"): _plain(revision),
        (f"{of_job}/trips", "get"): [_plain(trip)],
        (f"{of_job}/trips", "post"): _plain(trip),
        (f"{of_job}/imports/circuits", "post"): _plain(read_circuits(job, [("Chancel lamps", "12")], {"name": 0, "length_m": 1})),
        (f"{of_job}/imports/prices", "post"): _plain(read_prices(job, [("rcbo", "31.50")], {"what": 0, "price": 1})),
        ("/api/assess", "post"): _plain(assess(job, explain={("capacity", "c1")})),
        ("/api/remedies", "post"): [_plain(remedy) for remedy in remedies(_tight(job), "voltage-drop", Subject("circuit", "c1"))[:1]],
        ("/api/max-lengths", "post"): [_plain(longest_run) for longest_run in max_lengths(job, "c1")],
        ("/api/rcd-reach", "post"): [_plain(reach) for reach in rcd_reach(job, "c1")],
        ("/api/what-if/ranges", "post"): [_plain(what_if_range) for what_if_range in ranges(job, job.circuits[0])],
        ("/api/what-if", "post"): _plain(what_if(job, "c1", "length")),
        ("/api/compare", "post"): _plain(compare(job, _tight(job))),
        ("/api/selectivity", "post"): _plain(matrix(job)),
        ("/api/rcds/plan", "post"): _plain(plan(job, "main", "own")),
        ("/api/faults", "post"): _plain(describe(job, FaultEvent(kind="line-earth", circuit="c1"))),
        ("/api/faults/causes", "post"): [_plain(possible_cause) for possible_cause in possible_causes(job, "c1")],
        ("/api/larger-supply", "post"): None,
        ("/api/balance-phases", "post"): {"document": _plain(job), "decisions": []},
        ("/api/design", "post"): designed,
        ("/api/parse/circuit", "post"): designed | {"circuit": entered.circuit, "assumed": [str(text) for text in entered.assumed]},
    }  # fmt: skip


def _tight(job: Job) -> Job:
    """The example with a run too long for its cable, so that there is something to fix."""
    text = to_text(job).replace('"length_m": 18.0', '"length_m": 60.0')
    return Job.model_validate_json(text)


def _plain(value: Any) -> Any:
    return TypeAdapter(type(value)).dump_python(value, mode="json")
