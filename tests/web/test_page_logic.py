"""The page's own logic, as far as it needs no browser: each file of tests beside the code in web/src is a test here."""

from __future__ import annotations

import json
import subprocess
from pathlib import Path
from typing import Any, ClassVar

from django.test import SimpleTestCase

WEB = Path(__file__).resolve().parents[2] / "web"
FILES = sorted(str(path.relative_to(WEB)) for path in (WEB / "src").rglob("*.test.ts*"))


class PageLogic(SimpleTestCase):
    outcome: ClassVar[dict[str, dict[str, Any]]] = {}
    said = ""

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        command = [str(WEB / "node_modules" / ".bin" / "vitest"), "run", "--reporter=json"]
        done = subprocess.run(command, cwd=WEB, capture_output=True, text=True, timeout=300, check=False)
        cls.said = done.stderr
        report = json.loads(done.stdout[done.stdout.index("{") :])
        cls.outcome = {str(Path(f["name"]).relative_to(WEB)): f for f in report["testResults"]}

    def test_every_file_was_run_and_no_other(self) -> None:
        self.assertTrue(FILES)
        self.assertEqual(sorted(self.outcome), FILES, self.said)

    def check(self, file: str) -> None:
        outcome = self.outcome[file]
        self.assertTrue(outcome["assertionResults"], outcome["message"])
        for test in outcome["assertionResults"]:
            with self.subTest(test["fullName"]):
                self.assertEqual(test["status"], "passed", "\n".join(test["failureMessages"]))
        self.assertEqual(outcome["status"], "passed", outcome["message"])


def _one(file: str) -> Any:
    def test(self: PageLogic) -> None:
        self.check(file)

    return test


for _file in FILES:
    _name = _file.removeprefix("src/").rsplit(".test.", 1)[0]
    setattr(PageLogic, "test_" + "_".join(_name.replace("/", " ").split()), _one(_file))
