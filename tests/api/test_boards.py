"""Boards, photos, ticks and surveys over HTTP."""

from __future__ import annotations

import io
import json
from itertools import pairwise
from typing import Any

from PIL import Image

from tests.api.test_api import ApiCase, plain
from tests.builders import circuit, job, laid
from tests.core.board.made import housed
from vivid_lattice.core.checks import BOARD_CHECKS
from vivid_lattice.core.job_file import read_data
from vivid_lattice.demo import demo_job
from vivid_lattice.photos import LONGEST_PX, MAX_BYTES, SMALL_PX


def photo(width: int = 400, height: int = 300, form: str = "JPEG", **more: Any) -> bytes:
    out = io.BytesIO()
    Image.new("RGB", (width, height), (120, 90, 60)).save(out, form, **more)
    return out.getvalue()


class Boards(ApiCase):
    """Drawn, laid out, moved about in."""

    def post(self, path: str, **body: Any) -> Any:
        return self.client.post(f"/api/boards/{path}", json=body)

    def test_a_board_is_drawn_with_everything_in_its_place(self) -> None:
        found = self.post("view", document=plain(demo_job("millrace")), board="mill").json()
        view = found["view"]
        self.assertEqual(len(view["units"]), 14)
        self.assertEqual(
            {one["check"] for one in found["findings"]},
            {check.id for check in BOARD_CHECKS if check.category == "build"},
        )
        for unit in view["units"]:
            self.assertTrue(unit["box"]["x"] >= 0 and unit["box"]["x"] + unit["box"]["w"] <= view["width_mm"])
            self.assertTrue(unit["clamps"])
        wired = {end["terminal"] for one in view["conductors"] for end in (one["start"], one["end"])}
        teeth = sum(not tooth["covered"] for comb in view["combs"] for tooth in comb["teeth"])
        clamps = {clamp["terminal"] for unit in view["units"] for clamp in unit["clamps"]}
        self.assertEqual(len(clamps - wired), teeth - len(clamps & wired & {"main/L1/out"}))
        self.refused(self.post("view", document=plain(job()), board="nowhere"), 422, "bad-document")

    def test_a_board_without_an_enclosure_is_told_and_not_drawn(self) -> None:
        view = self.post("view", document=plain(job()), board="main").json()["view"]
        self.assertEqual((view["width_mm"], view["units"], len(view["not_placed"])), (0, [], 2))

    def test_an_open_switch_is_followed(self) -> None:
        body = {"document": plain(demo_job("millrace")), "board": "studio", "open": ["mill|main"]}
        states = {one["state"] for one in self.post("view", **body).json()["view"]["live"]}
        self.assertEqual(states, {"dead", "earth"})

    def test_a_layout_comes_line_by_line_and_its_document_is_good(self) -> None:
        many = housed(job(*(circuit(id=f"c{n}", name=f"C{n}", run=(laid(9.0),)) for n in range(1, 12))), 2, 12)
        answer = self.post("lay-out", document=plain(many), board="main")
        self.assertEqual((answer.status_code, answer.headers["content-type"]), (200, "application/x-ndjson"))
        lines = [json.loads(line) for line in answer.text.splitlines()]
        self.assertEqual([line["kind"] for line in lines][-1], "done")
        costs = [line["cost"] for line in lines]
        self.assertTrue(all(after <= before for before, after in pairwise(costs)))
        self.assertEqual(len(read_data(lines[-1]["document"]).boards[0].build.device_positions), 12)

    def test_what_cannot_be_laid_out_is_refused_before_the_first_line(self) -> None:
        body = self.refused(self.post("lay-out", document=plain(job()), board="main"), 422, "bad-document")
        self.assertIn("an enclosure for Main board", body["detail"])

    def test_a_move_answers_with_the_board_as_it_is_then(self) -> None:
        of = plain(demo_job("millrace"))
        found = self.post("move-device", document=of, board="mill", device="way:c12", row=1, offset_modules=2.0).json()
        at = {unit["id"]: unit["offset_modules"] for unit in found["view"]["units"]}
        self.assertEqual(at["way:c12"], 2.0)
        read_data(found["document"])
        self.refused(
            self.post("move-device", document=of, board="mill", device="way:c12", row=7, offset_modules=2.0),
            422,
            "bad-document",
        )

    def test_ways_are_numbered_and_work_is_isolated(self) -> None:
        of = plain(demo_job("wool-loft"))
        read_data(self.post("renumber", document=of, board="main").json()["document"])
        found = self.post("isolation-steps", document=of, board="main", work="circuit:c2").json()
        self.assertEqual(found["open"], ["main|way:c2"])
        self.refused(self.post("isolation-steps", document=of, board="main", work="circuit:zz"), 422, "bad-document")

    def test_one_more_and_a_swap_bring_documents_that_can_be_used(self) -> None:
        of = demo_job("lamp-cottage")
        new = plain(job(circuit(id="new", name="Shed")))["circuits"][0]
        found = self.post("add-circuit", document=plain(of), board="main", circuit=new).json()
        self.assertEqual(
            [one["id"] for one in found], ["spare", "slim", "rcbo", "larger", "split", "split_without", "sub"]
        )
        for one in found:
            self.assertEqual(bool(one["not_possible"]), one["job"] is None)
            if one["job"]:
                read_data(one["job"])
        device = plain(job())["circuits"][0]["device"]
        swapped = self.post("swap-device", document=plain(of), circuit="c3", device=device).json()
        self.assertEqual(read_data(swapped["job"]).circuits[2].device.kind, "rcbo")  # type: ignore[union-attr]
        self.refused(self.post("swap-device", document=plain(of), circuit="c99", device=device), 422, "bad-document")

    def test_there_are_enclosures_of_both_forms(self) -> None:
        forms = {one["enclosure"]["form"] for one in self.client.get("/api/boards/enclosures").json()}
        self.assertEqual(forms, {"rail", "panelboard"})


class Photos(ApiCase):
    """Kept re-encoded, with nothing of the file but the picture."""

    def setUp(self) -> None:
        super().setUp()
        self.job = self.client.post("/api/jobs", json={"document": plain(job())}).json()["job_id"]
        self.path = f"/api/jobs/{self.job}/photos"

    def send(self, raw: bytes, **query: Any) -> Any:
        headers = {"content-type": "application/octet-stream"}
        return self.client.post(self.path, params={"board": "old"} | query, content=raw, headers=headers)

    def test_a_photo_is_made_smaller_upright_and_loses_what_the_camera_wrote(self) -> None:
        exif = Image.Exif()
        exif[0x010E] = "hidden words"
        exif[0x0112] = 6  # turned by a quarter
        raw = photo(4000, 3000, exif=exif, comment=b"hidden comment")
        self.assertIn(b"hidden", raw)
        kept = self.send(raw, way=3, caption="way 3").json()
        self.assertEqual((kept["width"], kept["height"]), (1200, 1600))
        for size, longest in (("image", LONGEST_PX), ("small", SMALL_PX)):
            answer = self.client.get(f"{self.path}/{kept['id']}", params={"size": size})
            self.assertEqual(answer.headers["content-type"], "image/jpeg")
            self.assertNotIn(b"hidden", answer.content)
            self.assertNotIn(b"Exif", answer.content)
            self.assertEqual(max(Image.open(io.BytesIO(answer.content)).size), longest)
        self.assertEqual([one["caption"] for one in self.client.get(self.path).json()], ["way 3"])

    def test_what_is_no_photo_is_refused_and_nothing_is_kept(self) -> None:
        bomb = photo(9000, 9000, "PNG", optimize=True)
        for raw in (b"", b"not a picture", b"<svg/>", photo()[:200], photo(form="BMP"), bomb):
            self.refused(self.send(raw), 422, "bad-request" if not raw else "not-a-picture")
        self.refused(self.send(b"\xff" * (MAX_BYTES + 1)), 413, "too-large")
        self.assertEqual(self.client.get(self.path).json(), [])

    def test_png_and_webp_are_kept_and_one_thrown_away_is_gone(self) -> None:
        first = self.send(photo(form="PNG")).json()["id"]
        self.assertEqual(self.send(photo(form="WEBP")).status_code, 201)
        self.assertEqual(self.client.delete(f"{self.path}/{first}").status_code, 204)
        self.refused(self.client.get(f"{self.path}/{first}"), 404, "no-such-photo")
        self.refused(self.client.delete(f"{self.path}/{first}"), 404, "no-such-photo")
        self.assertEqual(len(self.client.get(self.path).json()), 1)
        self.refused(self.client.get("/api/jobs/none/photos"), 404, "no-such-job")

    def test_a_photo_that_is_sent_again_under_its_own_id_is_there_once(self) -> None:
        for _ in range(3):
            self.assertEqual(
                self.send(photo(), id="taken-on-the-phone", caption="way 3").json()["id"], "taken-on-the-phone"
            )
        self.assertEqual([one["caption"] for one in self.client.get(self.path).json()], ["way 3"])
        self.refused(self.send(photo(), id="../x"), 422, "bad-request")

    def test_a_document_may_not_be_as_large_as_a_photo(self) -> None:
        self.refused(self.client.post("/api/jobs", content=b"x" * (5 * 1024 * 1024)), 413, "too-large")


class Ticks(ApiCase):
    """What of the wiring list is in."""

    def test_a_tick_is_kept_taken_back_and_replaced(self) -> None:
        made = self.client.post("/api/jobs", json={"document": plain(job())}).json()["job_id"]
        path = f"/api/jobs/{made}/wiring-progress"

        def tick(as_made: str, done: bool = True, wire: str = "a>b") -> None:
            body = {"board": "main", "wire": wire, "as_made": as_made, "done": done}
            self.assertEqual(self.client.post(path, json=body).status_code, 204)

        tick("6 mm²")
        tick("4 mm²", wire="c>d")
        tick("10 mm²")
        self.assertEqual(
            {one["wire"]: one["as_made"] for one in self.client.get(path).json()}, {"a>b": "10 mm²", "c>d": "4 mm²"}
        )
        tick("", done=False)
        self.assertEqual([one["wire"] for one in self.client.get(path).json()], ["c>d"])
        self.refused(self.client.get("/api/jobs/none/wiring-progress"), 404, "no-such-job")


class Surveys(ApiCase):
    """An old board over HTTP."""

    def test_from_a_typed_line_to_before_and_after(self) -> None:
        board = {"id": "old", "name": "Old", "main_device": "rcd", "main_rcd": {"idn_ma": 100.0}, "material": "wood"}
        way = self.client.post("/api/parse/way", json={"board": board, "text": "fuse 30 4mm cooker"}).json()
        refused = self.client.post("/api/parse/way", json={"board": board, "text": "cooker"})
        self.refused(refused, 422, "entry-not-understood")
        of = plain(job()) | {"survey": {"boards": [board | {"ways": [way]}]}, "boards": [], "circuits": []}

        def ask(what: str, document: Any) -> Any:
            return self.client.post(f"/api/survey/{what}", json={"document": document, "board": "old"}).json()

        read = ask("evaluate", of)
        self.assertEqual([one["new_a"] for one in read["rating_transfers"]], [25.0])
        self.assertIn("rcd-as-main", {one["kind"]["id"] for one in read["observations"]})
        made = ask("replace-board", of)["document"]
        both = ask("compare", made)
        self.assertEqual((both["before"]["with_rcd"], both["after"]["with_rcd"]), (0, 1))
        self.assertEqual(ask("assess", made)["rules"], "uk")
        missing = self.client.post("/api/survey/evaluate", json={"document": plain(job()), "board": "old"})
        self.refused(missing, 422, "bad-document")
