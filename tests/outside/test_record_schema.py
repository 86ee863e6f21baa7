"""The published JSON Schema, the examples and the reader agree (JSON Schema draft 2020-12, by the jsonschema package)."""

import copy
import json
import unittest
from pathlib import Path

from jsonschema import Draft202012Validator

from felloe.core.record import record_from_dict, record_to_dict
from felloe.core.specification import wheel_to_dict
from tests.core.wheels import ALL

FORMATS = Path(__file__).resolve().parents[2] / "docs" / "formats"
SCHEMA = json.loads((FORMATS / "wheel-record.schema.json").read_text())
VALIDATOR = Draft202012Validator(SCHEMA)


class Schema(unittest.TestCase):
    def test_is_a_schema(self) -> None:
        Draft202012Validator.check_schema(SCHEMA)

    def test_examples_fit(self) -> None:
        found = sorted((FORMATS / "examples").glob("*.json"))
        self.assertGreaterEqual(len(found), 2)
        for path in found:
            with self.subTest(path.name):
                value = json.loads(path.read_text())
                self.assertEqual(list(VALIDATOR.iter_errors(value)), [])
                self.assertEqual(list(VALIDATOR.iter_errors(record_to_dict(record_from_dict(value)))), [])

    def test_every_kind_of_wheel_fits(self) -> None:
        for key, wheel in ALL.items():
            value = {"format": "felloe-wheel-record", "version": 1, "wheel": wheel_to_dict(wheel)}
            with self.subTest(key):
                self.assertEqual(list(VALIDATOR.iter_errors(value)), [])

    def test_what_the_schema_refuses_the_reader_refuses(self) -> None:
        good = json.loads((FORMATS / "examples" / "rear-32-full.json").read_text())

        def change(path, new):
            value = copy.deepcopy(good)
            node = value
            for key in path[:-1]:
                node = node[key]
            node[path[-1]] = new
            return value

        bad = [
            change(["wheel", "rim", "erd_mm"], 100),
            change(["wheel", "rim", "extra"], 1),
            change(["wheel", "left", "count"], 3),
            change(["reading_sets", 0, "stage"], "later"),
            change(["reading_sets", 0, "dish", 0, "method"], "guess"),
            change(["reading_sets", 0, "tension", 0, "spoke"], "Z1"),
            change(["reading_sets", 0, "tension"], {}),
        ]
        for value in bad:
            self.assertNotEqual(list(VALIDATOR.iter_errors(value)), [])
            with self.assertRaises(ValueError):
                record_from_dict(value)
