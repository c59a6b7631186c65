"""Training on the page: from start to score by keyboard in two standards, once by touch on a phone; exercises; a class."""

from __future__ import annotations

import json
import tempfile
import unittest
from pathlib import Path

from selenium.webdriver.common.actions.action_builder import ActionBuilder
from selenium.webdriver.common.actions.interaction import POINTER_TOUCH
from selenium.webdriver.common.actions.pointer_input import PointerInput
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement

from tests.browser.harness import resize
from tests.browser.page import PageCase
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.testing.reading_kinds import TRAITS
from vivid_lattice.core.training.boards import TrainingBoard
from vivid_lattice.core.training.class_file import FORMAT
from vivid_lattice.core.training.draw_board import training_board
from vivid_lattice.core.training.exercises.maker import exercise
from vivid_lattice.core.training.shown import shown_in


def first_dead(standard: str) -> TrainingBoard:
    """The first board of level 1 whose defect is in a circuit and shows in a dead test of it."""
    for number in range(1, 60):
        board = training_board(standard, 1, number)
        hidden = board.hidden[0]
        kinds = shown_in(board, board.known[hidden.id], hidden.circuit, hidden.parameters)
        if any(not TRAITS[kind].live for kind in kinds & {test.test for test in own_tests(board)}):
            return board
    raise AssertionError(f"no such board in {standard}")


def own_tests(board: TrainingBoard) -> list:  # type: ignore[type-arg]
    return [
        each
        for each in board.plan.tests
        if each.subject.kind == "circuit" and each.subject.id == board.hidden[0].circuit
    ]


class Training(PageCase):
    demos = False

    def setUp(self) -> None:
        super().setUp()
        self.browser.get(f"{self.server.url}/training")
        self.browser.execute_script("localStorage.clear()")
        self.browser.refresh()

    # ------------------------------------------------------------------------------------------ by keyboard

    def key(self, element: WebElement) -> None:
        """Pressed by the keyboard."""
        self.browser.execute_script("arguments[0].focus()", element)
        self.assertEqual(self.browser.switch_to.active_element, element, "the keyboard does not reach it")
        self.press(Keys.ENTER)

    def touched(self, element: WebElement) -> None:
        self.browser.execute_script("arguments[0].scrollIntoView({block: 'center'})", element)
        touch = ActionBuilder(self.browser, mouse=PointerInput(POINTER_TOUCH, "finger"))
        touch.pointer_action.move_to(element).pointer_down().pointer_up()
        touch.perform()

    def choose(self, label: str, text: str) -> None:
        """The option of a choice, with the arrow keys."""
        box = self.field(label)
        self.key(box)
        options = self.wait(lambda: self.all("[role=option]"), "the choice does not open")
        at = [each.text.strip() for each in options].index(text)
        self.press(Keys.HOME)
        self.press(*[Keys.ARROW_DOWN] * at, Keys.ENTER)
        self.wait(lambda: not self.all("[role=option]"), "the choice stays open")
        self.wait(lambda: self.field(label).text.strip() == text, f"not chosen: {text}")

    def said(self) -> WebElement:
        return self.css("[data-testid=said]")

    def played(self, standard: str, press) -> None:  # type: ignore[no-untyped-def]
        """From start to score: the main switch off and locked, proved, the dead tests of the circuit, its defect named."""
        board = first_dead(standard)
        hidden = board.hidden[0]
        circuit = board.job.circuit(hidden.circuit)
        row = f'[data-circuit="{circuit.id}"]'

        def do(element: WebElement, words: str) -> None:
            press(element)
            self.wait(lambda: words in self.said().text, f"not said: {words}")

        def in_row(text: str) -> WebElement:
            path = f"//li[@data-circuit='{circuit.id}']//button[starts-with(normalize-space(), '{text}')]"
            return self.wait(lambda: self.browser.find_element(By.XPATH, path), f"no {text}")  # type: ignore[no-any-return]

        def named(label: str) -> WebElement:
            return self.css(f'[aria-label="{label}"]')

        if self.css(f"{row} [aria-expanded]").get_attribute("aria-expanded") == "false":
            press(self.css(f"{row} [aria-expanded]"))
        do(in_row("Open accessories"), "Stopped")
        do(self.button("Tell the people"), "All know what is tested")
        do(named("Main switch: on"), "Off.")
        do(named("Lock Main switch"), "Locked and tagged.")
        self.assertEqual(self.css(row).get_attribute("data-live"), "false")
        points = str(self.css(f"{row} [data-points]").get_attribute("data-points")).split()
        self.assertEqual(set(points), {"dead"}, "the house stays lit")
        do(self.button("Prove the indicator"), "The indicator works.")
        do(in_row("Prove dead"), "Dead, every pair.")
        self.assertEqual(in_row("Dead").text, "Dead: prove the indicator again")
        do(self.button("Prove the indicator"), "The indicator works.")
        do(in_row("Open accessories"), "Open.")
        do(in_row("Disconnect electronics"), "Electronics disconnected.")
        do(self.button("Null the leads"), "Leads nulled.")
        for test in own_tests(board):
            if not test.live:
                press(self.css(f'[data-test="{test.id}"] button'))
                self.wait(lambda of=test.id: self.css(f'[data-test="{of}"] [data-reading]').text, "no reading")
        do(in_row("Put electronics back"), "Put back.")
        do(in_row("Close accessories"), "Closed.")
        self.choose("Defect", board.known[hidden.id].name)
        self.choose("Where", circuit.name)
        do(self.button("Record"), "Recorded.")
        self.assertIn(circuit.name, self.css("[data-testid=named]").text)
        press(self.button("Finish"))
        self.css("[data-testid=ended]")
        self.assertEqual(self.css('[data-part="finding"]').text, "30 / 30")
        self.assertEqual(self.css('[data-part="safety"]').text, "15 / 30")
        self.assertIn("✓", self.css(f'[data-revealed="{hidden.id}"]').text)
        self.wait(lambda: "Saved for Ada." in self.css("[data-testid=ended]").text, "not saved")
        press(self.button("Replay"))
        self.wait(lambda: len(self.all("[data-testid=replay] tbody tr")) > 1, "no replay")

    def begin(self, standard: str) -> None:
        self.enter("Learner", "Ada")
        self.choose("Standard", rule_set(standard).title)
        self.enter("Board number", str(first_dead(standard).number))
        self.key(self.button("Start"))

    def test_from_start_to_score_by_keyboard_in_britain(self) -> None:
        self.begin("uk")
        self.played("uk", self.key)
        self.assertEqual(self.page_errors(), [])
        self.assertEqual(self.serious_faults(), [])

    def test_from_start_to_score_by_keyboard_in_north_america(self) -> None:
        self.begin("na")
        self.played("na", self.key)

    def test_from_start_to_score_by_touch_on_a_phone(self) -> None:
        resize(self.browser, 390, 844)
        self.addCleanup(resize, self.browser, 1280, 800)
        self.begin("uk")
        self.played("uk", self.touched)
        overflow = self.browser.execute_script("return document.documentElement.scrollWidth - window.innerWidth")
        self.assertLessEqual(overflow, 0)

    def test_from_the_second_level_the_leads_are_connected_by_hand(self) -> None:
        boards = (training_board("uk", 2, number) for number in range(1, 60))
        self.choose("Level", "2 · improver")
        self.enter("Board number", str(next(each.number for each in boards if not each.sources)))
        self.key(self.button("Start"))
        self.css("[aria-label=Tester]")
        self.assertEqual(self.all("[data-test='r2:circuit:c2'] button"), [])
        self.key(self.button("Read the display"))
        self.wait(lambda: self.said().get_attribute("data-refused") == "dead-test-live", "not stopped")
        for element in ("Main switch: on", "Lock Main switch"):
            self.key(self.css(f'[aria-label="{element}"]'))
            self.wait(lambda of=element: not self.all(f'[aria-label="{of}"]'), "not done")
        self.key(self.button("Prove the indicator"))
        circuit = self.css("[data-circuit]")
        self.key(circuit.find_element(By.XPATH, ".//button[starts-with(normalize-space(), 'Prove dead')]"))
        self.wait(lambda: "Dead, every pair." in self.said().text, "not dead")
        self.key(self.button("Prove the indicator"))
        self.wait(lambda: "The indicator works." in self.said().text, "not proved")
        self.choose("At", circuit.find_element(By.CSS_SELECTOR, "[aria-expanded] .font-medium").text)
        self.choose("Function", "Continuity")
        self.choose("Lead 1", "line")
        self.choose("Lead 2", "CPC")
        self.key(self.button("Read the display"))
        self.wait(lambda: "OL" in self.said().text, "read without a link at the board")
        link = "ends crossed, line to CPC" if circuit.find_elements(By.CSS_SELECTOR, ".rounded-r-xl") else "line to CPC"
        self.choose("Link at the board", link)
        self.wait(lambda: "Link in." in self.said().text, "no link")
        self.key(self.button("Read the display"))
        self.wait(lambda: "Ω" in self.said().text, "nothing is read")
        self.key(self.css('[aria-label="Unlock Main switch"]'))
        self.wait(lambda: self.all('[aria-label="Lock Main switch"]'), "not unlocked")
        self.key(self.css('[aria-label="Main switch: off"]'))
        self.wait(lambda: self.said().get_attribute("data-refused") == "link-left", "energised with a link in")

    def test_what_is_never_right_is_stopped_with_the_reason(self) -> None:
        self.key(self.button("Start"))
        self.css("[data-circuit]")
        self.key(self.field("Something else"))
        self.wait(lambda: self.all("[role=option]"), "the choice does not open")
        self.press(Keys.HOME, Keys.ARROW_DOWN, Keys.ENTER)
        self.wait(lambda: self.said().get_attribute("data-refused") == "rcd-out", "not stopped")
        self.assertIn("It trips for a reason", self.said().text)

    def test_an_attempt_outlives_the_page(self) -> None:
        self.begin("uk")
        self.key(self.css('[aria-label="Main switch: on"]'))
        self.css('[aria-label="Main switch: off"]')
        self.browser.refresh()
        self.css('[aria-label="Main switch: off"]')
        self.key(self.button("Leave this board"))
        self.button("Start")

    def test_exercises_are_judged_with_the_calculation_and_counted(self) -> None:
        self.enter("Learner", "Ada")
        self.key(self.button("Exercises"))
        question = self.css("[data-exercise]")
        standard, kind, number = str(question.get_attribute("data-exercise")).split("/")
        made = exercise(standard, kind, int(number))  # type: ignore[arg-type]
        option = self.css(f'[data-option="{made.right}"]')
        self.assertIn(str(made.options[made.right]), option.text)
        self.key(option)
        self.wait(lambda: "Right." in self.css("main").text, "not judged")
        self.assertIn(str(made.answer[0])[:30], self.css("main").text)
        self.key(self.button("Next"))
        self.wait(lambda: "1 of 1 right" in self.css("main").text, "not counted")

    def test_a_class_file_is_opened_and_a_wrong_one_told(self) -> None:
        self.enter("Learner", "Ada")
        self.key(self.button("Class"))
        with tempfile.TemporaryDirectory() as folder:
            wrong, good = Path(folder) / "wrong.json", Path(folder) / "good.json"
            wrong.write_text("{}", "utf-8")
            good.write_text(
                json.dumps(
                    {
                        "format": FORMAT,
                        "title": "Week 3",
                        "boards": [{"standard": "uk", "number": 5}],
                        "exercises": [{"standard": "za", "kind": "find-mistake", "number": 8}],
                    }
                ),
                "utf-8",
            )
            self.css("main input[type=file]").send_keys(str(wrong))
            self.wait(lambda: "title" in self.css("main [role=alert]").text, "nothing is told")
            self.css("main input[type=file]").send_keys(str(good))
            self.wait(lambda: "Week 3" in self.css("main").text, "not opened")
        self.key(self.button("Start", "//*[@data-testid='class']//p"))
        self.assertEqual(self.css("[data-exercise]").get_attribute("data-exercise"), "za/find-mistake/8")
        self.assertEqual(self.css("[data-testid=class-at]").text, "Class work: 1 of 1")


if __name__ == "__main__":
    unittest.main()
