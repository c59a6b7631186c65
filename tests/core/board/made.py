"""Boards to build: in every standard, of any size, with shared RCDs, contactors, rings and sub-boards as hypothesis draws them."""

from __future__ import annotations

from typing import Any

from hypothesis import strategies as st

from vivid_lattice.core.board.board_model import BoardModel
from vivid_lattice.core.document.board_build import (
    BoardBuild,
    ControlGear,
    DevicePosition,
    Enclosure,
    LayoutPreferences,
)
from vivid_lattice.core.document.job import (
    LINES,
    Board,
    Cable,
    Circuit,
    Job,
    JobInfo,
    Load,
    MainSwitch,
    Section,
    SharedRcd,
    Way,
    with_parts,
)
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.document.supply import Supply
from vivid_lattice.core.document.surge_and_relay import Spd, VoltageRelay
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.rules import rule_set

#: A system and numbers of phases of each standard.
SCHOOLS: dict[str, tuple[str, tuple[int, ...]]] = {
    "uk": ("TN-S", (1, 3)),
    "iec": ("TN-S", (1, 3)),
    "anz": ("MEN", (1, 3)),
    "za": ("TN-S", (1, 3)),
    "na": ("TN-C-S", (2,)),
}
WIDE = 48


def models(job: Job) -> dict[str, BoardModel]:
    """Every board of a job, worked out."""
    return dict(Installation.of(job, rule_set(job.job.rules)).boards)


def housed(of: Job, rows: int = 1, modules: int = 12, form: str = "rail", **wishes: object) -> Job:
    """The job with its first board in an enclosure, with wishes."""
    enclosure = Enclosure(title="Box", rows=rows, modules=modules, form=form)  # type: ignore[arg-type]
    housing = BoardBuild(enclosure=enclosure, layout_preferences=LayoutPreferences.model_validate(wishes))
    return changed(of, build=housing)


def changed(of: Job, **parts: object) -> Job:
    """The job with parts of its first board changed."""
    return of.model_copy(update={"boards": (of.boards[0].model_copy(update=parts), *of.boards[1:])})


def packed(job: Job, order: list[int] | None = None) -> Job:
    """The job with each board in an enclosure that is large enough, its devices side by side in turn (or in a given order)."""
    boards = []
    for board in job.boards:
        form = "panelboard" if job.supply.phases == 2 else "rail"
        enclosure = Enclosure(
            title="Large", form=form, rows=2 if form == "panelboard" else 8, modules=WIDE, bar_terminals=200
        )
        bare = board.model_copy(update={"build": BoardBuild(enclosure=enclosure)})
        units = [unit for unit in models(with_parts(job, (), (bare,)))[board.id].units.all if unit.wide > 0]
        if order is not None:
            units = [unit for _, unit in sorted(zip(order, units, strict=False), key=lambda pair: pair[0])]
        spots, row, at = [], 1, 0.0
        for unit in units:
            if at + unit.wide > WIDE:
                row, at = row + 1, 0.0
            spots.append(DevicePosition(device=unit.id, row=row, offset_modules=at))
            at += unit.wide
        boards.append(bare.model_copy(update={"build": BoardBuild(enclosure=enclosure, device_positions=tuple(spots))}))
    return with_parts(job, (), tuple(boards))


@st.composite
def boards(draw: Any, most: int = 60) -> Job:
    """A job of one board that is laid out, in one of the standards."""
    standard = draw(st.sampled_from(sorted(SCHOOLS)))
    system, phases_there = SCHOOLS[standard]
    phases = draw(st.sampled_from(phases_there))
    rules = rule_set(standard)
    lines = LINES[:phases]
    count = draw(st.integers(4, most))
    groups = () if standard == "na" else tuple(
        SharedRcd(id=f"r{number}", name=f"RCD {number}", rating_a=63.0, rcd=Rcd(idn_ma=30.0))
        for number in range(1, draw(st.integers(0, 3)) + 1)
    )  # fmt: skip
    circuits, ways = [], []
    for number in range(1, count + 1):
        kind = draw(st.sampled_from(["radial", "lighting", "fixed", *(["ring"] if rules.limits.knows_rings else [])]))
        own = draw(st.sampled_from([(line,) for line in lines] + ([lines] if phases > 1 and kind == "fixed" else [])))
        circuit = Circuit(
            id=f"c{number}",
            name=f"Circuit {number}",
            kind=kind,
            lines=own if phases > 1 else (),
            loads=(Load(name="Load", kind="lamp", power_w=100.0),),
            run=(Section(length_m=10.0, method=rules.default_method),),
            cable=Cable(type=rules.default_cable, area_mm2=rules.cables.kind(rules.default_cable).sizes_mm2[1]),
        )
        device = rules.devices.default_device(circuit, 16.0 if standard != "na" else 20.0)
        group = draw(st.sampled_from([None, *(one.id for one in groups)]))
        if group is not None and draw(st.booleans()):
            device = device.model_copy(update={"kind": "mcb", "rcd": None})
        circuits.append(circuit.model_copy(update={"device": device}))
        ways.append(Way(number=number, circuit=circuit.id, rcd=group))
    switched = draw(st.sets(st.sampled_from([way.circuit for way in ways if way.rcd is None] or ["none"]), max_size=4))
    gear = [
        ControlGear(id="k1", name="All off", kind="contactor", switches=tuple(sorted(switched)), coil_breaker_a=draw(st.sampled_from([None, 6.0])))
        for _ in range(1 if switched and "none" not in switched and draw(st.booleans()) else 0)
    ]  # fmt: skip
    if draw(st.booleans()):
        kind = draw(st.sampled_from(["impulse-relay", "time-switch", "socket"]))
        gear.append(ControlGear(id="g1", name="Gear", kind=kind, rating_a=16.0, switches=("c1",)))
    surge = draw(st.sampled_from([(), ("wired", None), ("wired", 32.0), ("plug-on", None)]))
    board = Board(
        id="main",
        name="Main board",
        fed_by="origin",
        way_count=200,
        main_switch=draw(
            st.sampled_from(
                [MainSwitch(rating_a=100.0), MainSwitch(rating_a=100.0, rcd=Rcd(idn_ma=100.0, time_delayed=True))]
            )
        ),
        voltage_relay=draw(st.sampled_from([None, VoltageRelay(rating_a=63.0, over_v=265.0, under_v=190.0)])),
        shared_rcds=groups,
        spds=(Spd(id="s1", name="Surge", type="2", form=surge[0], backup_a=surge[1]),) if surge else (),
        ways=tuple(ways),
        control_gear=tuple(gear),
    )
    supply = Supply.model_validate(
        {
            "system": system,
            "phases": phases,
            "nominal_v": rules.nominal_v,
            "ze_ohm": 0.3,
            "fault_current_ka": 2.0,
            "earthing": {"conductor_mm2": 16.0, "link_mm2": 16.0, "bonds": ({"name": "water", "area_mm2": 10.0},)},
            "tails": {"area_mm2": 25.0, "length_m": 2.0},
        }
    )
    job = checked(
        Job(
            format="vivid-lattice/3",
            job=JobInfo(title="Drawn", rules=standard),
            supply=supply,
            boards=(board,),
            circuits=tuple(circuits),
        )
    )
    order = draw(st.permutations(range(count + 12)))
    return packed(job, order if draw(st.booleans()) else None)
