"""A job with its photos there and back: identical, in every standard, whatever the board."""

from __future__ import annotations

import io
import tempfile
import unittest
from contextlib import closing
from pathlib import Path

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from PIL import Image

from tests.core.board.made import boards
from tests.reports.reading import report_data
from vivid_lattice.core.bundle import Bundle, BundledPhoto, BundledTick, BundledTrip, as_zip
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.job_file import read_document, to_text
from vivid_lattice.demo import DEMOS, demo_job
from vivid_lattice.imports.job_bundle import read_bundle
from vivid_lattice.photos import encoded_photo
from vivid_lattice.reports.catalogue import export
from vivid_lattice.store.database import connect, prepare
from vivid_lattice.store.job_bundle import bundle_of, create_from
from vivid_lattice.store.jobs import create_job
from vivid_lattice.store.photos import NewPhoto, add_photo, delete_photo
from vivid_lattice.store.trips import add_trip, delete_trip
from vivid_lattice.store.wiring_progress import WiringTick, set_tick


def jpeg(shade: int, **more: object) -> bytes:
    out = io.BytesIO()
    Image.new("RGB", (64, 48), (shade, 90, 60)).save(out, "JPEG", **more)
    return out.getvalue()


def pictured(shade: int, board: str = "main", way: int | None = None, caption: str = "") -> BundledPhoto:
    kept = encoded_photo(jpeg(shade))
    return BundledPhoto(
        board=board,
        way=way,
        caption=caption,
        at=f"2026-01-0{1 + shade % 9}T10:00:00.000+00:00",
        width=kept.width,
        height=kept.height,
        image=kept.image,
        small=kept.small,
    )


_words = st.text(st.characters(blacklist_categories=["Cs"]), max_size=30)


class RoundTrip(unittest.TestCase):
    """Out and in."""

    @settings(max_examples=25, deadline=None, suppress_health_check=list(HealthCheck))
    @given(
        boards(most=24),
        st.lists(st.tuples(st.integers(0, 255), st.none() | st.integers(1, 200), _words), max_size=3),
        _words,
    )
    def test_whatever_the_job_it_comes_back_identical(
        self, job: Job, photos: list[tuple[int, int | None, str]], note: str
    ) -> None:
        bundle = Bundle(
            job,
            tuple(pictured(shade, way=way, caption=words) for shade, way, words in photos),
            (BundledTrip("2026-01-30T18:40", "c1", ("c1", "c2"), note),),
            (BundledTick("main", "a>b", "25 mm²"),),
        )
        raw = as_zip(bundle)
        self.assertEqual(read_bundle(raw), bundle)
        self.assertEqual(as_zip(read_bundle(raw)), raw)
        self.assertEqual(read_document(to_text(job)), job)

    def test_every_demo_as_a_document_and_as_a_bundle(self) -> None:
        for name in DEMOS:
            held = report_data(name)
            self.assertEqual(read_document(export(held, "json").content), held.job)
            self.assertEqual(read_bundle(export(held, "zip").content).job, held.job)

    def test_a_photo_from_elsewhere_loses_what_it_should_not_carry(self) -> None:
        exif = Image.Exif()
        exif[0x010F] = "Maker of cameras"
        for hidden in (jpeg(9, exif=exif), jpeg(9, comment=b"written behind it"), jpeg(9) + b"and more behind its end"):
            given_ = BundledPhoto(
                board="main", way=None, caption="", at="2026-01-01", width=64, height=48, image=hidden, small=jpeg(9)
            )
            [read] = read_bundle(as_zip(Bundle(demo_job("millrace"), (given_,)))).photos
            self.assertNotEqual(read.image, hidden)
            for secret in (b"Maker", b"written behind", b"and more"):
                self.assertNotIn(secret, read.image)


class InTheDatabase(unittest.TestCase):
    """Out of one database and into another."""

    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.conns = []
        for name in ("one", "other"):
            path = Path(folder.name) / f"{name}.sqlite3"
            prepare(path)
            conn = connect(path)
            self.addCleanup(conn.close)
            self.conns.append(conn)

    def test_document_photos_log_and_ticks_arrive_and_nothing_that_was_thrown_away(self) -> None:
        one, other = self.conns
        job_id = create_job(one, demo_job("bakehouse"), "begun", "x").job_id
        board = demo_job("bakehouse").survey.boards[0].id
        for shade, way in ((10, 3), (20, None), (30, 3)):
            kept = encoded_photo(jpeg(shade))
            made = add_photo(
                one,
                job_id,
                NewPhoto(
                    board=board,
                    way=way,
                    caption=f"shade {shade}",
                    width=kept.width,
                    height=kept.height,
                    image=kept.image,
                    small=kept.small,
                ),
            )
            if shade == 30:
                delete_photo(one, job_id, made.id)
        add_trip(one, job_id, "2026-01-01T10:00", "c1", ["c1"], "kettle")
        struck = add_trip(one, job_id, "2026-01-02T10:00", "c1", [], "wrong")
        delete_trip(one, job_id, struck.id)
        set_tick(one, job_id, WiringTick("main", "a>b", "x"), True)
        set_tick(one, job_id, WiringTick("main", "b>c", "x"), True)
        set_tick(one, job_id, WiringTick("main", "b>c", "x"), False)
        _, bundle = bundle_of(one, job_id)
        self.assertEqual((len(bundle.photos), len(bundle.trips), len(bundle.ticks)), (2, 1, 1))
        made_there = create_from(other, read_bundle(as_zip(bundle)), "read", "x")
        _, again = bundle_of(other, made_there.job_id)
        self.assertEqual(again, bundle)
        self.assertEqual(as_zip(again), as_zip(bundle))

    def test_a_job_that_cannot_be_put_in_whole_is_not_put_in_at_all(self) -> None:
        _, other = self.conns
        broken = Bundle(
            demo_job("millrace"),
            (BundledPhoto(board="main", way=None, caption="", at="x", width=0, height=0, image=b"", small=b""),),
        )
        with self.assertRaises(Exception):  # noqa: B017 - whatever the database says of a picture without a size
            create_from(other, broken, "read", "x")
        with closing(other.execute("select count(*) from job")) as found:
            self.assertEqual(found.fetchone()[0], 0)


if __name__ == "__main__":
    unittest.main()
