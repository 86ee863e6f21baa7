"""A message is its English sentence, and can be any other language's."""

from __future__ import annotations

import copy
import json
import pickle
import unittest

from felloe.core.said import Said, joined, kept, say, say_count, sentence, spoken, told

WORDS = {
    "{side} is {off_mm:.1f} mm out": "{off_mm:.1f} mm daneben: {side}",
    "right": "rechts",
    "{count} spoke": "{count} Speiche",
    " and ": " und ",
}


def german(template: str, plural: str | None, count: float) -> str:
    if plural == "{count} spokes" and count != 1:
        return "{count} Speichen"
    return WORDS.get(template, template)


class Messages(unittest.TestCase):
    def test_is_its_english_text(self) -> None:
        said = say("{side} is {off_mm:.1f} mm out", side=say("right"), off_mm=0.25)
        self.assertEqual(said, "right is 0.2 mm out")
        self.assertEqual(json.dumps({"why": said}), '{"why": "right is 0.2 mm out"}')
        self.assertIsInstance(str(said), Said)

    def test_in_another_language_order_parts_and_decimal_mark_follow(self) -> None:
        said = say("{side} is {off_mm:.1f} mm out", side=say("right"), off_mm=0.25)
        self.assertEqual(spoken(said, german, ","), "0,2 mm daneben: rechts")

    def test_what_was_typed_is_never_translated(self) -> None:
        said = say("{side} is {off_mm:.1f} mm out", side="right", off_mm=1.0)
        self.assertEqual(spoken(said, german), "1.0 mm daneben: right")

    def test_counts_in_both_languages(self) -> None:
        for count, english, other in (
            (0, "0 spokes", "0 Speichen"),
            (1, "1 spoke", "1 Speiche"),
            (7, "7 spokes", "7 Speichen"),
        ):
            with self.subTest(count=count):
                said = say_count("{count} spoke", "{count} spokes", count=count)
                self.assertEqual(said, english)
                self.assertEqual(spoken(said, german), other)

    def test_rows_and_sentences_keep_their_parts(self) -> None:
        row = joined(" and ", [say("right"), "R5", say("right")])
        self.assertEqual(row, "right and R5 and right")
        self.assertEqual(spoken(sentence(row), german), "Rechts und R5 und rechts.")
        self.assertEqual(spoken(say("right") + ": " + say("right").capital(), german), "rechts: Rechts")
        self.assertEqual(joined(", ", []), "")

    def test_braces_in_what_was_typed_are_only_braces(self) -> None:
        self.assertEqual(say("{side} is {off_mm:.1f} mm out", side="{off_mm}{0}", off_mm=1.0), "{off_mm}{0} is 1.0 mm out")
        self.assertEqual(joined(" {} ", ["{a}", "b"]), "{a} {} b")
        self.assertEqual(say("a {literal} brace"), "a {literal} brace")

    def test_forces_are_all_in_kgf_or_none(self) -> None:
        """1 kgf = 9.80665 N exactly (ISO 80000-4): 980.665 N are 100 kgf; a torque in N·m is no force."""

        def english(template: str, plural: str | None, count: float) -> str:
            return template

        for said, wanted in (
            (say("{tension:.0f} N, above {cap_n:.0f}", tension=980.665, cap_n=1961.33), "100 kgf, above 200"),
            (say("{left_n:.0f} to {right_n:.0f} N", left_n=980.665, right_n=490.3325), "100 to 50 kgf"),
            (say("{change:+.1f} N at {spoke}", change=-98.0665, spoke="R5 N"), "-10.0 kgf at R5 N"),
            (say("{torque:g} N·m, {count} N", torque=12.0, count="9"), "12 N·m, 9 N"),
            (joined("; ", [say("{cap_n:g} N", cap_n=1000), say("{off_mm:.1f} mm", off_mm=1.5)]), "102 kgf; 1.5 mm"),
        ):
            with self.subTest(said):
                self.assertEqual(spoken(said, english, in_kgf=True), wanted)
                self.assertEqual(spoken(said, english), said)

    def test_where_nouns_are_tall_a_name_keeps_its_capital_within_a_sentence(self) -> None:
        said = say("{side} is {off_mm:.1f} mm out", side=say("Right").lower(), off_mm=0.2)
        self.assertEqual(said, "right is 0.2 mm out")
        for tall, wanted in ((False, "0.2 mm daneben: rechte Seite"), (True, "0.2 mm daneben: Rechte Seite")):
            words = {**WORDS, "Right": "Rechte Seite"}
            self.assertEqual(spoken(said, lambda t, p, c, words=words: words.get(t, t), nouns_tall=tall), wanted)

    def test_kept_and_told_again_copied_and_pickled_it_is_the_same(self) -> None:
        said = joined("; ", [sentence(say("{side} is {off_mm:.1f} mm out", side=say("right"), off_mm=0.25)), "typed"])
        counted = say_count("{count} spoke", "{count} spokes", count=3)
        stored = json.loads(json.dumps(kept({"why": [said, counted], "n": 3, "none": None, "yes": True})))
        back = told(stored)
        self.assertEqual(back, {"why": [said, counted], "n": 3, "none": None, "yes": True})
        for other in (back["why"][0], copy.deepcopy(said), pickle.loads(pickle.dumps(said))):
            self.assertEqual(spoken(other, german), spoken(said, german))

    def test_what_is_nothing_is_not_kept_and_what_was_kept_before_is_still_told(self) -> None:
        self.assertEqual(kept(say("right")), {"say": "right"})
        before = {"say": "{x:.2f} mm", "given": {"x": 0.123456789}, "plural": None, "shaped": []}
        self.assertEqual((told(before), told(kept(told(before)))), ("0.12 mm", "0.12 mm"))
        # A sentence shows no more than seven digits; a figure that is none of a sentence's is kept to its last.
        self.assertEqual(kept(told(before))["given"], {"x": 0.1234568})
        self.assertEqual(kept([1234567890.123]), [1234567890.123])
        # What only looks like a message is data.
        self.assertEqual(told({"say": "x", "other": 1}), {"say": "x", "other": 1})

    def test_nobody_changes_a_message_by_searching_in_it(self) -> None:
        with self.assertRaises(TypeError):
            say("not yet").replace("yet", "ever")
