"""What can go wrong in the core, as a tree. Each error carries its fields, not only a sentence.

CoreError
├── BadDocument        a job document that cannot be read or contradicts itself
├── BadTable           packaged rule data that breaks its own form
├── UnknownRuleSet     a standard that is not packaged
├── EntryNotUnderstood a typed line that could not be made into a circuit
├── Stopped            no one waits for the work any more
├── OutOfRange         a figure outside what a formula holds for
│   └── NotPossible    something requested that cannot be in this job
└── NeedsInput         a check lacks something; the runner turns it into a finding, never a pass
    └── NotTabulated   a table that ends before the figure requested
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from vivid_lattice.core.messages import Text, message


class MessageError(Exception):
    """An error that says a message; it is rendered where it is shown, in the language of the one who reads it."""

    def __init__(self, text: Text):
        self.text = text
        super().__init__(text)

    def __str__(self) -> str:
        return str(self.text)


class CoreError(Exception):
    """Root of all errors the core raises on purpose."""


@dataclass(frozen=True, slots=True)
class DocumentProblem:
    """One thing wrong with a document: where (a path such as ``circuits[3].run[0].length_m``) and what."""

    path: str
    message: Text

    def line(self) -> str:
        """The problem as one line a person can act on."""
        text = f"{self.path or 'document'}: {self.message}"
        # A document may hold anything, a line break in a field's name too; the line stays one.
        return "".join(sign if sign.isprintable() else sign.encode("unicode_escape").decode() for sign in text)


class BadDocument(CoreError):
    """A job document that cannot be read or contradicts itself."""

    def __init__(self, problems: Sequence[DocumentProblem]):
        self.problems = tuple(problems)
        super().__init__("; ".join(problem.line() for problem in self.problems))


class BadTable(CoreError):
    """Packaged rule data that breaks its own form."""

    def __init__(self, table: str, what: str):
        self.table, self.what = table, what
        super().__init__(f"{table}: {what}")


class UnknownRuleSet(MessageError, CoreError):
    """A standard that is not packaged."""

    def __init__(self, rules: str, known: Sequence[str]):
        self.rules, self.known = rules, tuple(known)
        super().__init__(message(None, "core.error.no_standard", id=rules, list=", ".join(self.known)))


class EntryNotUnderstood(MessageError, CoreError):
    """A typed line that could not be made into a circuit."""

    def __init__(self, text: str, why: Text):
        self.line, self.why = text, why
        super().__init__(why)


class Stopped(MessageError, CoreError):
    """No one waits for the work any more; it ended at a stop point."""

    def __init__(self) -> None:
        super().__init__(message(None, "core.error.stopped"))


class OutOfRange(MessageError, CoreError):
    """A figure outside what a formula holds for."""

    def __init__(self, name: str, value: float, allowed: str):
        self.name, self.value, self.allowed = name, value, allowed
        super().__init__(message(None, "core.error.out_of_range", name=name, value=f"{value:g}", allowed=allowed))


class NotPossible(OutOfRange):
    """Something requested that cannot be in this job, with what can be."""

    def __init__(self, sentence: Text):
        self.sentence = sentence
        MessageError.__init__(self, sentence)


@dataclass(frozen=True, slots=True)
class Need:
    """An input a check lacks: what it is, where it belongs in the document, and who can supply it."""

    what: Text
    path: str
    ask: Text

    @property
    def sentence(self) -> Text:
        """What is missing and how to get it, as sentences that stand alone."""
        return message(None, "core.need.both", what=self.what, ask=self.ask)


class NeedsInput(CoreError):
    """A check lacks an input."""

    def __init__(self, *needs: Need):
        self.needs = needs
        super().__init__(*needs)

    def __str__(self) -> str:
        return " ".join(str(need.sentence) for need in self.needs)


class NotTabulated(NeedsInput):
    """A table ends before the figure requested; nothing is guessed past its edge."""

    def __init__(
        self,
        what: Text,
        path: str = "",
        ask: Text | None = None,
    ):
        super().__init__(Need(what=what, path=path, ask=ask or message(None, "core.error.past_table")))
