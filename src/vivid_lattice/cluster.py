"""The batch on a running dask cluster: documents travel as text, and every one is answered once whatever becomes of a worker.

Needs the optional extra ``cluster`` here and this package on the workers. The scheduler knows which chunks a lost worker
held and hands them to another; a chunk is kept when its answer is here, and never requested again.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from pathlib import Path
from typing import Any
from uuid import uuid4

from vivid_lattice.batch import BatchLine, check_text

#: Documents handed over at a time, and chunks under way for each thread of the cluster: enough that none waits for us, few
#: enough that a hundred thousand documents are never all in memory.
_CHUNK, _AHEAD = 16, 4
_ANSWERS_WITHIN_S = 5.0


class ClusterProblem(Exception):
    """The cluster cannot be used, and what to do about it, in one line."""


def check_on_cluster(
    paths: Sequence[Path],
    address: str,
    progress: Callable[[int, int], None] | None = None,
    *,
    chunk: int = _CHUNK,
) -> list[BatchLine]:
    """Every document assessed once on the cluster behind a scheduler's address, in the order given.

    address   as ``tcp://10.0.0.5:8786``
    progress  called with how many are done, and how many there are
    Raises    ClusterProblem where the extra is not installed, the scheduler does not answer, or the workers lack this package
    """
    try:
        from distributed import Client, as_completed
    except ImportError:
        raise ClusterProblem("a scheduler needs the extra 'cluster': pip install 'vivid-lattice[cluster]'") from None
    chunks = [paths[at : at + chunk] for at in range(0, len(paths), chunk)]
    done: dict[int, list[BatchLine]] = {}
    finished = 0
    try:
        client = Client(address, timeout=_ANSWERS_WITHIN_S, set_as_default=False)
    except (OSError, TimeoutError, ValueError) as why:
        raise ClusterProblem(f"no scheduler answers at {address}: {why}") from None
    with client:
        waiting = iter(enumerate(chunks))
        batch = uuid4().hex
        threads = sum(client.nthreads().values()) or 1
        under_way: dict[Any, int] = {}
        completed = as_completed(loop=client.loop)
        for number, group in _next(waiting, threads * _AHEAD):
            future = _submit(client, batch, number, group)
            under_way[future] = number
            completed.add(future)
        for future in completed:
            number = under_way.pop(future)
            lines = _answer(future)
            if number not in done:
                done[number] = lines
                finished += len(lines)
                if progress is not None:
                    progress(finished, len(paths))
            future.release()
            for following, group in _next(waiting, 1):
                fresh = _submit(client, batch, following, group)
                under_way[fresh] = following
                completed.add(fresh)
    return [line for number in range(len(chunks)) for line in done[number]]


def _next(waiting: Iterator[tuple[int, Sequence[Path]]], count: int) -> Iterator[tuple[int, Sequence[Path]]]:
    for _ in range(count):
        batch = next(waiting, None)
        if batch is None:
            return
        yield batch


def _submit(client: Any, batch: str, number: int, paths: Sequence[Path]) -> Any:
    return client.submit(check_texts, [_read(path) for path in paths], key=f"check-{batch}-{number}", pure=False)


def _read(path: Path) -> tuple[str, bytes | str]:
    """A document's name and text, or why it cannot be read."""
    try:
        return str(path), path.read_bytes()
    except OSError as why:
        return str(path), str(why)


def check_texts(documents: Sequence[tuple[str, bytes | str]]) -> list[BatchLine]:
    """What a worker does: each document assessed, each that could not be read answered with the reason."""
    return [
        BatchLine(file=name, problem=raw) if isinstance(raw, str) else check_text(name, raw) for name, raw in documents
    ]


def _answer(future: Any) -> list[BatchLine]:
    try:
        lines: list[BatchLine] = future.result()
    except ModuleNotFoundError as why:
        raise ClusterProblem(f"the workers lack what the batch needs ({why}); install vivid-lattice on them") from None
    return lines
