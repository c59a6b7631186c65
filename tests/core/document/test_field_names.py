"""Documents with the former names of fields are read as if they had the present ones."""

from __future__ import annotations

import unittest
from typing import Any, get_args

from pydantic import BaseModel

from vivid_lattice.core.document.device_family import DeviceFamily, packaged, read_families
from vivid_lattice.core.document.field_names import DOCUMENT, FAMILY, Renames, renamed
from vivid_lattice.core.document.job import Job
from vivid_lattice.core.errors import BadDocument
from vivid_lattice.core.job_file import read_data, to_text
from vivid_lattice.demo import DEMOS, demo_job


def former(data: Any, renames: Renames) -> Any:
    """The data as it was written before the fields had their present names."""
    if isinstance(data, list):
        return [former(item, renames) for item in data]
    if not isinstance(data, dict):
        return data
    names = {present: old for old, present in renames.fields.items()}
    values = {name: {present: old for old, present in pairs.items()} for name, pairs in renames.values.items()}
    return {
        names.get(name, name): former(value, renames.parts[name])
        if name in renames.parts
        else values.get(name, {}).get(value, value)
        if isinstance(value, str)
        else value
        for name, value in data.items()
    }


def models_in(annotation: Any) -> list[type[BaseModel]]:
    """The models that a field may contain."""
    if isinstance(annotation, type) and issubclass(annotation, BaseModel):
        return [annotation]
    return [model for part in get_args(annotation) for model in models_in(part)]


class Tables(unittest.TestCase):
    """The table of former names against the models of the document."""

    def held_against(self, renames: Renames, model: type[BaseModel]) -> None:
        fields = model.model_fields
        for old, present in renames.fields.items():
            self.assertIn(present, fields, model.__name__)
            self.assertNotIn(old, fields, model.__name__)
        for name, pairs in renames.values.items():
            allowed = set(get_args(fields[name].annotation))
            self.assertLessEqual(set(pairs.values()), allowed, (model.__name__, name))
            self.assertFalse(set(pairs) & allowed, (model.__name__, name))
        for name, part in renames.parts.items():
            [inner] = models_in(fields[name].annotation)
            self.held_against(part, inner)

    def test_each_present_name_is_a_field_and_no_former_one_is(self) -> None:
        self.held_against(DOCUMENT, Job)
        self.held_against(FAMILY, DeviceFamily)


class Documents(unittest.TestCase):
    """Every demo, written with the former names."""

    def test_every_demo_with_the_former_names_is_read_as_itself(self) -> None:
        changed = 0
        for name in DEMOS:
            job = demo_job(name)
            data = job.model_dump(mode="json")
            old = former(data, DOCUMENT)
            changed += old != data
            for version in (2, 3):
                with self.subTest(name, version=version):
                    self.assertEqual(read_data({**old, "format": f"vivid-lattice/{version}"}), job)
        self.assertEqual(changed, len(DEMOS))

    def test_what_is_written_has_the_present_names(self) -> None:
        text = to_text(read_data(former(demo_job("millrace").model_dump(mode="json"), DOCUMENT)))
        self.assertNotIn('"ways_total"', text)
        self.assertIn('"way_count"', text)

    def test_a_former_name_next_to_the_present_one_is_named_by_its_path(self) -> None:
        data = demo_job("millrace").model_dump(mode="json")
        data["boards"][0]["ways_total"] = 99
        with self.assertRaises(BadDocument) as caught:
            read_data(data)
        self.assertEqual([problem.path for problem in caught.exception.problems], ["boards[0].ways_total"])

    def test_what_is_no_object_is_left_for_the_reader_to_name(self) -> None:
        for data in ({"boards": 7}, {"boards": [7, None]}, {"boards": [{"build": "x"}]}):
            self.assertEqual(renamed(data, DOCUMENT), data)


class Families(unittest.TestCase):
    """A user's own device library with the former heads of columns."""

    def test_former_heads_of_columns_are_read(self) -> None:
        text = "id,title,kind,ratings_a,comb_height_mm,doubles\nmine,Mine,breaker,6 10,8,true\n"
        [family] = read_families(text, [each.id for each in packaged()])
        self.assertEqual((family.busbar_height_mm, family.two_conductors), (8.0, True))
