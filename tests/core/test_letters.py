"""What is written to customers: everything they must know, in every language that there is."""

from __future__ import annotations

import unittest

from felloe.core.decision.options import NAMES
from felloe.core.decision.prices import PRICED
from felloe.core.letters import LETTERS, PAGE, About, letter, question, status_words
from felloe.core.money.consent import TIER_PLAIN, plain_words
from felloe.core.said import Said
from felloe.core.stages import STAGES
from felloe.core.truing.tiers import SOUND

FULL = About(
    "The Room", "555 1", "Wen", 41, "Tourer", "True the wheel", "€ 42.00", plain_words(SOUND), "Thursday, 16:00",
    "It is cracked.", "http://x/w/1", "We wait for parts.", True, "€ 10.00",
)  # fmt: skip
BARE = About("The Room", "", "Wen", 41, "Tourer")


def sentences() -> set[str]:
    """Every template that a letter or the customer's page can hold."""
    found: set[str] = {text.template for text in [*PAGE.values(), *TIER_PLAIN.values(), *NAMES.values(), *PRICED.values()]}  # type: ignore[attr-defined]
    lines: list[str] = []
    for kind in LETTERS:
        for about in (FULL, BARE):
            made = letter(kind, about)
            lines += [made.subject, *made.lines, *question(about)]
    for stage in STAGES:
        for waiting in ("", "customer", "parts"):
            lines += [status_words(stage.key, waiting), status_words(stage.key, waiting, True)]
    lines += [status_words("done", ended_as="repaired"), status_words("done", ended_as="declined")]
    return found | {line.template for line in lines if isinstance(line, Said)}


class Letters(unittest.TestCase):
    def test_a_question_holds_everything_that_is_agreed_to(self) -> None:
        text = "\n".join(letter("ask", FULL).lines)
        for part in (
            "Tourer",
            "True the wheel",
            "€ 42.00",
            "straight",
            "Thursday, 16:00",
            "It is cracked.",
            "http://x/w/1",
            "555 1",
        ):
            self.assertIn(part, text)
        self.assertIn("do not ride", text)

    def test_what_is_not_known_is_not_written(self) -> None:
        for kind in LETTERS:
            for line in letter(kind, BARE).lines:
                self.assertNotIn("by .", line)
                self.assertNotIn("{", line)
        self.assertNotIn("To be paid", " ".join(letter("ready", BARE).lines))
        self.assertIn("To be paid: € 10.00.", letter("ready", FULL).lines)

    def test_a_wheel_that_is_ready_is_not_called_unsafe_or_late(self) -> None:
        self.assertEqual(status_words("parts", "parts", ready=True), status_words("done", ready=True))
        self.assertNotIn("ride", " ".join(letter("ready", FULL).lines))

    def test_how_it_stands_says_first_what_the_customer_can_do(self) -> None:
        self.assertIn("your word", status_words("true", "customer"))
        self.assertIn("parts", status_words("decide", "parts"))
        self.assertEqual(len({status_words(stage.key) for stage in STAGES}), 5)
