"""Everything a standard says it has can be asked for: no name in its description leads nowhere."""

from __future__ import annotations

import unittest
from contextlib import nullcontext
from typing import Any

from tests.builders import circuit, laid, mcb
from vivid_lattice.core.document.job import Cable, Device
from vivid_lattice.core.document.rcd import Rcd
from vivid_lattice.core.errors import NeedsInput, NotTabulated, UnknownRuleSet
from vivid_lattice.core.rules import rule_set, standard_ids
from vivid_lattice.core.rules.protocol import RuleSet

#: Grouping tables that end, and do not say that their last row holds on.
_ENDING = (
    "uk.cg.bunched",
    "uk.cg.buried-direct",
    "uk.cg.buried-ducts",
    "iec.factor.group.bunched",
    "iec.factor.group.buried-direct",
    "iec.factor.group.ducts",
    "anz.ccc.grouping",
)


class EveryStandard(unittest.TestCase):
    """Walks all of it."""

    def test_every_cable_answers_in_every_size_and_method_it_names(self) -> None:
        for rules in map(rule_set, standard_ids()):
            for kind in rules.cables.kinds.values():
                for area in kind.sizes_mm2:
                    cable = Cable.model_validate({"type": kind.id, "area_mm2": area, "cpc": kind.cpc_choices[0]})
                    with self.subTest(rules.id, cable=kind.id, area=area):
                        found = [
                            (
                                self._capacity(rules, cable, method, loaded),
                                rules.cables.drop_figure(cable, method, loaded),
                            )
                            for method in kind.methods
                            for loaded in kind.loaded
                        ]
                        self.assertTrue(any(amps for amps, _ in found), "no method at all holds this size")
                        self.assertTrue(all(drop.z > 0 for _, drop in found))
                        self.assertGreaterEqual(
                            rules.cables.hot_factors(cable).line, rules.cables.hot_factors(cable).cpc
                        )
                        try:
                            self.assertGreater(rules.cables.cpc_mohm_per_m(cable).value, 0)
                        except NeedsInput as why:  # a make-up that differs by maker, or past the table's end
                            self.assertTrue(any(need.ask for need in why.needs))

    def _capacity(self, rules: RuleSet, cable: Cable, method: str, loaded: int) -> float:
        """The tabulated capacity, or 0 where the table says in words that it does not reach so far."""
        try:
            return rules.cables.capacity_a(cable, method, loaded).value
        except NotTabulated as why:
            self.assertRegex(str(why), "available: |loaded conductors")
            return 0.0

    def test_every_device_has_a_limit_and_a_clearing_for_every_rating_it_names(self) -> None:
        for rules in map(rule_set, standard_ids()):
            for kind in rules.devices.kinds.values():
                for rating in kind.ratings_a:
                    for curve in kind.curves or (None,):
                        device = Device(kind=kind.id, rating_a=rating, curve=curve)
                        with self.subTest(rules.id, device=kind.id, rating=rating, curve=curve):
                            if rules.limits.no_disconnection:
                                # A standard without loop limits says so, and has no current to give.
                                self.assertRaises(NotTabulated, rules.devices.loop_limit, device, 5.0)
                                continue
                            limit = rules.devices.loop_limit(device, 5.0)
                            self.assertGreater(limit.zs_ohm, 0)
                            clearing = rules.devices.clearing(device, 1.001 * limit.ia_a)
                            self.assertLessEqual(clearing.time_s, 5)

    def test_larger_ratings_ask_for_smaller_loops(self) -> None:
        for rules in [rules for rules in map(rule_set, standard_ids()) if not rules.limits.no_disconnection]:
            for kind in rules.devices.kinds.values():
                for curve in kind.curves or (None,):
                    limits = [
                        rules.devices.loop_limit(Device(kind=kind.id, rating_a=rating, curve=curve), 5.0).zs_ohm
                        for rating in kind.ratings_a
                    ]
                    self.assertEqual(limits, sorted(limits, reverse=True), kind.id)

    def test_every_grouping_answers_for_two_circuits(self) -> None:
        for rules in map(rule_set, standard_ids()):
            by_medium = {method.medium: method.id for method in rules.factors.methods.values()}
            for grouping in rules.factors.groupings.values():
                cable = Cable(type=rules.default_buried_cable, area_mm2=10.0)
                section = laid(5.0, by_medium[grouping.medium], circuits_grouped=2, grouping=grouping.id)
                [factor] = rules.factors.factors(section, cable)
                self.assertTrue(0.5 < factor.value < 1, grouping.id)
                with self.assertRaises(NotTabulated) if factor.source.table in _ENDING else nullcontext():
                    rules.factors.factors(section.model_copy(update={"circuits_grouped": 100}), cable)

    def test_every_word_a_person_types_leads_to_one_method(self) -> None:
        for rules in map(rule_set, standard_ids()):
            words = [word for method in rules.factors.methods.values() for word in method.entry_words]
            self.assertEqual(len(words), len(set(words)))

    def test_what_a_standard_does_not_have_is_said_by_name(self) -> None:
        rules = rule_set("uk")
        cable, device = Cable(type="flat-twin-pvc", area_mm2=2.5), mcb(16.0)
        cases: list[tuple[Any, str]] = [
            (lambda: rules.cables.kind("string"), "“string”"),
            (
                lambda: rules.cables.cpc_area_mm2(cable.model_copy(update={"cpc": "armour"})),
                "a protective conductor “armour”",
            ),
            (lambda: rules.devices.kind("relay"), "“relay”"),
            (lambda: rules.devices.loop_limit(mcb(33.0), 0.4), "a 33 A rating"),
            (lambda: rules.devices.loop_limit(device.model_copy(update={"curve": None}), 0.4), "the curve letter"),
            (
                lambda: rules.devices.loop_limit(Device(kind="fuse-bs88-3", rating_a=32.0), 0.2),
                "a fuse table for 0.2 s",
            ),
            (lambda: rules.devices.rcd_time_s(Rcd(idn_ma=30.0), 0.9), "need not trip"),
            (
                lambda: rules.factors.factors(laid(5.0, "C", circuits_grouped=2, grouping="buried-touching"), cable),
                "for a cable in air",
            ),
            (lambda: rules.factors.factors(laid(5.0, "C", soil_k_m_per_w=1.0), cable), "a soil factor for method"),
            (
                lambda: rules.factors.factors(
                    laid(5.0, "C", in_insulation_mm=100.0), cable.model_copy(update={"area_mm2": 16.0})
                ),
                "a factor above 10 mm²",
            ),
        ]
        for call, said in cases:
            with self.subTest(said), self.assertRaisesRegex(NeedsInput, said):
                call()
        with self.assertRaisesRegex(UnknownRuleSet, "Available: anz"):
            rule_set("mars")

    def test_a_cable_in_insulation_for_half_a_metre_and_more_is_halved_in_every_size(self) -> None:
        # BS 7671:2018+A2, 523.9 (from memory).
        for area in (2.5, 16.0):
            [factor] = rule_set("uk").factors.factors(
                laid(5.0, in_insulation_mm=800.0), Cable(type="flat-twin-pvc", area_mm2=area)
            )
            self.assertEqual(factor.value, 0.5)

    def test_times_of_an_rcd_shorten_as_more_flows(self) -> None:
        # BS EN 61008: general 300, 150, 40 ms; delayed 500, 200, 150 ms at 1, 2 and 5 IΔn (from memory).
        devices = rule_set("uk").devices
        for delayed, times in ((False, [0.3, 0.15, 0.04]), (True, [0.5, 0.2, 0.15])):
            rcd = Rcd(idn_ma=100.0, time_delayed=delayed)
            self.assertEqual([devices.rcd_time_s(rcd, multiple).value for multiple in (1.0, 2.0, 5.0)], times)
            self.assertEqual(devices.rcd_time_s(rcd, 4.9).value, times[1])

    def test_custom_for_what_is_left_open(self) -> None:
        devices = rule_set("uk").devices
        self.assertEqual([devices.socket_rating_a(circuit(kind=kind)) for kind in ("ring", "radial")], [32, 20])
        final, link = (
            devices.default_device(circuit(), 16.0),
            devices.default_device(circuit(kind="distribution"), 40.0),
        )
        self.assertEqual((final.kind, final.curve, final.rcd), ("rcbo", "B", Rcd(idn_ma=30.0)))
        self.assertEqual((link.kind, link.curve, link.rcd), ("mcb", "C", None))
        with self.assertRaises(NotTabulated):
            devices.kind("none")


if __name__ == "__main__":
    unittest.main()
