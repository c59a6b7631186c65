"""The demo jobs over HTTP."""

from __future__ import annotations

from fastapi import APIRouter
from pydantic import BaseModel

from vivid_lattice.core.rules import rule_set
from vivid_lattice.demo import DEMOS, demo_job

router = APIRouter(prefix="/api/demos", tags=["jobs"])


class DemoLine(BaseModel):
    """A demo job there is."""

    name: str
    title: str
    site: str
    rules: str
    circuits: int


@router.get("")
def list_demos() -> list[DemoLine]:
    """The demo jobs, all invented."""
    return [
        DemoLine(
            name=name,
            title=job.job.title,
            site=job.job.site,
            rules=rule_set(job.job.rules).title,
            circuits=len(job.circuits),
        )
        for name, job in ((name, demo_job(name)) for name in DEMOS)
    ]
