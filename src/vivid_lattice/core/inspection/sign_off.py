"""Signing a job off: it can be closed when every test is done or it is recorded why one was left out, and nothing contradicts the signature."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Literal

from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.assessment.signatures import SignedState, digest_of, signed_states
from vivid_lattice.core.document.inspection import Signature, SignedFor
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.errors import NotPossible
from vivid_lattice.core.inspection.observations import coded_observations, suggested
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.job_file import checked
from vivid_lattice.core.messages import Joined, Text, message
from vivid_lattice.core.rules import rule_set
from vivid_lattice.core.testing.judgement import JudgedReading, judged
from vivid_lattice.core.testing.test_plan import TestPlan, plan_of

#: How many of the tests that are open are named.
_NAMED = 3
#: Why a job cannot be closed yet.
OpenKind = Literal["test", "reason", "failing", "unclear", "code", "check", "input", "assumed", "extent"]


@dataclass(frozen=True, slots=True)
class OpenItem:
    """Something to settle before a job is closed."""

    kind: OpenKind
    text: Text


def open_items(network: Installation, plan: TestPlan, readings: Sequence[JudgedReading]) -> tuple[OpenItem, ...]:
    """Everything that is left to settle before a job is closed, in the order of the work."""
    inspection = network.job.work_details.kind == "inspection"
    items = [*_tests(network, plan, readings), *_failing(network, readings, inspection), *_codes(network)]
    if inspection:
        items += _extent(network)
    else:
        items += _design(network)
    return tuple(items)


def _tests(network: Installation, plan: TestPlan, readings: Sequence[JudgedReading]) -> Iterator[OpenItem]:
    done = {reading.test for reading in readings}
    reasons = {reading.id: reading.reason for reading in network.job.testing.readings}
    open_tests = [test for test in plan.tests if not test.optional and test.id not in done]
    if open_tests:
        words, named = network.rules.words, open_tests[:_NAMED]
        titles = Joined.of(message(words, "core.inspection.test", name=test.name, test=test.title) for test in named)
        more = len(open_tests) - len(named)
        yield OpenItem("test", message(words, "core.inspection.tests", n=len(open_tests), list=titles, more=more))
    for reading in readings:
        if reading.shown == "–" and not reasons[reading.reading]:
            yield OpenItem(
                "reason", message(network.rules.words, "core.inspection.reason", name=reading.name, test=reading.title)
            )


def _failing(network: Installation, readings: Sequence[JudgedReading], inspection: bool) -> Iterator[OpenItem]:
    """A reading that fails: of new work never signed; of an inspection when no observation tells of it."""
    words = network.rules.words
    told = {each.reading for each in suggested(network, tuple(readings))} if inspection else None
    for reading in readings:
        if reading.verdict == "fail" and (told is None or reading.reading in told):
            word = "unobserved" if inspection else "failing"
            yield OpenItem(
                "failing",
                message(words, f"core.inspection.{word}", name=reading.name, test=reading.title, shown=reading.shown),
            )
        elif reading.verdict == "missing" and reading.shown != "–":
            yield OpenItem("unclear", message(words, "core.inspection.unclear", name=reading.name, test=reading.title))


def _codes(network: Installation) -> Iterator[OpenItem]:
    for each in coded_observations(network):
        if each.code is None:
            yield OpenItem("code", message(network.rules.words, "core.inspection.code", title=each.title))


def _extent(network: Installation) -> Iterator[OpenItem]:
    if not network.job.inspection.extent.strip():
        yield OpenItem("extent", message(network.rules.words, "core.inspection.extent"))


def _design(network: Installation) -> Iterator[OpenItem]:
    """New work is signed as calculated: nothing of it fails, needs input or is assumed."""
    assessment = assess(network.job, explain=False)
    for cause in assessment.causes:
        if cause.verdict == "fail":
            yield OpenItem("check", cause.sentence)
        elif cause.verdict == "missing":
            yield OpenItem("input", cause.sentence)
    if assessment.to_confirm:
        yield OpenItem("assumed", message(network.rules.words, "core.inspection.assumed", n=assessment.to_confirm))


@dataclass(frozen=True, slots=True, kw_only=True)
class Declaration:
    """What is declared for a job: whether it can be signed now, and how it was signed; None: it was not."""

    role: SignedFor
    ready: bool
    signed: SignedState | None


def declarations_of(job: Job, items: Sequence[OpenItem]) -> tuple[Declaration, ...]:
    """The declarations of a job, in the order of the work. ``items``: what is open.

    An existing installation is not designed or built by the one who inspects it: common practice, no source.
    """
    signed = {state.signature.role: state for state in signed_states(job)}
    roles: tuple[SignedFor, ...] = ("design", "construction", "inspection")
    shown = ("inspection",) if job.work_details.kind == "inspection" else roles
    return tuple(
        Declaration(role=role, ready=role != "inspection" or not items, signed=signed.get(role)) for role in shown
    )


def sign(job: Job, role: SignedFor, by: str, at: str, position: str = "") -> Job:
    """The job with a signature, in the place of an earlier one of the same role.

    by, position  the name, and what its bearer is
    at            by the clock on the wall
    Raises        NotPossible with what is open, where it is signed as inspected and tested while something is
    """
    if role == "inspection":
        network = Installation.of(job, rule_set(job.job.rules))
        items = open_items(network, plan_of(network), judged(network))
        if items:
            first = items[0].text
            raise NotPossible(message(None, "core.inspection.not_yet", first=first, n=len(items) - 1))
    made = Signature(role=role, by=by, position=position, at=at, digest=digest_of(job))
    others = tuple(each for each in job.inspection.signatures if each.role != role)
    inspection = job.inspection.model_copy(update={"signatures": (*others, made)})
    return checked(job.model_copy(update={"inspection": inspection}))
