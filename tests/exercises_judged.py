"""Exercises judged again: which of their options are right, by the engine and by rules that are stated here once more."""

from __future__ import annotations

from vivid_lattice.core.checks.support.load_rcd_type import least_type_by_load
from vivid_lattice.core.document.job import Load, Section
from vivid_lattice.core.errors import NotTabulated
from vivid_lattice.core.formulas.device.coordination import overload_order
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.training.exercises.cable_size import capacity_a, plain_cable
from vivid_lattice.core.training.exercises.exercise import Exercise

#: The neutral comes back through what its line comes from (BS 7671:2018, 514.8 and 531.3; common practice elsewhere).
_BARS = {
    "first": " of the first ",
    "second": " of the second ",
    "own": "into its own",
    "ahead": "main switch",
}


def right_options(made: Exercise) -> list[int]:
    """The indices of all options of an exercise that are right."""
    judge = {
        "cable-size": _cable_sizes, "selective-pair": _pair, "rcd-type": _rcd_types, "neutral-bar": _bars,
        "find-mistake": _lines,
    }[made.kind]  # fmt: skip
    return judge(made)


def _cable_sizes(made: Exercise) -> list[int]:
    """The options that carry the rating while the next smaller size of the table does not."""
    rules = rule_set(made.standard)
    kind, method = str(made.facts["cable"]), str(made.facts["method"])
    section = Section(length_m=10.0, method=method, circuits_grouped=int(made.facts["grouped"]))

    def carries(area: float) -> bool:
        try:
            return capacity_a(rules, plain_cable(rules, kind, area), section)[2] >= float(made.facts["rating_a"]) - 1e-9
        except NotTabulated:
            return False

    sizes = rules.cables.kind(kind).sizes_mm2
    fits = [area for area in sizes if carries(area)]
    return [n for n, text in enumerate(made.options) if str(text) == rules.cables.size_label(fits[0])]


def _pair(made: Exercise) -> list[int]:
    rules, facts = rule_set(made.standard), made.facts
    bands = [
        rules.bands.band(str(facts["kind"]), str(facts[f"{which}_curve"]) or None, float(facts[f"{which}_a"]))
        for which in ("up", "down")
    ]
    return [0 if overload_order(bands[0], bands[1]).selective else 1]


def _rcd_types(made: Exercise) -> list[int]:
    """Of the types that see what the load leaks and that the standard takes, the least."""
    rules, facts = rule_set(made.standard), made.facts
    load = Load(
        name="Load", kind=facts["load"], frequency_converter=facts["converter"] == "True", dc_residual=facts["dc"] or None
    )  # type: ignore[arg-type]  # fmt: skip
    order = [str(each) for each in made.options]
    least = order.index(least_type_by_load(rules.protection, load, phases=1))
    allowed = [
        n
        for n, type_ in enumerate(order)
        if n >= least and (type_ != "AC" or rules.protection.alternating_only[0] != "never")
    ]
    return allowed[:1]


def _bars(made: Exercise) -> list[int]:
    words = _BARS[str(made.facts["place"])]
    return [n for n, text in enumerate(made.options) if words in str(text)]


def _lines(made: Exercise) -> list[int]:
    """The lines that do not follow from the ones above: Ohm's law, resistances in series, 20 % more when warm."""
    at = {name: float(value) for name, value in made.facts.items() if name != "what"}
    if made.facts["what"] == "drop":
        should = {
            "current": at["power"] / at["volts"],
            "both_ways": 2 * at["per_m"] * at["length"] / 1000,
            "drop": at["current"] * at["both_ways"],
            "percent": 100 * at["drop"] / at["volts"],
        }
    else:
        should = {
            "cold": (at["per_m"] + at["cpc_per_m"]) * at["length"] / 1000,
            "warm": 1.2 * at["cold"],
            "loop": at["ahead"] + at["warm"],
            "fault": at["volts"] / at["loop"],
        }
    return [n for n, (name, value) in enumerate(should.items()) if abs(at[name] / value - 1) > 0.006]
