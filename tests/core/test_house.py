"""Rules of the house that the core keeps: documented, typed, free of the outside."""

import ast
import unittest
from pathlib import Path

CORE = Path(__file__).resolve().parents[2] / "felloe" / "core"
ALLOWED = {"felloe", "numpy", "scipy", "highspy"}
STANDARD = {
    "__future__", "collections",
    "copy", "csv", "dataclasses", "datetime", "enum", "functools", "io", "itertools", "json",
    "decimal", "hashlib", "heapq", "hmac", "math", "numbers", "re", "types", "typing", "zoneinfo",
}  # fmt: skip


def modules() -> list[tuple[Path, ast.Module]]:
    return [(path, ast.parse(path.read_text())) for path in sorted(CORE.rglob("*.py"))]


class House(unittest.TestCase):
    def test_every_module_says_what_it_is(self) -> None:
        for path, tree in modules():
            with self.subTest(path.name):
                self.assertTrue(ast.get_docstring(tree))

    def test_every_public_function_of_a_module_has_a_docstring(self) -> None:
        for path, tree in modules():
            for node in tree.body:
                if isinstance(node, ast.FunctionDef | ast.ClassDef) and not node.name.startswith("_"):
                    with self.subTest(f"{path.name}:{node.name}"):
                        self.assertTrue(ast.get_docstring(node))

    def test_only_the_standard_library_numpy_scipy_and_highs(self) -> None:
        for path, tree in modules():
            for node in ast.walk(tree):
                if isinstance(node, ast.Import):
                    found = {alias.name.split(".")[0] for alias in node.names}
                elif isinstance(node, ast.ImportFrom) and node.module:
                    found = {node.module.split(".")[0]}
                else:
                    continue
                with self.subTest(path.name):
                    self.assertLessEqual(found, ALLOWED | STANDARD)

    def test_no_printing_no_files_no_clock(self) -> None:
        for path, tree in modules():
            for node in ast.walk(tree):
                if isinstance(node, ast.Call) and isinstance(node.func, ast.Name):
                    with self.subTest(path.name):
                        self.assertNotIn(node.func.id, {"print", "open", "input"})
                if isinstance(node, ast.Call) and isinstance(node.func, ast.Attribute):
                    with self.subTest(path.name):
                        self.assertNotIn(node.func.attr, {"now", "today", "utcnow"})
