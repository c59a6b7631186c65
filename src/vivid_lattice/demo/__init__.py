"""Demo jobs: invented, packaged as documents, named here in the order they are shown."""

from __future__ import annotations

from importlib.resources import files

from vivid_lattice.core.document.job import Job
from vivid_lattice.core.job_file import read_document

DEMOS: tuple[str, ...] = (
    "millrace",
    "lamp-cottage",
    "ferry-landing",
    "lock-lodge",
    "bakehouse",
    "wool-loft",
    "press-house",
    "organ-loft",
    "honey-house",
    "keepers-house",
    "weir-cottage",
)


def demo_text(name: str) -> str:
    """The document of a demo job, as text. KeyError if there is none of that name."""
    if name not in DEMOS:
        raise KeyError(name)
    return (files("vivid_lattice.demo") / f"{name}.json").read_text("utf-8")


def demo_job(name: str) -> Job:
    """A demo job. KeyError if there is none of that name."""
    return read_document(demo_text(name))
