"""A voltage-watching relay over traces whose openings and closings can be told by hand."""

from __future__ import annotations

import unittest

from hypothesis import given, settings
from hypothesis import strategies as st

from vivid_lattice.core.document.surge_and_relay import VoltageRelay
from vivid_lattice.core.errors import OutOfRange
from vivid_lattice.core.formulas.device.relay import MAX_SWITCHINGS, Sample, built_in_traces, run_relay

RELAY = VoltageRelay(
    rating_a=63.0, over_v=265.0, under_v=190.0, over_s=0.2, under_s=1.0, reclose_s=60.0, current_a=50.0
)


def told(*trace: tuple[float, float], until: float = 300.0) -> list[tuple[float, bool]]:
    return [
        (round(one.at_s, 6), one.opens) for one in run_relay(RELAY, [Sample(at, volts) for at, volts in trace], until)
    ]


class ByHand(unittest.TestCase):
    """Delays counted on the fingers."""

    def test_it_opens_after_its_delay_and_closes_after_the_re_close_time(self) -> None:
        self.assertEqual(told((0, 230), (10, 280), (20, 230)), [(10.2, True), (80.0, False)])
        self.assertEqual(told((0, 230), (10, 150), (30, 230)), [(11.0, True), (90.0, False)])

    def test_a_dip_shorter_than_the_delay_does_nothing(self) -> None:
        self.assertEqual(told((0, 230), (10, 150), (10.9, 230)), [])
        self.assertEqual(told((0, 230), (10, 280), (10.2, 230)), [])

    def test_a_relapse_during_the_re_close_time_starts_it_anew(self) -> None:
        self.assertEqual(told((0, 230), (10, 150), (30, 230), (60, 188), (61, 230)), [(11.0, True), (121.0, False)])

    def test_inside_the_threshold_is_not_enough_to_close(self) -> None:
        # 191 V is above 190 V but inside the hysteresis of 3 V.
        self.assertEqual(told((0, 230), (10, 150), (30, 191), until=500), [(11.0, True)])
        self.assertEqual(told((0, 230), (10, 150), (30, 193), until=500), [(11.0, True), (90.0, False)])

    def test_over_current_opens_and_an_open_relay_carries_none(self) -> None:
        found = run_relay(RELAY, [Sample(0, 230, 60.0)], 200.0)
        self.assertEqual([(one.at_s, one.opens) for one in found][:3], [(10.0, True), (70.0, False), (80.0, True)])

    def test_one_that_would_switch_for_ever_is_refused(self) -> None:
        # At 230 V and 20 A with both delays at 0 it opens and closes at the same instant, again and again.
        restless = RELAY.model_copy(update={"current_a": 10.0, "current_s": 0.0, "reclose_s": 0.0})
        with self.assertRaisesRegex(OutOfRange, "reconnection delay"):
            run_relay(restless, [Sample(0, 230, 20.0)], 1.0)

    def test_as_many_switchings_as_anyone_reads_are_told_and_one_more_is_refused(self) -> None:
        # Each cycle is 1 s to trip and 1 s to re-close: two switchings in two seconds.
        busy = RELAY.model_copy(update={"current_a": 10.0, "current_s": 1.0, "reclose_s": 1.0})
        trace = [Sample(0, 230, 20.0)]
        self.assertEqual(len(run_relay(busy, trace, MAX_SWITCHINGS + 0.5)), MAX_SWITCHINGS)
        with self.assertRaisesRegex(OutOfRange, f"{MAX_SWITCHINGS} or fewer"):
            run_relay(busy, trace, 30 * 86400.0)

    def test_it_trips_just_past_a_threshold_and_not_at_it(self) -> None:
        for volts, trips in ((265, False), (265.1, True), (190, False), (189.9, True)):
            with self.subTest(volts):
                self.assertEqual(bool(told((0, 230), (10, volts), until=30)), trips)
        for amps, trips in ((50.0, False), (50.1, True)):
            self.assertEqual(bool(run_relay(RELAY, [Sample(0, 230, amps)], 30.0)), trips)

    def test_times_that_do_not_rise_are_refused(self) -> None:
        with self.assertRaisesRegex(OutOfRange, "time of the trace"):
            run_relay(RELAY, [Sample(1, 230), Sample(1, 200)], 10.0)


class Laws(unittest.TestCase):
    """What holds on any trace."""

    @given(st.lists(st.tuples(st.floats(0.01, 50), st.floats(0, 400)), min_size=1, max_size=25))
    @settings(max_examples=150, deadline=None)
    def test_openings_and_closings_take_turns_and_never_go_back_in_time(self, steps: list[tuple[float, float]]) -> None:
        at, trace = 0.0, []
        for wait, volts in steps:
            trace.append(Sample(at, volts))
            at += wait
        found = run_relay(RELAY, trace, at)
        self.assertEqual([one.opens for one in found], [number % 2 == 0 for number in range(len(found))])
        times = [one.at_s for one in found]
        self.assertEqual(times, sorted(times))
        for opened, closed in zip(found[0::2], found[1::2], strict=False):
            self.assertGreater(closed.at_s, opened.at_s)

    def test_the_built_in_traces_do_what_their_titles_say(self) -> None:
        counts = {name: len(run_relay(RELAY, trace, end)) for name, (_, trace, end) in built_in_traces(230.0).items()}
        self.assertEqual(counts["quiet"], 0)
        self.assertGreaterEqual(counts["lost-neutral"], 1)
        self.assertGreaterEqual(counts["brown-out"], 1)


if __name__ == "__main__":
    unittest.main()
