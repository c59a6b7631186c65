"""The observations of a job with their codes: those entered, and those that a survey of a board that stays has found."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass

from vivid_lattice.core.document.inspection import InspectionObservation
from vivid_lattice.core.document.job import names_of
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.messages import Text, message
from vivid_lattice.core.rules.testing_rules import CataloguedObservation, ObservationCode, TestingRules, Urgency
from vivid_lattice.core.survey.observations import observation_results
from vivid_lattice.core.testing.judgement import JudgedReading


@dataclass(frozen=True, slots=True, kw_only=True)
class CodedObservation:
    """An observation as the report states it. ``code`` None: it is not coded yet; ``usual``: the code is the catalogue's, not chosen;
    ``surveyed``: it comes from the survey of a board."""

    id: str
    title: Text
    text: Text
    where: Text
    code: ObservationCode | None
    usual: bool
    also: str
    reason: str
    clause: str
    done: str
    at: str | None
    by: str
    surveyed: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class SuggestedObservation:
    """An observation that a failing reading can show, and which is not entered yet. ``subject``: id of the board or circuit; ''
    the installation."""

    reading: str
    name: Text
    test: Text
    shown: str
    subject: str
    kinds: tuple[CataloguedObservation, ...]


#: What a survey notes and no report codes: a way that was not switched off and tested yet is work left to do; a sound rewirable fuse of
#: the right size is no danger.
_NOT_CODED = frozenset({"unproven", "rewirable-fuse"})


def coded_observations(network: Installation) -> tuple[CodedObservation, ...]:
    """Every observation of a job, the most serious first; those without a code before all others."""
    rules = network.rules.testing
    order = [code.code for code in rules.codes]
    found = [*_entered(network, rules), *_surveyed(network, rules)]
    return tuple(sorted(found, key=lambda each: -1 if each.code is None else order.index(each.code.code)))


def by_id(rules: TestingRules) -> Mapping[str, CataloguedObservation]:
    """The catalogue of a standard by id."""
    return {each.id: each for each in rules.observations}


def code_for(rules: TestingRules, urgency: Urgency) -> ObservationCode:
    """The code that a standard has for what is so urgent."""
    return next(code for code in rules.codes if code.urgency == urgency)


def _entered(network: Installation, rules: TestingRules) -> Iterator[CodedObservation]:
    catalogue, codes = by_id(rules), {code.code: code for code in rules.codes}
    names = names_of(network.job)
    for each in network.job.inspection.observations:
        kind = catalogue.get(each.kind)
        chosen = codes.get(each.code)
        usual = codes[kind.code] if kind is not None else None
        yield CodedObservation(
            id=each.id,
            title=kind.title if kind is not None else each.text,
            text=each.text if kind is not None else "",
            where=names.get(each.subject, each.subject),
            code=chosen or usual,
            usual=chosen is None and usual is not None,
            also=kind.also if kind is not None else "",
            reason=kind.reason if kind is not None else "",
            clause=kind.clause if kind is not None else "",
            done=each.done,
            at=each.at,
            by=each.by,
            surveyed=False,
        )


def _surveyed(network: Installation, rules: TestingRules) -> Iterator[CodedObservation]:
    """What was found in boards that are not replaced by others of the job: the new board leaves it behind."""
    for board in network.job.survey.boards:
        if board.replaced_by is not None:
            continue
        for number, result in enumerate(observation_results(network.job, network.rules, board)):
            if result.kind.id in _NOT_CODED:
                continue
            way = network.message("core.inspection.way", board=board.name, way=result.way) if result.way else board.name
            yield CodedObservation(
                id=f"{board.id}-{number}",
                title=result.kind.title,
                text=result.text,
                where=way,
                code=code_for(rules, result.kind.urgency),
                usual=True,
                also="",
                reason=result.kind.reason,
                clause=result.source.publication
                if result.source is not None and result.source.provenance == "memory"
                else "",
                done="",
                at=None,
                by="",
                surveyed=True,
            )


def suggested(network: Installation, readings: tuple[JudgedReading, ...]) -> tuple[SuggestedObservation, ...]:
    """What failing readings can show and is not entered yet: of each such reading the observations of the catalogue, the likeliest first."""
    rules = network.rules.testing
    entered = network.job.inspection.observations
    catalogue = by_id(rules)
    found = []
    for reading in readings:
        if reading.verdict != "fail":
            continue
        kinds = _shown_by(network, reading.kind)
        subject = _owner(network, reading)
        covered = any(_covers(each, catalogue, subject, reading) for each in entered)
        if not covered:
            found.append(
                SuggestedObservation(
                    reading=reading.reading,
                    name=reading.name,
                    test=reading.title,
                    shown=reading.shown,
                    subject=subject,
                    kinds=kinds,
                )
            )
    return tuple(found)


def _shown_by(network: Installation, kind: str) -> tuple[CataloguedObservation, ...]:
    """What a kind of reading can show under the earthing system of the job, what it is most typical of first."""
    system = network.job.supply.system
    found = [
        each for each in network.rules.testing.observations if kind in each.readings and each.system in ("", system)
    ]
    return tuple(sorted(found, key=lambda each: each.readings.index(kind)))


def _owner(network: Installation, reading: JudgedReading) -> str:
    """The board or circuit that a reading belongs to; '' the installation."""
    identity = reading.subject.id.split("/")[0]
    return identity if identity in names_of(network.job) and reading.subject.kind != "supply" else ""


def _covers(
    each: InspectionObservation, catalogue: Mapping[str, CataloguedObservation], subject: str, reading: JudgedReading
) -> bool:
    """Whether an observation that was entered is of a reading: of the same part, and of a kind that it can show, or in own words."""
    if each.subject != subject:
        return False
    kind = catalogue.get(each.kind)
    return kind is None or reading.kind in kind.readings


def outcome_text(network: Installation, satisfactory: bool | None) -> Text:
    """The overall result in the words of the catalogue of messages."""
    word = {True: "satisfactory", False: "unsatisfactory", None: "open"}[satisfactory]
    return message(network.rules.words, f"core.inspection.{word}")
