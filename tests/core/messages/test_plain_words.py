"""Words that no electrician says: none of them in what people read. Code spans and quotations are exempt."""

from __future__ import annotations

import argparse
import ast
import json
import re
import tomllib
import unittest
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from vivid_lattice.cli.main import parser
from vivid_lattice.core.messages.catalogue import BASE, templates

ROOT = Path(__file__).parents[3]
#: What is not said, with the uses of the same letters that are meant: (forbidden, allowed or '').
FORBIDDEN: tuple[tuple[str, str], ...] = (
    (r"\bschools?\b", ""),
    (r"\bdiscriminat\w*", r"\(discrimination\)|discrimination\)"),
    (r"\bin hand\b|\bmore room\b|\bgives? (it )?(way|room)\b", ""),
    (r"\bmend(s|ed|ing)?\b", ""),
    (r"\breckon\w*|\b(the|a|every|by) sums?\b", ""),
    (r"\bclamps?\b|\bscrews?\b", r"clamp meter|bonding clamp|leakage clamp"),
    (r"\b(teeth|tooth)\b|\bcombs?\b", r"comb busbar|Comb busbar|COMBS"),
    (r"\bdark(en\w*|ness)?\b", r"[Dd]ark theme|red or dark|Red or dark|dark colours|light and dark|dark blue"),
    (r"\b(hang|hangs|stands|sits)\b|\bstood\b", ""),
    (
        r"\bopens\b|\bopened\b|\b(may|can|will|would) open\b",
        r"opens? (in|a|an|the|it|this|with)\b|opened in\b|was opened|is opened",
    ),
    (r"\b(asks|asked|asking) for\b", ""),
    (r"\bat the (most|least)\b|\bare the (most|least)\b", ""),
    (r"\b(nobody|somebody|anybody|whoever)\b", ""),
    (r"\bput away\b|\bput .* in the place of\b", ""),
    (r"\btak(e|es|en|ing) (in|out|over)\b", ""),
    (r"\bstrike\b|\bstruck\b", ""),
    (r"\bhabits?\b|\bwish(es)?\b", ""),
    (r"\bfar (end|point)\b", ""),
    (r"\bpeace\b|\bcry wolf\b", ""),
    (r"\b(anew|alike|meanwhile|thereof|besides)\b", ""),
    (r"\bmakers?\b", ""),
    (r"\b(surely|for sure|perhaps)\b", ""),
    (r"\bcannot be worked out\b|\bha(s|ve) to be\b", ""),
    (r"\bintake\b|\btakein\b", ""),
    (r"\bworth a thought\b|\bnot here\b|\bdrop it\b", ""),
    (r"\bPEN guard\b", ""),
    (r"\bnot quite sure\b|\bfrom memory, not\b", ""),
    (r"\bless deep\b|\blet it stand\b|\bas it lies\b", ""),
)
#: What is not said in the catalogues and the help either; books and rules may: (forbidden, allowed or '').
FORBIDDEN_ON_SCREEN: tuple[tuple[str, str], ...] = (
    (r"\bfigures?\b|\bthings?\b|\bpapers?\b|\bvariants?\b", ""),
    (r"\bahead\b|\bnearer the\b", r"ahead of (the|another)"),
    (r"\banswers?\b|\bfindings?\b", ""),
    (r"\brenew\w*|\bprov(en|ed)\b|\bturned\b|\bguard(s|ed)?\b", ""),
    (r"\b(loses|leaks|draws)\b", r"loses\} other|loses supply|“draws"),
    (r"^in order\b|\bin order, |\bover the limit\b|\blacking\b", ""),
    (r"\bkept\b|\bheld\b|\bholds?\b", r"the device holds|holds (during|up to)"),
    (r"\blift(s|ed)?\b|\bmean\b", ""),
    (r"\basks? for\b|\bdemand(s|ed)\b", ""),
    (r"\btak(e|es|en|ing) (it|this|nothing|back)\b", ""),
    (r"(?<!there )\bis no (?!longer)|\bcannot be[.;:]", ""),
    (r"\bwrit(e|ten) (it )?down\b", r"written down from memory"),
)
#: A sentence does not begin with a name that somebody typed.
NAME_FIRST = re.compile(r"^\{(circuit|board|room|load|spd|gear|name)\} (?!in |of |at |and |\()[a-z]")
#: Fields of the packaged rules that people read.
READ_FIELDS = frozenset(
    {"title", "text", "words", "why", "act", "reason", "notes"}
    | {"before", "prepare", "how", "restore", "caution", "seen", "repair", "separate"}
)
_CODE = re.compile(r"```.*?```|`[^`\n]*`|\]\([^)]*\)|<!--.*?-->", re.S)


def found(text: str, forbidden: tuple[tuple[str, str], ...] = FORBIDDEN) -> list[str]:
    """What of a text is forbidden."""
    wrong = []
    for pattern, allowed in forbidden:
        rest = re.sub(allowed, "", text) if allowed else text
        wrong += [match.group(0) for match in re.finditer(pattern, rest, re.IGNORECASE)]
    return wrong


def _without_arguments(template: str) -> str:
    """A template without the names of its arguments."""
    return re.sub(r"\{\w+(, (plural|select),)?", "{", template)


def _strings(value: Any, read: bool = False) -> Iterator[str]:
    if isinstance(value, str):
        if read:
            yield value
    elif isinstance(value, dict):
        for key, inner in value.items():
            yield from _strings(inner, key in READ_FIELDS)
    elif isinstance(value, list):
        for inner in value:
            yield from _strings(inner, read)


def _help_of(command: argparse.ArgumentParser) -> Iterator[str]:
    for action in command._actions:
        if action.help:
            yield action.help
        if isinstance(action, argparse._SubParsersAction):
            yield from (choice.help for choice in action._choices_actions if choice.help)
            for inner in action.choices.values():
                yield from _help_of(inner)


def _literals(path: Path) -> Iterator[tuple[int, str]]:
    """Texts of a module by line, docstrings too, without what is written as code in them; of a formatted one what is fixed."""
    for node in ast.walk(ast.parse(path.read_text("utf-8"))):
        if isinstance(node, ast.Constant) and isinstance(node.value, str) and " " in node.value.strip():
            yield node.lineno, _CODE.sub("", node.value.replace("``", "`"))


class Words(unittest.TestCase):
    """Every text that people read."""

    def none_in(self, texts: Iterator[tuple[str, str]], *, screen: bool = False, least: int = 4) -> None:
        forbidden = (*FORBIDDEN, *FORBIDDEN_ON_SCREEN) if screen else FORBIDDEN
        wrong, count = [], 0
        for where, text in texts:
            count += 1
            wrong += [f"{where}: “{word}” in: {text[:120]}" for word in found(text, forbidden)]
        self.assertGreaterEqual(count, least)
        self.assertEqual(wrong, [], "\n".join(wrong))

    def test_the_catalogue_of_the_core(self) -> None:
        self.none_in(((id_, _without_arguments(text)) for id_, text in templates(BASE).items()), screen=True)
        self.none_in(((id_, _without_arguments(text)) for id_, text in templates("en-US").items()), screen=True)

    def test_the_catalogue_of_the_views(self) -> None:
        texts: dict[str, str] = json.loads((ROOT / "web/src/messages/texts/en/web.json").read_text("utf-8"))
        self.none_in(((id_, _without_arguments(text)) for id_, text in texts.items()), screen=True)

    def test_the_help_of_the_commands(self) -> None:
        self.none_in((("help", text) for text in _help_of(parser())), screen=True)

    def test_the_readme_and_the_guide(self) -> None:
        for name in ("README.md", "docs/guide.md"):
            text = _CODE.sub("", (ROOT / name).read_text("utf-8"))
            self.none_in((name, line) for line in text.splitlines() if not line.startswith(">"))

    def test_the_other_documents(self) -> None:
        for path in sorted((ROOT / "docs").rglob("*.md")):
            text = _CODE.sub("", path.read_text("utf-8"))
            lines = ((path.name, line) for line in text.splitlines() if not line.startswith(">"))
            self.none_in(lines, least=1)

    def test_the_texts_and_docstrings_of_the_code(self) -> None:
        """Field descriptions, sheets, replies of commands, docstrings: every literal of two words or more."""
        self.none_in(
            (f"{path.relative_to(ROOT)}:{line}", text)
            for path in sorted((ROOT / "src/vivid_lattice").rglob("*.py"))
            for line, text in _literals(path)
        )

    def test_the_packaged_rules(self) -> None:
        files = (ROOT / "src/vivid_lattice/core/rules/data").rglob("*.toml")
        self.none_in((path.name, text) for path in files for text in _strings(tomllib.loads(path.read_text("utf-8"))))

    def test_no_sentence_begins_with_a_typed_name(self) -> None:
        self.assertEqual([id_ for id_, text in templates(BASE).items() if NAME_FIRST.match(text)], [])


if __name__ == "__main__":
    unittest.main()
