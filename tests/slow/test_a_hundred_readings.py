"""A hundred readings on a phone without the network, and a line that drops at every byte: `make test` has samples of both."""

from __future__ import annotations

import unittest

from tests.browser.test_phone_offline import PhoneCase
from tests.instruments.test_instrument import Cut


class AHundred(PhoneCase):
    def test_a_hundred_readings_without_the_network_are_all_there_in_the_end(self) -> None:
        self.readings_without_the_network(25)


class AtEveryByte(Cut):
    def test_a_line_cut_at_every_byte_of_a_session_loses_and_doubles_nothing(self) -> None:
        self.cut_at_every(1)


if __name__ == "__main__":
    unittest.main()
