"""A phone in the cupboard: paired over TLS at a name that is not loopback's, then the network goes, the server is killed, the page is
loaded again, clocks disagree, another person types the same test. Every reading is there once in the end; a hundred of them in ``make test-slow``.
"""

from __future__ import annotations

import base64
import hashlib
import tempfile
import time
import unittest
from contextlib import closing, suppress
from pathlib import Path
from typing import Any

from cryptography import x509
from cryptography.hazmat.primitives.serialization import Encoding, PublicFormat
from PIL import Image
from selenium.common.exceptions import NoAlertPresentException
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.harness import Server, free_port, open_browser
from tests.browser.page import PATIENCE_S, PageCase
from vivid_lattice.core.actions.enter_line import enter_line
from vivid_lattice.core.actions.new_job import begin
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.readings import ReadingSubject
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.testing.enter_reading import ReadingEntry
from vivid_lattice.core.testing.merge_readings import SentReading
from vivid_lattice.store.database import connect
from vivid_lattice.store.jobs import create_job, get_revision
from vivid_lattice.store.photos import list_photos
from vivid_lattice.store.readings import history_of
from vivid_lattice.store.sent_readings import send_readings

NAME = "mill.test"
#: The phone's clock is three years ahead.
AHEAD = """
const now = Date; const ahead = 3 * 365 * 86400e3;
Date = class extends now { constructor(...a) { a.length ? super(...a) : super(now.now() + ahead); } static now() { return now.now() + ahead; } };
"""

#: How far the phone is with keeping the program.
WORKER = """
const done = arguments[0];
if (navigator.serviceWorker.controller) done("has the page");
else navigator.serviceWorker.getRegistration().then(
  (is) => done(is ? ["installing", "waiting", "active"].map((each) => each + " " + is[each]?.state).join(", ") : "not registered"),
  (error) => done(String(error)));
"""


def house(circuits: int) -> Job:
    job = begin("Sluice house", rule_set("uk"), "TN-C-S")
    for number in range(circuits):
        job = enter_line(job, f"sockets {number + 1} radial 20A 2.5mm2 {10 + number}m", "main").job
    return job


class PhoneCase(PageCase):
    """A server on the local network, and a phone of its own for each test."""

    def start_server(self) -> Server:
        """On the local network, in a process that can be killed."""
        self.lan_port = free_port()
        server = Server(with_demo=False, lan_port=self.lan_port)
        self.addCleanup(server.stop)
        return server

    def run(self, result: unittest.TestResult | None = None) -> unittest.TestResult | None:
        """Each test has a phone of its own."""
        self.phone: Any = None
        try:
            return super().run(result)
        finally:
            if self.phone is not None:
                self.phone.quit()

    def pair(self, job: Job) -> str:
        """A phone that trusts the server's key, with a job's tests open; returns the job's id."""
        folder = self.server.database.parent / "lan"
        certificate = x509.load_pem_x509_certificate((folder / "server.crt").read_bytes())
        key = certificate.public_key().public_bytes(Encoding.DER, PublicFormat.SubjectPublicKeyInfo)
        trusted = base64.b64encode(hashlib.sha256(key).digest()).decode()
        self.phone = self.browser = open_browser(
            390,
            844,
            [f"--host-resolver-rules=MAP {NAME} 127.0.0.1", f"--ignore-certificate-errors-spki-list={trusted}"],
        )
        self.browser.execute_cdp_cmd("Page.addScriptToEvaluateOnNewDocument", {"source": AHEAD})
        with closing(connect(self.server.database)) as conn:
            job_id = create_job(conn, job, "begun", "test").job_id
        self.base = f"https://{NAME}:{self.lan_port}"
        self.browser.get(f"{self.base}/?token={(folder / 'token').read_text().strip()}")
        self.wait(lambda: self.browser.current_url == f"{self.base}/", "the token stays in the address")
        self.browser.get(f"{self.base}/jobs/{job_id}/testing")
        self.css("[data-testid=progress]")
        # The whole program comes over TLS first, which takes its time on a busy machine.
        deadline = time.monotonic() + 4 * PATIENCE_S
        while (state := self.browser.execute_async_script(WORKER)) != "has the page":
            self.assertLess(time.monotonic(), deadline, f"the program is not kept by the phone: {state}")
            time.sleep(0.2)
        return job_id

    def come_back(self) -> None:
        again = Server(with_demo=False, database=self.server.database, port=self.server.port, lan_port=self.lan_port)
        self.addCleanup(again.kill)
        self.again = again

    def enter(self, test: str, text: str) -> None:
        box = self.css(f"[data-test='{test}'] [data-reading]")
        box.send_keys(Keys.CONTROL + "a")
        box.send_keys(text, Keys.ENTER)

    def kept(self, job_id: str) -> tuple[dict[str, float | None], list[Any]]:
        """What is in force, by test and circuit, and the whole history."""
        with closing(connect(self.server.database)) as conn:
            readings = get_revision(conn, job_id).job.testing.readings
            return {f"{each.test}:{each.subject.id}": each.value for each in readings}, history_of(
                conn, job_id, readings
            )

    def reload(self) -> None:
        self.browser.refresh()
        with suppress(NoAlertPresentException):
            self.browser.switch_to.alert.accept()
        self.css("[data-testid=progress]")

    def readings_without_the_network(self, circuits: int) -> None:
        """Four readings of each of some circuits: a tenth with the network, then with the server killed, then with the network off too."""
        job_id = self.pair(house(circuits))
        kinds = ("r1r2", "ir_le", "ir_ln", "zs")
        tests = [f"{kind}:circuit:c{number}" for number in range(1, circuits + 1) for kind in kinds]
        values = {test: round(0.11 + 0.01 * index, 2) for index, test in enumerate(tests)}
        first, second = len(tests) // 10, len(tests) * 6 // 10
        for test in tests[:first]:
            self.enter(test, str(values[test]))
        self.wait(lambda: len(self.kept(job_id)[0]) >= first - 1, "nothing arrives while all is well")
        self.server.kill()
        for test in tests[first:second]:
            self.enter(test, str(values[test]))
        self.wait(lambda: "browser only" in self.css("[data-testid=unsent]").text, "what is not sent is not told")
        # The page is closed and opened again: the page, the plan and what was typed are all there without a server.
        self.reload()
        self.wait(lambda: "as this device last saw it" in self.css("[role=alert]").text, "a copy is not told as one")
        last = self.css(f"[data-test='{tests[second - 2]}'] [data-reading]")
        self.wait(lambda: last.get_attribute("value") == str(values[tests[second - 2]]), "what was typed is gone")
        self.browser.set_network_conditions(offline=True, latency=0, throughput=0)
        for test in tests[second:]:
            self.enter(test, str(values[test]))
        self.come_back()
        self.browser.set_network_conditions(offline=False, latency=0, throughput=-1)
        # The last box is left, so that it counts as typed.
        self.browser.find_element(By.CSS_SELECTOR, "body").click()
        self.wait(lambda: len(self.kept(job_id)[0]) == len(tests), "not all arrive")
        in_force, history = self.kept(job_id)
        self.assertEqual(in_force, {test.replace(":circuit:", ":"): value for test, value in values.items()})
        self.assertEqual(len(history), len(tests))
        self.assertEqual(sum(record.undecided for record in history), 0)
        self.assertTrue(all((record.reading.at or "") > "2029" for record in history), "the phone's own clock")
        self.wait(lambda: not self.all("[data-testid=unsent]"), "still told as not sent")


class Phone(PhoneCase):
    """What comes of readings typed without the network."""

    def test_readings_without_the_network_are_all_there_in_the_end(self) -> None:
        self.readings_without_the_network(5)

    def test_what_another_person_typed_is_decided_reading_by_reading(self) -> None:
        job_id = self.pair(house(3))
        self.server.kill()
        for number, text in ((1, "0.5"), (2, "0.6"), (3, "0.7")):
            self.enter(f"zs:circuit:c{number}", text)
        self.browser.find_element(By.CSS_SELECTOR, "body").click()
        self.come_back_with_the_laptop_first(job_id)
        told = self.css("[data-testid=undecided]")
        self.wait(lambda: len(told.find_elements(By.CSS_SELECTOR, "li")) == 1, "not asked, or asked about too much")
        self.assertIn("0.9 Ω", told.text)
        self.assertIn("0.5 Ω", told.text)
        in_force, _ = self.kept(job_id)
        self.assertEqual(in_force, {"zs:c1": 0.9, "zs:c2": 0.6, "zs:c3": 0.7})
        told.find_element(By.XPATH, ".//button[contains(., '0.5')]").click()
        self.wait(lambda: not self.all("[data-testid=undecided]"), "still asked")
        in_force, history = self.kept(job_id)
        self.assertEqual(in_force["zs:c1"], 0.5)
        self.assertEqual(len(history), 4)
        self.assertEqual(self.serious_faults(), [])

    def come_back_with_the_laptop_first(self, job_id: str) -> None:
        """Another person at the laptop reads circuit 1 before the phone can send."""
        entry = ReadingEntry(id="laptop", test="zs", subject=ReadingSubject(kind="circuit", id="c1"), text="0.9")
        with closing(connect(self.server.database)) as conn:
            send_readings(conn, job_id, [SentReading(entry=entry, at="2026-11-30T09:00", by="E. Weir")], "test")
        self.come_back()
        self.wait(lambda: len(self.kept(job_id)[0]) == 3, "the phone's do not arrive")
        self.reload()

    def test_a_step_that_is_ticked_without_a_server_is_not_lost(self) -> None:
        job_id = self.pair(house(1))
        self.server.kill()
        self.css("[id^=isolation-]").click()
        self.wait(
            lambda: self.browser.execute_script("return Object.keys(localStorage).some((k) => k.includes('draft'))"),
            "not kept",
        )
        self.reload()
        self.come_back()

        def steps() -> int:
            with closing(connect(self.server.database)) as conn:
                return len(get_revision(conn, job_id).job.testing.isolation)

        self.wait(lambda: steps() == 1, "the tick is gone")

    def test_a_photo_that_is_taken_without_a_server_is_there_once_in_the_end(self) -> None:
        job = begin("Sluice house", rule_set("uk"), "TN-C-S", existing=True)
        job_id = self.pair(job)
        address = f"{self.base}/jobs/{job_id}/survey"
        self.browser.get(address)
        self.css("[data-testid=photos]")
        self.server.kill()
        with tempfile.TemporaryDirectory() as folder:
            picture = Path(folder) / "board.png"
            Image.new("RGB", (640, 480), (90, 120, 150)).save(picture)
            self.css("[aria-label='Choose photos']").send_keys(str(picture))
            self.wait(lambda: "waiting for the server" in self.css("[data-waiting]").text, "not told as waiting")
        self.browser.refresh()
        self.wait(lambda: "board.png" in self.css("[data-waiting]").text, "gone with the page")
        self.come_back()

        def photos() -> list[str]:
            with closing(connect(self.server.database)) as conn:
                return [each.caption for each in list_photos(conn, job_id)]

        self.wait(lambda: photos() == ["board.png"], "the photo does not arrive")
        self.wait(lambda: not self.all("[data-waiting]"), "still told as waiting")
        self.wait(lambda: self.css("[data-testid=photos] img").get_property("naturalWidth") > 100, "not shown")
        self.assertEqual(photos(), ["board.png"])


class Paired(PageCase):
    """The page that shows how."""

    demos = False

    def test_a_server_on_loopback_says_how_it_is_reached_from_a_phone(self) -> None:
        self.browser.get(self.server.url)
        self.wait(lambda: self.browser.find_element(By.XPATH, "//button[contains(., 'Phone')]"), "no button").click()
        self.wait(lambda: "serve --lan" in self.css("[role=dialog]").text, "it does not say how")

    def test_the_code_is_shown_with_its_warning(self) -> None:
        server = Server(with_demo=False, lan_port=free_port())
        self.addCleanup(server.stop)
        self.browser.get(server.url)
        self.wait(lambda: self.browser.find_element(By.XPATH, "//button[contains(., 'Phone')]"), "no button").click()
        dialog = self.css("[role=dialog]")
        token = Path(server.database.parent / "lan" / "token").read_text().strip()
        if "no local network" not in dialog.text:
            self.wait(lambda: token in dialog.text, "no link")
            image = dialog.find_element(By.CSS_SELECTOR, "img")
            self.assertGreater(int(image.get_property("naturalWidth")), 100)
            self.assertIn("Anyone who has this link", dialog.text)
            self.assertIn("authority.crt", dialog.text)
        self.assertEqual(self.serious_faults(), [])


if __name__ == "__main__":
    unittest.main()
