"""The same job in other ways, priced side by side: RCBOs or shared RCDs, with surge protection or without."""

from __future__ import annotations

from vivid_lattice.core.assessment.assess import assess
from vivid_lattice.core.design.board_changes import usual_spd
from vivid_lattice.core.design.rcd_plans.plan import plan
from vivid_lattice.core.document.job import Job, with_parts
from vivid_lattice.core.document.quote import QuotedOption, QuoteOption
from vivid_lattice.core.errors import NeedsInput, NotPossible
from vivid_lattice.core.messages import Message, Text, Vocabulary, message
from vivid_lattice.core.quote.quote import quote_of
from vivid_lattice.core.rules import rule_set


def option_title(option: QuoteOption, words: Vocabulary) -> Message:
    """What an option is called."""
    return message(words, f"core.quote.option.{option}")


def priced_options(job: Job) -> tuple[QuotedOption, ...]:
    """The options that the terms of a job name, each priced."""
    return tuple(_priced(job, option) for option in dict.fromkeys(job.quote.options))


def _priced(job: Job, option: QuoteOption) -> QuotedOption:
    made = option_job(job, option)
    if not isinstance(made, Job):
        return QuotedOption(option=option, not_possible=str(made)[:400])
    quote = quote_of(made)
    if quote.sums is None:
        return QuotedOption(option=option, not_possible=str(quote.lacks[0]))
    sums = quote.sums
    return QuotedOption(option=option, net_coins=sums.net, tax_coins=sums.tax, gross_coins=sums.gross)


def option_job(job: Job, option: QuoteOption) -> Job | Text:
    """The job as an option has it; or why there is none. An option that fails a check that the job passes is none."""
    try:
        made = _made(job, option)
    except (NotPossible, NeedsInput) as lack:
        return str(lack)
    if made is None:
        return message(rule_set(job.job.rules).words, f"core.quote.not_possible.{option}")
    if not isinstance(made, Job):
        return made
    before, after = _failing(job), _failing(made)
    worse = [sentence for key, sentence in after.items() if key not in before]
    return message(None, "core.quote.not_possible.fails", finding=worse[0]) if worse else made


def _failing(job: Job) -> dict[tuple[str, str], Text]:
    found = (each for each in assess(job).findings if each.verdict == "fail")
    return {(each.subject.id, each.check): each.sentence for each in found}


def _made(job: Job, option: QuoteOption) -> Job | Text | None:
    if option == "designed":
        return job
    if option == "without-spd":
        return with_parts(job, (), tuple(board.model_copy(update={"spds": ()}) for board in job.boards))
    if option == "with-spd":
        return _with_spd(job)
    return _with_rcds(job, "own" if option == "rcbo" else "two")


def _with_spd(job: Job) -> Job | None:
    if any(board.spds for board in job.boards):
        return job
    change = next(usual_spd(job, rule_set(job.job.rules)), None)
    return None if change is None else with_parts(job, (), change.boards)


def _with_rcds(job: Job, architecture: str) -> Job | Text:
    """Every board that feeds circuits by the same architecture."""
    made = job
    for board in job.boards:
        ways = {way.circuit for way in board.ways}
        if not any(circuit.id in ways and circuit.kind != "distribution" for circuit in job.circuits):
            continue
        planned = plan(made, board.id, architecture, seconds=1.5)  # type: ignore[arg-type]
        if planned.job is None:
            return planned.not_possible
        made = planned.job
    return made
