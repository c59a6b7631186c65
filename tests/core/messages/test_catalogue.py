"""The catalogue: every message has an entry and is rendered, every entry is used, parameters match, hostile names stay as typed."""

from __future__ import annotations

import ast
import json
import re
import unittest
from functools import lru_cache
from importlib.resources import files
from pathlib import Path

import vivid_lattice
from vivid_lattice.core.messages import Joined, message, speaking
from vivid_lattice.core.messages.catalogue import BASE, languages, rendered, templates
from vivid_lattice.core.messages.icu import arguments
from vivid_lattice.core.rules import rule_set, standard_ids
from vivid_lattice.core.text import Shown

SOURCE = Path(vivid_lattice.__file__).parent
#: Ids by the part before the first dot: what else has dots in code is a field of a document or a table.
_ID = re.compile(r"^(core|documents|cli|store|import|photo|api)\.[\w.-]+$")
_BEGINNING = re.compile(r"^(core|documents|cli|store|import|photo|api)\.")
HOSTILE = (
    "{t_board} {0}",
    "it's 'quoted' \"twice\"",
    "\u202eevil\u202c",
    "x" * 400,
    "<b>&amp;",
    "# of {n, plural,",
    "",
)


class _Ids(ast.NodeVisitor):
    """Ids that a module names: plain ones, and patterns of those that are put together in an f-string."""

    def __init__(self) -> None:
        self.plain: list[str] = []
        self.patterns: list[str] = []

    def visit_Constant(self, node: ast.Constant) -> None:
        if isinstance(node.value, str) and _ID.match(node.value):
            self.plain.append(node.value)

    def visit_JoinedStr(self, node: ast.JoinedStr) -> None:
        first = node.values[0]
        if isinstance(first, ast.Constant) and _BEGINNING.match(str(first.value)):
            self.patterns.append("".join(map(self._part, node.values)))
        else:
            self.generic_visit(node)

    @staticmethod
    def _part(part: ast.expr) -> str:
        """A part of an f-string as a pattern: what is chosen of two texts is one of them, any other word is any one."""
        if isinstance(part, ast.Constant):
            return re.escape(str(part.value))
        choice = part.value if isinstance(part, ast.FormattedValue) else None
        if isinstance(choice, ast.IfExp) and isinstance(choice.body, ast.Constant):
            ends = [end.value for end in (choice.body, choice.orelse) if isinstance(end, ast.Constant)]
            return f"({'|'.join(re.escape(str(end)) for end in ends)})"
        return r"[\w-]+"


def _called(node: ast.AST) -> tuple[str, set[str]] | None:
    """The id and the parameters that a call of ``message`` names; None for any other node, and where they are not all told there."""
    if not isinstance(node, ast.Call):
        return None
    name = node.func.id if isinstance(node.func, ast.Name) else getattr(node.func, "attr", "")
    ids = [arg.value for arg in node.args if isinstance(arg, ast.Constant) and _ID.match(str(arg.value))]
    given = {keyword.arg for keyword in node.keywords if keyword.arg is not None}
    if name != "message" or len(ids) != 1 or len(given) < len(node.keywords):
        return None
    return str(ids[0]), given


@lru_cache
def _named() -> tuple[tuple[str, ...], tuple[str, ...]]:
    """Plain ids and patterns of ids in the product's own code."""
    found = _Ids()
    for file in SOURCE.rglob("*.py"):
        found.visit(ast.parse(file.read_text("utf-8")))
    return tuple(found.plain), tuple(found.patterns)


@lru_cache
def used() -> frozenset[str]:
    """Ids of the catalogue that the code names."""
    plain, patterns = _named()
    either = re.compile("|".join(f"{pattern}(\\.what|\\.ask)?" for pattern in [*map(re.escape, plain), *patterns]))
    return frozenset(id_ for id_ in templates(BASE) if either.fullmatch(id_))


class Entries(unittest.TestCase):
    """What is stated against what is used."""

    def test_every_entry_is_used(self) -> None:
        self.assertEqual(sorted(templates(BASE).keys() - used()), [])

    def test_every_id_in_the_code_has_an_entry(self) -> None:
        plain, patterns = _named()
        stated = set(templates(BASE))
        self.assertGreater(len(plain), 300)
        self.assertEqual([id_ for id_ in plain if not {id_, f"{id_}.what"} & stated], [])
        made = [pattern for pattern in patterns if not any(re.fullmatch(f"{pattern}(\\.what)?", id_) for id_ in stated)]
        self.assertEqual(made, [])

    def test_every_call_brings_the_parameters_of_its_template(self) -> None:
        """Of calls with a plain id and no mapping: one id with two meanings is caught here too."""
        seen = 0
        for file in SOURCE.rglob("*.py"):
            for node in ast.walk(ast.parse(file.read_text("utf-8"))):
                found = _called(node)
                if found is None or found[0] not in templates(BASE):
                    continue
                id_, given = found
                wanted = {name for name in arguments(templates(BASE)[id_]) if not name.startswith("t_")}
                seen += 1
                with self.subTest(file=file.name, id=id_):
                    self.assertEqual(given, wanted)
        self.assertGreater(seen, 800)

    def test_a_variant_and_a_language_state_no_id_and_no_parameter_that_english_has_not(self) -> None:
        english = templates(BASE)
        for language in languages():
            for id_, text in templates(language).items():
                with self.subTest(language, id=id_):
                    self.assertLessEqual(arguments(text), arguments(english[id_]) | _words(text))

    def test_every_file_is_in_the_order_of_its_ids(self) -> None:
        for language in languages():
            for file in files("vivid_lattice.core.messages").joinpath("data", language).iterdir():
                ids = list(json.loads(file.read_text("utf-8")))
                self.assertEqual(ids, sorted(ids), file.name)


def _words(text: str) -> frozenset[str]:
    return frozenset(name for name in arguments(text) if name.startswith("t_"))


def sample(text: str) -> dict[str, str | int]:
    """Parameters for a template: 2 where it counts, the first choice where it selects, else a value."""
    chosen = dict(re.findall(r"\{(\w+), select, (\w+) ", text))
    counted = set(re.findall(r"\{(\w+), plural,", text))
    names = [name for name in sorted(arguments(text)) if not name.startswith("t_")]
    return {name: 2 if name in counted else chosen.get(name, f"‹{name}›") for name in names}


class Rendering(unittest.TestCase):
    """Every message in every standard and language."""

    def test_every_message_is_rendered_in_every_standard(self) -> None:
        for standard in standard_ids():
            words = rule_set(standard).words
            for language in languages():
                with speaking(language):
                    for id_, text in templates(BASE).items():
                        shown = rendered(id_, sample(text), words)
                        with self.subTest(standard, language=language, id=id_):
                            self.assertTrue(shown.strip())
                            self.assertNotRegex(shown, r"[{}]|  |\s$|^\s|\bt_\w+")

    def test_a_name_stays_as_it_was_typed(self) -> None:
        words = rule_set("uk").words
        for name in HOSTILE:
            said = str(message(words, "core.check.capacity.spur_fused", spur=name, fuse="13", iz="20"))
            self.assertEqual(said, f"Fuse of the spur to {name}: 13 A (spur cable capacity 20 A)")

    def test_a_parameter_or_an_id_that_is_not_there_is_an_error(self) -> None:
        words = rule_set("uk").words
        for wrong in (
            message(words, "core.check.capacity.spur_fused", spur="Hut"),
            message(words, "core.check.capacity.no_such"),
            message(None, "core.check.main-switch.name"),
        ):
            with self.subTest(wrong.id), self.assertRaises(KeyError):
                str(wrong)

    def test_counts_and_lists(self) -> None:
        words = rule_set("na").words
        self.assertEqual(str(message(words, "core.check.division.lights_pass", n=1, min="2")), "Lighting split over 1 device (minimum 2)")  # fmt: skip
        lacks = Joined.of(["the length", "the length", "the cable"])
        self.assertEqual(str(message(words, "core.ending.missing", list=lacks)), "Needs the length; the cable.")

    def test_a_number_is_grouped_only_where_it_is_counted(self) -> None:
        self.assertIn("1200", str(message(None, "store.too_many_photos", n=1200)))

    def test_the_words_are_those_of_the_standard(self) -> None:
        for standard, said in (("uk", "consumer"), ("na", "ground"), ("za", "earth")):
            text = str(message(rule_set(standard).words, "core.check.terminals.earth_terminals", n="5", total="3"))
            self.assertIn("earth" if standard != "na" else "ground", text, said)

    def test_values_take_the_decimal_sign_of_the_language(self) -> None:
        drop = message(None, "core.ending.fail", fact="x", percent=Shown("3.5"))
        with speaking("de"):
            self.assertIn("3,5", str(drop)) if "de" in languages() else self.assertIn("3.5", str(drop))
        self.assertIn("3.5", str(drop))


class Data(unittest.TestCase):
    """A message as data: what it is compared by, and what a client gets."""

    def test_equal_messages_are_equal_whatever_renders_them(self) -> None:
        words = rule_set("uk").words
        self.assertEqual(message(words, "core.ending.fact", fact="a"), message(words, "core.ending.fact", fact="a"))
        self.assertEqual(len({message(None, "core.ending.fact", fact=name) for name in "aab"}), 2)

    def test_it_is_sent_with_its_parameters_told_apart(self) -> None:
        words = rule_set("uk").words
        inner = message(words, "core.label.rcd_plain", idn=Shown("30"))
        sent = message(words, "core.ending.missing", list=Joined.of([inner, "x"])).data()
        self.assertEqual(
            sent,
            {
                "id": "core.ending.missing",
                "standard": "uk",
                "params": {
                    "list": {
                        "items": [
                            {"id": "core.label.rcd_plain", "standard": "uk", "params": {"idn": {"shown": "30"}}},
                            "x",
                        ],
                        "separator": "; ",
                    }
                },
            },
        )
