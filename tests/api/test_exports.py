"""Exports, tables and backups over HTTP."""

from __future__ import annotations

import io
import json
import threading
import unittest
from pathlib import Path
from typing import Any

from openpyxl import load_workbook
from PIL import Image

from tests.api.test_api import ApiCase
from tests.reports.reading import pages
from vivid_lattice.api.export_cache import ExportCache
from vivid_lattice.reports.catalogue import KINDS, ExportedFile
from vivid_lattice.store.database import connect
from vivid_lattice.store.jobs import list_jobs


class ExportCase(ApiCase):
    """A job that has been changed once."""

    def setUp(self) -> None:
        super().setUp()
        opened = self.client.post("/api/jobs", json={"demo": "millrace"}).json()
        self.job = f"/api/jobs/{opened['job_id']}"
        opened["job"]["circuits"][2]["run"][0]["length_m"] = 15.5
        self.client.put(self.job, json={"base": 1, "document": opened["job"]})

    def made(self, kind: str, **more: Any) -> dict[str, Any]:
        answer = self.client.post(f"{self.job}/exports", json={"kind": kind} | more)
        self.assertEqual(
            (answer.status_code, answer.headers["content-type"]), (200, "application/x-ndjson"), answer.text
        )
        last: dict[str, Any] = json.loads(answer.text.splitlines()[-1])
        self.assertEqual(last["kind"], "done", answer.text)
        return last


class Exports(ExportCase):
    """Made, looked at, saved."""

    def test_every_kind_can_be_made_and_fetched_under_its_name(self) -> None:
        kinds = self.client.get("/api/exports/kinds").json()
        self.assertEqual([kind["id"] for kind in kinds], [kind.id for kind in KINDS])
        quoted = False
        for kind in kinds:
            if kind["needs"] == "survey":
                continue
            if kind["needs"] == "quote" and not quoted:
                answer = self.client.post(f"{self.job}/exports", json={"kind": kind["id"]})
                self.assertEqual((answer.status_code, "Save one under Quote" in answer.text), (422, True))
                self.save_quote()
                quoted = True
            more = {"board": {"board": "mill"}, "other": {"against_revision": 1}}.get(kind["needs"], {})
            with self.subTest(kind["id"]):
                done = self.made(kind["id"], **more)
                file = self.client.get(f"/api/exports/{done['export']}")
                self.assertEqual(len(file.content), done["bytes"])
                self.assertIn(done["name"], file.headers["content-disposition"])
                self.assertTrue(done["name"].endswith(f".{kind['suffix']}"))
                self.assertTrue(file.headers["content-disposition"].startswith("attachment"))

    def save_quote(self) -> None:
        """A quote saved in the job as it is."""
        now = self.client.get(self.job).json()
        answer = self.client.post("/api/material/quote/save", json={"document": now["job"], "revision": now["number"]})
        self.assertEqual(answer.status_code, 200, answer.text)
        made = answer.json()
        answer = self.client.put(self.job, json={"base": now["number"], "document": made["document"]})
        self.assertEqual(answer.status_code, 200, answer.text)

    def test_a_job_without_a_plan_has_no_drawing_of_it_and_says_what_to_do(self) -> None:
        other = self.client.post("/api/jobs", json={"demo": "lamp-cottage"}).json()["job_id"]
        answer = self.client.post(f"/api/jobs/{other}/exports", json={"kind": "plan-svg"})
        self.assertEqual(answer.status_code, 422)
        self.assertIn("Type one under Routes", answer.json()["detail"])

    def test_a_report_tells_how_far_it_is_and_shows_the_revision_it_is_of(self) -> None:
        answer = self.client.post(f"{self.job}/exports", json={"kind": "report"})
        lines = [json.loads(line) for line in answer.text.splitlines()]
        self.assertGreater(sum(line["kind"] == "progress" and line["all"] == 16 for line in lines), 10)
        content = self.client.get(f"/api/exports/{lines[-1]['export']}").content
        self.assertIn("revision 2,", pages(content)[0])
        earlier = self.made("chart", revision=1)
        self.assertIn("revision 1,", pages(self.client.get(f"/api/exports/{earlier['export']}").content)[0])

    def test_a_page_is_a_picture_and_there_are_no_others(self) -> None:
        done = self.made("surge")
        for number in range(1, done["pages"] + 1):
            found = self.client.get(f"/api/exports/{done['export']}/pages/{number}")
            with Image.open(io.BytesIO(found.content)) as picture:
                self.assertEqual((picture.format, picture.width > 800), ("PNG", True))
        self.refused(self.client.get(f"/api/exports/{done['export']}/pages/{done['pages'] + 1}"), 404, "http")
        self.refused(self.client.get("/api/exports/nothing"), 404, "no-such-export")
        table = self.made("xlsx")
        self.refused(self.client.get(f"/api/exports/{table['export']}/pages/1"), 404, "http")

    def test_two_revisions_and_two_jobs_are_compared(self) -> None:
        done = self.made("comparison", against_revision=1)
        text = " ".join(pages(self.client.get(f"/api/exports/{done['export']}").content))
        self.assertIn("Induction hob: 14 → 15.5 m", text)
        other = self.client.post("/api/jobs", json={"demo": "lamp-cottage"}).json()["job_id"]
        done = self.made("comparison", against_job=other)
        self.assertIn("Lamp", " ".join(pages(self.client.get(f"/api/exports/{done['export']}").content)))

    def test_what_cannot_be_made_is_refused_before_the_first_line(self) -> None:
        for body, said in (
            ({"kind": "nothing"}, "No document type “nothing”"),
            ({"kind": "dxf"}, "Choose a board"),
            ({"kind": "chart", "board": "shed"}, "No board “shed”"),
            ({"kind": "before-after"}, "Record one under Survey first"),
            ({"kind": "comparison"}, "revision"),
        ):
            found = self.refused(self.client.post(f"{self.job}/exports", json=body), 422, "bad-document")
            self.assertIn(said, found["detail"])
        self.refused(
            self.client.post(f"{self.job}/exports", json={"kind": "chart", "revision": 9}), 404, "no-such-revision"
        )
        self.refused(self.client.post("/api/jobs/none/exports", json={"kind": "chart"}), 404, "no-such-job")

    def test_the_shelf_holds_the_newest_and_no_more_than_it_has_room_for(self) -> None:
        shelf = ExportCache()
        names = [shelf.put(ExportedFile(b"x", f"{number}")) for number in range(40)]
        self.assertEqual(shelf.get(names[-1]).name, "39")
        with self.assertRaises(Exception):  # noqa: B017 - any refusal: the oldest has gone
            shelf.get(names[0])
        huge = [shelf.put(ExportedFile(bytes(150 * 1024 * 1024), "huge")) for _ in range(3)]
        self.assertEqual(len(shelf.get(huge[-1]).content), 150 * 1024 * 1024)
        with self.assertRaises(Exception):  # noqa: B017
            shelf.get(huge[0])

    def test_several_at_a_time_do_not_disturb_each_other(self) -> None:
        found: list[int] = []

        def look() -> None:
            done = self.made("tests")
            found.append(self.client.get(f"/api/exports/{done['export']}/pages/1").status_code)

        threads = [threading.Thread(target=look) for _ in range(4)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        self.assertEqual(found, [200] * 4)


class Tables(ExportCase):
    """Looked at first, taken in by saving."""

    CSV = b"Description,Power (kW),Length\nCooker two,7.2,14\nMangle,1,2\n"

    def test_a_table_is_read_matched_tried_and_one_undo_takes_it_out(self) -> None:
        read = self.client.post("/api/imports/table", content=self.CSV).json()
        self.assertEqual(read["mapping"], {"name": 0, "power_kw": 1, "length_m": 2})
        body = {"base": 2, "rows": read["table"]["rows"], "mapping": read["mapping"], "first_row": 2}
        tried = self.client.post(f"{self.job}/imports/circuits", json=body).json()
        self.assertEqual((tried["added"], [row["number"] for row in tried["rows"]]), (1, [2, 3]))
        self.assertTrue(tried["rows"][1]["problems"])
        before = self.client.get(self.job).json()
        self.assertEqual(len(before["job"]["circuits"]), 16)
        saved = self.client.put(self.job, json={"base": 2, "document": tried["job"]}).json()
        self.assertEqual((saved["number"], len(saved["job"]["circuits"])), (3, 17))
        undone = self.client.post(f"{self.job}/undo", json={"base": 3}).json()
        self.assertEqual(undone["job"], before["job"])

    def test_prices_and_what_was_pasted(self) -> None:
        read = self.client.post(
            "/api/imports/table?of=prices&pasted=true", content=b"Item\tPrice\nrcbo\t31,50\n"
        ).json()
        body = {"base": 2, "rows": read["table"]["rows"], "mapping": read["mapping"]}
        tried = self.client.post(f"{self.job}/imports/prices", json=body).json()
        self.assertEqual(tried["job"]["prices"]["devices"], [{"kind": "rcbo", "rating_a": None, "each": 31.5}])

    def test_a_workbook_of_ours_comes_back_row_by_row(self) -> None:
        done = self.made("xlsx")
        content = self.client.get(f"/api/exports/{done['export']}").content
        self.assertEqual(load_workbook(io.BytesIO(content)).sheetnames[0], "Circuits")
        read = self.client.post("/api/imports/table", content=content).json()
        self.assertEqual(len(read["table"]["rows"]), 16)

    def test_wrong_files_are_refused_and_nothing_is_changed(self) -> None:
        for raw in (b"", b"%PDF-1.7", b"PK\x03\x04", b"a\nb\n"):
            self.assertTrue(
                self.refused(self.client.post("/api/imports/table", content=raw), 422, "file-refused")["detail"]
            )
        self.refused(self.client.post("/api/jobs/import", content=b"PK\x03\x04junk"), 422, "file-refused")
        self.assertEqual(len(self.client.get("/api/jobs").json()), 1)

    def test_a_job_with_photos_goes_out_and_comes_in(self) -> None:
        out = io.BytesIO()
        Image.new("RGB", (40, 30), (1, 2, 3)).save(out, "JPEG")
        self.client.post(
            f"{self.job}/photos?board=mill&way=3&caption=clamp",
            content=out.getvalue(),
            headers={"content-type": "application/octet-stream"},
        )
        first = self.client.get(f"/api/exports/{self.made('zip')['export']}").content
        begun = self.client.post("/api/jobs/import", content=first)
        self.assertEqual(begun.status_code, 201, begun.text)
        self.job = f"/api/jobs/{begun.json()['job_id']}"
        [photo] = self.client.get(f"{self.job}/photos").json()
        self.assertEqual((photo["board"], photo["way"], photo["caption"]), ("mill", 3, "clamp"))
        self.assertEqual(self.client.get(f"/api/exports/{self.made('zip')['export']}").content, first)


class Backup(ExportCase):
    """The whole database."""

    def test_it_is_fetched_looked_into_and_put_back(self) -> None:
        content = self.client.get("/api/backup").content
        self.assertTrue(content.startswith(b"SQLite format 3"))
        looked = self.client.post("/api/backup/inspect", content=content).json()
        self.assertEqual((looked["jobs"], looked["revisions"]), (1, 2))
        self.client.post("/api/jobs", json={"title": "Since"})
        restored = self.client.post("/api/backup/restore", content=content).json()
        self.assertEqual(restored["content"]["jobs"], 1)
        self.assertEqual(len(self.client.get("/api/jobs").json()), 1)
        kept = connect(Path(restored["kept_before"]), read_only=True)
        self.addCleanup(kept.close)
        self.assertEqual(len(list_jobs(kept)), 2)

    def test_a_save_from_before_a_restore_is_a_conflict_with_what_differs(self) -> None:
        content = self.client.get("/api/backup").content
        document = self.client.get(self.job).json()["job"]
        for base, length in ((2, 17.0), (3, 18.0)):
            document["circuits"][2]["run"][0]["length_m"] = length
            self.client.put(self.job, json={"base": base, "document": document})
        self.client.post("/api/backup/restore", content=content)
        for base in (3, 4):
            answer = self.client.put(self.job, json={"base": base, "document": document})
            self.assertEqual((answer.status_code, answer.json()["yours"]), (409, ["Induction hob: 15.5 → 18 m"]))

    def test_a_wrong_one_changes_nothing(self) -> None:
        for path in ("inspect", "restore"):
            self.refused(self.client.post(f"/api/backup/{path}", content=b"hello"), 422, "not-a-backup")
        self.assertEqual(len(self.client.get("/api/jobs").json()), 1)


if __name__ == "__main__":
    unittest.main()
