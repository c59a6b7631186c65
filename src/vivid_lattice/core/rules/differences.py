"""All standards side by side, row by row, read from their data: what a person moving between them has to know."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from vivid_lattice.core.document.job import Cable, Circuit, Device, Section
from vivid_lattice.core.errors import NeedsInput
from vivid_lattice.core.formulas.load_currents import SUPPLY_WORDS
from vivid_lattice.core.rules import rule_set, standard_ids
from vivid_lattice.core.rules.from_tables.standard import StandardFromTables
from vivid_lattice.core.text import shown_down


@dataclass(frozen=True, slots=True)
class DifferenceRow:
    """A question and every standard's answer, in the order of ``standards``."""

    group: str
    question: str
    answers: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Differences:
    """The standards, and every question that is put to them."""

    standards: tuple[str, ...]
    titles: tuple[str, ...]
    rows: tuple[DifferenceRow, ...]


_Answer = Callable[[StandardFromTables], str]


def differences() -> Differences:
    """Every question put to every standard there is."""
    standards = [rule_set(name) for name in standard_ids()]
    rows = tuple(
        DifferenceRow(group, question, tuple(_answered(answer, standard) for standard in standards))
        for group, question, answer in _QUESTIONS
    )
    return Differences(
        tuple(standard.id for standard in standards), tuple(standard.title for standard in standards), rows
    )


def as_markdown(differences: Differences) -> str:
    """The differences as a page: a table a group."""
    lines = [
        "# The standards, side by side",
        "",
        "Made from the rule sets' data by `tools/standards_page.py`; a test fails when it is not current. A dash: the standard's",
        "tables hold nothing on it, and nothing is guessed.",
    ]
    for group in dict.fromkeys(row.group for row in differences.rows):
        lines += [
            "",
            f"## {group}",
            "",
            "| | " + " | ".join(differences.titles) + " |",
            "| --- " * (len(differences.titles) + 1) + "|",
        ]
        lines += [
            f"| {row.question} | " + " | ".join(answer.replace("|", "/") for answer in row.answers) + " |"
            for row in differences.rows
            if row.group == group
        ]
    return "\n".join(lines) + "\n"


def _answered(answer: _Answer, standard: StandardFromTables) -> str:
    try:
        return answer(standard) or "–"
    except (NeedsInput, KeyError):
        return "–"


def _circuit(kind: str) -> Circuit:
    return Circuit.model_validate({"id": "c", "name": "c", "kind": kind, "run": [{"method": "any", "length_m": 1.0}]})


def _colours(standard: StandardFromTables, which: str) -> str:
    colours = standard.colours
    if colours is None:
        return ""
    names = colours.now if which == "now" else colours.old
    return ", ".join(names)


def _range(standard: StandardFromTables) -> str:
    supply_range = standard.supply_range_pct
    return f"{supply_range[0]:+g} % to {supply_range[1]:+g} %" if supply_range else ""


def _drop(standard: StandardFromTables) -> str:
    light, other = standard.limits.drop_limit(_circuit("lighting")), standard.limits.drop_limit(_circuit("fixed"))
    same = light.percent == other.percent
    text = f"{other.percent:g} %" if same else f"lighting {light.percent:g} %, other {other.percent:g} %"
    circuit_share = f", of which {other.own_percent:g} % in the branch circuit" if other.own_percent else ""
    return f"{text}{circuit_share}, from {other.counts_from}" + (" (recommended)" if other.advisory else "")


def _time(kind: str, rating: float) -> _Answer:
    def answer(standard: StandardFromTables) -> str:
        if standard.limits.no_disconnection:
            return "no loop limit: by the equipment ground's size"
        return ", ".join(
            f"{system} {standard.limits.disconnection_s(_circuit(kind), rating, system).value:g} s"
            for system in standard.systems
        )

    return answer


def _zs(standard: StandardFromTables) -> str:
    if standard.limits.no_disconnection:
        return ""
    limits = []
    kind = standard.devices.kinds["mcb"]
    for curve in kind.curves:
        rating = 32.0 if 32.0 in kind.ratings_a else 30.0
        limit = standard.devices.loop_limit(Device(kind="mcb", curve=curve, rating_a=rating), 0.4)  # type: ignore[arg-type]
        limits.append(f"{curve}{rating:g} {shown_down(limit.zs_ohm)} Ω")
    return ", ".join(limits)


def _capacity(area: float, loaded: int) -> _Answer:
    def answer(standard: StandardFromTables) -> str:
        name = standard.default_three_phase_cable if loaded == 3 else standard.default_cable
        kind = standard.cables.kind(name)
        near = min(kind.sizes_mm2, key=lambda size: abs(size - area))
        answers = []
        for method in kind.methods:
            try:
                value = standard.cables.capacity_a(Cable(type=kind.id, area_mm2=near), method, loaded).value
            except NeedsInput:
                continue
            answers.append(f"{method} {value:g} A")
        return f"{kind.short} {standard.cables.size_label(near)}: " + ", ".join(answers)

    return answer


def _hot(standard: StandardFromTables) -> str:
    base = standard.factors.ambients_c
    return ", ".join(f"{medium} {degrees:g} °C" for medium, degrees in base.items())


def _ambient(degrees: float) -> _Answer:
    def answer(standard: StandardFromTables) -> str:
        section = Section(length_m=1.0, method=standard.default_method, ambient_c=degrees)
        area = standard.cables.kind(standard.default_cable).sizes_mm2[1]
        factors = standard.factors.factors(section, Cable(type=standard.default_cable, area_mm2=area))
        return f"{factors[0].value:g}" if factors else "1"

    return answer


def _grouped(count: int) -> _Answer:
    def answer(standard: StandardFromTables) -> str:
        section = Section(length_m=1.0, method=standard.default_method, circuits_grouped=count)
        area = standard.cables.kind(standard.default_cable).sizes_mm2[1]
        factors = standard.factors.factors(section, Cable(type=standard.default_cable, area_mm2=area))
        return f"{factors[0].value:g}" if factors else "1"

    return answer


def _protective(standard: StandardFromTables) -> str:
    by_device = standard.earthing.protective_by_device_mm2(20.0, "copper")
    if by_device:
        return f"by the device: {standard.cables.size_label(by_device.value)} at 20 A"
    sizes = []
    for line in (2.5, 10.0, 25.0):
        sourced_value = standard.earthing.protective_mm2(line)
        if sourced_value:
            sizes.append(f"{line:g} → {sourced_value.value:g} mm²")
    return ", ".join(sizes) + ", or by the adiabatic sum"


def _earthing(standard: StandardFromTables) -> str:
    line = 25.0 if standard.sizes.unit == "mm²" else 53.49
    earth = standard.earthing.earthing_mm2(line, False)
    bond = standard.earthing.bonding_mm2(standard.systems[0], line)
    say = standard.cables.size_label
    return f"{say(line)} line: earthing {say(earth.value)}, bonding {say(bond.value)}"


def _in_a_room(standard: StandardFromTables) -> str:
    to_part = standard.earthing.supplementary_mm2(6.0, to_pipe=False, protected=True).value
    to_pipe = standard.earthing.supplementary_mm2(6.0, to_pipe=True, protected=True).value
    bare = standard.earthing.supplementary_mm2(1.5, to_pipe=True, protected=False).value
    return f"part earthed by 6 mm²: to a part {to_part:g} mm², to a pipe {to_pipe:g} mm²; unprotected never below {bare:g} mm²"


def _link(standard: StandardFromTables) -> str:
    sourced_value = standard.earthing.link_mm2(standard.systems[0], 16.0)
    return (
        f"{standard.vocabulary.get('link', '')}: {sourced_value.basis}"
        if sourced_value
        else f"none of the consumer's ({standard.vocabulary.get('link', '')})"
    )


def _default(standard: StandardFromTables) -> str:
    device = standard.devices.default_device(_circuit("radial"), 20.0)
    kind = standard.devices.kind(device.kind)
    return f"{kind.short} {device.curve or ''}".strip() + f", {device.breaking_ka:g} kA"


def _ratings(standard: StandardFromTables) -> str:
    kind = next(iter(standard.devices.kinds.values()))
    return ", ".join(f"{rating:g}" for rating in kind.common_ratings_a if rating <= 125) + " A"


def _duties(standard: StandardFromTables) -> str:
    return "; ".join(duty.text for duty in standard.protection.duties)


def _shared(standard: StandardFromTables) -> str:
    division = standard.protection.division
    parts = [f"at least {division.least_rcds} devices"] if division.least_rcds else []
    parts += [f"{division.most_per_rcd} circuits a device at most"] if division.most_per_rcd else []
    parts += [f"lights on {division.lights_least} devices"] if division.lights_least > 1 else []
    return ", ".join(parts)


_SURGE = {
    "unless-declined": "fitted, unless the owner declines in writing",
    "by-risk": "by risk; without an assessment fitted",
    "always": "always",
    "recommended": "recommended",
}
_ALTERNATING = {
    "never": "never",
    "resistive": "for loads without direct current alone",
    "yes": "no types are told apart",
}


_QUESTIONS: tuple[tuple[str, str, _Answer], ...] = (
    ("Supply", "Edition", lambda standard: standard.edition),
    ("Supply", "Voltage to neutral", lambda standard: f"{standard.nominal_v:g} V"),
    ("Supply", "Supplies", lambda standard: ", ".join(SUPPLY_WORDS[count] for count in standard.supplies)),
    ("Supply", "Voltage range", _range),
    (
        "Supply",
        "Systems",
        lambda standard: "; ".join(standard.system_titles.get(name, name) for name in standard.systems),
    ),
    ("Supply", "Neutral and earth meet", _link),
    ("Words", "Board", lambda standard: standard.vocabulary["board"]),
    ("Words", "Protective conductor", lambda standard: standard.vocabulary["protective_conductor"]),
    ("Words", "Feeder", lambda standard: standard.vocabulary.get("feeder", "")),
    ("Words", "Colours now: L1, L2, L3, N, protective", lambda standard: _colours(standard, "now")),
    ("Words", "Colours in old work", lambda standard: _colours(standard, "old")),
    ("Devices", "Usual for sockets", _default),
    ("Devices", "Breaker ratings", _ratings),
    ("Devices", "Kinds", lambda standard: ", ".join(kind.short for kind in standard.devices.kinds.values())),
    ("Devices", "Rings", lambda standard: "known" if standard.limits.knows_rings else "not known: radials only"),
    ("Cables", "Kinds", lambda standard: ", ".join(kind.short for kind in standard.cables.kinds.values())),
    ("Cables", "About 2.5 mm², two loaded", _capacity(2.5, 2)),
    ("Cables", "About 6 mm², three loaded", _capacity(6.0, 3)),
    ("Cables", "Tables are made for", _hot),
    ("Cables", "Factor at 45 °C air", _ambient(45.0)),
    ("Cables", "Factor of three circuits together", _grouped(3)),
    (
        "Cables",
        "Least conductor, lighting and power",
        lambda standard: (
            f"{standard.cables.size_label(standard.limits.min_area_mm2(_circuit('lighting')).value)}, "
            f"{standard.cables.size_label(standard.limits.min_area_mm2(_circuit('radial')).value)}"
        ),
    ),
    ("Limits", "Voltage drop", _drop),
    ("Limits", "Disconnection, sockets at 20 A", _time("radial", 20.0)),
    ("Limits", "Disconnection, feeders", _time("distribution", 40.0)),
    ("Limits", "Greatest loop of a breaker", _zs),
    (
        "Limits",
        "Load that runs for hours",
        lambda standard: (
            f"by {held.value:g}" if (held := standard.limits.continuous(_circuit("fixed"))) else "as it is"
        ),
    ),
    ("Earth", "Protective conductor", _protective),
    ("Earth", "Earthing and bonding", _earthing),
    ("Earth", "Bonding within a room", _in_a_room),
    ("Demand", "Methods", lambda standard: "; ".join(standard.demand.methods.values())),
    ("Protection", "RCD demanded where", _duties),
    ("Protection", "Additional protection", lambda standard: f"{standard.protection.additional_ma.value:g} mA"),
    ("Protection", "Shared out", _shared),
    ("Protection", "Standing leakage", lambda standard: f"{100 * standard.protection.leak_share.value:g} % of IΔn"),
    ("Protection", "Type AC", lambda standard: _ALTERNATING[standard.protection.alternating_only[0]]),
    (
        "Protection",
        "Arc-fault devices",
        lambda standard: ", ".join(dict.fromkeys(arc.level for arc in standard.protection.arcs)),
    ),
    ("Protection", "Surge protection", lambda standard: _SURGE[standard.protection.surge.when]),
    ("Cautions", "What is not held with certainty", lambda standard: standard.caution),
)
