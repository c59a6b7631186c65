"""Rules of boards, read from a standard's ``[board]`` part and the tables every standard shares."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cached_property, lru_cache
from typing import Any

from vivid_lattice.core.document.board_build import TopOrBottom
from vivid_lattice.core.errors import NotTabulated
from vivid_lattice.core.messages import message
from vivid_lattice.core.rules.board_rules import MainRule, MainSide, NoticeRule, PlaceRule, SpareSpace
from vivid_lattice.core.rules.rule_data import RuleData, Table
from vivid_lattice.core.rules.sourced_value import SourcedValue
from vivid_lattice.core.sources import Source
from vivid_lattice.core.text import Shown

#: The rule behind a topic where a standard names none of its own.
_SHARED = {
    "spare": "common.board.spare",
    "comb": "common.board.comb",
    "bar": "common.board.bar-place",
    "order": "common.board.bar-place",
    "own_bar": "common.board.own-bar",
    "torque": "common.board.torque",
    "chart": "common.board.chart",
    "gap": "common.board.contactor-gap",
    "clamp": "common.board.double-clamp",
    "heat": "common.board.heat-surface",
    "openings": "common.survey.openings",
    "rewirable": "common.survey.rewirable",
    "material": "common.survey.material",
    "mapping": "common.survey.mapping",
}
#: Ferrule collars are coloured by size; the table belongs to the standards that share the IEC's.
_FERRULES = "iec.ferrule.colour"


class BoardRulesFromTables:
    """Board rules of a standard."""

    def __init__(self, data: RuleData, standard: Mapping[str, Any]):
        self._data = data
        self._entries: Mapping[str, Any] | None = standard.get("board")
        self._title = str(standard["standard"]["title"])
        self._loaded: dict[tuple[int, bool], SourcedValue] = {}

    @property
    def _file(self) -> Mapping[str, Any]:
        if self._entries is None:
            raise NotTabulated(
                message(None, "core.rules.board.need.what", standard=self._title),
                path="job.rules",
                ask=message(None, "core.rules.need.ask"),
            )
        return self._entries

    def _source(self, name: str) -> Source:
        return self._data.rule(name).source if name in self._data.rules else self._data.table(name).source

    def source(self, topic: str) -> Source:
        """Where the rule behind a topic ('busbar', 'bar', 'torque', 'chart', …) is."""
        return self._source(self._file.get(f"{topic}_rule") or _SHARED[topic])

    def figure(self, rule: str, param: str) -> SourcedValue:
        """A figure of a rule by name."""
        entry = self._data.rule(rule)
        return SourcedValue(float(entry.params[param]), entry.source)

    @cached_property
    def main(self) -> MainRule:
        """What a board is switched off by."""
        entry = self._file
        return MainRule(
            breaks=entry["main_breaks"],
            has_release=bool(entry.get("main_has_release", False)),
            source=self.source("main"),
            sub_level=entry["sub_main_level"],
            sub_source=self._source(entry["sub_main_rule"]),
        )

    @property
    def switch_category(self) -> Source:
        """The utilisation categories of switches and household contactors."""
        return self._source("common.switch.category")

    @property
    def tandem(self) -> Source | None:
        """Where two breakers may share the place of one; None: the standard names nothing."""
        rule = self._file.get("tandem_rule")
        return None if rule is None else self._source(rule)

    def rail_socket_device_a(self, outlet_a: float) -> SourcedValue:
        """Largest device that a socket on the rail may be on [A]: the usual outlet's as the standard has it, else its rating."""
        entry: Mapping[str, float] = self._file.get("rail_socket", {})
        most = entry["device_a"] if entry.get("outlet_a") == outlet_a else outlet_a
        return SourcedValue(float(most), self._source("common.board.rail-socket"))

    @cached_property
    def main_side(self) -> MainSide:
        """Where the main switch is by custom."""
        side: MainSide = self._file.get("main_side", "left")
        return side

    @cached_property
    def feed(self) -> TopOrBottom:
        """From where the supply comes in by custom."""
        side: TopOrBottom = self._file.get("feed", "top")
        return side

    @cached_property
    def places(self) -> tuple[PlaceRule, ...]:
        """Where a board may not be mounted, or had better not."""
        return tuple(
            PlaceRule(item["when"], item["level"], item["words"], self._source(item["rule"]))
            for item in self._file.get("places", ())
        )

    @cached_property
    def place_source(self) -> Source:
        """Where the rule of its place in general is."""
        return self.source("place")

    @cached_property
    def wet_rooms(self) -> tuple[str, ...]:
        """Kinds of room where no board is mounted at all, whatever its distance."""
        return tuple(self._file.get("wet_rooms", ()))

    def _limit(self, name: str) -> SourcedValue | None:
        topic = name.split("_", 1)[0]
        return SourcedValue(float(self._file[name]), self.source(topic)) if name in self._file else None

    @cached_property
    def handle_max_m(self) -> SourcedValue | None:
        """Greatest height of a handle above the floor [m]; None: the standard names none."""
        return self._limit("handle_max_m")

    @cached_property
    def bottom_min_m(self) -> SourcedValue | None:
        """Least height of the lower edge where no door keeps hands off [m]; None: the standard names none."""
        return self._limit("bottom_min_m")

    @cached_property
    def clear_min_m(self) -> SourcedValue | None:
        """Least free depth in front [m]; None: the standard names none."""
        return self._limit("clear_min_m")

    @cached_property
    def non_combustible(self) -> tuple[tuple[str, ...], Source] | None:
        """The premises in which an enclosure must not burn; None: the standard does not ask."""
        if "material_premises" not in self._file:
            return None
        return tuple(self._file["material_premises"]), self.source("material")

    @cached_property
    def spare(self) -> SpareSpace:
        """What is left free for later."""
        entry = self._file
        usual = self.figure("common.board.spare", "pct").value
        return SpareSpace(
            float(entry.get("spare_pct", usual)), float(entry.get("spare_least", 0)), self.source("spare")
        )

    @cached_property
    def min_link_mm2(self) -> SourcedValue:
        """Least size of a link by custom [mm²]."""
        return SourcedValue(float(self._file["link_least_mm2"]), self.source("link"))

    @cached_property
    def balance_pct(self) -> SourcedValue | None:
        """Greatest difference between the lines of a board [%]; None: the standard names none."""
        return self._limit("balance_pct")

    @cached_property
    def single_phase_max_w(self) -> SourcedValue | None:
        """The largest load or source on one line of a three-phase supply [W]; None: the standard names none."""
        rule = self._file.get("unbalance_rule")
        return None if rule is None else self.figure(rule, "most_W")

    @cached_property
    def notices(self) -> tuple[NoticeRule, ...]:
        """Notices that may have to stand at a board."""
        return tuple(
            NoticeRule(item["when"], item["text"], self._source(item["rule"])) for item in self._file.get("notices", ())
        )

    def loading(self, circuits: int, *, household: bool) -> SourcedValue:
        """Share of their rating that so many outgoing circuits are taken to carry at once."""
        sourced_value = self._loaded.get((circuits, household))
        if sourced_value is None:
            sourced_value = self._loaded[circuits, household] = self._loading(circuits, household)
        return sourced_value

    def _loading(self, circuits: int, household: bool) -> SourcedValue:
        table = self._data.table("common.rdf" if household else "common.rdf.general")
        if circuits < 2:
            return SourcedValue(1.0, table.source, message(None, "core.rules.board.one"))
        row = next(row for row in table.rows if _number(row[0]) <= circuits <= _number(row[1]))
        return SourcedValue(_number(row[2]), table.source, message(None, "core.rules.board.circuits", n=circuits))

    def side_by_side(self, devices: int) -> SourcedValue:
        """What breakers side by side, all loaded for long, still carry, as a share of their rating."""
        table = self._data.table("common.mcb.grouping")
        row = table.rows[min(devices, len(table.rows)) - 1]
        return SourcedValue(_number(row[1]), table.source, message(None, "core.rules.board.side", n=devices))

    def max_loss_w(self, rating_a: float) -> SourcedValue:
        """Greatest power loss a pole may have by the product standard [W]."""
        table = self._data.table("common.mcb.max-power-loss")
        for row in table.rows:
            if _number(row[0]) < rating_a <= _number(row[1]):
                return SourcedValue(_number(row[2]), table.source, message(None, "core.rules.board.loss"))
        raise NotTabulated(message(None, "core.rules.board.need.loss", a=Shown(f"{rating_a:g}")), path="families")

    def strip_mm(self, area_mm2: float) -> SourcedValue:
        """Insulation to strip off a conductor [mm]."""
        table = self._data.table("common.board.strip")
        row = next((row for row in table.rows if area_mm2 <= _number(row[0])), table.rows[-1])
        return SourcedValue(_number(row[1]), table.source)

    def torque(self, device: str) -> tuple[float, float, float, Source]:
        """Usual torque of a kind of terminal, from and to [N·m], and the largest solid conductor it takes [mm²]."""
        table = self._data.table("common.terminal.typical")
        row = table.row_where(device=device)
        return (
            _number(row["torque_from_Nm"]),
            _number(row["torque_to_Nm"]),
            _number(row["solid_most_mm2"]),
            table.source,
        )

    def width(self, device: str, poles: str) -> SourcedValue:
        """Usual width of a device [modules]."""
        return _width(self._data.table("common.module-width"), device, poles)

    def ferrule_colour(self, area_mm2: float) -> str:
        """Colour of a ferrule's collar; empty where the standard has no such colours."""
        if _FERRULES not in self._data.tables:
            return ""
        rows = self._data.table(_FERRULES).rows
        return next((str(row[1]) for row in rows if _number(row[0]) == area_mm2), "")


@lru_cache(maxsize=256)
def _width(table: Table, device: str, poles: str) -> SourcedValue:
    row = table.row_where(device=device, poles=poles)
    return SourcedValue(_number(row["modules_usual"]), table.source)


def _number(cell: object) -> float:
    return float(str(cell))
