"""The rule sets over HTTP: what may be chosen, and the tables behind every figure."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, Literal, get_args

from fastapi import APIRouter, Path
from pydantic import BaseModel

from vivid_lattice.api.problems import NOT_FOUND
from vivid_lattice.core.assessment.assess import cautions_of
from vivid_lattice.core.board.layout.device_kinds import GEAR, gear_title
from vivid_lattice.core.checks import BOARD_CHECKS, CHECKS, SUPPLY_CHECKS, CheckGroup, RowField, View
from vivid_lattice.core.checks.overload import assumed_start
from vivid_lattice.core.document.board_build import GearKind
from vivid_lattice.core.document.job import RESISTIVE_LOADS, LoadKind
from vivid_lattice.core.document.local_device import WITH_FUSE, WITH_RCD, LocalDeviceKind
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.document.rooms import SPECIAL_ROOMS, ZONED_ROOMS
from vivid_lattice.core.document.surge_and_relay import VoltageRelay
from vivid_lattice.core.document.work_details import WORKS, Work, work_title
from vivid_lattice.core.entry.line_words import line_words
from vivid_lattice.core.errors import BadTable
from vivid_lattice.core.formulas.load_currents import supply_title
from vivid_lattice.core.messages import Text
from vivid_lattice.core.optional import or_none
from vivid_lattice.core.rules import choices, rule_set, standard_ids
from vivid_lattice.core.rules.customary import customary
from vivid_lattice.core.rules.differences import Differences, differences
from vivid_lattice.core.rules.protocol import CableKind, CableSize, DeviceKind, Grouping, Method, RuleSet
from vivid_lattice.core.sources import Source

router = APIRouter(prefix="/api/rules", tags=["rules"])


class RuleSetLine(BaseModel):
    """A rule set there is."""

    id: str
    title: str
    edition: str


class CheckLine(BaseModel):
    """A check, as a column of the lattice."""

    id: str
    title: str
    short: str
    question: str
    compares: str
    group: CheckGroup
    decides: list[RowField]
    where_used: bool


class SupplyCheckLine(BaseModel):
    """A check of the supply as a whole, and the view that shows its result."""

    id: str
    title: str
    question: str
    view: View


class BoardCheckLine(SupplyCheckLine):
    """A check of a board: of how it protects, or of how it is built."""

    category: Literal["protection", "build"]


class LoadLine(BaseModel):
    """A kind of load; one that is plain resistance needs no power factor. ``starts_at``: its starting current over the
    running one that is assumed where none is stated."""

    kind: str
    resistive: bool
    starts_at: float | None


class NamedText(BaseModel):
    """A choice by id, and what it is called."""

    id: str
    title: str


class SupplyLine(BaseModel):
    """A supply that may arrive, by the number of its lines."""

    phases: int
    title: str


class ColoursView(BaseModel):
    """Conductor colours in the order L1, L2, L3, neutral, protective: as now laid, and as met in old work."""

    now: list[str]
    old: list[str]
    source: Source


class WorkLine(BaseModel):
    """A kind of work, and the certificate that goes with it; empty where the standard has none."""

    id: Work
    title: Text

    certificate: str
    source: Source | None


class GearKindLine(BaseModel):
    """A kind of control gear, and how one begins. ``upstream``: of what it switches, circuits or groups; else downstream of one
    circuit's device. ``motor_category``: what its motor rating is for; '' where it has none."""

    id: GearKind
    title: Text
    upstream: bool
    rating_a: float
    coil_breaker_a: float | None
    motor_category: str


class LocalDeviceKindLine(BaseModel):
    """A kind of device outside the board, and what it has."""

    id: LocalDeviceKind
    has_rcd: bool
    has_fuse: bool


class HomeLine(BaseModel):
    """A typical home to begin with: ``system`` and ``phases`` as such homes usually have them."""

    id: str
    title: str
    system: str
    phases: int
    circuits: int


class RuleSetView(RuleSetLine):
    """What a rule set offers to choose from, and its words."""

    vocabulary: dict[str, str]
    systems: list[NamedText]
    homes: list[HomeLine]
    supplies: list[SupplyLine]
    link_systems: list[str]
    source_position_counts: bool
    looped_services: bool
    pen_systems: list[str]
    by_floor_area: bool
    demand_may_be_limited: bool
    usual_terminals: str
    nominal_v: float
    size_unit: str
    tails_sizes: list[CableSize]
    sizes: list[CableSize]
    cut_outs: list[str]
    main_switch_rcds: list[Rcd]
    usual_relay: VoltageRelay
    gear_kinds: list[GearKindLine]
    local_device_kinds: list[LocalDeviceKindLine]
    colours: ColoursView | None
    uses: list[NamedText]
    demand_methods: list[NamedText]
    rings: bool
    special_rooms: list[str]
    zoned_rooms: list[str]
    default_method: str
    declared_ze_ohm: dict[str, float]
    cables: list[CableKind]
    devices: list[DeviceKind]
    methods: list[Method]
    groupings: list[Grouping]
    ambients_c: dict[str, float]
    loads: list[LoadLine]
    checks: list[CheckLine]
    supply_checks: list[SupplyCheckLine]
    board_checks: list[BoardCheckLine]
    works: list[WorkLine]
    line_words: list[str]
    tables: list[str]
    cautions: list[str]


class TableView(BaseModel):
    """A table or a rule in words, with where it comes from."""

    id: str
    title: str
    source: Source
    checked: str
    units: str
    columns: list[str]
    rows: list[list[float | str | bool]]
    notes: str


@router.get("")
def list_rules() -> list[RuleSetLine]:
    """The rule sets there are."""
    return [
        RuleSetLine(id=rules.id, title=rules.title, edition=rules.edition) for rules in map(rule_set, standard_ids())
    ]


@router.get("/differences")
def read_differences() -> Differences:
    """All rule sets side by side, question by question."""
    return differences()


@router.get("/{rules_id}", responses=NOT_FOUND)
def read_rules(rules_id: Annotated[str, Path(max_length=40)]) -> RuleSetView:
    """What a rule set offers, and its words."""
    rules = rule_set(rules_id)
    colours = rules.colours
    return RuleSetView(
        id=rules.id,
        title=rules.title,
        edition=rules.edition,
        vocabulary=dict(rules.vocabulary),
        systems=[NamedText(id=name, title=rules.system_titles.get(name, name)) for name in rules.systems],
        homes=[
            HomeLine(id=home.id, title=home.title, system=home.system, phases=home.phases, circuits=len(home.lines))
            for home in customary(rules.id).homes
        ],
        supplies=[SupplyLine(phases=each, title=supply_title(each, rules.nominal_v)) for each in rules.supplies],
        link_systems=list(rules.earthing.link_systems),
        looped_services=rules.looped_services,
        source_position_counts=rules.sources.busbar.opposite_share > 1,
        pen_systems=list(rules.earthing.pen_systems),
        by_floor_area=rules.demand.by_floor_area,
        demand_may_be_limited=rules.demand.may_be_limited,
        usual_terminals=rules.cables.terminals_text(),
        nominal_v=rules.nominal_v,
        size_unit=rules.sizes.unit,
        tails_sizes=list(choices.tails_sizes(rules)),
        sizes=list(rules.cables.kind(rules.tails_cable).sizes),
        cut_outs=[kind.id for kind in choices.cut_out_kinds(rules)],
        main_switch_rcds=list(choices.main_switch_rcds()),
        usual_relay=choices.usual_relay(rules),
        gear_kinds=[
            GearKindLine(
                id=kind,
                title=gear_title(kind),
                upstream=gear.upstream,
                rating_a=gear.rating_a,
                coil_breaker_a=gear.coil_breaker_a,
                motor_category=gear.motor_category,
            )
            for kind, gear in GEAR.items()
        ],
        local_device_kinds=[
            LocalDeviceKindLine(id=kind, has_rcd=kind in WITH_RCD, has_fuse=kind in WITH_FUSE)
            for kind in get_args(LocalDeviceKind)
        ],
        colours=ColoursView(now=list(colours.now), old=list(colours.old), source=colours.source) if colours else None,
        uses=_named(rules.uses),
        demand_methods=_named(rules.demand.methods),
        rings=rules.limits.knows_rings,
        special_rooms=sorted(SPECIAL_ROOMS),
        zoned_rooms=sorted(ZONED_ROOMS),
        default_method=rules.default_method,
        declared_ze_ohm=dict(rules.declared_ze_ohm),
        cables=list(rules.cables.kinds.values()),
        devices=list(rules.devices.kinds.values()),
        methods=list(rules.factors.methods.values()),
        groupings=list(rules.factors.groupings.values()),
        ambients_c=dict(rules.factors.ambients_c),
        loads=[
            LoadLine(kind=kind, resistive=kind in RESISTIVE_LOADS, starts_at=assumed_start(kind))
            for kind in get_args(LoadKind)
        ],
        checks=[
            CheckLine(
                id=c.id,
                title=str(c.title(rules.words)),
                short=str(c.head(rules.words)),
                question=str(c.question(rules.words)),
                compares=str(c.unit_head(rules.words)),
                group=c.group,
                decides=list(c.decides),
                where_used=c.where_used,
            )
            for c in CHECKS
        ],
        supply_checks=[
            SupplyCheckLine(
                id=c.id, title=str(c.title(rules.words)), question=str(c.question(rules.words)), view=c.view
            )
            for c in SUPPLY_CHECKS
        ],
        board_checks=[
            BoardCheckLine(
                id=c.id,
                title=str(c.title(rules.words)),
                question=str(c.question(rules.words)),
                view=c.view,
                category=c.category,
            )
            for c in BOARD_CHECKS
        ],
        works=[_work(rules, work) for work in WORKS],
        line_words=list(line_words(rules)),
        tables=sorted([*rules.data.tables, *rules.data.rules]),
        cautions=list(cautions_of(rules)),
    )


def _work(rules: RuleSet, work: Work) -> WorkLine:
    sourced_text = or_none(lambda: rules.papers.certificate(work))
    return WorkLine(
        id=work,
        title=work_title(work),
        certificate=sourced_text.text if sourced_text else "",
        source=sourced_text.source if sourced_text else None,
    )


def _named(titles: Mapping[str, str]) -> list[NamedText]:
    return [NamedText(id=name, title=title) for name, title in titles.items()]


@router.get("/{rules_id}/tables/{table_id}", responses=NOT_FOUND)
def read_table(
    rules_id: Annotated[str, Path(max_length=40)], table_id: Annotated[str, Path(max_length=80)]
) -> TableView:
    """A table or rule by id, as packaged."""
    data = rule_set(rules_id).data
    if table_id in data.rules:
        rule = data.rules[table_id]
        return TableView(
            id=rule.id, title=rule.text, source=rule.source, checked="", units="", columns=[], rows=[], notes=""
        )
    if table_id not in data.tables:
        raise BadTable(table_id, "not included; “rules list” names the included ones")
    table = data.tables[table_id]
    return TableView(
        id=table.id,
        title=table.title,
        source=table.source,
        checked=table.checked,
        units=table.units,
        columns=list(table.columns),
        rows=[list(row) for row in table.rows],
        notes=table.notes,
    )
