"""Answers that come line by line: refused before the first, ended where nobody listens, told where it breaks off."""

from __future__ import annotations

import asyncio
import threading
import unittest

from fastapi import Request
from pydantic import BaseModel

from vivid_lattice.api.streaming import Cancelled, Put, in_lines


class Line(BaseModel):
    """A line."""

    number: int


def client(*, gone: bool = False) -> Request:
    """A request whose client waits, or has hung up."""

    async def receive() -> dict[str, str]:
        if not gone:
            await asyncio.Event().wait()
        return {"type": "http.disconnect"}

    return Request({"type": "http"}, receive)


class Lines(unittest.TestCase):
    """Of a piece of work in a thread of its own."""

    def test_lines_come_in_order_and_end(self) -> None:
        async def run() -> list[str]:
            def work(put: Put, _cancelled: Cancelled) -> None:
                for number in range(3):
                    put(Line(number=number))

            answer = await in_lines(client(), work)
            return [str(line) async for line in answer.body_iterator]

        self.assertEqual(asyncio.run(run()), [f'{{"number":{number}}}\n' for number in range(3)])

    def test_what_is_refused_before_the_first_line_is_raised(self) -> None:
        def work(_put: Put, _cancelled: Cancelled) -> None:
            raise ValueError("no")

        with self.assertRaisesRegex(ValueError, "no"):
            asyncio.run(in_lines(client(), work))

    def test_what_breaks_off_later_breaks_the_answer_off(self) -> None:
        async def run() -> None:
            def work(put: Put, _cancelled: Cancelled) -> None:
                put(Line(number=1))
                raise ValueError("later")

            async for _ in (await in_lines(client(), work)).body_iterator:
                pass

        with self.assertRaisesRegex(ValueError, "later"):
            asyncio.run(run())

    def test_hanging_up_ends_the_work(self) -> None:
        ended = threading.Event()

        async def run() -> None:
            def work(put: Put, cancelled: Cancelled) -> None:
                put(Line(number=1))
                while not cancelled():
                    pass
                ended.set()

            body = (await in_lines(client(), work)).body_iterator
            await anext(body)  # type: ignore[arg-type]
            await body.aclose()  # type: ignore[union-attr]
            await asyncio.to_thread(ended.wait, 5)

        asyncio.run(run())
        self.assertTrue(ended.is_set())

    def test_hanging_up_before_the_first_line_ends_it_too(self) -> None:
        ended = threading.Event()

        def work(_put: Put, cancelled: Cancelled) -> None:
            while not cancelled():
                pass
            ended.set()

        async def run() -> None:
            self.assertEqual([line async for line in (await in_lines(client(gone=True), work)).body_iterator], [])

        asyncio.run(run())
        self.assertTrue(ended.is_set())


if __name__ == "__main__":
    unittest.main()
