"""`bin/felloe`: what it says when it cannot do what was asked."""

import socket
import subprocess
from pathlib import Path

from django.test import SimpleTestCase

ROOT = Path(__file__).resolve().parents[2]


class Command(SimpleTestCase):
    def run_felloe(self, *arguments: str) -> subprocess.CompletedProcess[str]:
        return subprocess.run([ROOT / "bin" / "felloe", *arguments], capture_output=True, text=True, timeout=60, check=False)

    def test_alone_it_lists_its_commands(self) -> None:
        found = self.run_felloe()
        self.assertEqual(found.returncode, 0)
        for command in ("demo", "test", "check", "plan", "bench", "screenshots"):
            self.assertIn(f"bin/felloe {command}", found.stdout)

    def test_an_unknown_command(self) -> None:
        found = self.run_felloe("pedal")
        self.assertEqual(found.returncode, 1)
        self.assertIn("there is no command “pedal”", found.stderr)

    def test_a_port_in_use_is_said_before_anything_is_started(self) -> None:
        with socket.socket() as taken:
            taken.bind(("127.0.0.1", 0))
            taken.listen()
            port = taken.getsockname()[1]
            found = self.run_felloe("demo", "--port", str(port))
        self.assertEqual(found.returncode, 1)
        self.assertIn(f"port {port} is in use", found.stderr)

    def test_options_that_cannot_be(self) -> None:
        self.assertIn("--port takes a number", self.run_felloe("demo", "--port", "many").stderr)
        self.assertIn("found “--frsh”", self.run_felloe("demo", "--frsh").stderr)
