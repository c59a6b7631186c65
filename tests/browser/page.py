"""What a person does on the pages, in the words of the pages."""

from __future__ import annotations

import unittest
from collections.abc import Callable
from contextlib import closing, suppress
from pathlib import Path
from typing import Any

from selenium.common.exceptions import WebDriverException
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement
from selenium.webdriver.support.ui import WebDriverWait

from tests.browser.harness import Shared
from vivid_lattice.core.document.job import Job
from vivid_lattice.demo import DEMOS, demo_job
from vivid_lattice.store.database import connect
from vivid_lattice.store.jobs import create_job

MILLRACE = "Millrace: watermill with a pottery studio"
AXE = Path(__file__).resolve().parent.parent.parent / "web/node_modules/axe-core/axe.min.js"
FAILED = Path(__file__).resolve().parent.parent.parent / "var/failed"
#: How long a page may take for one step on a slow, busy machine [s]. Nothing waits so long where all is well.
PATIENCE_S = 40
#: Columns of the lattice.
NAME, DEVICE, CABLE, LENGTH, METHOD = range(5)
CHECKS = (
    "overload",
    "capacity",
    "voltage-drop",
    "disconnection",
    "protective-conductor",
    "short-circuit-withstand",
    "breaking-capacity",
)


class PageCase(unittest.TestCase):
    """One server and one browser for all tests of a process; each test has a fresh database, and the browser as new.

    Where a test fails, what the page shows and what it is made of are saved below ``var/failed``.
    """

    server: Any
    browser: Any
    #: Whether the database has the demo jobs.
    demos = True

    def run(self, result: unittest.TestResult | None = None) -> unittest.TestResult | None:
        """Run the test on a fresh database; save the page if it fails."""
        self.browser = Shared.browser()
        self.server = self.start_server()
        before = _bad(result)
        ran = super().run(result)
        if result is not None and _bad(result) > before:
            self._save_page()
        return ran

    def start_server(self) -> Any:
        """The server the test is run against."""
        server = Shared.server()
        server.renew(demos=self.demos)
        return server

    def _save_page(self) -> None:
        FAILED.mkdir(parents=True, exist_ok=True)
        with suppress(WebDriverException):
            (FAILED / f"{self.id()}.png").write_bytes(self.browser.get_screenshot_as_png())
            (FAILED / f"{self.id()}.html").write_text(self.browser.page_source, encoding="utf-8")

    def wait(self, until: Callable[[], Any], why: str) -> Any:
        """What ``until`` gives as soon as it is something; fails with ``why`` when it never is."""
        found: list[Any] = []

        def tried(_: Any) -> bool:
            found[:] = [until()]
            return bool(found[0])

        WebDriverWait(self.browser, PATIENCE_S, poll_frequency=0.05, ignored_exceptions=[Exception]).until(tried, why)
        return found[0]

    def css(self, selector: str) -> WebElement:
        """The element of a selector, once it is there."""
        found: WebElement = self.wait(
            lambda: self.browser.find_element(By.CSS_SELECTOR, selector), f"nothing matches {selector}"
        )
        return found

    def options(self, choice: WebElement) -> list[WebElement]:
        """The options of a choice, opened."""
        if choice.get_attribute("aria-expanded") != "true":
            choice.click()
        found: list[WebElement] = self.wait(lambda: self.all("[role=option]"), "the choice does not open")
        return found

    def pick(self, choice: WebElement, *, text: str | None = None, value: str | None = None) -> None:
        """Choose the option of a text, or of a value."""
        self.options(choice)
        path = f"//*[@role='option' and ({f'normalize-space()={text!r}' if text else f'@data-value={value!r}'})]"
        self.wait(lambda: self.browser.find_element(By.XPATH, path), f"no option {text or value}").click()
        self.wait(lambda: not self.all("[role=option]"), "the choice stays open")

    def field(self, label: str, within: str = "") -> WebElement:
        """The box or choice that carries a label, the first within the element of an XPath."""
        path = f"//*[@id = string({within}//label[starts-with(normalize-space(), '{label}')]/@for)]"
        found: WebElement = self.wait(lambda: self.browser.find_element(By.XPATH, path), f"no field {label}")
        return found

    def enter(self, label: str, text: str) -> None:
        """A figure or word typed over in the box of a label."""
        box = self.field(label)
        box.send_keys(Keys.CONTROL + "a")
        box.send_keys(text, Keys.TAB)

    def button(self, text: str, within: str = "") -> WebElement:
        """The first button whose words begin so, within the element of an XPath."""
        path = f"{within}//button[starts-with(normalize-space(), '{text}')]"
        found: WebElement = self.wait(lambda: self.browser.find_element(By.XPATH, path), f"no button {text}")
        return found

    def all(self, selector: str) -> list[WebElement]:
        """All elements of a selector, now."""
        found: list[WebElement] = self.browser.find_elements(By.CSS_SELECTOR, selector)
        return found

    def demo(self, title: str = MILLRACE) -> str:
        """A new copy of the demo job whose title begins so, not opened yet; its address in the lattice."""
        return self.kept(next(job for job in map(demo_job, DEMOS) if job.job.title.startswith(title)))

    def begin_from(self, start: str, path: Path) -> None:
        """A new job from a file: 'file' a job file, 'table' a table of circuits."""
        self.browser.get(self.server.url)
        form = "form[aria-labelledby=new-job]"
        choice = self.wait(
            lambda: self.browser.find_element(By.XPATH, "//label[text()='Starting point']/following-sibling::button"),
            "no starting point",
        )
        self.pick(choice, value=start)
        self.css(f"{form} input[type=file]").send_keys(str(path))
        self.create()

    def create(self) -> None:
        """Presses Create."""
        self.browser.find_element(By.XPATH, "//button[text()='Create']").click()

    def kept(self, made: Job) -> str:
        """A job kept on the server, not opened yet; its address in the lattice."""
        with closing(connect(self.server.database)) as conn:
            job_id = create_job(conn, made, "demo opened", "test").job_id
        return f"{self.server.url}/jobs/{job_id}/circuits"

    def open_demo(self, title: str = MILLRACE) -> str:
        """The same, opened in the lattice."""
        address = self.demo(title)
        self.browser.get(address)
        self.wait_for_lattice()
        return address

    def wait_for_lattice(self) -> None:
        """Until the lattice has its first verdicts, on a phone too."""
        self.css("[data-row='0'] [data-verdict], [data-row='0'][data-verdict], [data-testid=pocket] button")

    def cell(self, row: int, column: int | str) -> WebElement:
        """A cell of the lattice by row and column, or by row and check."""
        at = column if isinstance(column, int) else 5 + CHECKS.index(column)
        return self.css(f'[data-row="{row}"][data-column="{at}"]')

    def typed(self, row: int, column: int) -> str:
        """What stands in an editable cell."""
        return str(self.cell(row, column).get_attribute("data-value"))

    def verdict(self, row: int, check: str) -> str:
        """The verdict shown in a cell."""
        return str(self.cell(row, check).get_attribute("data-verdict"))

    def wait_verdict(self, row: int, check: str, verdict: str) -> None:
        """Until a cell shows a verdict."""
        self.wait(lambda: self.verdict(row, check) == verdict, f"{check} of row {row} is not {verdict}")

    def wait_kept(self, revision: int) -> None:
        """Until the page says that a revision is kept."""

        def kept() -> bool:
            state = self.css("[data-testid=save-state]")
            return state.get_attribute("data-state") == "saved" and f"Revision {revision} ·" in state.text

        self.wait(kept, f"revision {revision} is not kept")

    def press(self, *keys: str) -> None:
        """Keys, to whatever has the focus."""
        for key in keys:
            self.browser.switch_to.active_element.send_keys(key)

    def type_over(self, row: int, column: int, text: str) -> None:
        """A figure typed over in place."""
        self.cell(row, column).click()
        self.press(*text, Keys.ENTER)

    def change_in_another_tab(self, address: str, row: int, column: int, text: str) -> None:
        """The same job changed, and kept, in a tab that is closed again."""
        first = self.browser.current_window_handle
        self.browser.switch_to.new_window("tab")
        self.browser.get(address)
        self.type_over(row, column, text)
        self.wait_kept(2)
        self.browser.close()
        self.browser.switch_to.window(first)

    def serious_faults(self, *rules: str) -> list[str]:
        """What axe-core finds that is serious or worse, in words; by all its rules, or some."""
        options = {"resultTypes": ["violations"]} | ({"runOnly": list(rules)} if rules else {})
        self.browser.execute_script(AXE.read_text("utf-8"))
        found = self.browser.execute_async_script(
            "const done = arguments[1]; axe.run(document, arguments[0]).then(done);", options
        )
        return [
            f"{fault['id']}: {fault['help']} ({fault['nodes'][0]['html'][:120]})"
            for fault in found["violations"]
            if fault["impact"] in ("serious", "critical")
        ]

    def page_errors(self) -> list[str]:
        """What the browser's console complained of, refusals of the server apart."""
        entries = self.browser.get_log("browser")
        return [
            entry["message"]
            for entry in entries
            if entry["level"] == "SEVERE" and "Failed to load resource" not in entry["message"]
        ]


def _bad(result: unittest.TestResult | None) -> int:
    return len(result.failures) + len(result.errors) if result is not None else 0
