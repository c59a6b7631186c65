"""Training over HTTP: what is hidden stays hidden, results are kept and left as CSV, bad input is refused."""

from __future__ import annotations

import csv
import io
import json
import unittest
from typing import Any

from tests.api.test_api import ApiCase
from tests.core.training.test_bench import D, make_dead, of
from vivid_lattice.core.training.acts import Finish, Measure, Name, Open, Switch
from vivid_lattice.core.training.class_file import FORMAT
from vivid_lattice.core.training.draw_board import board_with, training_board
from vivid_lattice.core.training.exercises.maker import exercise
from vivid_lattice.core.training.session import BoardSpec

SPEC = BoardSpec(standard="uk", defects=(D + "open-cpc",), number=3)


class TrainingCase(ApiCase):
    """Attempts at one board."""

    def setUp(self) -> None:
        super().setUp()
        self.hidden = board_with("uk", SPEC.defects, 3).hidden[0]

    def attempt(self, *acts: Any) -> dict[str, Any]:
        return {"board": SPEC.model_dump(mode="json"), "acts": [each.model_dump(mode="json") for each in acts]}

    def ended(self) -> dict[str, Any]:
        named = Name(defect=self.hidden.id, circuit=self.hidden.circuit, danger="hidden")
        return self.attempt(Switch(device=self.hidden.circuit, on=False), named, Finish())

    def play(self, *acts: Any) -> Any:
        answer = self.client.post("/api/training/play", json=self.attempt(*acts))
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()


class Playing(TrainingCase):
    """An attempt, act by act."""

    def test_nothing_that_is_hidden_is_told_before_the_end(self) -> None:
        circuit = self.hidden.circuit
        view = self.play(*make_dead(circuit), Open(circuit=circuit), Measure(test="r2", subject=of(circuit)))
        self.assertEqual((view["ended"], view["score"], view["revealed"]), (False, None, []))
        self.assertEqual(view["outcomes"][-1]["reading"], "OL")
        text = json.dumps({name: value for name, value in view.items() if name != "defects"})
        self.assertNotIn(self.hidden.id, text)
        self.assertEqual(self.client.post("/api/training/replay", json=self.attempt()).json(), [])

    def test_at_the_end_it_is_and_the_replay_goes_test_by_test(self) -> None:
        circuit = self.hidden.circuit
        acts = [
            *make_dead(circuit),
            Measure(test="r2", subject=of(circuit)),
            Name(defect=self.hidden.id, circuit=circuit),
            Finish(),
        ]
        view = self.play(*acts)
        self.assertEqual([(each["id"], each["named"]) for each in view["revealed"]], [(self.hidden.id, True)])
        self.assertEqual(view["named"][0]["circuit"], view["revealed"][0]["circuit"])
        self.assertGreaterEqual(view["total"], 60)
        steps = self.client.post("/api/training/replay", json=self.attempt(*acts)).json()
        self.assertEqual([(each["reading"], each["off"]) for each in steps], [("OL", True)])

    def test_board_and_house_are_told_with_shared_devices_cables_and_points(self) -> None:
        number = next(n for n in range(1, 60) if training_board("iec", 2, n).groups)
        spec = {"standard": "iec", "level": 2, "number": number}
        group = next(iter(training_board("iec", 2, number).groups))
        off = [{"act": "switch", "device": group, "on": False}, {"act": "shortcut", "what": "cutout"}]
        view = self.client.post("/api/training/play", json={"board": spec, "acts": off}).json()
        self.assertEqual([each["off"] for each in view["groups"] if each["id"] == group], [True])
        self.assertEqual(view["outcomes"][-1]["refused"], "cutout")
        for circuit in view["circuits"]:
            house = circuit["house"]
            self.assertGreater(house["length_m"], 0)
            self.assertTrue(house["points"])
            if circuit["group"] == group:
                self.assertEqual({each["state"] for each in house["points"]}, {"dead"})
        doubt = {each["test"] for each in view["tests"] if each["in_doubt"]}
        self.assertTrue({"u_me", "r_nn", "i_res"} <= doubt)
        wrong = {"board": spec, "acts": [{"act": "lock", "device": "main:zz"}]}
        self.assertEqual(self.client.post("/api/training/play", json=wrong).status_code, 422)

    def test_a_danger_that_was_named_is_not_left_live(self) -> None:
        view = self.play(Name(defect=self.hidden.id, circuit=self.hidden.circuit), Finish())
        self.assertEqual((view["outcomes"][-1]["refused"], view["ended"]), ("leave-dangerous", False))

    def test_a_stopped_act_says_why_and_what_is_right(self) -> None:
        view = self.play(Measure(test="r2", subject=of("c1")))
        self.assertEqual(view["outcomes"][0]["refused"], "dead-test-live")
        self.assertTrue(view["stopped"][0]["why"] and view["stopped"][0]["right"])

    def test_boards_that_there_are_not_are_refused(self) -> None:
        for board, status in (
            ({"standard": "xx"}, 404),
            ({"standard": "uk", "level": 9}, 422),
            ({"standard": "uk", "number": -1}, 422),
            ({"standard": "uk", "defects": ["none-such"]}, 422),
        ):
            answer = self.client.post("/api/training/play", json={"board": board, "acts": []})
            self.assertEqual(answer.status_code, status, answer.text)
            self.assertTrue(answer.json()["detail"])


class Kept(TrainingCase):
    """Progress and results."""

    def test_an_attempt_is_kept_once_with_the_score_of_its_record(self) -> None:
        for _ in range(2):
            answer = self.client.post("/api/training/attempts", json={"learner": " Ada ", "attempt": self.ended()})
            self.assertEqual(answer.status_code, 201, answer.text)
        progress = self.client.get("/api/training/learners/Ada?standard=uk").json()
        self.assertEqual(len(progress["attempts"]), 1)
        played = self.client.post("/api/training/play", json=self.ended()).json()
        self.assertEqual(progress["attempts"][0]["total"], played["total"])
        self.assertEqual(self.client.get("/api/training").json()["learners"], ["Ada"])

    def test_one_that_goes_on_is_not_kept(self) -> None:
        answer = self.client.post("/api/training/attempts", json={"learner": "Ada", "attempt": self.attempt()})
        self.assertEqual(answer.status_code, 409)
        self.assertIn("finish it first", answer.json()["detail"])

    def test_exercises_are_judged_kept_and_come_again(self) -> None:
        made = exercise("uk", "rcd-type", 7)
        url = "/api/training/exercises"
        shown = self.client.get(f"{url}/uk/rcd-type/7").json()
        self.assertNotIn("right", shown)
        for chosen in (made.right, (made.right + 1) % len(made.options)):
            body = {"learner": "Ada", "standard": "uk", "kind": "rcd-type", "number": 7, "chosen": chosen}
            judged = self.client.post(url, json=body).json()
            self.assertEqual((judged["is_right"], judged["right"]), (chosen == made.right, made.right))
            self.assertTrue(judged["answer"])
        progress = self.client.get("/api/training/learners/Ada?standard=uk").json()
        self.assertEqual((progress["answered"], progress["right"]), ({"rcd-type": 2}, {"rcd-type": 1}))
        again = progress["next"]
        self.assertEqual((again["kind"], exercise("uk", "rcd-type", again["number"]).topic), ("rcd-type", made.topic))
        self.assertNotEqual(again["number"], 7)
        self.assertEqual(self.client.get(f"{url}/na/rcd-type/7").status_code, 404)

    def test_results_leave_as_csv_and_no_cell_is_a_formula(self) -> None:
        self.client.post("/api/training/attempts", json={"learner": "=1+1", "attempt": self.ended()})
        answer = self.client.get("/api/training/results.csv")
        rows = list(csv.reader(io.StringIO(answer.content.decode("utf-8-sig"))))
        self.assertEqual(rows[0][:3], ["Learner", "What", "Standard"])
        self.assertEqual((rows[1][0], rows[1][1:4]), ("'=1+1", ["board", "uk", "1"]))

    def test_a_class_file_is_read_or_told_what_is_wrong(self) -> None:
        good = {"format": FORMAT, "title": "Week 3", "boards": [{"standard": "uk", "level": 2, "number": 5}],
                "exercises": [{"standard": "iec", "kind": "cable-size", "number": 1}]}  # fmt: skip
        answer = self.client.post("/api/training/class", json={"text": json.dumps(good)})
        self.assertEqual((answer.status_code, answer.json()["title"]), (200, "Week 3"))
        for bad, words in (
            ("not json", "file"),
            (json.dumps({**good, "title": ""}), "title"),
            (json.dumps({**good, "boards": [{"level": 7}]}), "boards.0.level"),
        ):
            answer = self.client.post("/api/training/class", json={"text": bad})
            self.assertEqual(answer.status_code, 422)
            self.assertIn(words, answer.json()["detail"])

    def test_what_learners_did_outlives_a_job_and_a_restart(self) -> None:
        self.client.post("/api/training/attempts", json={"learner": "Ada", "attempt": self.ended()})
        from vivid_lattice.store.database import prepare

        prepare(self.database)
        self.assertEqual(self.client.get("/api/training").json()["learners"], ["Ada"])


if __name__ == "__main__":
    unittest.main()
