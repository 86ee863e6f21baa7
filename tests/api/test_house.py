"""The page, its headers, and the closing line of the runner."""

import ast
import io
import unittest
from pathlib import Path

from django.apps import apps
from django.db import connection
from django.test import SimpleTestCase, TestCase

import felloe
from tests.runner import CountingResult, count_line


class Page(TestCase):
    def test_every_address_gives_the_page_and_none_of_it_is_cached(self) -> None:
        for path in ("/", "/jobs/whatever", "/take-in"):
            response = self.client.get(path)
            self.assertEqual(response.status_code, 200)
            self.assertIn("no-cache", response["Cache-Control"])
            self.assertIn('id="root"', response.content.decode())

    def test_the_policy_allows_nothing_from_outside(self) -> None:
        policy = self.client.get("/")["Content-Security-Policy"]
        self.assertIn("default-src 'none'", policy)
        self.assertNotIn("unsafe", policy)
        self.assertNotIn("http", policy)

    def test_unknown_api_addresses_are_404(self) -> None:
        self.assertEqual(self.client.get("/api/v1/nothing").status_code, 404)


class Declared(TestCase):
    def test_what_models_forbid_and_find_by_is_in_the_database(self) -> None:
        """An index that a migration takes away may take a constraint of the same column with it."""
        with connection.cursor() as cursor:
            for model in apps.get_models():
                there = connection.introspection.get_constraints(cursor, model._meta.db_table)
                said = {one.name for one in [*model._meta.constraints, *model._meta.indexes]}
                self.assertLessEqual(said, there.keys(), model._meta.label)


class Seam(SimpleTestCase):
    #: Open formats, the facts of a form as they are stored, and both sides of a conflict: dictionaries by nature.
    BY_NATURE = {
        "export_record", "_set_out", "_entry", "sheet_of", "facts_of", "job_summary", "_over", "current_values", "as_entered",
    }  # fmt: skip

    def test_no_dictionary_crosses_from_a_service(self) -> None:
        root = Path(felloe.__file__).parent
        for path in sorted(root.glob("*/services/*.py")):
            for node in ast.walk(ast.parse(path.read_text())):
                if isinstance(node, ast.FunctionDef) and node.returns is not None and node.name not in self.BY_NATURE:
                    returned = ast.unparse(node.returns)
                    self.assertNotIn("dict[str, Any]", returned, f"{path.relative_to(root)}: {node.name}")

    def test_no_view_asks_the_database_itself(self) -> None:
        root = Path(felloe.__file__).parent
        for path in sorted(root.glob("*/api/*.py")):
            self.assertNotIn(
                ".objects", path.read_text(), f"{path.relative_to(root)} asks the database: ask the room's service"
            )


class Closing(SimpleTestCase):
    def count(self, case: type[unittest.TestCase]) -> tuple[str, bool]:
        result = CountingResult(unittest.runner._WritelnDecorator(io.StringIO()), False, 0)
        unittest.defaultTestLoader.loadTestsFromTestCase(case).run(result)
        return count_line(result)

    def test_counts_a_mix(self) -> None:
        class Mix(unittest.TestCase):
            def test_good(self) -> None: ...

            def test_bad(self) -> None:
                self.fail()

            def test_sub(self) -> None:
                for i in range(3):
                    with self.subTest(i):
                        self.assertEqual(i, 0)

            @unittest.skip("on purpose")
            def test_skipped(self) -> None: ...

        self.assertEqual(self.count(Mix), ("1 passed, 2 failed, 1 skipped", True))

    def test_nothing_run_is_no_success(self) -> None:
        class Empty(unittest.TestCase): ...

        self.assertEqual(self.count(Empty), ("0 passed, 0 failed, 0 skipped", False))
