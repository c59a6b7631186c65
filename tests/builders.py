"""Healthy jobs to start from: each test breaks one thing in one."""

from __future__ import annotations

from typing import Any

from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.checks import SUPPLY_CHECKS
from vivid_lattice.core.design.remedies import find
from vivid_lattice.core.document.job import (
    Board,
    Cable,
    Circuit,
    Device,
    FedByWay,
    Job,
    JobInfo,
    Load,
    MainSwitch,
    Section,
    Way,
)
from vivid_lattice.core.document.local_earthing import LocalEarthing
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.document.supply import CutOut, Supply
from vivid_lattice.core.document.surge_and_relay import SurgeDecline, SurgeRisk
from vivid_lattice.core.findings.finding import Finding, Subject
from vivid_lattice.core.job_file import checked


def rcbo(rating_a: float, curve: str = "B", **more: Any) -> Device:
    """A 30 mA type A RCBO of 6 kA."""
    return Device.model_validate(
        {"kind": "rcbo", "curve": curve, "rating_a": rating_a, "breaking_ka": 6.0, "rcd": Rcd(idn_ma=30.0)} | more
    )


def mcb(rating_a: float, curve: str = "B", **more: Any) -> Device:
    """A circuit-breaker of 6 kA."""
    return Device.model_validate({"kind": "mcb", "curve": curve, "rating_a": rating_a, "breaking_ka": 6.0} | more)


def flat(area_mm2: float, **more: Any) -> Cable:
    """Flat twin and earth."""
    return Cable.model_validate({"type": "flat-twin-pvc", "area_mm2": area_mm2} | more)


def laid(length_m: float | None, method: str = "C", **more: Any) -> Section:
    """A section of a run, on the surface."""
    return Section.model_validate({"length_m": length_m, "method": method, "concealed_in": "no"} | more)


def circuit(**changed: Any) -> Circuit:
    """A 3 kW heater on 20 m of 2.5 mm² behind a B16 RCBO: everything in order."""
    parts: dict[str, Any] = {
        "id": "c1",
        "name": "Heater",
        "kind": "fixed",
        "loads": (Load(name="Heater", kind="heater", power_w=3000.0),),
        "run": (laid(20.0),),
        "cable": flat(2.5),
        "device": rcbo(16.0),
    }
    return Circuit.model_validate(parts | changed)


def supply(**changed: Any) -> Supply:
    """TN-C-S, 0.35 Ω, 1 kA behind a 100 A cut-out; tails so short that they lose nothing; earthed and bonded in order."""
    parts: dict[str, Any] = {
        "system": "TN-C-S",
        "ze_ohm": 0.35,
        "fault_current_ka": 1.0,
        "cutout": cutout(),
        "tails": {"area_mm2": 25.0, "length_m": 1e-6},
        "earthing": {"conductor_mm2": 16.0, "bonds": ({"name": "water pipe", "area_mm2": 10.0},)},
    }
    return Supply.model_validate(parts | changed)


def job(*circuits: Circuit, **changed: Any) -> Job:
    """One board at the origin, its circuits in ways 1, 2, …; without circuits, one healthy one."""
    held = circuits or (circuit(),)
    ways = tuple(Way(number=number, circuit=held_.id) for number, held_ in enumerate(held, 1))
    main = Board(
        id="main", name="Main board", fed_by="origin", way_count=40, main_switch=MainSwitch(rating_a=100.0), ways=ways
    )
    parts: dict[str, Any] = {
        "format": "vivid-lattice/3",
        "job": JobInfo(title="Test"),
        "supply": supply(),
        "boards": (main,),
        "circuits": held,
        "surge": without_surge(),
    }
    return checked(Job.model_validate(parts | changed))


def without_surge() -> SurgeRisk:
    """The owner does without surge protection, in writing, so that nothing of it is open."""
    declined = SurgeDecline(name="The owner", date="2026-09-12", reason="loss would be borne", in_writing=True)
    return SurgeRisk(lightning_protection=False, overhead_line=False, consequence="ordinary", declined=declined)


def feeder(**changed: Any) -> Circuit:
    """A 40 A feeder on 30 m of buried 10 mm² armoured cable."""
    return circuit(
        **(
            {
                "id": "f1",
                "name": "Feeder",
                "kind": "distribution",
                "loads": (),
                "run": (laid(30.0, "D"),),
                "cable": Cable(type="swa-xlpe", area_mm2=10.0, cpc="core"),
                "device": mcb(40.0, "C"),
            }
            | changed
        )
    )


def exported(**changed: Any) -> LocalEarthing:
    """The earth of the house taken to another building with the feeder, where there is nothing to bond."""
    return LocalEarthing.model_validate({"kind": "exported", "has_metalwork": False} | changed)


_EXPORTED = exported()


def own_rod(ohm: float | None = 40.0, **changed: Any) -> LocalEarthing:
    """An electrode of its own alone, 16 mm², nothing to bond, 4 m from metal on the other earth: everything in order."""
    parts = {
        "kind": "electrode",
        "electrode_ohm": ohm,
        "conductor_mm2": 16.0,
        "separation_m": 4.0,
        "feeder_earth_connected": False,
        "has_metalwork": False,
    }
    return LocalEarthing.model_validate(parts | changed)


def two_boards(
    feeding: Circuit | None = None, *far: Circuit, earthing: LocalEarthing | None = _EXPORTED, **changed: Any
) -> Job:
    """A main board that feeds a second one in another building, the circuits of the second being ``far``."""
    link = feeding or feeder()
    held = far or (circuit(),)
    main = Board(id="main", name="Main board", fed_by="origin", way_count=10, ways=(Way(number=1, circuit=link.id),))
    ways = tuple(Way(number=number, circuit=held_.id) for number, held_ in enumerate(held, 1))
    sub = Board(
        id="sub",
        name="Sub-board",
        fed_by=FedByWay(board="main", way=1),
        way_count=20,
        ways=ways,
        earthing=earthing,
    )
    parts: dict[str, Any] = {
        "format": "vivid-lattice/3",
        "job": JobInfo(title="Two boards"),
        "supply": supply(),
        "boards": (main, sub),
        "circuits": (link, *held),
        "surge": without_surge(),
    }
    return checked(Job.model_validate(parts | changed))


def cutout(rating_a: float = 100.0) -> CutOut:
    """A household cut-out fuse."""
    return CutOut(kind="fuse-bs88-3", rating_a=rating_a)


_OF_THE_SUPPLY = frozenset(check.id for check in SUPPLY_CHECKS)


def finding(of: Job, check: str, circuit_id: str = "c1") -> Finding:
    """What a check says of a circuit, or of the supply."""
    subject = Subject("supply", "supply") if check in _OF_THE_SUPPLY else Subject("circuit", circuit_id)
    found = find(assess(of), check, subject)
    assert found is not None, f"no finding {check} of {circuit_id}"
    return found


def step_result(of: Finding, symbol: str) -> float:
    """The result of the (last) step of a working that has the symbol."""
    return [step.result for step in of.working if step.symbol == symbol][-1]
