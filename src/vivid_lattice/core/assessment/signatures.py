"""The signatures of a job, and whether it is still as it was signed."""

from __future__ import annotations

import hashlib
from dataclasses import dataclass

from vivid_lattice.core.document.inspection import Signature
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.job_file import to_text


@dataclass(frozen=True, slots=True, kw_only=True)
class SignedState:
    """A signature, and whether the job is still as it was signed."""

    signature: Signature
    unchanged: bool


def digest_of(job: Job) -> str:
    """SHA-256 of a job without its signatures, in hexadecimal."""
    bare = job.model_copy(update={"inspection": job.inspection.model_copy(update={"signatures": ()})})
    return hashlib.sha256(to_text(bare).encode()).hexdigest()


def signed_states(job: Job) -> tuple[SignedState, ...]:
    """The signatures of a job, each with whether the job is as it was then."""
    if not job.inspection.signatures:
        return ()
    digest = digest_of(job)
    return tuple(SignedState(signature=each, unchanged=each.digest == digest) for each in job.inspection.signatures)


def is_closed(job: Job) -> bool:
    """Whether a job is signed as inspected and tested, and has not changed since."""
    return any(state.unchanged and state.signature.role == "inspection" for state in signed_states(job))
