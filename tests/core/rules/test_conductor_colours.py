"""The paint of conductors' colours."""

import unittest

from vivid_lattice.core.rules import rule_set, standard_ids
from vivid_lattice.core.rules.conductor_colours import PAINTS, paint_of


class Painted(unittest.TestCase):
    def test_every_colour_of_every_standard_is_painted_as_the_first_it_names(self) -> None:
        painted = 0
        for name in standard_ids():
            colours = rule_set(name).colours
            for colour in (*colours.now, *colours.old) if colours else ():
                first = min(
                    (word for word in PAINTS if word in colour), key=lambda word: (colour.index(word), -len(word))
                )
                with self.subTest(standard=name, colour=colour):
                    self.assertEqual(paint_of(colour), PAINTS[first])
                painted += 1
        self.assertGreater(painted, 40)

    def test_the_longer_word_counts(self) -> None:
        self.assertNotEqual(paint_of("dark blue"), paint_of("blue"))
        self.assertEqual(paint_of("green or bare"), PAINTS["green"])

    def test_no_word_no_paint(self) -> None:
        self.assertIsNone(paint_of(""))
        self.assertIsNone(paint_of("as on the drum"))
