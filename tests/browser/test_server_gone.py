"""The server goes away under an open page and comes back: nothing typed meanwhile is lost."""

from __future__ import annotations

import unittest
from contextlib import closing

from tests.browser.harness import Server
from tests.browser.page import CABLE, LENGTH, PageCase
from vivid_lattice.store.database import connect
from vivid_lattice.store.jobs import get_revision

KILN, INDUCTION_HOB = 12, 2


class Gone(PageCase):
    """A crash in the middle of the work."""

    def start_server(self) -> Server:
        """The program in a process that can be killed."""
        server = Server()
        self.addCleanup(server.stop)
        return server

    def test_what_was_typed_while_the_server_was_gone_is_kept_when_it_is_back(self) -> None:
        address = self.open_demo()
        self.type_over(INDUCTION_HOB, LENGTH, "15")
        self.wait_kept(2)
        self.server.kill()
        self.type_over(KILN, CABLE, "6")
        # The engine is gone with the server: the row shows what was typed, and the old figures until there are new ones.
        self.assertEqual(self.typed(KILN, CABLE), "6")
        self.assertEqual(self.verdict(KILN, "capacity"), "fail")
        back = Server(with_demo=False, database=self.server.database, port=self.server.port)
        self.addCleanup(back.kill)
        self.wait_verdict(KILN, "capacity", "tight")
        self.wait_kept(3)
        with closing(connect(self.server.database)) as conn:
            job = get_revision(conn, address.split("/")[-2]).job
        cable = job.circuits[KILN].cable
        assert not isinstance(cable, str)
        self.assertEqual((job.circuits[INDUCTION_HOB].run[0].length_m, cable.area_mm2), (15.0, 6.0))


if __name__ == "__main__":
    unittest.main()
