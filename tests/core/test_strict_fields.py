"""Strict reading of JSON: every value by name and type, nothing left over."""

import unittest

from felloe.core.errors import BadRecord
from felloe.core.strict_fields import Fields


class Strict(unittest.TestCase):
    def refused(self, field: str, read) -> None:
        with self.assertRaises(BadRecord) as caught:
            read()
        self.assertEqual(caught.exception.field, field)

    def test_numbers(self) -> None:
        self.assertEqual(Fields({"a": 1}).number("a"), 1.0)
        self.assertIsNone(Fields({}).number("a", None))
        self.assertEqual(Fields({"a": None}).number("a", 2.5), 2.5)
        for bad in ("1", True, float("nan"), float("inf"), [], {}):
            with self.subTest(bad):
                self.refused("x.a", lambda bad=bad: Fields({"a": bad}, "x").number("a"))

    def test_whole_numbers(self) -> None:
        self.assertEqual(Fields({"a": 3.0}).integer("a"), 3)
        self.refused("a", lambda: Fields({"a": 3.5}).integer("a"))

    def test_texts_and_choices(self) -> None:
        self.assertEqual(Fields({"a": "b"}).text("a"), "b")
        self.refused("a", lambda: Fields({"a": "b" * 501}).text("a"))
        self.refused("a", lambda: Fields({"a": 5}).text("a"))
        self.refused("a", lambda: Fields({"a": "z"}).choice("a", ("x", "y")))

    def test_lists(self) -> None:
        self.assertEqual(list(Fields({"a": [1, 2]}, "p").items("a", 5)), [("p.a.0", 1), ("p.a.1", 2)])
        self.assertEqual(list(Fields({}).items("a", 5)), [])
        self.refused("a", lambda: list(Fields({"a": "no list"}).items("a", 5)))
        self.refused("a", lambda: list(Fields({"a": [0] * 6}).items("a", 5)))

    def test_missing_and_left_over(self) -> None:
        self.refused("a", lambda: Fields({}).number("a"))
        self.refused("", lambda: Fields([1]))
        fields = Fields({"a": 1, "b": 2})
        fields.number("a")
        self.refused("b", fields.done)
