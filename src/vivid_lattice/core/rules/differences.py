"""All schools side by side, row by row, read from their data: what a person moving between them has to know."""

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
    """A question and every school's answer, in the order of ``schools``."""

    group: str
    question: str
    answers: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Differences:
    """The schools, and every question that is put to them."""

    schools: tuple[str, ...]
    titles: tuple[str, ...]
    rows: tuple[DifferenceRow, ...]


_Answer = Callable[[StandardFromTables], str]


def differences() -> Differences:
    """Every question put to every school there is."""
    schools = [rule_set(name) for name in standard_ids()]
    rows = tuple(
        DifferenceRow(group, question, tuple(_asked(answer, school) for school in schools))
        for group, question, answer in _QUESTIONS
    )
    return Differences(tuple(school.id for school in schools), tuple(school.title for school in schools), rows)


def as_markdown(new_differences: Differences) -> str:
    """The differences as a page: a table a group."""
    lines = [
        "# The schools, side by side",
        "",
        "Made from the rule sets' data by `tools/standards_page.py`; a test fails when it is not current. A dash: the school's",
        "tables hold nothing on it, and nothing is guessed.",
    ]
    for group in dict.fromkeys(row.group for row in new_differences.rows):
        lines += [
            "",
            f"## {group}",
            "",
            "| | " + " | ".join(new_differences.titles) + " |",
            "| --- " * (len(new_differences.titles) + 1) + "|",
        ]
        lines += [
            f"| {row.question} | " + " | ".join(answer.replace("|", "/") for answer in row.answers) + " |"
            for row in new_differences.rows
            if row.group == group
        ]
    return "\n".join(lines) + "\n"


def _asked(answer: _Answer, school: StandardFromTables) -> str:
    try:
        return answer(school) or "–"
    except (NeedsInput, KeyError):
        return "–"


def _circuit(kind: str) -> Circuit:
    return Circuit.model_validate({"id": "c", "name": "c", "kind": kind, "run": [{"method": "any", "length_m": 1.0}]})


def _colours(school: StandardFromTables, which: str) -> str:
    colours = school.colours
    if colours is None:
        return ""
    names = colours.now if which == "now" else colours.old
    return ", ".join(names)


def _range(school: StandardFromTables) -> str:
    supply_range = school.supply_range_pct
    return f"{supply_range[0]:+g} % to {supply_range[1]:+g} %" if supply_range else ""


def _drop(school: StandardFromTables) -> str:
    light, other = school.limits.drop_limit(_circuit("lighting")), school.limits.drop_limit(_circuit("fixed"))
    same = light.percent == other.percent
    text = f"{other.percent:g} %" if same else f"lighting {light.percent:g} %, other {other.percent:g} %"
    own_text = f", of which {other.own_percent:g} % in the branch circuit" if other.own_percent else ""
    return f"{text}{own_text}, from {other.counts_from}" + (" (recommended)" if other.advisory else "")


def _time(kind: str, rating: float) -> _Answer:
    def answer(school: StandardFromTables) -> str:
        if school.limits.no_disconnection:
            return "no loop limit: by the equipment ground's size"
        return ", ".join(
            f"{system} {school.limits.disconnection_s(_circuit(kind), rating, system).value:g} s"
            for system in school.systems
        )

    return answer


def _zs(school: StandardFromTables) -> str:
    if school.limits.no_disconnection:
        return ""
    limits = []
    kind = school.devices.kinds["mcb"]
    for curve in kind.curves:
        rating = 32.0 if 32.0 in kind.ratings_a else 30.0
        limit = school.devices.loop_limit(Device(kind="mcb", curve=curve, rating_a=rating), 0.4)  # type: ignore[arg-type]
        limits.append(f"{curve}{rating:g} {shown_down(limit.zs_ohm)} Ω")
    return ", ".join(limits)


def _capacity(area: float, loaded: int) -> _Answer:
    def answer(school: StandardFromTables) -> str:
        name = school.default_three_phase_cable if loaded == 3 else school.default_cable
        kind = school.cables.kind(name)
        near = min(kind.sizes_mm2, key=lambda size: abs(size - area))
        answers = []
        for method in kind.methods:
            try:
                value = school.cables.capacity_a(Cable(type=kind.id, area_mm2=near), method, loaded).value
            except NeedsInput:
                continue
            answers.append(f"{method} {value:g} A")
        return f"{kind.short} {school.cables.size_label(near)}: " + ", ".join(answers)

    return answer


def _hot(school: StandardFromTables) -> str:
    base = school.factors.ambients_c
    return ", ".join(f"{medium} {degrees:g} °C" for medium, degrees in base.items())


def _ambient(degrees: float) -> _Answer:
    def answer(school: StandardFromTables) -> str:
        section = Section(length_m=1.0, method=school.default_method, ambient_c=degrees)
        area = school.cables.kind(school.default_cable).sizes_mm2[1]
        factors = school.factors.factors(section, Cable(type=school.default_cable, area_mm2=area))
        return f"{factors[0].value:g}" if factors else "1"

    return answer


def _grouped(count: int) -> _Answer:
    def answer(school: StandardFromTables) -> str:
        section = Section(length_m=1.0, method=school.default_method, circuits_grouped=count)
        area = school.cables.kind(school.default_cable).sizes_mm2[1]
        factors = school.factors.factors(section, Cable(type=school.default_cable, area_mm2=area))
        return f"{factors[0].value:g}" if factors else "1"

    return answer


def _protective(school: StandardFromTables) -> str:
    by_device = school.earthing.protective_by_device_mm2(20.0, "copper")
    if by_device:
        return f"by the device: {school.cables.size_label(by_device.value)} at 20 A"
    sizes = []
    for line in (2.5, 10.0, 25.0):
        sourced_value = school.earthing.protective_mm2(line)
        if sourced_value:
            sizes.append(f"{line:g} → {sourced_value.value:g} mm²")
    return ", ".join(sizes) + ", or by the adiabatic sum"


def _earthing(school: StandardFromTables) -> str:
    line = 25.0 if school.sizes.unit == "mm²" else 53.49
    earth = school.earthing.earthing_mm2(line, False)
    bond = school.earthing.bonding_mm2(school.systems[0], line)
    say = school.cables.size_label
    return f"{say(line)} line: earthing {say(earth.value)}, bonding {say(bond.value)}"


def _in_a_room(school: StandardFromTables) -> str:
    to_part = school.earthing.supplementary_mm2(6.0, to_pipe=False, protected=True).value
    to_pipe = school.earthing.supplementary_mm2(6.0, to_pipe=True, protected=True).value
    bare = school.earthing.supplementary_mm2(1.5, to_pipe=True, protected=False).value
    return f"part earthed by 6 mm²: to a part {to_part:g} mm², to a pipe {to_pipe:g} mm²; unprotected never below {bare:g} mm²"


def _link(school: StandardFromTables) -> str:
    sourced_value = school.earthing.link_mm2(school.systems[0], 16.0)
    return (
        f"{school.vocabulary.get('link', '')}: {sourced_value.basis}"
        if sourced_value
        else f"none of the consumer's ({school.vocabulary.get('link', '')})"
    )


def _default(school: StandardFromTables) -> str:
    device = school.devices.default_device(_circuit("radial"), 20.0)
    kind = school.devices.kind(device.kind)
    return f"{kind.short} {device.curve or ''}".strip() + f", {device.breaking_ka:g} kA"


def _ratings(school: StandardFromTables) -> str:
    kind = next(iter(school.devices.kinds.values()))
    return ", ".join(f"{rating:g}" for rating in kind.common_ratings_a if rating <= 125) + " A"


def _duties(school: StandardFromTables) -> str:
    return "; ".join(duty.text for duty in school.protection.duties)


def _shared(school: StandardFromTables) -> str:
    division = school.protection.division
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
    ("Supply", "Edition", lambda school: school.edition),
    ("Supply", "Voltage to neutral", lambda school: f"{school.nominal_v:g} V"),
    ("Supply", "Supplies", lambda school: ", ".join(SUPPLY_WORDS[count] for count in school.supplies)),
    ("Supply", "Voltage range", _range),
    ("Supply", "Systems", lambda school: "; ".join(school.system_titles.get(name, name) for name in school.systems)),
    ("Supply", "Neutral and earth meet", _link),
    ("Words", "Board", lambda school: school.vocabulary["board"]),
    ("Words", "Protective conductor", lambda school: school.vocabulary["protective_conductor"]),
    ("Words", "Feeder", lambda school: school.vocabulary.get("feeder", "")),
    ("Words", "Colours now: L1, L2, L3, N, protective", lambda school: _colours(school, "now")),
    ("Words", "Colours in old work", lambda school: _colours(school, "old")),
    ("Devices", "Usual for sockets", _default),
    ("Devices", "Breaker ratings", _ratings),
    ("Devices", "Kinds", lambda school: ", ".join(kind.short for kind in school.devices.kinds.values())),
    ("Devices", "Rings", lambda school: "known" if school.limits.knows_rings else "not known: radials only"),
    ("Cables", "Kinds", lambda school: ", ".join(kind.short for kind in school.cables.kinds.values())),
    ("Cables", "About 2.5 mm², two loaded", _capacity(2.5, 2)),
    ("Cables", "About 6 mm², three loaded", _capacity(6.0, 3)),
    ("Cables", "Tables are made for", _hot),
    ("Cables", "Factor at 45 °C air", _ambient(45.0)),
    ("Cables", "Factor of three circuits together", _grouped(3)),
    (
        "Cables",
        "Least conductor, lighting and power",
        lambda school: (
            f"{school.cables.size_label(school.limits.min_area_mm2(_circuit('lighting')).value)}, "
            f"{school.cables.size_label(school.limits.min_area_mm2(_circuit('radial')).value)}"
        ),
    ),
    ("Limits", "Voltage drop", _drop),
    ("Limits", "Disconnection, sockets at 20 A", _time("radial", 20.0)),
    ("Limits", "Disconnection, feeders", _time("distribution", 40.0)),
    ("Limits", "Greatest loop of a breaker", _zs),
    (
        "Limits",
        "Load that runs for hours",
        lambda school: f"by {held.value:g}" if (held := school.limits.continuous(_circuit("fixed"))) else "as it is",
    ),
    ("Earth", "Protective conductor", _protective),
    ("Earth", "Earthing and bonding", _earthing),
    ("Earth", "Bonding within a room", _in_a_room),
    ("Demand", "Methods", lambda school: "; ".join(school.demand.methods.values())),
    ("Protection", "RCD demanded where", _duties),
    ("Protection", "Additional protection", lambda school: f"{school.protection.additional_ma.value:g} mA"),
    ("Protection", "Shared out", _shared),
    ("Protection", "Standing leakage", lambda school: f"{100 * school.protection.leak_share.value:g} % of IΔn"),
    ("Protection", "Type AC", lambda school: _ALTERNATING[school.protection.alternating_only[0]]),
    (
        "Protection",
        "Arc-fault devices",
        lambda school: ", ".join(dict.fromkeys(arc.level for arc in school.protection.arcs)),
    ),
    ("Protection", "Surge protection", lambda school: _SURGE[school.protection.surge.when]),
    ("Cautions", "What is not held with certainty", lambda school: school.caution),
)
